//! Lexemes of MATLAB and Octave, where quotes and blanks mean what is in front of them.

use crate::language::Kind;
use crate::reading::{begins_line, char_len, Escape, Lexeme, line_end, quoted_end, word_end};
use super::*;

/// All lexemes of a text; `octave` as in [`read`].
pub(super) fn lexemes(text: &str, octave: bool) -> Vec<Lexeme> {
    Lexer { text, bytes: text.as_bytes(), octave, found: Vec::new(), depth: Vec::new() }.run()
}

struct Lexer<'l> {
    text: &'l str,
    bytes: &'l [u8],
    octave: bool,
    found: Vec<Lexeme>,
    /// The brackets that are open.
    depth: Vec<u8>,
}

impl Lexer<'_> {
    fn run(mut self) -> Vec<Lexeme> {
        let mut at = 0;
        while let Some(&byte) = self.bytes.get(at) {
            if matches!(byte, b' ' | b'\t' | b'\r' | 0x0c) {
                at += 1;
                continue;
            }
            if byte.is_ascii_alphabetic() && self.begins_statement() && let Some(end) = self.command(at) {
                at = end;
                continue;
            }
            let (kind, end) = self.lexeme(at);
            let end = end.max(at + 1).min(self.bytes.len());
            self.found.push(Lexeme { kind, start: at as u32, end: end as u32 });
            match kind {
                OPEN_ROUND | OPEN_SQUARE | OPEN_CURLY => self.depth.push(byte),
                CLOSE_ROUND | CLOSE_SQUARE | CLOSE_CURLY => drop(self.depth.pop()),
                // A round bracket does not go on over lines; one left open is a mistake.
                NEWLINE if self.depth.last() == Some(&b'(') && !self.octave => self.depth.clear(),
                _ => {}
            }
            at = end;
        }
        self.found
    }

    fn begins_statement(&self) -> bool {
        self.depth.is_empty()
            && self.found.last().is_none_or(|last| matches!(last.kind, NEWLINE | SEMICOLON | COMMA | COMMENT))
    }

    /// `hold on`, `close all`: a word, then words that are no operators, each a string without quotes.
    fn command(&mut self, at: usize) -> Option<usize> {
        let end = word_end(self.bytes, at, is_word);
        let word = &self.text[at..end];
        let next = word_end(self.bytes, end, |byte| matches!(byte, b' ' | b'\t'));
        let first = *self.bytes.get(next)?;
        let dashed = first == b'-' && self.bytes.get(next + 1).is_some_and(u8::is_ascii_alphabetic);
        if next == end
            || keyword(word).is_some()
            || MEMBER_WORDS.contains(&word)
            || matches!(word, "global" | "persistent")
        {
            return None;
        }
        let argument = word_end(self.bytes, next, |byte| !matches!(byte, b' ' | b'\t' | b'\n' | b'\r' | b';' | b','));
        let behind = self.bytes
            .get(word_end(self.bytes, argument, |byte| matches!(byte, b' ' | b'\t')))
            .copied()
            .unwrap_or(
                b'\n',
            );
        let plain = (first.is_ascii_alphabetic() || dashed) && !self.text[next..argument].contains(['=', '(']);
        if !plain || matches!(behind, b'=' | b'(' | b'<' | b':') {
            return None;
        }
        self.found.push(Lexeme { kind: WORD, start: at as u32, end: end as u32 });
        let mut from = next;
        loop {
            let stop =
                word_end(self.bytes, from, |byte| !matches!(byte, b' ' | b'\t' | b'\n' | b'\r' | b';' | b',' | b'%'));
            if stop == from {
                return Some(from);
            }
            self.found.push(Lexeme { kind: COMMAND, start: from as u32, end: stop as u32 });
            from = word_end(self.bytes, stop, |byte| matches!(byte, b' ' | b'\t'));
        }
    }

    fn lexeme(&self, at: usize) -> (Kind, usize) {
        let bytes = self.bytes;
        let next = bytes.get(at + 1).copied().unwrap_or(b' ');
        match bytes[at] {
            b'\n' => (NEWLINE, at + 1),
            b'%' => (COMMENT, self.comment_end(at)),
            b'#' if self.octave || at == 0 => (COMMENT, self.comment_end(at)),
            b'.' if next == b'.' && bytes.get(at + 2) == Some(&b'.') => {
                // What joins the lines takes the line end along.
                let end = line_end(bytes, at);
                let newline = memchr::memchr(b'\n', &bytes[end..]).map_or(bytes.len(), |length| end + length + 1);
                (COMMENT, newline)
            }
            b'\\' if self.octave && matches!(next, b'\n' | b'\r') => (COMMENT, line_end(bytes, at) + 1),
            b'!' if next != b'=' && self.begins_statement() && !self.octave => (COMMAND, line_end(bytes, at)),
            b'"' => self.string(at),
            b'\'' if self.is_transpose(at) => (TRANSPOSE, at + 1),
            b'\'' => self.string(at),
            b'(' => (OPEN_ROUND, at + 1),
            b')' => (CLOSE_ROUND, at + 1),
            b'[' => (OPEN_SQUARE, at + 1),
            b']' => (CLOSE_SQUARE, at + 1),
            b'{' => (OPEN_CURLY, at + 1),
            b'}' => (CLOSE_CURLY, at + 1),
            b';' => (SEMICOLON, at + 1),
            b',' => (COMMA, at + 1),
            byte if byte.is_ascii_digit() || byte == b'.' && next.is_ascii_digit() => (NUMBER, number(bytes, at)),
            byte if is_word(byte) => {
                let end = word_end(bytes, at, is_word);
                let field =
                    self.found.last().is_some_and(|last| last.end as usize == at && last.of(self.text).ends_with('.'));
                // A field may be called like a keyword.
                (if field && keyword(&self.text[at..end]).is_some() { COMMAND } else { WORD }, end)
            }
            b'.' if next == b'\'' => (TRANSPOSE, at + 2),
            b'.' if matches!(next, b'*' | b'/' | b'\\' | b'^') => (MARK, at + 2),
            b'=' | b'~' | b'<' | b'>' | b'!' if next == b'=' => (MARK, at + 2),
            b'&' | b'|' | b'+' | b'-' if next == bytes[at] => (MARK, at + 2),
            byte => (MARK, at + char_len(byte)),
        }
    }

    /// A line comment, or a block between lines that are nothing but `%{` and `%}`.
    fn comment_end(&self, at: usize) -> usize {
        let bytes = self.bytes;
        let alone = |at: usize, brace: u8| {
            bytes.get(at + 1) == Some(&brace)
                && begins_line(bytes, at)
                && bytes[at + 2..line_end(bytes, at)].iter().all(u8::is_ascii_whitespace)
        };
        if !alone(at, b'{') {
            return line_end(bytes, at);
        }
        let mut depth = 1;
        let mut line = line_end(bytes, at);
        while let Some(start) = memchr::memchr(b'\n', &bytes[line..]).map(|next| line + next + 1) {
            let mark = word_end(bytes, start, |byte| matches!(byte, b' ' | b'\t'));
            line = line_end(bytes, start);
            if !matches!(bytes.get(mark), Some(b'%' | b'#')) {
                continue;
            }
            depth += i32::from(alone(mark, b'{')) - i32::from(alone(mark, b'}'));
            if depth == 0 {
                return line;
            }
        }
        bytes.len()
    }

    fn string(&self, at: usize) -> (Kind, usize) {
        let escape = if self.octave && self.bytes[at] == b'"' { Escape::Backslash } else { Escape::Doubled };
        match quoted_end(self.bytes, at, escape, true) {
            Some(end) => (STRING, end),
            None => (MARK, at + 1),
        }
    }

    /// A quote transposes what it touches; behind a blank it does so too, unless a blank parts elements there.
    fn is_transpose(&self, at: usize) -> bool {
        let Some(last) = self.found.last() else { return false };
        let operand = match last.kind {
            WORD => keyword(last.of(self.text)).is_none() || !self.depth.is_empty(),
            NUMBER | CLOSE_ROUND | CLOSE_SQUARE | CLOSE_CURLY | TRANSPOSE | COMMAND => true,
            STRING => last.end as usize == at,
            MARK => last.of(self.text) == "." && last.end as usize == at,
            _ => false,
        };
        let touches = last.end as usize == at;
        operand && (touches || !matches!(self.depth.last(), Some(b'[' | b'{')))
    }
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}

fn number(bytes: &[u8], at: usize) -> usize {
    let mut end = word_end(bytes, at, |byte| byte.is_ascii_alphanumeric());
    // `1./x` divides elements; `1.5` and `1.e3` are numbers.
    if bytes.get(end) == Some(&b'.') && !matches!(bytes.get(end + 1), Some(b'*' | b'/' | b'\\' | b'^' | b'\'' | b'.')) {
        end = word_end(bytes, end + 1, |byte| byte.is_ascii_alphanumeric());
    }
    let exponent = matches!(bytes.get(end - 1), Some(b'e' | b'E' | b'd' | b'D'));
    let hexadecimal = bytes.get(at + 1).is_some_and(|byte| matches!(byte, b'x' | b'X' | b'b' | b'B'));
    match bytes.get(end) {
        Some(b'+' | b'-') if exponent && !hexadecimal && bytes.get(end + 1).is_some_and(u8::is_ascii_digit) => {
            word_end(bytes, end + 1, |byte| byte.is_ascii_alphanumeric())
        }
        _ => end,
    }
}
