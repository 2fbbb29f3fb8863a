//! Python.

mod remarks;

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::reader::{Reader, Reading, Repair, READING as READING_OF_MOST, REPAIR};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "python",
    title: "Python",
    aliases: &["py", "python3"],
    extensions: &["py", "pyi", "pyw"],
    interpreters: &["python", "pypy"],
    roles: &[ROLES],
    names: &[("assignment", &["left"])],
    line_comment: "#",
    joined: &["==", "!=", "<=", ">=", "//", "**", "->", ":=", "+=", "-=", "*=", "/=", "&=", "|=", "^=", "%=", "@="],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_python::LANGUAGE.into()),
    relief: Some(Repair { mask: remarks::mask, kind: "comment", ..REPAIR }),
    ..READING_OF_MOST
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["module"]),
    (Role::Import, &["import_statement", "import_from_statement", "future_import_statement"]),
    (Role::Type, &["class_definition"]),
    (Role::Callable, &["function_definition"]),
    (
        Role::Statement,
        &[
            "expression_statement", "assert_statement", "break_statement", "continue_statement", "delete_statement",
            "exec_statement", "global_statement", "nonlocal_statement", "pass_statement", "print_statement",
            "raise_statement", "return_statement", "type_alias_statement", "decorated_definition",
        ],
    ),
    (
        Role::Branch,
        &[
            "if_statement", "for_statement", "while_statement", "try_statement", "with_statement", "match_statement",
        ],
    ),
    (Role::Arm, &["elif_clause", "else_clause", "except_clause", "finally_clause", "case_clause"]),
    (Role::Block, &["block"]),
    (Role::List, &["parameters", "lambda_parameters", "type_parameter"]),
    (Role::Arguments, &["argument_list"]),
    (
        Role::Collection,
        &[
            "list", "dictionary", "set", "tuple", "list_comprehension", "dictionary_comprehension",
            "set_comprehension", "generator_expression",
        ],
    ),
    (Role::Call, &["call"]),
    (Role::Link, &["attribute", "subscript"]),
    (
        Role::Operator,
        &[
            "binary_operator", "boolean_operator", "comparison_operator", "not_operator", "unary_operator",
            "conditional_expression", "await",
        ],
    ),
    (Role::Assignment, &["assignment", "augmented_assignment", "named_expression"]),
    (Role::Lambda, &["lambda"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["integer", "float", "true", "false", "none", "ellipsis"]),
    (Role::String, &["string"]),
    (Role::Comment, &["comment"]),
    (Role::Annotation, &["decorator"]),
    (Role::Name, &["identifier", "dotted_name"]),
];
