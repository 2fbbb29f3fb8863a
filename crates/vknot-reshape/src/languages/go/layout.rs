//! How Go is laid out. Line breaks are meaning in many places, and its authors put them where they want them; so they stay, and what
//! changes are spaces, columns and the beginnings of lines.

use vknot_style::Key;

use crate::spec::layout::{
    Arm, BRACES, Braces, CellsOf, Items, LAYOUT_OF_MOST, LayoutSpec, Link, LIST, List, OPERATORS, Rule, SpaceRow, WORDS,
    Words,
};
use crate::spec::spelling::{SPELLING_OF_MOST, SpellingSpec};
use crate::spec::layout::Side::{Author, Open, Tight};

pub(super) static LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    within: &[
        ("function_declaration", "block", Rule::Braces(BODY)),
        ("method_declaration", "block", Rule::Braces(BODY)),
        ("func_literal", "block", Rule::Braces(BODY)),
        ("struct_type", "field_declaration_list", Rule::Braces(BODY)),
    ],
    spacing: SPACING,
    chain: &[
        ("call_expression", "function", Link::Arguments),
        ("selector_expression", "operand", Link::Access),
        ("index_expression", "operand", Link::Suffix),
        ("slice_expression", "operand", Link::Suffix),
        ("type_assertion_expression", "operand", Link::Suffix),
    ],
    precedence: &[
        &["||"],
        &["&&"],
        &["==", "!=", "<", ">", "<=", ">="],
        &["+", "-", "|", "^"],
        &["*", "/", "%", "<<", ">>", "&", "&^"],
    ],
    names_hold_first_call: true,
    chains_hold_blocks: true,
    dots_end_lines: true,
    columns_of_items: true,
    habits: &[Key::WrapOperator],
    spelling: SpellingSpec {
        directives: &["region", "endregion", "line", "export", "extern", "nolint"],
        ..SPELLING_OF_MOST
    },
    ..LAYOUT_OF_MOST
};

/// Items that have a blank line around them, where a setting says so, when they have a body.
const APART: &[&str] = &["function_declaration", "method_declaration", "type_declaration"];

const PLAIN: Rule = Rule::Words(WORDS);
/// The body of a function may stay on one line.
const BODY: Braces = Braces { single: true, ..BRACES };
const COLUMNS: Words = Words { cells_of: CellsOf::Long, open_columns: true, ..WORDS };
const VALUES: Rule = Rule::Words(Words { cells: &["type", "="], ..COLUMNS });
const FUNCTION: Rule = Rule::Words(Words { cells: &["body"], ..WORDS });
const GROUPED: Rule = Rule::Braces(BRACES);
const CONTROL: Rule =
    Rule::Words(Words { bodies: &["consequence", "alternative", "body"], joined: &["else"], ..WORDS });
const LISTED: Rule = Rule::List(LIST);
const FILE: Items = Items { apart: APART, imports_apart: false };
const CASE: Rule = Rule::Arm(Arm { single: false });

const RULES: &[(&str, Rule)] = &[
    ("source_file", Rule::Items(FILE)),
    ("statement_list", Rule::Items(Items { apart: &[], imports_apart: false })),
    ("package_clause", PLAIN),
    ("import_declaration", PLAIN),
    ("import_spec_list", GROUPED),
    ("import_spec", PLAIN),
    // Declarations.
    ("const_declaration", GROUPED),
    ("var_declaration", PLAIN),
    ("var_spec_list", GROUPED),
    ("type_declaration", GROUPED),
    ("const_spec", VALUES),
    ("var_spec", VALUES),
    ("type_spec", Rule::Words(Words { cells: &["type"], cells_of: CellsOf::Long, ..WORDS })),
    ("type_alias", Rule::Words(Words { cells: &["="], cells_of: CellsOf::Long, ..WORDS })),
    ("function_declaration", FUNCTION),
    ("method_declaration", FUNCTION),
    ("struct_type", PLAIN),
    ("field_declaration_list", GROUPED),
    ("field_declaration", Rule::Words(Words { cells: &["type", "tag"], ..COLUMNS })),
    ("interface_type", Rule::Braces(BODY)),
    ("method_elem", PLAIN),
    ("type_elem", PLAIN),
    ("parameter_declaration", PLAIN),
    ("variadic_parameter_declaration", PLAIN),
    ("type_parameter_declaration", PLAIN),
    ("type_constraint", PLAIN),
    // Bodies.
    ("block", GROUPED),
    ("expression_switch_statement", GROUPED),
    ("type_switch_statement", GROUPED),
    ("select_statement", GROUPED),
    ("expression_case", CASE),
    ("type_case", CASE),
    ("default_case", CASE),
    ("communication_case", CASE),
    // Lists.
    ("parameter_list", LISTED),
    ("argument_list", LISTED),
    ("type_parameter_list", LISTED),
    ("type_arguments", LISTED),
    ("literal_value", Rule::List(List { close_apart: true, keep: true, comma: false, ..LIST })),
    ("keyed_element", Rule::Words(Words { cells: &["value"], cells_of: CellsOf::First, ..WORDS })),
    ("literal_element", PLAIN),
    // Statements.
    ("expression_statement", PLAIN),
    ("expression_list", PLAIN),
    ("assignment_statement", PLAIN),
    ("short_var_declaration", PLAIN),
    ("inc_statement", PLAIN),
    ("dec_statement", PLAIN),
    ("send_statement", PLAIN),
    ("receive_statement", PLAIN),
    ("go_statement", PLAIN),
    ("defer_statement", PLAIN),
    ("return_statement", PLAIN),
    ("break_statement", PLAIN),
    ("continue_statement", PLAIN),
    ("goto_statement", PLAIN),
    ("labeled_statement", Rule::Arm(Arm { single: false })),
    ("if_statement", CONTROL),
    ("for_statement", CONTROL),
    ("for_clause", PLAIN),
    ("range_clause", PLAIN),
    // Expressions.
    ("call_expression", Rule::Chain),
    ("selector_expression", Rule::Chain),
    ("index_expression", Rule::Chain),
    ("slice_expression", Rule::Chain),
    ("type_assertion_expression", Rule::Chain),
    ("binary_expression", OPERATORS),
    ("unary_expression", PLAIN),
    ("parenthesized_expression", PLAIN),
    ("composite_literal", PLAIN),
    ("func_literal", PLAIN),
    ("type_conversion_expression", PLAIN),
    ("type_instantiation_expression", PLAIN),
    ("variadic_argument", PLAIN),
    // Types.
    ("array_type", PLAIN),
    ("implicit_length_array_type", PLAIN),
    ("slice_type", PLAIN),
    ("map_type", PLAIN),
    ("channel_type", PLAIN),
    ("pointer_type", PLAIN),
    ("function_type", PLAIN),
    ("generic_type", PLAIN),
    ("qualified_type", PLAIN),
    ("parenthesized_type", PLAIN),
    ("negated_type", PLAIN),
];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, Open),
    // `for ; ; i++`
    ("for_clause", ";", Author, Open),
    ("", ";", Tight, Open),
    ("", ":", Tight, Open),
    ("", ".", Tight, Tight),
    ("", "...", Author, Tight),
    ("", "(", Open, Tight),
    ("", ")", Tight, Open),
    ("", "[", Tight, Tight),
    ("", "]", Tight, Open),
    ("", "++", Tight, Open),
    ("", "--", Tight, Open),
    ("", "argument_list", Tight, Open),
    ("", "type_arguments", Tight, Open),
    ("", "type_parameter_list", Tight, Tight),
    ("", "literal_value", Tight, Open),
    ("", "pointer_type", Open, Open),
    ("function_declaration", "identifier", Open, Tight),
    ("method_declaration", "field_identifier", Open, Tight),
    ("method_elem", "field_identifier", Open, Tight),
    ("func_literal", "func", Open, Tight),
    ("function_type", "func", Open, Tight),
    ("type_spec", "type_parameter_list", Tight, Open),
    ("type_alias", "type_parameter_list", Tight, Open),
    ("struct_type", "field_declaration_list", Author, Open),
    ("interface_type", "{", Author, Open),
    ("keyed_element", "literal_value", Open, Open),
    ("literal_element", "literal_value", Open, Open),
    ("variadic_argument", "...", Tight, Open),
    ("variadic_parameter_declaration", "...", Open, Tight),
    ("implicit_length_array_type", "...", Tight, Tight),
    ("unary_expression", "-", Open, Tight),
    ("unary_expression", "+", Open, Tight),
    ("unary_expression", "!", Open, Tight),
    ("unary_expression", "^", Open, Tight),
    ("unary_expression", "*", Open, Tight),
    ("unary_expression", "&", Open, Tight),
    ("unary_expression", "<-", Open, Tight),
    ("pointer_type", "*", Open, Tight),
    ("field_declaration", "*", Open, Tight),
    ("negated_type", "~", Open, Tight),
    ("channel_type", "<-", Author, Author),
    ("array_type", "[", Open, Tight),
    ("array_type", "]", Tight, Tight),
    ("slice_type", "[", Open, Tight),
    ("slice_type", "]", Tight, Tight),
    ("implicit_length_array_type", "[", Open, Tight),
    ("implicit_length_array_type", "]", Tight, Tight),
    ("map_type", "[", Tight, Tight),
    ("map_type", "]", Tight, Tight),
    ("slice_expression", ":", Author, Author),
    ("type_conversion_expression", "(", Tight, Tight),
    ("type_assertion_expression", "(", Tight, Tight),
    ("type_switch_statement", "(", Tight, Tight),
    ("import_spec", ".", Open, Open),
    // How tight operators are depends on those around them, and their authors know.
    ("binary_expression", "+", Author, Author),
    ("binary_expression", "-", Author, Author),
    ("binary_expression", "*", Author, Author),
    ("binary_expression", "/", Author, Author),
    ("binary_expression", "%", Author, Author),
    ("binary_expression", "<<", Author, Author),
    ("binary_expression", ">>", Author, Author),
    ("binary_expression", "&", Author, Author),
    ("binary_expression", "|", Author, Author),
    ("binary_expression", "^", Author, Author),
    ("binary_expression", "&^", Author, Author),
    ("binary_expression", "==", Author, Author),
    ("binary_expression", "!=", Author, Author),
    ("binary_expression", "<", Author, Author),
    ("binary_expression", ">", Author, Author),
    ("binary_expression", "<=", Author, Author),
    ("binary_expression", ">=", Author, Author),
    ("binary_expression", "&&", Author, Author),
    ("binary_expression", "||", Author, Author),
];
