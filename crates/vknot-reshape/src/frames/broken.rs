//! Code that could not be read: how far its lines can be told from its brackets.

use vknot_syntax::{NodeId, Role, Span};

use crate::partners::bracket_of;
use crate::spec::Code;

/// Where in what could not be read a bracket closes that nothing there opened. From there on nothing is certain.
pub(crate) fn lost_from(code: Code<'_>, error: NodeId) -> Option<u32> {
    let node = code.tree.node(error);
    let mut depth = 0i64;
    for token in node.first_token..node.token_end {
        depth += bracket_of(code, token).map_or(0, |bracket| if bracket.opens { 1 } else { -1 });
        if depth < 0 {
            return code.tree.tokens().get(token as usize).map(|token| token.start);
        }
    }
    None
}

/// The pieces of a text whose lines cannot be told, in order.
pub(crate) fn lost_spans(code: Code<'_>) -> Vec<Span> {
    let tree = code.tree;
    let errors = tree.errors().filter(|id| tree.role(*id) == Role::Error);
    errors.filter_map(|error| Some(Span::new(lost_from(code, error)?, tree.node(error).end))).collect()
}
