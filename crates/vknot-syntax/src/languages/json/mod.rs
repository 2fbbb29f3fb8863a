//! JSON, with comments where a file has them.

use crate::language::{LANGUAGE, LanguageSpec, Reader, RoleRow};
use crate::role::Role;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "json",
    title: "JSON",
    extensions: &["json", "jsonc", "geojson", "webmanifest"],
    file_names: &[".jsonc"],
    reader: Reader::Grammar(|| tree_sitter_json::LANGUAGE.into()),
    roles: &[ROLES],
    names: &[("pair", &["key"])],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    ..LANGUAGE
};

const ROLES: &[RoleRow] = &[
    (Role::File, &["document"]),
    (Role::Member, &["pair"]),
    (Role::Collection, &["object", "array"]),
    (Role::Literal, &["number", "true", "false", "null"]),
    (Role::String, &["string"]),
    (Role::Comment, &["comment"]),
];
