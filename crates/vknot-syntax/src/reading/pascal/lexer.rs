//! Lexemes of Object Pascal.

use crate::language::Kind;
use crate::reading::{block_end, char_len, Escape, Lexeme, line_end, quoted_end, word_end};
use super::*;

pub(super) fn lexemes(text: &str) -> Vec<Lexeme> {
    let bytes = text.as_bytes();
    let mut found: Vec<Lexeme> = Vec::with_capacity(text.len() / 5);
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() {
            at += 1;
            continue;
        }
        let (kind, end) = lexeme(text, at);
        let end = end.max(at + 1).min(bytes.len());
        found.push(Lexeme { kind, start: at as u32, end: end as u32 });
        at = end;
    }
    found
}

fn lexeme(text: &str, at: usize) -> (Kind, usize) {
    let bytes = text.as_bytes();
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    match bytes[at] {
        b'/' if next == b'/' => (COMMENT, line_end(bytes, at)),
        b'{' => noted(text, at, block_end(bytes, at, (b"{", b"}"), false), next == b'$'),
        b'(' if next == b'*' => {
            noted(text, at, block_end(bytes, at, (b"(*", b"*)"), false), bytes.get(at + 2) == Some(&b'$'))
        }
        b'\'' => string(bytes, at),
        b'(' => (OPEN_ROUND, at + 1),
        b')' => (CLOSE_ROUND, at + 1),
        b'[' => (OPEN_SQUARE, at + 1),
        b']' => (CLOSE_SQUARE, at + 1),
        b';' => (SEMICOLON, at + 1),
        b',' => (COMMA, at + 1),
        b'#' if next.is_ascii_digit() || next == b'$' => (
            STRING,
            word_end(bytes, at + 2, |byte| byte.is_ascii_hexdigit()),
        ),
        b'$' if next.is_ascii_hexdigit() => (
            NUMBER,
            word_end(bytes, at + 1, |byte| byte.is_ascii_hexdigit() || byte == b'_'),
        ),
        b'&' | b'%' if next.is_ascii_digit() => (NUMBER, word_end(bytes, at + 1, |byte| byte.is_ascii_digit())),
        // A word behind an ampersand is a name, whatever it says.
        b'&' if is_word(next) => (WORD, word_end(bytes, at + 1, is_word)),
        byte if byte.is_ascii_digit() => (NUMBER, number(bytes, at)),
        byte if is_word(byte) => (WORD, word_end(bytes, at, is_word)),
        b':' | b'<' | b'>' | b'+' | b'-' | b'*' | b'/' if next == b'=' => (MARK, at + 2),
        b'<' if next == b'>' => (MARK, at + 2),
        b'.' if next == b'.' => (MARK, at + 2),
        b'@' if next == b'@' => (MARK, at + 2),
        byte => (MARK, at + char_len(byte)),
    }
}

/// A comment or directive.
fn noted(text: &str, at: usize, end: usize, directive: bool) -> (Kind, usize) {
    if !directive {
        return (COMMENT, end);
    }
    let region = matches!(directive_name(&text[at..end]).as_str(), "region" | "endregion");
    (if region { REGION_MARK } else { DIRECTIVE }, end)
}

/// Bytes in which the end of a string of several lines is looked for, so that many without an end cost no more than others.
const TEXT_BLOCK_AT_MOST: usize = 32 * 1024;

/// A string ends on its line, unless it is one of three or more quotes.
fn string(bytes: &[u8], at: usize) -> (Kind, usize) {
    let quotes = word_end(bytes, at, |byte| byte == b'\'') - at;
    if quotes >= 3 && quotes % 2 == 1 && matches!(bytes.get(at + quotes), Some(b'\n' | b'\r')) {
        let mark = vec![b'\''; quotes];
        let most = bytes.len().min(at + quotes + TEXT_BLOCK_AT_MOST);
        if let Some(end) = memchr::memmem::find(&bytes[at + quotes..most], &mark) {
            return (STRING, at + quotes + end + quotes);
        }
    }
    match quoted_end(bytes, at, Escape::Doubled, true) {
        Some(end) => (STRING, end),
        None => (MARK, at + 1),
    }
}

fn number(bytes: &[u8], at: usize) -> usize {
    let mut end = word_end(bytes, at, |byte| byte.is_ascii_digit() || byte == b'_');
    if bytes.get(end) == Some(&b'.') && bytes.get(end + 1).is_some_and(u8::is_ascii_digit) {
        end = word_end(bytes, end + 1, |byte| byte.is_ascii_digit());
    }
    if matches!(bytes.get(end), Some(b'e' | b'E')) {
        let sign = usize::from(matches!(bytes.get(end + 1), Some(b'+' | b'-')));
        if bytes.get(end + 1 + sign).is_some_and(u8::is_ascii_digit) {
            end = word_end(bytes, end + 1 + sign, |byte| byte.is_ascii_digit());
        }
    }
    end
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}
