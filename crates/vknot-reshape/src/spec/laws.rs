//! What a compiler does not take though its grammar, as it is read here, does: an import in a block, a block with nothing in it.
//!
//! Edits that move code are held to it, as they are to the grammar.

use std::collections::HashMap;

use vknot_syntax::{Kind, NodeId, Role};

use super::Code;
pub(crate) use super::toolkit::Law;

impl Law {
    fn holders(&self) -> Vec<&'static str> {
        match self {
            Law::Holds { holder, .. } | Law::Order { holder, .. } | Law::Sound { holder, .. } => vec![holder],
            Law::Filled { kinds, .. } => kinds.to_vec(),
        }
    }

    /// Where a node does not keep it.
    fn breach(&self, code: Code<'_>, id: NodeId) -> Option<u32> {
        let tree = code.tree;
        let start = |id: NodeId| tree.node(id).start;
        let named = || {
            tree.parts(id)
                .filter(|part| tree.language().is_named(tree.node(*part).kind) && tree.role(*part) != Role::Error)
        };
        match self {
            Law::Holds { kinds, roles, .. } => named()
                .find(|part| !kinds.contains(&tree.kind_name(*part)) && !roles.contains(&tree.role(*part)))
                .map(start),
            Law::Order { ranks, .. } => {
                let rank = |part: NodeId| {
                    ranks.iter().position(|kinds| kinds.contains(&tree.kind_name(part))).unwrap_or(ranks.len())
                };
                let mut reached = 0;
                named()
                    .find(|part| {
                        let own = rank(*part);
                        let behind = own < reached;
                        reached = reached.max(own);
                        behind
                    })
                    .map(start)
            }
            Law::Filled { field, .. } => {
                let filled = tree.child_named(id, field).is_some_and(|held| !tree.node(held).is_empty());
                (!filled).then(|| start(id))
            }
            Law::Sound { is_sound, .. } => (!is_sound(code, id)).then(|| start(id)),
        }
    }
}

/// Where a text does not keep the laws of its language.
pub(crate) fn breaches(code: Code<'_>) -> Vec<u32> {
    let laws = code.toolkit().edits.laws;
    if laws.is_empty() {
        return Vec::new();
    }
    let language = code.tree.language();
    let mut by_kind: HashMap<Kind, Vec<&Law>> = HashMap::new();
    for law in laws {
        for kind in law.holders().into_iter().filter_map(|name| language.kind(name)) {
            by_kind.entry(kind).or_default().push(law);
        }
    }
    let nodes = code.tree.nodes().iter().enumerate();
    nodes
        .filter_map(|(at, node)| Some((NodeId(at as u32), by_kind.get(&node.kind)?)))
        .flat_map(|(id, laws)| laws.iter().filter_map(move |law| law.breach(code, id)))
        .collect()
}
