//! Less.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::sheets::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "less",
    title: "Less",
    extensions: &["less"],
    roles: &[sheets::ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    loose: sheets::LOOSE,
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: sheets::KINDS, read: |text, builder| sheets::read(text, DIALECT, builder) },
    ..READING_OF_MOST
};

const DIALECT: Dialect = Dialect { line_comments: true, at_variables: true };
