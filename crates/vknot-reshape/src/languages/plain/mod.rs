//! Text of no known language: looks go by brackets and indentation.

use crate::indent::rules::{INDENT, IndentSpec, LinesBy};
use crate::languages::ToolSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "plain",
    layout: None,
    looks: &crate::looks::LOOKS,
    indent: &INDENTED,
    imports: None,
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..INDENT };
