//! The order of names inside an import.

use crate::spec::imports::Name;
use crate::spec::ImportSpec;
use super::keys::{by_kinds, Kinds, padded, small_first};

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

/// What two names are compared by.
type Key = (String, String);

impl NameOrder {
    /// All ways, the most usual first.
    pub fn all(spec: &ImportSpec) -> Vec<NameOrder> {
        let mut all = Vec::new();
        let ways = [Kinds::None, Kinds::ConstantsFirst, Kinds::ConstantsLast];
        for (kinds, numbers) in [false, true].into_iter().flat_map(|numbers| ways.map(|kinds| (kinds, numbers))) {
            all.extend([!spec.cased, spec.cased].map(|letters| NameOrder { letters, small: false, kinds, numbers }));
            all.push(NameOrder { letters: false, small: true, kinds, numbers });
        }
        if spec.kinds_apart {
            let usual = |way: &NameOrder| !way.letters && !way.small && way.kinds == Kinds::ConstantsLast;
            all.sort_by_key(|way| !usual(way));
        }
        all
    }

    fn key(self, name: &Name, spec: &ImportSpec) -> Key {
        let key = (spec.name_key)(name);
        let key = if self.kinds == Kinds::None { key } else { by_kinds(&key, self.kinds) };
        let key = if self.numbers { padded(&key) } else { key };
        let first = match () {
            () if self.letters => key.to_lowercase(),
            () if self.small => small_first(&key),
            () => String::new(),
        };
        (first, key)
    }

    /// How many pairs of neighbours are not in order.
    pub fn faults(self, names: &[Name], spec: &ImportSpec) -> usize {
        let keys: Vec<Key> = names.iter().map(|name| self.key(name, spec)).collect();
        keys.windows(2).filter(|pair| pair[0] > pair[1]).count()
    }

    /// Sorts names that are not in any order that is known.
    pub fn sort(self, names: &mut [Name], spec: &ImportSpec) {
        if NameOrder::all(spec).into_iter().all(|order| order.faults(names, spec) > 0) {
            names.sort_by_cached_key(|name| self.key(name, spec));
        }
    }
}
