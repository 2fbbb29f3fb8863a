//! `new List<Level>(known) { ... }`: the grammar takes the type's brackets for comparisons, and what is handed over for a cast.

use crate::reader::Mask;

/// How far the parts of such an expression may reach, in bytes.
const REACH: usize = 400;

/// Hides the type arguments of such expressions; `None` when there is none.
pub(super) fn mask(text: &str) -> Option<Mask> {
    let bytes = text.as_bytes();
    let mut mask: Option<Mask> = None;
    for at in memchr::memmem::find_iter(bytes, b"new ") {
        if at > 0 && is_word(bytes[at - 1]) {
            continue;
        }
        let Some((open, end)) = type_arguments(&bytes[..bytes.len().min(at + REACH)], at + 4) else { continue };
        let mask = mask.get_or_insert_with(|| Mask::new(text));
        let mut from = open;
        while from < end {
            let word = bytes[from..end].iter().take_while(|byte| is_word(**byte)).count();
            if !bytes[from].is_ascii_whitespace() {
                mask.hide(from, from + word.max(1));
            }
            from += word.max(1);
        }
    }
    mask
}

/// The brackets of a type behind `new`, where names could be compared there, and where something in round brackets that could be a type
/// and a curly bracket follow.
fn type_arguments(bytes: &[u8], name: usize) -> Option<(usize, usize)> {
    let open = run(bytes, name, |byte| is_word(byte) || byte == b'.');
    let end = closing(bytes, open, (b'<', b'>'))?;
    let compared = |byte: &u8| is_word(*byte) || byte.is_ascii_whitespace() || matches!(byte, b'.' | b',' | b'<' | b'>');
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

/// Behind the partner of a bracket.
fn closing(bytes: &[u8], open: usize, (opens, closes): (u8, u8)) -> Option<usize> {
    bytes.get(open).filter(|byte| **byte == opens)?;
    let mut depth = 0;
    for (at, byte) in bytes.iter().enumerate().skip(open) {
        if *byte == opens {
            depth += 1;
        } else if *byte == closes {
            depth -= 1;
        }
        match (depth, byte) {
            (0, _) => return Some(at + 1),
            (_, b';' | b'{' | b'}' | b'"') => return None,
            _ => {}
        }
    }
    None
}

fn blank(bytes: &[u8], at: usize) -> usize {
    run(bytes, at, |byte| byte.is_ascii_whitespace())
}

/// Behind the bytes of a kind.
fn run(bytes: &[u8], at: usize, is_kind: impl Fn(u8) -> bool) -> usize {
    at + bytes.get(at..).unwrap_or_default().iter().take_while(|byte| is_kind(**byte)).count()
}

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}
