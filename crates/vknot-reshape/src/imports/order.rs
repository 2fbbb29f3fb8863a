//! The order of imports: what is set, what the file shows, else what is usual in its language.

use vknot_style::{Key, Style};
use vknot_style::choices::{ImportCase, ImportForm, ImportStatic};

use crate::spec::imports::{Form, Home, Import, Surroundings};
use crate::spec::ImportSpec;

/// The group names that mean something; any other is how what is imported begins.
const WRITTEN: &str = "written";

/// What of an import says where it stands.
#[derive(Clone, Debug)]
pub(super) struct Standing {
    /// By what it is sorted.
    key: Keys,
    /// The same where an import of several names stands behind those of one.
    behind: Option<Keys>,
    form: Form,
    home: Home,
    /// Which of the groups that its author set apart it is in, from 0.
    group: usize,
    /// Whether a blank line is in front of it.
    apart: bool,
}

/// A text to compare by, with capitals and without.
#[derive(Clone, Debug)]
struct Keys {
    exact: String,
    /// By letters alone.
    letters: String,
    /// With small letters in front of capitals.
    small: String,
}

impl Keys {
    fn of(exact: String) -> Keys {
        Keys { letters: exact.to_lowercase(), small: small_first(&exact), exact }
    }
}

/// A text whose capitals are small letters and the other way round.
pub(super) fn small_first(text: &str) -> String {
    let swapped = |c: char| if c.is_ascii_lowercase() { c.to_ascii_uppercase() } else { c.to_ascii_lowercase() };
    text.chars().map(swapped).collect()
}

impl Standing {
    pub fn of(
        spec: &ImportSpec,
        import: &Import,
        around: Option<&dyn Surroundings>,
        own: &[String],
        group: usize,
        apart: bool,
    ) -> Standing {
        let key = (spec.key)(import);
        let behind = (spec.key_of_list)(import).filter(|behind| *behind != key);
        let begins = |own: &String| begins_with(&import.source, own) || begins_with(&key, own);
        let home = match own.iter().any(begins) {
            true => Home::Own,
            false => around.map_or(Home::Other, |around| (spec.home)(import, around)),
        };
        Standing {
            key: Keys::of(key),
            behind: behind.map(Keys::of),
            form: import.form,
            home,
            group,
            apart,
        }
    }

    /// The same in another of its author's groups.
    pub fn in_group(self, group: usize) -> Standing {
        Standing { group, ..self }
    }

    /// Which of its author's groups it is in.
    pub fn written_group(&self) -> usize {
        self.group
    }

    /// Whether a blank line was in front of it.
    pub fn is_apart(&self) -> bool {
        self.apart
    }
}

/// Whether a path begins with another one, whole names at a time.
fn begins_with(path: &str, start: &str) -> bool {
    let rest = path.strip_prefix(start.trim_end_matches(['.', '/', ':']));
    rest.is_some_and(
        |rest| rest.is_empty() || rest.starts_with(['.', '/', ':', '\\', '\u{1}']) || start.ends_with(['.', '/', ':']),
    )
}

/// An order of imports.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Order {
    /// Whether the groups that their author set apart stay apart.
    pub written: bool,
    /// Groups in order, those of each author's group or of all.
    groups: Vec<String>,
    /// Whether a blank line parts the groups.
    pub blank: bool,
    case: Case,
    form: ImportForm,
    statics: ImportStatic,
    /// Whether an import of several names stands behind those of one name from the same place.
    lists_behind: bool,
}

/// What capitals mean to an order.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Case {
    Exact,
    Letters,
    Small,
}

/// By what two imports are compared: groups, forms, then letters.
pub(super) type Rank<'s> = (usize, usize, u8, &'s str, &'s str);

impl Order {
    /// The same inside the groups that there are.
    pub fn in_written_groups(self) -> Order {
        Order { written: true, groups: Vec::new(), ..self }
    }

    /// The place of an import's group: of its author's groups, and among those listed.
    pub fn group(&self, standing: &Standing) -> (usize, usize) {
        let author = if self.written { standing.group } else { 0 };
        let statics = match (standing.form, self.statics) {
            (Form::First, _) => return (0, 0),
            (Form::Own, _) => return (author, 0),
            (Form::Static, ImportStatic::First) => return (author, 0),
            (Form::Static, ImportStatic::Last) => return (author, self.groups.len() + 2),
            _ => 1,
        };
        (author, statics + self.listed(standing))
    }

    fn listed(&self, standing: &Standing) -> usize {
        let mut best: Option<(usize, usize)> = None;
        for (index, group) in self.groups.iter().enumerate() {
            let fits = match group.as_str() {
                "types" if standing.form == Form::Types => 10_000,
                name if name == standing.home.group() => 2,
                "own" if standing.home == Home::Near => 1,
                "other" => 0,
                name if begins_with(&standing.key.exact, name) => 2 + name.len(),
                _ => continue,
            };
            if best.is_none_or(|(_, best)| fits > best) {
                best = Some((index, fits));
            }
        }
        best.map_or(self.groups.len(), |(index, _)| index)
    }

    pub fn rank<'s>(&self, standing: &'s Standing) -> Rank<'s> {
        let (author, listed) = self.group(standing);
        let form = match (standing.form, self.form) {
            (Form::Alias, _) => 2,
            (Form::From, ImportForm::Apart) => 1,
            _ => 0,
        };
        let key = standing.behind.as_ref().filter(|_| self.lists_behind).unwrap_or(&standing.key);
        let first = match self.case {
            Case::Exact => "",
            Case::Letters => key.letters.as_str(),
            Case::Small => key.small.as_str(),
        };
        (author, listed, form, first, &key.exact)
    }

    /// Whether a blank line stands between two imports that follow one another.
    pub fn parts(&self, first: &Standing, second: &Standing) -> bool {
        let (first, second) = (self.group(first), self.group(second));
        if self.written && first.0 != second.0 { true } else { self.blank && !self.written && first.1 != second.1 }
    }

    /// How many pairs of neighbours in a row of imports are not as they would be.
    fn faults(&self, row: &[Standing]) -> usize {
        let pair = |pair: &[Standing]| {
            let [first, second] = pair else { return 0 };
            usize::from(self.rank(first) > self.rank(second)) + usize::from(self.parts(first, second) != second.apart)
        };
        row.windows(2).map(pair).sum()
    }
}

/// Whether some order that may be meant goes by where imports come from: telling that may take a look at the whole project.
pub(super) fn asks_home(spec: &ImportSpec, style: &Style) -> bool {
    let by_home = |group: &str| ["standard", "own", "near"].contains(&group);
    match style.word(Key::ImportGroups) {
        "as-found" => spec.orders.iter().copied().flatten().any(|group| by_home(group)),
        set => set.split([',', ' ']).any(by_home),
    }
}

/// The order for a file with some rows of imports: by settings, then as the rows show it.
pub(super) fn order(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> Order {
    let candidates = candidates(spec, style, rows);
    let pairs: usize = rows.iter().map(|row| row.len().saturating_sub(1)).sum();
    let faults = |order: &Order| rows.iter().map(|row| order.faults(row)).sum::<usize>();
    let best = candidates.iter().map(|order| (faults(order), order)).min_by_key(|(faults, _)| *faults);
    let Some((faults, best)) = best else {
        return Order {
            written: true,
            groups: Vec::new(),
            blank: true,
            case: Case::Exact,
            form: ImportForm::Apart,
            statics: ImportStatic::Last,
            lists_behind: false,
        };
    };
    // What nothing sets is found where enough lines speak and four in five agree.
    let shown = faults == 0 || pairs >= 5 && faults * 5 <= pairs;
    if shown { best.clone() } else { candidates[0].clone() }
}

/// The orders that settings leave open, the most usual first.
fn candidates(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> Vec<Order> {
    let set = style.word(Key::ImportGroups);
    let orders_of_groups: Vec<Vec<String>> = match set {
        "as-found" => spec.orders.iter().map(|order| order.iter().map(|group| (*group).to_owned()).collect()).collect(),
        set => vec![set.split([',', ' ']).filter(|name| !name.is_empty()).map(str::to_owned).collect()],
    };
    let sound = coherent(rows);
    let blanks: &[bool] = match style.number(Key::ImportBlank) {
        Some(blank) => if blank > 0 { &[true] } else { &[false] },
        None if spec.blank => &[true, false],
        None => &[false, true],
    };
    let has = |form: Form| rows.iter().flatten().any(|standing| standing.form == form);
    let cases: &[Case] = match style.choice() {
        ImportCase::Exact => &[Case::Exact],
        ImportCase::Ignore => &[Case::Letters],
        ImportCase::AsFound if spec.cased => &[Case::Exact, Case::Letters, Case::Small],
        ImportCase::AsFound => &[Case::Letters, Case::Exact, Case::Small],
    };
    let lists: &[bool] = if rows.iter().flatten().any(|one| one.behind.is_some()) { &[false, true] } else { &[false] };
    let forms = match has(Form::From) {
        true => open(style.choice(), ImportForm::AsFound, &[ImportForm::Apart, ImportForm::Among]),
        false => vec![ImportForm::Among],
    };
    let places = [ImportStatic::Last, ImportStatic::First, ImportStatic::Among];
    let statics = match has(Form::Static) {
        true => open(style.choice(), ImportStatic::AsFound, &places),
        false => vec![ImportStatic::Last],
    };
    let mut orders = Vec::new();
    for groups in &orders_of_groups {
        let written = groups.first().is_some_and(|group| group == WRITTEN);
        // Groups that say nothing are not taken for an order, unless that is asked for.
        if written && !sound && set == "as-found" && orders_of_groups.first() != Some(groups) {
            continue;
        }
        let groups = groups.iter().skip(usize::from(written)).cloned().collect::<Vec<_>>();
        for (blank, case) in blanks.iter().flat_map(|blank| cases.iter().map(move |case| (*blank, *case))) {
            for (form, statics) in forms.iter().flat_map(|form| statics.iter().map(move |place| (*form, *place))) {
                let order = |lists_behind: &bool| Order {
                    written,
                    groups: groups.clone(),
                    blank,
                    case,
                    form,
                    statics,
                    lists_behind: *lists_behind,
                };
                orders.extend(lists.iter().map(order));
            }
        }
    }
    orders
}

/// The ways that a setting leaves open.
fn open<W: Copy + PartialEq>(set: W, as_found: W, ways: &[W]) -> Vec<W> {
    if set == as_found { ways.to_vec() } else { vec![set] }
}

/// Whether the groups that an author set apart mean something: what comes from one place stands in one of them.
fn coherent(rows: &[Vec<Standing>]) -> bool {
    let mut seen = std::collections::HashMap::new();
    rows.iter().enumerate().all(|(index, row)| {
        row.iter().all(|standing| {
            let root = (index, standing.form, root(&standing.key.exact));
            *seen.entry(root).or_insert(standing.group) == standing.group
        })
    })
}

/// The first part of a path, or its first two where the first says little.
fn root(path: &str) -> &str {
    let mut ends = path.char_indices().filter(|(_, c)| matches!(c, '.' | '/' | ':' | '\u{1}')).map(|(at, _)| at);
    let few = |start: &str| start.len() <= 3 || start.starts_with('@');
    let end = match ends.next() {
        Some(first) if few(&path[..first]) => ends.next().unwrap_or(path.len()),
        Some(first) => first,
        None => path.len(),
    };
    &path[..end]
}
