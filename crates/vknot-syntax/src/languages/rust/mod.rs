//! Rust.

mod relief;

use crate::lexis::Lexis;
use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::overload::{Overload, OVERLOAD};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "rust",
    title: "Rust",
    extensions: &["rs"],
    roles: &[ROLES],
    names: &[("impl_item", &["type"]), ("let_declaration", &["pattern"])],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined: &[
        "..", ".=", "=>", "->", "<-", "::", "&&", "||", "==", "!=", "<=", "+=", "-=", "*=", "/=", "%=", "^=", "&=",
        "|=",
    ],
    doc_comments: &["///", "/**"],
    holder_comments: &["#!", "//!", "/*!"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_rust::LANGUAGE.into()),
    lexis: Some(&LEXIS),
    relief: Some(relief::RELIEF),
    unshown: &["token_repetition", "token_repetition_pattern"],
    overload: Overload { unclosed: Some(("r#\"", "\"#")), ..OVERLOAD },
    ..READING_OF_MOST
};

const LEXIS: Lexis = Lexis {
    line_comment: "//",
    block_comment: ("/*", "*/"),
    nested: true,
    strings: &["\""],
    lines_in_strings: true,
    raw: &["r", "br", "cr"],
    lone_quotes: true,
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["source_file"]),
    (Role::Import, &["use_declaration", "extern_crate_declaration"]),
    (
        Role::Type,
        &[
            "mod_item", "foreign_mod_item", "struct_item", "enum_item", "union_item", "trait_item", "impl_item",
        ],
    ),
    (Role::Callable, &["function_item", "function_signature_item"]),
    (
        Role::Member,
        &[
            "type_item", "associated_type", "const_item", "static_item", "field_declaration", "enum_variant",
        ],
    ),
    (
        Role::Macro,
        &[
            "macro_definition", "macro_invocation", "token_tree", "token_repetition", "token_tree_pattern",
            "token_repetition_pattern",
        ],
    ),
    (Role::Statement, &["expression_statement", "empty_statement", "let_declaration"]),
    (Role::Branch, &["if_expression", "match_expression", "while_expression", "loop_expression", "for_expression"]),
    (Role::Arm, &["match_arm"]),
    (Role::Part, &["else_clause"]),
    (Role::Label, &["label"]),
    (Role::Block, &["block", "match_block"]),
    (Role::Body, &["declaration_list", "field_declaration_list", "enum_variant_list"]),
    (
        Role::List,
        &[
            "parameters", "type_parameters", "type_arguments", "ordered_field_declaration_list",
            "closure_parameters", "use_list", "tuple_type", "tuple_pattern", "tuple_struct_pattern",
            "struct_pattern", "slice_pattern",
        ],
    ),
    (Role::Arguments, &["arguments"]),
    (Role::Collection, &["array_expression", "tuple_expression", "field_initializer_list"]),
    (Role::Call, &["call_expression", "struct_expression"]),
    (Role::Link, &["field_expression", "await_expression", "try_expression", "index_expression"]),
    (
        Role::Operator,
        &[
            "binary_expression", "unary_expression", "reference_expression", "range_expression",
            "type_cast_expression",
        ],
    ),
    (Role::Assignment, &["assignment_expression", "compound_assignment_expr", "field_initializer"]),
    (Role::Lambda, &["closure_expression"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["boolean_literal", "integer_literal", "float_literal", "negative_literal"]),
    (Role::String, &["char_literal", "string_literal", "raw_string_literal"]),
    (Role::Comment, &["line_comment", "block_comment", "shebang"]),
    (Role::Annotation, &["attribute_item", "inner_attribute_item"]),
    (
        Role::Name,
        &[
            "identifier", "type_identifier", "field_identifier", "shorthand_field_identifier", "scoped_identifier",
        ],
    ),
    (Role::TypeUse, &["scoped_type_identifier", "generic_type", "reference_type"]),
];
