//! What the grammar reads as something else, each shown to it as what it knows: the end of a range that begins with a mark (`..*end`),
//! which it takes for the right side of a product; what is given to `break` (`break (low, high)`), which it takes for arguments; a
//! statement behind a macro in braces that is one, too, which it takes for the rest of an expression. What is said of foreign items
//! (`safe fn`, `unsafe static`) is not read.

use crate::lexis::{Class, Found, is_word, Lexer};
use crate::reader::{Mask, Repair, REPAIR};

/// `yield` is as long as `break`, and is read right.
pub(super) const RELIEF: Repair =
    Repair { mask, name: "identifier", words: &[("yield_expression", "break_expression")], ..REPAIR };

/// Marks that begin a value and stand between two as well.
const BOTH: &[u8] = b"*&-([<|";

fn mask(text: &str) -> Option<Mask> {
    let bytes = text.as_bytes();
    let mut mask = Mask::new(text);
    ends_of_ranges(bytes, &mut mask);
    values_of_breaks(bytes, &mut mask);
    foreign_items(bytes, &mut mask);
    if may_follow_macro(text) {
        ends_of_macros(text, &mut mask);
    }
    let unchanged = mask.stand_ins.is_empty() && mask.words.is_empty() && mask.put_in.is_empty();
    (!unchanged || !mask.hidden.is_empty()).then_some(mask)
}

/// Behind `..` and `..=`, `!` stands for another sign of the value.
fn ends_of_ranges(bytes: &[u8], mask: &mut Mask) {
    for range in memchr::memmem::find_iter(bytes, b"..") {
        let equals = usize::from(bytes.get(range + 2) == Some(&b'='));
        let blanks = bytes.iter().skip(range + 2 + equals).take_while(|byte| **byte == b' ').count();
        let at = range + 2 + equals + blanks;
        let rest = bytes.get(at + 1..).unwrap_or_default();
        let stands = match (bytes.get(at), rest.first()) {
            (Some(b'*'), Some(next)) => is_word(*next) || b"(*&".contains(next),
            (Some(b'&'), Some(next)) => (is_word(*next) || b"([".contains(next)) && !rest.starts_with(b"mut "),
            (Some(b'-'), Some(b'0'..=b'9')) => is_no_pattern(rest),
            (Some(b'-'), Some(next)) => is_word(*next) || *next == b'(',
            _ => false,
        };
        if stands {
            mask.stand_in(at, b'!');
        }
    }
}

/// Whether what stands behind a number cannot follow a pattern.
fn is_no_pattern(number: &[u8]) -> bool {
    let behind = number.iter().find(|byte| !is_word(**byte) && !matches!(byte, b'.' | b')' | b' '));
    behind.is_none_or(|byte| matches!(byte, b'{' | b';' | b']' | b'?'))
}

fn values_of_breaks(bytes: &[u8], mask: &mut Mask) {
    const WORD: &[u8] = b"break ";
    for at in memchr::memmem::find_iter(bytes, WORD) {
        let begins = at.checked_sub(1).is_none_or(|before| !is_word(bytes[before]));
        let behind = bytes.get(at + WORD.len());
        if begins && behind.is_some_and(|byte| BOTH.contains(byte)) {
            mask.stand_in_word(at, at + WORD.len() - 1, "yield");
        }
    }
}

/// What the grammar does not know in front of items of a foreign block, each word by what may follow it. Source: The Rust Reference,
/// "External blocks".
const QUALIFIERS: &[(&[u8], &[&[u8]])] =
    &[(b"safe ", &[b"fn ", b"static "]), (b"unsafe ", &[b"static "])];

/// How far in front of such a word its line may begin, in bytes.
const REACH: usize = 200;

fn foreign_items(bytes: &[u8], mask: &mut Mask) {
    for (qualifier, items) in QUALIFIERS {
        for at in memchr::memmem::find_iter(bytes, qualifier) {
            let behind = bytes.get(at + qualifier.len()..).unwrap_or_default();
            let front = &bytes[at.saturating_sub(REACH)..at];
            let line = front.rsplit(|byte| *byte == b'\n').next().unwrap_or_default().trim_ascii();
            let begins = line.is_empty() || line == b"pub" || line.starts_with(b"pub(") && line.ends_with(b")");
            if begins && items.iter().any(|item| behind.starts_with(item)) {
                mask.hide_code(at, at + qualifier.len() - 1);
            }
        }
    }
}

/// Whether a line that begins with such a mark stands behind one that ends with a brace.
fn may_follow_macro(text: &str) -> bool {
    let mut braced = false;
    text.lines().map(str::trim).filter(|line| !line.is_empty()).any(|line| {
        let leads = line.bytes().next().is_some_and(|byte| BOTH.contains(&byte));
        let follows = braced && leads;
        braced = line.ends_with('}');
        follows
    })
}

/// What stands in front of a lexeme in its statement.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Front {
    Nothing,
    Path,
    MacroMark,
    More,
}

/// Ends macros in braces that are statements with a semicolon, in front of what the grammar would take for more of them.
fn ends_of_macros(text: &str, mask: &mut Mask) {
    let bytes = text.as_bytes();
    let mut front = Front::Nothing;
    // For each bracket that is open whether it is of such a macro.
    let mut open: Vec<bool> = Vec::new();
    let mut ended: Option<usize> = None;
    let code = Lexer::new(text, &super::LEXIS).filter(|lexeme| lexeme.class != Class::Comment);
    for Found { class, text: lexeme, end, .. } in code {
        let goes_on = lexeme.bytes().next().is_some_and(|byte| BOTH.contains(&byte));
        if let Some(at) = ended.take().filter(|at| goes_on && bytes[*at].is_ascii_whitespace()) {
            mask.put_in(at, b';');
        }
        front = match (lexeme, front) {
            (_, Front::Nothing) if class == Class::Word => Front::Path,
            (":", Front::Nothing | Front::Path) => Front::Nothing,
            ("!", Front::Path) => Front::MacroMark,
            ("{", before) => {
                open.push(before == Front::MacroMark);
                Front::Nothing
            }
            ("(" | "[", _) => {
                open.push(false);
                Front::More
            }
            (")" | "]", _) => {
                open.pop();
                Front::More
            }
            ("}", _) => {
                ended = open.pop().filter(|is_macro| *is_macro && end < bytes.len()).map(|_| end);
                Front::Nothing
            }
            (";", _) => Front::Nothing,
            _ => Front::More,
        };
    }
}
