//! Python.

mod laws;
mod scopes;
mod imports;
mod missing;

use vknot_style::{Key, LanguageStyle};
use vknot_syntax::{NodeId, Role, Source, Tree};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{IndentSpec, LinesBy};
use crate::spec::inner::{InnerCode, Interpolation};
use crate::spec::{ImportSpec, ToolSpec};
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "python",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&IMPORTS),
    edits: EditSpec {
        strings: Some(""),
        negation: "not ",
        both: "and",
        conditionals: &["if_statement"],
        laws: laws::LAWS,
        scopes: Some(&scopes::SCOPES),
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static IMPORTS: ImportSpec = ImportSpec { missing: Some(&missing::MISSING), ..imports::IMPORTS };

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[],
    settings: &[
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportForm,
        Key::ImportGroups,
        Key::ImportMerge,
        Key::ImportNames,
        Key::ImportOffer,
        Key::ImportOwn,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::WrapLiteral,
    ],
};

/// Values in strings that are put together (The Python Language Reference, section 2.4.3).
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    let prefix = text.split(['"', '\'']).next().unwrap_or("");
    match tree.role(token) == Role::String && prefix.contains(['f', 'F', 't', 'T']) {
        true => Interpolation { open: "{", shown: &[':', '!'], around: ("(", ")") }.values(text, start),
        false => Vec::new(),
    }
}

const LOOKS: LookSpec = LookSpec {
    details: &[],
    words: &[
        ("module", "file"),
        ("class_definition", "class"),
        ("function_definition", "function"),
        ("assignment", "variable"),
    ],
    outlined: &["assignment"],
    methods: true,
    inside,
    wrappers: &["decorated_definition"],
    conditionals: &["if_statement", "elif_clause", "match_statement"],
    loops: &["for_statement", "while_statement"],
    sections: true,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec { lines: LinesBy::Levels, ..usual::INDENT };
