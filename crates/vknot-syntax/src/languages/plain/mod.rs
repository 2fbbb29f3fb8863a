//! Text of no known language, read by brackets, words and quotes, so that looks still work.
//!
//! Brackets nest where they match; one without a partner is an error token and closes nothing.

use crate::language::{Field, Kind, LANGUAGE, LanguageSpec, Reader};
use crate::role::Role;
use crate::tree::TreeBuilder;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "plain",
    title: "Plain text",
    reader: Reader::Own { kinds: KINDS, read },
    roles: &[&[(Role::File, &["text"]), (Role::Block, &["group"]), (Role::Name, &["word"]), (Role::String, &["quote"])]],
    ..LANGUAGE
};

const KINDS: &[&str] = &["text", "group", "word", "quote", "(", ")", "[", "]", "{", "}", "?"];
const TEXT: Kind = Kind(0);
const GROUP: Kind = Kind(1);
const WORD: Kind = Kind(2);
const QUOTE: Kind = Kind(3);
const FIRST_BRACKET: u16 = 4;
const MARK: Kind = Kind(10);
const BRACKETS: &[u8] = b"()[]{}";

fn read(text: &str, builder: &mut TreeBuilder) {
    let bytes = text.as_bytes();
    let partners = partners(bytes);
    builder.open(TEXT, Field(0));
    let mut at = 0;
    let mut next_partner = partners.iter().peekable();
    while let Some(&byte) = bytes.get(at) {
        let end = token_end(text, at);
        let (start, stop) = (at as u32, end as u32);
        match BRACKETS.iter().position(|bracket| *bracket == byte) {
            Some(index) => {
                let kind = Kind(FIRST_BRACKET + index as u16);
                let matched = next_partner.next_if(|partner| **partner == start).is_some();
                match (matched, index % 2) {
                    (false, _) => builder.leaf(Kind(KINDS.len() as u16), Field(0), start, stop),
                    (true, 0) => {
                        builder.open(GROUP, Field(0));
                        builder.leaf(kind, Field(0), start, stop);
                    }
                    (true, _) => {
                        builder.leaf(kind, Field(0), start, stop);
                        builder.close();
                    }
                }
            }
            None if byte.is_ascii_whitespace() => {}
            None if matches!(byte, b'"' | b'\'' | b'`') && end > at + 1 => builder.leaf(QUOTE, Field(0), start, stop),
            None if is_word(byte) => builder.leaf(WORD, Field(0), start, stop),
            None => builder.leaf(MARK, Field(0), start, stop),
        }
        at = end;
    }
}

/// Offsets of the brackets that have a partner, sorted. A closing bracket goes to the nearest open one of its own
/// shape; the open ones it jumps over stay alone.
fn partners(bytes: &[u8]) -> Vec<u32> {
    let mut open: [Vec<u32>; 3] = Default::default();
    let mut matched = Vec::new();
    for (at, byte) in bytes.iter().enumerate() {
        let Some(index) = BRACKETS.iter().position(|bracket| bracket == byte) else { continue };
        let (shape, at) = (index / 2, at as u32);
        if index % 2 == 0 {
            open[shape].push(at);
        } else if let Some(start) = open[shape].pop() {
            // What opened since then was skipped over and can no longer be closed.
            open.iter_mut().for_each(|stack| stack.truncate(stack.partition_point(|other| *other < start)));
            matched.extend([start, at]);
        }
    }
    matched.sort_unstable();
    matched
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}

/// Where the token that begins at `at` ends: a word, a quotation that closes on its own line, or one character.
fn token_end(text: &str, at: usize) -> usize {
    let bytes = text.as_bytes();
    let quote = bytes[at];
    if is_word(quote) {
        return at + bytes[at..].iter().take_while(|byte| is_word(**byte)).count();
    }
    if matches!(quote, b'"' | b'`') {
        let mut escaped = false;
        for (offset, byte) in bytes[at + 1..].iter().enumerate() {
            match byte {
                b'\n' => break,
                b'\\' => escaped = !escaped,
                byte if *byte == quote && !escaped => return at + offset + 2,
                _ => escaped = false,
            }
        }
    }
    at + 1
}
