//! How Rust is laid out.

use vknot_style::Key;

use crate::spec::layout::{
    Annotations, BraceOf, BRACES, Braces, Fill, Hug, Items, LAYOUT_OF_MOST, LayoutSpec, Link, LIST, List, OPERATORS,
    Pad, Rule, SpaceRow, WORDS, Words,
};
use crate::spec::spelling::{SPELLING_OF_MOST, SpellingSpec};
use crate::spec::layout::Side::{Author, By, Open, Tight};

pub(super) const LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    within: &[
        ("enum_variant", "field_declaration_list", Rule::List(RECORD)),
        ("attribute", "token_tree", Rule::CommasOnly),
    ],
    spacing: SPACING,
    hugs: HUGS,
    chain: &[
        ("call_expression", "function", Link::Arguments),
        ("field_expression", "value", Link::Access),
        ("await_expression", "", Link::Call),
        ("try_expression", "", Link::Suffix),
        ("index_expression", "", Link::Suffix),
        ("generic_function", "function", Link::Types),
    ],
    precedence: &[
        &["||"],
        &["&&"],
        &["==", "!=", "<", ">", "<=", ">="],
        &["|"],
        &["^"],
        &["&"],
        &["<<", ">>"],
        &["+", "-"],
        &["*", "/", "%"],
    ],
    else_kinds: &["else_clause"],
    space_operators: true,
    values: &["macro_invocation"],
    spelling: SpellingSpec {
        lone_commas: &["tuple_expression", "tuple_pattern", "tuple_type"],
        ..SPELLING_OF_MOST
    },
    no_comma: &["base_field_initializer", "remaining_field_pattern", "variadic_parameter", ".."],
    ..LAYOUT_OF_MOST
};

/// Items that have a blank line around them when they have a body.
const APART: &[&str] = &["function_item", "impl_item", "trait_item", "struct_item", "enum_item", "mod_item"];

/// What an implementation is of and for.
const IMPLEMENTED: &[&str] = &["generic_type", "type_identifier", "scoped_type_identifier"];

const PLAIN: Rule = Rule::Words(WORDS);
const DECLARATION: Words = Words {
    own_line: &["where_clause"],
    author: &["->"],
    brace: BraceOf::Declaration,
    ..WORDS
};
const CONTROL: Words = Words {
    brace: BraceOf::Control,
    joined: &["else_clause"],
    ..WORDS
};
const BLOCK: Braces = Braces {
    inline_in: &[
        "closure_expression",
        "if_expression",
        "else_clause",
        "unsafe_block",
        "const_block",
        "async_block",
        "match_arm",
        "let_declaration",
        "type_arguments",
        "array_type",
        "array_expression",
        "arguments",
        "const_parameter",
    ],
    single: true,
    ..BRACES
};
const FIELDS: Braces = Braces { comma: true, ..BRACES };
const LISTED: List = List {
    close_apart: true,
    hug_single: true,
    comma: true,
    padded: Pad::By(Key::SpaceParenthesis),
    ..LIST
};
const TYPES: List = List { hug: false, hug_single: true, padded: Pad::Nothing, ..LISTED };
const TUPLES: List = List { padded: Pad::By(Key::SpaceParenthesis), ..TYPES };
const RECORD: List = List { padded: Pad::By(Key::SpaceBrace), keep: true, ..LISTED };
const ARRAY: List = List { padded: Pad::By(Key::SpaceBracket), keep: true, fill: Fill::Simple, ..LISTED };
const EQUALS: Rule = Rule::Assign(&["="]);

const TYPE: Rule = Rule::Words(Words { brace: BraceOf::Type, ..DECLARATION });

const RULES: &[(&str, Rule)] = &[
    ("source_file", Rule::Items(Items { apart: APART, imports_apart: false })),
    ("declaration_list", Rule::Braces(Braces { apart: APART, leading_blank: true, ..BRACES })),
    ("field_declaration_list", Rule::Braces(FIELDS)),
    ("enum_variant_list", Rule::Braces(FIELDS)),
    ("block", Rule::Braces(BLOCK)),
    ("match_block", Rule::Braces(FIELDS)),
    // Items.
    ("use_declaration", PLAIN),
    ("scoped_use_list", PLAIN),
    ("use_list", Rule::List(List { padded: Pad::Nothing, fill: Fill::Flat, hug: false, hug_single: false, ..LISTED })),
    ("use_as_clause", PLAIN),
    ("use_wildcard", PLAIN),
    ("extern_crate_declaration", PLAIN),
    ("mod_item", TYPE),
    ("foreign_mod_item", TYPE),
    ("struct_item", TYPE),
    ("union_item", TYPE),
    ("enum_item", TYPE),
    ("trait_item", TYPE),
    ("impl_item", Rule::Words(Words {
        wrap: &["for"],
        wrap_kept: true,
        author: IMPLEMENTED,
        brace: BraceOf::Type,
        ..DECLARATION
    })),
    ("function_item", Rule::Words(DECLARATION)),
    ("function_signature_item", Rule::Words(DECLARATION)),
    ("type_item", EQUALS),
    ("associated_type", EQUALS),
    ("const_item", EQUALS),
    ("static_item", EQUALS),
    ("field_declaration", PLAIN),
    ("enum_variant", PLAIN),
    ("visibility_modifier", PLAIN),
    ("function_modifiers", PLAIN),
    ("extern_modifier", PLAIN),
    ("attribute_item", PLAIN),
    ("inner_attribute_item", PLAIN),
    ("attribute", PLAIN),
    ("where_clause", Rule::Clause),
    ("where_predicate", PLAIN),
    ("trait_bounds", PLAIN),
    ("macro_invocation", PLAIN),
    // Lists.
    ("parameters", Rule::List(List { hug: false, hug_single: false, with_header: true, ..LISTED })),
    ("ordered_field_declaration_list", Rule::List(List { hug: false, hug_single: false, ..LISTED })),
    ("closure_parameters", Rule::Commas),
    ("type_parameters", Rule::List(TYPES)),
    ("type_arguments", Rule::List(TYPES)),
    ("arguments", Rule::List(LISTED)),
    ("array_expression", Rule::List(ARRAY)),
    ("tuple_expression", Rule::List(LISTED)),
    ("field_initializer_list", Rule::List(RECORD)),
    ("tuple_type", Rule::List(TUPLES)),
    ("tuple_pattern", Rule::List(TUPLES)),
    ("tuple_struct_pattern", Rule::List(TUPLES)),
    ("struct_pattern", Rule::List(RECORD)),
    ("slice_pattern", Rule::List(TYPES)),
    // Statements and branches.
    ("expression_statement", PLAIN),
    ("let_declaration", Rule::Assign(&["="])),
    ("if_expression", Rule::Words(CONTROL)),
    ("else_clause", Rule::Words(CONTROL)),
    ("match_expression", Rule::Words(CONTROL)),
    ("while_expression", Rule::Words(CONTROL)),
    ("loop_expression", Rule::Words(CONTROL)),
    ("for_expression", Rule::Words(Words { value: Some(("in", "value")), ..CONTROL })),
    ("unsafe_block", Rule::Words(CONTROL)),
    ("async_block", Rule::Words(CONTROL)),
    ("gen_block", Rule::Words(CONTROL)),
    ("try_block", Rule::Words(CONTROL)),
    ("const_block", Rule::Words(CONTROL)),
    ("match_arm", Rule::Assign(&["=>"])),
    ("match_pattern", Rule::Words(Words { wrap: &["if"], ..WORDS })),
    ("let_condition", EQUALS),
    ("let_chain", Rule::Words(Words { wrap: &["&&"], ..WORDS })),
    ("label", PLAIN),
    // Expressions.
    ("call_expression", Rule::Chain),
    ("field_expression", Rule::Chain),
    ("await_expression", Rule::Chain),
    ("try_expression", Rule::Chain),
    ("index_expression", Rule::Chain),
    ("generic_function", Rule::Chain),
    ("binary_expression", OPERATORS),
    ("assignment_expression", Rule::Assign(&["="])),
    ("compound_assignment_expr", Rule::Assign(COMPOUND)),
    ("field_initializer", Rule::Assign(&[":"])),
    ("shorthand_field_initializer", Rule::Words(Words { annotations: Annotations::Author, ..WORDS })),
    ("base_field_initializer", PLAIN),
    ("struct_expression", PLAIN),
    ("closure_expression", PLAIN),
    ("unary_expression", PLAIN),
    ("reference_expression", PLAIN),
    ("range_expression", PLAIN),
    ("type_cast_expression", PLAIN),
    ("parenthesized_expression", PLAIN),
    ("return_expression", PLAIN),
    ("break_expression", PLAIN),
    ("continue_expression", PLAIN),
    ("yield_expression", PLAIN),
    ("negative_literal", PLAIN),
    // Paths, types and patterns.
    ("scoped_identifier", PLAIN),
    ("scoped_type_identifier", PLAIN),
    ("generic_type", PLAIN),
    ("generic_type_with_turbofish", PLAIN),
    ("reference_type", PLAIN),
    ("pointer_type", PLAIN),
    ("array_type", PLAIN),
    ("function_type", PLAIN),
    ("dynamic_type", PLAIN),
    ("abstract_type", PLAIN),
    ("bounded_type", PLAIN),
    ("bracketed_type", PLAIN),
    ("qualified_type", PLAIN),
    ("removed_trait_bound", PLAIN),
    ("higher_ranked_trait_bound", PLAIN),
    ("for_lifetimes", Rule::List(TYPES)),
    ("lifetime", PLAIN),
    ("lifetime_parameter", PLAIN),
    ("type_parameter", PLAIN),
    ("const_parameter", PLAIN),
    ("type_binding", PLAIN),
    ("parameter", PLAIN),
    ("self_parameter", PLAIN),
    ("variadic_parameter", PLAIN),
    ("or_pattern", OPERATORS),
    ("captured_pattern", PLAIN),
    ("field_pattern", PLAIN),
    ("generic_pattern", PLAIN),
    ("mut_pattern", PLAIN),
    ("ref_pattern", PLAIN),
    ("reference_pattern", PLAIN),
    ("range_pattern", PLAIN),
];

const COMPOUND: &[&str] = &["+=", "-=", "*=", "/=", "%=", "&=", "|=", "^=", "<<=", ">>="];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, Open),
    ("", ";", Tight, Open),
    ("", ":", Tight, Open),
    ("", "::", Tight, Tight),
    ("", ".", Tight, Tight),
    ("", "..", Tight, Tight),
    ("", "...", Tight, Tight),
    ("", "..=", Tight, Tight),
    ("", "(", Open, By(Key::SpaceParenthesis)),
    ("", ")", By(Key::SpaceParenthesis), Open),
    ("", "[", Open, Tight),
    ("", "]", Tight, Open),
    ("", "'", Open, Tight),
    ("", "?", Tight, Tight),
    ("", "arguments", By(Key::SpaceArguments), Open),
    ("", "parameters", By(Key::SpaceParameters), Open),
    ("", "type_parameters", Tight, Open),
    ("", "type_arguments", Tight, Open),
    ("", "ordered_field_declaration_list", Tight, Open),
    ("", "trait_bounds", Tight, Open),
    ("impl_item", "type_parameters", Tight, Open),
    ("impl_item", "!", Open, Tight),
    ("visibility_modifier", "(", Tight, Tight),
    ("visibility_modifier", ")", Tight, Open),
    ("use_list", "{", Open, Tight),
    ("macro_invocation", "!", Tight, Tight),
    ("macro_invocation", "token_tree", Author, Open),
    ("attribute", "token_tree", Tight, Open),
    ("attribute_item", "#", Open, Tight),
    ("attribute_item", "[", Tight, Tight),
    ("inner_attribute_item", "#", Open, Tight),
    ("inner_attribute_item", "!", Tight, Tight),
    ("inner_attribute_item", "[", Tight, Tight),
    ("unary_expression", "-", Open, Tight),
    ("unary_expression", "*", Open, Tight),
    ("unary_expression", "!", Open, Tight),
    ("unary_expression", "&", Open, Tight),
    ("negative_literal", "-", Open, Tight),
    ("reference_expression", "&", Open, Tight),
    ("reference_pattern", "&", Open, Tight),
    ("reference_type", "&", Open, Tight),
    ("self_parameter", "&", Open, Tight),
    ("pointer_type", "*", Open, Tight),
    ("index_expression", "[", Tight, By(Key::SpaceIndex)),
    ("index_expression", "]", By(Key::SpaceIndex), Open),
    ("for_lifetimes", "<", Tight, Tight),
    ("for_lifetimes", "for", Open, Tight),
    ("higher_ranked_trait_bound", "type_parameters", Tight, Open),
    ("bracketed_type", "<", Open, Tight),
    ("bracketed_type", ">", Tight, Open),
    ("use_bounds", "<", Tight, Tight),
    ("removed_trait_bound", "?", Open, Tight),
    ("closure_expression", "closure_parameters", Open, Open),
    ("closure_parameters", "|", Tight, Tight),
    ("tuple_struct_pattern", "(", Tight, Tight),
    ("never_type", "!", Open, Open),
    ("label", "'", Open, Tight),
    ("lifetime", "'", Open, Tight),
    ("function_type", "parameters", Tight, Open),
    ("field_pattern", ":", Tight, Open),
    ("variadic_parameter", "...", Open, Open),
];

const HUGS: &[(&str, Hug)] = &[
    ("block", Hug::Opens),
    ("match_block", Hug::Opens),
    ("field_initializer_list", Hug::Opens),
    ("array_expression", Hug::Opens),
    ("closure_expression", Hug::Last),
    ("struct_expression", Hug::Last),
    ("match_expression", Hug::Last),
    ("async_block", Hug::Last),
    ("unsafe_block", Hug::Last),
    ("reference_expression", Hug::Last),
    ("call_expression", Hug::Last),
    ("try_expression", Hug::First),
    ("arguments", Hug::Item),
    ("tuple_expression", Hug::Item),
];
