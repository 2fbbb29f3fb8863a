//! What a Go compiler does not take though the grammar does (The Go Programming Language Specification, "Packages").

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Holds {
        holder: "source_file",
        kinds: &[
            "package_clause",
            "import_declaration",
            "const_declaration",
            "function_declaration",
            "method_declaration",
            "type_declaration",
            "var_declaration",
        ],
        roles: &[],
    },
    Law::Order { holder: "source_file", ranks: &[&["package_clause"], &["import_declaration"]] },
    Law::Sound { holder: "source_file", is_sound: one_package },
    Law::Sound { holder: "import_spec", is_sound: one_line },
    Law::Sound { holder: "range_clause", is_sound: two_names },
    Law::Sound { holder: "defer_statement", is_sound: calls },
    Law::Sound { holder: "go_statement", is_sound: calls },
    Law::Sound { holder: "return_statement", is_sound: on_one_line },
    Law::Sound { holder: "argument_list", is_sound: spread_last },
    Law::Sound { holder: "parameter_list", is_sound: alike },
    Law::Sound { holder: "short_var_declaration", is_sound: declares_names },
    Law::Sound { holder: "const_declaration", is_sound: begins_with_value },
    Law::Within { kinds: &["return_statement"], holders: &[], callables: true },
    Law::Within { kinds: &["continue_statement"], holders: &[LOOPS], callables: false },
    Law::Within { kinds: &["break_statement"], holders: &[LOOPS, SWITCHES], callables: false },
    Law::Sound { holder: "range_clause", is_sound: names_new },
    Law::Sound { holder: "if_statement", is_sound: parted_from_block },
    Law::Sound { holder: "for_statement", is_sound: parted_from_block },
    Law::Sound { holder: "expression_switch_statement", is_sound: parted_from_block },
];

/// Types of which a value in braces looks like a name in front of a block.
const NAMED: [&str; 3] = ["generic_type", "qualified_type", "type_identifier"];

/// What has brackets around what it holds, or stands behind a header.
const ENCLOSING: [&str; 8] = [
    "argument_list", "block", "default_case", "expression_case", "if_statement", "literal_value",
    "parenthesized_expression", "slice_expression",
];

/// What is gone through again and again, and what bears a name that one can go to.
const LOOPS: &[&str] = &["for_statement", "labeled_statement"];

/// What else a `break` ends.
const SWITCHES: &[&str] = &["expression_switch_statement", "type_switch_statement", "select_statement"];

fn one_package(code: Code<'_>, file: NodeId) -> bool {
    code.tree.parts(file).filter(|part| code.tree.kind_name(*part) == "package_clause").count() == 1
}

/// A loop over something has a place and a value.
fn two_names(code: Code<'_>, clause: NodeId) -> bool {
    let tree = code.tree;
    let names = tree.child_named(clause, "left")
        .map_or(
            0,
            |left| tree.parts(left)
                .filter(|part| tree.node(*part).token_end > 0 && code.source.slice(tree.node(*part).span()) != ",")
                .count(),
        );
    names <= 2
}

/// What is imported stands behind its name: a line end parts the two.
fn one_line(code: Code<'_>, import: NodeId) -> bool {
    !code.source.slice(code.tree.node(import).span()).contains('\n')
}

/// What is put off is a call.
fn calls(code: Code<'_>, statement: NodeId) -> bool {
    code.tree.parts(statement).nth(1).is_some_and(|part| code.source.slice(code.tree.node(part).span()).ends_with(')'))
}

/// A comment of several lines ends a line.
fn on_one_line(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let first = tree.children(statement).find(|part| tree.role(*part) == Role::Comment);
    !first.is_some_and(|comment| {
        let behind = tree.node(statement).first_token + 1 == tree.node(comment).first_token;
        behind && code.source.slice(tree.node(comment).span()).contains('\n')
    })
}

/// What stands for any number of arguments is the last.
fn spread_last(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let mut parts = tree.parts(list).map(|part| code.source.slice(tree.node(part).span()));
    let spread = parts.position(|text| text.ends_with("..."));
    spread.is_none() || parts.all(|text| matches!(text, "," | ")") || text.starts_with('/'))
}

/// What is declared has a name.
fn declares_names(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let left = tree.child_named(declaration, "left");
    let mut names = left.into_iter().flat_map(|left| tree.parts(left));
    names.all(|part| code.text(part) == "," || matches!(tree.kind_name(part), "identifier" | "comment"))
}

/// Variables that a loop declares are names.
fn names_new(code: Code<'_>, clause: NodeId) -> bool {
    let declares = code.tree.parts(clause).any(|part| code.text(part) == ":=");
    !declares || declares_names(code, clause)
}

/// A constant without a value repeats that of the one before it.
fn begins_with_value(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let first = tree.parts(declaration).find(|part| tree.kind_name(*part) == "const_spec");
    first.is_none_or(|first| tree.child_named(first, "value").is_some())
}

/// Parameters all have names, or none has; only the last stands for any number.
fn alike(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parameters: Vec<NodeId> =
        tree.parts(list).filter(|part| tree.kind_name(*part).ends_with("parameter_declaration")).collect();
    let named = |id: &NodeId| tree.child_named(*id, "name").is_some();
    let any = parameters.iter().position(|id| tree.kind_name(*id) == "variadic_parameter_declaration");
    let all = parameters.iter().all(named) || !parameters.iter().any(named);
    all && any.is_none_or(|at| at + 1 == parameters.len())
}

/// In front of a block a value of a named type stands in brackets ("Composite literals").
fn parted_from_block(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let mut waiting: Vec<NodeId> = tree.parts(statement).collect();
    while let Some(part) = waiting.pop() {
        let kind = tree.kind_name(part);
        if ENCLOSING.contains(&kind) {
            continue;
        }
        let named = || tree.child_named(part, "type").is_some_and(|kind| NAMED.contains(&tree.kind_name(kind)));
        if kind == "composite_literal" && named() {
            return false;
        }
        let index = tree.child_named(part, "index");
        waiting.extend(tree.parts(part).filter(|inner| Some(*inner) != index));
    }
    true
}
