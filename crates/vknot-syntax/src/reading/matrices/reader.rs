//! Gives lexemes their place in the tree, statement by statement. What is open is on a stack of frames.

use std::ops::Range;

use crate::language::{Field, Kind};
use crate::reading::{begins_line, Lexeme, NO_PARTNER};
use crate::reading::expressions::{Plan, Shape};
use crate::tree::{NodeId, TreeBuilder};
use super::expressions::Values;
use super::*;

/// How many constructs a closing word may end at once.
const FRAMES_AT_MOST: usize = 64;

/// A construct that is open.
struct Frame {
    kind: Kind,
    opening: NodeId,
    arm: bool,
}

pub(super) struct Reader<'r, 't> {
    text: &'r str,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    endless: bool,
    /// The nodes of the expressions that are open.
    plan: Plan,
    shapes: Vec<Shape>,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(
        text: &'r str,
        lexemes: &'r [Lexeme],
        partner: &'r [u32],
        builder: &'r mut TreeBuilder<'t>,
        endless: bool,
    ) -> Self {
        let (plan, shapes) = (Plan::default(), Vec::new());
        Self { text, lexemes, partner, builder, frames: Vec::new(), endless, plan, shapes }
    }

    pub fn run(mut self) {
        let mut at = 0;
        while let Some(lexeme) = self.lexemes.get(at).copied() {
            at = match lexeme.kind {
                NEWLINE => at + 1,
                COMMENT => {
                    self.end_before_next_function(at);
                    self.token(at)
                }
                SEMICOLON | COMMA => self.token(at),
                WORD => match self.keyword_at(at) {
                    Some(Keyword::Opens(kind)) => self.open(at, kind),
                    Some(Keyword::Middle) => self.middle(at),
                    Some(Keyword::Closes) => self.close(at),
                    None => self.statement(at),
                },
                _ => self.statement(at),
            };
        }
        while !self.frames.is_empty() {
            self.pop(None);
        }
    }

    /// Gives one lexeme to the tree.
    fn token(&mut self, at: usize) -> usize {
        let lexeme = self.lexemes[at];
        if lexeme.kind != NEWLINE {
            let lone = shape(lexeme.kind).is_some() && self.partner[at] == NO_PARTNER;
            let kind = if lone { self.builder.error_kind() } else { lexeme.kind };
            self.builder.leaf(kind, Field(0), lexeme.start, lexeme.end);
        }
        at + 1
    }

    fn word(&self, at: usize) -> &str {
        self.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// What the word at the beginning of a statement does there.
    fn keyword_at(&self, at: usize) -> Option<Keyword> {
        let word = self.word(at);
        let next = self.lexemes.get(at + 1).copied();
        let assigned = next.is_some_and(|next| next.of(self.text) == "=");
        let members = MEMBER_WORDS.contains(&word)
            && !assigned
            && match self.frames.last().map(|frame| frame.kind) {
                Some(CLASS) => true,
                Some(FUNCTION) =>
                    word == "arguments" && next.is_none_or(|next| matches!(next.kind, NEWLINE | OPEN_ROUND)),
                _ => false,
            };
        if members {
            return Some(Keyword::Opens(MEMBERS));
        }
        keyword(word).filter(|_| !assigned)
    }

    /// Where the statement or header that begins at `at` ends: at a line end or separator outside of brackets.
    fn end_of(&self, at: usize) -> usize {
        let mut end = at;
        while let Some(lexeme) = self.lexemes.get(end) {
            match lexeme.kind {
                NEWLINE | SEMICOLON | COMMA => break,
                COMMENT if self.lexemes.get(end + 1).is_none_or(|next| next.kind == NEWLINE) => break,
                _
                    if shape(lexeme.kind).is_some()
                    && self.partner[end] != NO_PARTNER
                    && self.partner[end] as usize > end =>
                {
                    end = self.partner[end] as usize + 1;
                }
                _ => end += 1,
            }
        }
        end
    }

    fn open(&mut self, at: usize, kind: Kind) -> usize {
        if kind == FUNCTION && self.endless {
            while !self.frames.is_empty() {
                self.pop(None);
            }
        }
        self.builder.open(kind, Field(0));
        let word = self.lexemes[at];
        self.builder.leaf(OPENING, Field(0), word.start, word.end);
        let opening = self.builder.last();
        let end = if self.word(at) == "do" { at + 1 } else { self.end_of(at + 1) };
        match kind {
            FUNCTION => self.function_header(at + 1, end),
            CLASS => self.class_header(at + 1, end),
            _ => self.values(at + 1..end),
        }
        self.builder.open(BLOCK, Field::BODY);
        self.frames.push(Frame { kind, opening, arm: false });
        end
    }

    /// `[results] = name(arguments)`: the name is what stands in front of the arguments.
    fn function_header(&mut self, start: usize, end: usize) {
        let equals = self.at_depth_zero(start, end).find(|at| self.word(*at) == "=");
        let from = equals.map_or(start, |equals| equals + 1);
        let open = self.at_depth_zero(from, end).find(|at| self.lexemes[*at].kind == OPEN_ROUND);
        let name = (from..open.unwrap_or(end)).rfind(|at| self.lexemes[*at].kind == WORD);
        self.values(start..name.unwrap_or(from));
        let Some(name) = name else { return self.values(from..end) };
        self.token(name);
        self.builder.set_field(self.builder.last(), Field::NAME);
        let close = open.and_then(|open| self.closed(open, end));
        let Some((open, close)) = open.zip(close).filter(|(open, _)| *open == name + 1) else {
            return self.values(name + 1..end);
        };
        self.builder.open(ARGUMENTS, Field::PARAMETERS);
        self.token(open);
        self.values(open + 1..close);
        self.token(close);
        self.builder.close();
        self.values(close + 1..end);
    }

    /// `(attributes) name < base`.
    fn class_header(&mut self, start: usize, end: usize) {
        let name = self.at_depth_zero(start, end).find(|at| self.lexemes[*at].kind == WORD).unwrap_or(end);
        self.values(start..name);
        if name < end {
            self.token(name);
            self.builder.set_field(self.builder.last(), Field::NAME);
            self.values(name + 1..end);
        }
    }

    /// Lexemes outside of brackets.
    fn at_depth_zero(&self, start: usize, end: usize) -> impl Iterator<Item = usize> + '_ {
        let mut at = start;
        std::iter::from_fn(move || {
            let here = at;
            if here >= end {
                return None;
            }
            let partner = self.partner[here];
            at = if partner != NO_PARTNER && partner as usize > here { partner as usize + 1 } else { here + 1 };
            Some(here)
        })
    }

    fn middle(&mut self, at: usize) -> usize {
        let Some(frame) = self.frames.last_mut().filter(|frame| matches!(frame.kind, CONDITIONAL | GUARD)) else {
            return self.statement(at);
        };
        let arm = std::mem::replace(&mut frame.arm, true);
        self.builder.close();
        if arm {
            self.builder.close();
        }
        self.builder.open(ARM, Field(0));
        let word = self.lexemes[at];
        self.builder.leaf(MIDDLE, Field(0), word.start, word.end);
        let end = if matches!(self.word(at), "else" | "otherwise" | "unwind_protect_cleanup") {
            at + 1
        } else {
            self.end_of(at + 1)
        };
        self.values(at + 1..end);
        self.builder.open(BLOCK, Field::BODY);
        end
    }

    fn close(&mut self, at: usize) -> usize {
        let word = self.word(at);
        let fits = |kind: Kind| match word {
            "endfunction" => kind == FUNCTION,
            "endif" | "endswitch" => kind == CONDITIONAL,
            "endfor" | "endwhile" | "until" | "endparfor" => kind == LOOP,
            "end_try_catch" | "end_unwind_protect" | "endspmd" => kind == GUARD,
            "endclassdef" => kind == CLASS,
            "end" => kind != FUNCTION || !self.endless,
            _ => kind == MEMBERS,
        };
        let near = self.frames.iter().rev().take(FRAMES_AT_MOST).position(|frame| fits(frame.kind));
        let Some(found) = near.map(|skipped| self.frames.len() - 1 - skipped) else {
            let lexeme = self.lexemes[at];
            self.builder.error(lexeme.start as usize, lexeme.end as usize);
            return at + 1;
        };
        // A word that says what it ends also ends what is still open inside.
        while self.frames.len() > found + 1 {
            self.pop(None);
        }
        self.pop(Some(at))
    }

    /// Ends the innermost construct, with the word that closes it; gives where to go on.
    fn pop(&mut self, closing: Option<usize>) -> usize {
        let Some(frame) = self.frames.pop() else { return 0 };
        self.builder.close();
        if frame.arm {
            self.builder.close();
        }
        let mut next = 0;
        if let Some(at) = closing {
            let word = self.lexemes[at];
            self.builder.leaf(CLOSING, Field(0), word.start, word.end);
            next = at + 1;
            if self.word(at) == "until" {
                next = self.end_of(at + 1);
                self.values(at + 1..next);
            }
        } else if frame.kind == FUNCTION && self.endless {
            self.builder.retag(frame.opening, MIDDLE);
        } else {
            let end = self.builder.error_kind();
            self.builder.missing(end, Field(0));
        }
        self.builder.close();
        next
    }

    /// Comments directly in front of a function belong to it, also where no word ends the function before.
    fn end_before_next_function(&mut self, at: usize) {
        let run_begins = at.checked_sub(2).is_none_or(|before| self.lexemes[before].kind != COMMENT);
        if !(self.endless && run_begins && self.frames.len() == 1) {
            return;
        }
        let next = self.lexemes[at..].iter().find(|lexeme| !matches!(lexeme.kind, NEWLINE | COMMENT));
        if next.is_some_and(|next| next.of(self.text) == "function")
            && begins_line(self.text.as_bytes(), self.lexemes[at].start as usize)
        {
            self.pop(None);
        }
    }

    fn statement(&mut self, at: usize) -> usize {
        let end = self.end_of(at).max(at + 1);
        let member = self.frames.last().is_some_and(|frame| frame.kind == MEMBERS) && self.lexemes[at].kind == WORD;
        self.builder.open(if member { PROPERTY } else { STATEMENT }, Field(0));
        let from = match member {
            true => {
                self.token(at);
                self.builder.set_field(self.builder.last(), Field::NAME);
                at + 1
            }
            false => at,
        };
        self.values(from..end);
        let next = match self.lexemes.get(end).map(|lexeme| lexeme.kind) {
            Some(SEMICOLON | COMMA) => self.token(end),
            _ => end,
        };
        self.builder.close();
        next
    }

    /// Words, marks and groups.
    fn values(&mut self, range: Range<usize>) {
        self.expect(range.start, range.end, false);
        for at in range.clone() {
            self.plan.apply(at, self.builder);
            self.token(at);
            if let Some(close) = self.closed(at, range.end) {
                self.expect(at + 1, close, self.lexemes[at].kind != OPEN_ROUND);
            }
        }
        self.plan.apply(range.end, self.builder);
    }

    /// Finds the nodes of what is read next.
    fn expect(&mut self, start: usize, end: usize, matrix: bool) {
        let values = Values { text: self.text, lexemes: self.lexemes, partner: self.partner, matrix };
        values.shapes(start, end, &mut self.shapes);
        self.plan.add(&mut self.shapes);
    }

    /// The bracket's partner, if it is in front of `end`.
    fn closed(&self, at: usize, end: usize) -> Option<usize> {
        let partner = *self.partner.get(at)? as usize;
        (partner > at && partner < end).then_some(partner)
    }
}
