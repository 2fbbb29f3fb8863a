//! Object Pascal.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::pascal;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "pascal",
    title: "Object Pascal",
    aliases: &["objectpascal"],
    extensions: &["pas", "pp", "dpr", "lpr", "dpk", "inc"],
    interpreters: &["instantfpc"],
    roles: &[pascal::ROLES],
    line_comment: "//",
    block_comment: ("{", "}"),
    joined: &[":=", "<=", ">=", "<>", "..", "+=", "-=", "*=", "/=", "@@"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(is_pascal),
    reader: Reader::Own { kinds: pascal::KINDS, read: pascal::read },
    ..READING_OF_MOST
};

/// Words that a piece of Pascal may begin with.
const FIRST_WORDS: &[&str] = &[
    "begin", "constructor", "destructor", "function", "implementation", "library", "procedure", "program",
    "resourcestring",
    "unit", "uses",
];
/// Those behind which stands what is declared: a name, and a mark behind that.
const DECLARING_WORDS: &[&str] = &["const", "label", "threadvar", "type", "var"];
/// How comments begin and end.
const COMMENTS: [(&str, &str); 3] = [("{", "}"), ("(*", "*)"), ("//", "\n")];

/// Included pieces, and other languages', share endings with it: what stands behind their first comments tells.
fn is_pascal(extension: &str, text: &str) -> bool {
    if !matches!(extension, "inc" | "pp") {
        return true;
    }
    let mut rest = text.trim_start();
    while let Some((_, end)) = COMMENTS.iter().find(|(begin, _)| rest.starts_with(begin)) {
        rest = rest.split_once(end).map_or("", |(_, behind)| behind.trim_start());
    }
    let directive = |line: &str| line.strip_prefix('#')
        .is_some_and(|rest| !rest.starts_with(|c: char| c.is_ascii_digit() || c == '$'));
    if text.starts_with("<?") || text.lines().any(directive) {
        return false;
    }
    let (first, behind) = word(rest);
    let first = first.to_ascii_lowercase();
    let (name, mark) = word(behind.trim_start());
    match first.as_str() {
        // Comments alone.
        "" => rest.is_empty() && text.trim_start().starts_with(['{', '(']),
        first if FIRST_WORDS.contains(&first) => behind.starts_with(char::is_whitespace),
        first => DECLARING_WORDS.contains(&first)
            && !name.is_empty()
            && mark.trim_start().starts_with(['=', ':', ',', ';', '<']),
    }
}

/// The word that a text begins with, and what stands behind it.
fn word(text: &str) -> (&str, &str) {
    text.split_at(text.find(|c: char| !c.is_alphanumeric() && c != '_').unwrap_or(text.len()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn included_pieces_are_told_by_what_they_begin_with() {
        for (text, pascal) in [
            ("{ gauges }\n(* and stations *)\nProcedure Read;\nbegin\nend;\n", true),
            ("{$ifdef TIDE}\nconst\n  Level: Integer = 1;\n{$endif}\n", true),
            ("{$define TIDE}\n", true),
            ("type TLevel = Integer;\n", true),
            ("// of a gauge\nvar a, b: Integer;\n", true),
            ("// of a gauge\n#include <level.h>\n", false),
            ("// of a gauge\nconst int level = 1;\n", false),
            ("{ \"low\", 1 },\n{ \"high\", 2 },\n", false),
            ("# gauges\nSOURCES = level.c \\\n\tgauge.c\n", false),
            ("function_of_levels:\n\tbuild\n", false),
            ("class tide::gauge {\n}\n", false),
            ("<?php function level() {}\n", false),
            ("", false),
        ] {
            assert_eq!(is_pascal("inc", text), pascal, "{text}");
            assert!(is_pascal("pas", text));
        }
    }
}
