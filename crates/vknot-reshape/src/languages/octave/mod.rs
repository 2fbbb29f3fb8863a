//! Octave: looks as in its kin.

use crate::languages::{matlab, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "octave", layout: None, looks: &matlab::LOOKS, imports: None };
