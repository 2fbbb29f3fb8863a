//! CSS.

use crate::language::{LANGUAGE, LanguageSpec, Reader};
use crate::reading::sheets::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "css",
    title: "CSS",
    extensions: &["css"],
    reader: Reader::Own { kinds: sheets::KINDS, read: |text, builder| sheets::read(text, DIALECT, builder) },
    roles: &[sheets::ROLES],
    block_comment: ("/*", "*/"),
    ..LANGUAGE
};

const DIALECT: Dialect = Dialect { line_comments: false, at_variables: false };
