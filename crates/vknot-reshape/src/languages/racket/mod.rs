//! Racket.

mod imports;
pub(crate) mod laws;
mod procedures;
pub(crate) mod scopes;

use vknot_style::{Key, LanguageStyle};

use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::forms::{FormSpec, HeadRule};
use crate::languages::usual;
use crate::spec::indent::IndentSpec;
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "racket",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        listed: "",
        scopes: Some(&scopes::SCOPES),
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

pub(super) const LOOKS: LookSpec = LookSpec {
    hidden: &["skipped"],
    conditionals: &["conditional"],
    loops: &["loop"],
    sections: true,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { habit: 2, forms: Some(&FORMS), ..usual::INDENT };

const FORMS: FormSpec = FormSpec {
    heads: &[
        (
            HeadRule::Body(0),
            &[
                "begin", "define", "module+", "delay", "local", "unit", "provide/contract",
            ],
        ),
        (
            HeadRule::Body(1),
            &[
                "lambda", "set!", "λ", "let", "let*", "letrec", "let-values", "let*-values", "letrec-values", "when",
                "unless",
                "case", "match", "match*", "class", "for", "for/list", "parameterize", "syntax-rules", "struct",
                "test-case",
                "with-handlers", "let-syntax", "letrec-syntax", "opt-lambda", "module*", "public", "private", "mixin",
                "case-lambda",
                "let/ec", "let/cc", "shared", "syntax-parse", "match-define", "interface", "thread-loop",
            ],
        ),
        (HeadRule::Body(2), &[
            "do",
            "syntax-case",
            "module",
            "for/fold",
            "for*/fold",
            "class*",
            "match-let",
            "syntax-case*",
        ]),
        (HeadRule::Call, &["cond", "begin0"]),
    ],
    prefixes: &[
        ("define", HeadRule::Body(0)),
        ("with-", HeadRule::Body(1)),
        ("for/", HeadRule::Body(1)),
        ("for*", HeadRule::Body(1)),
        ("let", HeadRule::Body(1)),
        ("call-with-", HeadRule::Call),
        ("parameterize", HeadRule::Body(1)),
        ("match-", HeadRule::Body(1)),
    ],
    data: &["{"],
    clauses: &[
        ("cond", 0),
        ("case", 1),
        ("match", 1),
        ("case-lambda", 0),
        ("match*", 1),
        ("syntax-rules", 1),
        ("syntax-case", 2),
        ("syntax-parse", 1),
    ],
    quotes: &["'"],
    named_loops: &["let"],
    called: &[","],
    qualified: false,
    body: 2,
    argument: 4,
};
