//! Go.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "go",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    words: &[
        ("type_spec", "type"),
        ("const_spec", "constant"),
        ("var_spec", "variable"),
        ("field_declaration", "field"),
        ("method_elem", "method"),
        ("call_expression", "call"),
        ("literal_value", "literal"),
    ],
    conditionals: &["if_statement", "expression_switch_statement", "type_switch_statement", "select_statement"],
    loops: &["for_statement"],
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    tabs: true,
    holds: &[(Hold::Labelled, &["labeled_statement"])],
    ..INDENT
};
