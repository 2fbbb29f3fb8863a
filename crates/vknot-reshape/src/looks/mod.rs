//! Looks: what only reads. Each gives plain data for whoever shows it, with places in the outer file also for code
//! that is embedded in it.

mod comments;
mod folds;
mod invariants;
mod ladder;
mod marks;
mod outline;
mod pairs;
mod regions;
mod sections;
mod todos;

pub use comments::{Comment, comments};
pub use folds::{Construct, Fold, FoldKind, folds, folds_with};
pub use invariants::check;
pub use ladder::{ladder, Rung};
pub use marks::{Marks, NamedSpan};
pub use outline::{find_by_name, outline, OutlineEntry, OutlinePath};
pub use pairs::{Culprit, Pair, Pairs, pairs, Unpaired};
pub(crate) use regions::is_region_marker;
pub use regions::{LoneMarker, Region, Regions, regions};
pub use sections::{Section, sections};
pub use todos::{Todo, todos};

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
    /// Kinds that name a value, with the field of the value: where that is a callable or a type, so is the name.
    pub named_values: &'static [(&'static str, &'static str)],
    /// Kinds that hold one item and what is said about it: exports, decorations, templates.
    pub wrappers: &'static [&'static str],
    /// Kinds whose inside is not to be outlined, such as code that is commented out.
    pub hidden: &'static [&'static str],
    /// Kinds that decide which of their blocks run.
    pub conditionals: &'static [&'static str],
    /// Kinds that run their blocks again and again.
    pub loops: &'static [&'static str],
    /// How a region's markers are written.
    pub region_markers: RegionMarkers,
    /// Whether a line comment that begins with `%%` heads a section.
    pub sections: bool,
}

/// The form of region markers in a language.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RegionMarkers {
    /// `region NAME` and `endregion` in a comment.
    Comment,
    /// `#region NAME` and `#endregion` on lines of their own.
    Directive,
    /// `#pragma region NAME` and `#pragma endregion`.
    Pragma,
    /// `{$REGION 'NAME'}` and `{$ENDREGION}`.
    Braced,
    /// There is no comment to put one in.
    Nothing,
}

pub(crate) const LOOKS: LookSpec = LookSpec {
    details: &[],
    words: &[],
    outlined: &[],
    named_values: &[],
    wrappers: &[],
    hidden: &[],
    conditionals: &["if_statement"],
    loops: &["for_statement", "while_statement", "do_statement"],
    region_markers: RegionMarkers::Comment,
    sections: false,
};

/// The node with what is wrapped around it to say more about it, such as its export or its decorations.
pub fn whole_item(tree: &Tree, id: NodeId) -> NodeId {
    let toolkit = Toolkit::of(tree.language());
    let mut whole = id;
    while let Some(parent) = tree.parent(whole).filter(|parent| toolkit.kind(tree.node(*parent).kind).wraps) {
        whole = parent;
    }
    whole
}

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

/// What a node is, in words: a `method_declaration` is a `method`, unless its language has a better word.
pub fn kind_words(tree: &Tree, id: NodeId) -> &'static str {
    Toolkit::of(tree.language()).words(tree.node(id).kind)
}

/// The span from the comments and annotations that belong to an item, directly in front of it, to its end.
pub fn with_attached(source: &Source, tree: &Tree, id: NodeId) -> Span {
    let id = whole_item(tree, id);
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
