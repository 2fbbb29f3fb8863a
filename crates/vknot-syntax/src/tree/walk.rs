//! Moving about in a tree: children, ancestors, what lies at a position.

use crate::language::Field;
use crate::role::Role;
use crate::text::Span;
use super::arena::{NodeId, Token, TokenId, Tree};

/// The direct children of a node, in order.
#[derive(Clone)]
pub struct Children<'t> {
    tree: &'t Tree,
    at: u32,
    end: u32,
}

impl Iterator for Children<'_> {
    type Item = NodeId;

    fn next(&mut self) -> Option<NodeId> {
        if self.at >= self.end {
            return None;
        }
        let id = NodeId(self.at);
        self.at = self.tree.node(id).next.max(self.at + 1);
        Some(id)
    }
}

/// How many nodes within nodes are looked into for a name.
const HOLDERS_OF_NAME: usize = 4;

impl Tree {
    /// The direct children of a node, comments and punctuation included.
    pub fn children(&self, id: NodeId) -> Children<'_> {
        Children { tree: self, at: id.0 + 1, end: self.node(id).next }
    }

    /// The children that have text and are no comments.
    pub fn parts(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        self.children(id).filter(|child| !self.node(*child).is_empty() && self.role(*child) != Role::Comment)
    }

    /// The first child in that field.
    pub fn child(&self, id: NodeId, field: Field) -> Option<NodeId> {
        if field == Field(0) {
            return None;
        }
        self.children(id).find(|child| self.node(*child).field == field)
    }

    /// The first child in the field of that name.
    pub fn child_named(&self, id: NodeId, field: &str) -> Option<NodeId> {
        self.child(id, self.language().field(field))
    }

    /// The node's parent; `None` for the root.
    pub fn parent(&self, id: NodeId) -> Option<NodeId> {
        (id.0 != 0).then(|| self.node(id).parent)
    }

    /// The node and all that hold it, from the inside out.
    pub fn ancestors(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        std::iter::successors(Some(id), |id| self.parent(*id))
    }

    /// The nodes of a subtree in preorder, itself first.
    pub fn subtree(&self, id: NodeId) -> impl Iterator<Item = NodeId> + use<> {
        (id.0..self.node(id).next.max(id.0 + 1)).map(NodeId)
    }

    /// The token at byte `offset`, or the one that ends there.
    pub fn token_at(&self, offset: u32) -> Option<TokenId> {
        let behind = self.tokens.partition_point(|token| token.start <= offset);
        let before = behind.checked_sub(1)?;
        (offset <= self.tokens[before].end).then_some(before as TokenId)
    }

    /// The first token that begins at or behind byte `offset`.
    pub fn token_from(&self, offset: u32) -> TokenId {
        self.tokens.partition_point(|token| token.start < offset) as TokenId
    }

    /// The smallest node that covers a span.
    pub fn covering(&self, span: Span) -> NodeId {
        let mut found = self.root();
        loop {
            let inner = self.children(found).find(|child| {
                let node = self.node(*child);
                !node.is_empty() && node.span().covers(span)
            });
            match inner {
                Some(child) => found = child,
                None => return found,
            }
        }
    }

    /// The name a node declares, as the span of its text.
    pub fn name_span(&self, id: NodeId) -> Option<Span> {
        let name = match self.language().name_path(self.node(id).kind) {
            Some(path) => path.iter().try_fold(id, |node, field| self.child(node, *field))?,
            None => self.child_named(id, "name").or_else(|| self.name_inside(id))?,
        };
        Some(self.node(name).span())
    }

    /// A name that stands among the parameters, as in `(define (name argument) ...)`, or in an opening tag.
    fn name_inside(&self, id: NodeId) -> Option<NodeId> {
        let mut holder = id;
        for _ in 0..HOLDERS_OF_NAME {
            holder = self.child_named(holder, "parameters")?;
            if let Some(name) = self.child_named(holder, "name") {
                return Some(name);
            }
        }
        None
    }

    /// Whether the tokens on both sides of a gap touch and together look like one operator, so that they must go on
    /// touching.
    pub fn is_joined(&self, text: &str, gap: u32) -> bool {
        let Some(left) = gap.checked_sub(1).and_then(|left| self.tokens.get(left as usize)) else { return false };
        let Some(right) = self.tokens.get(gap as usize).filter(|right| right.start == left.end) else { return false };
        let mark = |at: u32| text.as_bytes().get(at as usize).is_some_and(u8::is_ascii_punctuation);
        let comment = |token: &Token| self.role(token.node) == Role::Comment;
        if !(mark(right.start) && mark(left.end.wrapping_sub(1))) || comment(left) || comment(right) {
            return false;
        }
        let pair = Span::new(left.end - 1, left.end + 1).of(text);
        self.language.spec().joined.contains(&pair)
    }

    /// The text of a node.
    pub fn text_of<'s>(&self, text: &'s str, id: NodeId) -> &'s str {
        self.node(id).span().of(text)
    }
}
