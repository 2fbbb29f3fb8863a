//! CSS.

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec { name: "css", layout: None, looks: &LOOKS, imports: None };

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    words: &[("at_rule", "rule")],
    ..crate::looks::LOOKS
};
