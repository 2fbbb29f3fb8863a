//! Notebooks.

use crate::indent::rules::{INDENT, IndentSpec, LinesBy};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "notebook",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    region_markers: RegionMarkers::Nothing,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..INDENT };
