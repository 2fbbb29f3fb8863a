//! Lexemes, and which brackets among them belong together.

use crate::language::Kind;

/// A word, mark, literal or comment, before it has a place in a tree.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Lexeme {
    pub kind: Kind,
    pub start: u32,
    pub end: u32,
}

impl Lexeme {
    /// Its text.
    pub fn of(self, text: &str) -> &str {
        text.get(self.start as usize..self.end as usize).unwrap_or("")
    }
}

/// What stands for "no partner".
pub(crate) const NO_PARTNER: u32 = u32::MAX;

/// How a bracket counts.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Side {
    Opens,
    Closes,
}

/// How many open brackets of another shape, or of another indentation, a closing one may skip.
const SKIPPED_AT_MOST: usize = 32;

/// For each lexeme that is a bracket, the index of its partner.
///
/// Brackets are matched in order. Where that leaves some over, indentation decides: a closing bracket that begins its line goes
/// to the bracket whose line begins as far to the right, so that the one that is really missing stays alone.
pub(crate) fn partners(text: &str, lexemes: &[Lexeme], shape: impl Fn(Kind) -> Option<(u8, Side)>) -> Vec<u32> {
    let (plain, left) = matched(lexemes, &shape, &|_, _| true);
    if left == 0 {
        return plain;
    }
    let columns = columns(text, lexemes);
    let lines = line_columns(&columns);
    let fits = |open: usize, close: usize| columns[close].is_none_or(|column| lines[open] == column);
    let (indented, still_left) = matched(lexemes, &shape, &fits);
    if still_left <= left { indented } else { plain }
}

/// Matches brackets; `fits` may refuse a pair, as lexeme numbers. Gives how many are left over, too.
fn matched(
    lexemes: &[Lexeme],
    shape: &impl Fn(Kind) -> Option<(u8, Side)>,
    fits: &dyn Fn(usize, usize) -> bool,
) -> (Vec<u32>, usize) {
    let mut partner = vec![NO_PARTNER; lexemes.len()];
    let mut open: Vec<(usize, u8)> = Vec::new();
    let mut left = 0;
    for (index, lexeme) in lexemes.iter().enumerate() {
        match shape(lexeme.kind) {
            Some((kind, Side::Opens)) => open.push((index, kind)),
            Some((kind, Side::Closes)) => {
                let candidates = open.iter().rev().take(SKIPPED_AT_MOST);
                let found = candidates.clone().position(|(at, other)| *other == kind && fits(*at, index));
                match found {
                    Some(skipped) => {
                        left += skipped;
                        open.truncate(open.len() - skipped);
                        if let Some((at, _)) = open.pop() {
                            partner[at] = index as u32;
                            partner[index] = at as u32;
                        }
                    }
                    None => left += 1,
                }
            }
            None => {}
        }
    }
    (partner, left + open.len())
}

/// The column of each lexeme that begins its line.
fn columns(text: &str, lexemes: &[Lexeme]) -> Vec<Option<u32>> {
    let bytes = text.as_bytes();
    let column = |lexeme: &Lexeme| {
        let before = bytes.get(..lexeme.start as usize).unwrap_or(b"");
        let blank = before.iter().rev().take_while(|byte| matches!(byte, b' ' | b'\t'));
        let width = blank.clone().map(|byte| if *byte == b'\t' { 4 } else { 1 }).sum();
        let start = before.len() - blank.count();
        (start == 0 || bytes[start - 1] == b'\n').then_some(width)
    };
    lexemes.iter().map(column).collect()
}

/// For each lexeme the column of the one that begins its line.
fn line_columns(columns: &[Option<u32>]) -> Vec<u32> {
    let begun = columns.iter().scan(0, |last, column| {
        *last = column.unwrap_or(*last);
        Some(*last)
    });
    begun.collect()
}
