//! Which pieces of a file with syntax errors cannot be trusted to be nested as the tree says.
//!
//! An error may swallow a bracket; then everything up to the partner of that bracket hangs in the wrong place. The
//! smallest node whose own brackets all have partners is left alone.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role, Tree};

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
    let brackets = Brackets::of(code);
    let unbalanced: Vec<NodeId> = tree.errors()
        .filter(|id| tree.role(*id) == Role::Error && !brackets.are_closed(tree, *id))
        .take(ERRORS_AT_MOST + 1)
        .collect();
    if unbalanced.len() > ERRORS_AT_MOST {
        found.insert(tree.root());
        return found;
    }
    for error in unbalanced {
        let mut above = tree.ancestors(error).skip(1).take(ERRORS_AT_MOST);
        let closed = above.find(|id| brackets.are_closed(tree, *id));
        found.insert(closed.unwrap_or(tree.root()));
    }
    found
}

/// For each token the token that is its partner, if it is a bracket with one; itself, if it is no bracket.
struct Brackets {
    partner: Vec<u32>,
}

const ALONE: u32 = u32::MAX;

impl Brackets {
    fn of(code: Code<'_>) -> Self {
        let Code { source, tree, .. } = code;
        let mut partner: Vec<u32> = (0..tree.tokens().len() as u32).collect();
        let mut open: Vec<(u32, usize)> = Vec::new();
        for (index, token) in tree.tokens().iter().enumerate() {
            let text = source.slice(token.span());
            if let Some(shape) = ["(", "[", "{"].iter().position(|bracket| *bracket == text) {
                open.push((index as u32, shape));
                partner[index] = ALONE;
            } else if let Some(shape) = [")", "]", "}"].iter().position(|bracket| *bracket == text) {
                partner[index] = ALONE;
                // A brace closes whatever was left open inside it; other brackets only close their like.
                let like = |entry: &(u32, usize)| entry.1 == shape;
                let at = match open.last() {
                    Some(last) if like(last) => Some(open.len() - 1),
                    _ if shape == 2 => open.iter().rposition(like),
                    _ => None,
                };
                if let Some(at) = at {
                    let (start, _) = open[at];
                    open.truncate(at);
                    partner[start as usize] = index as u32;
                    partner[index] = start;
                }
            }
        }
        Self { partner }
    }

    /// Whether a node holds both or neither of each pair of braces.
    fn are_closed(&self, tree: &Tree, id: NodeId) -> bool {
        let node = tree.node(id);
        let range = node.first_token..node.token_end;
        range.clone().all(|token| self.partner.get(token as usize).is_some_and(|partner| {
            *partner == ALONE && node.parent == id || range.contains(partner)
        }))
    }
}
