//! GDScript.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "gdscript",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec {
        strings: Some("+"),
        negation: "not ",
        both: "and",
        conditionals: &["if_statement"],
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
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    words: &[("source", "file"), ("pattern_section", "case"), ("const_statement", "constant")],
    conditionals: &["if_statement", "elif_clause", "match_statement"],
    loops: &["for_statement", "while_statement"],
    region_markers: RegionMarkers::Directive,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { tabs: true, lines: LinesBy::Levels, ..usual::INDENT };
