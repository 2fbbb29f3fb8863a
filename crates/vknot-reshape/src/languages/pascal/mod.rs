//! Object Pascal.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "pascal",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    words: &[("routine_header", "routine"), ("qualified_name", "name")],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Braced,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    habit: 2,
    holds: &[
        (Hold::Parts, &["part"]),
        (Hold::Section, &["declarations"]),
        (Hold::Margin, &["directive"]),
        (Hold::Inactive, &["inactive"]),
    ],
    middle: &["else", "except", "finally", "until", "then", "do", "of"],
    tails: &[],
    ends: &[";", "begin", "try", "repeat", "of"],
    opening: &["begin", "try", "repeat", "case", "record", "asm"],
    closing: &["end", "until"],
    conditions: &["if", "while", "until"],
    operators: &["and", "or", "xor", "div", "mod", "shl", "shr", "in", "is", "as"],
    ..INDENT
};
