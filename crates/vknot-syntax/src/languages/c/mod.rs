//! C.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::languages::cpp;
use crate::reading::braces;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "c",
    title: "C",
    extensions: &["c", "h"],
    roles: &[braces::ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    doc_comments: &["/**"],
    joined: cpp::JOINED,
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(|extension, text| extension != "h" || !cpp::is_cpp(text) && !cpp::is_objective(text)),
    reader: Reader::Own { kinds: braces::KINDS, read: braces::read },
    ..READING_OF_MOST
};
