//! DAX.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::formulas;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "dax",
    title: "DAX",
    extensions: &["dax", "msdax"],
    roles: &[formulas::ROLES],
    line_comment: "//",
    other_line_comments: &["--"],
    block_comment: ("/*", "*/"),
    joined: &["<=", ">=", "<>", "==", "&&", "||", ":="],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: formulas::KINDS, read: formulas::read },
    ..READING_OF_MOST
};
