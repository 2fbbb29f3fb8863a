//! SCSS.

use crate::language::{LANGUAGE, LanguageSpec, Reader};
use crate::reading::sheets::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "scss",
    title: "SCSS",
    extensions: &["scss"],
    reader: Reader::Own { kinds: sheets::KINDS, read: |text, builder| sheets::read(text, DIALECT, builder) },
    roles: &[sheets::ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    ..LANGUAGE
};

const DIALECT: Dialect = Dialect { line_comments: true, at_variables: false };
