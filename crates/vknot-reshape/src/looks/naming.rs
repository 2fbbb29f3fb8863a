//! What an item is called, and what belongs to it.

use vknot_syntax::{NodeId, Role, Span, Tree};

use crate::items::leading;
use crate::spec::Code;

/// The node with what is wrapped around it to say more about it, such as its export or its decorations.
pub fn whole_item(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let toolkit = code.toolkit();
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

/// Where the line of an item begins that names it: its header, or the line of its name where that stands further down, as behind a type on
/// a line of its own.
pub fn named_start(code: Code<'_>, id: NodeId) -> u32 {
    let Code { source, tree, .. } = code;
    let header = header_start(tree, id);
    let named = tree.name_span(id).filter(|name| name.start > header);
    let far = named.filter(|name| source.slice(Span::new(header, name.start)).contains('\n'));
    let first = far.map(|name| tree.token_from(source.line_start(name.start)));
    first.and_then(|first| tree.tokens().get(first as usize)).map_or(header, |token| token.start)
}

/// The line that names the item about which a line in front of it says something, as an annotation does; `None` for other lines.
pub fn item_line(code: Code<'_>, line: u32) -> Option<u32> {
    let Code { source, tree, .. } = code;
    let span = source.lines().span(source.text(), line.checked_sub(1)?);
    let token = tree.tokens().get(tree.token_from(span.start) as usize).filter(|token| token.start <= span.end)?;
    let is_item = |id: &NodeId| matches!(tree.role(*id), Role::Type | Role::Callable);
    let item = tree.ancestors(token.node).find_map(|id| match code.toolkit().kind(tree.node(id).kind).wraps {
        true => tree.children(id).find(is_item),
        false => Some(id).filter(is_item),
    })?;
    let named = source.line(named_start(code, item));
    (named > line && tree.role(token.node) != Role::Comment).then_some(named)
}

/// What a node is, in words: a `method_declaration` is a `method`, unless its language has a better word.
pub fn kind_words(code: Code<'_>, id: NodeId) -> &'static str {
    let tree = code.tree;
    code.toolkit().words(tree.node(id).kind)
}

/// An item with what belongs to it.
pub struct Attached {
    /// From the first of it to the item's end.
    pub span: Span,
    /// Whether a comment is among it.
    pub commented: bool,
}

/// The span from the comments and annotations that belong to an item, directly in front of it, to its end.
pub fn with_attached(code: Code<'_>, id: NodeId) -> Span {
    attached(code, id).span
}

/// An item with the comments and annotations that belong to it, directly in front of it.
pub fn attached(code: Code<'_>, id: NodeId) -> Attached {
    let tree = code.tree;
    let id = whole_item(code, id);
    let Some(parent) = tree.parent(id) else { return Attached { span: tree.node(id).span(), commented: false } };
    let mut before: Vec<NodeId> = Vec::new();
    for child in tree.children(parent).take_while(|child| *child != id) {
        match tree.role(child) {
            Role::Comment | Role::Annotation => before.push(child),
            _ => before.clear(),
        }
    }
    let leading = leading(code, id, &before);
    let first = leading.first().copied().unwrap_or(id);
    let commented = leading.iter().any(|id| tree.role(*id) == Role::Comment);
    Attached { span: Span::new(tree.node(first).start, tree.node(id).end), commented }
}
