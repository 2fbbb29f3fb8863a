//! TypeScript with elements.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::languages::{javascript, typescript};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "tsx",
    title: "TypeScript with elements",
    extensions: &["tsx"],
    roles: &[javascript::ROLES, javascript::ELEMENTS, typescript::ROLES],
    names: javascript::NAMES,
    prose: &["jsx_text"],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined: javascript::JOINED,
    doc_comments: &["/**"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_typescript::LANGUAGE_TSX.into()),
    relief: Some(typescript::templates::RELIEF_BESIDE_ELEMENTS),
    repair: Some(typescript::repair::REPAIR_BESIDE_ELEMENTS),
    too_wide: Some(typescript::TOO_WIDE),
    ..READING_OF_MOST
};
