//! Python.

use crate::indent::rules::{INDENT, IndentSpec, LinesBy};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "python",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    details: &[],
    words: &[("module", "file"), ("class_definition", "class"), ("function_definition", "function")],
    wrappers: &["decorated_definition"],
    conditionals: &["if_statement", "elif_clause", "match_statement"],
    loops: &["for_statement", "while_statement"],
    sections: true,
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Levels, ..INDENT };
