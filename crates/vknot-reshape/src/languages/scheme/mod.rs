//! Scheme: looks as in its kin.

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
    name: "scheme",
    layout: None,
    looks: &racket::LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec {
        listed: "",
        scopes: Some(&racket::scopes::SCOPES),
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::IndentStyle,
        Key::TabWidth,
        Key::IndentHeads,
        Key::WrapLiteral,
    ],
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, forms: Some(&FORMS), ..usual::INDENT };

const FORMS: FormSpec = FormSpec {
    heads: &[
        (HeadRule::Body(0), &["begin", "delay", "define", "declare", "cons-stream", "define-record-type"]),
        (
            HeadRule::Body(1),
            &[
                "lambda", "set!", "set-cdr!", "set-car!", "assert", "named-lambda", "let", "let*", "letrec", "letrec*",
                "let-values", "let*-values", "when", "unless",
                "case", "match", "fluid-let", "parameterize", "let-syntax", "letrec-syntax", "syntax-rules",
                "rec", "guard", "let-optionals", "let-optionals*", "and-let*", "er-macro-transformer",
                "assert-when",
            ],
        ),
        (HeadRule::Body(2), &["do", "receive", "receive-values", "syntax-case", "let-named"]),
    ],
    prefixes: &[
        ("define", HeadRule::Body(0)),
        ("with-", HeadRule::Body(1)),
        ("let", HeadRule::Body(1)),
        ("call-with-", HeadRule::Body(1)),
    ],
    data: &["["],
    clauses: &[("cond", 0), ("case", 1), ("match", 1), ("case-lambda", 0), ("syntax-rules", 1), ("syntax-case", 2)],
    quotes: &["'"],
    named_loops: &["let"],
    called: &[","],
    qualified: false,
    body: 2,
    argument: 4,
};
