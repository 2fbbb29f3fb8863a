//! Which pieces of a file with syntax errors cannot be trusted to be nested as the tree says.
//!
//! An error may swallow a bracket, or one is missing; then everything up to the partner of that bracket hangs in the wrong place. The
//! smallest node whose own brackets all have partners is left alone.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role, Tree};

use crate::partners::Partners;
use crate::spec::Code;

/// With more errors than this the whole file is left alone.
const ERRORS_AT_MOST: usize = 64;

/// The nodes to leave alone.
pub(super) fn untrusted(code: Code<'_>) -> HashSet<NodeId> {
    let tree = code.tree;
    let mut found = HashSet::new();
    if !tree.has_error() {
        return found;
    }
    let partners = Partners::of(code);
    let unbalanced: Vec<NodeId> = tree.errors()
        .filter(|id| is_unbalanced(&partners, tree, *id))
        .take(ERRORS_AT_MOST + 1)
        .collect();
    if unbalanced.len() > ERRORS_AT_MOST {
        found.insert(tree.root());
        return found;
    }
    for error in unbalanced {
        let mut above = tree.ancestors(error).skip(1).take(ERRORS_AT_MOST);
        let closed = above.find(|id| are_closed(&partners, tree, *id));
        found.insert(closed.unwrap_or(tree.root()));
    }
    found
}

/// Whether an error holds half a pair of brackets, or the text lacks a bracket here.
fn is_unbalanced(partners: &Partners, tree: &Tree, id: NodeId) -> bool {
    let lacks_bracket = tree.node(id).is_missing() && matches!(tree.kind_name(id), ")" | "]" | "}");
    lacks_bracket || tree.role(id) == Role::Error && !are_closed(partners, tree, id)
}

/// Whether a node holds both or neither of each pair of brackets.
fn are_closed(partners: &Partners, tree: &Tree, id: NodeId) -> bool {
    let node = tree.node(id);
    let range = node.first_token..node.token_end;
    range.clone().all(|token| partners.is_closed(token, &range, node.parent == id))
}
