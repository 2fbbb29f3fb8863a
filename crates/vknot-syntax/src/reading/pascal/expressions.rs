//! What the lexemes of Object Pascal are in an expression, and which lexemes are one.

use crate::reading::expressions::{self, Item, Items, Shape};
use super::lexemes::Lexemes;
use super::*;

const PREFIX_BINDS: u8 = 9;
/// Words like `inherited` bind looser than a call and tighter than operators.
const RANGE_BINDS: u8 = 1;
const ASSIGNMENT_BINDS: u8 = 2;
const WIDTH_BINDS: u8 = 3;
/// Within how many lexemes angle brackets must close.
const ANGLES_AT_MOST: usize = 32;

/// How tightly an operator with two operands binds. <https://www.freepascal.org/docs-html/ref/refch12.html>
fn infix(word: &str) -> Option<u8> {
    Some(match word {
        "to" | "downto" => RANGE_BINDS,
        ":=" | "+=" | "-=" | "*=" | "/=" => ASSIGNMENT_BINDS,
        ":" => WIDTH_BINDS,
        ".." => 4,
        "=" | "<>" | "<" | ">" | "<=" | ">=" | "in" | "is" => 5,
        "+" | "-" | "or" | "xor" | "><" => 6,
        "*" | "/" | "div" | "mod" | "and" | "shl" | "shr" | "as" => 7,
        "**" => 8,
        _ => return None,
    })
}

/// A run of lexemes.
pub(super) struct Values<'v> {
    pub lexemes: Lexemes<'v>,
    /// Runs that are not read, from where the reader is on.
    pub inactive: &'v [(u32, u32)],
}

impl Values<'_> {
    /// Adds the nodes of the lexemes from `start` to `end`, up to what is no expression.
    pub fn shapes(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut from = start;
        while from < end {
            let (stop, barred) = self.part_end(from, end);
            self.part(from, stop, barred, shapes);
            if barred {
                return;
            }
            from = stop + 1;
        }
    }

    /// The `,` or `;` behind a part, or the end; and whether it is barred by what holds statements or members.
    fn part_end(&self, start: usize, end: usize) -> (usize, bool) {
        let mut at = start;
        while at < end {
            match self.lexemes.kind(at) {
                Some(COMMA | SEMICOLON) => return (at, false),
                Some(WORD) if self.lexemes.bars(at) => return (at, true),
                Some(MARK) if self.lexemes.is(at, "<") => at = self.angles_end(at, end).unwrap_or(at + 1),
                _ => at = self.lexemes.closed(at, end).unwrap_or(at) + 1,
            }
        }
        (end, false)
    }

    fn part(&self, start: usize, end: usize, barred: bool, shapes: &mut Vec<Shape>) {
        let notes = |at: &usize| self.note_end(*at).is_none();
        let Some(start) = (start..end).find(notes) else { return };
        if barred {
            return expressions::read_values(self, start, end, shapes);
        }
        // What is declared: words, and a value behind `=`.
        let first = self.lexemes.text(start);
        let declares = matches!(first, ":" | "=")
            || ["const", "var", "out", "constref"].iter().any(|word| self.lexemes.is(start, word));
        if !declares {
            expressions::read(self, start, end, shapes);
            return;
        }
        let mut at = start;
        while at < end && !self.lexemes.is(at, "=") {
            at = self.lexemes.closed(at, end).unwrap_or(at) + 1;
        }
        expressions::read_values(self, start, at.min(end), shapes);
        expressions::read(self, at + 1, end, shapes);
    }

    fn note_end(&self, at: usize) -> Option<usize> {
        if matches!(self.lexemes.kind(at)?, COMMENT | DIRECTIVE | REGION_MARK | INERT) {
            return Some(self.unread_end(at + 1).unwrap_or(at + 1));
        }
        self.unread_end(at)
    }

    fn unread_end(&self, at: usize) -> Option<usize> {
        let index = self.inactive.partition_point(|run| run.1 as usize <= at);
        let run = self.inactive.get(index)?;
        (run.0 as usize <= at).then_some(run.1 as usize)
    }

    /// Where the arguments of a generic type end that begin at `start`; `None` when the mark is more likely an operator.
    fn angles_end(&self, start: usize, end: usize) -> Option<usize> {
        if self.lexemes.kind(start.checked_sub(1)?) != Some(WORD) {
            return None;
        }
        let mut depth = 0u32;
        for at in start..end.min(start + ANGLES_AT_MOST) {
            match (self.lexemes.kind(at)?, self.lexemes.text(at)) {
                (MARK, "<") => depth += 1,
                (MARK, ">") => {
                    depth -= 1;
                    if depth == 0 {
                        let behind = self.lexemes.text(at + 1);
                        let ends =
                            at + 1 >= end || matches!(behind, "." | "(" | ")" | ">" | "," | ";" | "]" | "=" | ":=");
                        return ends.then_some(at + 1);
                    }
                }
                (MARK, ".") | (COMMA, _) => {}
                (WORD, _) if self.lexemes.word(at).is_none() => {}
                _ => return None,
            }
        }
        None
    }
}

impl Items for Values<'_> {
    fn leading(&self, at: usize, end: usize) -> Item {
        if let Some(end) = self.note_end(at) {
            return Item::Note { end };
        }
        let prefix = |binding| Item::Prefix { end: at + 1, kind: UNARY, binding, node: None };
        let group = |node| match self.lexemes.closed(at, end) {
            Some(close) => Item::Operand { end: close + 1, node: Some(node) },
            None => Item::Unknown,
        };
        match self.lexemes.kind(at) {
            Some(STRING) => {
                // `'a'#13'b'` is one.
                let stop = (at..end).find(|at| self.lexemes.kind(*at) != Some(STRING)).unwrap_or(end);
                Item::Operand { end: stop, node: (stop > at + 1).then_some(OPERATION) }
            }
            Some(NUMBER) => Item::Operand { end: at + 1, node: None },
            Some(WORD) if self.lexemes.is(at, "not") => prefix(PREFIX_BINDS),
            Some(WORD) if self.lexemes.is(at, "inherited") => match self.lexemes.kind(at + 1) {
                Some(WORD) if at + 1 < end => prefix(PREFIX_BINDS),
                _ => Item::Operand { end: at + 1, node: None },
            },
            Some(WORD) if ["raise", "goto", "specialize"].iter().any(|word| self.lexemes.is(at, word)) =>
                prefix(if self.lexemes.is(at, "specialize") { PREFIX_BINDS } else { 0 }),
            Some(WORD) => match self.lexemes.word(at) {
                None
                | Some(Word::Declarations | Word::Visibility | Word::Part | Word::Uses | Word::Package | Word::On) => {
                    let generic = (self.lexemes.is(at + 1, "<")).then(|| self.angles_end(at + 1, end)).flatten();
                    Item::Operand { end: generic.unwrap_or(at + 1), node: None }
                }
                Some(_) => Item::Unknown,
            },
            Some(OPEN_ROUND) if self.lexemes.begins_values(at) => group(GROUP),
            Some(OPEN_ROUND) => group(PARENTHESIZED),
            Some(OPEN_SQUARE) => group(GROUP),
            Some(MARK) => match self.lexemes.text(at) {
                "+" | "-" | "@" | "@@" => prefix(PREFIX_BINDS),
                _ => Item::Unknown,
            },
            _ => Item::Unknown,
        }
    }

    fn following(&self, at: usize, end: usize) -> Item {
        if let Some(end) = self.note_end(at) {
            return Item::Note { end };
        }
        let group = |kind, node| match self.lexemes.closed(at, end) {
            Some(close) => Item::Postfix { end: close + 1, kind, node: Some(node) },
            None => Item::Unknown,
        };
        let text = self.lexemes.text(at);
        match (self.lexemes.kind(at), text) {
            (Some(OPEN_ROUND), _) => group(CALL, ARGUMENTS),
            (Some(OPEN_SQUARE), _) => group(ACCESS, SUBSCRIPT),
            (Some(MARK), "^") => Item::Postfix { end: at + 1, kind: UNARY, node: None },
            (Some(MARK), ".") if self.lexemes.kind(at + 1) == Some(WORD) && at + 1 < end => {
                let generic = (self.lexemes.is(at + 2, "<")).then(|| self.angles_end(at + 2, end)).flatten();
                Item::Postfix { end: generic.unwrap_or(at + 2), kind: ACCESS, node: None }
            }
            (Some(MARK | WORD), _) => {
                // `not in` and `is not`.
                let both = |one, two| self.lexemes.is(at, one) && self.lexemes.is(at + 1, two);
                let wide = both("not", "in") || both("is", "not");
                let lower;
                let word = if self.lexemes.kind(at) == Some(WORD) {
                    lower = if wide { "in".to_owned() } else { text.to_ascii_lowercase() };
                    lower.as_str()
                } else {
                    text
                };
                match infix(word) {
                    Some(binding) => {
                        let kind = if binding == ASSIGNMENT_BINDS { ASSIGNMENT } else { OPERATION };
                        let end = if wide { at + 2 } else { at + 1 };
                        Item::Infix { end, kind, binding, to_right: binding == ASSIGNMENT_BINDS }
                    }
                    None => Item::Unknown,
                }
            }
            _ => Item::Unknown,
        }
    }
}
