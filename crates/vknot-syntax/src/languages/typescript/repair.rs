//! What the grammar does not know: variance words, call signatures parted by line ends alone, types imported in place, names in clauses.

use crate::languages::javascript::clauses;
use crate::lexis::is_word;
use super::templates::{may_be_in, show_brackets, string_end};
use crate::reader::{Mask, Repair, REPAIR as REPAIR_OF_MOST};

pub(crate) const REPAIR: Repair = Repair {
    mask: |text| mask(text, false),
    kind: "accessibility_modifier",
    ..REPAIR_OF_MOST
};
pub(crate) const REPAIR_BESIDE_ELEMENTS: Repair = Repair { mask: |text| mask(text, true), ..REPAIR };

fn mask(text: &str, elements: bool) -> Option<Mask> {
    let mut mask = Mask::new(text);
    let bytes = text.as_bytes();
    let mut at = 0;
    // The last byte that is neither blank nor comment, and where it ends.
    let (mut before, mut reached) = (b'\n', 0);
    let mut changed = clauses::names(text, &mut mask) | clauses::phases(text, &mut mask);
    while let Some(&byte) = bytes.get(at) {
        match byte {
            b'"' | b'\'' => at = string_end(bytes, at),
            b'\\' if bytes.get(at + 1) == Some(&b'`') => {
                // In a template that is a type the grammar takes it for the end.
                mask.replace(at, at + 2, b'x');
                changed = true;
                at += 2;
            }
            b'/' if bytes.get(at + 1) == Some(&b'/') => {
                at += bytes[at..].iter().take_while(|byte| **byte != b'\n').count();
                continue;
            }
            b'/' if bytes.get(at + 1) == Some(&b'*') => {
                at = text[at + 2..].find("*/").map_or(bytes.len(), |end| at + end + 4);
                continue;
            }
            b'<' if begins_line(bytes, at) && ends_type(before) => {
                // A line end is what parts this signature from the one before.
                if bytes.get(reached).is_some_and(u8::is_ascii_whitespace) {
                    mask.set(reached, b';');
                    changed = true;
                }
                at += 1;
            }
            byte if byte.is_ascii_alphabetic() || byte == b'_' || byte == b'$' => {
                let end = at + bytes[at..].iter().take_while(|byte| is_word(**byte)).count();
                changed |= word(&mut mask, bytes, (at, end), before);
                (before, reached) = (bytes[end - 1], end);
                at = end;
                continue;
            }
            byte if byte.is_ascii_whitespace() => {
                at += 1;
                continue;
            }
            // The body of a function may follow, and no signature.
            b'=' if bytes.get(at + 1) == Some(&b'>') => at += 2,
            _ => at += 1,
        }
        (before, reached) = (byte, at);
    }
    if may_be_in(text) {
        show_brackets(text, elements, &mut mask);
    }
    changed.then_some(mask)
}

/// Masks one word where the grammar would stumble over it; says whether it did.
fn word(mask: &mut Mask, bytes: &[u8], (start, end): (usize, usize), before: u8) -> bool {
    let next = bytes[end..].iter().position(|byte| !byte.is_ascii_whitespace()).map_or(bytes.len(), |gap| end + gap);
    let follows = bytes.get(next).copied().unwrap_or(b' ');
    match &bytes[start..end] {
        b"in" | b"out" if matches!(before, b'<' | b',' | b'n') && next > end && is_word(follows) => {
            let listed = before != b'n'
                || mask.text[..start].trim_ascii_end().ends_with(b"<")
                || mask.text[..start].trim_ascii_end().ends_with(b",");
            if listed {
                mask.hide(start, end);
            }
            listed
        }
        b"type" if follows == b'*' => {
            mask.hide(start, end);
            true
        }
        // By itself the grammar knows it.
        b"accessor" if next > end && is_word(follows) && follows_modifier(&bytes[..start]) => {
            mask.hide(start, end);
            true
        }
        // Behind `for (` the grammar knows other declarations.
        b"using" if before == b'(' && next > end && is_word(follows) && mask.text[..start].ends_with(b"for (") => {
            mask.stand_in_word(start, end, "const");
            true
        }
        b"import" if follows == b'(' => {
            let Some(close) = bytes[next..].iter().position(|byte| *byte == b')') else { return false };
            let imported = is_module(bytes[next + 1..next + close].trim_ascii());
            if imported {
                mask.replace(start, next + close + 1, b'i');
            }
            imported
        }
        _ => false,
    }
}

/// Whether a text ends with a word that modifies a member.
fn follows_modifier(text: &[u8]) -> bool {
    let text = text.trim_ascii_end();
    let begin = text.iter().rposition(|byte| !is_word(*byte)).map_or(0, |at| at + 1);
    MODIFIERS.contains(&&text[begin..])
}

/// Words that modify a member of a class.
const MODIFIERS: &[&[u8]] =
    &[b"abstract", b"declare", b"override", b"private", b"protected", b"public", b"readonly", b"static"];

/// Whether a string names a module, with attributes behind it or alone.
fn is_module(text: &[u8]) -> bool {
    let quoted = text.first().is_some_and(|byte| matches!(byte, b'"' | b'\''));
    let behind = if quoted { text[string_end(text, 0).min(text.len())..].trim_ascii() } else { b"?" };
    let attributes = behind.strip_prefix(b",").map(<[u8]>::trim_ascii);
    behind.is_empty() || attributes.is_some_and(|list| list.starts_with(b"{") && list.ends_with(b"}"))
}

/// Whether a type may end with this byte.
fn ends_type(byte: u8) -> bool {
    is_word(byte) || matches!(byte, b'>' | b']' | b')' | b'}' | b'"' | b'\'')
}

fn begins_line(bytes: &[u8], at: usize) -> bool {
    bytes[..at].iter().rev().find(|byte| !matches!(byte, b' ' | b'\t')) == Some(&b'\n')
}
