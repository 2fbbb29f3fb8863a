//! Rust.

mod imports;
mod layout;
mod use_tree;

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "rust",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
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
