//! Hand-made readers, and what they share.
//!
//! A reader goes over the bytes once, gives nodes to the [`TreeBuilder`](crate::tree::TreeBuilder) in preorder, and never
//! stops at an error: what it cannot place becomes an error token, and it goes on behind it. Depth is kept on a stack of its own.

pub(crate) mod braces;
pub(crate) mod brackets;
mod closers;
mod conditionals;
pub(crate) mod expressions;
pub(crate) mod forms;
pub(crate) mod formulas;
pub(crate) mod grammar;
mod lexeme;
mod margins;
pub(crate) mod matrices;
pub(crate) mod pascal;
mod regroup;
pub(crate) mod sheets;

pub(crate) use brackets::{NO_PARTNER, partners};
pub(crate) use lexeme::Lexeme;
pub(crate) use closers::completed;

/// Numbers the kinds of a hand-made reader: a constant for each, and the tables of their names and roles.
macro_rules! kinds {
    ($($constant:ident = $name:literal $(as $role:ident)?,)*) => {
        #[allow(non_camel_case_types, clippy::upper_case_acronyms)]
        enum Number { $($constant),* }
        $(pub(crate) const $constant: $crate::language::Kind = $crate::language::Kind(Number::$constant as u16);)*
        /// Names of the kinds, in the order of their numbers.
        pub(crate) const KINDS: &[&str] = &[$($name),*];
        /// Their roles.
        pub(crate) const ROLES: &[$crate::language::RoleRow] = &[$($(($crate::role::Role::$role, &[$name]),)?)*];
    };
}
pub(crate) use kinds;

/// Where the line that holds `at` ends, before its line end.
pub(crate) fn line_end(bytes: &[u8], at: usize) -> usize {
    let rest = bytes.get(at..).unwrap_or(b"");
    let end = memchr::memchr(b'\n', rest).map_or(bytes.len(), |length| at + length);
    if end > at && bytes.get(end - 1) == Some(&b'\r') { end - 1 } else { end }
}

/// Where the word that begins at `at` ends.
pub(crate) fn word_end(bytes: &[u8], at: usize, is_word: impl Fn(u8) -> bool) -> usize {
    let rest = bytes.get(at..).unwrap_or(b"");
    at + rest.iter().position(|byte| !is_word(*byte)).unwrap_or(rest.len())
}

/// How a quotation holds its own quote mark.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Escape {
    /// Behind a backslash.
    Backslash,
    /// Doubled.
    Doubled,
}

/// Where the quotation that begins at `at` ends, behind its closing mark. With `one_line` it must end on its line. `None` when it
/// does not end.
pub(crate) fn quoted_end(bytes: &[u8], at: usize, escape: Escape, one_line: bool) -> Option<usize> {
    let quote = *bytes.get(at)?;
    let mut from = at + 1;
    loop {
        let rest = bytes.get(from..)?;
        let found = match escape {
            Escape::Backslash => memchr::memchr2(quote, b'\\', rest)?,
            Escape::Doubled => memchr::memchr(quote, rest)?,
        };
        if one_line && memchr::memchr(b'\n', &rest[..found]).is_some() {
            return None;
        }
        let next = from + found + 1;
        match (bytes[from + found], escape) {
            (b'\\', Escape::Backslash) if one_line && bytes.get(next) == Some(&b'\n') && quote != b'"' => return None,
            (b'\\', Escape::Backslash) => from = next + 1,
            (_, Escape::Doubled) if bytes.get(next) == Some(&quote) => from = next + 1,
            _ => return Some(next),
        }
    }
}

/// Where a block comment that begins at `at` ends, behind its closing mark; the end of the text if it does not. Nested ones count
/// when `nests`.
pub(crate) fn block_end(bytes: &[u8], at: usize, (open, close): (&[u8], &[u8]), nests: bool) -> usize {
    let mut depth = 1;
    let mut from = at + open.len();
    let Some(&last) = close.first() else { return bytes.len() };
    while let Some(rest) = bytes.get(from..) {
        let next = match open.first() {
            Some(&first) if nests => memchr::memchr2(first, last, rest),
            _ => memchr::memchr(last, rest),
        };
        let Some(found) = next else { break };
        from += found;
        if bytes[from..].starts_with(close) {
            from += close.len();
            depth -= 1;
            if depth == 0 {
                return from;
            }
        } else if nests && bytes[from..].starts_with(open) {
            from += open.len();
            depth += 1;
        } else {
            from += 1;
        }
    }
    bytes.len()
}

/// How many bytes the character has that begins with this one.
pub(crate) fn char_len(byte: u8) -> usize {
    match byte {
        0xf0.. => 4,
        0xe0.. => 3,
        0xc0.. => 2,
        _ => 1,
    }
}

/// Whether the line of `at` has nothing but blanks in front of it.
pub(crate) fn begins_line(bytes: &[u8], at: usize) -> bool {
    let before = bytes.get(..at).unwrap_or(b"");
    !matches!(before.iter().rev().find(|byte| !matches!(byte, b' ' | b'\t')), Some(byte) if *byte != b'\n')
}
