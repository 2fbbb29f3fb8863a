//! Looks: what only reads. Each gives plain data for whoever shows it.

mod folds;
mod ladder;
mod outline;
mod pairs;

pub use folds::{Fold, FoldKind, folds};
pub use ladder::{ladder, Rung};
pub use outline::{find_by_name, outline, OutlineEntry, OutlinePath};
pub use pairs::{Culprit, Pair, Pairs, pairs, Unpaired};

use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::languages::Toolkit;

/// What a language's folder says about looks.
pub(crate) struct LookSpec {
    /// Kinds whose label is made of several fields, joined by `for`.
    pub details: &'static [(&'static str, &'static [&'static str])],
    /// Kinds with a better word than their name.
    pub words: &'static [(&'static str, &'static str)],
    /// Kinds that have a name worth an outline entry though their role is not an item's.
    pub outlined: &'static [&'static str],
}

pub(crate) const LOOKS: LookSpec = LookSpec { details: &[], words: &[], outlined: &[] };

/// Where an item begins to say what it is: behind its annotations and comments.
pub fn header_start(tree: &Tree, id: NodeId) -> u32 {
    let node = tree.node(id);
    let mut skip = node.first_token;
    for child in tree.children(id) {
        match tree.role(child) {
            Role::Annotation | Role::Comment => skip = tree.node(child).token_end,
            _ => {
                for inner in tree.children(child).take_while(|inner| tree.role(*inner) == Role::Annotation) {
                    skip = tree.node(inner).token_end;
                }
                break;
            }
        }
    }
    tree.tokens().get(skip as usize).map_or(node.start, |token| token.start).min(node.end)
}

/// The line on which an item says what it is, trimmed.
pub fn header_line<'s>(source: &'s Source, tree: &Tree, id: NodeId) -> &'s str {
    let line = source.lines().index_at(header_start(tree, id));
    source.lines().text(source.text(), line).trim()
}

/// What a node is, in words: a `method_declaration` is a `method`, unless its language has a better word.
pub fn kind_words(tree: &Tree, id: NodeId) -> String {
    const ENDINGS: [&str; 7] = [
        "_declaration",
        "_definition",
        "_item",
        "_statement",
        "_expression",
        "_specification",
        "_literal",
    ];
    let kind = tree.kind_name(id);
    let words = Toolkit::of(tree.language()).looks.words;
    if let Some((_, word)) = words.iter().find(|(name, _)| *name == kind) {
        return (*word).to_owned();
    }
    let bare = ENDINGS.iter().find_map(|ending| kind.strip_suffix(ending)).unwrap_or(kind);
    bare.replace('_', " ")
}

/// The span from the comments and annotations that belong to an item, directly in front of it, to its end.
pub fn with_attached(source: &Source, tree: &Tree, id: NodeId) -> Span {
    let mut start = tree.node(id).start;
    let Some(parent) = tree.parent(id) else { return tree.node(id).span() };
    let mut attached: Vec<NodeId> = Vec::new();
    for child in tree.children(parent) {
        if child == id {
            break;
        }
        match tree.role(child) {
            Role::Comment | Role::Annotation => attached.push(child),
            _ => attached.clear(),
        }
    }
    for child in attached.into_iter().rev() {
        let end = tree.node(child).end;
        let apart = source.line(start).saturating_sub(source.line(end)) > 1;
        // A comment behind something else on its line belongs to that.
        let line = source.lines().start(source.lines().index_at(tree.node(child).start));
        let trailing = !Span::new(line, tree.node(child).start).of(source.text()).trim().is_empty();
        if apart || trailing {
            break;
        }
        start = tree.node(child).start;
    }
    Span::new(start, tree.node(id).end)
}
