//! MATLAB.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::indent::IndentSpec;
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "matlab",
    layout: None,
    looks: &LOOKS,
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

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    sections: true,
    ..usual::LOOKS
};

pub(crate) const INDENTED: IndentSpec = IndentSpec {
    middle: &["else", "elseif", "catch", "unwind_protect_cleanup"],
    ..usual::INDENT
};
