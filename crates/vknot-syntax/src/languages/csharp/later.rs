//! What came to the language later than to the grammar, each shown to it as what it knows: values put in members of what may be null
//! (`gauge?.Level = 3`), extension blocks, operators that assign, what a type argument allows, lambdas with modifiers and no types.
//! Source: what is new in C# 13 and 14, <https://learn.microsoft.com/dotnet/csharp/whats-new/csharp-14>.

use crate::reader::Mask;
use super::steps::{blank, closing, hide_tokens, is_assigned, is_word, run};

/// How far such an expression or head may reach, in bytes.
const REACH: usize = 400;

/// What words and nodes stand for others.
pub(super) const WORDS: &[(&str, &str)] = &[("postfix_unary_expression", "conditional_access_expression")];

/// Shows the grammar such code as it knows it.
pub(super) fn mask(text: &str, mask: &mut Mask) {
    let bytes = text.as_bytes();
    values_put_in(bytes, mask);
    extensions(bytes, mask);
    operators(bytes, mask);
    constraints(bytes, mask);
    lambdas(bytes, mask);
}

/// `gauge?.Level = 3`: the mark becomes the one that says that there is a value.
fn values_put_in(bytes: &[u8], mask: &mut Mask) {
    for at in memchr::memchr_iter(b'?', bytes) {
        let touches = at > 0 && (is_word(bytes[at - 1]) || matches!(bytes[at - 1], b')' | b']'));
        let begins = match bytes.get(at + 1) {
            Some(b'.') => bytes.get(at + 2).is_some_and(|byte| is_word(*byte) && !byte.is_ascii_digit()),
            Some(b'[') => true,
            _ => false,
        };
        let reached = &bytes[..bytes.len().min(at + REACH)];
        if touches && begins && is_assigned(reached, blank(reached, members(reached, at))) {
            mask.stand_in(at, b'!');
            let front =
                bytes[..at].iter().rev().take(REACH).take_while(|byte| is_word(**byte) || b".?!".contains(byte));
            mask.stand_in_node(at - front.count());
        }
    }
}

/// Behind the members and elements that begin at a place.
fn members(bytes: &[u8], mut at: usize) -> usize {
    while let Some(next) = bytes.get(at) {
        at = match next {
            b'?' if matches!(bytes.get(at + 1), Some(b'.' | b'[')) => at + 1,
            b'.' => run(bytes, at + 1, is_word),
            b'[' => closing(bytes, at, (b'[', b']')).unwrap_or(bytes.len()),
            b'(' => closing(bytes, at, (b'(', b')')).unwrap_or(bytes.len()),
            b'!' if bytes.get(at + 1) != Some(&b'=') => at + 1,
            _ => break,
        };
    }
    at
}

/// `extension(Gauge gauge) { ... }` becomes a class without a name of its own.
fn extensions(bytes: &[u8], mask: &mut Mask) {
    const WORD: &str = "extension";
    for at in memchr::memmem::find_iter(bytes, WORD) {
        let front = bytes[..at].trim_ascii_end().last();
        let begins = at == 0 || !is_word(bytes[at - 1]);
        if !begins
            || front.is_some_and(|byte| !matches!(byte, b'{' | b'}' | b';' | b']' | b'/')) && !is_line_begin(bytes, at)
        {
            continue;
        }
        let reached = &bytes[..bytes.len().min(at + REACH)];
        let word = at + WORD.len();
        let types = blank(reached, word);
        let open = blank(reached, closing(reached, types, (b'<', b'>')).unwrap_or(types));
        let Some(behind) = closing(reached, open, (b'(', b')')) else { continue };
        let body = blank(reached, behind);
        let limited = reached.get(body..).is_some_and(|rest| rest.starts_with(b"where "));
        if reached.get(body) != Some(&b'{') && !limited {
            continue;
        }
        mask.stand_in_word(at, word, "class");
        mask.inserted.push((types as u32, b'x'));
        // A parameter may be a type alone.
        let inside = reached[open + 1..behind - 1].trim_ascii();
        let is_type =
            inside.last().is_some_and(|last| b">]?".contains(last)) || inside.iter().all(|byte| is_word(*byte));
        if is_type {
            mask.inserted.extend(b" x".iter().map(|byte| (behind as u32 - 1, *byte)));
        }
    }
}

/// Whether only blanks stand in front of a place on its line.
fn is_line_begin(bytes: &[u8], at: usize) -> bool {
    bytes[..at].iter().rev().find(|byte| !matches!(byte, b' ' | b'\t')) == Some(&b'\n')
}

/// `operator +=` becomes an operator that gives a value.
fn operators(bytes: &[u8], mask: &mut Mask) {
    const WORD: &[u8] = b"operator";
    for at in memchr::memmem::find_iter(bytes, WORD) {
        let sign = blank(bytes, at + WORD.len());
        let marks =
            bytes.get(sign..).unwrap_or_default().iter().take_while(|byte| b"+-*/%&|^<>=".contains(byte)).count();
        let assigns = marks == 2 && bytes[sign + 1] == b'=' && !b"=<>".contains(&bytes[sign]);
        let shifts = marks > 2 && bytes[sign + marks - 1] == b'=';
        if assigns || shifts {
            mask.stand_in_word(sign, sign + marks, if shifts { ">>>" } else { "==" });
        }
    }
}

/// `allows ref struct` becomes `struct`.
fn constraints(bytes: &[u8], mask: &mut Mask) {
    const WORDS: &[u8] = b"allows ref struct";
    for at in memchr::memmem::find_iter(bytes, WORDS) {
        hide_tokens(mask, bytes, at, at + WORDS.len() - b"struct".len());
    }
}

/// `(text, out level) => ...` becomes a lambda without modifiers.
fn lambdas(bytes: &[u8], mask: &mut Mask) {
    for arrow in memchr::memmem::find_iter(bytes, b"=>") {
        let front = bytes[..arrow].trim_ascii_end();
        let Some(close) = front.len().checked_sub(1).filter(|close| bytes[*close] == b')') else { continue };
        let from = close.saturating_sub(REACH);
        let named = |byte: &u8| is_word(*byte) || byte.is_ascii_whitespace() || *byte == b',';
        let open = close.checked_sub(bytes[from..close].iter().rev().take_while(|byte| named(byte)).count() + 1);
        let Some(open) = open.filter(|open| bytes[*open] == b'(') else { continue };
        let mut at = open + 1;
        for parameter in bytes[open + 1..close].split(|byte| *byte == b',') {
            let mut words = parameter.split(u8::is_ascii_whitespace).filter(|word| !word.is_empty());
            let modifier = words.next().filter(|word| MODIFIERS.contains(word));
            if modifier.is_some() && words.next().is_some() && words.next().is_none() {
                let begin = blank(bytes, at);
                mask.hide_code(begin, run(bytes, begin, is_word));
            }
            at += parameter.len() + 1;
        }
    }
}

/// Words in front of a parameter that are no type.
const MODIFIERS: &[&[u8]] = &[b"in", b"out", b"ref", b"scoped"];
