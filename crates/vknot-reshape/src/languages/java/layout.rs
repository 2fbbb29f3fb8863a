//! How Java is laid out.

use vknot_style::Key;

use crate::spec::layout::{
    Annotations, ARM, BraceOf, BRACES, Braces, Fill, Hug, Items, LAYOUT_OF_MOST, LayoutSpec, Link, LIST, List,
    OPERATORS, Pad, Rule, SpaceRow, WORDS, Words,
};
use crate::spec::layout::Side::{Author, By, Open, Tight};

pub(super) const LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    spacing: SPACING,
    hugs: HUGS,
    chain: &[
        ("method_invocation", "object", Link::Call),
        ("field_access", "object", Link::Access),
        ("array_access", "array", Link::Suffix),
    ],
    precedence: &[
        &["||"],
        &["&&"],
        &["|"],
        &["^"],
        &["&"],
        &["==", "!="],
        &["<", ">", "<=", ">="],
        &["<<", ">>", ">>>"],
        &["+", "-"],
        &["*", "/", "%"],
    ],
    blocks_are_meant: true,
    nothing_between: &[("(", ";"), (";", ";"), (";", ")")],
    habits: &[Key::SpaceBlock, Key::SpaceCast, Key::SpaceControl, Key::WrapAnnotation],
    space_operators: true,
    names_hold_first_call: true,
    classes_without_names: true,
    ..LAYOUT_OF_MOST
};

/// Members that have a blank line around them when they have a body.
const APART: &[&str] = &[
    "method_declaration",
    "constructor_declaration",
    "compact_constructor_declaration",
    "class_declaration",
    "interface_declaration",
    "enum_declaration",
    "record_declaration",
    "annotation_type_declaration",
    "block",
];

const MEMBERS: Rule = Rule::Braces(Braces { apart: APART, leading_blank: true, single: true, ..BRACES });
const STATEMENTS: Rule = Rule::Braces(Braces { single: true, ..BRACES });
const PLAIN: Rule = Rule::Words(WORDS);
const CLAUSES: &[&str] = &["superclass", "super_interfaces", "extends_interfaces", "permits", "throws"];

const DECLARATION: Words = Words {
    clauses: CLAUSES,
    late: Some(("type_parameters", "type")),
    annotations: Annotations::BySetting,
    brace: BraceOf::Declaration,
    ..WORDS
};
const FIELD: Words = Words { annotations: Annotations::Author, ..WORDS };
const CONTROL: Words = Words {
    bodies: &["consequence", "alternative", "body"],
    joined: &["else", "catch_clause", "finally_clause", "while"],
    brace: BraceOf::Control,
    ..WORDS
};
const LISTED: List =
    List { together: true, reluctant: true, padded: Pad::By(Key::SpaceParenthesis), ..LIST };
const PARAMETERS: Rule = Rule::List(LISTED);
const ARGUMENTS: Rule = Rule::List(LISTED);
const TYPES: Rule =
    Rule::List(List { keep: true, only_kept: true, hug: false, padded: Pad::Nothing, ..LISTED });
const ARRAY: List = List {
    close_apart: true,
    keep: true,
    fill: Fill::Simple,
    comma: true,
    padded: Pad::By(Key::SpaceBrace),
    ..LIST
};
const EQUALS: Rule = Rule::Assign(&["="]);

const TYPE: Rule = Rule::Words(Words { brace: BraceOf::Type, ..DECLARATION });

const RULES: &[(&str, Rule)] = &[
    ("program", Rule::Items(Items { apart: APART, imports_apart: true })),
    ("package_declaration", PLAIN),
    ("import_declaration", PLAIN),
    ("scoped_identifier", PLAIN),
    ("scoped_type_identifier", PLAIN),
    // Declarations.
    ("class_declaration", TYPE),
    ("interface_declaration", TYPE),
    ("enum_declaration", TYPE),
    ("record_declaration", TYPE),
    ("annotation_type_declaration", TYPE),
    ("module_declaration", TYPE),
    ("method_declaration", Rule::Words(DECLARATION)),
    ("constructor_declaration", Rule::Words(DECLARATION)),
    ("compact_constructor_declaration", Rule::Words(DECLARATION)),
    ("annotation_type_element_declaration", Rule::Words(FIELD)),
    ("static_initializer", Rule::Words(DECLARATION)),
    ("field_declaration", Rule::Words(FIELD)),
    ("constant_declaration", Rule::Words(FIELD)),
    ("enum_constant", Rule::Words(FIELD)),
    ("local_variable_declaration", Rule::Words(FIELD)),
    ("variable_declarator", EQUALS),
    ("modifiers", PLAIN),
    ("superclass", PLAIN),
    ("super_interfaces", PLAIN),
    ("extends_interfaces", PLAIN),
    ("permits", PLAIN),
    ("type_list", Rule::Commas),
    ("throws", Rule::Commas),
    ("formal_parameter", PLAIN),
    ("spread_parameter", PLAIN),
    ("receiver_parameter", PLAIN),
    ("catch_formal_parameter", PLAIN),
    ("catch_type", PLAIN),
    // Bodies.
    ("class_body", MEMBERS),
    ("interface_body", MEMBERS),
    ("annotation_type_body", MEMBERS),
    ("module_body", MEMBERS),
    ("enum_body", Rule::Braces(Braces { apart: APART, leading_blank: true, rows: true, ..BRACES })),
    ("enum_body_declarations", Rule::Items(Items { apart: APART, imports_apart: false })),
    ("block", STATEMENTS),
    ("constructor_body", STATEMENTS),
    ("switch_block", STATEMENTS),
    ("switch_block_statement_group", ARM),
    ("switch_rule", Rule::Assign(&["->"])),
    ("switch_label", Rule::Commas),
    ("guard", PLAIN),
    // Lists.
    ("formal_parameters", PARAMETERS),
    ("inferred_parameters", PARAMETERS),
    ("type_parameters", Rule::List(List { padded: Pad::Nothing, ..LISTED })),
    ("type_arguments", TYPES),
    ("record_pattern_body", PARAMETERS),
    ("resource_specification", PARAMETERS),
    ("argument_list", ARGUMENTS),
    ("annotation_argument_list", ARGUMENTS),
    ("array_initializer", Rule::List(ARRAY)),
    ("element_value_array_initializer", Rule::List(ARRAY)),
    // Statements.
    ("if_statement", Rule::Words(CONTROL)),
    ("while_statement", Rule::Words(CONTROL)),
    ("do_statement", Rule::Words(CONTROL)),
    ("for_statement", Rule::Words(CONTROL)),
    ("enhanced_for_statement", Rule::Words(CONTROL)),
    ("synchronized_statement", Rule::Words(CONTROL)),
    ("switch_expression", Rule::Words(CONTROL)),
    ("try_statement", Rule::Words(CONTROL)),
    ("try_with_resources_statement", Rule::Words(CONTROL)),
    ("catch_clause", Rule::Words(CONTROL)),
    ("finally_clause", Rule::Words(CONTROL)),
    ("labeled_statement", Rule::Words(Words { author: LABELED, ..WORDS })),
    ("expression_statement", PLAIN),
    ("explicit_constructor_invocation", PLAIN),
    ("assert_statement", PLAIN),
    ("return_statement", PLAIN),
    ("throw_statement", PLAIN),
    ("yield_statement", PLAIN),
    ("break_statement", PLAIN),
    ("continue_statement", PLAIN),
    ("exports_module_directive", PLAIN),
    ("opens_module_directive", PLAIN),
    ("provides_module_directive", PLAIN),
    ("requires_module_directive", PLAIN),
    ("uses_module_directive", PLAIN),
    // Expressions.
    ("method_invocation", Rule::Chain),
    ("field_access", Rule::Chain),
    ("array_access", Rule::Chain),
    ("binary_expression", OPERATORS),
    ("assignment_expression", Rule::Assign(ASSIGNMENTS)),
    ("element_value_pair", EQUALS),
    ("resource", EQUALS),
    ("lambda_expression", Rule::Assign(&["->"])),
    ("ternary_expression", Rule::Words(Words { wrap: &["?", ":"], wrap_by: Some(Key::WrapConditional), ..WORDS })),
    ("unary_expression", PLAIN),
    ("update_expression", PLAIN),
    ("instanceof_expression", PLAIN),
    ("cast_expression", PLAIN),
    ("parenthesized_expression", PLAIN),
    ("object_creation_expression", Rule::Words(Words { brace: BraceOf::Lambda, ..WORDS })),
    ("array_creation_expression", PLAIN),
    ("dimensions", PLAIN),
    ("dimensions_expr", PLAIN),
    ("method_reference", PLAIN),
    ("class_literal", PLAIN),
    ("annotation", PLAIN),
    ("marker_annotation", PLAIN),
    // Types and patterns.
    ("generic_type", PLAIN),
    ("array_type", PLAIN),
    ("annotated_type", PLAIN),
    ("type_parameter", PLAIN),
    (
        "type_bound",
        Rule::Words(Words {
            lines: true,
            wrap: &["&"],
            wrap_by: Some(Key::WrapOperator),
            wrap_kept: true,
            ..WORDS
        }),
    ),
    ("wildcard", PLAIN),
    ("pattern", PLAIN),
    ("type_pattern", PLAIN),
    ("record_pattern", PLAIN),
    ("record_pattern_component", PLAIN),
];

const LABELED: &[&str] = &[
    "block",
    "do_statement",
    "enhanced_for_statement",
    "expression_statement",
    "for_statement",
    "if_statement",
    "switch_expression",
    "try_statement",
    "while_statement",
];

const ASSIGNMENTS: &[&str] = &["=", "+=", "-=", "*=", "/=", "&=", "|=", "^=", "%=", "<<=", ">>=", ">>>="];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, Open),
    ("", ";", Tight, Open),
    ("", ".", Tight, Tight),
    ("", "::", Tight, Tight),
    ("", "(", Open, By(Key::SpaceParenthesis)),
    ("", ")", By(Key::SpaceParenthesis), Open),
    ("", "[", Tight, Tight),
    ("", "]", Tight, Open),
    ("", "@", Open, Tight),
    ("", "@interface", Open, Open),
    ("", "...", Tight, Open),
    ("", "argument_list", By(Key::SpaceArguments), Open),
    ("", "annotation_argument_list", By(Key::SpaceArguments), Open),
    ("", "formal_parameters", By(Key::SpaceParameters), Open),
    ("", "record_pattern_body", Tight, Open),
    ("", "type_arguments", Tight, Open),
    ("", "type_parameters", Tight, Open),
    ("", "dimensions", Tight, Open),
    ("", "dimensions_expr", Tight, Open),
    ("method_invocation", "type_arguments", Tight, Tight),
    ("explicit_constructor_invocation", "type_arguments", Tight, Tight),
    ("object_creation_expression", "type_arguments", Open, Open),
    ("method_declaration", "type_parameters", Open, Open),
    ("constructor_declaration", "type_parameters", Open, Open),
    ("lambda_expression", "formal_parameters", Open, Open),
    ("if_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("while_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("do_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("switch_expression", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("synchronized_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("try_with_resources_statement", "resource_specification", By(Key::SpaceControl), Open),
    ("array_creation_expression", "array_initializer", Author, Open),
    ("for_statement", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("enhanced_for_statement", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("catch_clause", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("cast_expression", ")", By(Key::SpaceParenthesis), By(Key::SpaceCast)),
    ("array_access", "[", Tight, By(Key::SpaceIndex)),
    ("array_access", "]", By(Key::SpaceIndex), Open),
    ("unary_expression", "+", Open, By(Key::SpaceUnary)),
    ("unary_expression", "-", Open, By(Key::SpaceUnary)),
    ("unary_expression", "!", Open, By(Key::SpaceUnary)),
    ("unary_expression", "~", Open, Tight),
    ("update_expression", "++", Tight, Tight),
    ("update_expression", "--", Tight, Tight),
    ("labeled_statement", ":", Tight, Open),
    ("switch_block_statement_group", ":", Tight, Open),
    ("annotated_type", "dimensions", Open, Open),
    ("annotation_type_element_declaration", "(", Tight, Tight),
];

const HUGS: &[(&str, Hug)] = &[
    ("block", Hug::Opens),
    ("class_body", Hug::Opens),
    ("switch_block", Hug::Opens),
    ("array_initializer", Hug::Opens),
    ("element_value_array_initializer", Hug::Opens),
    ("lambda_expression", Hug::Last),
    ("object_creation_expression", Hug::Last),
    ("array_creation_expression", Hug::Last),
    ("switch_expression", Hug::Last),
    ("element_value_pair", Hug::Last),
    ("method_invocation", Hug::Last),
    ("argument_list", Hug::Item),
    ("annotation_argument_list", Hug::Item),
];
