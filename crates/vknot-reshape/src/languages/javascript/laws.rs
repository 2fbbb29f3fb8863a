//! What no engine takes though the grammar does (ECMA-262, sections 14.5 and 16.2).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(crate) static LAWS: &[Law] = &[
    Law::Sound { holder: "expression_statement", is_sound: no_declaration },
    Law::Sound { holder: "statement_block", is_sound: no_module_items },
    Law::Sound { holder: "try_statement", is_sound: has_handler },
    Law::Sound { holder: "interface_body", is_sound: signatures_only },
    Law::Sound { holder: "object_type", is_sound: signatures_only },
];

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

/// Imports and exports stand at the top of a file.
fn no_module_items(code: Code<'_>, block: NodeId) -> bool {
    let tree = code.tree;
    let declared = tree.parent(block).is_some_and(|holder| tree.role(holder) == Role::Type);
    declared || tree.parts(block).all(|part| !matches!(tree.kind_name(part), "import_statement" | "export_statement"))
}
