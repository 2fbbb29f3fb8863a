//! Markdown.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "markdown",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EDITS_OF_MOST,
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

const LOOKS: LookSpec = LookSpec {
    words: &[("list_item", "list item"), ("indented_code", "code")],
    conditionals: &[],
    loops: &[],
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..usual::INDENT };
