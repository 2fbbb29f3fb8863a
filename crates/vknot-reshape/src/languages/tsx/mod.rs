//! TypeScript with elements: looks as in its untyped kin.

use crate::languages::javascript;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "tsx",
    layout: Some(&javascript::layout::LAYOUT),
    looks: &javascript::LOOKS,
    indent: &javascript::INDENTED,
    imports: Some(&javascript::imports::IMPORTS),
    edits: javascript::EDITS,
    style: &javascript::STYLE,
};
