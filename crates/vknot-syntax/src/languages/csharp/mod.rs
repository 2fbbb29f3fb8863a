//! C#.

mod creations;
mod later;
mod pointers;
mod steps;

use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::overload::{Overload, OVERLOAD};
use crate::reader::{Mask, Reader, Repair, Reading, READING as READING_OF_MOST};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "csharp",
    title: "C#",
    aliases: &["c#", "cs"],
    extensions: &["cs", "csx"],
    roles: &[ROLES],
    line_comment: "//",
    line_directive: "#",
    block_comment: ("/*", "*/"),
    joined: &[
        "++", "--", "&&", "||", "??", "==", "!=", "<=", ">=", "=>", "?.", "::", "->", "+=", "-=", "*=", "/=", "&=",
        "|=", "^=", "%=", "..",
    ],
    doc_comments: &["///", "/**"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_c_sharp::LANGUAGE.into()),
    relief: Some(Repair { mask: relief, ..REPAIR }),
    repair: Some(Repair { mask: first_branches, ..REPAIR }),
    closes_types: Some(";"),
    overload: Overload { marks: b"<>", ..OVERLOAD },
    ..READING_OF_MOST
};

const REPAIR: Repair = Repair {
    mask: relief,
    kind: "preproc_arg",
    name: "identifier",
    groups: &[("<", ">", "type_argument_list"), ("(", ")", "cast_expression")],
    words: later::WORDS,
};

/// What the grammar reads as something else, or not at all.
fn relief(text: &str) -> Option<Mask> {
    let mut mask = Mask::new(text);
    creations::mask(text, &mut mask);
    pointers::mask(text, &mut mask);
    later::mask(text, &mut mask);
    let changed = !(mask.hidden.is_empty() && mask.stand_ins.is_empty() && mask.words.is_empty());
    changed.then_some(mask)
}

/// Keeps the first branch of each conditional and hides the others, each as one token, and the directives.
fn first_branches(text: &str) -> Option<Mask> {
    let mut mask = relief(text).unwrap_or_else(|| Mask::new(text));
    let (code, stand_ins) = (std::mem::take(&mut mask.hidden), std::mem::take(&mut mask.stand_ins));
    // For each conditional that is open: where a branch that is not read began.
    let mut open: Vec<Option<usize>> = Vec::new();
    let mut at = 0;
    for line in text.split_inclusive('\n') {
        let (start, end) = (at, at + line.trim_end().len());
        at += line.len();
        let directive = line.trim_start().strip_prefix('#').map(str::trim_start).unwrap_or("");
        let unread = open.iter().any(Option::is_some);
        match directive.split(|c: char| !c.is_ascii_alphabetic()).next() {
            Some("if") => {
                open.push(None);
                if !unread {
                    mask.hide(start, end);
                }
            }
            Some("else" | "elif") => {
                if let Some(last) = open.last_mut() && last.is_none() && !unread {
                    *last = Some(start);
                }
            }
            Some("endif") => match open.pop() {
                Some(Some(from)) => mask.hide(from, end),
                _ if !unread => mask.hide(start, end),
                _ => {}
            },
            Some("pragma" | "nullable" | "define" | "undef" | "line" | "warning" | "error") if !unread =>
                mask.hide(start, end),
            _ => {}
        }
    }
    if mask.hidden.is_empty() {
        return None;
    }
    // What stands in what is hidden now is no longer code of its own.
    let branches = std::mem::take(&mut mask.hidden);
    let is_seen = |at: u32| {
        let next = branches.get(branches.partition_point(|branch| branch.span.end <= at));
        next.is_none_or(|branch| branch.span.start > at)
    };
    mask.stand_ins = stand_ins.into_iter().filter(|at| is_seen(*at)).collect();
    mask.inserted.retain(|(at, _)| is_seen(*at));
    mask.hidden =
        code.into_iter().filter(|unseen| is_seen(unseen.span.start)).chain(branches.iter().copied()).collect();
    Some(mask)
}

const ROLES: &[RoleRow] = &[
    (Role::File, &["compilation_unit"]),
    (Role::Package, &["file_scoped_namespace_declaration"]),
    (Role::Import, &["using_directive", "extern_alias_directive"]),
    (
        Role::Type,
        &[
            "class_declaration", "struct_declaration", "interface_declaration", "enum_declaration",
            "record_declaration", "namespace_declaration",
        ],
    ),
    (
        Role::Callable,
        &[
            "method_declaration", "constructor_declaration", "destructor_declaration", "operator_declaration",
            "conversion_operator_declaration", "indexer_declaration", "local_function_statement",
        ],
    ),
    (
        Role::Member,
        &[
            "property_declaration", "field_declaration", "event_declaration", "event_field_declaration",
            "delegate_declaration", "enum_member_declaration",
        ],
    ),
    (
        Role::Statement,
        &[
            "expression_statement", "local_declaration_statement", "return_statement", "throw_statement",
            "break_statement", "continue_statement", "goto_statement", "yield_statement", "empty_statement",
            "labeled_statement", "global_statement",
        ],
    ),
    (
        Role::Branch,
        &[
            "if_statement", "for_statement", "foreach_statement", "while_statement", "do_statement",
            "switch_statement", "switch_expression", "try_statement", "using_statement", "lock_statement",
            "fixed_statement", "checked_statement", "unsafe_statement",
        ],
    ),
    (Role::Arm, &["switch_section", "switch_expression_arm", "catch_clause", "finally_clause", "accessor_declaration"]),
    (Role::Block, &["block", "switch_body"]),
    (Role::Body, &["declaration_list", "accessor_list", "enum_member_declaration_list"]),
    (Role::List, &["parameter_list", "bracketed_parameter_list", "type_parameter_list", "type_argument_list"]),
    (Role::Arguments, &["argument_list", "bracketed_argument_list", "attribute_argument_list"]),
    (Role::Collection, &["initializer_expression", "collection_expression", "anonymous_object_creation_expression"]),
    (Role::Call, &["invocation_expression", "object_creation_expression", "implicit_object_creation_expression"]),
    (Role::Link, &["member_access_expression", "conditional_access_expression", "element_access_expression"]),
    (
        Role::Operator,
        &[
            "binary_expression", "prefix_unary_expression", "postfix_unary_expression", "conditional_expression",
            "cast_expression", "as_expression", "is_expression", "is_pattern_expression", "await_expression",
        ],
    ),
    (Role::Assignment, &["assignment_expression", "variable_declarator"]),
    (Role::Lambda, &["lambda_expression", "anonymous_method_expression"]),
    (Role::Parenthesized, &["parenthesized_expression"]),
    (Role::Literal, &["integer_literal", "real_literal", "boolean_literal", "null_literal"]),
    (
        Role::String,
        &[
            "string_literal", "verbatim_string_literal", "raw_string_literal", "character_literal",
            "interpolated_string_expression",
        ],
    ),
    (Role::Comment, &["comment", "preproc_region", "preproc_endregion", "shebang_directive"]),
    (Role::Annotation, &["attribute_list", "global_attribute"]),
    (Role::Name, &["identifier", "qualified_name"]),
];
