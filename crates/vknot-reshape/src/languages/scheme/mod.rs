//! Scheme: looks as in its kin.

use crate::languages::{racket, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "scheme", layout: None, looks: &racket::LOOKS, imports: None };
