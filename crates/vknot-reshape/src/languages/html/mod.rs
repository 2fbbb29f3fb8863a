//! HTML.

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec { name: "html", layout: None, looks: &LOOKS, imports: None };

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    ..crate::looks::LOOKS
};
