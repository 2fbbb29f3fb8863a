//! TypeScript with elements: looks as in its untyped kin.

use crate::languages::{javascript, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "tsx",
    layout: None,
    looks: &javascript::LOOKS,
    indent: &javascript::INDENTED,
    imports: None,
};
