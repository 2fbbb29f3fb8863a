//! Lexemes of C and C++. A directive of the preprocessor is one lexeme, but for `#define`, whose name and body are told apart.

use crate::language::Kind;
use crate::reading::{begins_line, block_end, char_len, Escape, Lexeme, line_end, quoted_end, word_end};
use super::*;

pub(super) fn lexemes(text: &str) -> Vec<Lexeme> {
    let bytes = text.as_bytes();
    let mut found: Vec<Lexeme> = Vec::with_capacity(text.len() / 4);
    let (mut at, mut endless) = (0, Vec::new());
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() || byte == b'\\' && splices(bytes, at) {
            at += 1;
            continue;
        }
        if byte == b'#' && begins_line(bytes, at) {
            at = directive(text, at, &mut found);
            continue;
        }
        let (kind, end) = lexeme(bytes, at, &mut endless);
        let end = end.max(at + 1).min(bytes.len());
        found.push(Lexeme { kind, start: at as u32, end: end as u32 });
        at = end;
    }
    found
}

fn splices(bytes: &[u8], at: usize) -> bool {
    matches!(bytes.get(at + 1), Some(b'\n' | b'\r'))
}

/// Where a directive ends: with its line, lines joined by backslashes included, in front of a comment.
fn directive_end(bytes: &[u8], at: usize) -> usize {
    let mut end = at;
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'\n' => break,
            b'\\' if bytes.get(end + 1) == Some(&b'\r') => end += 3,
            b'\\' => end += 2,
            b'/' if bytes.get(end + 1) == Some(&b'/') => break,
            b'/' if bytes.get(end + 1) == Some(&b'*') => {
                let comment = block_end(bytes, end, (b"/*", b"*/"), false);
                // A comment inside the line, joined lines included, belongs to the directive; one that goes on over lines ends it.
                if unescaped_line_end(&bytes[end..comment]) {
                    break;
                }
                end = comment;
            }
            b'"' | b'\'' => end = quoted_end(bytes, end, Escape::Backslash, true).unwrap_or(end + 1),
            _ => end += 1,
        }
    }
    let end = end.min(bytes.len());
    at + bytes[at..end].trim_ascii_end().len()
}

fn directive(text: &str, at: usize, found: &mut Vec<Lexeme>) -> usize {
    let bytes = text.as_bytes();
    let end = directive_end(bytes, at).max(at + 1);
    let name = word_end(bytes, at + 1, |byte| matches!(byte, b' ' | b'\t'));
    let name_end = word_end(bytes, name, is_word);
    let mut push = |kind, start: usize, end: usize| {
        found.push(Lexeme { kind, start: start as u32, end: end as u32 });
    };
    match &text[name..name_end] {
        "include" | "include_next" | "import" => push(INCLUDE, at, end),
        "pragma"
            if text[name_end..end].trim_start().starts_with("region")
            || text[name_end..end].trim_start().starts_with("endregion") =>
        {
            push(REGION_MARK, at, end);
        }
        "define" => {
            let defined = word_end(bytes, name_end, |byte| matches!(byte, b' ' | b'\t'));
            let defined_end = word_end(bytes, defined, is_word).min(end);
            push(MACRO_DEFINITION, at, name_end);
            push(WORD, defined.min(end), defined_end);
            // A body on the next line begins with the backslash that takes it there: its lines stay as they are.
            let body = word_end(bytes, defined_end, |byte| matches!(byte, b' ' | b'\t'));
            if word_end(bytes, body, |byte| byte.is_ascii_whitespace() || byte == b'\\') < end {
                push(MACRO_BODY, body, end);
            }
        }
        _ => push(DIRECTIVE, at, end),
    }
    end
}

fn lexeme<'t>(bytes: &'t [u8], at: usize, endless: &mut Vec<&'t [u8]>) -> (Kind, usize) {
    let next = bytes.get(at + 1).copied().unwrap_or(b' ');
    match bytes[at] {
        b'/' if next == b'/' => (COMMENT, spliced_line_end(bytes, at)),
        b'/' if next == b'*' => (COMMENT, block_end(bytes, at, (b"/*", b"*/"), false)),
        b'"' => quoted(bytes, at, at, STRING),
        b'\'' => quoted(bytes, at, at, CHARACTER),
        b'(' => (OPEN_ROUND, at + 1),
        b')' => (CLOSE_ROUND, at + 1),
        b'[' => (OPEN_SQUARE, at + 1),
        b']' => (CLOSE_SQUARE, at + 1),
        b'{' => (OPEN_CURLY, at + 1),
        b'}' => (CLOSE_CURLY, at + 1),
        b';' => (SEMICOLON, at + 1),
        b',' => (COMMA, at + 1),
        byte if byte.is_ascii_digit() || byte == b'.' && next.is_ascii_digit() => (NUMBER, number(bytes, at)),
        byte if is_word(byte) => word(bytes, at, endless),
        // A word of Objective-C, whose statements then read like those of macros.
        b'@' if next.is_ascii_alphabetic() => (WORD, word_end(bytes, at + 1, is_word)),
        b'<' if next == b'<' => (MARK, at + 2 + usize::from(bytes.get(at + 2) == Some(&b'='))),
        b'.' if next == b'.' && bytes.get(at + 2) == Some(&b'.') => (MARK, at + 3),
        b'<' if bytes[at..].starts_with(b"<=>") => (MARK, at + 3),
        byte if is_doubled(byte, next) => (MARK, at + 2),
        byte => (MARK, at + char_len(byte)),
    }
}

/// Operators of two characters. Two closing angle brackets are two.
fn is_doubled(byte: u8, next: u8) -> bool {
    match byte {
        b':' | b'&' | b'|' | b'+' => next == byte || next == b'=' && byte != b':',
        b'-' => matches!(next, b'-' | b'=' | b'>'),
        b'=' | b'!' | b'<' | b'>' | b'*' | b'/' | b'%' | b'^' => next == b'=',
        b'#' => next == b'#',
        _ => false,
    }
}

fn spliced_line_end(bytes: &[u8], at: usize) -> usize {
    let mut end = line_end(bytes, at);
    while bytes.get(end - 1) == Some(&b'\\') && end < bytes.len() {
        let next = end + usize::from(bytes.get(end) == Some(&b'\r')) + 1;
        end = line_end(bytes, next.min(bytes.len()));
    }
    end
}

/// A quotation, or its mark alone when it does not end on its line.
fn quoted(bytes: &[u8], start: usize, quote: usize, kind: Kind) -> (Kind, usize) {
    match quoted_end(bytes, quote, Escape::Backslash, false) {
        Some(end) if !unescaped_line_end(&bytes[quote..end]) => (kind, end),
        _ => (MARK, start.max(quote) + 1),
    }
}

fn unescaped_line_end(text: &[u8]) -> bool {
    let ends = memchr::memchr_iter(b'\n', text);
    ends.into_iter().any(|at| !text[..at].trim_ascii_end().ends_with(b"\\"))
}

/// A word, or a string or character with a prefix.
fn word<'t>(bytes: &'t [u8], at: usize, endless: &mut Vec<&'t [u8]>) -> (Kind, usize) {
    let end = word_end(bytes, at, is_word);
    let prefix = &bytes[at..end];
    match bytes.get(end) {
        Some(b'"') if matches!(prefix, b"R" | b"LR" | b"uR" | b"UR" | b"u8R") => match raw_string(bytes, end, endless) {
            Some(end) => (STRING, end),
            None => (WORD, end),
        },
        Some(b'"') if matches!(prefix, b"L" | b"u" | b"U" | b"u8") => quoted(bytes, at, end, STRING),
        Some(b'\'') if matches!(prefix, b"L" | b"u" | b"U" | b"u8") => quoted(bytes, at, end, CHARACTER),
        _ => (WORD, end),
    }
}

/// How many marks of raw strings that end nowhere are looked for in a file.
const ENDLESS_AT_MOST: usize = 16;

/// `R"mark( ... )mark"`. A mark whose end is not there is in `endless` from then on, and is not looked for again.
fn raw_string<'t>(bytes: &'t [u8], quote: usize, endless: &mut Vec<&'t [u8]>) -> Option<usize> {
    let open = quote + 1 + memchr::memchr(b'(', bytes.get(quote + 1..quote + 20.min(bytes.len() - quote))?)?;
    let mark = &bytes[quote + 1..open];
    if endless.contains(&mark) || endless.len() >= ENDLESS_AT_MOST {
        return None;
    }
    let closing = [b")".as_slice(), mark, b"\""].concat();
    let found = memchr::memmem::find(&bytes[open..], &closing);
    if found.is_none() {
        endless.push(mark);
    }
    found.map(|found| open + found + closing.len())
}

fn number(bytes: &[u8], at: usize) -> usize {
    let mut end = at;
    loop {
        end = word_end(bytes, end, |byte| is_word(byte) || byte == b'.');
        let last = bytes.get(end.wrapping_sub(1)).copied().unwrap_or(b' ');
        let behind = bytes.get(end + 1).copied().unwrap_or(b' ');
        match bytes.get(end) {
            Some(b'\'') if behind.is_ascii_alphanumeric() => end += 1,
            Some(b'+' | b'-')
                if matches!(last, b'e' | b'E' | b'p' | b'P')
                && behind.is_ascii_digit()
                && !hexadecimal(
                    bytes,
                    at,
                    last,
                ) => end += 1,
            _ => return end,
        }
    }
}

/// In a hexadecimal number an `e` is a digit.
fn hexadecimal(bytes: &[u8], at: usize, last: u8) -> bool {
    matches!(bytes.get(at + 1), Some(b'x' | b'X')) && matches!(last, b'e' | b'E')
}

pub(super) fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'$') || byte >= 0x80
}
