//! Clojure: looks as in its kin.

mod imports;
mod laws;

use vknot_style::{Key, LanguageStyle};

use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::forms::{FormSpec, HeadRule};
use crate::languages::usual;
use crate::spec::indent::IndentSpec;
use crate::languages::racket;
use crate::spec::ToolSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "clojure",
    layout: None,
    looks: &racket::LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        listed: "",
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::ImportCase,
        Key::ImportGroups,
        Key::ImportOwn,
        Key::IndentStyle,
        Key::TabWidth,
        Key::IndentHeads,
        Key::WrapLiteral,
    ],
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, forms: Some(&FORMS), ..usual::INDENT };

const FORMS: FormSpec = FormSpec {
    heads: &[
        (HeadRule::Body(0), &["do", "try", "finally", "comment", "delay", "future", "thread", "go", "alt!", "alt!!"]),
        (
            HeadRule::Body(1),
            &[
                "let", "when", "when-not", "when-let", "when-first", "when-some", "if-let", "if-some", "if-not", "if",
                "for", "doseq",
                "dotimes", "loop", "binding", "fn", "while", "testing", "case", "cond->", "cond->>", "ns", "locking",
                "letfn",
                "extend-protocol", "extend-type", "extend", "reify", "proxy", "as->", "go-loop", "fdef", "use-fixtures",
                "bound-fn", "struct-map",
            ],
        ),
        (HeadRule::Body(2), &["catch", "condp", "are", "proxy", "deftype", "defrecord"]),
    ],
    prefixes: &[("def", HeadRule::Body(1)), ("with-", HeadRule::Body(1)), ("let-", HeadRule::Body(1))],
    data: &["[", "{", "#{"],
    clauses: &[],
    quotes: &["'", "#?", "#?@"],
    named_loops: &[],
    called: &[":", "~"],
    qualified: true,
    body: 2,
    argument: 4,
};
