//! TypeScript.

pub(crate) mod repair;
pub(crate) mod templates;

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST, TooWide};
use crate::languages::javascript;
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "typescript",
    title: "TypeScript",
    extensions: &["ts", "mts", "cts"],
    interpreters: &["ts-node", "deno", "bun"],
    roles: &[javascript::ROLES, ROLES],
    names: javascript::NAMES,
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined: javascript::JOINED,
    doc_comments: &["/**"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(|_, text| !text.trim_start().starts_with('<')),
    reader: Reader::Grammar(|| tree_sitter_typescript::LANGUAGE_TYPESCRIPT.into()),
    relief: Some(templates::RELIEF),
    repair: Some(repair::REPAIR),
    too_wide: Some(TOO_WIDE),
    ..READING_OF_MOST
};

/// `a + f<T>(b)` is a call of `a + f` for the grammar.
pub(crate) const TOO_WIDE: TooWide = TooWide {
    kind: "call_expression",
    with: "type_arguments",
    first: &["binary_expression", "unary_expression", "await_expression"],
    links: &["call_expression", "member_expression", "subscript_expression", "non_null_expression"],
};

/// Roles of what only the typed kin have.
pub(crate) const ROLES: &[RoleRow] = &[
    (
        Role::Type,
        &[
            "abstract_class_declaration", "interface_declaration", "enum_declaration", "module", "internal_module",
        ],
    ),
    (
        Role::Callable,
        &[
            "abstract_method_signature", "function_signature", "method_signature", "call_signature",
            "construct_signature",
        ],
    ),
    (Role::Member, &["public_field_definition", "property_signature", "enum_assignment", "type_alias_declaration"]),
    (Role::Import, &["import_alias"]),
    (Role::Body, &["interface_body", "enum_body", "object_type"]),
    (Role::Statement, &["ambient_declaration"]),
    (Role::List, &["type_parameters", "type_arguments", "tuple_type"]),
    (
        Role::Operator,
        &[
            "as_expression", "satisfies_expression", "non_null_expression", "union_type", "intersection_type",
            "conditional_type",
        ],
    ),
    (Role::String, &["template_literal_type"]),
    (Role::TypeUse, &["generic_type", "type_annotation"]),
    (Role::Name, &["type_identifier", "nested_identifier", "nested_type_identifier"]),
];
