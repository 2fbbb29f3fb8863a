//! Octave.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::matrices;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "octave",
    title: "Octave",
    extensions: &["m", "tst"],
    file_names: &[".octaverc"],
    interpreters: &["octave", "octave-cli"],
    roles: &[matrices::ROLES],
    line_comment: "#",
    other_line_comments: &["%"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(is_octave),
    reader: Reader::Own { kinds: matrices::KINDS, read: |text, builder| matrices::read(text, true, builder) },
    ..READING_OF_MOST
};

/// Files with `#` comments, or with words such as `endif`, that the other member of the family does not have.
pub(crate) fn is_octave(extension: &str, text: &str) -> bool {
    extension != "m"
        || !super::cpp::is_objective(text)
        && text.lines().any(|line| {
            let line = line.trim_start();
            let comment = line.starts_with("##") || line.starts_with("# ") || line.starts_with("#!");
            let word = line.split(|c: char| !c.is_ascii_alphanumeric() && c != '_').next().unwrap_or("");
            comment
                || matches!(word, "endif" | "endfunction" | "endfor" | "endwhile" | "endswitch" | "end_try_catch" | "unwind_protect" | "until" | "printf" | "puts" | "pkg")
        })
}
