//! What a Java compiler does not take though the grammar does (The Java Language Specification, chapters 7, 8 and 14).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::{Law, named_as_type};

pub(super) static LAWS: &[Law] = &[
    Law::Holds {
        holder: "program",
        kinds: &["module_declaration"],
        roles: &[Role::Package, Role::Import, Role::Type],
    },
    Law::Order { holder: "program", ranks: &[&["package_declaration"], &["import_declaration"]] },
    Law::Sound { holder: "program", is_sound: one_package },
    Law::Holds { holder: "block", kinds: STATEMENTS, roles: &[Role::Statement, Role::Branch, Role::Type] },
    Law::Holds { holder: "constructor_body", kinds: STATEMENTS, roles: &[Role::Statement, Role::Branch, Role::Type] },
    Law::Holds {
        holder: "expression_statement",
        kinds: &[
            "assignment_expression",
            "method_invocation",
            "object_creation_expression",
            "update_expression",
            "switch_expression",
        ],
        roles: &[],
    },
    // Behind an annotation, or between members, a word of the language is read as a type.
    Law::Names { kinds: &["identifier", "type_identifier"], words: WORDS },
    Law::Sound { holder: "formal_parameters", is_sound: spread_last },
    Law::Sound { holder: "import_declaration", is_sound: from_somewhere },
    Law::Sound { holder: "constructor_declaration", is_sound: named_as_type },
    Law::Sound { holder: "class_declaration", is_sound: local_or_member },
    Law::Sound { holder: "type_arguments", is_sound: some_types },
    Law::Sound { holder: "local_variable_declaration", is_sound: plain_modifiers },
    Law::Barred { kinds: &["local_variable_declaration", "class_declaration"], holders: &FOR_ONE },
    Law::Sound { holder: "constant_declaration", is_sound: with_value },
    Law::Within { kinds: &["return_statement"], holders: &[], callables: true },
    Law::Within { kinds: &["continue_statement"], holders: &[LOOPS], callables: false },
    Law::Within { kinds: &["break_statement"], holders: &[LOOPS, SWITCHES], callables: false },
];

/// Words of the language that the grammar takes for names (3.9).
const WORDS: &[&str] = &[
    "assert", "break", "case", "catch", "continue", "default", "do", "else", "extends", "finally", "for", "goto", "if",
    "implements", "import", "instanceof", "new", "package", "return", "switch", "throw", "throws", "try", "while",
];

/// What is gone through again and again, and what bears a name that one can go to.
const LOOPS: &[&str] =
    &["do_statement", "enhanced_for_statement", "for_statement", "while_statement", "labeled_statement"];

/// What holds one statement.
const FOR_ONE: [&str; 5] = [
    "do_statement",
    "enhanced_for_statement",
    "if_statement",
    "labeled_statement",
    "while_statement",
];

/// What else a `break` ends.
const SWITCHES: &[&str] = &["switch_expression"];

/// What stands in a block and has no role of its own.
const STATEMENTS: &[&str] =
    &["block", "labeled_statement", "local_variable_declaration", "explicit_constructor_invocation"];

fn one_package(code: Code<'_>, file: NodeId) -> bool {
    let count = |is_one: &dyn Fn(NodeId) -> bool| code.tree.parts(file).filter(|part| is_one(*part)).count();
    count(&|part| code.tree.role(part) == Role::Package) < 2
        && count(&|part| code.tree.kind_name(part) == "module_declaration") < 2
}

/// The constants of an interface have values.
fn with_value(code: Code<'_>, constant: NodeId) -> bool {
    let tree = code.tree;
    let mut declarators = tree.parts(constant).filter(|part| tree.kind_name(*part) == "variable_declarator");
    declarators.all(|declarator| tree.child_named(declarator, "value").is_some())
}

/// Whether a parameter for any number of arguments is the last.
fn spread_last(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parameters = tree.parts(list).filter(|part| tree.kind_name(*part).ends_with("_parameter"));
    let kinds: Vec<&str> = parameters.map(|part| tree.kind_name(part)).collect();
    kinds.iter().rposition(|kind| *kind == "spread_parameter").is_none_or(|at| at + 1 == kinds.len())
        && kinds.iter().filter(|kind| **kind == "spread_parameter").count() < 2
}

fn from_somewhere(code: Code<'_>, import: NodeId) -> bool {
    code.source.slice(code.tree.node(import).span()).contains('.')
}

/// A class in a block is for that block alone.
fn local_or_member(code: Code<'_>, class: NodeId) -> bool {
    let tree = code.tree;
    let local = tree.parent(class).is_some_and(|holder| tree.kind_name(holder) == "block");
    let modifiers = tree.parts(class).find(|part| tree.kind_name(*part) == "modifiers");
    !local
        || modifiers.is_none_or(|modifiers| tree.parts(modifiers).all(|part| {
            !matches!(code.source.slice(tree.node(part).span()), "public" | "protected" | "private" | "static")
        }))
}

/// Types are left out only where something is made.
fn some_types(code: Code<'_>, types: NodeId) -> bool {
    let tree = code.tree;
    let made = tree.ancestors(types).skip(1).take(2).any(|id| tree.kind_name(id) == "object_creation_expression");
    made || tree.parts(types).count() > 2
}

/// Local variables have no modifiers but `final`, and annotations.
fn plain_modifiers(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let modifiers = tree.parts(declaration).find(|part| tree.kind_name(*part) == "modifiers");
    modifiers.is_none_or(|modifiers| tree.parts(modifiers).all(|part| {
        tree.role(part) == Role::Annotation || code.source.slice(tree.node(part).span()) == "final"
    }))
}
