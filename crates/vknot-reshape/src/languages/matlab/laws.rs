//! What an interpreter does not take though the reader does, which holds any text (the languages' own manuals, on functions and expressions).

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(crate) static LAWS: &[Law] = &[
    Law::Parted { kinds: &["arguments"], marks: &[","], last: false },
    Law::Sound { holder: "function", is_sound: names_only },
    Law::Sound { holder: "arguments", is_sound: values },
    Law::Sound { holder: "group", is_sound: values },
    Law::Sound { holder: "group", is_sound: one_value },
    Law::Sound { holder: "matrix", is_sound: values },
    Law::Sound { holder: "assignment", is_sound: to_a_place },
    Law::Sound { holder: "assignment", is_sound: to_places },
    Law::Sound { holder: "function", is_sound: named_once },
    Law::Sound { holder: "function", is_sound: begins_plainly },
    Law::Sound { holder: "statement", is_sound: jumps_in_loop },
];

/// Parameters are names, or stand for what is not used.
fn names_only(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let Some(list) = tree.child_named(function, "parameters") else { return true };
    let one = |part: NodeId| tree.node(part).token_end - tree.node(part).first_token == 1;
    // It may say what it is where nothing is given.
    let named = |part: NodeId| match tree.role(part) {
        Role::Assignment => tree.parts(part).next().is_some_and(|name| tree.role(name) == Role::Name),
        _ => one(part) && !code.text(part).starts_with(['\'', '"']),
    };
    tree.parts(list).all(named)
}

/// Between brackets stand values: no words that open blocks, and nothing is put anywhere.
fn values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let of_function = tree.parent(list).is_some_and(|holder| tree.role(holder) == Role::Callable);
    tree.parts(list).all(|part| {
        let first =
            tree.tokens().get(tree.node(part).first_token as usize).map_or("", |token| code.source.slice(token.span()));
        let set = tree.role(part) == Role::Assignment && !of_function;
        let row = tree.kind_name(list) == "arguments" && code.text(part) == ";";
        !set
            && !row
            && !matches!(tree.role(part), Role::Statement | Role::Branch)
            && !matches!(first, "if" | "for" | "while" | "switch" | "try" | "function" | "return" | "break")
    })
}

/// What a list of values is put into are places, or stand for what is not used.
fn to_places(code: Code<'_>, assignment: NodeId) -> bool {
    let tree = code.tree;
    let Some(list) = tree.parts(assignment).next().filter(|left| tree.kind_name(*left) == "matrix") else {
        return true
    };
    let mut held = tree.parts(list).filter(|part| !matches!(code.text(*part), "[" | "]" | ",")).peekable();
    let place = |part: NodeId| match tree.role(part) {
        Role::Name | Role::Link | Role::Call => !code.text(part).contains("(~"),
        _ => matches!(code.text(part), "~" | "!"),
    };
    held.peek().is_some() && held.all(place)
}

/// No parameter is named twice.
fn named_once(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let Some(list) = tree.child_named(function, "parameters") else { return true };
    let name = |part: NodeId| code.text(tree.parts(part).next().unwrap_or(part));
    let mut seen = HashSet::new();
    let counts = |part: &NodeId| !matches!(code.text(*part), "(" | ")" | "," | "~" | "!");
    tree.parts(list).filter(counts).all(|part| seen.insert(name(part)))
}

/// In front of the name of a function stands nothing but what it gives.
fn begins_plainly(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let Some(name) = tree.child_named(function, "name") else { return true };
    let before = tree.parts(function).take_while(|part| *part != name).skip(1);
    let before: Vec<NodeId> = before.collect();
    let given = before.first().filter(|given| tree.kind_name(**given) == "matrix");
    let named = |list: &NodeId| tree.parts(*list)
        .all(|part| tree.role(part) == Role::Name || matches!(code.text(part), "[" | "]" | ","));
    if !given.is_none_or(named) {
        return false;
    }
    let before: Vec<&str> = before.into_iter().map(|part| code.text(part)).collect();
    matches!(before.as_slice(), [] | [_, "="] | ["get" | "set", "."] | [_, "=", "get" | "set", "."])
}

/// Out of a loop, and on in it, one goes in a loop.
fn jumps_in_loop(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let jumps = tree.parts(statement).next().is_some_and(|first| matches!(code.text(first), "break" | "continue"));
    let mut around = tree.ancestors(statement).skip(1).take_while(|id| tree.role(*id) != Role::Callable);
    !jumps || around.any(|id| tree.kind_name(id) == "loop")
}

/// Brackets that call nothing hold one value, which is not all there is in a row.
fn one_value(code: Code<'_>, group: NodeId) -> bool {
    code.tree.parts(group).all(|part| !matches!(code.text(part), "," | ";" | ":"))
}

fn to_a_place(code: Code<'_>, assignment: NodeId) -> bool {
    code.tree.parts(assignment).next().is_none_or(|left| {
        !matches!(code.tree.role(left), Role::Literal | Role::String | Role::Operator | Role::Parenthesized)
    })
}
