//! C++: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::c;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "cpp",
    layout: None,
    looks: &c::LOOKS,
    indent: &c::INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::AlignList, "arguments"),
        (Key::IndentCase, "0"),
        (Key::IndentCaseBrace, "0"),
        (Key::IndentNamespace, "0"),
    ],
    settings: &[
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
