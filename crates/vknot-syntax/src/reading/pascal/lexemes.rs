//! Looks over the lexemes of Object Pascal without giving them to a tree.

use crate::language::Kind;
use crate::reading::{Lexeme, NO_PARTNER};
use super::*;

#[derive(Clone, Copy)]
pub(super) struct Lexemes<'r> {
    pub source: &'r str,
    pub list: &'r [Lexeme],
    pub partner: &'r [u32],
}

impl<'r> Lexemes<'r> {
    pub fn kind(&self, at: usize) -> Option<Kind> {
        self.list.get(at).map(|lexeme| lexeme.kind)
    }

    pub fn text(&self, at: usize) -> &'r str {
        self.list.get(at).map_or("", |lexeme| lexeme.of(self.source))
    }

    /// The structural word at `at`; not behind a dot, where it is a member's name.
    pub fn word(&self, at: usize) -> Option<Word> {
        let word = self.list.get(at).filter(|lexeme| lexeme.kind == WORD)?;
        let member = at.checked_sub(1)
            .is_some_and(|before| matches!(self.text(before), "." | "@") && self.kind(before) == Some(MARK));
        Word::of(word.of(self.source)).filter(|_| !member)
    }

    pub fn is(&self, at: usize, text: &str) -> bool {
        self.text(at).eq_ignore_ascii_case(text)
    }

    pub fn close_of(&self, at: usize) -> Option<usize> {
        let partner = *self.partner.get(at)?;
        (partner != NO_PARTNER && partner as usize > at).then_some(partner as usize)
    }

    /// The next lexeme that is no comment or directive.
    pub fn next_code(&self, at: usize) -> usize {
        let note = |kind: Kind| matches!(kind, COMMENT | DIRECTIVE | REGION_MARK);
        (at..self.list.len()).find(|at| !self.kind(*at).is_some_and(note)).unwrap_or(self.list.len())
    }

    /// Whether members follow the word here: it stands behind `=`, or behind `packed` there.
    pub fn begins_members(&self, at: usize) -> bool {
        let Some(before) = self.code_before(at) else { return false };
        (self.is(before, "=") || self.is(before, "packed") || self.is(before, "bitpacked")) && self.has_members(at)
    }

    /// The lexeme in front of another that is no comment or directive.
    pub fn code_before(&self, at: usize) -> Option<usize> {
        (0..at).rev().find(|at| !matches!(self.kind(*at), Some(COMMENT | DIRECTIVE | REGION_MARK)))
    }

    /// A routine as a value has a body: `begin` comes before what could end a type.
    pub fn is_anonymous(&self, at: usize) -> bool {
        let mut at = at + 1;
        for _ in 0..ANONYMOUS_AT_MOST {
            match self.word(at) {
                Some(Word::Begin) => return true,
                Some(Word::Declarations) => return true,
                Some(_) => return false,
                None => {}
            }
            match self.kind(at) {
                None | Some(SEMICOLON | CLOSE_ROUND) => return false,
                _ => at = self.close_of(at).unwrap_or(at) + 1,
            }
        }
        false
    }

    /// Whether a bracket opens the values of a constant.
    pub fn begins_values(&self, at: usize) -> bool {
        let before = at.checked_sub(1).map_or("", |before| self.text(before));
        matches!(before, "=" | "," | ":")
    }

    /// Whether the word at `at`, which begins a type, is followed by members up to `end`.
    pub fn has_members(&self, at: usize) -> bool {
        let mut next = self.next_code(at + 1);
        while matches!(self.text(next).to_ascii_lowercase().as_str(), "abstract" | "sealed" | "helper" | "external" | "name")
            || self.kind(next) == Some(STRING)
        {
            next = self.next_code(next + 1);
        }
        if let (Some(OPEN_ROUND), Some(close)) = (self.kind(next), self.close_of(next)) {
            next = self.next_code(close + 1);
        }
        if self.is(next, "for") {
            next = self.next_code(next + 2);
        }
        !(self.kind(next) == Some(SEMICOLON) || self.word(next) == Some(Word::Of))
    }

    /// The bracket's partner, if it is in front of `end`.
    pub fn closed(&self, at: usize, end: usize) -> Option<usize> {
        self.close_of(at).filter(|close| *close < end)
    }

    /// Whether a word begins what holds statements or members, and is no part of an expression.
    pub fn bars(&self, at: usize) -> bool {
        match self.word(at) {
            Some(Word::Record | Word::Case | Word::Try | Word::Repeat | Word::Begin | Word::Asm) => true,
            Some(Word::Class | Word::Part) => self.begins_members(at),
            Some(Word::Routine) => self.is_anonymous(at),
            _ => false,
        }
    }
}

/// Within how many lexemes a routine as a value begins its body.
const ANONYMOUS_AT_MOST: usize = 64;
