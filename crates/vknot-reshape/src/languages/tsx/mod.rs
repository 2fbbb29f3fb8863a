//! TypeScript with elements: looks as in its untyped kin.

use crate::languages::javascript;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "tsx",
    layout: Some(&javascript::layout::LAYOUT),
    looks: &javascript::LOOKS,
    indent: &javascript::INDENTED,
    imports: Some(&javascript::imports::IMPORTS),
    edits: EditSpec {
        strings: Some("+"),
        negation: "!",
        both: "&&",
        conditionals: &["if_statement"],
        declarations: &["lexical_declaration", "variable_declaration"],
        laws: javascript::laws::LAWS,
        scopes: Some(&javascript::scopes::SCOPES),
        ..EDITS_OF_MOST
    },
    style: &javascript::STYLE,
};
