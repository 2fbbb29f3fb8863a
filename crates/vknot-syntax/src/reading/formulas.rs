//! DAX: queries, and files of measures.
//!
//! A definition begins with `MEASURE` and its like, or with a name and `=` at the margin or behind a blank line; it goes on to the next
//! one. `VAR` and `RETURN` part what is inside, at any depth.

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::{block_end, char_len, Escape, kinds, Lexeme, line_end, NO_PARTNER, partners, quoted_end, word_end};
use super::brackets::Side;

kinds! {
    FORMULAS = "formulas" as File,
    MEASURE = "measure" as Callable,
    QUERY = "query" as Branch,
    DEFINE = "define" as Statement,
    VARIABLE = "variable" as Assignment,
    RESULT = "result" as Statement,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    GROUP = "group" as Parenthesized,
    TABLE = "table" as Collection,
    REFERENCE = "reference" as Name,
    KEYWORD = "keyword",
    WORD = "word" as Name,
    QUOTED = "quoted_name" as Name,
    COLUMN = "column" as Name,
    NUMBER = "number" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    MARK = "+",
    COMMA = ",",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
}

/// Reads a text.
pub(crate) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexemes(text);
    let partner = partners(text, &lexemes, shape);
    builder.open(FORMULAS, Field(0));
    let mut reader = Reader {
        text,
        lexemes: &lexemes,
        partner: &partner,
        builder,
        frames: Vec::new(),
        groups: 0,
        at: 0,
    };
    while reader.at < lexemes.len() {
        reader.step();
    }
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_ROUND => Some((0, Side::Opens)),
        CLOSE_ROUND => Some((0, Side::Closes)),
        OPEN_CURLY => Some((1, Side::Opens)),
        CLOSE_CURLY => Some((1, Side::Closes)),
        _ => None,
    }
}

/// Something that is open.
enum Frame {
    /// A definition or query.
    Definition,
    /// `VAR` or `RETURN` with what follows.
    Part,
    /// Brackets up to the lexeme `end`; `closes` nodes end with them.
    Group { end: usize, closes: u32 },
}

struct Reader<'r, 't> {
    text: &'r str,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// How many brackets are open.
    groups: u32,
    at: usize,
}

impl Reader<'_, '_> {
    fn step(&mut self) {
        let lexeme = self.lexemes[self.at];
        let word = if lexeme.kind == WORD { lexeme.of(self.text).to_ascii_uppercase() } else { String::new() };
        let grouped = self.groups > 0;
        match word.as_str() {
            "DEFINE" if !grouped => self.definition(DEFINE, false),
            "EVALUATE" if !grouped => self.definition(QUERY, false),
            "MEASURE" | "COLUMN" | "TABLE" | "FUNCTION" if !grouped && self.begins_line() =>
                self.definition(MEASURE, true),
            "VAR" => self.part(VARIABLE),
            "RETURN" => self.part(RESULT),
            "ORDER" | "START" | "ASC" | "DESC" | "BY" | "AT" | "IN" | "NOT" if lexeme.kind == WORD =>
                self.token_as(Some(KEYWORD)),
            _ if !grouped && self.begins_measure() => self.definition(MEASURE, false),
            _ => self.value(),
        }
    }

    fn begins_line(&self) -> bool {
        super::begins_line(self.text.as_bytes(), self.lexemes[self.at].start as usize)
    }

    /// A name and `=` at the margin, or where nothing can go on: at the beginning and behind a blank line.
    fn begins_measure(&self) -> bool {
        let start = self.lexemes[self.at].start as usize;
        let named = matches!(self.lexemes[self.at].kind, WORD | QUOTED | COLUMN);
        if !named || !self.begins_line() {
            return false;
        }
        let margin = start == 0 || self.text.as_bytes()[start - 1] == b'\n';
        let before = self.lexemes[..self.at].iter().rev().find(|lexeme| lexeme.kind != COMMENT);
        let gap = before.map_or("", |before| &self.text[before.end as usize..start]);
        let lines = gap.split('\n').count();
        let blank = |(at, line): (usize, &str)| at > 0 && at + 1 < lines && line.trim().is_empty();
        let apart = before.is_none() || gap.split('\n').enumerate().any(blank);
        if !margin && !apart {
            return false;
        }
        let line = line_end(self.text.as_bytes(), start) as u32;
        let on_line = self.lexemes[self.at..].iter().take_while(|lexeme| lexeme.start < line);
        let mut rest = on_line.skip_while(
            |lexeme| matches!(lexeme.kind, WORD | QUOTED | COLUMN | NUMBER)
                || matches!(lexeme.of(self.text), "%" | "-" | "_" | "&" | "/"),
        );
        rest.next().is_some_and(|next| matches!(next.of(self.text), "=" | ":="))
    }

    fn token_as(&mut self, kind: Option<Kind>) {
        let lexeme = self.lexemes[self.at];
        let lone = shape(lexeme.kind).is_some() && self.partner[self.at] == NO_PARTNER;
        let kind = if lone { self.builder.error_kind() } else { kind.unwrap_or(lexeme.kind) };
        self.builder.leaf(kind, Field(0), lexeme.start, lexeme.end);
        self.at += 1;
    }

    fn definition(&mut self, kind: Kind, keyword: bool) {
        while self.frames.pop().is_some() {
            self.builder.close();
        }
        self.groups = 0;
        self.builder.open(kind, Field(0));
        self.frames.push(Frame::Definition);
        if kind != MEASURE || keyword {
            self.token_as(Some(KEYWORD));
        }
        if kind == MEASURE {
            self.definition_name();
        }
    }

    /// The words up to `=`; `Table[Name]` is found by its name.
    fn definition_name(&mut self) {
        let start = self.at;
        let end = (start..self.lexemes.len())
            .find(|at| matches!(self.lexemes[*at].of(self.text), "=" | ":=" | "("))
            .unwrap_or(start);
        let last_is_column = end > start && self.lexemes[end - 1].kind == COLUMN;
        while self.at < end.saturating_sub(usize::from(last_is_column)).min(start + NAME_AT_MOST) && last_is_column {
            self.token_as(None);
        }
        if last_is_column {
            self.token_as(None);
            return self.builder.set_field(self.builder.last(), Field::NAME);
        }
        self.builder.open(REFERENCE, Field::NAME);
        while self.at < end.min(start + NAME_AT_MOST) {
            self.token_as(None);
        }
        self.builder.close();
    }

    fn part(&mut self, kind: Kind) {
        if matches!(self.frames.last(), Some(Frame::Part)) {
            self.frames.pop();
            self.builder.close();
        }
        self.builder.open(kind, Field(0));
        self.frames.push(Frame::Part);
        self.token_as(Some(KEYWORD));
        if kind == VARIABLE && self.lexemes.get(self.at).is_some_and(|next| next.kind == WORD) {
            self.token_as(None);
            self.builder.set_field(self.builder.last(), Field::NAME);
        }
    }

    fn value(&mut self) {
        let lexeme = self.lexemes[self.at];
        let partner = |at: usize| self.partner
            .get(at)
            .copied()
            .filter(|close| *close != NO_PARTNER && *close as usize > at)
            .map(|close| close as usize);
        if let Some(end) = partner(self.at) {
            self.builder.open(if lexeme.kind == OPEN_CURLY { TABLE } else { GROUP }, Field(0));
            self.token_as(None);
            self.groups += 1;
            return self.frames.push(Frame::Group { end, closes: 1 });
        }
        let next = self.lexemes.get(self.at + 1);
        if lexeme.kind == WORD && next.is_some_and(|next| next.kind == OPEN_ROUND)
            && let Some(end) = partner(self.at + 1)
        {
            self.builder.open(CALL, Field(0));
            self.token_as(None);
            self.builder.open(ARGUMENTS, Field(0));
            self.token_as(None);
            self.groups += 1;
            return self.frames.push(Frame::Group { end, closes: 2 });
        }
        if matches!(lexeme.kind, WORD | QUOTED)
            && next.is_some_and(|next| next.kind == COLUMN && next.start == lexeme.end)
        {
            self.builder.open(REFERENCE, Field(0));
            self.token_as(None);
            self.token_as(None);
            return self.builder.close();
        }
        self.close_at_bracket();
    }

    /// A lexeme on its own; what it closes ends with it.
    fn close_at_bracket(&mut self) {
        let at = self.at;
        let ends = |frame: &Frame| matches!(frame, Frame::Group { end, .. } if *end == at);
        if matches!(shape(self.lexemes[at].kind), Some((_, Side::Closes)))
            && self.frames
                .iter()
                .rev()
                .take(2)
                .any(ends)
        {
            while self.frames.pop_if(|frame| !ends(frame)).is_some() {
                self.builder.close();
            }
            self.token_as(None);
            if let Some(Frame::Group { closes, .. }) = self.frames.pop() {
                self.groups = self.groups.saturating_sub(1);
                (0..closes).for_each(|_| self.builder.close());
            }
            return;
        }
        self.token_as(None);
    }
}

/// How many lexemes a definition's name may have.
const NAME_AT_MOST: usize = 24;

fn lexemes(text: &str) -> Vec<Lexeme> {
    let bytes = text.as_bytes();
    let mut found = Vec::with_capacity(text.len() / 4);
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() {
            at += 1;
            continue;
        }
        let (kind, end) = lexeme(bytes, at);
        let end = end.max(at + 1).min(bytes.len());
        found.push(Lexeme { kind, start: at as u32, end: end as u32 });
        at = end;
    }
    found
}

fn lexeme(bytes: &[u8], at: usize) -> (Kind, usize) {
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    let quoted = |kind, one_line| quoted_end(bytes, at, Escape::Doubled, one_line)
        .map_or((MARK, at + 1), |end| (kind, end));
    match bytes[at] {
        b'/' if next == b'/' => (COMMENT, line_end(bytes, at)),
        b'-' if next == b'-' => (COMMENT, line_end(bytes, at)),
        b'/' if next == b'*' => (COMMENT, block_end(bytes, at, (b"/*", b"*/"), false)),
        b'"' => quoted(STRING, false),
        b'\'' => quoted(QUOTED, true),
        b'[' => bracketed_name(bytes, at),
        b'(' => (OPEN_ROUND, at + 1),
        b')' => (CLOSE_ROUND, at + 1),
        b'{' => (OPEN_CURLY, at + 1),
        b'}' => (CLOSE_CURLY, at + 1),
        b',' | b';' => (COMMA, at + 1),
        byte if byte.is_ascii_digit() => {
            let end = word_end(bytes, at, |byte| byte.is_ascii_digit() || byte == b'.');
            let exponent = matches!(bytes.get(end), Some(b'e' | b'E'))
                && bytes.get(end + 1).is_some_and(|byte| byte.is_ascii_digit() || matches!(byte, b'+' | b'-'));
            (NUMBER, if exponent { word_end(bytes, end + 2, |byte| byte.is_ascii_digit()) } else { end })
        }
        byte if is_word(byte) => (WORD, word_end(bytes, at, |byte| is_word(byte) || byte == b'.')),
        b'<' if matches!(next, b'>' | b'=') => (MARK, at + 2),
        b'>' | b':' | b'=' if next == b'=' => (MARK, at + 2),
        b'&' | b'|' if next == bytes[at] => (MARK, at + 2),
        byte => (MARK, at + char_len(byte)),
    }
}

/// `[Name]`; a closing bracket inside is doubled.
fn bracketed_name(bytes: &[u8], at: usize) -> (Kind, usize) {
    let line = line_end(bytes, at);
    let mut end = at + 1;
    while let Some(found) = memchr::memchr(b']', &bytes[end..line]) {
        end += found + 1;
        if bytes.get(end) != Some(&b']') {
            return (COLUMN, end);
        }
        end += 1;
    }
    (MARK, at + 1)
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}
