//! Java.

use crate::lexis::{is_word, Lexis};
use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::overload::{Overload, OVERLOAD};
use crate::reader::{Mask, Reader, Reading, Repair, READING as READING_OF_MOST, REPAIR};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "java",
    title: "Java",
    extensions: &["java"],
    roles: &[ROLES],
    names: &[
        ("field_declaration", &["declarator", "name"]),
        ("constant_declaration", &["declarator", "name"]),
        ("local_variable_declaration", &["declarator", "name"]),
    ],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined:
        &["++", "--", "&&", "||", "==", "!=", "<=", "->", "::", "+=", "-=", "*=", "/=", "&=", "|=", "^=", "%=", ".."],
    doc_comments: &["/**"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_java::LANGUAGE.into()),
    relief: Some(Repair { mask: relief, words: &[("identifier", "super")], ..REPAIR }),
    lexis: Some(&LEXIS),
    overload: Overload { marks: b"<>", ..OVERLOAD },
    ..READING_OF_MOST
};

const LEXIS: Lexis = Lexis {
    line_comment: "//",
    block_comment: ("/*", "*/"),
    nested: false,
    strings: &["\"\"\"", "\"", "'"],
    lines_in_strings: false,
    raw: &[],
    lone_quotes: false,
};

/// What the grammar does not know. Source: The Java Language Specification, Java SE 25, 7.5.5 and 8.8.7.
fn relief(text: &str) -> Option<Mask> {
    let mut mask = Mask::new(text);
    modules(text, &mut mask);
    constructors(text, &mut mask);
    (!mask.words.is_empty()).then_some(mask)
}

/// What imports a module: `static` is as long as `module`.
fn modules(text: &str, mask: &mut Mask) {
    let blanks = |text: &str| text.len() - text.trim_start().len();
    for (at, _) in text.match_indices(IMPORT) {
        let behind = text.get(at + IMPORT.len()..).unwrap_or_default();
        let word = at + IMPORT.len() + blanks(behind);
        let name = text.get(word..).and_then(|text| text.strip_prefix(MODULE)).unwrap_or_default();
        let begins = !text.get(..at).is_some_and(|before| before.bytes().next_back().is_some_and(is_word));
        let apart = blanks(behind) > 0 && blanks(name) > 0;
        if begins && apart && name.trim_start().bytes().next().is_some_and(is_word) {
            mask.stand_in_word(word, word + MODULE.len(), "static");
        }
    }
}

/// Calls of other constructors behind statements of their own, which are shown as calls of what has a name.
fn constructors(text: &str, mask: &mut Mask) {
    for word in ["super", "this"] {
        for (at, _) in text.match_indices(word) {
            let opens = text.get(at + word.len()..).is_some_and(|behind| behind.trim_start().starts_with('('));
            let mut from = at.saturating_sub(REACH);
            while !text.is_char_boundary(from) {
                from += 1;
            }
            if opens && text.get(from..at).is_some_and(ends_statement) {
                mask.stand_in_word(at, at + word.len(), "call");
            }
        }
    }
}

/// Whether a statement ends at the end of some text, comments and blanks aside.
fn ends_statement(text: &str) -> bool {
    let is_comment = |line: &&str| line.is_empty() || line.starts_with(['*', '/']) || line.ends_with("*/");
    let last = text.lines().rev().map(str::trim).find(|line| !is_comment(line)).unwrap_or_default();
    let code = last.split("//").next().unwrap_or_default().trim_end();
    last.ends_with([';', '}']) || code.ends_with([';', '}'])
}

/// How far in front of such a call the statement before it is looked for, in bytes.
const REACH: usize = 2000;

const IMPORT: &str = "import";
const MODULE: &str = "module";

const ROLES: &[RoleRow] = &[
    (Role::File, &["program"]),
    (Role::Package, &["package_declaration"]),
    (Role::Import, &["import_declaration"]),
    (
        Role::Type,
        &[
            "class_declaration", "interface_declaration", "enum_declaration", "record_declaration",
            "annotation_type_declaration", "module_declaration",
        ],
    ),
    (
        Role::Callable,
        &[
            "method_declaration", "constructor_declaration", "compact_constructor_declaration", "static_initializer",
        ],
    ),
    (
        Role::Member,
        &[
            "annotation_type_element_declaration", "field_declaration", "constant_declaration", "enum_constant",
        ],
    ),
    (
        Role::Statement,
        &[
            "exports_module_directive", "opens_module_directive", "provides_module_directive",
            "requires_module_directive", "uses_module_directive", "assert_statement", "break_statement",
            "continue_statement", "expression_statement", "explicit_constructor_invocation", "labeled_statement",
            "local_variable_declaration", "return_statement", "throw_statement", "yield_statement",
        ],
    ),
    (
        Role::Branch,
        &[
            "do_statement", "enhanced_for_statement", "for_statement", "if_statement", "switch_expression",
            "synchronized_statement", "try_statement", "try_with_resources_statement", "while_statement",
        ],
    ),
    (Role::Arm, &["catch_clause", "finally_clause", "switch_block_statement_group", "switch_rule"]),
    (Role::Label, &["switch_label"]),
    (Role::Block, &["block", "constructor_body", "switch_block"]),
    (Role::Body, &["class_body", "interface_body", "enum_body", "annotation_type_body", "module_body"]),
    (
        Role::List,
        &[
            "formal_parameters", "inferred_parameters", "type_parameters", "type_arguments",
            "resource_specification", "record_pattern_body",
        ],
    ),
    (Role::Arguments, &["argument_list", "annotation_argument_list"]),
    (Role::Collection, &["array_initializer", "element_value_array_initializer"]),
    (Role::Call, &["method_invocation", "object_creation_expression", "array_creation_expression"]),
    (Role::Link, &["field_access", "array_access"]),
    (
        Role::Operator,
        &[
            "binary_expression", "unary_expression", "update_expression", "ternary_expression",
            "instanceof_expression", "cast_expression",
        ],
    ),
    (Role::Assignment, &["assignment_expression", "variable_declarator", "element_value_pair", "resource"]),
    (Role::Lambda, &["lambda_expression"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (
        Role::Literal,
        &[
            "binary_integer_literal", "decimal_integer_literal", "hex_integer_literal", "octal_integer_literal",
            "decimal_floating_point_literal", "hex_floating_point_literal", "true", "false", "null_literal",
        ],
    ),
    (Role::String, &["string_literal", "character_literal"]),
    (Role::Comment, &["line_comment", "block_comment"]),
    (Role::Annotation, &["annotation", "marker_annotation"]),
    (Role::Name, &["identifier", "scoped_identifier", "type_identifier"]),
    (Role::TypeUse, &["scoped_type_identifier", "generic_type", "array_type"]),
];
