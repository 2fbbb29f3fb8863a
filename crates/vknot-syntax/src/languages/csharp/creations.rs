//! `new List<Level>(known) { ... }`: the grammar takes the type's brackets for comparisons, and what is handed over for a cast.

use crate::reader::Mask;
use super::steps::{blank, closing, hide_tokens, is_word, run};

/// How far the parts of such an expression may reach, in bytes.
const REACH: usize = 400;

/// Hides the type arguments of such expressions.
pub(super) fn mask(text: &str, mask: &mut Mask) {
    let bytes = text.as_bytes();
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
    let cast = |byte: &u8| is_word(*byte) || matches!(byte, b'.' | b'[' | b']' | b'<' | b'>');
    let fits = open > name
        && bytes[open..end].iter().all(compared)
        && inside.first().is_some_and(|first| is_word(*first) && !first.is_ascii_digit())
        && inside.iter().all(cast)
        && bytes.get(blank(bytes, behind)) == Some(&b'{');
    fits.then_some((open, end))
}
