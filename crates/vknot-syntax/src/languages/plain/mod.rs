//! Text of no known language, read by indentation, brackets, words and quotes, so that looks still work.
//!
//! Brackets nest where they match; one without a partner is an error token and closes nothing. Lines that are indented more than
//! the one above are a block below it.

use crate::language::{Field, LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::{begins_line, char_len, Escape, kinds, line_end, quoted_end, word_end};
use crate::tree::TreeBuilder;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "plain",
    title: "Plain text",
    roles: &[ROLES],
    line_comment: "#",
    other_line_comments: &["//", "--", ";"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: KINDS, read },
    ..READING_OF_MOST
};

kinds! {
    TEXT = "text" as File,
    GROUP = "group" as Block,
    INDENTED = "indented_lines" as Block,
    WORD = "word" as Name,
    QUOTE = "quote" as String,
    COMMENT = "comment" as Comment,
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    MARK = "?",
}

const BRACKETS: &[u8] = b"()[]{}";
const BRACKET_KINDS: [crate::language::Kind; 6] = [
    OPEN_ROUND, CLOSE_ROUND, OPEN_SQUARE, CLOSE_SQUARE, OPEN_CURLY, CLOSE_CURLY,
];

/// How deep indentation nests; blanks beyond are not counted.
const LEVELS_AT_MOST: usize = 256;

fn read(text: &str, builder: &mut TreeBuilder) {
    let bytes = text.as_bytes();
    let partners = partners(text);
    builder.open(TEXT, Field(0));
    let mut next_partner = partners.iter().peekable();
    let mut groups = 0;
    // The columns at which blocks of lines began.
    let mut levels: Vec<usize> = vec![0];
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() {
            at += 1;
            continue;
        }
        if groups == 0 && begins_line(bytes, at) {
            settle(&mut levels, column(bytes, at), builder);
        }
        let end = token_end(text, at);
        match BRACKETS.iter().position(|bracket| *bracket == byte) {
            Some(index) => {
                let matched = next_partner.next_if(|partner| **partner == at).is_some();
                match (matched, index % 2) {
                    (false, _) => builder.error(at, end),
                    (true, 0) => {
                        builder.open(GROUP, Field(0));
                        builder.token(BRACKET_KINDS[index], at, end);
                        groups += 1;
                    }
                    (true, _) => {
                        builder.token(BRACKET_KINDS[index], at, end);
                        builder.close();
                        groups -= 1;
                    }
                }
            }
            None if is_comment(bytes, at) => builder.token(COMMENT, at, end),
            None if matches!(byte, b'"' | b'`') && end > at + 1 => builder.token(QUOTE, at, end),
            None if is_word(byte) => builder.token(WORD, at, end),
            None => builder.token(MARK, at, end),
        }
        at = end;
    }
}

/// Opens and closes blocks of lines for a line that begins at this column.
fn settle(levels: &mut Vec<usize>, column: usize, builder: &mut TreeBuilder) {
    while levels.len() > 1 && levels.last().is_some_and(|last| *last > column) {
        levels.pop();
        builder.close();
    }
    if levels.len() < LEVELS_AT_MOST && levels.last().is_some_and(|last| *last < column) {
        levels.push(column);
        builder.open(INDENTED, Field(0));
    }
}

fn column(bytes: &[u8], at: usize) -> usize {
    let blanks = bytes[..at].iter().rev().take_while(|byte| matches!(byte, b' ' | b'\t'));
    blanks.map(|byte| if *byte == b'\t' { 4 } else { 1 }).sum()
}

/// Offsets of the brackets that have a partner, sorted. A closing bracket goes to the nearest open one of its own
/// shape; the open ones it jumps over stay alone.
fn partners(text: &str) -> Vec<usize> {
    let bytes = text.as_bytes();
    let mut open: [Vec<usize>; 3] = Default::default();
    let mut matched = Vec::new();
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        let end = token_end(text, at);
        if let Some(index) = BRACKETS.iter().position(|bracket| *bracket == byte) {
            let shape = index / 2;
            if index % 2 == 0 {
                open[shape].push(at);
            } else if let Some(start) = open[shape].pop() {
                // What opened since then was skipped over and can no longer be closed.
                open.iter_mut().for_each(|stack| stack.truncate(stack.partition_point(|other| *other < start)));
                matched.extend([start, at]);
            }
        }
        at = end;
    }
    matched.sort_unstable();
    matched
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}

/// Whether the rest of the line looks like a comment: one of the usual marks begins it.
fn is_comment(bytes: &[u8], at: usize) -> bool {
    let rest = &bytes[at..];
    begins_line(bytes, at)
        && (rest.starts_with(b"#") || rest.starts_with(b"//") || rest.starts_with(b"-- ") || rest.starts_with(b";"))
}

/// Where the token that begins at `at` ends: a word, a comment, a quotation that closes on its own line, or one character.
fn token_end(text: &str, at: usize) -> usize {
    let bytes = text.as_bytes();
    match bytes[at] {
        byte if is_word(byte) => word_end(bytes, at, is_word),
        _ if is_comment(bytes, at) => line_end(bytes, at),
        b'"' | b'`' => quoted_end(bytes, at, Escape::Backslash, true).unwrap_or(at + 1),
        byte => at + char_len(byte),
    }
}
