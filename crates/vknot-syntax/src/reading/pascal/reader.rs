//! Gives lexemes their place in the tree. What is open is on a stack of frames; one step looks at the innermost.

mod bodies;
mod declarations;
mod statements;

use crate::language::{Field, Kind};
use crate::reading::NO_PARTNER;
use crate::reading::expressions::{Plan, Shape};
use crate::tree::TreeBuilder;
use super::expressions::Values;
use super::lexemes::Lexemes;
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
    /// The variants of a record, up to the `end` of that.
    Variants,
    /// One of them, behind its label; then the node ends.
    Variant,
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
    lexemes: Lexemes<'r>,
    inactive: &'r [(u32, u32)],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// Where routines begin that have a body here, in order.
    with_body: Vec<usize>,
    /// The nodes of the expressions that are open.
    plan: Plan,
    shapes: Vec<Shape>,
    /// Where the run of comments being read through ends.
    comments_end: usize,
    at: usize,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(
        lexemes: Lexemes<'r>,
        inactive: &'r [(u32, u32)],
        builder: &'r mut TreeBuilder<'t>,
    ) -> Self {
        let frames = vec![Frame::File];
        let with_body = Vec::new();
        let mut reader = Self {
            lexemes,
            inactive,
            with_body,
            builder,
            frames,
            plan: Plan::default(),
            shapes: Vec::new(),
            comments_end: 0,
            at: 0,
        };
        reader.with_body = reader.routines_with_body();
        reader
    }

    pub fn run(mut self) {
        while self.at < self.lexemes.list.len() {
            self.step();
        }
    }

    fn token(&mut self) {
        self.token_as(None);
    }

    fn token_as(&mut self, kind: Option<Kind>) {
        if let Some(lexeme) = self.lexemes.list.get(self.at).copied() {
            let lone = shape(lexeme.kind).is_some() && self.lexemes.partner[self.at] == NO_PARTNER;
            let own = match lexeme.kind {
                WORD if Word::of(lexeme.of(self.lexemes.source)).is_some() => KEYWORD,
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
        self.plan.apply(self.at, self.builder);
        if matches!(self.lexemes.kind(self.at), Some(COMMENT | DIRECTIVE | REGION_MARK | INERT)) {
            return self.note();
        }
        match self.frames.last().copied().unwrap_or(Frame::File) {
            Frame::Values { until } => self.value(until),
            Frame::Group { end, closes } => self.grouped(end, closes),
            Frame::Statements(block) => self.statement_or_end(block),
            Frame::Branch { .. } | Frame::Arm => self.sub_statement(),
            Frame::Cases => self.case_item(),
            Frame::Members => self.member(),
            Frame::Variants => self.variant(),
            Frame::Variant => self.fields_of_variant(),
            Frame::Declarations { types } => self.declared(types),
            Frame::Routine => self.routine_part(),
            Frame::Part { .. } | Frame::File => self.outer(),
        }
    }

    /// A comment that stands in front of the next routine or section belongs to that, not to declarations that end there.
    fn note(&mut self) {
        if let Some(Frame::Declarations { .. }) = self.frames.last() {
            if self.comments_end <= self.at {
                self.comments_end = self.lexemes.next_code(self.at);
            }
            let next = self.comments_end;
            if matches!(self.lexemes.word(next), Some(word) if ends_declarations(word))
                && self.lexemes.kind(self.at) != Some(INERT)
            {
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
        if kind == STATEMENT && !self.ends(self.at, until) {
            return self.expect_values(until);
        }
        self.token();
        if kind == PACKAGE && self.lexemes.kind(self.at) == Some(WORD) {
            self.name_token();
        }
        self.frames.push(Frame::Values { until });
    }

    /// Lexemes up to `end` without structure of their own.
    fn flat_values(&mut self, end: usize) {
        while self.at < end.min(self.lexemes.list.len()) {
            self.token();
        }
    }

    /// One lexeme of words and groups, or their end.
    fn value(&mut self, until: Until) {
        if let Until::Word(wanted) = until && self.ends(self.at, until) {
            self.frames.pop();
            if self.lexemes.word(self.at) == Some(wanted) {
                self.token();
            }
            return;
        }
        if self.lexemes.kind(self.at) == Some(SEMICOLON) {
            self.frames.pop();
            self.token();
            self.close(1);
            return self.after_semicolon();
        }
        if self.ends(self.at, until) {
            self.frames.pop();
            self.close(1);
            return self.finished();
        }
        self.element();
    }

    /// Whether words and groups end in front of the lexeme at `at`.
    fn ends(&self, at: usize, until: Until) -> bool {
        if self.lexemes.kind(at) == Some(SEMICOLON) {
            return true;
        }
        match (until, self.lexemes.word(at)) {
            (_, None) => false,
            (Until::Word(wanted), Some(word)) => word == wanted || matches!(word, Word::Begin | Word::End | Word::Part),
            (Until::Semicolon, Some(word)) => matches!(word, Word::End | Word::Begin),
            (Until::Statement, Some(word)) => matches!(
                word,
                Word::End | Word::Until | Word::Else | Word::Guarded | Word::Begin | Word::Then | Word::Do | Word::Part
            ),
        }
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
        match self.lexemes.word(self.at) {
            Some(Word::Record) => return self.members(),
            Some(Word::Class | Word::Part) if self.lexemes.begins_members(self.at) => return self.members(),
            Some(Word::Routine) if self.lexemes.is_anonymous(self.at) => return self.lambda(),
            _ => {}
        }
        let close = self.lexemes.close_of(self.at);
        self.token();
        if let Some(end) = close {
            self.frames.push(Frame::Group { end, closes: 0 });
            self.expect(end);
        }
    }

    /// Finds the nodes of what is read next, up to the lexeme `end`.
    fn expect(&mut self, end: usize) {
        let values = Values { lexemes: self.lexemes, inactive: self.inactive };
        values.shapes(self.at, end, &mut self.shapes);
        self.plan.add(&mut self.shapes);
    }

    /// Words and groups whose node is open.
    fn expect_values(&mut self, until: Until) {
        self.frames.push(Frame::Values { until });
        let mut end = self.at;
        while end < self.lexemes.list.len() && !self.ends(end, until) {
            end = self.lexemes.close_of(end).unwrap_or(end) + 1;
        }
        self.expect(end.min(self.lexemes.list.len()));
    }

    fn members(&mut self) {
        self.builder.open(MEMBERS, Field::BODY);
        self.token_as(Some(OPENING));
        // `class abstract (Base) helper for Other`.
        loop {
            let next = self.lexemes.text(self.at).to_ascii_lowercase();
            match self.lexemes.kind(self.at) {
                Some(OPEN_ROUND) => {
                    let Some(end) = self.lexemes.close_of(self.at) else { break };
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

    fn lambda(&mut self) {
        self.builder.open(LAMBDA, Field(0));
        while self.at < self.lexemes.list.len() && self.lexemes.word(self.at) != Some(Word::Begin) {
            self.token();
        }
        if self.at < self.lexemes.list.len() {
            self.builder.open(BLOCK, Field::BODY);
            self.token_as(Some(OPENING));
            self.frames.push(Frame::Statements(Block::Begin { closes: 2 }));
        }
    }

    fn bracketed(&mut self, kind: Kind) {
        match self.lexemes.close_of(self.at) {
            Some(end) => {
                self.builder.open(kind, Field(0));
                self.token();
                self.frames.push(Frame::Group { end, closes: 1 });
                self.expect(end);
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
