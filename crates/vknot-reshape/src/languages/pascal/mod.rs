//! Object Pascal.

mod laws;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "pascal",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec {
        between: ";",
        laws: laws::LAWS,
        strings: Some("+"),
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
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
        Key::IndentCaseElse,
        Key::IndentDirective,
        Key::IndentElseIf,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    words: &[("routine_header", "routine"), ("qualified_name", "name")],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Braced,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    habit: 2,
    holds: &[
        (Hold::Parts, &["part"]),
        (Hold::Section, &["declarations"]),
        (Hold::Margin, &["directive"]),
        (Hold::Inactive, &["inactive"]),
        (Hold::Literal, &["subscript"]),
        usual::EXPRESSIONS,
    ],
    middle: &["else", "except", "finally", "until", "then", "do", "of"],
    tails: &[],
    named: &["field"],
    ends: &[";", "begin", "try", "repeat", "of"],
    opening: &["begin", "try", "repeat", "case", "record", "asm"],
    closing: &["end", "until"],
    conditions: &["if", "while", "until"],
    operators: &["and", "or", "xor", "div", "mod", "shl", "shr", "in", "is", "as"],
    ..usual::INDENT
};
