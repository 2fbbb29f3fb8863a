//! Lexemes of DAX.

use crate::language::Kind;
use crate::reading::{block_end, char_len, Escape, Lexeme, line_end, quoted_end, word_end};
use super::*;

pub(super) fn lexemes(text: &str) -> Vec<Lexeme> {
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

/// Bytes in which the end of a name is looked for, so that many without an end cost no more than others.
const NAME_AT_MOST: usize = 1024;

/// `[Name]`; a closing bracket inside is doubled.
fn bracketed_name(bytes: &[u8], at: usize) -> (Kind, usize) {
    let line = line_end(&bytes[..bytes.len().min(at + NAME_AT_MOST)], at);
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
