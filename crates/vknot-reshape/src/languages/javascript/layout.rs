//! How JavaScript, elements in it, and its typed kin are laid out. Semicolons that are not written stay so: no rule takes away a line break
//! between statements or members, and none puts one where the language would end a statement.

use vknot_style::Key;

use crate::spec::layout::{
    Annotations, ARM, BraceOf, BRACES, Braces, Fill, Hug, Items, LAYOUT_OF_MOST, LayoutSpec, Link, LIST, List,
    OPERATORS, Operators, Pad, Rule, SpaceRow, WORDS, Words,
};
use crate::spec::spelling::{SemicolonSpec, SPELLING_OF_MOST, SpellingSpec};
use crate::spec::layout::Side::{Author, By, Open, Tight};

pub(crate) static LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    // Nothing follows what takes the rest.
    no_comma: &["..."],
    within: &[
        // What stands in the place of a type, and only there, is a list of its members.
        ("interface_declaration", "object_type", Rule::Braces(MEMBERS)),
        ("for_statement", "lexical_declaration", Rule::Commas),
        ("for_statement", "variable_declaration", Rule::Commas),
        ("for_statement", "sequence_expression", Rule::Commas),
    ],
    spacing: SPACING,
    hugs: HUGS,
    dots: &[".", "optional_chain"],
    chain: &[
        ("call_expression", "function", Link::Arguments),
        ("member_expression", "object", Link::Access),
        ("subscript_expression", "object", Link::Suffix),
        ("non_null_expression", "", Link::Suffix),
    ],
    precedence: &[
        &["||", "??"],
        &["&&"],
        &["|"],
        &["^"],
        &["&"],
        &["==", "!=", "===", "!=="],
        &["<", ">", "<=", ">=", "in", "instanceof"],
        &["<<", ">>", ">>>"],
        &["+", "-"],
        &["*", "/", "%"],
    ],
    names_hold_first_call: true,
    chains_hold_blocks: true,
    space_operators: true,
    else_kinds: &["else_clause"],
    // In front of brackets the grammar takes `await` for what is called.
    nothing_between: &[("(", ";"), (";", ";"), (";", ")"), ("await", "(")],
    habits: &[Key::SpaceBlock, Key::SpaceBrace, Key::SpaceControl, Key::SpaceLambda, Key::WrapOperator],
    spelling: SPELLING,
    ..LAYOUT_OF_MOST
};

/// Semicolons at the end of a line are needed where the next line could go on with it.
const SPELLING: SpellingSpec = SpellingSpec {
    strings: &["string"],
    // Strings in elements know no backslash.
    strings_stay_in: &["jsx_attribute"],
    strings_without: &[],
    semicolons: Some(SemicolonSpec {
        statements: &[
            "expression_statement",
            "variable_declaration",
            "lexical_declaration",
            "return_statement",
            "throw_statement",
            "break_statement",
            "continue_statement",
            "debugger_statement",
            "do_statement",
            "import_statement",
            "export_statement",
            "type_alias_declaration",
            "function_signature",
            "import_alias",
        ],
        members: &[
            ("class_body", CLASS_MEMBERS),
            ("interface_body", TYPE_MEMBERS),
        ],
        not_in: &["for_statement", "for_in_statement"],
        not_behind: &[("export_statement", EXPORTED), ("expression_statement", &["internal_module"])],
        goes_on: &[
            "(", "[", "`", "+", "-", "*", "/", "<", ">", ",", ".", "?", ":", "=", "&", "|", "^", "%", "!", "in",
            "instanceof", "as", "satisfies", "of", "is",
        ],
        modifiers: &[
            "get", "set", "static", "async", "accessor", "declare", "readonly", "abstract", "public", "private",
            "protected", "override",
        ],
    }),
    ..SPELLING_OF_MOST
};

/// What an export needs no semicolon behind, or has one of its own.
const EXPORTED: &[&str] = &[
    "abstract_class_declaration",
    "ambient_declaration",
    "class",
    "class_declaration",
    "enum_declaration",
    "function_declaration",
    "function_expression",
    "function_signature",
    "generator_function",
    "generator_function_declaration",
    "import_alias",
    "interface_declaration",
    "internal_module",
    "lexical_declaration",
    "module",
    "type_alias_declaration",
    "variable_declaration",
];

const CLASS_MEMBERS: &[&str] = &[
    "field_definition",
    "public_field_definition",
    "method_signature",
    "abstract_method_signature",
    "index_signature",
];

const TYPE_MEMBERS: &[&str] = &[
    "property_signature",
    "method_signature",
    "call_signature",
    "construct_signature",
    "index_signature",
];

/// Items that have a blank line around them, where a setting says so, when they have a body.
const APART: &[&str] = &[
    "function_declaration",
    "generator_function_declaration",
    "class_declaration",
    "abstract_class_declaration",
    "interface_declaration",
    "enum_declaration",
    "internal_module",
    "module",
    "method_definition",
    "class_static_block",
    "export_statement",
];

const PLAIN: Rule = Rule::Words(WORDS);
const MEMBERS: Braces = Braces { apart: APART, leading_blank: true, single: true, ..BRACES };
const BLOCK: Braces = Braces { apart: APART, single: true, ..BRACES };
const DECLARATION: Words = Words {
    clauses: &["class_heritage", "extends_type_clause", "extends_clause", "implements_clause"],
    annotations: Annotations::Author,
    brace: BraceOf::Declaration,
    ..WORDS
};
const DECLARED: Rule = Rule::Words(DECLARATION);
const FIELD: Words = Words { annotations: Annotations::Author, ..WORDS };
const CONTROL: Words = Words {
    bodies: &["consequence", "body"],
    joined: &["else_clause", "catch_clause", "finally_clause", "while"],
    brace: BraceOf::Control,
    ..WORDS
};
const CONTROLLED: Rule = Rule::Words(CONTROL);
/// Declarators stand where their author had them.
const DECLARATORS: Rule =
    Rule::Words(Words { author: &["variable_declarator"], annotations: Annotations::Author, ..WORDS });
const LISTED: List = List {
    fill: Fill::Author,
    close_apart: true,
    padded: Pad::By(Key::SpaceParenthesis),
    hug_single: true,
    hug_any: true,
    comma: true,
    ..LIST
};
const PARAMETERS: List = List { with_header: true, ..LISTED };
const TYPES: List = List { padded: Pad::Nothing, comma: false, ..LISTED };
const NAMES: List = List {
    padded: Pad::By(Key::SpaceBrace),
    close_apart: true,
    hug: false,
    stay_single: true,
    fill: Fill::Author,
    comma: true,
    ..LIST
};
const RECORD: List = List { keep: true, stay_single: false, lines: true, fill: Fill::Author, ..NAMES };
const ARRAY: List =
    List {
        padded: Pad::By(Key::SpaceBracket),
        close_apart: true,
        keep: true,
        fill: Fill::Author,
        hug_any: true,
        comma: true,
        ..LIST
    };
/// Brackets around an expression.
const KEPT: List = List { keep: true, only_kept: true, hug: false, hug_any: false, comma: false, ..LISTED };
const CONDITIONAL: Words = Words { wrap: &["?", ":"], wrap_by: Some(Key::WrapConditional), ..WORDS };
const EQUALS: Rule = Rule::Assign(&["="]);

const TYPE: Rule = Rule::Words(Words { brace: BraceOf::Type, ..DECLARATION });

const RULES: &[(&str, Rule)] = &[
    ("program", Rule::Items(Items { apart: APART, imports_apart: false })),
    // Modules.
    ("import_statement", PLAIN),
    ("import_clause", PLAIN),
    ("named_imports", Rule::List(NAMES)),
    ("import_specifier", PLAIN),
    ("namespace_import", PLAIN),
    ("import_attribute", PLAIN),
    ("import_require_clause", PLAIN),
    ("import_alias", PLAIN),
    ("export_statement", Rule::Words(FIELD)),
    ("export_clause", Rule::List(NAMES)),
    ("export_specifier", PLAIN),
    ("namespace_export", PLAIN),
    // Declarations.
    ("function_declaration", DECLARED),
    ("generator_function_declaration", DECLARED),
    ("function_signature", DECLARED),
    ("class_declaration", TYPE),
    ("abstract_class_declaration", TYPE),
    ("class", TYPE),
    ("class_static_block", DECLARED),
    ("method_definition", DECLARED),
    ("method_signature", DECLARED),
    ("abstract_method_signature", DECLARED),
    ("call_signature", PLAIN),
    ("construct_signature", PLAIN),
    ("index_signature", PLAIN),
    ("property_signature", Rule::Words(FIELD)),
    ("interface_declaration", TYPE),
    ("enum_declaration", TYPE),
    ("enum_assignment", EQUALS),
    ("internal_module", TYPE),
    ("module", TYPE),
    ("ambient_declaration", PLAIN),
    ("type_alias_declaration", EQUALS),
    ("class_heritage", Rule::Commas),
    ("extends_clause", Rule::Commas),
    ("extends_type_clause", Rule::Commas),
    ("implements_clause", Rule::Commas),
    ("lexical_declaration", DECLARATORS),
    ("variable_declaration", DECLARATORS),
    ("variable_declarator", EQUALS),
    ("field_definition", EQUALS),
    ("public_field_definition", EQUALS),
    ("accessibility_modifier", PLAIN),
    ("decorator", PLAIN),
    // Bodies.
    ("class_body", Rule::Braces(MEMBERS)),
    ("interface_body", Rule::Braces(MEMBERS)),
    ("enum_body", Rule::Braces(Braces { rows: true, comma: true, ..MEMBERS })),
    ("statement_block", Rule::Braces(BLOCK)),
    ("switch_body", Rule::Braces(BLOCK)),
    ("switch_case", ARM),
    ("switch_default", ARM),
    // Lists.
    ("formal_parameters", Rule::List(PARAMETERS)),
    ("arguments", Rule::List(LISTED)),
    ("type_parameters", Rule::List(TYPES)),
    ("type_arguments", Rule::List(TYPES)),
    ("tuple_type", Rule::List(List { padded: Pad::By(Key::SpaceBracket), ..TYPES })),
    ("object", Rule::List(List { hug: false, ..RECORD })),
    ("object_pattern", Rule::List(RECORD)),
    ("object_type", Rule::List(List { comma: false, ..RECORD })),
    ("array", Rule::List(ARRAY)),
    ("array_pattern", Rule::List(ARRAY)),
    // Statements.
    ("expression_statement", PLAIN),
    ("if_statement", CONTROLLED),
    ("else_clause", Rule::Words(Words { ends_in_body: true, ..CONTROL })),
    ("for_statement", CONTROLLED),
    ("for_in_statement", CONTROLLED),
    ("while_statement", CONTROLLED),
    ("do_statement", CONTROLLED),
    ("switch_statement", CONTROLLED),
    ("try_statement", CONTROLLED),
    ("catch_clause", CONTROLLED),
    ("finally_clause", CONTROLLED),
    ("with_statement", CONTROLLED),
    ("labeled_statement", Rule::Words(Words { author: LABELED, ..WORDS })),
    ("return_statement", PLAIN),
    ("throw_statement", PLAIN),
    ("break_statement", PLAIN),
    ("continue_statement", PLAIN),
    ("debugger_statement", PLAIN),
    // Expressions.
    ("call_expression", Rule::Chain),
    ("member_expression", Rule::Chain),
    ("subscript_expression", Rule::Chain),
    ("non_null_expression", Rule::Chain),
    ("binary_expression", OPERATORS),
    ("assignment_expression", EQUALS),
    ("augmented_assignment_expression", Rule::Assign(COMPOUND)),
    ("assignment_pattern", EQUALS),
    ("object_assignment_pattern", EQUALS),
    ("pair", Rule::Assign(&[":"])),
    ("pair_pattern", PLAIN),
    ("arrow_function", Rule::Assign(&["=>"])),
    ("function_expression", DECLARED),
    ("generator_function", DECLARED),
    ("ternary_expression", Rule::Words(CONDITIONAL)),
    ("unary_expression", PLAIN),
    ("update_expression", PLAIN),
    ("await_expression", PLAIN),
    ("yield_expression", PLAIN),
    ("new_expression", PLAIN),
    ("spread_element", PLAIN),
    ("rest_pattern", PLAIN),
    ("sequence_expression", Rule::Commas),
    ("parenthesized_expression", Rule::List(KEPT)),
    ("computed_property_name", PLAIN),
    ("meta_property", PLAIN),
    // Types.
    ("as_expression", PLAIN),
    ("satisfies_expression", PLAIN),
    ("type_assertion", PLAIN),
    ("instantiation_expression", PLAIN),
    ("required_parameter", Rule::Words(FIELD)),
    ("optional_parameter", Rule::Words(FIELD)),
    ("type_annotation", PLAIN),
    ("adding_type_annotation", PLAIN),
    ("omitting_type_annotation", PLAIN),
    ("opting_type_annotation", PLAIN),
    ("asserts_annotation", PLAIN),
    ("asserts", PLAIN),
    ("type_predicate", PLAIN),
    ("type_predicate_annotation", PLAIN),
    ("type_parameter", PLAIN),
    ("constraint", PLAIN),
    ("default_type", PLAIN),
    ("generic_type", PLAIN),
    ("nested_type_identifier", PLAIN),
    ("nested_identifier", PLAIN),
    ("array_type", PLAIN),
    ("optional_type", PLAIN),
    ("rest_type", PLAIN),
    ("readonly_type", PLAIN),
    ("parenthesized_type", PLAIN),
    ("function_type", PLAIN),
    ("constructor_type", PLAIN),
    ("lookup_type", PLAIN),
    ("index_type_query", PLAIN),
    ("type_query", PLAIN),
    ("infer_type", PLAIN),
    ("literal_type", PLAIN),
    ("union_type", Rule::Operators(Operators { leads: true })),
    ("intersection_type", Rule::Operators(Operators { leads: true })),
    ("conditional_type", Rule::Words(CONDITIONAL)),
    ("mapped_type_clause", PLAIN),
    // Elements.
    ("jsx_element", Rule::Markup),
    ("jsx_opening_element", Rule::Tag),
    ("jsx_self_closing_element", Rule::Tag),
    ("jsx_closing_element", PLAIN),
    ("jsx_attribute", PLAIN),
    ("jsx_namespace_name", PLAIN),
    ("jsx_expression", Rule::List(List { padded: Pad::By(Key::SpaceEmbedded), ..KEPT })),
];

const LABELED: &[&str] = &[
    "statement_block",
    "do_statement",
    "for_in_statement",
    "expression_statement",
    "for_statement",
    "if_statement",
    "switch_statement",
    "try_statement",
    "while_statement",
];

const COMPOUND: &[&str] =
    &["+=", "-=", "*=", "/=", "%=", "**=", "<<=", ">>=", ">>>=", "&=", "|=", "^=", "&&=", "||=", "??="];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, Open),
    ("", ";", Tight, Open),
    ("", ":", Tight, Open),
    ("pair", ":", By(Key::SpacePair), Open),
    ("", ".", Tight, Tight),
    ("", "?.", Tight, Tight),
    ("", "optional_chain", Tight, Tight),
    ("", "...", Open, Tight),
    ("", "(", Open, By(Key::SpaceParenthesis)),
    ("", ")", By(Key::SpaceParenthesis), Open),
    ("", "[", Open, Tight),
    ("", "]", Tight, Open),
    ("", "@", Open, Tight),
    ("", "!", Open, By(Key::SpaceUnary)),
    ("", "~", Open, By(Key::SpaceUnary)),
    ("", "++", By(Key::SpaceUnary), By(Key::SpaceUnary)),
    ("", "--", By(Key::SpaceUnary), By(Key::SpaceUnary)),
    ("", "arguments", By(Key::SpaceArguments), Open),
    ("", "type_arguments", Tight, Open),
    ("", "type_parameters", Tight, Open),
    ("", "type_annotation", Tight, Open),
    ("", "adding_type_annotation", Tight, Open),
    ("", "omitting_type_annotation", Tight, Open),
    ("", "opting_type_annotation", Tight, Open),
    ("", "asserts_annotation", Tight, Open),
    ("", "type_predicate_annotation", Tight, Open),
    ("type_annotation", ":", Open, Open),
    ("function_declaration", "formal_parameters", By(Key::SpaceParameters), Open),
    ("generator_function_declaration", "formal_parameters", By(Key::SpaceParameters), Open),
    ("function_signature", "formal_parameters", By(Key::SpaceParameters), Open),
    ("method_definition", "formal_parameters", By(Key::SpaceParameters), Open),
    ("method_signature", "formal_parameters", By(Key::SpaceParameters), Open),
    ("abstract_method_signature", "formal_parameters", By(Key::SpaceParameters), Open),
    ("function_expression", "formal_parameters", By(Key::SpaceLambda), Open),
    ("generator_function", "formal_parameters", By(Key::SpaceLambda), Open),
    ("function_expression", "identifier", Open, By(Key::SpaceParameters)),
    ("function_expression", "type_parameters", Tight, Tight),
    ("generator_function", "identifier", Open, By(Key::SpaceParameters)),
    ("generator_function", "type_parameters", Tight, Tight),
    ("construct_signature", "formal_parameters", Author, Open),
    ("constructor_type", "formal_parameters", Author, Open),
    ("constructor_type", "type_parameters", Author, Open),
    ("construct_signature", "type_parameters", Author, Open),
    ("arrow_function", "type_parameters", Open, Tight),
    ("function_type", "type_parameters", Open, Tight),
    ("call_signature", "type_parameters", Open, Tight),
    ("if_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("while_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("do_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("switch_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("with_statement", "parenthesized_expression", By(Key::SpaceControl), Open),
    ("for_statement", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("for_in_statement", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("catch_clause", "(", By(Key::SpaceControl), By(Key::SpaceParenthesis)),
    ("import_require_clause", "(", By(Key::SpaceArguments), By(Key::SpaceParenthesis)),
    ("unary_expression", "-", Open, By(Key::SpaceUnary)),
    ("unary_expression", "+", Open, By(Key::SpaceUnary)),
    ("yield_expression", "*", Tight, Open),
    ("method_definition", "*", Open, Tight),
    ("method_signature", "*", Open, Tight),
    ("function_expression", "*", Author, Author),
    ("generator_function", "*", Author, Author),
    ("generator_function_declaration", "*", Author, Author),
    ("call_expression", "template_string", Tight, Open),
    ("subscript_expression", "[", Tight, By(Key::SpaceIndex)),
    ("subscript_expression", "]", By(Key::SpaceIndex), Open),
    ("ternary_expression", ":", Open, Open),
    ("conditional_type", ":", Open, Open),
    ("non_null_expression", "!", Tight, Tight),
    ("public_field_definition", "!", Tight, Tight),
    ("public_field_definition", "?", Tight, Tight),
    ("property_signature", "?", Tight, Tight),
    ("method_signature", "?", Tight, Tight),
    ("method_definition", "?", Tight, Tight),
    ("abstract_method_signature", "?", Tight, Tight),
    ("optional_parameter", "?", Tight, Tight),
    ("optional_tuple_parameter", "?", Tight, Tight),
    ("optional_type", "?", Tight, Open),
    ("index_signature", "[", Open, Tight),
    ("index_signature", "+", Open, Tight),
    ("index_signature", "-", Open, Tight),
    ("array_type", "[", Tight, Tight),
    ("lookup_type", "[", Tight, Tight),
    ("type_assertion", "type_arguments", Open, Author),
    ("import_attribute", "object", Open, Open),
    ("export_statement", "*", Open, Open),
    ("namespace_import", "*", Open, Open),
    ("for_statement", "empty_statement", Tight, Open),
    ("jsx_opening_element", "<", Open, Tight),
    ("jsx_opening_element", ">", Tight, Open),
    ("jsx_self_closing_element", "<", Open, Tight),
    ("jsx_attribute", "=", Tight, Tight),
    ("jsx_closing_element", "</", Open, Tight),
    ("jsx_closing_element", "<", Open, Tight),
    ("jsx_closing_element", "/", Tight, Tight),
    ("jsx_closing_element", ">", Tight, Open),
    ("jsx_namespace_name", ":", Tight, Tight),
    ("adding_type_annotation", "+?:", Tight, Open),
    ("omitting_type_annotation", "-?:", Tight, Open),
    ("opting_type_annotation", "?:", Tight, Open),
    ("mapped_type_clause", "[", Open, Tight),
];

const HUGS: &[(&str, Hug)] = &[
    ("statement_block", Hug::Opens),
    ("class_body", Hug::Opens),
    ("switch_body", Hug::Opens),
    ("object", Hug::Opens),
    ("array", Hug::Opens),
    ("object_pattern", Hug::Opens),
    ("object_type", Hug::Opens),
    ("jsx_element", Hug::Opens),
    ("parenthesized_expression", Hug::Opens),
    ("arrow_function", Hug::Last),
    ("function_expression", Hug::Last),
    ("generator_function", Hug::Last),
    ("class", Hug::Last),
    ("call_expression", Hug::Either),
    ("member_expression", Hug::First),
    ("ternary_expression", Hug::Last),
    ("new_expression", Hug::Last),
    ("await_expression", Hug::Last),
    ("as_expression", Hug::First),
    ("satisfies_expression", Hug::First),
    ("non_null_expression", Hug::First),
    ("required_parameter", Hug::Last),
    ("type_annotation", Hug::Last),
    ("arguments", Hug::Item),
    ("type_arguments", Hug::Item),
    ("formal_parameters", Hug::Item),
];
