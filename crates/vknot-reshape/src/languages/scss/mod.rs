//! SCSS: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::css;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "scss",
    layout: Some(&css::layout::LAYOUT),
    looks: &css::LOOKS,
    indent: &css::INDENTED,
    imports: None,
    edits: EditSpec {
        between: ";",
        laws: css::laws::OF_ALL,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::MaxLineLength, "off")],
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
        Key::BlankMost,
        Key::BraceDeclaration,
        Key::BreakBlock,
        Key::CommentGap,
        Key::CommentSpace,
        Key::CommentWrap,
        Key::TokenQuote,
        Key::SpaceBlock,
        Key::SpaceColon,
        Key::SpaceComma,
        Key::SpaceEmpty,
        Key::SpaceParenthesis,
        Key::WrapSelector,
        Key::BraceFollow,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::IndentBracket,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};
