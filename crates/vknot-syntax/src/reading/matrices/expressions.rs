//! What the lexemes of MATLAB and Octave are in an expression, and which lexemes are one.

use crate::reading::expressions::{self, Item, Items, Shape};
use super::*;

const PREFIX_BINDS: u8 = 10;
const HANDLE_BINDS: u8 = 1;

/// How tightly an operator with two operands binds. <https://docs.octave.org/latest/Operator-Precedence.html>
fn infix(word: &str) -> Option<u8> {
    Some(match word {
        "=" => 0,
        "||" => 2,
        "&&" => 3,
        "|" => 4,
        "&" => 5,
        "<" | "<=" | ">" | ">=" | "==" | "~=" | "!=" => 6,
        ":" => 7,
        "+" | "-" => 8,
        "*" | "/" | "\\" | ".*" | "./" | ".\\" => 9,
        "^" | ".^" | "**" => 11,
        _ => return None,
    })
}

/// A run of lexemes; in a matrix blanks part its elements.
pub(super) struct Values<'v> {
    pub text: &'v str,
    pub lexemes: &'v [Lexeme],
    pub partner: &'v [u32],
    pub matrix: bool,
}

impl Values<'_> {
    /// Adds the nodes of the lexemes from `start` to `end`.
    pub fn shapes(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut from = start;
        while from < end {
            let (stop, next) = self.part_end(from, end);
            // What is declared without a value in front of it has one behind.
            let begin = if self.word(from) == "=" { from + 1 } else { from };
            expressions::read(self, begin, stop, shapes);
            from = next;
        }
    }

    /// Where a part ends, and where the next begins.
    fn part_end(&self, start: usize, end: usize) -> (usize, usize) {
        let mut at = start;
        while at < end {
            if matches!(self.kind(at), Some(COMMA | SEMICOLON)) || self.matrix && self.kind(at) == Some(NEWLINE) {
                return (at, at + 1);
            }
            if self.matrix && at > start && self.begins_element(at) {
                return (at, at);
            }
            at = self.closed(at, end).unwrap_or(at) + 1;
        }
        (end, end)
    }

    /// Whether a blank in front of a lexeme parts elements.
    fn begins_element(&self, at: usize) -> bool {
        let (Some(before), Some(here)) = (self.lexemes.get(at - 1), self.lexemes.get(at)) else { return false };
        let ended = matches!(
            before.kind,
            WORD | NUMBER | STRING | CLOSE_ROUND | CLOSE_SQUARE | CLOSE_CURLY | TRANSPOSE | COMMAND
        );
        if !ended || before.end == here.start {
            return false;
        }
        match here.kind {
            WORD | NUMBER | STRING | OPEN_ROUND | OPEN_SQUARE | OPEN_CURLY => true,
            MARK => match here.of(self.text) {
                "@" | "~" | "!" => true,
                "+" | "-" => self.lexemes.get(at + 1).is_some_and(|next| next.start == here.end),
                _ => false,
            },
            _ => false,
        }
    }

    fn kind(&self, at: usize) -> Option<Kind> {
        self.lexemes.get(at).map(|lexeme| lexeme.kind)
    }

    fn word(&self, at: usize) -> &str {
        self.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// The bracket's partner, if it is in front of `end`.
    pub fn closed(&self, at: usize, end: usize) -> Option<usize> {
        let partner = *self.partner.get(at)?;
        (partner != NO_PARTNER && partner as usize > at && (partner as usize) < end).then_some(partner as usize)
    }

    fn touches(&self, at: usize) -> bool {
        let pair = (at.checked_sub(1).and_then(|before| self.lexemes.get(before)), self.lexemes.get(at));
        matches!(pair, (Some(before), Some(here)) if before.end == here.start)
    }
}

impl Items for Values<'_> {
    fn leading(&self, at: usize, end: usize) -> Item {
        let operand = |end| Item::Operand { end, node: None };
        let prefix = |end| Item::Prefix { end, kind: UNARY, binding: PREFIX_BINDS, node: None };
        let group = |node| match self.closed(at, end) {
            Some(close) => Item::Operand { end: close + 1, node: Some(node) },
            None => Item::Unknown,
        };
        match (self.kind(at), self.word(at)) {
            (Some(COMMENT | NEWLINE), _) => Item::Note { end: at + 1 },
            (Some(WORD | NUMBER | STRING | COMMAND), _) => operand(at + 1),
            (Some(OPEN_ROUND), _) => group(GROUP),
            (Some(OPEN_SQUARE), _) => group(MATRIX),
            (Some(OPEN_CURLY), _) => group(CELL_ARRAY),
            (Some(MARK), "@") => match self.closed(at + 1, end) {
                Some(close) => Item::Prefix { end: close + 1, kind: LAMBDA, binding: HANDLE_BINDS, node: None },
                None if self.kind(at + 1) == Some(WORD) && at + 1 < end => prefix(at + 1),
                None => Item::Unknown,
            },
            // All of a dimension.
            (Some(MARK), ":") => operand(at + 1),
            // A result that is not wanted.
            (Some(MARK), "~") if at + 1 == end => operand(at + 1),
            (Some(MARK), "+" | "-" | "~" | "!" | "++" | "--" | "?") => prefix(at + 1),
            _ => Item::Unknown,
        }
    }

    fn following(&self, at: usize, end: usize) -> Item {
        let group = |kind, node| match self.closed(at, end) {
            Some(close) if !self.matrix || self.touches(at) => Item::Postfix { end: close + 1, kind, node: Some(node) },
            _ => Item::Unknown,
        };
        let infix_of = |end, kind, binding| Item::Infix { end, kind, binding, to_right: binding == 0 };
        match (self.kind(at), self.word(at)) {
            (Some(COMMENT | NEWLINE), _) => Item::Note { end: at + 1 },
            (Some(OPEN_ROUND), _) => group(CALL, ARGUMENTS),
            (Some(OPEN_CURLY), _) => group(ACCESS, CELL_ARRAY),
            (Some(TRANSPOSE), _) => Item::Postfix { end: at + 1, kind: UNARY, node: None },
            (Some(MARK), ".") => match self.kind(at + 1) {
                Some(WORD | COMMAND) if at + 1 < end => Item::Postfix { end: at + 2, kind: ACCESS, node: None },
                Some(OPEN_ROUND) => match self.closed(at + 1, end) {
                    Some(close) => Item::Postfix { end: close + 1, kind: ACCESS, node: None },
                    None => Item::Unknown,
                },
                _ => Item::Unknown,
            },
            (Some(MARK), "++" | "--") if at + 1 == end => Item::Postfix { end: at + 1, kind: UNARY, node: None },
            // `+=` is two lexemes.
            (Some(MARK), "+" | "-" | "*" | "/" | "^" | "|" | "&") if self.word(at + 1) == "=" && self.touches(at + 1) =>
                infix_of(at + 2, ASSIGNMENT, 0),
            (Some(MARK), word) => match infix(word) {
                Some(0) => infix_of(at + 1, ASSIGNMENT, 0),
                Some(binding) => infix_of(at + 1, OPERATION, binding),
                None => Item::Unknown,
            },
            _ => Item::Unknown,
        }
    }
}
