//! Markdown.

use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec { name: "markdown", layout: None, looks: &LOOKS, imports: None };

const LOOKS: LookSpec = LookSpec {
    words: &[("list_item", "list item"), ("indented_code", "code")],
    conditionals: &[],
    loops: &[],
    ..crate::looks::LOOKS
};
