//! C.

use crate::language::{LANGUAGE, LanguageSpec, Reader};
use crate::reading::braces;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "c",
    title: "C",
    extensions: &["c", "h"],
    sniff: Some(|extension, text| extension != "h" || !super::cpp::is_cpp(text)),
    reader: Reader::Own { kinds: braces::KINDS, read: braces::read },
    roles: &[braces::ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    doc_comments: &["/**"],
    joined: JOINED,
    ..LANGUAGE
};

/// Marks that are read as one when they touch.
pub(crate) const JOINED: &[&str] = &[
    "++", "--", "&&", "||", "==", "!=", "<=", ">=", "->", "::", "<<", ">>", "+=", "-=", "*=", "/=", "&=", "|=", "^=",
    "%=", "##", "..",
];
