//! DAX.

use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "dax", layout: None, looks: &LOOKS, imports: None };

const LOOKS: LookSpec = LookSpec {
    region_markers: RegionMarkers::Comment,
    ..crate::looks::LOOKS
};
