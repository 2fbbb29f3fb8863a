//! Builds the arena, one node after another, for grammar-made and hand-made readers alike.
//!
//! Here, once, tokens are trimmed to their text and whatever a reader left out becomes a token of its own, so that
//! "tokens plus gaps give the file back" holds for every file.

use crate::language::{Field, Kind, Language};
use crate::text::Span;
use super::arena::{HAS_ERROR, LEAF, MISSING, Node, NodeId, Token, Tree};

/// Takes nodes in preorder: [`open`](Self::open), children, [`close`](Self::close).
pub struct TreeBuilder<'t> {
    text: &'t [u8],
    language: &'static Language,
    error: Kind,
    nodes: Vec<Node>,
    tokens: Vec<Token>,
    open: Vec<u32>,
    reached: u32,
    /// What a mask has hidden from the reader and what it is, last first.
    hidden: Vec<Hidden>,
    /// Kinds of nodes that have marks which the reader does not show.
    unshown: Vec<Kind>,
}

/// What a mask has hidden.
#[derive(Clone, Copy)]
pub(crate) struct Hidden {
    pub span: Span,
    /// The kind of the token that it becomes.
    pub kind: Kind,
    pub side: HiddenSide,
}

/// What hidden text is to a node that is hidden with it.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum HiddenSide {
    None,
    /// Begins a node of that kind.
    Opens(Kind),
    /// Ends the node.
    Closes,
}

impl<'t> TreeBuilder<'t> {
    /// Starts a tree over `text`.
    pub fn new(text: &'t str, language: &'static Language) -> Self {
        Self {
            text: text.as_bytes(),
            language,
            error: language.error_kind(),
            nodes: Vec::with_capacity(text.len() / 3 + 1),
            tokens: Vec::with_capacity(text.len() / 4 + 1),
            open: Vec::new(),
            reached: 0,
            hidden: Vec::new(),
            unshown: language.reading().unshown.iter().filter_map(|name| language.kind(name)).collect(),
        }
    }

    /// Makes tokens of those kinds of what the reader will not see; the spans are in order.
    pub(crate) fn expect_hidden(&mut self, mut hidden: Vec<Hidden>) {
        hidden.reverse();
        self.hidden = hidden;
    }

    /// Opens a node that will have children.
    pub fn open(&mut self, kind: Kind, field: Field) -> NodeId {
        let id = self.nodes.len() as u32;
        let flags = if kind == self.error { HAS_ERROR } else { 0 };
        self.push(kind, field, flags);
        self.open.push(id);
        NodeId(id)
    }

    /// Gives a node another kind, for readers that learn late what they are reading.
    pub fn retag(&mut self, id: NodeId, kind: Kind) {
        if let Some(node) = self.nodes.get_mut(id.0 as usize) {
            node.kind = kind;
        }
    }

    /// Says what a node is to its parent.
    pub fn set_field(&mut self, id: NodeId, field: Field) {
        if let Some(node) = self.nodes.get_mut(id.0 as usize) {
            node.field = field;
        }
    }

    /// A node's kind.
    pub fn kind_of(&self, id: NodeId) -> Kind {
        self.nodes.get(id.0 as usize).map_or(self.error, |node| node.kind)
    }

    /// What a node is to its parent.
    pub fn field_of(&self, id: NodeId) -> Field {
        self.nodes.get(id.0 as usize).map_or(Field(0), |node| node.field)
    }

    /// The node that holds a node.
    pub fn parent_of(&self, id: NodeId) -> NodeId {
        self.nodes.get(id.0 as usize).map_or(NodeId(0), |node| node.parent)
    }

    /// The node made last.
    pub fn last(&self) -> NodeId {
        NodeId((self.nodes.len() as u32).saturating_sub(1))
    }

    /// The kind of unreadable pieces.
    pub fn error_kind(&self) -> Kind {
        self.error
    }

    /// Adds an unreadable piece.
    pub fn error(&mut self, start: usize, end: usize) {
        self.leaf(self.error, Field(0), start as u32, end as u32);
    }

    /// Adds a token without a field, at byte offsets.
    pub fn token(&mut self, kind: Kind, start: usize, end: usize) {
        self.leaf(kind, Field(0), start as u32, end as u32);
    }

    /// Closes the node opened last.
    pub fn close(&mut self) {
        let Some(id) = self.open.pop() else { return };
        let next = self.nodes.len() as u32;
        let token_end = self.tokens.len() as u32;
        let node = &mut self.nodes[id as usize];
        node.next = next;
        node.token_end = token_end;
        if node.first_token < token_end {
            node.start = self.tokens[node.first_token as usize].start;
            node.end = self.tokens[token_end as usize - 1].end;
        }
        let flags = node.flags & HAS_ERROR;
        if let Some(parent) = self.open.last() {
            self.nodes[*parent as usize].flags |= flags;
        }
    }

    /// Whether a part of the text is white space with a line break in it.
    pub(crate) fn is_line_ends(&self, start: u32, end: u32) -> bool {
        let part = self.text.get(start as usize..end as usize).unwrap_or_default();
        part.contains(&b'\n') && part.iter().all(|byte| matches!(byte, b' ' | b'\t' | b'\r' | b'\n'))
    }

    /// Adds a token from `start` to `end`, less the white space at its edges. Text that no token covered so far becomes
    /// an error token in front of it. A token without text becomes a node without a token.
    pub fn leaf(&mut self, kind: Kind, field: Field, start: u32, end: u32) {
        let (start, end) = self.trim(start.max(self.reached), end);
        self.cover_up_to(start);
        let flags = if kind == self.error { LEAF | HAS_ERROR } else { LEAF };
        self.push_leaf(kind, field, flags, start, end);
    }

    /// Adds a token with the white space at its edges, as where that is shown.
    pub fn exact(&mut self, kind: Kind, start: usize, end: usize) {
        let (start, end) = ((start as u32).max(self.reached), end as u32);
        if start < end {
            self.cover_up_to(start);
            self.push_leaf(kind, Field(0), LEAF, start, end);
        }
    }

    /// Adds a node the grammar wanted and the text does not have.
    pub fn missing(&mut self, kind: Kind, field: Field) {
        self.push_leaf(kind, field, LEAF | MISSING | HAS_ERROR, self.reached, self.reached);
    }

    /// Closes everything and gives the tree.
    pub fn finish(mut self) -> Tree {
        let end = self.trim(self.reached, self.text.len() as u32).1;
        if self.nodes.is_empty() {
            self.open(self.error, Field(0));
        }
        if self.open.is_empty() {
            self.open.push(0);
        }
        self.cover_up_to(end);
        while !self.open.is_empty() {
            self.close();
        }
        let length = self.text.len() as u32;
        Tree {
            language: self.language,
            nodes: self.nodes,
            tokens: self.tokens,
            length,
            gave_up: false,
            embedded: Vec::new(),
        }
    }

    fn push(&mut self, kind: Kind, field: Field, flags: u8) {
        let parent = NodeId(self.open.last().copied().unwrap_or(0));
        let (at, token) = (self.reached, self.tokens.len() as u32);
        let next = self.nodes.len() as u32 + 1;
        let node = Node { kind, field, flags, start: at, end: at, parent, next, first_token: token, token_end: token };
        self.nodes.push(node);
    }

    fn push_leaf(&mut self, kind: Kind, field: Field, flags: u8, start: u32, end: u32) {
        let id = NodeId(self.nodes.len() as u32);
        self.push(kind, field, flags);
        if flags & HAS_ERROR != 0 && let Some(parent) = self.open.last() {
            self.nodes[*parent as usize].flags |= HAS_ERROR;
        }
        if start < end {
            self.tokens.push(Token { start, end, node: id });
            self.reached = end;
            if let Some(node) = self.nodes.last_mut() {
                (node.start, node.end) = (start, end);
                node.token_end += 1;
            }
        }
    }

    /// Gives what is hidden in front of an offset to the node that is open, unless it is what cannot be read: comments stand beside what
    /// follows them, not in it.
    pub fn place_hidden(&mut self, before: u32) {
        if self.hidden.last().is_some_and(|hidden| hidden.kind != self.error && hidden.span.end <= before) {
            self.cover_up_to(before);
        }
    }

    fn cover_up_to(&mut self, end: u32) {
        if self.reached >= end {
            return;
        }
        while let Some(Hidden { span, kind, side }) = self.hidden.pop_if(|hidden| hidden.span.start < end) {
            self.cover_with_error(span.start);
            let (start, stop) = self.trim(span.start.max(self.reached), span.end.min(end));
            if start < stop {
                let flags = if kind == self.error { LEAF | HAS_ERROR } else { LEAF };
                if let HiddenSide::Opens(kind) = side {
                    self.open(kind, Field(0));
                }
                self.push_leaf(kind, Field(0), flags, start, stop);
                if side == HiddenSide::Closes {
                    self.close();
                }
            }
        }
        self.cover_with_error(end);
    }

    /// Covers what no token covers: with the mark it is where the grammar does not show its marks, with an error anywhere else.
    fn cover_with_error(&mut self, end: u32) {
        let (start, end) = self.trim(self.reached, end.max(self.reached));
        if start >= end || self.is_line_splice(start, end) {
            return;
        }
        let holder = self.open.last().and_then(|open| self.nodes.get(*open as usize));
        let unshown = holder.is_some_and(|holder| self.unshown.contains(&holder.kind));
        let mark = std::str::from_utf8(self.text.get(start as usize..end as usize).unwrap_or_default()).ok();
        match mark.filter(|_| unshown).and_then(|mark| self.language.token_kind(mark)) {
            Some(mark) => self.push_leaf(mark, Field(0), LEAF, start, end),
            None => self.push_leaf(self.error, Field(0), LEAF | HAS_ERROR, start, end),
        }
    }

    /// Whether the text is nothing but backslashes that join lines, which belong to the gap.
    fn is_line_splice(&self, start: u32, end: u32) -> bool {
        let behind = self.text.get(end as usize..).unwrap_or(b"");
        let piece = self.text.get(start as usize..end as usize).unwrap_or(b"");
        let splices = piece.iter().all(|byte| *byte == b'\\' || byte.is_ascii_whitespace());
        splices && (behind.starts_with(b"\n") || behind.starts_with(b"\r\n"))
    }

    /// Takes white space off both edges. Characters that are blank but not plain stay in the gap.
    fn trim(&self, start: u32, end: u32) -> (u32, u32) {
        let end = end.min(self.text.len() as u32);
        let piece = self.text.get(start as usize..end as usize).unwrap_or(b"");
        match (piece.first(), piece.last()) {
            (Some(first), Some(last)) if is_ink(*first) && is_ink(*last) => return (start, end),
            _ => {}
        }
        let piece = std::str::from_utf8(piece).unwrap_or("");
        let kept = piece.trim_start();
        let start = start + (piece.len() - kept.len()) as u32;
        (start, start + kept.trim_end().len() as u32)
    }
}

/// Whether the byte is surely no white space, not even the beginning or end of a wider one.
fn is_ink(byte: u8) -> bool {
    byte > b' ' && byte < 0x7f
}
