//! Go.

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "go",
    title: "Go",
    aliases: &["golang"],
    extensions: &["go"],
    roles: &[ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined:
        &["++", "--", "&&", "||", "==", "!=", "<=", ">=", "<-", ":=", "+=", "-=", "*=", "/=", "&=", "|=", "^=", "%="],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_go::LANGUAGE.into()),
    ..READING_OF_MOST
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["source_file"]),
    (Role::Package, &["package_clause"]),
    (Role::Import, &["import_declaration"]),
    (Role::Type, &["type_spec", "type_alias"]),
    (Role::Callable, &["function_declaration", "method_declaration"]),
    (Role::Member, &["const_spec", "var_spec", "field_declaration", "method_elem"]),
    (
        Role::Statement,
        &[
            "const_declaration", "var_declaration", "type_declaration", "expression_statement",
            "assignment_statement", "short_var_declaration", "inc_statement", "dec_statement", "return_statement",
            "go_statement", "defer_statement", "break_statement", "continue_statement", "goto_statement",
            "fallthrough_statement", "send_statement", "empty_statement", "labeled_statement",
        ],
    ),
    (
        Role::Branch,
        &[
            "if_statement", "for_statement", "expression_switch_statement", "type_switch_statement",
            "select_statement",
        ],
    ),
    (Role::Arm, &["expression_case", "default_case", "type_case", "communication_case"]),
    (Role::Block, &["block"]),
    (Role::Body, &["field_declaration_list", "interface_type", "import_spec_list", "var_spec_list"]),
    (Role::List, &["parameter_list", "type_parameter_list", "type_arguments"]),
    (Role::Arguments, &["argument_list"]),
    (Role::Collection, &["literal_value"]),
    (Role::Call, &["call_expression", "type_conversion_expression"]),
    (Role::Link, &["selector_expression", "index_expression", "slice_expression", "type_assertion_expression"]),
    (Role::Operator, &["binary_expression", "unary_expression"]),
    (Role::Lambda, &["func_literal"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["int_literal", "float_literal", "imaginary_literal", "true", "false", "nil", "iota"]),
    (Role::String, &["interpreted_string_literal", "raw_string_literal", "rune_literal"]),
    (Role::Comment, &["comment"]),
    (Role::Name, &["identifier", "field_identifier", "type_identifier", "package_identifier", "label_name"]),
];
