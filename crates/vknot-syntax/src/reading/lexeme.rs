//! Lexemes.

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
