//! What most languages have in common, for the end of a language's own tables.

use crate::spec::indent::{Hold, IndentSpec, LinesBy};
use crate::spec::inner::nothing_inside;
use crate::spec::looks::{LookSpec, RegionMarkers};

/// How lines stand in most languages.
pub(crate) const INDENT: IndentSpec = IndentSpec {
    habit: 4,
    tabs: false,
    holds: &[],
    middle: &["else", "catch", "finally"],
    tails: &["while"],
    cases: &["case"],
    stacked: &[],
    named: &[],
    else_if: Some(("else", "if")),
    leads: &["=", "return", ":=", "+=", "-="],
    falls_through: &["fall"],
    directives: [
        &["if", "ifdef", "ifndef", "ifopt"],
        &["else", "elif", "elifdef", "elifndef", "elseif", "elseifdef"],
        &["endif", "ifend"],
    ],
    conditions: &[],
    operators: &[],
    namespaces: &[],
    prefixes: &[],
    parameters: &[],
    constraints: &[],
    page: &[],
    preserved: &[],
    templates: None,
    module_function: false,
    flush: &[],
    ends: &[";", "{", "}", ",", ":"],
    opening: &[],
    closing: &[],
    forms: None,
    marks: &[],
    hidden: "",
    prefixed_names: false,
    links_follow_blocks: false,
    lines: LinesBy::Structure,
};

/// The nodes of expressions that hand-made readers tell: lines inside them stand as what holds them says.
pub(crate) const EXPRESSIONS: (Hold, &[&str]) = (
    Hold::Through,
    &["access", "assignment", "call", "cast", "choice", "operation", "strings", "unary_operation", "uncertain"],
);

/// How most languages look.
pub(crate) const LOOKS: LookSpec = LookSpec {
    details: &[],
    words: &[],
    outlined: &[],
    named_values: &[],
    name_lists: &[],
    named_calls: false,
    methods: false,
    wrappers: &[],
    hidden: &[],
    rungs: &[],
    conditionals: &["if_statement"],
    loops: &["for_statement", "while_statement", "do_statement"],
    region_markers: RegionMarkers::Comment,
    sections: false,
    inside: nothing_inside,
};
