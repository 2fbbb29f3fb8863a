//! Notebooks.

use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "notebook", layout: None, looks: &LOOKS, imports: None };

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    region_markers: RegionMarkers::Nothing,
    ..crate::looks::LOOKS
};
