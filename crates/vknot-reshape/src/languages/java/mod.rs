//! Java.

mod imports;
mod layout;

use crate::languages::ToolSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "java",
    layout: &layout::LAYOUT,
    looks: &crate::looks::LOOKS,
    imports: Some(&imports::IMPORTS),
};
