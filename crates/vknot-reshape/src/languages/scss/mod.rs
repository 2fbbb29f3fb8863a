//! SCSS: looks as in its kin.

use crate::languages::{css, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "scss",
    layout: None,
    looks: &css::LOOKS,
    indent: &css::INDENTED,
    imports: None,
};
