//! Markdown.

use crate::indent::rules::{INDENT, IndentSpec, LinesBy};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "markdown",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    words: &[("list_item", "list item"), ("indented_code", "code")],
    conditionals: &[],
    loops: &[],
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..INDENT };
