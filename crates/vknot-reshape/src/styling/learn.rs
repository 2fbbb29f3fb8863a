//! Finds the settings with which files of one language change least, one setting after the other, each tried with all its values.
//!
//! What the files show is counted per file: where a value changes fewer lines than another, those lines speak for it, and against it where it
//! changes more. A value that four in five do not agree on is not sure; where files tell by themselves, nine in ten must.

use vknot_style::{Key, LanguageStyle, Override, SETTINGS};

use super::trial::values;

/// How many lines files change with some settings: one number for each file, in the same order each time.
pub type Costs = Vec<u32>;

/// What speaks for a value of a setting.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Evidence {
    /// The setting with the value that changes least.
    pub set: Override,
    /// Lines on which it does better than the next best value, or than what is usual.
    pub for_it: u64,
    /// Lines on which it does worse.
    pub against: u64,
    /// Whether that is sure enough to set it.
    pub sure: bool,
}

/// What a code base shows of one language.
#[derive(Clone, Debug, Default)]
pub struct Learnt {
    /// For each setting on which the files say something, its best value.
    pub evidence: Vec<Evidence>,
    /// For groups of files by their number, the values in which they differ from the rest.
    pub groups: Vec<(usize, Vec<Evidence>)>,
    /// Lines of each file that change with nothing set.
    pub before: Costs,
    /// And with all that is sure.
    pub after: Costs,
}

impl Learnt {
    /// The settings that are sure, in the order of their keys.
    pub fn settings(&self) -> Vec<Override> {
        let mut sure: Vec<Override> =
            self.evidence.iter().filter(|evidence| evidence.sure).map(|evidence| evidence.set.clone()).collect();
        sure.sort_by_key(Override::key);
        sure
    }
}

/// A value that was tried.
struct Tried {
    value: String,
    costs: Costs,
}

impl Tried {
    fn total(&self) -> u64 {
        self.costs.iter().copied().map(u64::from).sum()
    }
}

/// Lines that must speak for a value before it counts.
const ENOUGH: u64 = 5;

/// The same where the files themselves tell by default.
const ENOUGH_FOUND: u64 = 10;

/// The same for a group of files that differs from the rest.
const ENOUGH_APART: u64 = 20;

/// What other settings depend on, and comes first.
const FIRST: [Key; 3] = [Key::IndentStyle, Key::IndentSize, Key::MaxLineLength];

/// Learns the settings of a language, but for those that are `fixed`. `evaluate` counts the lines that change with some settings; `groups` has for each file the group that
/// it is in; `told` hears how many settings of how many are tried.
pub fn learn(
    language: &LanguageStyle,
    fixed: &[Key],
    evaluate: &dyn Fn(&[Override]) -> Costs,
    groups: &[usize],
    told: &mut dyn FnMut(usize, usize),
) -> Learnt {
    let mut search = Search { language, evaluate, set: Vec::new(), costs: evaluate(&[]), trials: Vec::new() };
    let before = search.costs.clone();
    let rest = SETTINGS.iter().map(|setting| setting.id).filter(|key| !FIRST.contains(key));
    let open = |key: &Key| !fixed.contains(key) && !values(*key, language).is_empty();
    let keys: Vec<Key> = FIRST.into_iter().chain(rest).filter(open).collect();
    for (at, key) in keys.iter().enumerate() {
        told(at, keys.len());
        search.try_key(*key);
    }
    // What was chosen early was tried while other things were open.
    let speaking: Vec<Key> = search.trials.iter().filter(|(_, tried)| differ(tried)).map(|(key, _)| *key).collect();
    if !search.set.is_empty() {
        for (at, key) in speaking.iter().enumerate() {
            told(at, speaking.len());
            search.try_key(*key);
        }
    }
    search.finish(groups, before)
}

fn differ(tried: &[Tried]) -> bool {
    tried.windows(2).any(|pair| pair[0].costs != pair[1].costs)
}

struct Search<'l> {
    language: &'l LanguageStyle,
    evaluate: &'l dyn Fn(&[Override]) -> Costs,
    /// What is set by now.
    set: Vec<Override>,
    /// What changes with that.
    costs: Costs,
    /// What was tried last, setting by setting.
    trials: Vec<(Key, Vec<Tried>)>,
}

impl Search<'_> {
    /// Tries all values of a setting and keeps the best, if it is sure.
    fn try_key(&mut self, key: Key) {
        let usual = self.language.default_of(key);
        let others: Vec<Override> = self.set.iter().filter(|set| set.key() != key).cloned().collect();
        let was_set = others.len() < self.set.len();
        let open = if was_set { (self.evaluate)(&others) } else { self.costs.clone() };
        let mut tried = vec![Tried { value: usual.to_owned(), costs: open }];
        for value in values(key, self.language).into_iter().filter(|value| value != usual) {
            let Ok(set) = Override::new(key, &value) else { continue };
            let costs = (self.evaluate)(&others.iter().cloned().chain([set]).collect::<Vec<_>>());
            tried.push(Tried { value, costs });
        }
        let best = evidence(key, &tried).filter(|evidence| evidence.sure);
        self.set = others;
        let chosen = best.as_ref().map_or(usual, |best| best.set.value());
        self.costs = tried.iter().find(|tried| tried.value == chosen).map_or(Vec::new(), |tried| tried.costs.clone());
        self.set.extend(best.map(|best| best.set));
        self.trials.retain(|(other, _)| *other != key);
        self.trials.push((key, tried));
    }

    fn finish(self, groups: &[usize], before: Costs) -> Learnt {
        let mut learnt = Learnt { before, after: self.costs, ..Learnt::default() };
        learnt.evidence = self.trials.iter().filter_map(|(key, tried)| evidence(*key, tried)).collect();
        learnt.evidence.sort_by_key(|evidence| evidence.set.key());
        let count = groups.iter().max().map_or(0, |last| last + 1);
        for group in 0..count {
            let apart: Vec<Evidence> = self.trials
                .iter()
                .filter_map(|(key, tried)| {
                    let set = self.set.iter().find(|set| set.key() == *key);
                    apart(*key, tried, set.map_or(tried.first()?.value.as_str(), Override::value), groups, group)
                })
                .collect();
            if !apart.is_empty() && count > 1 {
                learnt.groups.push((group, apart));
            }
        }
        learnt
    }
}

/// The best of the values that were tried, the usual one first, with what speaks for it.
fn evidence(key: Key, tried: &[Tried]) -> Option<Evidence> {
    let usual = tried.first()?;
    let explicit = |tried: &&Tried| tried.value != "as-found";
    let best = tried.iter().filter(explicit).min_by_key(|tried| tried.total())?;
    let found = usual.value == "as-found";
    let other = match found {
        true =>
            tried.iter().filter(explicit).filter(|other| other.value != best.value).min_by_key(|tried| tried.total())?,
        false => usual,
    };
    let (for_it, against) = compared(best, other, |_| true);
    let sure = match found {
        // The files tell by themselves, so setting it must cost nothing.
        true => for_it >= ENOUGH_FOUND && for_it >= 9 * against && best.total() <= usual.total(),
        false => for_it >= ENOUGH && for_it >= 4 * against,
    };
    let set = Override::new(key, &best.value).ok()?;
    (for_it + against > 0).then_some(Evidence { set, for_it, against, sure })
}

/// A value with which a group of files would change fewer lines than with the one that all have.
fn apart(key: Key, tried: &[Tried], all: &str, groups: &[usize], group: usize) -> Option<Evidence> {
    let inside = |file: usize| groups.get(file) == Some(&group);
    let current = tried.iter().find(|tried| tried.value == all)?;
    let total = |tried: &&Tried| -> u64 {
        tried.costs.iter().enumerate().filter(|(file, _)| inside(*file)).map(|(_, cost)| u64::from(*cost)).sum()
    };
    let best = tried.iter().filter(|tried| tried.value != "as-found").min_by_key(total)?;
    let (for_it, against) = compared(best, current, inside);
    let sure = for_it >= ENOUGH_APART && for_it >= 9 * against;
    let set = Override::new(key, &best.value).ok()?;
    sure.then_some(Evidence { set, for_it, against, sure })
}

/// Lines on which one value does better than another, and on which it does worse.
fn compared(one: &Tried, other: &Tried, counts: impl Fn(usize) -> bool) -> (u64, u64) {
    let pairs = one.costs.iter().zip(&other.costs).enumerate().filter(|(file, _)| counts(*file));
    pairs.fold((0, 0), |(better, worse), (_, (one, other))| {
        (better + u64::from(other.saturating_sub(*one)), worse + u64::from(one.saturating_sub(*other)))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    static LANGUAGE: LanguageStyle =
        LanguageStyle { defaults: &[], settings: &[Key::BraceRequired, Key::BraceControl, Key::BlankEdge] };

    /// What files change: with `always` nothing, else ten lines each; in the second group `next` is better; edges do not matter.
    fn costs(set: &[Override]) -> Costs {
        let value = |key: Key| set.iter().find(|set| set.key() == key).map(Override::value);
        let braces = if value(Key::BraceRequired) == Some("always") { 0 } else { 10 };
        (0..4)
            .map(|file| {
                let next = file >= 2;
                let wrong = match value(Key::BraceControl) {
                    Some("next") => !next,
                    Some("same") => next,
                    _ => false,
                };
                braces + if wrong { 15 } else { 0 }
            })
            .collect()
    }

    #[test]
    fn the_value_that_changes_least_is_taken_if_it_is_sure() {
        let learnt = learn(&LANGUAGE, &[], &costs, &[0, 0, 1, 1], &mut |_, _| {});
        let shown: Vec<String> = learnt.settings().iter().map(|set| format!("{:?}={}", set.key(), set.value())).collect();
        assert_eq!(shown, ["BraceRequired=always"]);
        assert_eq!((learnt.before, learnt.after), (vec![10; 4], vec![0; 4]));
        let unsure = learnt.evidence.iter().find(|evidence| evidence.set.key() == Key::BraceControl);
        assert_eq!(unsure.map(|unsure| (unsure.for_it, unsure.against, unsure.sure)), Some((30, 30, false)));
        assert!(learnt.evidence.iter().all(|evidence| evidence.set.key() != Key::BlankEdge));
    }

    #[test]
    fn the_order_of_files_does_not_matter() {
        let backwards = |set: &[Override]| costs(set).into_iter().rev().collect();
        let settings = |evaluate: &dyn Fn(&[Override]) -> Costs| learn(
            &LANGUAGE,
            &[],
            evaluate,
            &[0; 4],
            &mut |_, _| {},
        )
        .settings();
        assert_eq!(settings(&costs), settings(&backwards));
    }
}
