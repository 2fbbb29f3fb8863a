//! Rust.

mod imports;
mod layout;
mod use_tree;

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "rust",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
};

const LOOKS: LookSpec = LookSpec {
    details: &[("impl_item", &["trait", "type"])],
    words: &[("enum_variant", "variant"), ("call_expression", "call"), ("struct_expression", "struct value")],
    outlined: &["macro_definition"],
    conditionals: &["if_expression", "match_expression"],
    loops: &["for_expression", "while_expression", "loop_expression"],
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    links_follow_blocks: true,
    holds: &[
        (Hold::Branch, &["else_clause"]),
        (Hold::Section, &["where_clause"]),
        (Hold::Through, &["macro_invocation"]),
        (Hold::Body, &["token_tree"]),
    ],
    ..INDENT
};
