//! HTML.

mod templates;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "html",
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
        Key::IndentPage,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    habit: 2,
    holds: &[(Hold::Tag, &["opening_tag", "tag"]), (Hold::Closing, &["closing_tag"])],
    page: &["html", "body"],
    preserved: &["pre", "textarea"],
    templates: Some(&templates::TEMPLATES),
    ..usual::INDENT
};
