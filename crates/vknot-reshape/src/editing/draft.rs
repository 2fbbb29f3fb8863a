//! What an edit makes of a text, in pieces of the old text and of new text, and the receipt of it.

use vknot_syntax::{Source, Span, Tree};

use crate::allowance::Allowance;
use crate::edits::Edits;
use crate::receipt::{Moved, Receipt, TokenChange};
use crate::reshape::Reshape;
use crate::spec::Code;

/// A piece of the new text.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Piece {
    /// Text that stays where it is.
    Old(Span),
    /// Text that stood elsewhere.
    Moved(Span),
    /// New text.
    New(String),
    /// What the edit was about begins here.
    Begin,
    /// And ends here.
    End,
}

/// Replacements of spans by pieces.
#[derive(Clone, Debug, Default)]
pub(crate) struct Draft {
    changes: Vec<(Span, Vec<Piece>)>,
}

impl Draft {
    /// Puts pieces in place of a span.
    pub fn replace(&mut self, span: Span, pieces: Vec<Piece>) {
        self.changes.push((span, pieces));
    }

    /// Takes a span out.
    pub fn cut(&mut self, span: Span) {
        self.changes.push((span, Vec::new()));
    }

    /// Puts text in.
    pub fn put(&mut self, offset: u32, text: &str) {
        self.changes.push((Span::new(offset, offset), vec![Piece::New(text.to_owned())]));
    }

    /// The edits with their receipt: which tokens came, went and moved, told by reading the result.
    pub fn finish(mut self, code: Code<'_>, allowance: Allowance) -> Reshape {
        self.changes.sort_by_key(|(span, _)| (span.start, span.end));
        let source = code.source;
        let mut edits = Edits::default();
        let mut parts: Vec<Part> = Vec::new();
        let mut marks: Vec<u32> = Vec::new();
        let (mut reached, mut length) = (0, 0);
        let stay = |parts: &mut Vec<Part>, length: &mut u32, span: Span| {
            parts.push(Part { new: *length, span, moved: false });
            *length += span.len();
        };
        for (index, (span, pieces)) in self.changes.iter().enumerate() {
            stay(&mut parts, &mut length, Span { start: reached, end: span.start });
            let mut text = String::new();
            for piece in pieces {
                match piece {
                    Piece::Old(old) | Piece::Moved(old) => {
                        parts.push(Part { new: length, span: *old, moved: matches!(piece, Piece::Moved(_)) });
                        text.push_str(source.slice(*old));
                        length += old.len();
                    }
                    Piece::New(new) => {
                        text.push_str(new);
                        length += new.len() as u32;
                    }
                    Piece::Begin | Piece::End => marks.push(length),
                }
            }
            let next = self.changes.get(index + 1).map(|(next, _)| next.start);
            match turned(source, *span, &text, next) {
                Some((span, text)) => edits.push(span, &text),
                None if text != source.slice(*span) => edits.push(*span, &text),
                None => {}
            }
            reached = span.end;
        }
        stay(&mut parts, &mut length, Span { start: reached, end: source.span().end.max(reached) });
        if !edits.are_sound(source.span().end) {
            return Reshape { edits, ..Reshape::default() };
        }
        let new = Source::from_text(source.path(), edits.apply(source.text()));
        let tree = Tree::read(&new, code.tree.language());
        let mut receipt = receipt(code, code.other(&new, &tree), &parts);
        receipt.placed =
            marks.chunks(2).filter_map(|pair| Some(trimmed(&new, *pair.first()?, *pair.get(1)?))).collect();
        receipt.allowance = Some(allowance);
        Reshape { edits, receipt, ..Reshape::default() }
    }
}

/// The same insertion as one of whole lines, where it goes behind the end of a line: the line above is then in no edit.
fn turned(source: &Source, span: Span, text: &str, next: Option<u32>) -> Option<(Span, String)> {
    let end = source.facts().line_end().text();
    let rest = source.text().get(span.end as usize..)?;
    let behind = span.end + end.len() as u32;
    let apart = span.is_empty() && rest.starts_with(end) && next.is_none_or(|next| next > behind);
    let lines = text.strip_prefix(end).filter(|lines| apart && !lines.is_empty())?;
    Some((Span::new(behind, behind), format!("{lines}{end}")))
}

/// Edits that passed one by one, with the receipt of all together.
pub(crate) fn accounted(code: Code<'_>, edits: Edits) -> Reshape {
    let mut draft = Draft::default();
    for (span, text) in edits.iter() {
        draft.replace(span, vec![Piece::New(text.to_owned())]);
    }
    draft.finish(code, Allowance { free: true, ..Allowance::default() })
}

/// A span without the white space at its ends.
fn trimmed(source: &Source, start: u32, end: u32) -> Span {
    let text = source.slice(Span::new(start, end));
    let start = start + (text.len() - text.trim_start().len()) as u32;
    Span::new(start, start + text.trim().len() as u32)
}

/// A piece of old text in the new one.
struct Part {
    /// Where it begins in the new text.
    new: u32,
    span: Span,
    moved: bool,
}

/// For each new token the old one that it is, and whether it moved.
fn partners(old: Code<'_>, new: Code<'_>, parts: &[Part]) -> Vec<Option<(u32, bool)>> {
    let mut at = 0;
    let partner = |token: &vknot_syntax::Token| {
        while parts.get(at + 1).is_some_and(|next| next.new <= token.start) {
            at += 1;
        }
        // Of parts without text that begin at one place, the one that holds the token is last.
        let part = parts.get(at).filter(|part| token.start < part.new + part.span.len())?;
        let start = part.span.start + token.start - part.new;
        let index = old.tree.token_from(start);
        let own = old.tree.tokens().get(index as usize).filter(|own| own.start == start)?;
        let (was, is) = (old.source.slice(own.span()), new.source.slice(token.span()));
        let alike = was == is || was.contains('\n') && was.lines().map(str::trim).eq(is.lines().map(str::trim));
        alike.then_some((index, part.moved))
    };
    new.tree.tokens().iter().map(partner).collect()
}

fn receipt(old: Code<'_>, new: Code<'_>, parts: &[Part]) -> Receipt {
    let mut partners = partners(old, new, parts);
    let mut found = vec![false; old.tree.tokens().len()];
    let mut reached = None;
    for partner in &mut partners {
        let Some((index, moved)) = *partner else { continue };
        let twice = found.get(index as usize).copied().unwrap_or(true);
        // What did not move keeps its order.
        if twice || !moved && reached.is_some_and(|reached| index <= reached) {
            *partner = None;
            continue;
        }
        found[index as usize] = true;
        reached = if moved { reached } else { Some(index) };
    }
    let mut receipt = Receipt { removed: removed(old, &found), ..Receipt::default() };
    arrivals(old, new, &partners, &mut receipt);
    receipt
}

/// The runs of old tokens that are in the new text no more.
fn removed(old: Code<'_>, found: &[bool]) -> Vec<TokenChange> {
    let tokens = old.tree.tokens();
    let mut removed: Vec<TokenChange> = Vec::new();
    let mut at = 0;
    while at < tokens.len() {
        let end = (at..tokens.len()).find(|index| found[*index]).unwrap_or(tokens.len());
        if end > at {
            let span = Span::new(tokens[at].start, tokens[end - 1].end);
            let text = old.source.slice(span).to_owned();
            removed.push(TokenChange { text, offset: span.start, token: at as u32 });
        }
        at = end + 1;
    }
    removed
}

/// What came in and what moved, in front of which token that stays.
fn arrivals(old: Code<'_>, new: Code<'_>, partners: &[Option<(u32, bool)>], receipt: &mut Receipt) {
    let count = old.tree.tokens().len() as u32;
    let offset = |token: u32| old.tree.tokens().get(token as usize).map_or(old.source.span().end, |token| token.start);
    let tokens = new.tree.tokens();
    // For each new token the next old one that stays.
    let mut next = count;
    let mut behind = vec![count; partners.len()];
    for (at, partner) in partners.iter().enumerate().rev() {
        behind[at] = next;
        if let Some((index, false)) = partner {
            next = *index;
        }
    }
    let mut rank = 0;
    let mut at = 0;
    while at < partners.len() {
        let to = behind[at];
        match partners[at] {
            Some((_, false)) => {
                rank = 0;
                at += 1;
            }
            Some((first, true)) => {
                let mut end = at + 1;
                while partners.get(end).is_some_and(|next| *next == Some((first + (end - at) as u32, true))) {
                    end += 1;
                }
                receipt.moved.push(Moved { first, end: first + (end - at) as u32, to, rank });
                at = end;
            }
            None => {
                let end = (at..partners.len()).find(|index| partners[*index].is_some()).unwrap_or(partners.len());
                let span = Span::new(tokens[at].start, tokens[end - 1].end);
                let text = new.source.slice(span).to_owned();
                receipt.added.push(TokenChange { text, offset: offset(to), token: to });
                rank += 1;
                at = end;
            }
        }
    }
}
