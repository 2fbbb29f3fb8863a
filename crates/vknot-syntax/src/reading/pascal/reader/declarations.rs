//! Parts of a unit, constants, variables, types and routines.

use super::*;

impl Reader<'_, '_> {
    /// At the level of the file or of one of its parts.
    pub(super) fn outer(&mut self) {
        let declares_only = matches!(self.frames.last(), Some(Frame::Part { declares_only: true }));
        match self.lexemes.word(self.at) {
            Some(Word::Package) => self.values(PACKAGE, Until::Semicolon),
            Some(Word::Uses) => self.values(USES, Until::Semicolon),
            Some(Word::Part) => self.part(),
            Some(Word::Declarations) => self.declarations(),
            Some(Word::Routine) => self.routine(declares_only),
            Some(Word::Class) if matches!(self.lexemes.word(self.at + 1), Some(Word::Routine)) =>
                self.routine(declares_only),
            Some(Word::Begin) => self.begin(1),
            Some(Word::Asm) => self.assembler(1),
            Some(Word::End) => {
                let stray = !(self.lexemes.is(self.at + 1, ".") && self.frames.len() <= 2);
                self.token_as(stray.then_some(self.builder.error_kind()));
            }
            _ if self.lexemes.kind(self.at) == Some(OPEN_SQUARE) => self.bracketed(GROUP),
            Some(Word::Property) => self.values(PROPERTY, Until::Semicolon),
            // More of a section that began in the file that includes this one.
            None
                if self.lexemes.kind(self.at) == Some(WORD)
                && self.lexemes.is(self.lexemes.next_code(self.at + 1), "=") => self.type_declaration(),
            None if self.lexemes.kind(self.at) == Some(WORD) => self.values(STATEMENT, Until::Statement),
            Some(_) if self.lexemes.kind(self.at) == Some(WORD) => self.statement(),
            _ => self.token(),
        }
    }

    pub(super) fn part(&mut self) {
        if let Some(Frame::Part { .. }) = self.frames.last() {
            self.frames.pop();
            self.close(1);
        }
        let statements = self.lexemes.is(self.at, "initialization") || self.lexemes.is(self.at, "finalization");
        let declares_only = self.lexemes.is(self.at, "interface");
        self.builder.open(PART, Field(0));
        self.token();
        self.frames.push(if statements { Frame::Statements(Block::Part) } else { Frame::Part { declares_only } });
    }

    pub(super) fn declarations(&mut self) {
        let types = self.lexemes.is(self.at, "type");
        self.builder.open(DECLARATIONS, Field(0));
        self.token();
        self.frames.push(Frame::Declarations { types });
    }

    /// One constant, variable or type, or the end of them.
    pub(super) fn declared(&mut self, types: bool) {
        if self.lexemes.word(self.at).is_some_and(ends_declarations)
            || self.lexemes.word(self.at) == Some(Word::Class)
            && matches!(self.lexemes.word(self.at + 1), Some(Word::Routine | Word::Declarations | Word::Property))
        {
            self.frames.pop();
            return self.close(1);
        }
        match self.lexemes.kind(self.at) {
            Some(OPEN_SQUARE) => self.bracketed(GROUP),
            Some(WORD) if types => self.type_declaration(),
            Some(WORD) => self.named(VALUE),
            _ => self.token(),
        }
    }

    /// A name, then words up to `;`.
    pub(super) fn named(&mut self, kind: Kind) {
        self.builder.open(kind, Field(0));
        self.name_token();
        self.expect_values(Until::Semicolon);
    }

    /// `Name = class ... end;` and all other types.
    pub(super) fn type_declaration(&mut self) {
        if self.lexemes.is(self.at, "generic") || self.lexemes.is(self.at, "specialize") {
            return self.token();
        }
        let equals = (self.at..self.lexemes.list.len().min(self.at + NAME_AT_MOST)).find(
            |at| self.lexemes.is(*at, "=") || self.lexemes.kind(*at) == Some(SEMICOLON),
        );
        let mut from = self.lexemes.next_code(equals.map_or(self.at, |equals| equals + 1));
        while self.lexemes.is(from, "packed") || self.lexemes.is(from, "bitpacked") {
            from = self.lexemes.next_code(from + 1);
        }
        let kind = match self.lexemes.word(from) {
            Some(Word::Record) => RECORD,
            Some(Word::Class) if self.lexemes.has_members(from) => CLASS,
            Some(Word::Part) if self.lexemes.has_members(from) => INTERFACE,
            _ => ALIAS,
        };
        self.named(kind);
    }

    /// `procedure name(parameters); directives;`, with a body to follow unless it only declares.
    pub(super) fn routine(&mut self, declares_only: bool) {
        let word = self.at + usize::from(self.lexemes.word(self.at) == Some(Word::Class));
        let bodiless = declares_only || self.with_body.binary_search(&word).is_err();
        self.builder.open(if bodiless { HEADER } else { ROUTINE }, Field(0));
        if self.lexemes.word(self.at) == Some(Word::Class) {
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

    pub(super) fn routine_name(&mut self) {
        let start = self.at;
        let mut end = start;
        while end < self.lexemes.list.len()
            && end < start + NAME_AT_MOST
            && !matches!(self.lexemes.kind(end), Some(OPEN_ROUND | SEMICOLON))
            && !(self.lexemes.is(end, ":"))
            && !self.lexemes.is(end, "=")
        {
            end += 1;
        }
        if self.lexemes.kind(start) != Some(WORD) && !self.lexemes.text(start).chars().all(|c| c.is_ascii_punctuation())
            || end == start
        {
            return;
        }
        self.builder.open(QUALIFIED, Field::NAME);
        while self.at < end {
            self.token_as(None);
        }
        self.close(1);
        if self.lexemes.kind(self.at) == Some(OPEN_ROUND) && let Some(close) = self.lexemes.close_of(self.at) {
            self.builder.open(PARAMETERS, Field::PARAMETERS);
            while self.at <= close {
                self.token();
            }
            self.close(1);
        }
    }

    /// Behind the header's `;` and the directives that follow it, each with its own.
    pub(super) fn header_end(&self) -> usize {
        let mut end = self.semicolon(self.at);
        loop {
            let next = self.lexemes.next_code(end);
            if !self.is_directive(next) {
                return end;
            }
            end = self.semicolon(next);
        }
    }

    /// Whether a word says more about the routine in front of it.
    fn is_directive(&self, at: usize) -> bool {
        // `public` also begins the members that all may see.
        let behind = self.lexemes.next_code(at + 1);
        let visibility = self.lexemes.is(at, "public")
            && self.lexemes.kind(behind) != Some(SEMICOLON)
            && !self.lexemes.is(behind, "name");
        let word = self.lexemes.text(at).to_ascii_lowercase();
        self.lexemes.kind(at) == Some(WORD) && !visibility && DIRECTIVES.contains(&word.as_str())
    }

    /// Behind the next `;` outside of brackets, or in front of a word that cannot stand in a header.
    pub(super) fn semicolon(&self, at: usize) -> usize {
        let mut end = at;
        while end < self.lexemes.list.len() {
            if self.lexemes.kind(end) == Some(SEMICOLON) {
                return end + 1;
            }
            if matches!(self.lexemes.word(end), Some(Word::Begin | Word::Part | Word::Uses | Word::End)) {
                return end;
            }
            end = self.lexemes.close_of(end).unwrap_or(end) + 1;
        }
        end
    }

    /// Whether the routine that begins at `at` says that its body is elsewhere.
    pub(super) fn is_forward(&self, at: usize) -> bool {
        let mut end = self.semicolon(at);
        for _ in 0..DIRECTIVES.len() {
            let next = self.lexemes.next_code(end);
            if self.lexemes.is(next, "forward") || self.lexemes.is(next, "external") {
                return true;
            }
            if !self.is_directive(next) {
                return false;
            }
            end = self.semicolon(next);
        }
        false
    }

    /// Local declarations, then the body.
    pub(super) fn routine_part(&mut self) {
        match self.lexemes.word(self.at) {
            Some(Word::Declarations) => self.declarations(),
            Some(Word::Routine) => self.routine(false),
            Some(Word::Class) if matches!(self.lexemes.word(self.at + 1), Some(Word::Routine)) => self.routine(false),
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

    /// The label of a variant, or the end of all of them.
    pub(super) fn variant(&mut self) {
        match self.lexemes.word(self.at) {
            Some(Word::End | Word::Part | Word::Visibility | Word::Routine) => {
                self.frames.pop();
                self.close(1);
            }
            Some(Word::Of) => self.token(),
            _ if self.lexemes.kind(self.at) == Some(SEMICOLON) => self.token(),
            _ => {
                self.builder.open(ARM, Field(0));
                self.label();
                self.frames.push(Frame::Variant);
            }
        }
    }

    /// The fields of a variant in their brackets, and the `;` behind it.
    pub(super) fn fields_of_variant(&mut self) {
        if self.lexemes.kind(self.at) == Some(OPEN_ROUND) && self.lexemes.close_of(self.at).is_some() {
            return self.bracketed(GROUP);
        }
        if self.lexemes.kind(self.at) == Some(SEMICOLON) {
            self.token();
        }
        self.frames.pop();
        self.close(1);
    }

    /// One member of a type, or the `end` of them.
    pub(super) fn member(&mut self) {
        match self.lexemes.word(self.at) {
            Some(Word::End) => {
                self.frames.pop();
                self.token_as(Some(CLOSING));
                self.close(1);
            }
            Some(Word::Visibility) if !self.lexemes.is(self.at + 1, ":") && !self.lexemes.is(self.at + 1, ",") => {
                self.builder.open(VISIBILITY, Field(0));
                // `strict private`; another word on a line of its own begins another group.
                self.token();
                if self.lexemes.word(self.at) == Some(Word::Visibility) && !self.begins_line() {
                    self.token();
                }
                self.close(1);
            }
            Some(Word::Class) if matches!(self.lexemes.word(self.at + 1), Some(Word::Routine)) => self.routine(true),
            Some(Word::Routine) => self.routine(true),
            Some(Word::Property) => {
                self.builder.open(PROPERTY, Field(0));
                self.token();
                if self.lexemes.kind(self.at) == Some(WORD) {
                    self.name_token();
                }
                self.expect_values(Until::Semicolon);
            }
            Some(Word::Declarations) => self.declarations(),
            None
                if (self.lexemes.is(self.at, "default") || self.lexemes.is(self.at, "nodefault"))
                && self.lexemes.kind(self.at + 1) == Some(SEMICOLON) =>
            {
                self.token();
                self.token();
            }
            Some(Word::Case) => {
                // The variants of a record have no `end` of their own.
                self.builder.open(VARIANTS, Field(0));
                self.token();
                self.frames.push(Frame::Variants);
                self.expect_values(Until::Word(Word::Of));
            }
            _ => match self.lexemes.kind(self.at) {
                Some(OPEN_SQUARE) => self.bracketed(GROUP),
                Some(OPEN_ROUND) => self.bracketed(GROUP),
                Some(WORD)
                    if self.lexemes.word(self.at).is_none()
                    || self.lexemes.is(self.at + 1, ":")
                    || self.lexemes.is(self.at + 1, ",") => self.named(FIELD),
                _ => self.token(),
            },
        }
    }
}
