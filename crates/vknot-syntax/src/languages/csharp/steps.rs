//! Steps over the bytes of a text, for what is looked for before it is read.

use crate::reader::Mask;

/// Hides a span, each word and mark as a token of its own.
pub(super) fn hide_tokens(mask: &mut Mask, bytes: &[u8], start: usize, end: usize) {
    let mut from = start;
    while from < end {
        let word = bytes[from..end].iter().take_while(|byte| is_word(**byte)).count();
        if !bytes[from].is_ascii_whitespace() {
            mask.hide_code(from, from + word.max(1));
        }
        from += word.max(1);
    }
}

/// Behind the partner of a bracket.
pub(super) fn closing(bytes: &[u8], open: usize, (opens, closes): (u8, u8)) -> Option<usize> {
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

pub(super) fn blank(bytes: &[u8], at: usize) -> usize {
    run(bytes, at, |byte| byte.is_ascii_whitespace())
}

/// Behind the bytes of a kind.
pub(super) fn run(bytes: &[u8], at: usize, is_kind: impl Fn(u8) -> bool) -> usize {
    at + bytes.get(at..).unwrap_or_default().iter().take_while(|byte| is_kind(**byte)).count()
}

pub(super) fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
}

/// Whether something is put in what ends in front of a place.
pub(super) fn is_assigned(bytes: &[u8], at: usize) -> bool {
    let operator = bytes.get(at..).unwrap_or_default();
    let sign = operator.iter().take_while(|byte| b"+-*/%&|^<>?".contains(byte)).count();
    sign <= 3
        && operator.get(sign) == Some(&b'=')
        && !matches!(operator.get(sign + 1), Some(b'=' | b'>'))
        && !matches!(&operator[..sign], b"<" | b">")
}
