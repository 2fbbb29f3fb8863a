//! JavaScript.

mod exports;
pub(crate) mod imports;
pub(crate) mod laws;
pub(crate) mod layout;
mod loading;
mod missing;
mod modules;
mod reading;
pub(crate) mod scopes;

use vknot_style::{Key, LanguageStyle};
use vknot_syntax::{NodeId, Role, Source, Tree};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::inner::{InnerCode, Interpolation};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "javascript",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EDITS,
    style: &STYLE,
};

/// What edits go by, with types and without.
pub(crate) const EDITS: EditSpec = EditSpec {
    strings: Some("+"),
    negation: "!",
    both: "&&",
    conditionals: &["if_statement"],
    declarations: &["lexical_declaration", "variable_declaration"],
    laws: laws::LAWS,
    scopes: Some(&scopes::SCOPES),
    ..EDITS_OF_MOST
};

pub(super) static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::IndentLabel, "in"),
        (Key::IndentOperand, "1"),
        (Key::SpaceAssignment, "true"),
        (Key::SpaceComparison, "true"),
        (Key::SpaceLogical, "true"),
        (Key::SpaceOperator, "true"),
    ],
    settings: &[
        Key::Charset,
        Key::EndOfLine,
        Key::IndentSize,
        Key::IndentStyle,
        Key::InsertFinalNewline,
        Key::MaxLineLength,
        Key::TabWidth,
        Key::TrimTrailingWhitespace,
        Key::AlignColumn,
        Key::AlignComment,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::BlankEdge,
        Key::BlankItem,
        Key::BlankKind,
        Key::BlankMember,
        Key::BlankMost,
        Key::BraceControl,
        Key::BraceDeclaration,
        Key::BraceEmpty,
        Key::BraceFollow,
        Key::BraceLambda,
        Key::BraceRequired,
        Key::BraceType,
        Key::BraceWrapped,
        Key::BreakBlock,
        Key::BreakKeep,
        Key::CommentGap,
        Key::CommentSpace,
        Key::CommentWrap,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportDoc,
        Key::ImportGroups,
        Key::ImportMerge,
        Key::ImportNames,
        Key::ImportOwn,
        Key::ImportRequire,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentElseIf,
        Key::IndentLabel,
        Key::IndentWrapper,
        Key::SpaceArguments,
        Key::SpaceAssignment,
        Key::SpaceBlock,
        Key::SpaceBrace,
        Key::SpaceBracket,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceEmbedded,
        Key::SpaceEmpty,
        Key::SpaceIndex,
        Key::SpaceLambda,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpacePair,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::SpaceUnary,
        Key::TokenQuote,
        Key::TokenSemicolon,
        Key::WrapChain,
        Key::WrapComma,
        Key::WrapConditional,
        Key::WrapIndent,
        Key::WrapList,
        Key::WrapLiteral,
        Key::WrapOperand,
        Key::WrapOperator,
        Key::WrapTag,
    ],
};

/// Values in template literals (ECMA-262, section 12.9.6).
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    match tree.role(token) == Role::String && text.starts_with('`') {
        true => Interpolation { open: "${", shown: &[], around: ("(", ")") }.values(text, start),
        false => Vec::new(),
    }
}

pub(super) const LOOKS: LookSpec = LookSpec {
    words: &[
        ("variable_declarator", "variable"),
        ("assignment_expression", "assignment"),
        ("call_expression", "call"),
        ("pair", "member"),
        ("method_definition", "method"),
        ("public_field_definition", "field"),
        ("field_definition", "field"),
        ("property_signature", "property"),
        ("type_alias_declaration", "type"),
        ("internal_module", "namespace"),
        ("jsx_element", "element"),
        ("statement_block", "block"),
        ("enum_assignment", "constant"),
        ("function_declaration", "function"),
        ("lexical_declaration", "declaration"),
    ],
    named_values: &[
        ("variable_declarator", "value"),
        ("pair", "value"),
        ("field_definition", "value"),
        ("public_field_definition", "value"),
        ("assignment_expression", "right"),
    ],
    name_lists: &[("enum_body", "constant")],
    named_calls: true,
    wrappers: &["export_statement", "ambient_declaration"],
    conditionals: &["if_statement", "switch_statement"],
    loops: &["for_statement", "for_in_statement", "while_statement", "do_statement"],
    inside,
    ..usual::LOOKS
};

pub(crate) const INDENTED: IndentSpec = IndentSpec {
    habit: 2,
    holds: &[
        (Hold::Labelled, &["labeled_statement"]),
        (Hold::Element, &["jsx_element"]),
        (Hold::Tag, &["jsx_opening_element", "jsx_self_closing_element"]),
        (Hold::Closing, &["jsx_closing_element"]),
        (Hold::Literal, &["jsx_expression", "template_substitution"]),
        (Hold::Branch, &["else_clause"]),
        (
            Hold::Head,
            &[
                "pair", "field_definition", "ternary_expression", "conditional_type", "extends_type_clause",
                "class_heritage", "index_signature", "call_signature", "construct_signature",
            ],
        ),
    ],
    marks: &["?", ":", "|", "&", ","],
    module_function: true,
    ..usual::INDENT
};
