//! Java.

mod imports;
mod layout;

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "java",
    layout: &layout::LAYOUT,
    looks: &LOOKS,
    imports: Some(&imports::IMPORTS),
};

const LOOKS: LookSpec = LookSpec {
    words: &[
        ("enum_constant", "constant"),
        ("method_invocation", "call"),
        ("object_creation_expression", "creation"),
        ("switch_expression", "switch"),
    ],
    ..crate::looks::LOOKS
};
