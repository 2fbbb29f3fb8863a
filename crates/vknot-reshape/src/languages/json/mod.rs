//! JSON: objects and arrays on one line where their author had them so and they fit.

use crate::indent::rules::{INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::layout::rules::{Fill, Hug, Items, LayoutSpec, LIST, List, Rule, WORDS};
use crate::layout::rules::Side::{Open, Tight};
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "json",
    layout: Some(&LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const OBJECT: List = List { padded: true, block: true, close_apart: true, keep: true, ..LIST };
const ARRAY: List = List { padded: false, fill: Fill::Simple, ..OBJECT };

const LAYOUT: LayoutSpec = LayoutSpec {
    rules: &[
        ("document", Rule::Items(Items { apart: &[], imports_apart: false })),
        ("object", Rule::List(List { hug: false, ..OBJECT })),
        ("array", Rule::List(List { hug: false, ..ARRAY })),
        ("pair", Rule::Words(WORDS)),
    ],
    within: &[],
    spacing: &[("", ",", Tight, Open), ("", ":", Tight, Open)],
    hugs: &[("object", Hug::Opens), ("array", Hug::Opens)],
    chain: &[],
    precedence: &[],
    names_hold_first_call: false,
    brace_after_wrap: false,
    no_comma: &[],
};

const LOOKS: LookSpec = LookSpec {
    words: &[("pair", "member")],
    region_markers: RegionMarkers::Nothing,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, ..INDENT };
