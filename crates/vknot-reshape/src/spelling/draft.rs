//! What is to be written otherwise in a file, as far as it may, and the edits and receipt that come of it.

use vknot_syntax::Span;

use crate::edits::Edits;
use crate::keeps::{kept_spans, reached};
use crate::lines::Lines;
use crate::receipt::{Receipt, Respelled, TokenChange};
use crate::reshape::Reshape;
use crate::spec::Code;
use crate::spec::spelling::SpellingSpec;

/// What is to change, as far as it may.
pub(super) struct Draft<'a> {
    pub(super) code: Code<'a>,
    pub(super) spec: &'static SpellingSpec,
    kept: Vec<Span>,
    lines: Option<Lines>,
    changes: Vec<Change>,
}

/// A change of one token, or of several comments.
pub(super) struct Change {
    pub(super) span: Span,
    pub(super) new: String,
    /// The tokens it is about; none for one that comes in front of the first.
    pub(super) tokens: std::ops::Range<u32>,
    /// How many come in their place.
    pub(super) count: u32,
}

impl<'a> Draft<'a> {
    /// `None` where nothing is written otherwise.
    pub(super) fn of(code: Code<'a>, only: Option<&[Span]>) -> Option<Draft<'a>> {
        let layout = code.toolkit().layout.as_ref().filter(|_| !code.tree.gave_up())?;
        let lines = only.map(|only| Lines::of(code.source, only));
        Some(Draft { code, spec: &layout.spec.spelling, kept: kept_spans(code), lines, changes: Vec::new() })
    }

    pub(super) fn text(&self, token: u32) -> &'a str {
        self.code.tree.tokens().get(token as usize).map_or("", |token| self.code.source.slice(token.span()))
    }

    /// The line that a token begins on, from 1; 0 behind the last.
    pub(super) fn line(&self, token: u32) -> u32 {
        self.code.tree.tokens().get(token as usize).map_or(0, |token| self.code.source.line(token.start))
    }

    pub(super) fn change(&mut self, change: Change) {
        let source = self.code.source;
        let (first, last) = (source.line(change.span.start), source.line(change.span.end));
        let meant = self.lines.as_ref().is_none_or(|lines| lines.within(first, last));
        // What comes in behind a part that is kept is one with it.
        let start = change.span.start.saturating_sub(u32::from(change.span.is_empty()));
        if meant && reached(&self.kept, Span::new(start, change.span.end)).is_none() {
            self.changes.push(change);
        }
    }

    /// Writes a token otherwise.
    pub(super) fn write(&mut self, token: u32, new: String) {
        if let Some(old) = self.code.tree.tokens().get(token as usize) {
            self.change(Change { span: old.span(), new, tokens: token..token + 1, count: 1 });
        }
    }

    /// Takes a token out.
    pub(super) fn remove(&mut self, token: u32) {
        self.write(token, String::new());
    }

    /// Puts a mark in behind the token in front of another one.
    pub(super) fn put_in(&mut self, token: u32, mark: &str) {
        let start = self.code.tree.gap_span(token).start;
        self.change(Change { span: Span::new(start, start), new: mark.to_owned(), tokens: token..token, count: 1 });
    }

    pub(super) fn finish(mut self) -> Reshape {
        self.changes.sort_by_key(|change| (change.span.start, change.span.end));
        let (mut edits, mut receipt) = (Edits::default(), Receipt::default());
        for Change { span, new, tokens, count } in self.changes {
            edits.push(span, &new);
            let changed = |text: String| TokenChange { text, offset: span.start, token: tokens.start };
            match (tokens.is_empty(), new.is_empty()) {
                (true, _) => receipt.added.push(changed(new)),
                (false, true) => receipt.removed.push(changed(self.code.source.slice(span).to_owned())),
                (false, false) => {
                    let (first, end) = (tokens.start, tokens.end);
                    let old = self.code.source.slice(span).to_owned();
                    receipt.respelled.push(Respelled { first, end, offset: span.start, old, new, count });
                }
            }
        }
        Reshape { edits, receipt, ..Reshape::default() }
    }
}
