//! C.

use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "c", layout: None, looks: &LOOKS, imports: None };

pub(super) const LOOKS: LookSpec = LookSpec {
    words: &[
        ("declaration", "variable"),
        ("function_declaration", "function"),
        ("qualified_name", "name"),
        ("unit", "file"),
    ],
    outlined: &["macro"],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Pragma,
    ..crate::looks::LOOKS
};
