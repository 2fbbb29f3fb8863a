//! DAX.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "dax",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    region_markers: RegionMarkers::Comment,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[(Hold::Flat, &["measure"]), (Hold::Section, &["variable", "result"])],
    ..INDENT
};
