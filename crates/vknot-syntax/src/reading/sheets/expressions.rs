//! What the lexemes of style sheets are in an expression, and which lexemes are one. Blanks part the values of a list.

use crate::reading::expressions::{self, Item, Items, Shape};
use super::*;

const SIGN_BINDS: u8 = 8;
const NOT_BINDS: u8 = 3;

/// How tightly an operator with two operands binds; in arithmetic as usual, comparisons looser, `and` and `or` last.
fn infix(word: &str) -> Option<u8> {
    Some(match word {
        "or" => 1,
        "and" => 2,
        "==" | "!=" | "<" | ">" | "<=" | ">=" | "=<" | "=" => 4,
        "+" | "-" => 6,
        "*" | "/" | "%" | "./" => 7,
        _ => return None,
    })
}

/// A run of lexemes.
pub(super) struct Values<'v> {
    pub text: &'v str,
    pub lexemes: &'v [Lexeme],
    pub partner: &'v [u32],
    /// Whether marks between values are operators here, and not what parts them.
    pub computes: bool,
    /// What a part between commas is called if there are several.
    pub part: Option<Kind>,
}

impl Values<'_> {
    /// Adds the nodes of the lexemes from `start` to `end`.
    pub fn shapes(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut from = start;
        while from < end {
            let stop = self.part_end(from, end);
            let several = from > start || stop < end;
            if let Some(kind) = self.part.filter(|_| several)
                && let Some(first) = (from..stop).find(|at| self.lexemes[*at].kind != COMMENT)
            {
                shapes.push(Shape { kind, start: first as u32, end: stop as u32 });
            }
            let mut at = from;
            while at < stop {
                let next = self.element_end(at, stop);
                match self.computes {
                    true => drop(expressions::read(self, at, next, shapes)),
                    false => expressions::read_values(self, at, next, shapes),
                }
                at = next;
            }
            from = stop + 1;
        }
    }

    fn part_end(&self, start: usize, end: usize) -> usize {
        let mut at = start;
        while at < end && !matches!(self.lexemes[at].kind, COMMA | SEMICOLON) {
            at = self.closed(at, end).unwrap_or(at) + 1;
        }
        at.min(end)
    }

    /// Where a value of a list ends that begins at `start`.
    fn element_end(&self, start: usize, end: usize) -> usize {
        let mut at = self.closed(start, end).unwrap_or(start) + 1;
        while at < end && !self.begins_element(at) {
            at = self.closed(at, end).unwrap_or(at) + 1;
        }
        at.min(end)
    }

    fn begins_element(&self, at: usize) -> bool {
        let (Some(before), Some(here)) = (self.lexemes.get(at - 1), self.lexemes.get(at)) else { return false };
        let operator = |lexeme: &Lexeme| infix(lexeme.of(self.text)).is_some() || lexeme.of(self.text) == "not";
        if operator(before) || matches!(before.kind, MARK | COLON) || before.end == here.start {
            return false;
        }
        match here.kind {
            WORD | AT_WORD | VARIABLE | NUMBER | COLOR | STRING | OPEN_ROUND | OPEN_SQUARE | OPEN_INTERPOLATION =>
                !operator(here),
            MARK if matches!(here.of(self.text), "+" | "-") =>
                self.lexemes.get(at + 1).is_some_and(|next| next.start == here.end),
            _ => false,
        }
    }

    /// The bracket's partner, if it is in front of `end`.
    pub fn closed(&self, at: usize, end: usize) -> Option<usize> {
        let partner = *self.partner.get(at)? as usize;
        (partner > at && partner < end).then_some(partner)
    }

    fn touches(&self, at: usize) -> bool {
        let pair = (at.checked_sub(1).and_then(|before| self.lexemes.get(before)), self.lexemes.get(at));
        matches!(pair, (Some(before), Some(here)) if before.end == here.start)
    }
}

impl Items for Values<'_> {
    fn leading(&self, at: usize, end: usize) -> Item {
        let group = |node| match self.closed(at, end) {
            Some(close) => Item::Operand { end: close + 1, node: Some(node) },
            None => Item::Unknown,
        };
        let prefix = |binding| Item::Prefix { end: at + 1, kind: UNARY, binding, node: None };
        let lexeme = self.lexemes[at];
        match (lexeme.kind, lexeme.of(self.text)) {
            (COMMENT, _) => Item::Note { end: at + 1 },
            (WORD, "not") => prefix(NOT_BINDS),
            (WORD | AT_WORD | VARIABLE | NUMBER | COLOR | STRING, _) => Item::Operand { end: at + 1, node: None },
            (OPEN_ROUND | OPEN_SQUARE, _) => group(GROUP),
            (OPEN_INTERPOLATION, _) => group(INTERPOLATION),
            (MARK, "+" | "-") => prefix(SIGN_BINDS),
            _ => Item::Unknown,
        }
    }

    fn following(&self, at: usize, end: usize) -> Item {
        let lexeme = self.lexemes[at];
        let called = self.touches(at) && matches!(self.lexemes[at - 1].kind, WORD | AT_WORD);
        match (lexeme.kind, self.closed(at, end)) {
            (COMMENT, _) => Item::Note { end: at + 1 },
            (OPEN_ROUND, Some(close)) if called => Item::Postfix { end: close + 1, kind: CALL, node: Some(ARGUMENTS) },
            // `module.function(...)`
            (WORD, _) if lexeme.of(self.text).starts_with('.') && self.touches(at) =>
                Item::Postfix { end: at + 1, kind: ACCESS, node: None },
            (MARK | WORD, _) => {
                let wide = self.lexemes.get(at + 1).is_some_and(|next| {
                    next.start == lexeme.end
                        && matches!((lexeme.of(self.text), next.of(self.text)), ("=" | "!" | "<" | ">", "="))
                });
                let binding = if wide { Some(4) } else { infix(lexeme.of(self.text)) };
                match binding {
                    Some(binding) => Item::Infix {
                        end: at + 1 + usize::from(wide),
                        kind: OPERATION,
                        binding,
                        to_right: false,
                    },
                    None => Item::Unknown,
                }
            }
            _ => Item::Unknown,
        }
    }
}
