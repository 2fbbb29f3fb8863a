//! Racket.

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec { name: "racket", layout: None, looks: &LOOKS, imports: None };

pub(super) const LOOKS: LookSpec = LookSpec {
    hidden: &["skipped"],
    conditionals: &["conditional"],
    loops: &["loop"],
    sections: true,
    ..crate::looks::LOOKS
};
