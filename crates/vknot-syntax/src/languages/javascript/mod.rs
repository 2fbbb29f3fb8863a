//! JavaScript, with elements in it. Its table of roles is shared by its typed kin.

pub(crate) mod clauses;

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "javascript",
    title: "JavaScript",
    aliases: &["js", "node"],
    extensions: &["js", "mjs", "cjs", "jsx"],
    interpreters: &["node", "nodejs"],
    roles: &[ROLES, ELEMENTS, OWN],
    names: &[("assignment_expression", &["left"]), ("pair", &["key"]), ("field_definition", &["property"])],
    prose: &["jsx_text"],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined: JOINED,
    doc_comments: &["/**"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_javascript::LANGUAGE.into()),
    repair: Some(clauses::REPAIR),
    ..READING_OF_MOST
};

/// Where kinds that all of the family have keep their names.
pub(crate) const NAMES: &[(&str, &[&str])] = &[("assignment_expression", &["left"]), ("pair", &["key"])];

/// Operators that the whole family has.
pub(crate) const JOINED: &[&str] = &[
    "++", "--", "&&", "||", "??", "==", "!=", "<=", ">=", "=>", "?.", "**", "+=", "-=", "*=", "/=", "&=", "|=", "^=",
    "%=", "..", "<<", "//", "/*", "@@",
];

const OWN: &[RoleRow] = &[(Role::Member, &["field_definition"])];

/// Roles of elements in code.
pub(crate) const ELEMENTS: &[RoleRow] = &[
    (Role::Element, &["jsx_element", "jsx_self_closing_element"]),
    (Role::Attribute, &["jsx_attribute"]),
    (Role::Open, &["jsx_opening_element"]),
    (Role::Close, &["jsx_closing_element"]),
];

/// Roles that all of the family have.
pub(crate) const ROLES: &[RoleRow] = &[
    (Role::File, &["program"]),
    (Role::Import, &["import_statement"]),
    (Role::Type, &["class_declaration", "class"]),
    (
        Role::Callable,
        &[
            "function_declaration", "generator_function_declaration", "method_definition", "class_static_block",
        ],
    ),
    (Role::Member, &["variable_declarator"]),
    (
        Role::Statement,
        &[
            "expression_statement", "lexical_declaration", "variable_declaration", "return_statement",
            "throw_statement", "break_statement", "continue_statement", "debugger_statement", "empty_statement",
            "export_statement", "labeled_statement",
        ],
    ),
    (
        Role::Branch,
        &[
            "if_statement", "for_statement", "for_in_statement", "while_statement", "do_statement",
            "switch_statement", "try_statement", "with_statement",
        ],
    ),
    (Role::Arm, &["switch_case", "switch_default", "catch_clause", "finally_clause"]),
    (Role::Block, &["statement_block", "switch_body"]),
    (Role::Body, &["class_body"]),
    (Role::List, &["formal_parameters", "named_imports", "export_clause", "object_pattern", "array_pattern"]),
    (Role::Arguments, &["arguments"]),
    (Role::Collection, &["array", "object"]),
    (Role::Call, &["call_expression", "new_expression"]),
    (Role::Link, &["member_expression", "subscript_expression"]),
    (
        Role::Operator,
        &[
            "binary_expression", "unary_expression", "update_expression", "ternary_expression", "await_expression",
            "sequence_expression",
        ],
    ),
    (Role::Assignment, &["assignment_expression", "augmented_assignment_expression"]),
    (Role::Lambda, &["arrow_function", "function_expression", "generator_function"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["number", "true", "false", "null", "undefined", "regex"]),
    (Role::String, &["string", "template_string"]),
    (Role::Comment, &["comment", "html_comment", "hash_bang_line"]),
    (Role::Annotation, &["decorator"]),
    (
        Role::Name,
        &[
            "identifier", "property_identifier", "private_property_identifier", "shorthand_property_identifier",
            "statement_identifier",
        ],
    ),
];
