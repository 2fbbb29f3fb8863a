//! Racket.

use crate::language::{Kind, LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::forms::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "racket",
    first_lines: &["#lang "],
    title: "Racket",
    aliases: &["rkt"],
    extensions: &["rkt", "rktl", "rktd"],
    interpreters: &["racket"],
    roles: &[forms::ROLES],
    line_comment: ";",
    block_comment: ("#|", "|#"),
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: forms::KINDS, read: |text, builder| forms::read(text, &DIALECT, builder) },
    ..READING_OF_MOST
};

const DIALECT: Dialect = Dialect {
    clojure: false,
    scheme: false,
    heads: HEADS,
    head_beginnings: &[("define-", forms::VALUE)],
};

/// What the forms with these heads are; sorted.
const HEADS: &[(&str, Kind)] = &[
    ("all-defined-out", forms::IMPORT),
    ("and", forms::CONDITIONAL),
    ("case", forms::CONDITIONAL),
    ("case-lambda", forms::CONDITIONAL),
    ("class", forms::TYPE),
    ("class*", forms::TYPE),
    ("cond", forms::CONDITIONAL),
    ("define", forms::DEFINITION),
    ("define-class", forms::TYPE),
    ("define-constant", forms::VALUE),
    ("define-cpointer-type", forms::VALUE),
    ("define-cstruct", forms::VALUE),
    ("define-for-syntax", forms::DEFINITION),
    ("define-generics", forms::FUNCTION),
    ("define-inline", forms::DEFINITION),
    ("define-logger", forms::VALUE),
    ("define-macro", forms::FUNCTION),
    ("define-match-expander", forms::FUNCTION),
    ("define-record-type", forms::TYPE),
    ("define-runtime-path", forms::VALUE),
    ("define-signature", forms::TYPE),
    ("define-simple-macro", forms::FUNCTION),
    ("define-struct", forms::TYPE),
    ("define-syntax", forms::FUNCTION),
    ("define-syntax-parameter", forms::FUNCTION),
    ("define-syntax-parse-rule", forms::FUNCTION),
    ("define-syntax-rule", forms::FUNCTION),
    ("define-syntaxes", forms::FUNCTION),
    ("define-unit", forms::TYPE),
    ("define-values", forms::FUNCTION),
    ("define/augment", forms::FUNCTION),
    ("define/contract", forms::DEFINITION),
    ("define/override", forms::DEFINITION),
    ("define/private", forms::DEFINITION),
    ("define/public", forms::DEFINITION),
    ("do", forms::LOOP),
    ("for", forms::LOOP),
    ("for*", forms::LOOP),
    ("for*/fold", forms::LOOP),
    ("for*/list", forms::LOOP),
    ("for*/vector", forms::LOOP),
    ("for/and", forms::LOOP),
    ("for/first", forms::LOOP),
    ("for/fold", forms::LOOP),
    ("for/hash", forms::LOOP),
    ("for/hasheq", forms::LOOP),
    ("for/last", forms::LOOP),
    ("for/list", forms::LOOP),
    ("for/or", forms::LOOP),
    ("for/set", forms::LOOP),
    ("for/string", forms::LOOP),
    ("for/sum", forms::LOOP),
    ("for/vector", forms::LOOP),
    ("if", forms::CONDITIONAL),
    ("interface", forms::TYPE),
    ("match", forms::CONDITIONAL),
    ("match*", forms::CONDITIONAL),
    ("match-let", forms::CONDITIONAL),
    ("module", forms::MODULE),
    ("module*", forms::MODULE),
    ("module+", forms::MODULE),
    ("or", forms::CONDITIONAL),
    ("provide", forms::IMPORT),
    ("require", forms::IMPORT),
    ("struct", forms::TYPE),
    ("struct/contract", forms::TYPE),
    ("unless", forms::CONDITIONAL),
    ("until", forms::LOOP),
    ("when", forms::CONDITIONAL),
    ("while", forms::LOOP),
];
