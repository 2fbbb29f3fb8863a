//! `new List<Level>(known) { ... }`, `!reads<Level>(known)`, `(Gauge)find<Level>(known)`: the grammar takes the brackets of the type for
//! comparisons, and what is handed over for a cast.

use crate::reader::Mask;
use super::steps::{blank, closing, hide_tokens, is_word, run};

/// How far the parts of such an expression may reach, in bytes.
const REACH: usize = 400;

/// Hides the type arguments of such expressions.
pub(super) fn mask(text: &str, mask: &mut Mask) {
    creations(text.as_bytes(), mask);
    calls(text.as_bytes(), mask);
}

/// Calls behind an operator or a cast.
fn calls(bytes: &[u8], mask: &mut Mask) {
    for close in memchr::memmem::find_iter(bytes, b">(") {
        let from = close.saturating_sub(REACH);
        let front = bytes.get(from..close).unwrap_or_default();
        let types = front.iter().rev().take_while(|byte| is_word(**byte) || b" .,[]?".contains(*byte)).count();
        let Some(open) = close.checked_sub(types + 1).filter(|open| bytes[*open] == b'<' && types > 0) else {
            continue
        };
        let name = bytes[from..open].iter().rev().take_while(|byte| is_word(**byte) || **byte == b'.').count();
        let before = bytes[from..open - name].trim_ascii_end().last();
        let touches = name > 0 && bytes[close - types] != b' ';
        let cast = closing(&bytes[..bytes.len().min(close + REACH)], close + 1, (b'(', b')'))
            .and_then(|end| bytes.get(close + 2..end - 1))
            .is_some_and(is_type);
        if touches && cast && before.is_some_and(|before| b"!-~)+*/%&|^?:".contains(before)) {
            hide_tokens(mask, bytes, open, close + 1);
        }
    }
}

/// Whether something in round brackets could be a type, so that they could be a cast.
fn is_type(inside: &[u8]) -> bool {
    inside.first().is_some_and(|first| is_word(*first) && !first.is_ascii_digit())
        && inside.iter().all(|byte| is_word(*byte) || matches!(byte, b'.' | b'[' | b']' | b'<' | b'>'))
}

fn creations(bytes: &[u8], mask: &mut Mask) {
    for at in memchr::memmem::find_iter(bytes, b"new ") {
        if at > 0 && is_word(bytes[at - 1]) {
            continue;
        }
        if let Some((open, end)) = type_arguments(&bytes[..bytes.len().min(at + REACH)], at + 4) {
            hide_tokens(mask, bytes, open, end);
        }
    }
}

/// The brackets of a type behind `new`, where names could be compared there, and where something in round brackets that could be a type
/// and a curly bracket follow.
fn type_arguments(bytes: &[u8], name: usize) -> Option<(usize, usize)> {
    let open = run(bytes, name, |byte| is_word(byte) || byte == b'.');
    let end = closing(bytes, open, (b'<', b'>'))?;
    let compared = |byte: &u8| is_word(*byte) || byte.is_ascii_whitespace() || b".,<>[]?".contains(byte);
    let round = blank(bytes, end);
    let behind = closing(bytes, round, (b'(', b')'))?;
    let inside = &bytes[round + 1..behind - 1];
    let fits = open > name
        && bytes[open..end].iter().all(compared)
        && is_type(inside)
        && bytes.get(blank(bytes, behind)) == Some(&b'{');
    fits.then_some((open, end))
}
