//! Finds the settings with which files of one language change least, one setting after the other, each tried with all its values.
//!
//! What the files show is counted per file: where a value changes fewer lines than another, those lines speak for it, and against it where it
//! changes more. A value that four in five do not agree on is not sure; where files stay as they are if nothing is set, nine in ten must, and
//! setting it must cost nothing.

use std::path::PathBuf;

use vknot_style::{Key, LanguageStyle, Override};

use super::folders::Folders;

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
    /// Folders, each behind the one that holds it, with the values in which they differ from what is around them.
    pub apart: Vec<(PathBuf, Vec<Evidence>)>,
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

/// The same where files stay as they are by default.
const ENOUGH_OPEN: u64 = 10;

/// The same for a folder that differs from what is around it, and how many of its files must.
const ENOUGH_APART: (u64, u64) = (20, 3);

/// How often the settings that make a difference are tried again at most, until none changes.
const ROUNDS: usize = 2;

/// What other settings depend on, and comes first.
const FIRST: [Key; 3] = [Key::IndentStyle, Key::IndentSize, Key::MaxLineLength];

/// Counts the lines of each of some files that change with some settings.
pub type Evaluate<'e> = &'e dyn Fn(&[Override]) -> Costs;

/// Learns settings of a language: those that are asked, each with the values that are tried. `evaluate` counts the lines that change with
/// some settings, `confirm` those of other files, which may speak against what was learnt; `folders` has the files in the same order;
/// `told` hears how many settings of how many are tried.
pub fn learn(
    language: &LanguageStyle,
    mut questions: Vec<(Key, Vec<String>)>,
    (evaluate, confirm): (Evaluate<'_>, Evaluate<'_>),
    folders: &Folders,
    told: &mut dyn FnMut(usize, usize),
) -> Learnt {
    let mut search = Search { language, evaluate, set: Vec::new(), costs: evaluate(&[]), trials: Vec::new() };
    let before = search.costs.clone();
    questions.sort_by_key(|(key, _)| (FIRST.iter().position(|first| first == key).unwrap_or(FIRST.len()), *key));
    for (at, (key, values)) in questions.iter().enumerate() {
        told(at, questions.len());
        search.try_key(*key, values);
    }
    // What was chosen early was tried while other things were open.
    questions.retain(|(key, _)| search.trials.iter().any(|(other, tried)| other == key && differ(tried)));
    let mut known = Vec::new();
    for _ in 0..ROUNDS {
        if search.set == known {
            break;
        }
        known.clone_from(&search.set);
        for (at, (key, values)) in questions.iter().enumerate() {
            told(at, questions.len());
            search.try_key(*key, values);
        }
    }
    search.confirm(confirm);
    search.finish(folders, before)
}

fn differ(tried: &[Tried]) -> bool {
    tried.windows(2).any(|pair| pair[0].costs != pair[1].costs)
}

/// Whether a value leaves things as they are.
fn is_open(value: &str) -> bool {
    matches!(value, "as-found" | "keep")
}

struct Search<'l> {
    language: &'l LanguageStyle,
    evaluate: Evaluate<'l>,
    /// What is set by now.
    set: Vec<Override>,
    /// What changes with that.
    costs: Costs,
    /// What was tried last, setting by setting.
    trials: Vec<(Key, Vec<Tried>)>,
}

impl Search<'_> {
    /// Tries all values of a setting and keeps the best, if it is sure.
    fn try_key(&mut self, key: Key, values: &[String]) {
        let usual = self.language.default_of(key);
        let others: Vec<Override> = self.set.iter().filter(|set| set.key() != key).cloned().collect();
        let was_set = others.len() < self.set.len();
        let open = if was_set { (self.evaluate)(&others) } else { self.costs.clone() };
        let mut tried = vec![Tried { value: usual.to_owned(), costs: open }];
        for value in values.iter().filter(|value| *value != usual) {
            let Ok(set) = Override::new(key, value) else { continue };
            let costs = (self.evaluate)(&others.iter().cloned().chain([set]).collect::<Vec<_>>());
            tried.push(Tried { value: value.clone(), costs });
        }
        let best = evidence(key, &tried).filter(|evidence| evidence.sure);
        self.set = others;
        let chosen = best.as_ref().map_or(usual, |best| best.set.value());
        self.costs = tried.iter().find(|tried| tried.value == chosen).map_or(Vec::new(), |tried| tried.costs.clone());
        self.set.extend(best.map(|best| best.set));
        self.trials.retain(|(other, _)| *other != key);
        self.trials.push((key, tried));
    }

    /// Gives up what changes fewer lines of other files if it is not set.
    fn confirm(&mut self, confirm: Evaluate<'_>) {
        let total = |set: &[Override]| -> u64 { confirm(set).into_iter().map(u64::from).sum() };
        let (all, mut least) = (self.set.clone(), total(&self.set));
        for set in &all {
            let others: Vec<Override> = self.set.iter().filter(|other| other.key() != set.key()).cloned().collect();
            let without = total(&others);
            if without < least {
                (self.set, least) = (others, without);
            }
        }
        if self.set.len() < all.len() {
            self.costs = (self.evaluate)(&self.set);
        }
    }

    fn finish(self, folders: &Folders, before: Costs) -> Learnt {
        let mut learnt = Learnt { apart: self.apart(folders), before, after: self.costs, ..Learnt::default() };
        learnt.evidence = self.trials.iter().filter_map(|(key, tried)| evidence(*key, tried)).collect();
        let kept = |key: Key| self.set.iter().any(|set| set.key() == key);
        learnt.evidence.iter_mut().for_each(|evidence| evidence.sure &= kept(evidence.set.key()));
        learnt.evidence.sort_by_key(|evidence| evidence.set.key());
        learnt
    }

    /// For folders, from the root downwards, the values in which they differ from what holds around them.
    fn apart(&self, folders: &Folders) -> Vec<(PathBuf, Vec<Evidence>)> {
        let mut found: Vec<(PathBuf, Vec<Evidence>)> = Vec::new();
        for folder in folders.iter() {
            let own: Vec<Evidence> = self.trials
                .iter()
                .filter_map(|(key, tried)| {
                    let around = found.iter().rev().filter(|(holder, _)| folder.starts_with(holder));
                    let set = around
                        .flat_map(|(_, own)| own)
                        .map(|own| &own.set)
                        .chain(&self.set)
                        .find(|set| set.key() == *key);
                    let current = set.map_or(tried.first()?.value.as_str(), Override::value);
                    differs(*key, tried, current, |file| folders.holds(folder, file))
                })
                .collect();
            if !own.is_empty() {
                found.push((folder.to_path_buf(), own));
            }
        }
        found
    }
}

/// The best of the values that were tried, the usual one first, with what speaks for it.
fn evidence(key: Key, tried: &[Tried]) -> Option<Evidence> {
    let usual = tried.first()?;
    let explicit = |tried: &&Tried| !is_open(&tried.value);
    let best = tried.iter().filter(explicit).min_by_key(|tried| tried.total())?;
    let open = is_open(&usual.value);
    let other = match open {
        true =>
            tried.iter().filter(explicit).filter(|other| other.value != best.value).min_by_key(|tried| tried.total())?,
        false => usual,
    };
    let Compared { better, worse, .. } = compared(best, other, |_| true);
    let sure = match open {
        // The files stay as they are by themselves, so setting it must cost nothing.
        true => better >= ENOUGH_OPEN && better >= 9 * worse && best.total() <= usual.total(),
        false => better >= ENOUGH && better >= 4 * worse,
    };
    let set = Override::new(key, &best.value).ok()?;
    (better + worse > 0).then_some(Evidence { set, for_it: better, against: worse, sure })
}

/// A value with which some files would change fewer lines than with the one that holds there.
fn differs(key: Key, tried: &[Tried], current: &str, among: impl Fn(usize) -> bool) -> Option<Evidence> {
    let current = tried.iter().find(|tried| tried.value == current)?;
    let total = |tried: &&Tried| -> u64 {
        tried.costs.iter().enumerate().filter(|(file, _)| among(*file)).map(|(_, cost)| u64::from(*cost)).sum()
    };
    let best = tried.iter().filter(|tried| !is_open(&tried.value)).min_by_key(total)?;
    let Compared { better, worse, files } = compared(best, current, among);
    let sure = better >= ENOUGH_APART.0 && files >= ENOUGH_APART.1 && better >= 9 * worse;
    let set = Override::new(key, &best.value).ok()?;
    sure.then_some(Evidence { set, for_it: better, against: worse, sure })
}

/// How one value does as against another.
#[derive(Default)]
struct Compared {
    /// Lines on which it does better.
    better: u64,
    /// And worse.
    worse: u64,
    /// Files in which it does better.
    files: u64,
}

fn compared(one: &Tried, other: &Tried, among: impl Fn(usize) -> bool) -> Compared {
    let pairs = one.costs.iter().zip(&other.costs).enumerate().filter(|(file, _)| among(*file));
    pairs.fold(Compared::default(), |sum, (_, (one, other))| Compared {
        better: sum.better + u64::from(other.saturating_sub(*one)),
        worse: sum.worse + u64::from(one.saturating_sub(*other)),
        files: sum.files + u64::from(one < other),
    })
}

#[cfg(test)]
mod tests {
    use std::path::Path;

    use super::*;

    static LANGUAGE: LanguageStyle =
        LanguageStyle { defaults: &[], settings: &[Key::BraceRequired, Key::BraceControl, Key::BlankEdge] };

    /// What files change: with `always` nothing, else ten lines each; in the second half `next` is better; edges do not matter.
    fn costs(set: &[Override]) -> Costs {
        let value = |key: Key| set.iter().find(|set| set.key() == key).map(Override::value);
        let braces = if value(Key::BraceRequired) == Some("always") { 0 } else { 10 };
        (0..6)
            .map(|file| {
                let next = file >= 3;
                let wrong = match value(Key::BraceControl) {
                    Some("next") => !next,
                    Some("same") => next,
                    _ => false,
                };
                braces + if wrong { 15 } else { 0 }
            })
            .collect()
    }

    /// What is asked of every setting of the language.
    fn questions() -> Vec<(Key, Vec<String>)> {
        let words = |key: &Key| key.setting().choices();
        LANGUAGE.settings.iter().map(|key| (*key, words(key))).collect()
    }

    fn learnt(evaluate: Evaluate<'_>, folders: &[&str]) -> Learnt {
        learnt_beside(evaluate, &|_| Costs::new(), folders)
    }

    fn learnt_beside(
        evaluate: Evaluate<'_>,
        confirm: Evaluate<'_>,
        folders: &[&str],
    ) -> Learnt {
        let files = folders.iter().enumerate().map(|(at, folder)| Path::new(folder).join(at.to_string()));
        learn(&LANGUAGE, questions(), (evaluate, confirm), &Folders::of(files.collect()), &mut |_, _| {})
    }

    /// Settings as they are written.
    fn written<'s>(settings: impl IntoIterator<Item = &'s Override>) -> Vec<String> {
        settings.into_iter().map(|set| format!("{:?}={}", set.key(), set.value())).collect()
    }

    #[test]
    fn the_value_that_changes_least_is_taken_if_it_is_sure() {
        let learnt = learnt(&costs, &["a", "a", "a", "b", "b", "b"]);
        assert_eq!(written(&learnt.settings()), ["BraceRequired=always"]);
        assert_eq!((learnt.before, learnt.after), (vec![10; 6], vec![0; 6]));
        let unsure = learnt.evidence.iter().find(|evidence| evidence.set.key() == Key::BraceControl);
        assert_eq!(unsure.map(|unsure| (unsure.for_it, unsure.against, unsure.sure)), Some((45, 45, false)));
        assert!(learnt.evidence.iter().all(|evidence| evidence.set.key() != Key::BlankEdge));
    }

    #[test]
    fn the_order_of_files_does_not_matter() {
        let backwards = |set: &[Override]| costs(set).into_iter().rev().collect();
        let folders = ["a", "a", "a", "b", "b", "b"];
        assert_eq!(learnt(&costs, &folders).settings(), learnt(&backwards, &folders).settings());
    }

    #[test]
    fn what_files_leave_open_is_set_where_it_costs_nothing() {
        let one_way = |set: &[Override]| costs(set).into_iter().take(3).chain([0, 0, 0]).collect::<Costs>();
        assert!(written(&learnt(&one_way, &["a"; 6]).settings()).contains(&"BraceControl=same".to_owned()));
    }

    #[test]
    fn what_other_files_speak_against_is_not_sure() {
        let against = |set: &[Override]| vec![set.iter().filter(|set| set.key() == Key::BraceRequired).count() as u32];
        let learnt = learnt_beside(&costs, &against, &["a"; 6]);
        assert_eq!(written(&learnt.settings()), Vec::<String>::new());
        assert_eq!(learnt.after, learnt.before);
        assert!(learnt.evidence.iter().any(|evidence| evidence.set.key() == Key::BraceRequired && !evidence.sure));
    }

    #[test]
    fn folders_that_differ_from_what_is_around_them_are_told() {
        // Nothing but one of two values of a setting, which suits one half of the files or the other.
        let halves = |set: &[Override]| -> Costs {
            let never = set.iter().any(|set| set.key() == Key::BlankEdge && set.value() == "none");
            (0..9).map(|file| if (file < 6) == never { 0 } else { 8 }).collect()
        };
        let folders = ["x/a", "x/a", "x/b/c", "x/b/c", "x/b/c", "x/b/d", "x/e", "x/e", "x/e"];
        let learnt = learnt(&halves, &folders);
        let shown: Vec<(String, Vec<String>)> = learnt.apart
            .iter()
            .map(|(folder, own)| (folder.display().to_string(), written(own.iter().map(|own| &own.set))))
            .collect();
        // Two files are too few, and what holds in a folder is not said again of those inside.
        assert_eq!(shown, [("x/b".to_owned(), vec!["BlankEdge=none".to_owned()])]);
    }
}
