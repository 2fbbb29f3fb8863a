//! Java.

mod classes;
mod facts;
mod imports;
mod laws;
mod scopes;
mod layout;
mod missing;
mod reading;
mod wildcards;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "java",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        strings: Some("+"),
        negation: "!",
        both: "&&",
        conditionals: &["if_statement"],
        declarations: &["local_variable_declaration", "field_declaration"],
        laws: laws::LAWS,
        scopes: Some(&scopes::SCOPES),
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::BlankItem, "1"),
        (Key::BreakBlock, "all"),
        (Key::IndentLabel, "in"),
        (Key::SpaceAssignment, "true"),
        (Key::SpaceComparison, "true"),
        (Key::SpaceLogical, "true"),
        (Key::SpaceOperator, "true"),
        (Key::WrapIndent, "2"),
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
        Key::ImportOwn,
        Key::ImportStatic,
        Key::ImportWildcard,
        Key::IndentBrace,
        Key::IndentCase,
        Key::IndentLabel,
        Key::SpaceArguments,
        Key::SpaceAssignment,
        Key::SpaceBlock,
        Key::SpaceBrace,
        Key::SpaceCast,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceEmpty,
        Key::SpaceIndex,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::SpaceUnary,
        Key::WrapAnnotation,
        Key::WrapChain,
        Key::WrapComma,
        Key::WrapConditional,
        Key::WrapIndent,
        Key::WrapLiteral,
        Key::WrapOperand,
        Key::WrapOperator,
    ],
};

const LOOKS: LookSpec = LookSpec {
    words: &[
        ("enum_constant", "constant"),
        ("method_invocation", "call"),
        ("object_creation_expression", "creation"),
        ("switch_expression", "switch"),
    ],
    conditionals: &["if_statement", "switch_expression"],
    loops: &["for_statement", "enhanced_for_statement", "while_statement", "do_statement"],
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Labelled, &["labeled_statement"]),
        (Hold::Head, &["ternary_expression"]),
        (Hold::Flat, &["enum_body_declarations"]),
    ],
    ..usual::INDENT
};
