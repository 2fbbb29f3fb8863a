//! Texts by which imports and the names in them are compared.

use crate::spec::imports::{BETWEEN_SEGMENTS, FIRST_SEGMENT, LAST_SEGMENT, LIST_SEGMENT};

/// Whether names of one kind stand together.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Kinds {
    None,
    ConstantsFirst,
    ConstantsLast,
}

/// A key with the kind of what is named in front of each segment of its path.
pub(super) fn by_kinds(key: &str, kinds: Kinds) -> String {
    let mut by_kinds = String::with_capacity(key.len() + 4);
    for (at, segment) in key.split(BETWEEN_SEGMENTS).enumerate() {
        let plain = segment.rsplit(' ').next().unwrap_or(segment);
        let kind = match () {
            () if plain.contains(char::is_uppercase) && !plain.contains(char::is_lowercase) => 'a',
            () if plain.starts_with(char::is_uppercase) => 'b',
            () => 'c',
        };
        by_kinds.extend((at > 0).then_some(BETWEEN_SEGMENTS));
        by_kinds.extend(match (kind, kinds) {
            // The module itself, a list and all that is in the module stand where they do without kinds.
            _ if plain.starts_with([FIRST_SEGMENT, LIST_SEGMENT, LAST_SEGMENT]) => None,
            ('a', Kinds::ConstantsLast) => Some('c'),
            ('c', Kinds::ConstantsLast) => Some('a'),
            _ => Some(kind),
        });
        by_kinds.push_str(segment);
    }
    by_kinds
}

/// A text with its numbers made long enough to be compared as texts.
pub(super) fn padded(text: &str) -> String {
    let mut padded = String::with_capacity(text.len() + 16);
    let mut digits = String::new();
    for c in text.chars().chain(['\0']) {
        if c.is_ascii_digit() {
            digits.push(c);
            continue;
        }
        if !digits.is_empty() {
            padded.push_str(&format!("{digits:0>12}"));
            digits.clear();
        }
        padded.extend((c != '\0').then_some(c));
    }
    padded
}

/// A text whose capitals are small letters and the other way round.
pub(super) fn small_first(text: &str) -> String {
    let swapped = |c: char| if c.is_ascii_lowercase() { c.to_ascii_uppercase() } else { c.to_ascii_lowercase() };
    text.chars().map(swapped).collect()
}

/// How far outwards a path begins, from where it stands: not at all, in the folder itself, in the one around that.
pub(super) fn outwards(key: &str) -> i64 {
    key.chars().take_while(|c| matches!(c, '.' | '/')).filter(|c| *c == '.').count() as i64
}
