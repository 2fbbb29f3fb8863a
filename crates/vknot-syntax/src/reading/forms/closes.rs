//! Which closing bracket belongs to which opening one, told beforehand, so that what is half typed does not swallow the rest.

use super::lexer::{Lexeme, What};
use crate::reading::margins::behind;

/// Columns of a tab among spaces, as these languages have it.
const TAB_WIDTH: u32 = 8;

/// Where an opening bracket ends.
#[derive(Clone, Copy)]
pub(super) struct Close {
    pub at: usize,
    pub matched: bool,
}

/// How many open brackets of another shape a closing one may skip.
const MISMATCHED_AT_MOST: usize = 8;

/// Heads of forms that hold all of a file, whose lines may stand no further in than they do.
const FLUSH_HEADS: &[&[u8]] = &[b"module", b"module*", b"module+", b"library", b"define-library", b"begin"];

/// Where each opening bracket ends, in order.
///
/// They are matched in order. Where that leaves some over, what begins at the margin is a piece of its own, and within a piece that
/// is not whole indentation decides, if it explains no less: a line that stands no further in than an open bracket is behind it.
/// What has no partner otherwise ends where the next form begins at the margin.
pub(super) fn closes(bytes: &[u8], lexemes: &[Lexeme]) -> Vec<Close> {
    let plain = matched(bytes, lexemes, &By::Order);
    if plain.left == 0 {
        return plain.closes;
    }
    let pieces = matched(bytes, lexemes, &By::Lines(&[]));
    let broken: Vec<bool> = pieces.alone.iter().map(|alone| *alone > 0).collect();
    let lines = matched(bytes, lexemes, &By::Lines(&broken));
    let explained = pieces.alone.iter().zip(&lines.alone).map(|(piece, lines)| *piece > 0 && lines <= piece);
    let by_lines = matched(bytes, lexemes, &By::Lines(&explained.collect::<Vec<_>>()));
    if by_lines.left <= plain.left {
        return by_lines.closes;
    }
    let mut closes = plain.closes;
    let mut margins = plain.margins.into_iter().peekable();
    for (index, close) in closes.iter_mut().enumerate() {
        while margins.next_if(|(_, opened)| *opened <= index).is_some() {}
        let holds_all = plain.flush.get(index) == Some(&true);
        if let (false, Some((at, _))) = (close.matched || holds_all, margins.peek()) {
            close.at = *at;
        }
    }
    closes
}

/// What brackets are matched by.
enum By<'b> {
    Order,
    /// By margins, and by lines too in the pieces that are told here, counted from 0 for what stands in front of the first.
    Lines(&'b [bool]),
}

#[derive(Default)]
struct Matched {
    closes: Vec<Close>,
    /// How many brackets have no partner.
    left: usize,
    /// How many of them are in each piece.
    alone: Vec<usize>,
    /// Where forms begin at the margin, and how many brackets opened before.
    margins: Vec<(usize, usize)>,
    /// Which hold all of a file.
    flush: Vec<bool>,
}

impl Matched {
    fn leave(&mut self, piece: usize) {
        self.left += 1;
        self.alone.resize(self.alone.len().max(piece + 1), 0);
        self.alone[piece] += 1;
    }
}

/// An opening bracket that waits for its partner.
struct Open {
    index: usize,
    wanted: u8,
    /// Its own column.
    column: u32,
    flush: bool,
    piece: usize,
}

fn matched(bytes: &[u8], lexemes: &[Lexeme], by: &By<'_>) -> Matched {
    let mut found = Matched::default();
    let mut open: Vec<Open> = Vec::new();
    let (mut line, mut reached, mut column) = (0, 0, 0);
    // Where the forms begin in one that holds all of a file.
    let mut inner = None;
    for (at, lexeme) in lexemes.iter().enumerate() {
        let gap = bytes.get(reached..lexeme.start).unwrap_or(b"");
        if let Some(newline) = memchr::memrchr(b'\n', gap) {
            (line, column) = (reached + newline + 1, 0);
        }
        let passed = bytes.get(reached.max(line)..lexeme.start).unwrap_or(b"");
        column = passed.iter().fold(column, |column, byte| behind(column, *byte, TAB_WIDTH));
        reached = lexeme.start;
        let begins_line = || bytes.get(line..lexeme.start).unwrap_or(b"").iter().all(u8::is_ascii_whitespace);
        if column == 0 {
            inner = None;
        } else if inner.is_none() && matches!(open.as_slice(), [holder] if holder.flush) && begins_line() {
            inner = Some(column);
        }
        let is_margin = matches!(lexeme.what, What::Open(_)) && (column == 0 || inner == Some(column) && begins_line());
        if is_margin {
            found.margins.push((lexeme.start, found.closes.len()));
        }
        let piece = found.margins.len();
        let ends_what_is_open = match by {
            By::Order => false,
            By::Lines(_) if is_margin => true,
            By::Lines(pieces) => pieces.get(piece) == Some(&true)
                && begins_line()
                && !matches!(lexeme.what, What::Blank | What::Comment | What::Close),
        };
        if ends_what_is_open {
            while let Some(last) = open.pop_if(|last| last.column >= column && !last.flush) {
                found.closes[last.index].at = lexeme.start;
                found.leave(last.piece);
            }
        }
        match lexeme.what {
            What::Open(_) => {
                let head = lexemes.get(at + 1).and_then(|head| bytes.get(head.start..head.end));
                let flush = head.is_some_and(|head| FLUSH_HEADS.contains(&head));
                let wanted = closing(bytes[lexeme.end - 1]);
                open.push(Open { index: found.closes.len(), wanted, column, flush, piece });
                found.closes.push(Close { at: bytes.len(), matched: false });
                found.flush.push(flush);
            }
            What::Close => {
                let close = bytes[lexeme.start];
                let near = open.iter().rev().take(MISMATCHED_AT_MOST).position(|last| last.wanted == close);
                let Some(skipped) = near else {
                    found.leave(piece);
                    continue;
                };
                for last in open.drain(open.len() - skipped..) {
                    found.leave(last.piece);
                }
                if let Some(last) = open.pop() {
                    found.closes[last.index] = Close { at: lexeme.start, matched: true };
                }
            }
            _ => {}
        }
    }
    for last in open {
        found.leave(last.piece);
    }
    found.alone.resize(found.margins.len() + 1, 0);
    found
}

fn closing(open: u8) -> u8 {
    match open {
        b'(' => b')',
        b'[' => b']',
        _ => b'}',
    }
}
