//! A piece of a file on its own: with what holds it, and without what stands beside it, so that trying something on it takes no longer
//! than the piece does.

use vknot_style::Style;
use vknot_syntax::{NodeId, Span};

use crate::edits::Edits;
use crate::spec::Code;
use crate::spec::imports::Alone;
use crate::steps::Document;
use super::found::in_force;
use super::trial::Trial;

/// A piece of a document.
#[derive(Debug)]
pub struct Piece {
    document: Document,
    span: Span,
}

/// Bytes that a neighbour may have that stays, since how a piece is laid out may depend on it.
const NEAR: u32 = 400;

impl Piece {
    /// Cuts a span out of a document. What its style leaves open is as the whole document shows it.
    pub fn of(document: &Document, span: Span) -> Piece {
        let whole = document.clone().with_style(in_force(document).fixed());
        let dropped = beside(document.code(), span);
        let text = dropped.apply(document.source().text());
        let cut = whole.with_text(text);
        let moved = Span::new(dropped.moved(span.start), dropped.moved(span.end));
        let same = moved.of(cut.source().text()) == span.of(document.source().text());
        // Where what is left reads otherwise, all of it stays.
        match same && cut.tree().errors().count() <= document.tree().errors().count() {
            true => Piece { document: cut, span: moved },
            false => Piece { document: whole, span },
        }
    }

    /// The style that the piece has.
    pub fn style(&self) -> &Style {
        self.document.style()
    }

    /// The lines of the piece as a style has them, as far as a trial shows it.
    pub fn made(&self, trial: Trial, style: &Style) -> String {
        let source = self.document.source();
        let edits = trial.edits(&self.document, style, &Alone);
        let text = edits.apply(source.text());
        // From the first thing that stands on its lines to the last.
        let lines = source.whole_lines(self.span);
        let inside = source.slice(lines);
        let first = lines.start + (inside.len() - inside.trim_start().len()) as u32;
        let last = lines.start + inside.trim_end().len() as u32;
        let (start, end) = (edits.moved(first) as usize, edits.moved(last) as usize);
        let from = text.get(..start).and_then(|before| before.rfind('\n')).map_or(0, |at| at + 1);
        let to = text.get(end..).and_then(|behind| behind.find('\n')).map_or(text.len(), |at| end + at);
        text.get(from..to).unwrap_or("").to_owned()
    }
}

/// Takes out what stands beside a span, holder by holder: whole lines of whole items.
fn beside(code: Code<'_>, span: Span) -> Edits {
    let Code { source, tree, .. } = code;
    let mut gone: Vec<Span> = Vec::new();
    let around = tree.covering(span);
    for holder in std::iter::once(around).chain(tree.ancestors(around)) {
        if !tree.role(holder).is_sequence() {
            continue;
        }
        let items = tree.children(holder).filter(|id| tree.role(*id).is_item() && apart(code, *id));
        let mut run: Option<Span> = None;
        for item in items {
            let own = tree.node(item).span();
            let far = own.end + NEAR < span.start || own.start > span.end + NEAR;
            let lines = source.whole_lines(own);
            run = match (far, run) {
                (true, Some(run)) => Some(Span::new(run.start, lines.end)),
                (true, None) => Some(lines),
                (false, run) => {
                    gone.extend(run);
                    None
                }
            };
        }
        gone.extend(run);
    }
    gone.sort_by_key(|span| (span.start, span.end));
    let mut edits = Edits::default();
    let mut reached = 0;
    for part in gone {
        if part.start >= reached && (part.end <= span.start || part.start >= span.end) {
            edits.push(part, "");
            reached = part.end;
        }
    }
    edits
}

/// Whether an item has its lines to itself.
fn apart(code: Code<'_>, item: NodeId) -> bool {
    let Code { source, tree, .. } = code;
    let node = tree.node(item);
    source.begins_line(node.start) && tree.gap(source.text(), node.token_end).newlines > 0
}
