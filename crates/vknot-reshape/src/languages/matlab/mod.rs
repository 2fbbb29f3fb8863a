//! MATLAB.

use crate::indent::rules::{INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "matlab",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    sections: true,
    ..crate::looks::LOOKS
};

pub(crate) const INDENTED: IndentSpec = IndentSpec {
    middle: &["else", "elseif", "catch", "unwind_protect_cleanup"],
    ..INDENT
};
