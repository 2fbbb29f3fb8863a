//! Lexemes of style sheets.

use crate::language::Kind;
use crate::reading::{block_end, char_len, Lexeme, line_end, word_end};
use super::*;

pub(super) fn lexemes(text: &str, dialect: Dialect) -> Vec<Lexeme> {
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
