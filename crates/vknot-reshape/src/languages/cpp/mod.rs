//! C++: looks as in its kin.

use crate::languages::{c, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "cpp",
    layout: None,
    looks: &c::LOOKS,
    indent: &c::INDENTED,
    imports: None,
};
