//! GDScript.

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::overload::{Overload, OVERLOAD};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "gdscript",
    title: "GDScript",
    aliases: &["gd"],
    extensions: &["gd"],
    roles: &[ROLES],
    names: &[("enumerator", &["left"])],
    line_comment: "#",
    joined: &["==", "!=", "<=", ">=", "&&", "||", "**", "->", ":=", "+=", "-=", "*=", "/=", "&=", "|=", "^=", "%="],
    doc_comments: &["##"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_gdscript::LANGUAGE.into()),
    overload: Overload { joined: true, ..OVERLOAD },
    ..READING_OF_MOST
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["source"]),
    (Role::Package, &["class_name_statement", "extends_statement"]),
    (Role::Type, &["class_definition", "enum_definition"]),
    (Role::Callable, &["function_definition", "constructor_definition", "setter", "getter", "set_body", "get_body"]),
    (
        Role::Member,
        &[
            "variable_statement", "const_statement", "signal_statement", "onready_variable_statement",
            "export_variable_statement", "enumerator",
        ],
    ),
    (
        Role::Statement,
        &[
            "expression_statement", "break_statement", "breakpoint_statement", "continue_statement",
            "pass_statement", "return_statement",
        ],
    ),
    (Role::Branch, &["if_statement", "for_statement", "while_statement", "match_statement"]),
    (Role::Arm, &["elif_clause", "else_clause", "pattern_section"]),
    (Role::Block, &["body"]),
    (Role::Body, &["class_body", "match_body", "enumerator_list", "setget"]),
    (Role::List, &["parameters"]),
    (Role::Arguments, &["arguments", "subscript_arguments"]),
    (Role::Collection, &["array", "dictionary"]),
    (Role::Call, &["call", "attribute_call", "base_call"]),
    (Role::Link, &["attribute", "subscript", "attribute_subscript"]),
    (Role::Operator, &["binary_operator", "unary_operator", "conditional_expression", "await_expression"]),
    (Role::Assignment, &["assignment", "augmented_assignment"]),
    (Role::Lambda, &["lambda"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["integer", "float", "true", "false", "null"]),
    (Role::String, &["string", "string_name", "node_path"]),
    (Role::Comment, &["comment", "region_start", "region_end"]),
    (Role::Annotation, &["annotation"]),
    (Role::Name, &["identifier", "name"]),
];
