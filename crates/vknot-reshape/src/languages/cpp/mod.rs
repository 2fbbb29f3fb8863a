//! C++: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::c;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::layout::LayoutSpec;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "cpp",
    layout: Some(&LAYOUT),
    looks: &c::LOOKS,
    indent: &c::INDENTED,
    imports: Some(&c::imports::IMPORTS),
    edits: EditSpec {
        strings: Some(""),
        fixed: &["directive"],
        laws: c::laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

/// Angle brackets may hold arguments.
static LAYOUT: LayoutSpec = LayoutSpec { unsure: &["<", ">"], ..c::layout::LAYOUT };

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::AlignList, "arguments"),
        (Key::IndentCase, "0"),
        (Key::IndentCaseBrace, "0"),
        (Key::IndentNamespace, "0"),
    ],
    settings: &[
        Key::Charset,
        Key::EndOfLine,
        Key::InsertFinalNewline,
        Key::MaxLineLength,
        Key::TrimTrailingWhitespace,
        Key::AlignColumn,
        Key::AlignComment,
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
        Key::SpaceArguments,
        Key::SpaceAssignment,
        Key::SpaceBlock,
        Key::SpaceBrace,
        Key::SpaceComma,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceEmpty,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::WrapComma,
        Key::WrapConditional,
        Key::WrapList,
        Key::WrapOperand,
        Key::WrapOperator,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportGroups,
        Key::ImportInclude,
        Key::ImportOwn,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::IndentAccess,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentDirective,
        Key::IndentLabel,
        Key::IndentNamespace,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};
