//! Less: looks as in its kin.

use crate::languages::{css, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "less",
    layout: None,
    looks: &css::LOOKS,
    indent: &css::INDENTED,
    imports: None,
};
