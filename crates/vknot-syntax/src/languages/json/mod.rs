//! JSON (RFC 8259), with comments where a file has them.

use crate::language::{LanguageSpec, Reader};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "json",
    title: "JSON",
    extensions: &["json", "jsonc", "webmanifest", "geojson"],
    file_names: &[],
    reader: Reader::Grammar(|| tree_sitter_json::LANGUAGE.into()),
    roles: &[
        ("document", Role::File),
        ("object", Role::Collection),
        ("array", Role::Collection),
        ("pair", Role::Member),
        ("string", Role::String),
        ("number", Role::Literal),
        ("true", Role::Literal),
        ("false", Role::Literal),
        ("null", Role::Literal),
        ("comment", Role::Comment),
    ],
    names: &[("pair", &["key"])],
    line_comment: "//",
    joined: &[],
    doc_comments: &[],
};
