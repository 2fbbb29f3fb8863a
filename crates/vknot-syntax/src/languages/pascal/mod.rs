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

/// Included pieces, and other languages', share endings with it.
fn is_pascal(extension: &str, text: &str) -> bool {
    if !matches!(extension, "inc" | "pp") {
        return true;
    }
    let start = text.get(..text.len().min(4000)).unwrap_or(text).to_ascii_lowercase();
    !start.contains("<?php")
        && !start.contains("#include")
        && !start.contains("#define")
        && (start.trim_start().starts_with(['{', '(', '/'])
            || ["unit ", "procedure ", "function ", "begin", "const", "type", "var"]
                .iter()
                .any(|word| start.contains(word)))
}
