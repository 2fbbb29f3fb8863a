//! C++.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::braces;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "cpp",
    title: "C++",
    aliases: &["c++"],
    extensions: &["cpp", "cc", "cxx", "c++", "hpp", "hh", "hxx", "h++", "ipp", "tpp", "inl", "h"],
    roles: &[braces::ROLES],
    line_comment: "//",
    block_comment: ("/*", "*/"),
    doc_comments: &["///", "/**"],
    joined: JOINED,
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(|extension, text| extension != "h" || is_cpp(text) && !is_objective(text)),
    reader: Reader::Own { kinds: braces::KINDS, read: braces::read },
    ..READING_OF_MOST
};

/// Whether a header is of this language rather than of its elder kin: lines begin with words that only this one has.
pub(crate) fn is_cpp(text: &str) -> bool {
    let guarded = text.contains("__cplusplus");
    text.lines().any(|line| {
        let line = line.trim_start();
        let words = [
            "namespace ", "template <", "template<", "class ", "using ", "public:", "private:", "protected:",
            "virtual ", "constexpr ",
        ];
        let headers = [
            "#include <string>",
            "#include <vector>",
            "#include <memory>",
            "#include <map>",
            "#include <iostream>",
            "#include <cstdint>",
            "#include <functional>",
        ];
        let leads = words.iter().chain(&headers).any(|word| line.starts_with(word));
        leads && !(guarded && line.starts_with("class ")) || line.contains("std::")
    })
}

/// Whether a file declares what only Objective-C has.
pub(crate) fn is_objective(text: &str) -> bool {
    let words = ["@interface ", "@implementation ", "@protocol ", "@class ", "@import ", "@property", "@end"];
    text.lines().any(|line| words.iter().any(|word| line.starts_with(word)))
}

/// Marks that are read as one when they touch.
pub(crate) const JOINED: &[&str] = &[
    "++", "--", "&&", "||", "==", "!=", "<=", ">=", "->", "::", "<<", ">>", "+=", "-=", "*=", "/=", "&=", "|=", "^=",
    "%=", "##", "..",
];
