//! A template behind a tag with type arguments (``sql<Level>`select` ``), which the grammar takes for comparisons: it is shown in brackets,
//! as what is handed to a call.

use crate::lexis::is_word;
use crate::reader::{Mask, Repair, REPAIR};

pub(crate) const RELIEF: Repair = Repair { mask: |text| relief(text, false), ..REPAIR };
/// For files with elements, in the text of which the same may stand.
pub(crate) const RELIEF_BESIDE_ELEMENTS: Repair = Repair { mask: |text| relief(text, true), ..REPAIR };

fn relief(text: &str, elements: bool) -> Option<Mask> {
    if !may_be_in(text) {
        return None;
    }
    let mut mask = Mask::new(text);
    show_brackets(text, elements, &mut mask);
    (!mask.inserted.is_empty()).then_some(mask)
}

/// Whether there may be such templates, which most texts can be told not to have.
pub(super) fn may_be_in(text: &str) -> bool {
    memchr::memmem::find(text.as_bytes(), b">`").is_some()
}

/// What is open in code.
#[derive(Clone, Copy)]
enum Open {
    Brace,
    /// A value in a template, and whether that is behind such a tag.
    Value { tagged: bool },
}

/// Puts brackets round the templates behind such tags.
pub(super) fn show_brackets(text: &str, elements: bool, mask: &mut Mask) {
    let bytes = text.as_bytes();
    let mut open: Vec<Open> = Vec::new();
    let (mut at, mut before) = (0, 0);
    while let Some(&byte) = bytes.get(at) {
        let next = bytes.get(at + 1).copied().unwrap_or(b' ');
        let mut template: Option<bool> = None;
        let end = match byte {
            b'"' | b'\'' => string_end(bytes, at),
            b'/' if next == b'/' => at + bytes[at..].iter().take_while(|byte| **byte != b'\n').count(),
            b'/' if next == b'*' => text[at + 2..].find("*/").map_or(bytes.len(), |end| at + end + 4),
            b'/' if begins_value(&text[before..at]) => pattern_end(bytes, at),
            b'`' => {
                let tagged = has_type_arguments(bytes, at, elements);
                if tagged {
                    mask.inserted.push((at as u32, b'('));
                }
                template = Some(tagged);
                at + 1
            }
            b'{' => {
                open.push(Open::Brace);
                at + 1
            }
            b'}' => {
                if let Some(Open::Value { tagged }) = open.pop() {
                    template = Some(tagged);
                }
                at + 1
            }
            byte if is_word(byte) => at + bytes[at..].iter().take_while(|byte| is_word(**byte)).count(),
            _ => at + 1,
        };
        let is_comment = byte == b'/' && matches!(next, b'/' | b'*');
        if !byte.is_ascii_whitespace() && !is_comment {
            before = at;
        }
        at = end;
        let Some(tagged) = template else { continue };
        at = template_end(bytes, at);
        match bytes.get(at.wrapping_sub(1)) {
            Some(b'{') => open.push(Open::Value { tagged }),
            _ if tagged => mask.inserted.push((at as u32, b')')),
            _ => {}
        }
    }
    mask.inserted.sort_by_key(|(at, _)| *at);
}

/// Behind a string, or at the end of its line where nothing else ends it.
pub(super) fn string_end(bytes: &[u8], at: usize) -> usize {
    let quote = bytes[at];
    let mut end = at + 1;
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'\\' => end += 1,
            b'\n' => return end,
            byte if byte == quote => return end + 1,
            _ => {}
        }
        end += 1;
    }
    bytes.len()
}

/// Behind the text of a template: where it ends, or where a value in it begins.
fn template_end(bytes: &[u8], from: usize) -> usize {
    let mut at = from;
    while let Some(&byte) = bytes.get(at) {
        at += match byte {
            b'\\' => 2,
            b'`' => return at + 1,
            b'$' if bytes.get(at + 1) == Some(&b'{') => return at + 2,
            _ => 1,
        };
    }
    bytes.len()
}

/// Whether a slash behind such code begins a regular expression.
fn begins_value(before: &str) -> bool {
    let before = before.trim_end();
    match before.bytes().next() {
        None => true,
        Some(first) if is_word(first) =>
            matches!(before, "return" | "typeof" | "case" | "in" | "of" | "yield" | "await"),
        Some(first) => !matches!(first, b')' | b']' | b'}' | b'"' | b'\'' | b'`' | b'/'),
    }
}

/// Behind a regular expression, or behind its first mark where it does not end on its line.
fn pattern_end(bytes: &[u8], at: usize) -> usize {
    let (mut end, mut class) = (at + 1, false);
    while let Some(&byte) = bytes.get(end) {
        match byte {
            b'\n' => break,
            b'\\' => end += 1,
            b'[' => class = true,
            b']' => class = false,
            b'/' if !class => return end + 1,
            _ => {}
        }
        end += 1;
    }
    at + 1
}

/// Whether type arguments of a tag end in front of a template. No template stands in them, so that no two searches pass the same text.
fn has_type_arguments(bytes: &[u8], at: usize, elements: bool) -> bool {
    let Some(close) = at.checked_sub(1).filter(|close| bytes[*close] == b'>') else { return false };
    let (mut start, mut open) = (close, 0u32);
    while let Some(before) = start.checked_sub(1) {
        start = before;
        match bytes[start] {
            b'`' => return false,
            b'>' if start.checked_sub(1).is_some_and(|at| bytes[at] == b'=') => {}
            b'>' | b')' | b']' | b'}' => open += 1,
            b'<' if open == 0 => break,
            b'<' | b'(' | b'[' | b'{' => match open.checked_sub(1) {
                Some(around) => open = around,
                None => return false,
            },
            b';' if open == 0 => return false,
            _ => {}
        }
    }
    let tagged = start.checked_sub(1).is_some_and(|tag| is_word(bytes[tag]) || matches!(bytes[tag], b')' | b']'));
    let first = bytes[start + 1];
    tagged
        && bytes[start] == b'<'
        && match elements {
            // No element begins like that, but for one with a name of a type.
            true => matches!(first, b'{' | b'[') || first.is_ascii_uppercase() && !ends_element(&bytes[at..]),
            false => is_word(first) || matches!(first, b'{' | b'[' | b'(' | b'"' | b'\'' | b'\n'),
        }
}

/// Whether what begins with such a mark is the text of an element.
fn ends_element(text: &[u8]) -> bool {
    let text = text.get(1..).unwrap_or_default();
    let end = template_end(text, 0);
    text.get(end..).is_some_and(|behind| behind.starts_with(b"</"))
}
