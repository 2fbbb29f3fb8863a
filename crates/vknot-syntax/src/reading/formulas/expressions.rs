//! What the lexemes of DAX are in an expression.

use crate::reading::expressions::{self, Item, Items, Shape};
use super::*;

const NOT_BINDS: u8 = 3;
const SIGN_BINDS: u8 = 8;

/// How tightly an operator with two operands binds. <https://learn.microsoft.com/dax/dax-operator-reference>
fn infix(word: &str) -> Option<u8> {
    Some(match word {
        "||" => 1,
        "&&" => 2,
        "=" | "==" | "<>" | "<" | ">" | "<=" | ">=" => 4,
        "&" => 5,
        "+" | "-" => 6,
        "*" | "/" => 7,
        "^" => 9,
        word if word.eq_ignore_ascii_case("in") => 4,
        _ => return None,
    })
}

/// Words that are no part of an expression.
pub(super) fn is_keyword(word: &str) -> bool {
    let words = ["VAR", "RETURN", "DEFINE", "EVALUATE", "MEASURE", "ORDER", "START", "ASC", "DESC", "BY", "AT"];
    words.iter().any(|keyword| word.eq_ignore_ascii_case(keyword))
}

pub(super) struct Values<'v> {
    pub text: &'v str,
    pub lexemes: &'v [Lexeme],
    pub partner: &'v [u32],
}

impl Values<'_> {
    /// Adds the nodes of the lexemes from `start` to `end`, up to a word that is no part of an expression.
    pub fn shapes(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut from = start;
        let mut at = start;
        while at < end && !(self.kind(at) == Some(WORD) && is_keyword(self.word(at))) {
            if self.kind(at) == Some(COMMA) {
                expressions::read(self, from, at, shapes);
                from = at + 1;
            }
            at = self.closed(at, end).unwrap_or(at) + 1;
        }
        expressions::read(self, from, at.min(end), shapes);
    }

    fn kind(&self, at: usize) -> Option<Kind> {
        self.lexemes.get(at).map(|lexeme| lexeme.kind)
    }

    fn word(&self, at: usize) -> &str {
        self.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// The bracket's partner, if it is in front of `end`.
    pub fn closed(&self, at: usize, end: usize) -> Option<usize> {
        let partner = *self.partner.get(at)? as usize;
        (partner > at && partner < end).then_some(partner)
    }
}

impl Items for Values<'_> {
    fn leading(&self, at: usize, end: usize) -> Item {
        let prefix = |binding| Item::Prefix { end: at + 1, kind: UNARY, binding, node: None };
        let group = |node| match self.closed(at, end) {
            Some(close) => Item::Operand { end: close + 1, node: Some(node) },
            None => Item::Unknown,
        };
        let touching = matches!(
            (self.lexemes.get(at), self.lexemes.get(at + 1)),
            (Some(table), Some(column)) if column.kind == COLUMN && table.end == column.start && at + 1 < end
        );
        match (self.kind(at), self.word(at)) {
            (Some(COMMENT), _) => Item::Note { end: at + 1 },
            (Some(WORD | QUOTED), _) if touching => Item::Operand { end: at + 2, node: Some(REFERENCE) },
            (Some(WORD), word) if word.eq_ignore_ascii_case("not") => prefix(NOT_BINDS),
            (Some(WORD), word) if is_keyword(word) => Item::Unknown,
            (Some(WORD | QUOTED | COLUMN | NUMBER | STRING), _) => Item::Operand { end: at + 1, node: None },
            (Some(OPEN_ROUND), _) => group(GROUP),
            (Some(OPEN_CURLY), _) => group(TABLE),
            (Some(MARK), "+" | "-") => prefix(SIGN_BINDS),
            (Some(MARK), "@") if self.kind(at + 1) == Some(WORD) && at + 1 < end =>
                Item::Operand { end: at + 2, node: Some(REFERENCE) },
            _ => Item::Unknown,
        }
    }

    fn following(&self, at: usize, end: usize) -> Item {
        match (self.kind(at), self.word(at)) {
            (Some(COMMENT), _) => Item::Note { end: at + 1 },
            (Some(OPEN_ROUND), _) => match self.closed(at, end) {
                Some(close) => Item::Postfix { end: close + 1, kind: CALL, node: Some(ARGUMENTS) },
                None => Item::Unknown,
            },
            (Some(MARK | WORD), word) => match infix(word) {
                Some(binding) => Item::Infix { end: at + 1, kind: OPERATION, binding, to_right: false },
                None => Item::Unknown,
            },
            _ => Item::Unknown,
        }
    }
}
