//! How C and C++ are laid out. What an operator or a bracket is often depends on declarations elsewhere, so spaces that no row speaks of
//! stay as written, and so do the lines inside a declaration.

use vknot_style::Key;

use crate::spec::layout::{
    ARM, BraceOf, BRACES, Braces, CellsOf, Fill, Hug, Items, LAYOUT_OF_MOST, LayoutSpec, Link, LIST, List, OPERATORS,
    Pad, Rule, SpaceRow, WORDS, Words,
};
use crate::spec::layout::Side::{Author, By, Open, Set, Tight};

pub(crate) const LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    within: &[
        ("conditional", "arm", BRANCH),
        ("guard", "arm", BRANCH),
        ("macro_block", "arm", BRANCH),
    ],
    spacing: SPACING,
    hugs: HUGS,
    dots: &[".", "->"],
    chain: &[
        ("call", "", Link::Arguments),
        ("access", "", Link::Access),
    ],
    precedence: &[
        &["||"],
        &["&&"],
        &["|"],
        &["^"],
        &["&"],
        &["==", "!="],
        &["<", ">", "<=", ">=", "<=>"],
        &["<<", ">>"],
        &["+", "-"],
        &["*", "/", "%"],
    ],
    streams: &["<<", ">>"],
    types_as_callables: false,
    names_hold_first_call: true,
    chains_hold_blocks: true,
    as_written: true,
    nothing_between: &[("(", ";"), (";", ")"), ("?", ":")],
    marks: "+",
    habits: &[
        Key::SpaceAssignment,
        Key::SpaceBlock,
        Key::SpaceComma,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceLogical,
        Key::WrapOperator,
    ],
    ..LAYOUT_OF_MOST
};

/// What has a blank line around it, where a setting says so, when it has a body.
const APART: &[&str] = &["namespace", "linkage", "class", "struct", "union", "enum", "function"];

const LINES: Rule = Rule::Lines(None);
const DECLARATION: Words = Words { lines: true, brace: BraceOf::Declaration, ..WORDS };
const DECLARED: Rule = Rule::Words(Words { led: Some(":"), ..DECLARATION });
/// A declaration of one thing, whose name and value may line up with those of its neighbours.
const VARIABLE: Rule = Rule::Words(Words { lines: true, cells: &["name", "="], cells_of: CellsOf::Long, ..WORDS });
const CONTROL: Words = Words {
    lines: true,
    bodies: &["body"],
    body_kinds: &["statement", "conditional", "loop", "guard", "macro_block"],
    joined: &["arm", "while"],
    brace: BraceOf::Control,
    ..WORDS
};
const BRANCH: Rule = Rule::Words(CONTROL);
const LISTED: List = List {
    padded: Pad::By(Key::SpaceParenthesis),
    fill: Fill::Author,
    hug_single: true,
    hug_any: true,
    ..LIST
};
const ARGUMENTS: Rule = Rule::List(LISTED);

const TYPE: Rule = Rule::Words(Words { brace: BraceOf::Type, led: Some(":"), ..DECLARATION });

const RULES: &[(&str, Rule)] = &[
    ("unit", Rule::Items(Items { apart: APART, imports_apart: false })),
    ("namespace", TYPE),
    ("linkage", TYPE),
    ("class", TYPE),
    ("struct", TYPE),
    ("union", TYPE),
    ("enum", TYPE),
    ("function", DECLARED),
    ("function_declaration", LINES),
    ("declaration", VARIABLE),
    ("alias", LINES),
    ("constant", Rule::Words(Words { lines: true, cells: &["="], ..WORDS })),
    ("parameter", LINES),
    // Bodies.
    ("body", Rule::Braces(Braces { apart: APART, leading_blank: true, single: true, rows: true, ..BRACES })),
    ("block", Rule::Braces(Braces { single: true, ..BRACES })),
    ("arm", ARM),
    ("label", LINES),
    // Lists.
    ("parameters", ARGUMENTS),
    ("arguments", ARGUMENTS),
    (
        "group",
        Rule::List(List { keep: true, only_kept: true, hug: false, hug_any: false, close_apart: true, ..LISTED }),
    ),
    ("subscript", LINES),
    ("attribute", LINES),
    ("constraint", LINES),
    ("template_parameters", LINES),
    ("template_arguments", LINES),
    ("initializer", Rule::List(List {
        padded: Pad::By(Key::SpaceBrace),
        close_apart: true,
        keep: true,
        fill: Fill::Author,
        hug_any: true,
        lines: true,
        comma: true,
        ..LIST
    })),
    // Statements.
    ("statement", LINES),
    ("conditional", BRANCH),
    ("loop", BRANCH),
    ("guard", BRANCH),
    ("macro_block", BRANCH),
    // Expressions.
    ("call", Rule::Chain),
    ("access", Rule::Chain),
    ("operation", OPERATORS),
    ("assignment", Rule::Assign(ASSIGNMENTS)),
    ("choice", Rule::Words(Words { wrap: &["?", ":"], wrap_by: Some(Key::WrapConditional), wrap_kept: true, ..WORDS })),
    ("unary_operation", LINES),
    ("cast", LINES),
    ("strings", LINES),
    ("lambda", Rule::Words(Words { lines: true, brace: BraceOf::Lambda, ..WORDS })),
    ("qualified_name", LINES),
];

const ASSIGNMENTS: &[&str] = &["=", "+=", "-=", "*=", "/=", "%=", "&=", "|=", "^=", "<<=", ">>="];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, By(Key::SpaceComma)),
    ("", ";", Tight, Author),
    ("group", ";", Tight, Author),
    ("", "(", Author, By(Key::SpaceParenthesis)),
    ("", ")", By(Key::SpaceParenthesis), Author),
    ("", "block", Open, Author),
    ("", "body", Open, Author),
    ("call", "arguments", By(Key::SpaceArguments), Author),
    ("function", "parameters", By(Key::SpaceParameters), Author),
    ("function_declaration", "parameters", By(Key::SpaceParameters), Author),
    ("conditional", "group", By(Key::SpaceControl), Open),
    ("loop", "group", By(Key::SpaceControl), Author),
    ("arm", "group", By(Key::SpaceControl), Open),
    ("label", ":", Tight, Open),
    ("access", ".", Tight, Tight),
    ("access", "->", Tight, Tight),
    ("qualified_name", "::", Author, Tight),
    ("choice", "?", Open, Open),
    ("choice", ":", Open, Open),
    ("declaration", "=", By(Key::SpaceAssignment), By(Key::SpaceAssignment)),
    ("statement", "=", By(Key::SpaceAssignment), By(Key::SpaceAssignment)),
    ("constant", "=", By(Key::SpaceAssignment), By(Key::SpaceAssignment)),
    ("parameter", "=", By(Key::SpaceAssignment), By(Key::SpaceAssignment)),
    ("assignment", "+", By(Key::SpaceAssignment), By(Key::SpaceAssignment)),
    // What may be a product or a pointer, a bit operation or a reference, stays as written, and how tight others are depends on those
    // around them.
    ("operation", "+", Set(Key::SpaceOperator), Set(Key::SpaceOperator)),
    ("operation", "==", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", "!=", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", "<", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", ">", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", "<=", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", ">=", By(Key::SpaceComparison), By(Key::SpaceComparison)),
    ("operation", "&&", By(Key::SpaceLogical), By(Key::SpaceLogical)),
    ("operation", "||", By(Key::SpaceLogical), By(Key::SpaceLogical)),
];

const HUGS: &[(&str, Hug)] = &[
    ("block", Hug::Opens),
    ("initializer", Hug::Opens),
    ("lambda", Hug::Last),
    ("call", Hug::Either),
    ("access", Hug::First),
    ("arguments", Hug::Item),
];
