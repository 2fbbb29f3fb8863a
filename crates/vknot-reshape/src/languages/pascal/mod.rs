//! Object Pascal.

use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "pascal", layout: None, looks: &LOOKS, imports: None };

const LOOKS: LookSpec = LookSpec {
    words: &[("routine_header", "routine"), ("qualified_name", "name")],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Braced,
    ..crate::looks::LOOKS
};
