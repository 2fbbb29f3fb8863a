//! JSON: objects and arrays on one line where their author had them so and they fit.

mod laws;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::IndentSpec;
use crate::spec::ToolSpec;
use crate::spec::layout::{Fill, Hug, Items, LAYOUT_OF_MOST, LayoutSpec, LIST, List, Pad, Rule, WORDS};
use crate::spec::layout::Side::{By, Open, Tight};
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "json",
    layout: Some(&LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec { laws: laws::LAWS, ..EDITS_OF_MOST },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::BreakKeep, "some")],
    settings: &[
        Key::Charset,
        Key::EndOfLine,
        Key::IndentSize,
        Key::IndentStyle,
        Key::InsertFinalNewline,
        Key::MaxLineLength,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignTabs,
        Key::BreakKeep,
        Key::SpaceBrace,
        Key::SpaceBracket,
        Key::SpacePair,
        Key::WrapLiteral,
    ],
};

const OBJECT: List = List { padded: Pad::By(Key::SpaceBrace), close_apart: true, keep: true, ..LIST };
const ARRAY: List = List { padded: Pad::By(Key::SpaceBracket), fill: Fill::Simple, ..OBJECT };

const LAYOUT: LayoutSpec = LayoutSpec {
    rules: &[
        ("document", Rule::Items(Items { apart: &[], imports_apart: false })),
        ("object", Rule::List(List { hug: false, ..OBJECT })),
        ("array", Rule::List(List { hug: false, ..ARRAY })),
        ("pair", Rule::Words(WORDS)),
    ],
    spacing: &[("", ",", Tight, Open), ("", ":", By(Key::SpacePair), Open)],
    hugs: &[("object", Hug::Opens), ("array", Hug::Opens)],
    habits: &[Key::SpaceBrace],
    ..LAYOUT_OF_MOST
};

const LOOKS: LookSpec = LookSpec {
    words: &[("pair", "member")],
    region_markers: RegionMarkers::Nothing,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, ..usual::INDENT };
