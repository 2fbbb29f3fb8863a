//! TypeScript with elements.

use crate::language::{LANGUAGE, LanguageSpec, Reader};
use crate::languages::{javascript, typescript};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "tsx",
    title: "TypeScript with elements",
    extensions: &["tsx"],
    reader: Reader::Grammar(|| tree_sitter_typescript::LANGUAGE_TSX.into()),
    roles: &[javascript::ROLES, javascript::ELEMENTS, typescript::ROLES],
    repair: Some(typescript::repair::REPAIR),
    names: javascript::NAMES,
    prose: &["jsx_text"],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    joined: javascript::JOINED,
    doc_comments: &["/**"],
    ..LANGUAGE
};
