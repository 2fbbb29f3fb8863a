//! What a template asks of its arguments, told by its shape: `requires Number<T> && (sizeof(T) > 1)`, and `{ size() } -> Number;` in it.
//!
//! Source: ISO/IEC 14882:2020, 13.1 (requires-clause) and 7.5.7.3 (compound-requirement).

use super::heads::Heads;
use super::*;

impl Heads<'_> {
    /// The lexeme behind the clause that begins with `requires` at `start`; `None` where none does.
    pub fn behind_constraint(&self, start: usize, limit: usize) -> Option<usize> {
        let mut at = start;
        let joined = |at| matches!(self.word(at), "&&" | "||" | "and" | "or");
        if self.word(start) != "requires" {
            return None;
        }
        while at == start || joined(at) {
            at = self.behind_primary(self.skip_notes(at + 1, limit), limit)?;
            let behind = self.skip_notes(at, limit);
            at = if joined(behind) { behind } else { at };
        }
        Some(at)
    }

    /// Behind one of the conditions: something in brackets, `requires (T a) { ... }`, or a name.
    fn behind_primary(&self, at: usize, limit: usize) -> Option<usize> {
        match (self.kind(at)?, self.word(at)) {
            _ if at >= limit => None,
            (OPEN_ROUND, _) => self.close_of(at).map(|close| close + 1),
            (WORD, "requires") => {
                let body = if self.kind(at + 1) == Some(OPEN_ROUND) { self.behind(at + 1) } else { at + 1 };
                let close = self.close_of(body).filter(|_| self.kind(body) == Some(OPEN_CURLY));
                close.map(|close| close + 1)
            }
            (WORD, _) | (MARK, "::") => self.behind_name(at, limit),
            _ => None,
        }
    }

    /// Behind `std::same_as<T, U>`.
    fn behind_name(&self, start: usize, limit: usize) -> Option<usize> {
        let mut at = start + usize::from(self.word(start) == "::");
        while self.kind(at) == Some(WORD) && at < limit {
            at += 1;
            if self.word(at) == "<" {
                at = self.behind_angles(at, limit)?;
            }
            match self.word(at) {
                "::" => at += 1,
                _ => return Some(at),
            }
        }
        None
    }

    /// The `;` of a requirement whose expression is in the braces that open at `at`: nothing else has a value there, and goes on.
    pub fn requirement_end(&self, at: usize, limit: usize) -> Option<usize> {
        let close = self.close_of(at).filter(|close| *close > at + 1)?;
        let (last, behind) = (self.kind(close - 1), close + 1);
        if matches!(last, Some(SEMICOLON | CLOSE_CURLY | DIRECTIVE | MACRO_DEFINITION)) {
            return None;
        }
        let ends = |at: &usize| matches!(self.kind(*at), Some(SEMICOLON | OPEN_CURLY | CLOSE_CURLY));
        let end = match self.word(behind) {
            "noexcept" | "->" => (behind..limit).find(ends)?,
            _ => behind,
        };
        (self.kind(end) == Some(SEMICOLON)).then_some(end)
    }
}
