//! DAX.

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "dax",
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
        Key::AlignTabs,
        Key::IndentBracket,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    region_markers: RegionMarkers::Comment,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[(Hold::Flat, &["measure"]), (Hold::Section, &["variable", "result"]), usual::EXPRESSIONS],
    ..usual::INDENT
};
