//! Clojure.

use crate::language::{Kind, LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::forms::{self, Dialect};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "clojure",
    title: "Clojure",
    aliases: &["edn"],
    extensions: &["clj", "cljs", "cljc", "edn", "cljd"],
    interpreters: &["clojure", "clj", "bb"],
    roles: &[forms::ROLES],
    line_comment: ";",
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: forms::KINDS, read: |text, builder| forms::read(text, &DIALECT, builder) },
    ..READING_OF_MOST
};

const DIALECT: Dialect = Dialect {
    clojure: true,
    scheme: false,
    texts: false,
    heads: HEADS,
    head_beginnings: &[("def", forms::VALUE)],
};

/// What the forms with these heads are; sorted.
const HEADS: &[(&str, Kind)] = &[
    ("case", forms::CONDITIONAL),
    ("cond", forms::CONDITIONAL),
    ("cond->", forms::CONDITIONAL),
    ("cond->>", forms::CONDITIONAL),
    ("condp", forms::CONDITIONAL),
    ("def", forms::VALUE),
    ("def-", forms::VALUE),
    ("definline", forms::FUNCTION),
    ("definterface", forms::TYPE),
    ("defmacro", forms::FUNCTION),
    ("defmacro-", forms::FUNCTION),
    ("defmethod", forms::FUNCTION),
    ("defmulti", forms::FUNCTION),
    ("defn", forms::FUNCTION),
    ("defn-", forms::FUNCTION),
    ("defonce", forms::VALUE),
    ("defprotocol", forms::TYPE),
    ("defrecord", forms::TYPE),
    ("defstruct", forms::TYPE),
    ("deftest", forms::FUNCTION),
    ("deftype", forms::TYPE),
    ("doseq", forms::LOOP),
    ("dotimes", forms::LOOP),
    ("fn*", forms::FUNCTION),
    ("for", forms::LOOP),
    ("if", forms::CONDITIONAL),
    ("if-let", forms::CONDITIONAL),
    ("if-not", forms::CONDITIONAL),
    ("if-some", forms::CONDITIONAL),
    ("import", forms::IMPORT),
    ("in-ns", forms::NAMESPACE),
    ("loop", forms::LOOP),
    ("ns", forms::NAMESPACE),
    ("refer", forms::IMPORT),
    ("require", forms::IMPORT),
    ("s/def", forms::VALUE),
    ("use", forms::IMPORT),
    ("when", forms::CONDITIONAL),
    ("when-let", forms::CONDITIONAL),
    ("when-not", forms::CONDITIONAL),
    ("when-some", forms::CONDITIONAL),
    ("while", forms::LOOP),
];
