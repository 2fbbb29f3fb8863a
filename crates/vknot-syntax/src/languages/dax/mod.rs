//! DAX.

use crate::language::{LANGUAGE, LanguageSpec, Reader};
use crate::reading::formulas;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "dax",
    title: "DAX",
    extensions: &["dax", "msdax"],
    reader: Reader::Own { kinds: formulas::KINDS, read: formulas::read },
    roles: &[formulas::ROLES],
    line_comment: "//",
    other_line_comments: &["--"],
    block_comment: ("/*", "*/"),
    joined: &["<=", ">=", "<>", "==", "&&", "||", ":="],
    ..LANGUAGE
};
