//! Scheme.

use crate::language::{Kind, LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::forms::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "scheme",
    title: "Scheme",
    extensions: &["scm", "ss", "sld", "sls", "sps"],
    interpreters: &["scheme", "guile", "csi", "gosh", "gsi", "chibi-scheme", "chez"],
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
    scheme: true,
    texts: false,
    heads: HEADS,
    head_beginnings: &[("define-", forms::VALUE)],
};

/// What the forms with these heads are; sorted.
const HEADS: &[(&str, Kind)] = &[
    ("and-let*", forms::CONDITIONAL),
    ("case", forms::CONDITIONAL),
    ("cond", forms::CONDITIONAL),
    ("define", forms::DEFINITION),
    ("define*", forms::DEFINITION),
    ("define-class", forms::TYPE),
    ("define-constant", forms::VALUE),
    ("define-foreign-type", forms::VALUE),
    ("define-generic", forms::FUNCTION),
    ("define-inline", forms::DEFINITION),
    ("define-integrable", forms::DEFINITION),
    ("define-library", forms::MODULE),
    ("define-macro", forms::FUNCTION),
    ("define-method", forms::FUNCTION),
    ("define-module", forms::MODULE),
    ("define-public", forms::DEFINITION),
    ("define-record", forms::TYPE),
    ("define-record-type", forms::TYPE),
    ("define-structure", forms::TYPE),
    ("define-syntax", forms::FUNCTION),
    ("define-syntax-rule", forms::FUNCTION),
    ("define-values", forms::VALUE),
    ("defmacro", forms::FUNCTION),
    ("defmacro-public", forms::FUNCTION),
    ("do", forms::LOOP),
    ("dolist", forms::LOOP),
    ("dotimes", forms::LOOP),
    ("export", forms::IMPORT),
    ("if", forms::CONDITIONAL),
    ("import", forms::IMPORT),
    ("include", forms::IMPORT),
    ("library", forms::MODULE),
    ("load", forms::IMPORT),
    ("match", forms::CONDITIONAL),
    ("module", forms::MODULE),
    ("require", forms::IMPORT),
    ("unless", forms::CONDITIONAL),
    ("until", forms::LOOP),
    ("use", forms::IMPORT),
    ("use-modules", forms::IMPORT),
    ("when", forms::CONDITIONAL),
    ("while", forms::LOOP),
];
