//! SCSS: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::css;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "scss",
    layout: None,
    looks: &css::LOOKS,
    indent: &css::INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::Charset,
        Key::EndOfLine,
        Key::IndentSize,
        Key::IndentStyle,
        Key::InsertFinalNewline,
        Key::MaxLineLength,
        Key::TabWidth,
        Key::TrimTrailingWhitespace,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::BlankMost,
        Key::BreakKeep,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentElseIf,
        Key::IndentOperand,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};
