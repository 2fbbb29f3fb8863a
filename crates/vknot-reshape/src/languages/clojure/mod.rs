//! Clojure: looks as in its kin.

use crate::languages::{racket, ToolSpec};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "clojure", layout: None, looks: &racket::LOOKS, imports: None };
