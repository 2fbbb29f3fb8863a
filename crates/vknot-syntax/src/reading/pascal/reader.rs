//! Gives lexemes their place in the tree. What is open is on a stack of frames; one step looks at the innermost.

mod bodies;
mod declarations;
mod statements;

use crate::language::{Field, Kind};
use crate::reading::{Lexeme, NO_PARTNER};
use crate::tree::TreeBuilder;
use super::*;

/// Something that is open.
#[derive(Clone, Copy)]
enum Frame {
    /// The file.
    File,
    /// `interface`, `implementation`, and so on, up to the next of its like.
    Part { declares_only: bool },
    /// `const`, `var`, `type`: items up to the next word that begins something else.
    Declarations { types: bool },
    /// A routine whose local declarations, then body, follow.
    Routine,
    /// The members of a type up to `end`.
    Members,
    /// Statements up to the word that ends them.
    Statements(Block),
    /// The arms of a `case`.
    Cases,
    /// A branch whose sub-statement is being read; `if` may go on with `else`.
    Branch { conditional: bool, arm: bool },
    /// An arm of a `case` whose statement is being read.
    Arm,
    /// Words and groups up to `;` or a word that ends a statement; then the node ends.
    Values { until: Until },
    /// Words and groups up to the bracket `end`; `closes` nodes end with it.
    Group { end: usize, closes: u32 },
}

/// What holds statements.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Block {
    /// `begin ... end`; how many nodes end with it.
    Begin { closes: u32 },
    /// `repeat ... until`.
    Repeat,
    /// `try ... except ... end`; whether the second part has been reached.
    Try { arm: bool },
    /// The last arm of a `case`.
    Else,
    /// `initialization ...`.
    Part,
}

/// Where words and groups end.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Until {
    /// Behind `;`, or in front of a word that ends statements.
    Statement,
    /// Behind `;`, whatever the words.
    Semicolon,
    /// In front of this word.
    Word(Word),
}

pub(super) struct Reader<'r, 't> {
    text: &'r str,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    inactive: &'r [(u32, u32)],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// Where routines begin that have a body here, in order.
    with_body: Vec<usize>,
    /// Where the run of comments being read through ends.
    comments_end: usize,
    at: usize,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(
        text: &'r str,
        lexemes: &'r [Lexeme],
        partner: &'r [u32],
        inactive: &'r [(u32, u32)],
        builder: &'r mut TreeBuilder<'t>,
    ) -> Self {
        let frames = vec![Frame::File];
        let with_body = Vec::new();
        let mut reader = Self { text, lexemes, partner, inactive, with_body, builder, frames, comments_end: 0, at: 0 };
        reader.with_body = reader.routines_with_body();
        reader
    }

    pub fn run(mut self) {
        while self.at < self.lexemes.len() {
            self.step();
        }
    }

    fn kind(&self, at: usize) -> Option<Kind> {
        self.lexemes.get(at).map(|lexeme| lexeme.kind)
    }

    fn text(&self, at: usize) -> &'r str {
        self.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// The structural word at `at`; not behind a dot, where it is a member's name.
    fn word(&self, at: usize) -> Option<Word> {
        let word = self.lexemes.get(at).filter(|lexeme| lexeme.kind == WORD)?;
        let member = at.checked_sub(1)
            .is_some_and(|before| matches!(self.text(before), "." | "@") && self.kind(before) == Some(MARK));
        Word::of(word.of(self.text)).filter(|_| !member)
    }

    fn is(&self, at: usize, text: &str) -> bool {
        self.text(at).eq_ignore_ascii_case(text)
    }

    fn close_of(&self, at: usize) -> Option<usize> {
        let partner = *self.partner.get(at)?;
        (partner != NO_PARTNER && partner as usize > at).then_some(partner as usize)
    }

    /// The next lexeme that is no comment or directive.
    fn next_code(&self, at: usize) -> usize {
        let note = |kind: Kind| matches!(kind, COMMENT | DIRECTIVE | REGION_MARK);
        (at..self.lexemes.len()).find(|at| !self.kind(*at).is_some_and(note)).unwrap_or(self.lexemes.len())
    }

    fn token(&mut self) {
        self.token_as(None);
    }

    fn token_as(&mut self, kind: Option<Kind>) {
        if let Some(lexeme) = self.lexemes.get(self.at).copied() {
            let lone = shape(lexeme.kind).is_some() && self.partner[self.at] == NO_PARTNER;
            let own = match lexeme.kind {
                WORD if Word::of(lexeme.of(self.text)).is_some() => KEYWORD,
                kind => kind,
            };
            let kind = if lone { self.builder.error_kind() } else { kind.unwrap_or(own) };
            self.builder.leaf(kind, Field(0), lexeme.start, lexeme.end);
        }
        self.at += 1;
    }

    fn name_token(&mut self) {
        self.token_as(Some(WORD));
        self.builder.set_field(self.builder.last(), Field::NAME);
    }

    fn close(&mut self, nodes: u32) {
        (0..nodes).for_each(|_| self.builder.close());
    }

    fn step(&mut self) {
        if let Some((start, end)) = self.inactive.first().copied() && self.at >= start as usize {
            self.inactive = &self.inactive[1..];
            self.builder.open(INACTIVE, Field(0));
            while self.at < end as usize {
                self.token();
            }
            return self.close(1);
        }
        if matches!(self.kind(self.at), Some(COMMENT | DIRECTIVE | REGION_MARK | INERT)) {
            return self.note();
        }
        match self.frames.last().copied().unwrap_or(Frame::File) {
            Frame::Values { until } => self.value(until),
            Frame::Group { end, closes } => self.grouped(end, closes),
            Frame::Statements(block) => self.statement_or_end(block),
            Frame::Branch { .. } | Frame::Arm => self.sub_statement(),
            Frame::Cases => self.case_item(),
            Frame::Members => self.member(),
            Frame::Declarations { types } => self.declared(types),
            Frame::Routine => self.routine_part(),
            Frame::Part { .. } | Frame::File => self.outer(),
        }
    }

    /// A comment that stands in front of the next routine or section belongs to that, not to declarations that end there.
    fn note(&mut self) {
        if let Some(Frame::Declarations { .. }) = self.frames.last() {
            if self.comments_end <= self.at {
                self.comments_end = self.next_code(self.at);
            }
            let next = self.comments_end;
            if matches!(self.word(next), Some(word) if ends_declarations(word)) && self.kind(self.at) != Some(INERT) {
                self.frames.pop();
                self.close(1);
                return;
            }
        }
        self.token();
    }

    /// Opens a node for words and groups.
    fn values(&mut self, kind: Kind, until: Until) {
        self.builder.open(kind, Field(0));
        self.token();
        if kind == PACKAGE && self.kind(self.at) == Some(WORD) {
            self.name_token();
        }
        self.frames.push(Frame::Values { until });
    }

    /// Lexemes up to `end` without structure of their own.
    fn flat_values(&mut self, end: usize) {
        while self.at < end.min(self.lexemes.len()) {
            self.token();
        }
    }

    /// One lexeme of words and groups, or their end.
    fn value(&mut self, until: Until) {
        let word = self.word(self.at);
        let ends = match (until, word) {
            (Until::Word(wanted), Some(word)) if word == wanted => {
                self.frames.pop();
                self.token();
                return;
            }
            (Until::Word(_), Some(Word::Begin | Word::End | Word::Part)) => {
                self.frames.pop();
                return;
            }
            (Until::Word(_), _) if self.kind(self.at) == Some(SEMICOLON) => {
                self.frames.pop();
                return;
            }
            (
                Until::Statement,
                Some(
                    Word::End
                        | Word::Until
                        | Word::Else
                        | Word::Guarded
                        | Word::Begin
                        | Word::Then
                        | Word::Do
                        | Word::Part,
                ),
            ) => true,
            (Until::Semicolon, Some(Word::End | Word::Begin)) => true,
            _ => false,
        };
        if ends {
            self.frames.pop();
            self.close(1);
            return self.finished();
        }
        if self.kind(self.at) == Some(SEMICOLON) {
            self.frames.pop();
            self.token();
            self.close(1);
            return self.after_semicolon();
        }
        self.element();
    }

    /// Behind a statement's `;` the branches around it end.
    fn after_semicolon(&mut self) {
        if self.inside_branch() {
            while let Some(Frame::Branch { arm, .. }) = self.frames.last().copied() {
                self.frames.pop();
                self.close(1 + u32::from(arm));
            }
            if let Some(Frame::Arm) = self.frames.last() {
                self.frames.pop();
                self.close(1);
            }
        }
    }

    /// A word, a group, the members of a type in place, or a routine as a value.
    fn element(&mut self) {
        match self.word(self.at) {
            Some(Word::Record) => return self.members(),
            Some(Word::Class | Word::Part) if self.begins_members(self.at) => return self.members(),
            Some(Word::Routine) if self.is_anonymous() => return self.lambda(),
            _ => {}
        }
        match self.kind(self.at) {
            Some(OPEN_ROUND) if !self.begins_values() => self.bracketed(PARENTHESIZED),
            Some(OPEN_ROUND | OPEN_SQUARE) => self.bracketed(GROUP),
            Some(WORD)
                if self.kind(self.at + 1) == Some(OPEN_ROUND)
                && self.close_of(self.at + 1).is_some()
                && self.word(self.at).is_none() =>
            {
                let Some(end) = self.close_of(self.at + 1) else { return };
                self.builder.open(CALL, Field(0));
                self.token();
                self.builder.open(ARGUMENTS, Field(0));
                self.token();
                self.frames.push(Frame::Group { end, closes: 2 });
            }
            _ => self.token(),
        }
    }

    /// Whether members follow the word here: it stands behind `=`, or behind `packed` there.
    fn begins_members(&self, at: usize) -> bool {
        let Some(before) = self.code_before(at) else { return false };
        (self.is(before, "=") || self.is(before, "packed") || self.is(before, "bitpacked")) && self.has_members(at)
    }

    /// The lexeme in front of another that is no comment or directive.
    fn code_before(&self, at: usize) -> Option<usize> {
        (0..at).rev().find(|at| !matches!(self.kind(*at), Some(COMMENT | DIRECTIVE | REGION_MARK)))
    }

    fn members(&mut self) {
        self.builder.open(MEMBERS, Field::BODY);
        self.token_as(Some(OPENING));
        // `class abstract (Base) helper for Other`.
        loop {
            let next = self.text(self.at).to_ascii_lowercase();
            match self.kind(self.at) {
                Some(OPEN_ROUND) => {
                    let Some(end) = self.close_of(self.at) else { break };
                    self.flat_values(end + 1);
                    break;
                }
                Some(WORD) if matches!(next.as_str(), "abstract" | "sealed" | "helper" | "external" | "for") => {
                    self.token();
                    if next == "for" {
                        self.token();
                    }
                }
                _ => break,
            }
        }
        self.frames.push(Frame::Members);
    }

    /// A routine as a value has a body: `begin` comes before what could end a type.
    fn is_anonymous(&self) -> bool {
        let mut at = self.at + 1;
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

    fn lambda(&mut self) {
        self.builder.open(LAMBDA, Field(0));
        while self.at < self.lexemes.len() && self.word(self.at) != Some(Word::Begin) {
            self.token();
        }
        if self.at < self.lexemes.len() {
            self.builder.open(BLOCK, Field::BODY);
            self.token_as(Some(OPENING));
            self.frames.push(Frame::Statements(Block::Begin { closes: 2 }));
        }
    }

    /// Whether a bracket opens the values of a constant.
    fn begins_values(&self) -> bool {
        let before = self.at.checked_sub(1).map_or("", |before| self.text(before));
        matches!(before, "=" | "," | ":")
    }

    fn bracketed(&mut self, kind: Kind) {
        match self.close_of(self.at) {
            Some(end) => {
                self.builder.open(kind, Field(0));
                self.token();
                self.frames.push(Frame::Group { end, closes: 1 });
            }
            None => self.token(),
        }
    }

    fn grouped(&mut self, end: usize, closes: u32) {
        if self.at >= end {
            self.frames.pop();
            self.token();
            return self.close(closes);
        }
        self.element();
    }
}

/// Words that end a list of declarations.
fn ends_declarations(word: Word) -> bool {
    matches!(
        word,
        Word::Routine | Word::Begin | Word::Asm | Word::Part | Word::Declarations | Word::End | Word::Uses | Word::Visibility | Word::Property
    )
}

/// How many lexemes a declared name may have.
const NAME_AT_MOST: usize = 40;
/// Within how many lexemes a routine as a value begins its body.
const ANONYMOUS_AT_MOST: usize = 64;

/// Words that may follow a routine's header, each with a `;`.
const DIRECTIVES: [&str; 45] = [
    "abstract", "alias", "assembler", "cdecl", "compilerproc", "cppdecl", "cvar", "default", "delayed", "deprecated",
    "dispid", "dynamic", "enumerator",
    "experimental", "export", "external", "far", "final", "forward", "inline", "internconst", "internproc", "interrupt",
    "iocheck", "library", "local",
    "message", "near", "noreturn", "noinline", "nostackframe", "overload", "override", "pascal", "platform", "public",
    "register", "reintroduce",
    "safecall", "static", "stdcall", "saveregisters", "unimplemented", "varargs", "virtual",
];
