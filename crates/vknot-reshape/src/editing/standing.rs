//! How far in text stands, and how it comes to stand elsewhere: its lines move with its first one.

use vknot_style::Style;
use vknot_syntax::{Role, Span};

use crate::frames::found::effective_indentation;
use crate::spec::Code;
use super::draft::Piece;

/// The white space at the start of the line that an offset is on.
pub(crate) fn base(code: Code<'_>, offset: u32) -> &str {
    code.source.slice(code.source.line_blank(offset))
}

/// White space as wide as what is in front of an offset on its line.
pub(crate) fn column(code: Code<'_>, offset: u32) -> String {
    let before = code.source.slice(Span::new(code.source.line_start(offset), offset));
    before.chars().map(|c| if c == '\t' { '\t' } else { ' ' }).collect()
}

/// One level of indentation, as the file has it.
pub(crate) fn level(code: Code<'_>, style: &Style) -> String {
    let indentation = effective_indentation(code, style);
    match indentation.tabs {
        true => "\t".repeat((indentation.size / indentation.tab_width.max(1)).max(1) as usize),
        false => " ".repeat(indentation.size as usize),
    }
}

/// The pieces of a span whose first line stood behind `from` and now stands behind `to`.
pub(crate) fn shifted(code: Code<'_>, span: Span, (from, to): (&str, &str), moves: bool) -> Vec<Piece> {
    let piece = |span| if moves { Piece::Moved(span) } else { Piece::Old(span) };
    if from == to {
        return vec![piece(span)];
    }
    let text = code.source.slice(span);
    let mut pieces = Vec::new();
    let mut at = span.start;
    for line in text.split_inclusive('\n') {
        let start = at;
        at += line.len() as u32;
        let own = Span::new(start, at);
        let behind = line.strip_prefix(from).filter(|rest| {
            start > span.start && !rest.trim().is_empty() && !is_frozen(code, start)
        });
        match behind {
            Some(rest) => {
                pieces.push(Piece::New(to.to_owned()));
                pieces.push(piece(Span::new(at - rest.len() as u32, at)));
            }
            None => pieces.push(piece(own)),
        }
    }
    pieces
}

/// Whether a line begins inside text that keeps its white space.
fn is_frozen(code: Code<'_>, start: u32) -> bool {
    let tree = code.tree;
    let token = tree.token_from(start).checked_sub(1).and_then(|at| tree.tokens().get(at as usize));
    token.is_some_and(|token| {
        let prose = tree.language().is_prose(tree.node(token.node).kind);
        token.end > start && tree.role(token.node) != Role::Comment && !prose
    })
}
