//! The order of names inside an import.

use super::order::small_first;
use crate::spec::imports::Name;
use crate::spec::ImportSpec;

/// By what names are sorted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct NameOrder {
    /// By letters alone.
    letters: bool,
    /// Small letters in front of capitals.
    small: bool,
    /// Constants first, then what begins with a capital; or the other way round.
    kinds: Kinds,
    /// Digits by the number that they make.
    numbers: bool,
}

/// Whether names of one kind stand together.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Kinds {
    None,
    ConstantsFirst,
    ConstantsLast,
}

/// What two names are compared by.
type Key = (u8, String, String);

impl NameOrder {
    /// All ways, the most usual first.
    pub fn all(cased: bool) -> Vec<NameOrder> {
        let mut all = Vec::new();
        let ways = [Kinds::None, Kinds::ConstantsFirst, Kinds::ConstantsLast];
        for (kinds, numbers) in [false, true].into_iter().flat_map(|numbers| ways.map(|kinds| (kinds, numbers))) {
            all.extend([!cased, cased].map(|letters| NameOrder { letters, small: false, kinds, numbers }));
            all.push(NameOrder { letters: false, small: true, kinds, numbers });
        }
        all
    }

    fn key(self, name: &Name, spec: &ImportSpec) -> Key {
        let key = (spec.name_key)(name);
        let plain = key.rsplit(' ').next().unwrap_or(&key);
        let kind = match () {
            () if self.kinds == Kinds::None => 0,
            () if plain.len() > 1 && plain.to_uppercase() == plain => 0,
            () if plain.starts_with(char::is_uppercase) => 1,
            () => 2,
        };
        let kind = if self.kinds == Kinds::ConstantsLast { 2 - kind } else { kind };
        let key = if self.numbers { padded(&key) } else { key };
        let first = match () {
            () if self.letters => key.to_lowercase(),
            () if self.small => small_first(&key),
            () => String::new(),
        };
        (kind, first, key)
    }

    /// How many pairs of neighbours are not in order.
    pub fn faults(self, names: &[Name], spec: &ImportSpec) -> usize {
        let keys: Vec<Key> = names.iter().map(|name| self.key(name, spec)).collect();
        keys.windows(2).filter(|pair| pair[0] > pair[1]).count()
    }

    /// Sorts names that are not in any order that is known.
    pub fn sort(self, names: &mut [Name], spec: &ImportSpec) {
        if NameOrder::all(spec.cased).into_iter().all(|order| order.faults(names, spec) > 0) {
            names.sort_by_cached_key(|name| self.key(name, spec));
        }
    }
}

/// A text with its numbers made long enough to be compared as texts.
fn padded(text: &str) -> String {
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
