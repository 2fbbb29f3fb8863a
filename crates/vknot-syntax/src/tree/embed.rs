//! Code of another language inside a file: fences, scripts, notebook cells.
//!
//! A piece has its own text, which is the file's less what wraps it (quotes and escapes in a notebook, marks in front
//! of quoted lines), and a map back, so that every look can say where things are in the file.

use crate::language::Language;
use crate::text::{Source, Span};
use super::arena::{Embedded, NodeId, Tree};

/// A piece of another language, before it is read.
#[derive(Clone, Debug)]
pub struct Piece {
    /// The language it is in.
    pub language: &'static Language,
    /// The node of the outer tree that holds it.
    pub host: NodeId,
    /// Its own text.
    pub text: String,
    /// Where runs of its bytes stand outside: inner offset, outer offset, ascending in both.
    pub map: Vec<(u32, u32)>,
}

impl Piece {
    /// A piece whose text is that span of the file, byte for byte.
    pub fn of(source: &Source, language: &'static Language, host: NodeId, span: Span) -> Piece {
        Piece { language, host, text: source.slice(span).to_owned(), map: vec![(0, span.start)] }
    }
}

impl Embedded {
    /// A piece with its text and the tree that was read from it.
    pub(crate) fn new(outer: &Tree, host: NodeId, map: Vec<(u32, u32)>, (source, tree): (Source, Tree)) -> Embedded {
        Embedded { host, source, tree, map, end: outer.node(host).end }
    }

    /// Where an offset of the piece is in the file.
    pub fn outer(&self, inner: u32) -> u32 {
        let behind = self.map.partition_point(|(start, _)| *start <= inner);
        match behind.checked_sub(1).and_then(|index| self.map.get(index)) {
            Some((start, outer)) => {
                let limit = self.map.get(behind).map_or(self.end, |(_, next)| *next);
                (outer + (inner - start)).min(limit)
            }
            None => self.map.first().map_or(0, |(_, outer)| *outer),
        }
    }

    /// Where a span of the piece is in the file.
    pub fn outer_span(&self, inner: Span) -> Span {
        // The end belongs to the byte before it, which may stand elsewhere than the byte behind.
        let end = if inner.is_empty() {
            self.outer(inner.start)
        } else {
            (self.outer(inner.end - 1) + 1).min(self.end)
        };
        Span::new(self.outer(inner.start), end.max(self.outer(inner.start)))
    }

    /// Where an offset of the file is in the piece; `None` outside of it.
    pub fn inner(&self, outer: u32) -> Option<u32> {
        let behind = self.map.partition_point(|(_, start)| *start <= outer);
        let (start, at) = self.map.get(behind.checked_sub(1)?)?;
        let inner = start + (outer - at);
        let limit = self.map.get(behind).map_or(self.source.span().end, |(next, _)| *next);
        (inner <= limit).then_some(inner)
    }

    /// The bytes of the file from its first to its last.
    pub fn span(&self) -> Span {
        self.outer_span(self.source.span())
    }
}
