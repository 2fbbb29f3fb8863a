//! Java.

mod imports;
mod layout;

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "java",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
};

const LOOKS: LookSpec = LookSpec {
    words: &[
        ("enum_constant", "constant"),
        ("method_invocation", "call"),
        ("object_creation_expression", "creation"),
        ("switch_expression", "switch"),
    ],
    conditionals: &["if_statement", "switch_expression"],
    loops: &["for_statement", "enhanced_for_statement", "while_statement", "do_statement"],
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Labelled, &["labeled_statement"]),
        (Hold::Head, &["ternary_expression"]),
        (Hold::Flat, &["enum_body_declarations"]),
    ],
    ..INDENT
};
