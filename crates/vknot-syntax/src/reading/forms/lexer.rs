//! Lexemes of S-expressions.

use crate::language::Kind;
use crate::reading::{block_end, char_len, Escape, line_end, quoted_end, word_end};
use super::dialect::*;

/// What begins at a place.
#[derive(Clone, Copy)]
pub(super) enum What {
    Blank,
    Comment,
    Comma,
    Error,
    /// Waits for this many data.
    Prefix(Kind, u32),
    Open(Kind),
    Close,
    Datum(Kind),
}

#[derive(Clone, Copy)]
pub(super) struct Lexeme {
    pub what: What,
    pub start: usize,
    pub end: usize,
}

/// All lexemes of a text but blanks.
pub(super) fn lexemes(text: &str, dialect: &Dialect) -> Vec<Lexeme> {
    let mut found = Vec::with_capacity(text.len() / 4);
    let texts = if dialect.texts { Texts::of(text) } else { Texts::None };
    let mut at = 0;
    while at < text.len() {
        let lexeme = texts.lexeme(text.as_bytes(), at).unwrap_or_else(|| lexeme(text, at, dialect));
        at = lexeme.end.max(at + 1);
        if !matches!(lexeme.what, What::Blank) {
            found.push(lexeme);
        }
    }
    found
}

/// Where a file holds text among its code (The Racket Documentation, "Scribble: The Racket Documentation Tool", section 2, "@ Syntax").
#[derive(Clone, Copy)]
enum Texts {
    None,
    /// In braces behind an expression that `@` leads.
    InBraces,
    /// All of it, from there on.
    From(usize),
}

impl Texts {
    /// What the first line of code says of a file.
    fn of(text: &str) -> Texts {
        let Some((start, end)) = memchr::memmem::find(text.as_bytes(), b"#lang ")
            .map(|start| (start, line_end(text.as_bytes(), start)))
            .filter(|(start, _)| text[..*start].lines().all(|line| line.trim().is_empty() || line.starts_with(';')))
        else {
            return Texts::None;
        };
        let mut words = text[start..end].split_whitespace().skip(1);
        match words.next().unwrap_or("") {
            "at-exp" => Texts::InBraces,
            // Tables drawn with lines stand in the columns they stand in.
            "2d" => Texts::From(end),
            name if name == "scribble" || name.starts_with("scribble/") => Texts::From(end),
            _ => Texts::None,
        }
    }

    /// The text that begins at `at`, or the name behind the mark in front of one.
    fn lexeme(self, bytes: &[u8], at: usize) -> Option<Lexeme> {
        let what = What::Datum(STRING);
        match (self, bytes[at]) {
            (Texts::From(start), _) if at >= start => Some(Lexeme { start: at, what, end: bytes.len() }),
            // A comment of this kind may go over lines.
            (Texts::InBraces, b'@') if bytes[at..].starts_with(b"@;{") => {
                let end = braced_end(bytes, at + 2).unwrap_or(bytes.len());
                Some(Lexeme { start: at, what: What::Comment, end })
            }
            (Texts::InBraces, b'@') =>
                Some(Lexeme { start: at, what: What::Datum(SYMBOL), end: command_end(bytes, at + 1) }),
            (Texts::InBraces, mark @ (b'{' | b'|')) => {
                let barred = mark == b'|';
                let begins = !barred || bytes.get(at + 1) == Some(&b'{');
                let before = *bytes.get(at.checked_sub(1)?)?;
                let quoted = matches!(before, b'\'' | b'`' | b',') && at > 1 && bytes[at - 2] == b'@';
                if !begins || before != b']' && !quoted && ends_symbol(before) {
                    return None;
                }
                let end = if barred { barred_end(bytes, at) } else { braced_end(bytes, at) };
                let unclosed = Lexeme { start: at, what: What::Error, end: bytes.len() };
                Some(end.map_or(unclosed, |end| Lexeme { start: at, what, end }))
            }
            _ => None,
        }
    }
}

/// Behind the name that `@` stands in front of: bars may be around it, and the bar of a text ends it.
fn command_end(bytes: &[u8], at: usize) -> usize {
    let mut end = at;
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'|' if bytes.get(end + 1) == Some(&b'{') => break,
            b'|' => match memchr::memchr(b'|', &bytes[end + 1..(end + NAME_AT_MOST).min(bytes.len())]) {
                Some(length) => end += length + 2,
                None => break,
            },
            _ if ends_symbol(byte) => break,
            _ => end += 1,
        }
    }
    end.min(bytes.len())
}

/// Bytes in which the bar behind a name is looked for.
const NAME_AT_MOST: usize = 256;

/// Behind the brace that closes the one at `at`; such braces may nest.
fn braced_end(bytes: &[u8], at: usize) -> Option<usize> {
    balanced_end(bytes, at, |_| true, |_| true)
}

/// Behind the `}|` that closes the `|{` at `at`; such marks may nest.
fn barred_end(bytes: &[u8], at: usize) -> Option<usize> {
    let opens = |brace: usize| bytes[brace - 1] == b'|';
    let closes = |brace: usize| bytes.get(brace + 1) == Some(&b'|');
    balanced_end(bytes, at + 1, opens, closes).map(|end| end + 1)
}

/// Behind the brace that closes the one at `at`, of those that open or close something.
fn balanced_end(
    bytes: &[u8],
    at: usize,
    opens: impl Fn(usize) -> bool,
    closes: impl Fn(usize) -> bool,
) -> Option<usize> {
    let mut depth = 0usize;
    let mut braces = memchr::memchr2_iter(b'{', b'}', &bytes[at..]).map(|found| at + found);
    let last = braces.find(|brace| {
        match bytes[*brace] {
            b'{' => depth += usize::from(opens(*brace)),
            _ => depth -= usize::from(closes(*brace)),
        }
        depth == 0
    });
    last.map(|brace| brace + 1)
}

fn lexeme(text: &str, at: usize, dialect: &Dialect) -> Lexeme {
    let bytes = text.as_bytes();
    let one = |what| Lexeme { what, start: at, end: at + 1 };
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    match bytes[at] {
        b' ' | b'\t' | b'\n' | b'\r' | 0x0c => one(What::Blank),
        b';' => Lexeme { start: at, what: What::Comment, end: line_end(bytes, at) },
        b'"' => string(bytes, at, at, STRING),
        b'(' => one(What::Open(FORM)),
        b'[' => one(What::Open(if dialect.clojure { VECTOR } else { FORM })),
        b'{' => one(What::Open(if dialect.clojure { MAP } else { FORM })),
        b')' | b']' | b'}' => one(What::Close),
        b'\'' | b'`' => one(What::Prefix(QUOTED, 1)),
        b'#' => after_hash(text, at, dialect),
        b',' if dialect.clojure => one(What::Comma),
        b',' if next == b'@' => Lexeme { start: at, what: What::Prefix(QUOTED, 1), end: at + 2 },
        b',' => one(What::Prefix(QUOTED, 1)),
        b'~' if dialect.clojure && next == b'@' => Lexeme { start: at, what: What::Prefix(QUOTED, 1), end: at + 2 },
        b'~' | b'@' if dialect.clojure => one(What::Prefix(QUOTED, 1)),
        b'^' if dialect.clojure => one(What::Prefix(QUOTED, 2)),
        b'\\' if dialect.clojure => Lexeme {
            start: at,
            what: What::Datum(CHARACTER),
            end: character_end(bytes, at + 1),
        },
        byte if byte >= 0x80 && text[at..].chars().next().is_some_and(char::is_whitespace) => {
            Lexeme { start: at, what: What::Blank, end: at + char_len(byte) }
        }
        _ => atom(text, at, dialect),
    }
}

/// A string from `at`, whose quote is at `quote`. One that does not end is an error up to the end of the text, as what is text and what
/// is code there is anyone's guess.
fn string(bytes: &[u8], at: usize, quote: usize, kind: Kind) -> Lexeme {
    match quoted_end(bytes, quote, Escape::Backslash, false) {
        Some(end) => Lexeme { start: at, what: What::Datum(kind), end },
        None => Lexeme { start: at, what: What::Error, end: bytes.len() },
    }
}

fn character_end(bytes: &[u8], at: usize) -> usize {
    let first = bytes.get(at).copied().unwrap_or(b' ');
    match first.is_ascii_alphanumeric() {
        true => word_end(bytes, at, |byte| byte.is_ascii_alphanumeric() || byte == b'-' || byte >= 0x80),
        false => (at + char_len(first)).min(bytes.len()),
    }
}

fn after_hash(text: &str, at: usize, dialect: &Dialect) -> Lexeme {
    let bytes = text.as_bytes();
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    let prefix = |length: usize, count| Lexeme { start: at, what: What::Prefix(QUOTED, count), end: at + length };
    let open = |kind, length: usize| Lexeme { start: at, what: What::Open(kind), end: at + length };
    if dialect.clojure {
        return match next {
            b'(' => open(FORM, 2),
            b'{' => open(SET, 2),
            b'"' => string(bytes, at, at + 1, REGEX),
            b'_' => Lexeme { start: at, what: What::Prefix(SKIPPED, 1), end: at + 2 },
            b'\'' | b'=' => prefix(2, 1),
            b'^' => prefix(2, 2),
            b'?' if bytes.get(at + 2) == Some(&b'@') => prefix(3, 1),
            b'?' => prefix(2, 1),
            b'!' => Lexeme { start: at, what: What::Comment, end: line_end(bytes, at) },
            b'#' => atom(text, at, dialect),
            b':' => {
                let end = symbol_end(bytes, at + 1, dialect);
                match bytes.get(end) {
                    Some(b'{') => Lexeme { start: at, what: What::Open(MAP), end: end + 1 },
                    _ => Lexeme { start: at, what: What::Prefix(QUOTED, 1), end },
                }
            }
            byte if byte.is_ascii_alphabetic() => Lexeme {
                start: at,
                what: What::Prefix(QUOTED, 1),
                end: symbol_end(bytes, at + 1, dialect),
            },
            _ => Lexeme { start: at, what: What::Error, end: at + 1 },
        };
    }
    match next {
        b'|' => Lexeme { start: at, what: What::Comment, end: block_end(bytes, at, (b"#|", b"|#"), true) },
        b';' => Lexeme { start: at, what: What::Prefix(SKIPPED, 1), end: at + 2 },
        b'!' => after_bang(text, at, dialect),
        b'{' if dialect.scheme => enclosed(bytes, at, b"}#", SYMBOL).unwrap_or(open(VECTOR, 2)),
        b'>' if dialect.scheme => enclosed(bytes, at, b"<#", STRING).unwrap_or_else(|| tagged(text, at, dialect)),
        b'(' | b'[' | b'{' => open(VECTOR, 2),
        b'\\' => Lexeme { start: at, what: What::Datum(CHARACTER), end: character_end(bytes, at + 2) },
        b'\'' | b'`' | b'&' => prefix(2, 1),
        b',' if bytes.get(at + 2) == Some(&b'@') => prefix(3, 1),
        b',' => prefix(2, 1),
        b'"' => string(bytes, at, at + 1, STRING),
        b'/' if bytes.get(at + 2).is_some() => slashed_regex(bytes, at, dialect, text),
        b'<' if bytes.get(at + 2) == Some(&b'<') => here_string(bytes, at),
        b'<' if dialect.scheme && bytes.get(at + 2) == Some(&b'#') => here_string(bytes, at),
        b'l' if bytes[at..].starts_with(b"#lang ") => Lexeme {
            start: at,
            what: What::Datum(DIRECTIVE),
            end: line_end(bytes, at),
        },
        b':' | b'%' => atom(text, at, dialect),
        // `##core#name`: the names of a system's own parts.
        b'#' if dialect.scheme => Lexeme {
            start: at,
            what: What::Datum(SYMBOL),
            end: symbol_end(bytes, at + 2, dialect).max(at + 2),
        },
        _ => tagged(text, at, dialect),
    }
}

/// `#!`: the first line of a script, a directive such as `#!fold-case`, or a comment up to `!#`.
fn after_bang(text: &str, at: usize, dialect: &Dialect) -> Lexeme {
    let bytes = text.as_bytes();
    let script = at == 0 && matches!(bytes.get(2), Some(b'/' | b' '));
    if script || bytes.get(at + 2).is_some_and(u8::is_ascii_whitespace) {
        let most = bytes.len().min(at + HERE_STRING_AT_MOST);
        let closed = memchr::memmem::find(&bytes[at..most], b"!#");
        let line = line_end(bytes, at);
        return Lexeme { start: at, what: What::Comment, end: closed.map_or(line, |end| at + end + 2) };
    }
    atom(text, at, dialect)
}

/// `#/regular expression/`, which some dialects have.
fn slashed_regex(bytes: &[u8], at: usize, dialect: &Dialect, text: &str) -> Lexeme {
    match quoted_end(bytes, at + 1, Escape::Backslash, true) {
        Some(end) => Lexeme { start: at, what: What::Datum(REGEX), end: word_end(bytes, end, |byte| byte == b'i') },
        None => atom(text, at, dialect),
    }
}

/// Bytes in which the end of a here-string, or of a comment of a script's first lines, is looked for, so that many without an end cost no more than others.
const HERE_STRING_AT_MOST: usize = 32 * 1024;

/// What goes up to a mark of two bytes, whatever is between: a symbol such as `#{tide level}#`, or code of another language between `#>`
/// and `<#`. `None` without its end.
fn enclosed(bytes: &[u8], at: usize, mark: &[u8; 2], kind: Kind) -> Option<Lexeme> {
    let most = bytes.len().min(at + HERE_STRING_AT_MOST);
    let length = memchr::memmem::find(&bytes[at + 2..most], mark)?;
    Some(Lexeme { start: at, what: What::Datum(kind), end: at + 2 + length + mark.len() })
}

/// `#<<NAME`, or `#<#NAME` with expressions in it: the lines up to one that is nothing but NAME.
fn here_string(bytes: &[u8], at: usize) -> Lexeme {
    let first = line_end(bytes, at);
    let name = &bytes[at + 3..first];
    let most = bytes.len().min(at + HERE_STRING_AT_MOST);
    let line = [b"\n", name].concat();
    let ends =
        memchr::memmem::find_iter(bytes.get(first..most).unwrap_or(b""), &line).map(|start| first + start + line.len());
    match ends.into_iter().find(|end| line_end(bytes, *end) == *end) {
        Some(end) => Lexeme { start: at, what: What::Datum(STRING), end },
        None => Lexeme { start: at, what: What::Error, end: first },
    }
}

/// `#rx"..."`, `#hash(...)`, `#u8(...)`, `#x1F`, `#t`, `#0=`: letters and digits, and what follows them.
fn tagged(text: &str, at: usize, dialect: &Dialect) -> Lexeme {
    let bytes = text.as_bytes();
    let mut end = word_end(bytes, at + 1, |byte| byte.is_ascii_alphanumeric() || byte == b'#' || byte == b'-');
    let tag = &bytes[at + 1..end];
    match bytes.get(end) {
        Some(b'"') => {
            let regex = tag.starts_with(b"rx") || tag.starts_with(b"px");
            string(bytes, at, end, if regex { REGEX } else { STRING })
        }
        Some(b'(' | b'[' | b'{') if !matches!(tag, b"t" | b"f" | b"true" | b"false" | b"d") => {
            Lexeme { start: at, what: What::Open(VECTOR), end: end + 1 }
        }
        Some(b'=') if tag.iter().all(u8::is_ascii_digit) && !tag.is_empty() => Lexeme {
            start: at,
            what: What::Prefix(QUOTED, 1),
            end: end + 1,
        },
        Some(b'\'' | b'`' | b',') if tag == b"hash" => Lexeme { start: at, what: What::Prefix(QUOTED, 1), end },
        _ if tag == b"reader" => Lexeme { start: at, what: What::Datum(KEYWORD), end },
        _ => {
            end = symbol_end(bytes, at + 1, dialect).max(at + 1);
            Lexeme { start: at, what: What::Datum(KEYWORD), end }
        }
    }
}

fn atom(text: &str, at: usize, dialect: &Dialect) -> Lexeme {
    let bytes = text.as_bytes();
    let end = match dialect.clojure {
        true => clojure_symbol_end(bytes, at),
        false => symbol_end(bytes, at, dialect),
    };
    let end = end.max(at + char_len(bytes[at])).min(bytes.len());
    let signed = matches!(bytes[at], b'+' | b'-' | b'.') && end > at + 1;
    let digit = bytes.get(at + usize::from(signed)).is_some_and(u8::is_ascii_digit);
    let kind = match bytes[at] {
        b':' if dialect.clojure => KEYWORD,
        b'#' if !dialect.clojure && bytes.get(at + 1) == Some(&b':') => KEYWORD,
        _ if digit => NUMBER,
        _ => SYMBOL,
    };
    Lexeme { start: at, what: What::Datum(kind), end }
}

/// A symbol of Racket or Scheme, which may hold anything between bars or behind a backslash.
fn symbol_end(bytes: &[u8], at: usize, dialect: &Dialect) -> usize {
    let mut end = at;
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'\\' => end += 2,
            b'|' if dialect.scheme => match quoted_end(bytes, end, Escape::Backslash, false) {
                Some(closed) => end = closed,
                None => return end + 1,
            },
            b'|' => match memchr::memchr(b'|', &bytes[end + 1..]) {
                Some(length) => end += length + 2,
                None => return end + 1,
            },
            // Names of Scheme may end with quotes, as in `level'`.
            b'\'' if dialect.scheme => end += 1,
            _ if ends_symbol(byte) => break,
            _ => end += 1,
        }
    }
    end.min(bytes.len())
}

fn clojure_symbol_end(bytes: &[u8], at: usize) -> usize {
    word_end(bytes, at, |byte| !ends_symbol(byte) && !matches!(byte, b'@' | b'~' | b'^' | b'\\') || byte == b'\'')
}

fn ends_symbol(byte: u8) -> bool {
    matches!(byte, b'(' | b')' | b'[' | b']' | b'{' | b'}' | b'"' | b';' | b'\'' | b'`' | b',') || byte <= b' '
}
