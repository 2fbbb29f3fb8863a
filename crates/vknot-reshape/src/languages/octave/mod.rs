//! Octave: looks as in its kin.

use vknot_style::{Key, LanguageStyle};

use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::IndentSpec;
use crate::languages::matlab;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "octave",
    layout: None,
    looks: &matlab::LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec { lines_end: true, laws: matlab::laws::LAWS, ..EDITS_OF_MOST },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::AlignList, "all")],
    settings: &[
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignTabs,
        Key::IndentCase,
        Key::IndentFunction,
        Key::WrapLiteral,
    ],
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, ..matlab::INDENTED };
