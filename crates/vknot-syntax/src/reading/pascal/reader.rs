//! Gives lexemes their place in the tree. What is open is on a stack of frames; one step looks at the innermost.

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
    /// Where the run of comments being read through ends.
    comments_end: usize,
    at: usize,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(text: &'r str, lexemes: &'r [Lexeme], partner: &'r [u32], inactive: &'r [(u32, u32)], builder: &'r mut TreeBuilder<'t>) -> Self {
        Self { text, lexemes, partner, inactive, builder, frames: vec![Frame::File], comments_end: 0, at: 0 }
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
        let member = at.checked_sub(1).is_some_and(|before| matches!(self.text(before), "." | "@") && self.kind(before) == Some(MARK));
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

    /// At the level of the file or of one of its parts.
    fn outer(&mut self) {
        let declares_only = matches!(self.frames.last(), Some(Frame::Part { declares_only: true }));
        match self.word(self.at) {
            Some(Word::Package) => self.values(PACKAGE, Until::Semicolon),
            Some(Word::Uses) => self.values(USES, Until::Semicolon),
            Some(Word::Part) => self.part(),
            Some(Word::Declarations) => self.declarations(),
            Some(Word::Routine) => self.routine(declares_only),
            Some(Word::Class) if matches!(self.word(self.at + 1), Some(Word::Routine)) => self.routine(declares_only),
            Some(Word::Begin) => self.begin(1),
            Some(Word::Asm) => self.assembler(1),
            Some(Word::End) => {
                let stray = !(self.is(self.at + 1, ".") && self.frames.len() <= 2);
                self.token_as(stray.then_some(self.builder.error_kind()));
            }
            _ if self.kind(self.at) == Some(OPEN_SQUARE) => self.bracketed(GROUP),
            Some(Word::Property) => self.values(PROPERTY, Until::Semicolon),
            None if self.kind(self.at) == Some(WORD) => self.values(STATEMENT, Until::Statement),
            Some(_) if self.kind(self.at) == Some(WORD) => self.statement(),
            _ => self.token(),
        }
    }

    fn part(&mut self) {
        if let Some(Frame::Part { .. }) = self.frames.last() {
            self.frames.pop();
            self.close(1);
        }
        let statements = self.is(self.at, "initialization") || self.is(self.at, "finalization");
        let declares_only = self.is(self.at, "interface");
        self.builder.open(PART, Field(0));
        self.token();
        self.frames.push(if statements { Frame::Statements(Block::Part) } else { Frame::Part { declares_only } });
    }

    fn declarations(&mut self) {
        let types = self.is(self.at, "type");
        self.builder.open(DECLARATIONS, Field(0));
        self.token();
        self.frames.push(Frame::Declarations { types });
    }

    /// One constant, variable or type, or the end of them.
    fn declared(&mut self, types: bool) {
        if self.word(self.at).is_some_and(ends_declarations) || self.word(self.at) == Some(Word::Class) && matches!(self.word(self.at + 1), Some(Word::Routine | Word::Declarations | Word::Property)) {
            self.frames.pop();
            return self.close(1);
        }
        match self.kind(self.at) {
            Some(OPEN_SQUARE) => self.bracketed(GROUP),
            Some(WORD) if types => self.type_declaration(),
            Some(WORD) => self.named(VALUE),
            _ => self.token(),
        }
    }

    /// A name, then words up to `;`.
    fn named(&mut self, kind: Kind) {
        self.builder.open(kind, Field(0));
        self.name_token();
        self.frames.push(Frame::Values { until: Until::Semicolon });
    }

    /// `Name = class ... end;` and all other types.
    fn type_declaration(&mut self) {
        if self.is(self.at, "generic") || self.is(self.at, "specialize") {
            return self.token();
        }
        let equals = (self.at..self.lexemes.len().min(self.at + NAME_AT_MOST)).find(|at| self.is(*at, "=") || self.kind(*at) == Some(SEMICOLON));
        let mut from = self.next_code(equals.map_or(self.at, |equals| equals + 1));
        while self.is(from, "packed") || self.is(from, "bitpacked") {
            from = self.next_code(from + 1);
        }
        let kind = match self.word(from) {
            Some(Word::Record) => RECORD,
            Some(Word::Class) if self.has_members(from) => CLASS,
            Some(Word::Part) if self.has_members(from) => INTERFACE,
            _ => ALIAS,
        };
        self.named(kind);
    }

    /// Whether the word at `at`, which begins a type, is followed by members up to `end`.
    fn has_members(&self, at: usize) -> bool {
        let mut next = self.next_code(at + 1);
        while matches!(self.text(next).to_ascii_lowercase().as_str(), "abstract" | "sealed" | "helper" | "external" | "name") || self.kind(next) == Some(STRING) {
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

    /// `procedure name(parameters); directives;`, with a body to follow unless it only declares.
    fn routine(&mut self, declares_only: bool) {
        let bodiless = declares_only || self.is_forward();
        self.builder.open(if bodiless { HEADER } else { ROUTINE }, Field(0));
        if self.word(self.at) == Some(Word::Class) {
            self.token();
        }
        self.token();
        self.routine_name();
        let end = self.header_end();
        self.flat_values(end);
        match bodiless {
            true => self.close(1),
            false => self.frames.push(Frame::Routine),
        }
    }

    fn routine_name(&mut self) {
        let start = self.at;
        let mut end = start;
        while end < self.lexemes.len() && end < start + NAME_AT_MOST && !matches!(self.kind(end), Some(OPEN_ROUND | SEMICOLON)) && !(self.is(end, ":") ) && !self.is(end, "=") {
            end += 1;
        }
        if self.kind(start) != Some(WORD) && !self.text(start).chars().all(|c| c.is_ascii_punctuation()) || end == start {
            return;
        }
        self.builder.open(QUALIFIED, Field::NAME);
        while self.at < end {
            self.token_as(None);
        }
        self.close(1);
        if self.kind(self.at) == Some(OPEN_ROUND) && let Some(close) = self.close_of(self.at) {
            self.builder.open(PARAMETERS, Field::PARAMETERS);
            while self.at <= close {
                self.token();
            }
            self.close(1);
        }
    }

    /// Behind the header's `;` and the directives that follow it, each with its own.
    fn header_end(&self) -> usize {
        let mut end = self.semicolon(self.at);
        loop {
            let next = self.next_code(end);
            if !DIRECTIVES.contains(&self.text(next).to_ascii_lowercase().as_str()) || self.kind(next) != Some(WORD) {
                return end;
            }
            end = self.semicolon(next);
        }
    }

    /// Behind the next `;` outside of brackets, or in front of a word that cannot stand in a header.
    fn semicolon(&self, at: usize) -> usize {
        let mut end = at;
        while end < self.lexemes.len() {
            if self.kind(end) == Some(SEMICOLON) {
                return end + 1;
            }
            if matches!(self.word(end), Some(Word::Begin | Word::Part | Word::Uses | Word::End)) {
                return end;
            }
            end = self.close_of(end).unwrap_or(end) + 1;
        }
        end
    }

    /// Whether the routine that begins here has its body elsewhere.
    fn is_forward(&self) -> bool {
        let mut end = self.semicolon(self.at);
        for _ in 0..DIRECTIVES.len() {
            let next = self.next_code(end);
            let word = self.text(next).to_ascii_lowercase();
            if matches!(word.as_str(), "forward" | "external") {
                return true;
            }
            if !DIRECTIVES.contains(&word.as_str()) {
                return false;
            }
            end = self.semicolon(next);
        }
        false
    }

    /// Local declarations, then the body.
    fn routine_part(&mut self) {
        match self.word(self.at) {
            Some(Word::Declarations) => self.declarations(),
            Some(Word::Routine) => self.routine(false),
            Some(Word::Class) if matches!(self.word(self.at + 1), Some(Word::Routine)) => self.routine(false),
            Some(Word::Begin) => {
                self.frames.pop();
                self.begin(2);
            }
            Some(Word::Asm) => {
                self.frames.pop();
                self.assembler(2);
            }
            Some(Word::Part | Word::Uses | Word::Package) => {
                // Its body is missing.
                self.frames.pop();
                self.builder.missing(self.builder.error_kind(), Field(0));
                self.close(1);
            }
            Some(Word::End) => {
                self.frames.pop();
                self.close(1);
            }
            _ => self.token(),
        }
    }

    /// One member of a type, or the `end` of them.
    fn member(&mut self) {
        match self.word(self.at) {
            Some(Word::End) => {
                self.frames.pop();
                self.token_as(Some(CLOSING));
                self.close(1);
            }
            Some(Word::Visibility) if !self.is(self.at + 1, ":") && !self.is(self.at + 1, ",") => {
                self.builder.open(VISIBILITY, Field(0));
                while self.word(self.at) == Some(Word::Visibility) {
                    self.token();
                }
                self.close(1);
            }
            Some(Word::Class) if matches!(self.word(self.at + 1), Some(Word::Routine)) => self.routine(true),
            Some(Word::Routine) => self.routine(true),
            Some(Word::Property) => {
                self.builder.open(PROPERTY, Field(0));
                self.token();
                if self.kind(self.at) == Some(WORD) {
                    self.name_token();
                }
                self.frames.push(Frame::Values { until: Until::Semicolon });
            }
            Some(Word::Declarations) => self.declarations(),
            None if (self.is(self.at, "default") || self.is(self.at, "nodefault")) && self.kind(self.at + 1) == Some(SEMICOLON) => {
                self.token();
                self.token();
            }
            Some(Word::Case) => {
                // The variants of a record have no `end` of their own.
                self.token();
            }
            _ => match self.kind(self.at) {
                Some(OPEN_SQUARE) => self.bracketed(GROUP),
                Some(OPEN_ROUND) => self.bracketed(GROUP),
                Some(WORD) if self.word(self.at).is_none() || self.is(self.at + 1, ":") || self.is(self.at + 1, ",") => self.named(FIELD),
                _ => self.token(),
            },
        }
    }

    fn begin(&mut self, closes: u32) {
        self.builder.open(BLOCK, Field::BODY);
        self.token_as(Some(OPENING));
        self.frames.push(Frame::Statements(Block::Begin { closes }));
    }

    /// `asm ... end`: what is between is no Pascal.
    fn assembler(&mut self, closes: u32) {
        self.builder.open(ASSEMBLER, Field::BODY);
        self.token_as(Some(OPENING));
        while self.at < self.lexemes.len() && self.word(self.at) != Some(Word::End) {
            let kind = self.kind(self.at).filter(|kind| shape(*kind).is_some()).map(|_| INERT);
            let lexeme = self.lexemes[self.at];
            self.builder.leaf(kind.unwrap_or(lexeme.kind), Field(0), lexeme.start, lexeme.end);
            self.at += 1;
        }
        self.end_block(closes);
    }

    /// `end`, with the `;` or `.` behind the block of a routine or file.
    fn end_block(&mut self, closes: u32) {
        match self.word(self.at) {
            Some(Word::End) => self.token_as(Some(CLOSING)),
            _ => self.builder.missing(self.builder.error_kind(), Field(0)),
        }
        self.close(1);
        if closes > 1 {
            if self.kind(self.at) == Some(SEMICOLON) {
                self.token();
            }
            self.close(closes - 1);
        }
        self.finished();
    }

    fn statement_or_end(&mut self, block: Block) {
        let word = self.word(self.at);
        match (block, word) {
            (Block::Begin { closes }, Some(Word::End)) => {
                self.frames.pop();
                self.end_block(closes);
            }
            (Block::Repeat, Some(Word::Until)) => {
                self.frames.pop();
                self.close(1);
                self.token_as(Some(CLOSING));
                self.frames.push(Frame::Values { until: Until::Statement });
            }
            (Block::Try { arm }, Some(Word::Guarded)) => {
                self.close(if arm { 2 } else { 1 });
                self.builder.open(ARM, Field(0));
                self.token();
                self.builder.open(BLOCK, Field(0));
                self.replace(Frame::Statements(Block::Try { arm: true }));
            }
            (Block::Try { arm }, Some(Word::End)) => {
                self.frames.pop();
                self.close(if arm { 2 } else { 1 });
                self.token_as(Some(CLOSING));
                self.close(1);
                self.finished();
            }
            (Block::Try { arm: true }, Some(Word::Else)) => self.token(),
            (Block::Else, Some(Word::End)) => {
                // The statements, then the arm.
                self.frames.pop();
                self.close(2);
            }
            (Block::Part, Some(Word::Part)) => {
                self.frames.pop();
                self.close(1);
                self.part();
            }
            (Block::Part, Some(Word::End)) => {
                self.frames.pop();
                self.close(1);
                self.token();
            }
            // A routine or section that begins here shows that an `end` is missing.
            (_, Some(Word::Part | Word::Uses)) if !self.is(self.at, "contains") => self.abandon(block),
            (_, Some(Word::Routine)) if self.at_margin() => self.abandon(block),
            (_, Some(Word::Until | Word::End | Word::Guarded | Word::Else)) => self.stray(),
            _ => self.statement(),
        }
    }

    fn at_margin(&self) -> bool {
        let start = self.lexemes[self.at].start as usize;
        start == 0 || self.text.as_bytes()[start - 1] == b'\n'
    }

    fn stray(&mut self) {
        let error = self.builder.error_kind();
        self.token_as(Some(error));
    }

    fn replace(&mut self, frame: Frame) {
        self.frames.pop();
        self.frames.push(frame);
    }

    /// Ends a block whose closing word is missing.
    fn abandon(&mut self, block: Block) {
        self.frames.pop();
        self.builder.missing(self.builder.error_kind(), Field(0));
        let nodes = match block {
            Block::Begin { closes } => closes,
            Block::Repeat | Block::Else => 2,
            Block::Try { arm } => 2 + u32::from(arm),
            Block::Part => 1,
        };
        self.close(nodes);
        self.finished();
    }

    fn statement(&mut self) {
        match self.word(self.at) {
            Some(Word::Begin) => self.begin(1),
            Some(Word::Asm) => self.assembler(1),
            Some(Word::If) => self.branch(CONDITIONAL, Word::Then, true),
            Some(Word::Loop) => self.branch(LOOP, Word::Do, false),
            Some(Word::With) => self.branch(SCOPE, Word::Do, false),
            Some(Word::On) if self.kind(self.at + 1) == Some(WORD) => self.branch(GUARD, Word::Do, false),
            Some(Word::Case) => {
                self.builder.open(CONDITIONAL, Field(0));
                self.token_as(Some(OPENING));
                self.frames.push(Frame::Cases);
                self.frames.push(Frame::Values { until: Until::Word(Word::Of) });
            }
            Some(Word::Repeat) => {
                self.builder.open(LOOP, Field(0));
                self.token_as(Some(OPENING));
                self.builder.open(BLOCK, Field::BODY);
                self.frames.push(Frame::Statements(Block::Repeat));
            }
            Some(Word::Try) => {
                self.builder.open(GUARD, Field(0));
                self.token_as(Some(OPENING));
                self.builder.open(BLOCK, Field::BODY);
                self.frames.push(Frame::Statements(Block::Try { arm: false }));
            }
            _ if self.kind(self.at) == Some(SEMICOLON) => {
                self.token();
                self.finished();
            }
            _ if matches!(self.kind(self.at), Some(WORD | NUMBER)) && self.is(self.at + 1, ":") => {
                self.builder.open(LABEL, Field(0));
                self.token();
                self.token();
                self.close(1);
            }
            _ => self.values(STATEMENT, Until::Statement),
        }
    }

    /// A keyword, a condition up to `word`, and a sub-statement to come.
    fn branch(&mut self, kind: Kind, word: Word, conditional: bool) {
        self.builder.open(kind, Field(0));
        self.token();
        self.frames.push(Frame::Branch { conditional, arm: false });
        self.frames.push(Frame::Values { until: Until::Word(word) });
    }

    fn sub_statement(&mut self) {
        match self.word(self.at) {
            Some(Word::End | Word::Until | Word::Guarded | Word::Else) => self.finished(),
            _ => self.statement(),
        }
    }

    /// A statement has ended: branches around it go on with `else`, or end too.
    fn finished(&mut self) {
        loop {
            match self.frames.last().copied() {
                Some(Frame::Branch { conditional, arm }) => {
                    let next = self.next_code(self.at);
                    if conditional && self.word(next) == Some(Word::Else) && !self.is(next, "otherwise") {
                        if arm {
                            self.close(1);
                        }
                        while self.at < next {
                            self.token();
                        }
                        self.builder.open(ARM, Field(0));
                        self.token();
                        let again = self.word(self.at) == Some(Word::If);
                        self.replace(Frame::Branch { conditional: again, arm: true });
                        if again {
                            self.token();
                            self.frames.push(Frame::Values { until: Until::Word(Word::Then) });
                        }
                        return;
                    }
                    self.frames.pop();
                    if self.kind(self.at) == Some(SEMICOLON) && !self.inside_branch() {
                        self.token();
                    }
                    self.close(1 + u32::from(arm));
                }
                Some(Frame::Arm) => {
                    self.frames.pop();
                    if self.kind(self.at) == Some(SEMICOLON) {
                        self.token();
                    }
                    self.close(1);
                    return;
                }
                _ => return,
            }
        }
    }

    fn inside_branch(&self) -> bool {
        matches!(self.frames.last(), Some(Frame::Branch { .. } | Frame::Arm))
    }

    /// An arm of a `case`, or its end.
    fn case_item(&mut self) {
        match self.word(self.at) {
            Some(Word::End) => {
                self.frames.pop();
                self.token_as(Some(CLOSING));
                self.close(1);
                self.finished();
            }
            Some(Word::Else) => {
                self.builder.open(ARM, Field(0));
                self.token();
                self.builder.open(BLOCK, Field::BODY);
                self.frames.push(Frame::Statements(Block::Else));
            }
            Some(Word::Of) => self.token(),
            Some(Word::Part | Word::Uses) => {
                self.frames.pop();
                self.builder.missing(self.builder.error_kind(), Field(0));
                self.close(1);
            }
            _ if self.kind(self.at) == Some(SEMICOLON) => self.token(),
            _ => {
                self.builder.open(ARM, Field(0));
                self.builder.open(LABEL, Field(0));
                let start = self.at;
                while self.at < self.lexemes.len() && !self.is(self.at, ":") && self.kind(self.at) != Some(SEMICOLON) && !matches!(self.word(self.at), Some(Word::End | Word::Begin)) {
                    self.token();
                }
                if self.is(self.at, ":") || self.at == start {
                    self.token();
                }
                self.close(1);
                self.frames.push(Frame::Arm);
            }
        }
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
            (Until::Statement, Some(Word::End | Word::Until | Word::Else | Word::Guarded | Word::Begin | Word::Then | Word::Do | Word::Part)) => true,
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
            Some(Word::Class | Word::Part) if self.begins_members() => return self.members(),
            Some(Word::Routine) if self.is_anonymous() => return self.lambda(),
            _ => {}
        }
        match self.kind(self.at) {
            Some(OPEN_ROUND | OPEN_SQUARE) => self.bracketed(GROUP),
            Some(WORD) if self.kind(self.at + 1) == Some(OPEN_ROUND) && self.close_of(self.at + 1).is_some() && self.word(self.at).is_none() => {
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
    fn begins_members(&self) -> bool {
        let before = (0..self.at).rev().find(|at| !matches!(self.kind(*at), Some(COMMENT | DIRECTIVE)));
        let Some(before) = before else { return false };
        (self.is(before, "=") || self.is(before, "packed") || self.is(before, "bitpacked")) && self.has_members(self.at)
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
    "abstract", "alias", "assembler", "cdecl", "compilerproc", "cppdecl", "cvar", "default", "delayed", "deprecated", "dispid", "dynamic", "enumerator",
    "experimental", "export", "external", "far", "final", "forward", "inline", "internconst", "internproc", "interrupt", "iocheck", "library", "local",
    "message", "near", "noreturn", "noinline", "nostackframe", "overload", "override", "pascal", "platform", "public", "register", "reintroduce",
    "safecall", "static", "stdcall", "saveregisters", "unimplemented", "varargs", "virtual",
];
