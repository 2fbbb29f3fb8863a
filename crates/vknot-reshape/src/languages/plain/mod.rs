//! Text of no known language: looks go by brackets and indentation.

use vknot_style::LanguageStyle;

use crate::languages::usual;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "plain",
    layout: None,
    looks: &usual::LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EDITS_OF_MOST,
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[],
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..usual::INDENT };
