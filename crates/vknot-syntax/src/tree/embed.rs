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
    /// Whether it stands in strings of JSON, with the escapes of those.
    pub quoted: bool,
}

impl Piece {
    /// A piece whose text is that span of the file, byte for byte.
    pub fn of(source: &Source, language: &'static Language, host: NodeId, span: Span) -> Piece {
        Piece { language, host, text: source.slice(span).to_owned(), map: vec![(0, span.start)], quoted: false }
    }
}

impl Embedded {
    /// A piece with its text and the tree that was read from it.
    pub(crate) fn new(
        outer: &Tree,
        host: NodeId,
        (map, quoted): (Vec<(u32, u32)>, bool),
        (source, tree): (Source, Tree),
    ) -> Embedded {
        Embedded { host, source, tree, map, quoted, end: outer.node(host).end }
    }

    /// Reads code inside a token of the same language, with something in front of it and behind it that stands nowhere in the file, so that
    /// it reads as it does in its place. Such a piece is for looking at, not for reshaping.
    pub fn inside(
        source: &Source,
        language: &'static Language,
        host: NodeId,
        span: Span,
        (before, behind): (&str, &str),
    ) -> Embedded {
        let text = format!("{before}{}{behind}", source.slice(span));
        let inner = Source::from_text(source.path(), text);
        let tree = Tree::read(&inner, language);
        Embedded { host, source: inner, tree, map: vec![(before.len() as u32, span.start)], quoted: false, end:
            span.end }
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

    /// The part of a span of the file that is in the piece; `None` where the two do not touch.
    pub fn inner_span(&self, outer: Span) -> Option<Span> {
        let whole = self.span();
        let (start, end) = (outer.start.max(whole.start), outer.end.min(whole.end));
        let inner = |at: u32, or: u32| self.inner(at).unwrap_or(or);
        (start <= end).then(|| Span::new(inner(start, 0), inner(end, self.source.span().end)))
    }

    /// What of the file has to be replaced, and by what, so that in the piece a text comes to stand in place of a span; `None` where that
    /// cannot be told: what is to go is written otherwise in the file (a command of a notebook that is read as a comment), or
    /// nothing shows how a line end is written.
    ///
    /// # Example
    ///
    /// In `"source": ["import sys\n", "import os"]`, `import os\n` in front of the first line is written as `import os\n", "`.
    pub fn written(&self, outer: &Source, span: Span, text: &str) -> Option<(Span, String)> {
        let old = self.source.slice(span);
        let changed = old.match_indices('#').any(|(at, _)| {
            !outer.text().get(self.outer(span.start + at as u32) as usize..).is_some_and(|text| text.starts_with('#'))
        });
        if changed {
            return None;
        }
        let whole = self.source.span().end;
        // Behind a line end, what stands between the lines goes with it.
        let follows = |at: u32| at < whole && (span.is_empty() || self.source.line_start(at) == at);
        let start = if span.start < whole { self.outer(span.start) } else { self.outer_end(outer, span.start) };
        let end = if follows(span.end) { self.outer(span.end) } else { self.outer_end(outer, span.end) };
        let mut written = String::new();
        for (index, line) in text.split('\n').enumerate() {
            if index > 0 {
                written.push_str(self.line_end(outer)?);
            }
            match self.quoted {
                true => line.chars().for_each(|c| escape(c, &mut written)),
                false => written.push_str(line),
            }
        }
        Some((Span::new(start, end.max(start)), written))
    }

    /// Where in the file the character ends that stands in front of an offset of the piece.
    fn outer_end(&self, outer: &Source, inner: u32) -> u32 {
        let before = self.source.text().get(..inner as usize).and_then(|text| text.chars().next_back());
        let length = before.map_or(0, char::len_utf8) as u32;
        let start = self.outer(inner - length);
        let text = outer.text().get(start as usize..).unwrap_or("");
        match text.as_bytes() {
            [b'\\', b'u', ..] if self.quoted => start + if length == 4 { 12 } else { 6 },
            [b'\\', ..] if self.quoted => start + 2,
            _ => start + length,
        }
    }

    /// What stands in the file from a line end of the piece to its next line.
    fn line_end<'s>(&self, outer: &'s Source) -> Option<&'s str> {
        let at = self.source.text().find('\n')? as u32;
        let next = (at + 1 < self.source.span().end).then(|| self.outer(at + 1));
        let end = next.unwrap_or_else(|| self.outer_end(outer, at + 1));
        outer.text().get(self.outer(at) as usize..end as usize)
    }

    /// The bytes of the file from its first to its last.
    pub fn span(&self) -> Span {
        self.outer_span(self.source.span())
    }
}

/// Writes a character as it stands in a string of JSON (RFC 8259, section 7).
fn escape(c: char, written: &mut String) {
    match c {
        '"' | '\\' => written.extend(['\\', c]),
        '\t' => written.push_str("\\t"),
        '\r' => written.push_str("\\r"),
        c if c < ' ' => written.push_str(&format!("\\u{:04x}", u32::from(c))),
        c => written.push(c),
    }
}
