//! Octave: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::spec::indent::IndentSpec;
use crate::languages::matlab;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "octave",
    layout: None,
    looks: &matlab::LOOKS,
    indent: &INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::AlignList, "all")],
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
        Key::IndentFunction,
        Key::IndentOperand,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, ..matlab::INDENTED };
