//! Notebooks.

mod laws;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "notebook",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec { laws: laws::LAWS, ..EDITS_OF_MOST },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::IndentSize,
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    region_markers: RegionMarkers::Nothing,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Author, ..usual::INDENT };
