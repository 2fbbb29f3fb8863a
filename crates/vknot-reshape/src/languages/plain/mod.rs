//! Text of no known language: looks go by brackets and indentation.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "plain",
    layout: None,
    looks: &usual::LOOKS,
    indent: &INDENTED,
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

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..usual::INDENT };
