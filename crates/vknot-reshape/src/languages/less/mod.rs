//! Less: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::languages::css;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "less",
    layout: None,
    looks: &css::LOOKS,
    indent: &css::INDENTED,
    imports: None,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::WrapLiteral,
    ],
};
