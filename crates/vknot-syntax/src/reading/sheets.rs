//! Style sheets: CSS, SCSS and Less in one reader.
//!
//! Source: CSS Syntax Module Level 3 for tokens and blocks; the other two add line comments, variables, nesting, interpolation
//! and maps. A statement is what ends with `;` or with a block, so a reader need not know properties or at-rules by name.

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::{block_end, char_len, kinds, Lexeme, line_end, NO_PARTNER, partners, word_end};
use super::brackets::Side;

kinds! {
    SHEET = "sheet" as File,
    RULE = "rule" as Rule,
    AT_RULE = "at_rule" as Rule,
    MIXIN = "mixin" as Callable,
    IMPORT = "import" as Import,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    STATEMENT = "statement" as Statement,
    DECLARATION = "declaration" as Statement,
    VARIABLE_DECLARATION = "variable" as Member,
    BODY = "body" as Body,
    SELECTORS = "selectors",
    VALUE = "value",
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    GROUP = "group" as Collection,
    INTERPOLATION = "interpolation",
    WORD = "word" as Name,
    AT_WORD = "at_word" as Name,
    VARIABLE = "variable_name" as Name,
    NUMBER = "number" as Literal,
    COLOR = "hash" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    MARK = "+",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_INTERPOLATION = "#{",
    SEMICOLON = ";",
    COLON = ":",
    COMMA = ",",
}

/// What one language of the family has of its own.
#[derive(Clone, Copy)]
pub(crate) struct Dialect {
    /// Whether `//` begins a comment.
    pub line_comments: bool,
    /// Whether `@name:` declares a variable.
    pub at_variables: bool,
}

/// Reads a text.
pub(crate) fn read(text: &str, dialect: Dialect, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexemes(text, dialect);
    let partner = partners(text, &lexemes, shape);
    builder.open(SHEET, Field(0));
    let mut reader = Reader { text, dialect, lexemes: &lexemes, partner: &partner, builder, bodies: Vec::new() };
    reader.run();
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_CURLY | OPEN_INTERPOLATION => Some((0, Side::Opens)),
        CLOSE_CURLY => Some((0, Side::Closes)),
        OPEN_ROUND => Some((1, Side::Opens)),
        CLOSE_ROUND => Some((1, Side::Closes)),
        OPEN_SQUARE => Some((2, Side::Opens)),
        CLOSE_SQUARE => Some((2, Side::Closes)),
        _ => None,
    }
}

struct Reader<'r, 't> {
    text: &'r str,
    dialect: Dialect,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    builder: &'r mut TreeBuilder<'t>,
    /// The closing brackets of the bodies that are open.
    bodies: Vec<u32>,
}

impl Reader<'_, '_> {
    fn run(&mut self) {
        let mut at = 0;
        while at < self.lexemes.len() {
            if self.bodies.last() == Some(&(at as u32)) {
                self.bodies.pop();
                self.token(at);
                // The body, and the statement it ends.
                self.builder.close();
                self.builder.close();
                at += 1;
                continue;
            }
            at = match self.lexemes[at].kind {
                COMMENT | SEMICOLON => {
                    self.token(at);
                    at + 1
                }
                CLOSE_CURLY => self.flat(at),
                _ => self.statement(at),
            };
        }
    }

    fn token(&mut self, at: usize) {
        let lexeme = self.lexemes[at];
        let lone = shape(lexeme.kind).is_some() && self.partner[at] == NO_PARTNER;
        let kind = if lone { self.builder.error_kind() } else { lexeme.kind };
        self.builder.leaf(kind, Field(0), lexeme.start, lexeme.end);
    }

    fn flat(&mut self, at: usize) -> usize {
        self.token(at);
        at + 1
    }

    /// Reads one statement, or the head of one with a block; gives where to go on.
    fn statement(&mut self, start: usize) -> usize {
        let end = self.head_end(start);
        let has_body =
            self.lexemes.get(end).is_some_and(|lexeme| lexeme.kind == OPEN_CURLY && self.partner[end] != NO_PARTNER);
        let kind = self.kind_of(start, end, has_body);
        self.builder.open(kind, Field(0));
        match kind {
            DECLARATION | VARIABLE_DECLARATION => self.declaration(start, end),
            RULE => {
                self.builder.open(SELECTORS, Field::NAME);
                self.values(start, end);
                self.builder.close();
            }
            _ => self.at_rule(start, end, kind),
        }
        if has_body {
            self.builder.open(BODY, Field::BODY);
            self.token(end);
            self.bodies.push(self.partner[end]);
            return end + 1;
        }
        let next = match self.lexemes.get(end).map(|lexeme| lexeme.kind) {
            Some(SEMICOLON | OPEN_CURLY) => self.flat(end),
            _ => end,
        };
        self.builder.close();
        next
    }

    /// The lexeme that ends a statement's head: `;`, `{`, or what closes the body around it.
    fn head_end(&self, start: usize) -> usize {
        let limit = self.bodies.last().map_or(self.lexemes.len(), |end| *end as usize);
        let mut at = start;
        while at < limit {
            match self.lexemes[at].kind {
                SEMICOLON | OPEN_CURLY | CLOSE_CURLY => return at,
                OPEN_ROUND | OPEN_SQUARE | OPEN_INTERPOLATION if self.partner[at] != NO_PARTNER => {
                    at = self.partner[at] as usize + 1;
                }
                _ => at += 1,
            }
        }
        limit
    }

    fn kind_of(&self, start: usize, end: usize, has_body: bool) -> Kind {
        let first = self.lexemes[start];
        let colon = self.lexemes.get(start + 1).is_some_and(|next| next.kind == COLON);
        match first.kind {
            VARIABLE => VARIABLE_DECLARATION,
            AT_WORD if colon && self.dialect.at_variables => VARIABLE_DECLARATION,
            AT_WORD => match first.of(self.text).to_ascii_lowercase().as_str() {
                "@import" | "@use" | "@forward" | "@charset" | "@plugin" => IMPORT,
                "@mixin" | "@function" => MIXIN,
                "@if" | "@else" | "@elseif" => CONDITIONAL,
                "@each" | "@for" | "@while" => LOOP,
                _ if has_body => AT_RULE,
                _ => STATEMENT,
            },
            WORD if colon && first.of(self.text).starts_with("--") => VARIABLE_DECLARATION,
            _ if has_body => RULE,
            _ if (start..end).any(|at| self.lexemes[at].kind == COLON) => DECLARATION,
            _ => STATEMENT,
        }
    }

    /// `name: value`.
    fn declaration(&mut self, start: usize, end: usize) {
        let colon = (start..end).find(|at| self.lexemes[*at].kind == COLON).unwrap_or(start);
        let simple = colon == start + 1;
        if simple {
            self.token(start);
            self.builder.set_field(self.builder.last(), Field::NAME);
        } else {
            self.values(start, colon);
        }
        if colon < end {
            self.token(colon.max(start));
            self.builder.open(VALUE, Field::VALUE);
            self.values(colon + 1, end);
            self.builder.close();
        }
    }

    /// `@word` and what follows it. Mixins are called by their own name, other rules by all of their head.
    fn at_rule(&mut self, start: usize, end: usize, kind: Kind) {
        if kind == MIXIN && start + 1 < end {
            self.token(start);
            self.token(start + 1);
            self.builder.set_field(self.builder.last(), Field::NAME);
            let parameters = self.lexemes.get(start + 2).is_some_and(|next| next.kind == OPEN_ROUND)
                && self.partner[start + 2] != NO_PARTNER;
            let close = self.partner.get(start + 2).copied().unwrap_or(0) as usize;
            if parameters && close < end {
                self.builder.open(ARGUMENTS, Field::PARAMETERS);
                self.values_in(start + 2, close + 1);
                self.builder.close();
                return self.values(close + 1, end);
            }
            return self.values(start + 2, end);
        }
        let named = if kind == AT_RULE { Field::NAME } else { Field(0) };
        self.builder.open(SELECTORS, named);
        self.values(start, end);
        self.builder.close();
    }

    /// The bracket at `from`, what is inside, and its partner at `end - 1`.
    fn values_in(&mut self, from: usize, end: usize) {
        self.token(from);
        self.values(from + 1, end - 1);
        self.token(end - 1);
    }

    /// Words, marks and groups.
    fn values(&mut self, start: usize, end: usize) {
        let mut groups: Vec<(usize, u32)> = Vec::new();
        let mut at = start;
        while at < end {
            let lexeme = self.lexemes[at];
            let closes = self.partner[at] as usize;
            let calls = matches!(lexeme.kind, WORD | AT_WORD) && self.is_call(at, end);
            if calls {
                self.builder.open(CALL, Field(0));
                self.token(at);
                self.builder.set_field(self.builder.last(), Field::NAME);
                at += 1;
                self.builder.open(ARGUMENTS, Field(0));
                self.token(at);
                groups.push((self.partner[at] as usize, 2));
            } else if matches!(lexeme.kind, OPEN_ROUND | OPEN_SQUARE | OPEN_INTERPOLATION)
                && self.partner[at] != NO_PARTNER
                && closes < end
            {
                self.builder.open(if lexeme.kind == OPEN_INTERPOLATION { INTERPOLATION } else { GROUP }, Field(0));
                self.token(at);
                groups.push((closes, 1));
            } else {
                self.token(at);
                if let Some((_, levels)) = groups.pop_if(|(close, _)| *close == at) {
                    (0..levels).for_each(|_| self.builder.close());
                }
            }
            at += 1;
        }
        groups.iter().for_each(|(_, levels)| (0.. * levels).for_each(|_| self.builder.close()));
    }

    /// Whether a word is followed, without a blank, by arguments.
    fn is_call(&self, at: usize, end: usize) -> bool {
        let next = self.lexemes.get(at + 1).filter(|_| at + 1 < end);
        next.is_some_and(|next| next.kind == OPEN_ROUND && next.start == self.lexemes[at].end)
            && self.partner[at + 1] != NO_PARTNER
            && (self.partner[at + 1] as usize) < end
    }
}

fn lexemes(text: &str, dialect: Dialect) -> Vec<Lexeme> {
    let bytes = text.as_bytes();
    let mut found: Vec<Lexeme> = Vec::with_capacity(text.len() / 4);
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() {
            at += 1;
            continue;
        }
        let (kind, end) = lexeme(text, at, dialect);
        let end = end.max(at + 1).min(bytes.len());
        found.push(Lexeme { kind, start: at as u32, end: end as u32 });
        at = end;
    }
    found
}

fn lexeme(text: &str, at: usize, dialect: Dialect) -> (Kind, usize) {
    let bytes = text.as_bytes();
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    let follows = |from: usize| bytes.get(from).is_some_and(|byte| is_word(*byte));
    match bytes[at] {
        b'/' if next == b'*' => (COMMENT, block_end(bytes, at, (b"/*", b"*/"), false)),
        b'/' if next == b'/' && dialect.line_comments => (COMMENT, line_end(bytes, at)),
        b'"' | b'\'' => string(bytes, at),
        b'`' if dialect.at_variables => string(bytes, at),
        b'{' => (OPEN_CURLY, at + 1),
        b'}' => (CLOSE_CURLY, at + 1),
        b'(' => (OPEN_ROUND, at + 1),
        b')' => (CLOSE_ROUND, at + 1),
        b'[' => (OPEN_SQUARE, at + 1),
        b']' => (CLOSE_SQUARE, at + 1),
        b';' => (SEMICOLON, at + 1),
        b':' => (COLON, at + 1),
        b',' => (COMMA, at + 1),
        b'#' if next == b'{' => (OPEN_INTERPOLATION, at + 2),
        b'@' if next == b'{' => (OPEN_INTERPOLATION, at + 2),
        b'@' if follows(at + 1) || next == b'@' => (AT_WORD, word(bytes, at + 2)),
        b'$' if follows(at + 1) => (VARIABLE, word(bytes, at + 1)),
        b'#' if follows(at + 1) => (COLOR, word(bytes, at + 1)),
        b'.' | b'+' | b'-' if next.is_ascii_digit() => (NUMBER, number(bytes, at + 1)),
        b'.' | b'%' if follows(at + 1) => (WORD, word(bytes, at + 1)),
        byte if byte.is_ascii_digit() => (NUMBER, number(bytes, at)),
        byte if is_word(byte) || byte == b'\\' => {
            let end = word(bytes, at);
            let url = bytes[at..end].eq_ignore_ascii_case(b"url") && bytes.get(end) == Some(&b'(');
            match url.then(|| raw_url(bytes, end)).flatten() {
                Some(end) => (STRING, end),
                None => (WORD, end),
            }
        }
        byte => (MARK, at + char_len(byte)),
    }
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_') || byte >= 0x80
}

/// Where a word ends; a backslash takes the next character along.
fn word(bytes: &[u8], at: usize) -> usize {
    let mut end = word_end(bytes, at, is_word);
    while bytes.get(end) == Some(&b'\\') {
        end = word_end(bytes, (end + 2).min(bytes.len()), is_word);
    }
    end
}

fn number(bytes: &[u8], at: usize) -> usize {
    let end = word_end(bytes, at, |byte| byte.is_ascii_digit() || byte == b'.');
    word_end(bytes, end, |byte| byte.is_ascii_alphanumeric() || byte == b'%')
}

/// A string ends with its quote, or without one at the end of the line. Interpolated pieces may hold quotes of their own.
fn string(bytes: &[u8], at: usize) -> (Kind, usize) {
    let quote = bytes[at];
    let mut end = at + 1;
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'\\' => end += 1,
            b'#' | b'@' if bytes.get(end + 1) == Some(&b'{') => {
                let rest = &bytes[end..line_end(bytes, end)];
                end += memchr::memchr(b'}', rest).unwrap_or(0);
            }
            b'\n' if quote != b'`' => return (MARK, at + 1),
            _ if byte == quote => return (STRING, end + 1),
            _ => {}
        }
        end += 1;
    }
    (MARK, at + 1)
}

/// `url(...)` whose inside is neither quoted nor computed.
fn raw_url(bytes: &[u8], open: usize) -> Option<usize> {
    let inside = word_end(bytes, open + 1, |byte| byte.is_ascii_whitespace());
    let close = open + memchr::memchr(b')', bytes.get(open..)?)?;
    let raw = &bytes[inside.min(close)..close];
    let quoted = raw.first().is_some_and(|byte| matches!(byte, b'"' | b'\'' | b'$' | b'@' | b'~'));
    let plain = !quoted && memchr::memchr3(b'(', b'{', b'\n', raw).is_none();
    plain.then_some(close + 1)
}
