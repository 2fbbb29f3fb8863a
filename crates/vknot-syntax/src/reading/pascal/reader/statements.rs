//! Blocks, branches and statements.

use super::*;

impl Reader<'_, '_> {
    pub(super) fn begin(&mut self, closes: u32) {
        self.builder.open(BLOCK, Field::BODY);
        self.token_as(Some(OPENING));
        self.frames.push(Frame::Statements(Block::Begin { closes }));
    }

    /// `asm ... end`: what is between is no Pascal.
    pub(super) fn assembler(&mut self, closes: u32) {
        self.builder.open(ASSEMBLER, Field::BODY);
        self.token_as(Some(OPENING));
        while self.at < self.lexemes.list.len() && self.lexemes.word(self.at) != Some(Word::End) {
            let kind = self.lexemes.kind(self.at).filter(|kind| shape(*kind).is_some()).map(|_| INERT);
            let lexeme = self.lexemes.list[self.at];
            self.builder.leaf(kind.unwrap_or(lexeme.kind), Field(0), lexeme.start, lexeme.end);
            self.at += 1;
        }
        self.end_block(closes);
    }

    /// `end`, with the `;` or `.` behind the block of a routine or file.
    pub(super) fn end_block(&mut self, closes: u32) {
        match self.lexemes.word(self.at) {
            Some(Word::End) => self.token_as(Some(CLOSING)),
            _ => self.builder.missing(self.builder.error_kind(), Field(0)),
        }
        self.close(1);
        if closes > 1 {
            if self.lexemes.kind(self.at) == Some(SEMICOLON) {
                self.token();
            }
            self.close(closes - 1);
        }
        self.finished();
    }

    pub(super) fn statement_or_end(&mut self, block: Block) {
        let word = self.lexemes.word(self.at);
        match (block, word) {
            (Block::Begin { closes }, Some(Word::End)) => {
                self.frames.pop();
                self.end_block(closes);
            }
            (Block::Repeat, Some(Word::Until)) => {
                self.frames.pop();
                self.close(1);
                self.token_as(Some(CLOSING));
                self.expect_values(Until::Statement);
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
            (_, Some(Word::Part | Word::Uses)) if !self.lexemes.is(self.at, "contains") => self.abandon(block),
            (_, Some(Word::Routine)) if self.at_margin(self.at) => self.abandon(block),
            (_, Some(Word::Until | Word::End | Word::Guarded | Word::Else)) => self.stray(),
            _ => self.statement(),
        }
    }

    /// Whether the lexeme at hand is the first of its line.
    pub(super) fn begins_line(&self) -> bool {
        let start = self.lexemes.list.get(self.at).map_or(self.lexemes.source.len(), |lexeme| lexeme.start as usize);
        crate::reading::begins_line(self.lexemes.source.as_bytes(), start)
    }

    pub(super) fn at_margin(&self, at: usize) -> bool {
        let start = self.lexemes.list[at].start as usize;
        start == 0 || self.lexemes.source.as_bytes()[start - 1] == b'\n'
    }

    pub(super) fn stray(&mut self) {
        let error = self.builder.error_kind();
        self.token_as(Some(error));
    }

    pub(super) fn replace(&mut self, frame: Frame) {
        self.frames.pop();
        self.frames.push(frame);
    }

    /// Ends a block whose closing word is missing.
    pub(super) fn abandon(&mut self, block: Block) {
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

    pub(super) fn statement(&mut self) {
        match self.lexemes.word(self.at) {
            Some(Word::Begin) => self.begin(1),
            Some(Word::Asm) => self.assembler(1),
            Some(Word::If) => self.branch(CONDITIONAL, Word::Then, true),
            Some(Word::Loop) => self.branch(LOOP, Word::Do, false),
            Some(Word::With) => self.branch(SCOPE, Word::Do, false),
            Some(Word::On) if self.lexemes.kind(self.at + 1) == Some(WORD) => self.branch(GUARD, Word::Do, false),
            Some(Word::Case) => {
                self.builder.open(CONDITIONAL, Field(0));
                self.token_as(Some(OPENING));
                self.frames.push(Frame::Cases);
                self.expect_values(Until::Word(Word::Of));
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
            _ if self.lexemes.kind(self.at) == Some(SEMICOLON) => {
                self.token();
                self.finished();
            }
            _ if matches!(self.lexemes.kind(self.at), Some(WORD | NUMBER)) && self.lexemes.is(self.at + 1, ":") => {
                self.builder.open(LABEL, Field(0));
                self.token();
                self.token();
                self.close(1);
            }
            _ => self.values(STATEMENT, Until::Statement),
        }
    }

    /// A keyword, a condition up to `word`, and a sub-statement to come.
    pub(super) fn branch(&mut self, kind: Kind, word: Word, conditional: bool) {
        self.builder.open(kind, Field(0));
        self.token();
        self.frames.push(Frame::Branch { conditional, arm: false });
        self.expect_values(Until::Word(word));
    }

    pub(super) fn sub_statement(&mut self) {
        match self.lexemes.word(self.at) {
            Some(Word::End | Word::Until | Word::Guarded | Word::Else) => self.finished(),
            _ => self.statement(),
        }
    }

    /// A statement has ended: branches around it go on with `else`, or end too.
    pub(super) fn finished(&mut self) {
        loop {
            match self.frames.last().copied() {
                Some(Frame::Branch { conditional, arm }) => {
                    let next = self.lexemes.next_code(self.at);
                    if conditional
                        && self.lexemes.word(next) == Some(Word::Else)
                        && !self.lexemes.is(next, "otherwise")
                    {
                        if arm {
                            self.close(1);
                        }
                        while self.at < next {
                            self.token();
                        }
                        self.builder.open(ARM, Field(0));
                        self.token();
                        // On a line of its own it is a conditional inside the other.
                        let again = self.lexemes.word(self.at) == Some(Word::If) && !self.begins_line();
                        self.replace(Frame::Branch { conditional: again, arm: true });
                        if again {
                            self.token();
                            self.expect_values(Until::Word(Word::Then));
                        }
                        return;
                    }
                    self.frames.pop();
                    if self.lexemes.kind(self.at) == Some(SEMICOLON) && !self.inside_branch() {
                        self.token();
                    }
                    self.close(1 + u32::from(arm));
                }
                Some(Frame::Arm) => {
                    self.frames.pop();
                    if self.lexemes.kind(self.at) == Some(SEMICOLON) {
                        self.token();
                    }
                    self.close(1);
                    return;
                }
                _ => return,
            }
        }
    }

    pub(super) fn inside_branch(&self) -> bool {
        matches!(self.frames.last(), Some(Frame::Branch { .. } | Frame::Arm))
    }

    /// An arm of a `case`, or its end.
    pub(super) fn case_item(&mut self) {
        match self.lexemes.word(self.at) {
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
            _ if self.lexemes.kind(self.at) == Some(SEMICOLON) => self.token(),
            _ => {
                self.builder.open(ARM, Field(0));
                self.label();
                self.frames.push(Frame::Arm);
            }
        }
    }

    /// The values an arm is for, and the `:` behind them.
    pub(super) fn label(&mut self) {
        self.builder.open(LABEL, Field(0));
        let start = self.at;
        while self.at < self.lexemes.list.len()
            && !self.lexemes.is(self.at, ":")
            && self.lexemes.kind(self.at) != Some(SEMICOLON)
            && !matches!(self.lexemes.word(self.at), Some(Word::End | Word::Begin))
        {
            self.token();
        }
        if self.lexemes.is(self.at, ":") || self.at == start {
            self.token();
        }
        self.close(1);
    }
}
