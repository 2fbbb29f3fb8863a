//! Rust.

mod laws;
mod scopes;
mod imports;
mod layout;
mod use_tree;

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
    name: "rust",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        negation: "!",
        both: "&&",
        conditionals: &["if_expression"],
        laws: laws::LAWS,
        scopes: Some(&scopes::SCOPES),
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::BraceWrapped, "next"),
        (Key::BreakBlock, "all"),
        (Key::ImportNames, "sort"),
        (Key::IndentCaseBrace, "0"),
        (Key::IndentOperand, "1"),
        (Key::SpaceBrace, "true"),
        (Key::SpaceAssignment, "true"),
        (Key::SpaceComparison, "true"),
        (Key::SpaceLogical, "true"),
        (Key::SpaceOperator, "true"),
        (Key::WrapComma, "add"),
        (Key::WrapOperand, "each"),
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
        Key::BraceType,
        Key::BraceWrapped,
        Key::BreakBlock,
        Key::BreakKeep,
        Key::CommentGap,
        Key::CommentSpace,
        Key::CommentWrap,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportGroups,
        Key::ImportMerge,
        Key::ImportNames,
        Key::ImportOwn,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentOperand,
        Key::SpaceArguments,
        Key::SpaceAssignment,
        Key::SpaceBrace,
        Key::SpaceBracket,
        Key::SpaceComparison,
        Key::SpaceEmpty,
        Key::SpaceIndex,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::WrapChain,
        Key::WrapComma,
        Key::WrapIndent,
        Key::WrapLiteral,
        Key::WrapOperand,
        Key::WrapOperator,
    ],
};

const LOOKS: LookSpec = LookSpec {
    details: &[("impl_item", &["trait", "type"])],
    words: &[("enum_variant", "variant"), ("call_expression", "call"), ("struct_expression", "struct value")],
    outlined: &["macro_definition"],
    conditionals: &["if_expression", "match_expression"],
    loops: &["for_expression", "while_expression", "loop_expression"],
    inside,
    ..usual::LOOKS
};

/// Strings in macros may name variables between braces.
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    let is_text = tree.role(token) == Role::String && text.contains('{');
    let in_macro = || tree.ancestors(token).take(4).any(|above| tree.kind_name(above) == "token_tree");
    match is_text && in_macro() {
        // What says how to show a value may name others: `{level:>width$}`.
        true => Interpolation { open: "{", shown: &[], around: ("const _: () = ", ";") }.values(text, start),
        false => Vec::new(),
    }
}

const INDENTED: IndentSpec = IndentSpec {
    // As documentation of crates has them.
    hidden: "#",
    links_follow_blocks: true,
    holds: &[
        (Hold::Branch, &["else_clause"]),
        (Hold::Head, &["break_expression", "return_expression"]),
        (Hold::Section, &["where_clause"]),
        (Hold::Through, &["macro_invocation"]),
        (Hold::Body, &["token_tree", "token_repetition", "token_tree_pattern", "token_repetition_pattern"]),
    ],
    ..usual::INDENT
};
