//! The order of imports: what is set, what the file shows, else what is usual in its language.

use std::collections::{HashMap, HashSet};

use vknot_style::{Key, Style};
use vknot_style::choices::{Choice, ImportCase, ImportForm, ImportStatic};

use crate::spec::imports::{BETWEEN_SEGMENTS, Form, Home, Import, Surroundings};
use crate::spec::ImportSpec;
use super::keys::{by_kinds, Kinds, outwards, small_first};

/// The group names that mean something; any other is how what is imported begins.
const WRITTEN: &str = "written";
/// Between groups that no blank line parts.
const BESIDE: char = '+';

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
    /// With small letters in front of capitals; or names that begin with them, where those are of another kind.
    small: String,
}

impl Keys {
    fn of(spec: &ImportSpec, exact: String) -> Keys {
        let small = if spec.kinds_apart { by_kinds(&exact, Kinds::ConstantsLast) } else { small_first(&exact) };
        Keys { letters: exact.to_lowercase(), small, exact }
    }
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
            key: Keys::of(spec, key),
            behind: behind.map(|behind| Keys::of(spec, behind)),
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
        |rest| rest.is_empty()
            || rest.starts_with(['.', '/', ':', '\\', BETWEEN_SEGMENTS])
            || start.ends_with(['.', '/', ':']),
    )
}

/// An order of imports.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Order {
    /// Whether the groups that their author set apart stay apart.
    pub written: bool,
    /// Groups in order, those of each author's group or of all.
    groups: Vec<Group>,
    /// Whether a blank line parts the groups.
    pub blank: bool,
    case: Case,
    form: ImportForm,
    statics: ImportStatic,
    /// Whether an import of several names stands behind those of one name from the same place.
    lists_behind: bool,
    far: Far,
}

/// Where what comes from farther outwards stands among what is near.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Far {
    First,
    Last,
    /// Where its letters say.
    Among,
    /// First, behind all that is named from the root.
    Behind,
}

/// A group of imports.
#[derive(Clone, Debug, PartialEq, Eq)]
struct Group {
    name: String,
    /// Whether it stands next to the one in front of it, without a blank line between them.
    beside: bool,
}

/// The groups that a value of the setting names. A mark with nothing on one of its sides is part of a name.
fn groups(value: &str) -> Vec<Group> {
    let mut groups = Vec::new();
    for names in value.split([',', ' ']).filter(|names| !names.is_empty()) {
        let parts: Vec<&str> = names.split(BESIDE).collect();
        match parts.iter().any(|part| part.is_empty()) {
            true => groups.push(Group { name: names.to_owned(), beside: false }),
            false => {
                let group = |(index, name): (usize, &&str)| Group { name: (*name).to_owned(), beside: index > 0 };
                groups.extend(parts.iter().enumerate().map(group));
            }
        }
    }
    groups
}

/// The settings that an order is made of.
const SHOWN: [Key; 5] = [Key::ImportGroups, Key::ImportBlank, Key::ImportCase, Key::ImportForm, Key::ImportStatic];

/// What capitals mean to an order.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Case {
    Exact,
    Letters,
    Small,
}

/// By what two imports are compared: groups, forms, then letters.
pub(super) type Rank<'s> = (usize, usize, u8, i64, &'s str, &'s str);

impl Order {
    /// The same inside the groups that there are.
    pub fn in_written_groups(self) -> Order {
        Order { written: true, groups: Vec::new(), ..self }
    }

    /// The place of an import's group: of its author's groups, and among those listed.
    pub fn place(&self, standing: &Standing) -> (usize, usize) {
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
            let fits = match group.name.as_str() {
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
        let (author, listed) = self.place(standing);
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
        let far = match (self.far, outwards(&key.exact)) {
            (Far::Among, _) => 0,
            (Far::Behind, 0) => i64::MIN,
            (Far::First | Far::Behind, far) => -far,
            (Far::Last, far) => far,
        };
        (author, listed, form, far, first, &key.exact)
    }

    /// Whether a blank line stands between two imports that follow one another.
    pub fn parts(&self, first: &Standing, second: &Standing) -> bool {
        let (first, second) = (self.place(first), self.place(second));
        if self.written && first.0 != second.0 {
            true
        } else {
            self.blank && !self.written && self.apart(first.1, second.1)
        }
    }

    /// Whether a blank line parts two places. That of a group listed is its index and one more.
    fn apart(&self, first: usize, second: usize) -> bool {
        let (low, high) = (first.min(second), first.max(second));
        (low..high).any(|place| !self.groups.get(place).is_some_and(|group| group.beside))
    }

    /// What a setting says where this is the order; `None` where no value of it says it.
    fn value(&self, key: Key) -> Option<String> {
        let name = |(at, group): (usize, &Group)| match (at, group.beside) {
            (0, _) => group.name.clone(),
            (_, true) => format!("{BESIDE}{}", group.name),
            (_, false) => format!(", {}", group.name),
        };
        match (key, self.case) {
            (Key::ImportGroups, _) if self.written => Some(WRITTEN.to_owned()),
            (Key::ImportGroups, _) if self.groups.is_empty() => Some("other".to_owned()),
            (Key::ImportGroups, _) => Some(self.groups.iter().enumerate().map(name).collect()),
            (Key::ImportBlank, _) => Some(u8::from(self.blank).to_string()),
            (Key::ImportCase, Case::Exact) => Some(ImportCase::Exact.word().to_owned()),
            (Key::ImportCase, Case::Letters) => Some(ImportCase::Ignore.word().to_owned()),
            (Key::ImportForm, _) => Some(self.form.word().to_owned()),
            (Key::ImportStatic, _) => Some(self.statics.word().to_owned()),
            _ => None,
        }
    }

    /// In how many settings it is not as the files beside show.
    fn strange(&self, style: &Style) -> usize {
        let is_strange = |key: &&Key| {
            let beside = style.beside(**key).filter(|_| style.is_open(**key));
            beside.is_some_and(|beside| self.value(**key).is_some_and(|own| own != beside))
        };
        SHOWN.iter().filter(is_strange).count()
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
        set => groups(set).iter().any(|group| by_home(&group.name)),
    }
}

/// The order for a file with some rows of imports: by settings, then as the rows show it, then as the files beside do.
pub(super) fn order(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> Order {
    let mut candidates = candidates(spec, style, rows);
    candidates.sort_by_key(|order| order.strange(style));
    let best = candidates.iter().map(|order| (faults(order, rows), order)).min_by_key(|(faults, _)| *faults);
    let Some((faults, best)) = best else {
        return Order {
            written: true,
            groups: Vec::new(),
            blank: true,
            case: Case::Exact,
            form: ImportForm::Apart,
            statics: ImportStatic::Last,
            lists_behind: false,
            far: Far::First,
        };
    };
    if is_shown(faults, rows) { best.clone() } else { candidates[0].clone() }
}

/// What rows of imports show of their order: what all orders say in which they stand. Groups that depend on what is around the file are
/// not told here.
pub(super) fn told(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> Vec<(Key, String)> {
    let candidates = candidates(spec, style, rows);
    let least = candidates.iter().map(|order| faults(order, rows)).min().filter(|least| is_shown(*least, rows));
    let best = candidates.iter().filter(|order| Some(faults(order, rows)) == least);
    // Any groups are as they were written.
    let (written, listed): (Vec<&Order>, Vec<&Order>) = best.partition(|order| order.written);
    let best = if listed.is_empty() { written } else { listed };
    let by_home = asks_home(spec, style);
    let told = |key: &Key| {
        let value = best.first()?.value(*key)?;
        if *key == Key::ImportBlank && by_home {
            let blank = shown_blank(&candidates, rows).filter(|_| style.is_open(*key))?;
            return Some((*key, u8::from(blank).to_string()));
        }
        let by_home = by_home && *key == Key::ImportGroups;
        let says = |order: &Order| order.value(*key).as_ref() == Some(&value);
        let is_open = candidates.iter().any(|order| !says(order));
        (!by_home && is_open && best.iter().all(|order| says(order))).then_some((*key, value))
    };
    SHOWN.iter().filter(|key| style.language().covers(**key)).filter_map(told).collect()
}

/// Whether there are blank lines between imports, which is told whatever the groups are that they part; `None` where none belong there.
fn shown_blank(candidates: &[Order], rows: &[Vec<Standing>]) -> Option<bool> {
    let parted = rows.iter().flatten().any(|standing| standing.apart);
    let parts = |order: &Order| rows.iter().flat_map(|row| row.windows(2)).any(|pair| order.parts(&pair[0], &pair[1]));
    let belong = || candidates.iter().filter(|order| order.blank && !order.written).any(parts);
    if parted { Some(true) } else { belong().then_some(false) }
}

/// Whether rows of imports stand in some order that may be meant.
pub(super) fn is_in_order(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> bool {
    candidates(spec, style, rows).iter().any(|order| faults(order, rows) == 0)
}

fn faults(order: &Order, rows: &[Vec<Standing>]) -> usize {
    rows.iter().map(|row| order.faults(row)).sum()
}

/// What nothing sets is found where enough lines speak and four in five agree.
fn is_shown(faults: usize, rows: &[Vec<Standing>]) -> bool {
    let pairs: usize = rows.iter().map(|row| row.len().saturating_sub(1)).sum();
    faults == 0 || pairs >= 5 && faults * 5 <= pairs
}

/// The orders that settings leave open, the most usual first.
fn candidates(spec: &ImportSpec, style: &Style, rows: &[Vec<Standing>]) -> Vec<Order> {
    let set = style.word(Key::ImportGroups);
    let orders_of_groups: Vec<Vec<Group>> = match set {
        "as-found" => spec.orders.iter().map(|order| groups(&order.join(","))).collect(),
        set => vec![groups(set)],
    };
    let is_written = |groups: &[Group]| groups.first().is_some_and(|group| group.name == WRITTEN);
    let sound = orders_of_groups.iter().all(|groups| is_written(groups)) || coherent(rows);
    let blanks: &[bool] = match style.number(Key::ImportBlank) {
        Some(blank) => if blank > 0 { &[true] } else { &[false] },
        None if spec.blank => &[true, false],
        None => &[false, true],
    };
    let has = |form: Form| rows.iter().flatten().any(|standing| standing.form == form);
    let cases: &[Case] = match style.choice() {
        ImportCase::Exact => &[Case::Exact],
        ImportCase::Ignore => &[Case::Letters],
        ImportCase::AsFound if spec.kinds_apart => &[Case::Small, Case::Letters, Case::Exact],
        ImportCase::AsFound if spec.cased => &[Case::Exact, Case::Letters, Case::Small],
        ImportCase::AsFound => &[Case::Letters, Case::Exact, Case::Small],
    };
    let lists: &[bool] = if rows.iter().flatten().any(|one| one.behind.is_some()) { &[false, true] } else { &[false] };
    let depths = rows.iter().flatten().map(|one| outwards(&one.key.exact));
    let fars: &[Far] = match depths.collect::<HashSet<_>>().len() > 1 {
        true => &[Far::First, Far::Among, Far::Last, Far::Behind],
        false => &[Far::First],
    };
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
        let written = is_written(groups);
        // Groups that say nothing are not taken for an order, unless that is asked for.
        if written && !sound && set == "as-found" && orders_of_groups.first() != Some(groups) {
            continue;
        }
        let groups = groups.iter().skip(usize::from(written)).cloned().collect::<Vec<_>>();
        for (blank, case) in blanks.iter().flat_map(|blank| cases.iter().map(move |case| (*blank, *case))) {
            for (form, statics) in forms.iter().flat_map(|form| statics.iter().map(move |place| (*form, *place))) {
                let ways = lists.iter().flat_map(|list| fars.iter().map(move |far| (*list, *far)));
                let order = |(lists_behind, far): (bool, Far)| Order {
                    written,
                    groups: groups.clone(),
                    blank,
                    case,
                    form,
                    statics,
                    lists_behind,
                    far,
                };
                orders.extend(ways.map(order));
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
    let mut seen = HashMap::new();
    rows.iter().enumerate().all(|(index, row)| {
        row.iter().all(|standing| {
            let root = (index, standing.form, root(&standing.key.exact));
            *seen.entry(root).or_insert(standing.group) == standing.group
        })
    })
}

/// The first part of a path, or its first two where the first says little.
fn root(path: &str) -> &str {
    let mut ends = path.char_indices().filter(|(_, c)| matches!(*c, '.' | '/' | ':' | BETWEEN_SEGMENTS)).map(
        |(at, _)| at,
    );
    let few = |start: &str| start.len() <= 3 || start.starts_with('@');
    let end = match ends.next() {
        Some(first) if few(&path[..first]) => ends.next().unwrap_or(path.len()),
        Some(first) => first,
        None => path.len(),
    };
    &path[..end]
}
