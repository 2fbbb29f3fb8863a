//! TypeScript with elements: looks as in its untyped kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::javascript;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "tsx",
    layout: None,
    looks: &javascript::LOOKS,
    indent: &javascript::INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::IndentLabel, "in"), (Key::IndentOperand, "1")],
    settings: &[
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignOperand,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentElseIf,
        Key::IndentLabel,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};
