//! What an interpreter does not take though the reader does, which holds any text (the languages' own manuals, on functions and expressions).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(crate) static LAWS: &[Law] = &[
    Law::Parted { kinds: &["arguments"], marks: &[","], last: false },
    Law::Sound { holder: "function", is_sound: names_only },
    Law::Sound { holder: "arguments", is_sound: values },
    Law::Sound { holder: "group", is_sound: values },
    Law::Sound { holder: "matrix", is_sound: values },
    Law::Sound { holder: "assignment", is_sound: to_a_place },
];

/// Parameters are names, or stand for what is not used.
fn names_only(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let Some(list) = tree.child_named(function, "parameters") else { return true };
    tree.parts(list)
        .all(
            |part| tree.node(part).token_end - tree.node(part).first_token == 1
                && !code.text(part).starts_with(['\'', '"']),
        )
}

/// Between brackets stand values: no words that open blocks, and nothing is put anywhere.
fn values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(list).all(|part| {
        let first =
            tree.tokens().get(tree.node(part).first_token as usize).map_or("", |token| code.source.slice(token.span()));
        !matches!(tree.role(part), Role::Assignment | Role::Statement | Role::Branch)
            && !matches!(first, "if" | "for" | "while" | "switch" | "try" | "function" | "return" | "break")
    })
}

fn to_a_place(code: Code<'_>, assignment: NodeId) -> bool {
    code.tree.parts(assignment).next().is_none_or(|left| {
        !matches!(code.tree.role(left), Role::Literal | Role::String | Role::Operator | Role::Parenthesized)
    })
}
