//! What no engine takes though the grammar does (ECMA-262, sections 14.5 and 16.2).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(crate) static LAWS: &[Law] = &[
    Law::Sound { holder: "expression_statement", is_sound: no_declaration },
    Law::Sound { holder: "statement_block", is_sound: no_module_items },
    Law::Sound { holder: "try_statement", is_sound: has_handler },
    Law::Sound { holder: "formal_parameters", is_sound: bound },
    Law::Sound { holder: "array_pattern", is_sound: bound },
    Law::Sound { holder: "object_pattern", is_sound: bound },
    Law::Sound { holder: "parenthesized_expression", is_sound: untyped },
    Law::Sound { holder: "identifier", is_sound: no_word },
    Law::Sound { holder: "statement_identifier", is_sound: no_word },
    Law::Sound { holder: "shorthand_property_identifier", is_sound: no_word },
    Law::Sound { holder: "interface_body", is_sound: signatures_only },
    Law::Sound { holder: "object_type", is_sound: signatures_only },
    Law::Sound { holder: "object_type", is_sound: mapped_alone },
    Law::Barred { kinds: &["lexical_declaration", "class_declaration"], holders: &FOR_ONE },
    Law::Within { kinds: &["return_statement"], holders: &[], callables: true },
    Law::Within { kinds: &["continue_statement"], holders: &[LOOPS], callables: false },
    Law::Within { kinds: &["break_statement"], holders: &[LOOPS, SWITCHES], callables: false },
    Law::Barred { kinds: &["arrow_function"], holders: &BINDING_CLOSER },
    Law::Sound { holder: "class_body", is_sound: without_commas },
    // Its braces would be those of a body.
    Law::Barred { kinds: &["object"], holders: &["arrow_function"] },
    Law::Sound { holder: "ternary_expression", is_sound: asks_no_function },
];

/// What an arrow function would have to stand in brackets for.
const BINDING_CLOSER: [&str; 5] = [
    "await_expression", "binary_expression", "member_expression", "subscript_expression", "unary_expression",
];

/// What is gone through again and again, and what bears a name that one can go to.
const LOOPS: &[&str] = &["do_statement", "for_in_statement", "for_statement", "while_statement", "labeled_statement"];

/// What holds one statement.
const FOR_ONE: [&str; 7] = [
    "do_statement", "else_clause", "for_in_statement", "if_statement", "labeled_statement", "while_statement",
    "with_statement",
];

/// What else a `break` ends.
const SWITCHES: &[&str] = &["switch_statement"];

/// Words that are no names anywhere.
const RESERVED: &[&str] = &[
    "break", "case", "catch", "class", "const", "continue", "debugger", "default", "delete", "do", "else", "enum",
    "export",
    "extends", "false", "finally", "for", "function", "if", "in", "instanceof", "new", "null", "return", "switch",
    "throw",
    "true", "try", "typeof", "var", "void", "while", "with",
];

/// Behind the body of an arrow function no conditional goes on.
fn asks_no_function(code: Code<'_>, conditional: NodeId) -> bool {
    let condition = code.tree.child_named(conditional, "condition");
    condition.is_none_or(|condition| code.tree.kind_name(condition) != "arrow_function")
}

/// A name is no word of the language, but where modules name what they pass on.
fn no_word(code: Code<'_>, name: NodeId) -> bool {
    let specifies = code.tree.parent(name).is_some_and(|holder| code.tree.kind_name(holder).ends_with("_specifier"));
    specifies || !RESERVED.contains(&code.source.slice(code.tree.node(name).span()))
}

/// What parameters and declared patterns hold are names and patterns: no values, and no members of something.
fn bound(code: Code<'_>, pattern: NodeId) -> bool {
    let tree = code.tree;
    let declares = tree.ancestors(pattern).skip(1).map(|id| tree.kind_name(id)).find(|kind| {
        !matches!(*kind, "array_pattern" | "object_pattern" | "pair_pattern" | "assignment_pattern" | "rest_pattern")
    });
    let list = tree.kind_name(pattern) == "formal_parameters";
    if !list
        && !matches!(declares, Some("formal_parameters" | "required_parameter" | "optional_parameter" | "variable_declarator"))
    {
        return true;
    }
    tree.parts(pattern).all(|part| {
        let held = match tree.kind_name(part) {
            "required_parameter" | "optional_parameter" => tree.child_named(part, "pattern"),
            "pair_pattern" => tree.child_named(part, "value"),
            "assignment_pattern" => tree.child_named(part, "left"),
            _ => Some(part),
        };
        held.is_none_or(|held| !VALUES.contains(&tree.kind_name(held)))
    })
}

const VALUES: &[&str] = &[
    "array", "arrow_function", "await_expression", "binary_expression", "call_expression", "function_expression",
    "member_expression", "new_expression", "non_null_expression", "number", "object", "parenthesized_expression",
    "string",
    "subscript_expression", "template_string", "ternary_expression", "unary_expression",
];

/// A type stands behind a parameter, not behind a value in brackets.
fn untyped(code: Code<'_>, group: NodeId) -> bool {
    code.tree.parts(group).all(|part| code.tree.kind_name(part) != "type_annotation")
}

/// A statement that is a value does not begin as a declaration, or a block, does.
fn no_declaration(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let first = tree.tokens().get(tree.node(statement).first_token as usize);
    let word = first.map_or("", |token| code.source.slice(token.span()));
    !matches!(word, "function" | "class" | "{")
}

fn has_handler(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(statement).any(|part| matches!(tree.kind_name(part), "catch_clause" | "finally_clause"))
}

fn signatures_only(code: Code<'_>, body: NodeId) -> bool {
    code.tree.parts(body).all(|part| code.tree.kind_name(part) != "export_statement")
}

/// A type made of the names of another holds nothing else.
fn mapped_alone(code: Code<'_>, body: NodeId) -> bool {
    let tree = code.tree;
    let mapped = |id: NodeId| tree.parts(id).any(|part| tree.kind_name(part) == "mapped_type_clause");
    let count = tree.parts(body).filter(|part| mapped(*part)).count();
    let others = tree.parts(body).filter(|part| tree.language().is_named(tree.node(*part).kind)).count();
    count == 0 || others == 1
}

/// Imports and exports stand at the top of a file.
fn no_module_items(code: Code<'_>, block: NodeId) -> bool {
    let tree = code.tree;
    let declared = tree.parent(block).is_some_and(|holder| tree.role(holder) == Role::Type);
    declared || tree.parts(block).all(|part| !matches!(tree.kind_name(part), "import_statement" | "export_statement"))
}

/// What belongs to a class is parted by semicolons.
fn without_commas(code: Code<'_>, body: NodeId) -> bool {
    code.tree.parts(body).all(|part| code.text(part) != ",")
}
