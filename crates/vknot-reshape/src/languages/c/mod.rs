//! C.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "c",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::AlignList, "arguments"), (Key::IndentCase, "0"), (Key::IndentCaseBrace, "0")],
    settings: &[
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentDirective,
        Key::IndentLabel,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

pub(super) const LOOKS: LookSpec = LookSpec {
    words: &[
        ("declaration", "variable"),
        ("function_declaration", "function"),
        ("qualified_name", "name"),
        ("unit", "file"),
    ],
    outlined: &["macro"],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Pragma,
    ..usual::LOOKS
};

pub(super) const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Header, &["function", "function_declaration"]),
        (Hold::Margin, &["directive", "macro", "include", "region_mark"]),
        (Hold::Inactive, &["inactive"]),
        (Hold::List, &["subscript"]),
        usual::EXPRESSIONS,
    ],
    namespaces: &["namespace"],
    prefixes: &["template"],
    flush: &["linkage"],
    ..usual::INDENT
};
