//! Whether two trees are the same, but for what came and went.

use vknot_syntax::{Node, NodeId, Role, Tree};

use crate::spec::Code;
use super::matching::{Matching, NONE};
use super::refusal::{Difference, Refusal, shortened};

/// Compares two trees node for node: kinds, holders, first and last tokens.
pub(super) fn same_nodes(old: Code<'_>, new: Code<'_>) -> Result<(), Refusal> {
    let (old_nodes, new_nodes) = (old.tree.nodes(), new.tree.nodes());
    let same = |old: &Node, new: &Node| {
        (old.kind, old.parent, old.first_token, old.token_end) == (new.kind, new.parent, new.first_token, new.token_end)
    };
    let differs = old_nodes.iter().zip(new_nodes).position(|(old, new)| !same(old, new));
    match differs {
        None if old_nodes.len() == new_nodes.len() => Ok(()),
        at => Err(differ(old, new, at.unwrap_or(old_nodes.len().min(new_nodes.len())), at.unwrap_or(old_nodes.len()))),
    }
}

fn differ(old: Code<'_>, new: Code<'_>, at: usize, new_at: usize) -> Refusal {
    let node = old.tree.nodes().get(at);
    let token = node.and_then(|node| old.tree.tokens().get(node.first_token as usize));
    let kind = |code: Code<'_>, node: Option<&Node>| {
        node.map_or(String::new(), |node| code.tree.language().kind_name(node.kind).to_owned())
    };
    let reason = Difference::Structure {
        token: token.map_or(String::new(), |token| shortened(old.source.slice(token.span()))),
        old: kind(old, node),
        new: kind(new, new.tree.nodes().get(new_at)),
    };
    Refusal::at(token.map_or(old.source.span().end, |token| token.start), reason)
}

/// Whether a node must be there in the other tree: it did not come or go with its first and last token, alone or around what stays.
fn is_kept(node: &Node, partners: &[u32]) -> bool {
    let partners = partners.get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
    // What is empty came and went with what it stood beside.
    partners.first().zip(partners.last()).is_some_and(|(first, last)| *first != NONE || *last != NONE)
}

/// The nodes of a tree that must be there in the other one, in preorder, each with the one that holds it among them.
fn kept(code: Code<'_>, partners: &[u32]) -> Vec<(u32, u32)> {
    let nodes = code.tree.nodes();
    let mut kept: Vec<(u32, u32)> = Vec::with_capacity(nodes.len());
    // For each node the number of the innermost kept one that it is, or is in.
    let mut within: Vec<u32> = vec![0; nodes.len()];
    for (at, node) in nodes.iter().enumerate() {
        let holder = within.get(node.parent.0 as usize).copied().unwrap_or(0);
        within[at] = holder;
        // Where a comment stands is told by the order of the tokens. Behind a statement that gets braces it comes to stand inside.
        let comment = node.is_leaf() && code.tree.language().role(node.kind) == Role::Comment;
        if at == 0 || !comment && is_kept(node, partners) {
            within[at] = kept.len() as u32;
            kept.push((at as u32, holder));
        }
    }
    kept
}

/// Compares two trees, comments aside and nodes that are made of tokens that came or went.
pub(super) fn same_kept_nodes(old: Code<'_>, new: Code<'_>, matching: &Matching) -> Result<(), Refusal> {
    let (old_kept, new_kept) = (kept(old, &matching.old), kept(new, &matching.new));
    let same = |(old_at, old_holder): (u32, u32), (new_at, new_holder): (u32, u32)| {
        let (old_node, new_node) = (old.tree.node(NodeId(old_at)), new.tree.node(NodeId(new_at)));
        let tokens = |tree: &Tree, node: &Node, partners: &[u32]| {
            let own = partners.get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
            let found = |partner: Option<(usize, &u32)>| partner.map(
                |(at, partner)| (node.first_token + at as u32, *partner),
            );
            let is_kept = |(at, partner): &(usize, &u32)| {
                **partner != NONE && !tree.is_comment(node.first_token + *at as u32)
            };
            (found(own.iter().enumerate().find(is_kept)), found(own.iter().enumerate().rfind(is_kept)))
        };
        let turned = |pair: Option<(u32, u32)>| pair.map(|(own, partner)| (partner, own));
        let (first, last) = tokens(old.tree, old_node, &matching.old);
        let (new_first, new_last) = tokens(new.tree, new_node, &matching.new);
        old_node.kind == new_node.kind
            && old_holder == new_holder
            && first == turned(new_first)
            && last == turned(new_last)
    };
    let differs = old_kept.iter().zip(&new_kept).position(|(old, new)| !same(*old, *new));
    match differs {
        None if old_kept.len() == new_kept.len() => Ok(()),
        at => {
            let at = at.unwrap_or(old_kept.len().min(new_kept.len()));
            let place = |kept: &[(u32, u32)], nodes: usize| kept.get(at).map_or(nodes, |(node, _)| *node as usize);
            let old_at = place(&old_kept, old.tree.nodes().len());
            Err(differ(old, new, old_at, place(&new_kept, new.tree.nodes().len())))
        }
    }
}
