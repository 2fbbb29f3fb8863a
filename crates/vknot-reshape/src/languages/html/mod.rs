//! HTML.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::LookSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "html",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

const LOOKS: LookSpec = LookSpec {
    conditionals: &[],
    loops: &[],
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    habit: 2,
    holds: &[(Hold::Tag, &["opening_tag", "tag"]), (Hold::Closing, &["closing_tag"])],
    page: &["html", "body"],
    preserved: &["pre", "textarea"],
    ..INDENT
};
