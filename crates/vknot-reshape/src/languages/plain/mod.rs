//! Text of no known language: looks go by brackets and indentation.

use crate::languages::ToolSpec;

pub(super) const SPEC: ToolSpec = ToolSpec { name: "plain", layout: None, looks: &crate::looks::LOOKS, imports: None };
