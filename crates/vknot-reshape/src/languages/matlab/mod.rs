//! MATLAB.

pub(crate) mod laws;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "matlab",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec { lines_end: true, laws: laws::LAWS, ..EDITS_OF_MOST },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::AlignList, "all")],
    settings: &[
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignTabs,
        Key::IndentCase,
        Key::IndentFunction,
        Key::WrapLiteral,
    ],
};

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    sections: true,
    ..usual::LOOKS
};

pub(crate) const INDENTED: IndentSpec = IndentSpec {
    holds: &[usual::EXPRESSIONS, (Hold::Through, &["lambda"])],
    middle: &["else", "elseif", "catch", "unwind_protect_cleanup"],
    ..usual::INDENT
};
