//! Which lines of a text that could not be read as a whole stand right by its brackets alone, whatever the reader made of it.
//!
//! A line that closes brackets stands with something on the line that opened one of them, or with what that line goes on with. Any other
//! stands where the lines before it in its brackets do, the first of them further in than what opened these; further in still only if
//! nothing ended the line above. Behind a bracket without a partner nothing is certain, and lines stand as they were written.

use std::collections::HashSet;

use vknot_syntax::{Span, TokenId};

use crate::partners::{bracket_of, OpenBrackets};
use crate::spec::Code;
use super::lines::Line;
use super::place::blank_columns;
use super::ways::Columns;

/// Brackets that are open, or the text as a whole.
#[derive(Default)]
struct Open {
    /// The column of the line that opened them, or of what that goes on with; none of the text as a whole.
    base: Option<u32>,
    /// The columns of what stands on that line in front of them.
    beside: Columns,
    /// Where the lines inside stand: those that begin something, and those that go on with them, each further in.
    columns: Vec<u32>,
}

impl Open {
    /// Whether a line that closes them may stand in a column.
    fn closes_at(&self, column: u32) -> bool {
        self.base == Some(column) || self.beside.contains(column)
    }

    /// Whether a comment may.
    fn takes_comment(&self, column: u32) -> bool {
        self.columns.contains(&column) || self.columns.is_empty() && self.base.is_some_and(|base| column > base)
    }

    /// Whether a line may stand in a column, and notes that it does. `goes_on` tells whether nothing ended the line above.
    fn takes(&mut self, column: u32, goes_on: bool) -> bool {
        let Some(first) = self.columns.first().copied() else {
            let fits = self.base.is_none_or(|base| column > base);
            self.columns.extend(fits.then_some(column));
            return fits;
        };
        if column < first {
            return false;
        }
        while self.columns.last().is_some_and(|last| *last > column) {
            self.columns.pop();
        }
        let known = self.columns.last() == Some(&column);
        if !known && goes_on {
            self.columns.push(column);
        }
        known || goes_on
    }
}

/// Bytes from the start of a line from which on columns do not count.
const FAR: u32 = 256;

/// The tokens that lead such lines; none where the text could be read, or brackets are not what blocks are made of.
pub(crate) fn bracketed(code: Code<'_>, lines: &[Line], tab_width: u32) -> HashSet<TokenId> {
    let tree = code.tree;
    let mut standing = HashSet::new();
    if !tree.has_error() || code.toolkit().layout.is_none() {
        return standing;
    }
    let mut held: Vec<Open> = vec![Open::default()];
    let mut open: OpenBrackets<usize> = OpenBrackets::new();
    let (mut goes_on, mut column, mut beside) = (false, 0, Columns::default());
    let (mut begins, mut lost) = (0, false);
    let mut next = lines.iter().peekable();
    for token in 0..tree.tokens().len() as TokenId {
        if let Some(line) = next.next_if(|line| line.token == token) {
            (column, beside) = (line.found.columns(), Columns::default());
            let last = next.peek().map_or(tree.tokens().len() as TokenId, |next| next.token);
            let inside = open.last().unwrap_or(0);
            let stands = if lost {
                true
            } else if tree.is_comment(token) {
                held[inside].takes_comment(column)
            } else {
                closes_at(code, token..last, &open, &held, column) || held[inside].takes(column, goes_on)
            };
            standing.extend(stands.then_some(token));
            begins = line.end;
        }
        if tree.is_comment(token) {
            continue;
        }
        let start = tree.tokens().get(token as usize).map_or(begins, |token| token.start);
        let line = code.source.line_start(start);
        if line > begins {
            // Some token reaches into the line.
            let text = code.source.slice(Span::new(line, start));
            let blank = text.len() - text.trim_start_matches([' ', '\t']).len();
            (begins, column, beside) = (
                line + blank as u32,
                blank_columns(&text[..blank], tab_width),
                Columns::default(),
            );
            beside.insert(column);
        }
        // Columns far out are not told apart.
        if start.saturating_sub(begins) < FAR {
            beside.insert(column + code.source.slice(Span::new(begins.min(start), start)).chars().count() as u32);
        }
        let bracket = bracket_of(code, token);
        match bracket {
            Some(bracket) if bracket.opens => {
                let around = held[open.last().unwrap_or(0)].columns.first().copied();
                let base = around.map_or(column, |around| around.min(column));
                open.open(bracket.shape, held.len());
                held.push(Open { base: Some(base), beside, columns: Vec::new() });
            }
            Some(bracket) => lost |= open.close(bracket.shape).is_none_or(|(_, left)| !left.is_empty()),
            None => {}
        }
        goes_on = match bracket {
            Some(bracket) => !bracket.opens && bracket.shape != b'{',
            None => !matches!(text_of(code, token), ";" | ","),
        };
    }
    standing
}

/// Whether a line closes brackets that were open in front of it, and stands with the line that opened one of them.
fn closes_at(
    code: Code<'_>,
    line: std::ops::Range<TokenId>,
    open: &OpenBrackets<usize>,
    held: &[Open],
    column: u32,
) -> bool {
    let mut outer = open.iter().rev();
    let mut depth = 0;
    for bracket in line.filter_map(|token| bracket_of(code, token)) {
        depth += if bracket.opens { 1 } else { -1 };
        if depth < 0 {
            depth = 0;
            let Some((_, own)) = outer.next() else { return false };
            if held.get(own).is_some_and(|own| own.closes_at(column)) {
                return true;
            }
        }
    }
    false
}

fn text_of(code: Code<'_>, token: TokenId) -> &str {
    code.tree.tokens().get(token as usize).map_or("", |token| code.source.slice(token.span()))
}
