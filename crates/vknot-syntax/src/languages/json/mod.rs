//! JSON, with comments where a file has them.

use crate::lexis::Lexis;
use crate::language::{LANGUAGE, LanguageSpec, RoleRow};
use crate::reader::{Mask, Reader, Repair, Reading, READING as READING_OF_MOST, REPAIR};
use crate::reading::{block_end, Escape, line_end, quoted_end};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "json",
    title: "JSON",
    extensions: &["json", "jsonc", "geojson", "webmanifest"],
    roles: &[ROLES],
    names: &[("pair", &["key"])],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Grammar(|| tree_sitter_json::LANGUAGE.into()),
    repair: Some(Repair { mask: trailing_commas, kind: ",", ..REPAIR }),
    lexis: Some(&LEXIS),
    ..READING_OF_MOST
};

/// Hides commas behind the last element, which files with comments often have.
fn trailing_commas(text: &str) -> Option<Mask> {
    let bytes = text.as_bytes();
    let mut mask = Mask::new(text);
    let mut comma = None;
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        let next = bytes.get(at + 1);
        at = match byte {
            b'/' if next == Some(&b'/') => line_end(bytes, at),
            b'/' if next == Some(&b'*') => block_end(bytes, at, (b"/*", b"*/"), false),
            b'"' => {
                comma = None;
                quoted_end(bytes, at, Escape::Backslash, true).unwrap_or(at + 1)
            }
            _ if byte.is_ascii_whitespace() => at + 1,
            _ => {
                if let (b'}' | b']', Some(comma)) = (byte, comma) {
                    mask.hide(comma, comma + 1);
                }
                comma = (byte == b',').then_some(at);
                at + 1
            }
        };
    }
    (!mask.hidden.is_empty()).then_some(mask)
}

const LEXIS: Lexis = Lexis {
    line_comment: "//",
    block_comment: ("/*", "*/"),
    nested: false,
    strings: &["\""],
    lines_in_strings: false,
    raw: &[],
    lone_quotes: false,
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["document"]),
    (Role::Member, &["pair"]),
    (Role::Collection, &["object", "array"]),
    (Role::Literal, &["number", "true", "false", "null"]),
    (Role::String, &["string"]),
    (Role::Comment, &["comment"]),
];
