//! Octave: looks as in its kin.

use crate::indent::rules::IndentSpec;
use crate::languages::{matlab, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "octave",
    layout: None,
    looks: &matlab::LOOKS,
    indent: &INDENTED,
    imports: None,
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, ..matlab::INDENTED };
