//! GDScript.

use crate::indent::rules::{INDENT, IndentSpec, LinesBy};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "gdscript",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    words: &[("source", "file"), ("pattern_section", "case"), ("const_statement", "constant")],
    conditionals: &["if_statement", "elif_clause", "match_statement"],
    loops: &["for_statement", "while_statement"],
    region_markers: RegionMarkers::Directive,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { tabs: true, lines: LinesBy::Levels, ..INDENT };
