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
/// They are matched in order. Where that leaves some over, indentation decides, if it explains no less: a line that stands no further in than an open
/// bracket is behind it. What has no partner otherwise ends where the next form begins at the margin.
pub(super) fn closes(bytes: &[u8], lexemes: &[Lexeme]) -> Vec<Close> {
    let plain = matched(bytes, lexemes, false);
    if plain.left == 0 {
        return plain.closes;
    }
    let indented = matched(bytes, lexemes, true);
    if indented.left <= plain.left {
        return indented.closes;
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

struct Matched {
    closes: Vec<Close>,
    /// How many brackets have no partner.
    left: usize,
    /// Where forms begin at the margin, and how many brackets opened before.
    margins: Vec<(usize, usize)>,
    /// Which hold all of a file.
    flush: Vec<bool>,
}

/// An opening bracket that waits for its partner.
struct Open {
    index: usize,
    wanted: u8,
    /// Its own column.
    column: u32,
    flush: bool,
}

fn matched(bytes: &[u8], lexemes: &[Lexeme], by_lines: bool) -> Matched {
    let mut found = Matched { closes: Vec::new(), left: 0, margins: Vec::new(), flush: Vec::new() };
    let mut open: Vec<Open> = Vec::new();
    let (mut line, mut reached, mut column) = (0, 0, 0);
    for (at, lexeme) in lexemes.iter().enumerate() {
        let gap = bytes.get(reached..lexeme.start).unwrap_or(b"");
        if let Some(newline) = memchr::memrchr(b'\n', gap) {
            (line, column) = (reached + newline + 1, 0);
        }
        let passed = bytes.get(reached.max(line)..lexeme.start).unwrap_or(b"");
        column = passed.iter().fold(column, |column, byte| behind(column, *byte, TAB_WIDTH));
        reached = lexeme.start;
        let begins_line = bytes.get(line..lexeme.start).unwrap_or(b"").iter().all(u8::is_ascii_whitespace);
        if by_lines && begins_line && !matches!(lexeme.what, What::Blank | What::Comment | What::Close) {
            while let Some(last) = open.pop_if(|last| last.column >= column && !last.flush) {
                found.closes[last.index].at = lexeme.start;
                found.left += 1;
            }
        }
        match lexeme.what {
            What::Open(_) => {
                if column == 0 {
                    found.margins.push((lexeme.start, found.closes.len()));
                }
                let head = lexemes.get(at + 1).and_then(|head| bytes.get(head.start..head.end));
                let flush = head.is_some_and(|head| FLUSH_HEADS.contains(&head));
                let wanted = closing(bytes[lexeme.end - 1]);
                open.push(Open { index: found.closes.len(), wanted, column, flush });
                found.closes.push(Close { at: bytes.len(), matched: false });
                found.flush.push(flush);
            }
            What::Close => {
                let close = bytes[lexeme.start];
                let near = open.iter().rev().take(MISMATCHED_AT_MOST).position(|last| last.wanted == close);
                match near {
                    Some(skipped) => {
                        found.left += skipped;
                        open.truncate(open.len() - skipped);
                        if let Some(last) = open.pop() {
                            found.closes[last.index] = Close { at: lexeme.start, matched: true };
                        }
                    }
                    None => found.left += 1,
                }
            }
            _ => {}
        }
    }
    found.left += open.len();
    found
}

fn closing(open: u8) -> u8 {
    match open {
        b'(' => b')',
        b'[' => b']',
        _ => b'}',
    }
}
