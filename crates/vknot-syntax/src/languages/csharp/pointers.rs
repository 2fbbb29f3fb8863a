//! `*(int*)(levels + 4) = 3`: the grammar knows only names behind a `*`. What is pointed to otherwise is shown to it as what it knows:
//! where it is a value, behind a `&`; where something is put there, as a list in square brackets, without its cast.

use crate::reader::Mask;
use super::steps::{blank, closing, hide_tokens, is_assigned, is_word, run};

/// How far such an expression may reach, in bytes.
const REACH: usize = 400;

/// Words that a value may follow.
const WORDS: &[&[u8]] = &[b"return", b"else", b"do", b"in", b"case", b"throw", b"when"];

/// What stands behind a `*`.
struct Target {
    /// `(int*)` in front of it.
    cast: (usize, usize),
    /// `++` and the like, or `&`, in front of it.
    before: (usize, usize),
    core: (usize, usize),
    /// `++` or `--` behind it.
    behind: (usize, usize),
}

/// Shows the grammar such expressions as it knows them.
pub(super) fn mask(text: &str, mask: &mut Mask) {
    let bytes = text.as_bytes();
    for star in memchr::memchr_iter(b'*', bytes) {
        let before = star.checked_sub(1).map(|at| bytes[at]);
        let begins = bytes.get(star + 1).is_some_and(|byte| is_word(*byte) || matches!(byte, b'(' | b'+' | b'-'));
        if !begins || matches!(before, Some(b'/' | b'*')) {
            continue;
        }
        let reached = &bytes[..bytes.len().min(star + REACH)];
        let Some(target) = target(reached, star + 1).filter(|target| !target.is_known(bytes)) else { continue };
        let assigned = is_assigned(reached, blank(reached, target.behind.1));
        if target.has_cast() || begins_value(bytes, star) || assigned && is_behind_head(bytes, star) {
            show(mask, bytes, star, &target, assigned);
        }
    }
}

fn show(mask: &mut Mask, bytes: &[u8], star: usize, target: &Target, assigned: bool) {
    let (open, end) = target.core;
    let round = bytes[open] == b'(';
    if !assigned {
        // Two of them would be one mark.
        if star == 0 || bytes[star - 1] != b'&' {
            mask.stand_in(star, b'&');
        }
    } else if !bytes[open..end].contains(&if round { b',' } else { b'(' }) {
        hide_tokens(mask, bytes, target.cast.0, target.cast.1);
        for (from, to) in [target.before, target.behind].into_iter().filter(|(from, to)| from < to) {
            mask.hide_code(from, to);
        }
        if round {
            mask.stand_in(open, b'[');
            mask.stand_in(end - 1, b']');
        }
    }
}

impl Target {
    fn has_cast(&self) -> bool {
        self.cast.0 < self.cast.1
    }

    /// Whether the grammar knows it as it is: of members and elements it takes the first name for what is pointed to.
    fn is_known(&self, bytes: &[u8]) -> bool {
        let (start, end) = self.core;
        let named = |byte: &u8| is_word(*byte) || bytes[start] == b'(' && b"().[]".contains(byte);
        let bare = [self.cast, self.before, self.behind].iter().all(|(from, to)| from == to);
        bare && bytes[start..end].iter().all(named)
    }
}

/// What begins at a place behind a `*`.
fn target(bytes: &[u8], at: usize) -> Option<Target> {
    let cast = (at, pointer_cast(bytes, at).unwrap_or(at));
    let mark = blank(bytes, cast.1);
    let before = (mark, mark + step(bytes, mark).max(usize::from(has(bytes, mark, b"&"))));
    let start = blank(bytes, before.1);
    let mut end = run(bytes, start, is_word);
    if end == start {
        end = closing(bytes, start, (b'(', b')'))?;
    } else {
        // Members and elements of what is named.
        while let Some(next) = bytes.get(end) {
            end = match next {
                b'.' => run(bytes, end + 1, is_word),
                b'[' => closing(bytes, end, (b'[', b']'))?,
                b'(' => closing(bytes, end, (b'(', b')'))?,
                _ => break,
            };
        }
    }
    Some(Target { cast, before, core: (start, end), behind: (end, end + step(bytes, end)) })
}

/// Behind `(name*)`.
fn pointer_cast(bytes: &[u8], open: usize) -> Option<usize> {
    let end = closing(bytes, open, (b'(', b')'))?;
    let name = run(bytes, open + 1, |byte| is_word(byte) || byte == b'.');
    let stars = &bytes[name..end - 1];
    let is_cast = name > open + 1 && !stars.is_empty() && stars.iter().all(|byte| matches!(byte, b'*' | b' '));
    is_cast.then_some(end)
}

/// The length of `++` or `--` at a place, or nothing.
fn step(bytes: &[u8], at: usize) -> usize {
    if has(bytes, at, b"++") || has(bytes, at, b"--") { 2 } else { 0 }
}

fn has(bytes: &[u8], at: usize, mark: &[u8]) -> bool {
    bytes.get(at..).is_some_and(|rest| rest.starts_with(mark))
}

/// Whether what begins at a place is no right side of a product.
fn begins_value(bytes: &[u8], at: usize) -> bool {
    let front = bytes[..at].trim_ascii_end();
    let word = front.iter().rev().take_while(|byte| is_word(**byte)).count();
    match front.last() {
        _ if word > 0 => WORDS.contains(&&front[front.len() - word..]),
        Some(last) => b"=(,[{;}!~+-*/&|<>?:^%".contains(last),
        None => true,
    }
}

/// Whether a place stands behind `if (low)` and the like.
fn is_behind_head(bytes: &[u8], at: usize) -> bool {
    bytes[..at].trim_ascii_end().ends_with(b")")
}
