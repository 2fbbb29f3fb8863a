//! CSS.

use crate::indent::rules::{INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "css",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    words: &[("at_rule", "rule")],
    ..crate::looks::LOOKS
};

pub(crate) const INDENTED: IndentSpec = IndentSpec { habit: 2, ..INDENT };
