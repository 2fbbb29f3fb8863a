//! The one syntax tree: an arena of nodes in preorder and the list of tokens, whatever read the text.
//!
//! Every byte of the text is in exactly one token or one gap. Nodes are trimmed to their tokens, so a span never
//! begins or ends in white space. Walking is slice work: a node's subtree is the run of nodes behind it.

use crate::language::{Field, Kind, Language};
use crate::role::Role;
use crate::text::{Source, Span};

/// Index of a node in its tree. The root is 0.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct NodeId(pub u32);

/// Index of a token in its tree.
pub type TokenId = u32;

/// A piece of the syntax tree.
#[derive(Clone, Copy, Debug)]
pub struct Node {
    /// What it is.
    pub kind: Kind,
    /// What it is to its parent.
    pub field: Field,
    pub(crate) flags: u8,
    /// First byte of its first token.
    pub start: u32,
    /// One past the last byte of its last token.
    pub end: u32,
    /// The node that holds it; the root holds itself.
    pub parent: NodeId,
    /// One past the last node of its subtree.
    pub next: u32,
    /// Its first token.
    pub first_token: TokenId,
    /// One past its last token.
    pub token_end: TokenId,
}

pub(crate) const LEAF: u8 = 1;
pub(crate) const MISSING: u8 = 2;
pub(crate) const HAS_ERROR: u8 = 4;

impl Node {
    /// The bytes from its first token to its last.
    pub fn span(&self) -> Span {
        Span { start: self.start, end: self.end }
    }

    /// Whether it is one token, or nothing at all.
    pub fn is_leaf(&self) -> bool {
        self.flags & LEAF != 0
    }

    /// Whether the grammar wanted it and the text does not have it.
    pub fn is_missing(&self) -> bool {
        self.flags & MISSING != 0
    }

    /// Whether it or anything inside is an error or missing.
    pub fn has_error(&self) -> bool {
        self.flags & HAS_ERROR != 0
    }

    /// Whether it has no token, like a missing node.
    pub fn is_empty(&self) -> bool {
        self.first_token == self.token_end
    }
}

/// A leaf that has text.
#[derive(Clone, Copy, Debug)]
pub struct Token {
    /// First byte.
    pub start: u32,
    /// One past the last byte.
    pub end: u32,
    /// The node it is.
    pub node: NodeId,
}

impl Token {
    /// Its bytes.
    pub fn span(&self) -> Span {
        Span { start: self.start, end: self.end }
    }
}

/// The white space in front of a token, or behind the last one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Gap {
    /// Its bytes, maybe none.
    pub span: Span,
    /// How many line breaks it holds.
    pub newlines: u32,
    /// Whether it is nothing but spaces, tabs and line ends. Any other gap is kept as it is.
    pub plain: bool,
}

/// A piece of another language, read.
#[derive(Clone, Debug)]
pub struct Embedded {
    /// The node of the outer tree that holds it.
    pub host: NodeId,
    /// Its own text.
    pub source: Source,
    /// Its tree; offsets are those of its own text.
    pub tree: Tree,
    pub(super) map: Vec<(u32, u32)>,
    /// Whether it stands in strings of JSON.
    pub(super) quoted: bool,
    /// Where its host ends in the file.
    pub(super) end: u32,
}

/// A file's syntax tree. It does not hold the text.
#[derive(Clone, Debug)]
pub struct Tree {
    pub(crate) language: &'static Language,
    pub(crate) nodes: Vec<Node>,
    pub(crate) tokens: Vec<Token>,
    pub(crate) length: u32,
    pub(crate) gave_up: bool,
    pub(crate) embedded: Vec<Embedded>,
}

impl Tree {
    /// The language it was read in.
    pub fn language(&self) -> &'static Language {
        self.language
    }

    /// Whether the language's own reader gave up and the tree is one of brackets and lines.
    pub fn gave_up(&self) -> bool {
        self.gave_up
    }

    /// The pieces of other languages in it, in order.
    pub fn embedded(&self) -> &[Embedded] {
        &self.embedded
    }

    /// The piece of another language that a node holds.
    pub fn piece_in(&self, host: NodeId) -> Option<&Embedded> {
        let at = self.embedded.binary_search_by_key(&host, |piece| piece.host).ok()?;
        self.embedded.get(at)
    }

    /// The pieces of other languages that touch a span.
    pub fn pieces_at(&self, span: Span) -> impl Iterator<Item = &Embedded> {
        let first = self.embedded.partition_point(|piece| piece.span().end < span.start);
        self.embedded.iter().skip(first).take_while(move |piece| piece.span().start <= span.end)
    }

    /// The root, which spans all tokens.
    pub fn root(&self) -> NodeId {
        NodeId(0)
    }

    /// All nodes in preorder.
    pub fn nodes(&self) -> &[Node] {
        &self.nodes
    }

    /// All tokens in order.
    pub fn tokens(&self) -> &[Token] {
        &self.tokens
    }

    /// A node. An index from another tree gives the root.
    pub fn node(&self, id: NodeId) -> &Node {
        self.nodes.get(id.0 as usize).unwrap_or(&self.nodes[0])
    }

    /// A node's role.
    pub fn role(&self, id: NodeId) -> Role {
        self.language.role(self.node(id).kind)
    }

    /// The name of a node's kind.
    pub fn kind_name(&self, id: NodeId) -> &'static str {
        self.language.kind_name(self.node(id).kind)
    }

    /// The role of the node a token is.
    pub fn token_role(&self, token: TokenId) -> Role {
        self.tokens.get(token as usize).map_or(Role::Part, |token| self.role(token.node))
    }

    /// Whether the token is a comment.
    pub fn is_comment(&self, token: TokenId) -> bool {
        self.token_role(token) == Role::Comment
    }

    /// The bytes of gap `index`: the one in front of token `index`, or behind the last token.
    pub fn gap_span(&self, index: u32) -> Span {
        let index = index as usize;
        let start = index.checked_sub(1).and_then(|before| self.tokens.get(before)).map_or(0, |token| token.end);
        let end = self.tokens.get(index).map_or(self.length, |token| token.start);
        Span::new(start, end)
    }

    /// Gap `index` with its facts, read off `text`.
    pub fn gap(&self, text: &str, index: u32) -> Gap {
        let span = self.gap_span(index);
        let bytes = span.of(text).as_bytes();
        let (mut newlines, mut plain) = (0, true);
        for (at, byte) in bytes.iter().enumerate() {
            match byte {
                b' ' | b'\t' => {}
                b'\n' => newlines += 1,
                b'\r' if bytes.get(at + 1) == Some(&b'\n') => {}
                _ => plain = false,
            }
        }
        Gap { span, newlines, plain }
    }

    /// Nodes that are errors, each with nothing above it that is one, and missing nodes.
    pub fn errors(&self) -> impl Iterator<Item = NodeId> + '_ {
        let error = self.language.error_kind();
        let mut skip = 0u32;
        (0..self.nodes.len() as u32).map(NodeId).filter(move |id| {
            let node = self.node(*id);
            if id.0 < skip || !(node.kind == error || node.is_missing()) {
                return false;
            }
            skip = node.next;
            true
        })
    }

    /// Whether any piece could not be read.
    pub fn has_error(&self) -> bool {
        self.nodes[0].has_error()
    }
}
