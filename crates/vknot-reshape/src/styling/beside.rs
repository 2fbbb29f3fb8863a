//! What the files of a folder show together, for those among them that show too little. It is the same for all of them, so that none goes
//! another way when the others have gone theirs.

use std::cmp::Reverse;
use std::collections::BTreeMap;

use vknot_style::{Indentation, Key};

use crate::frames::found::decided_indentation;
use crate::imports;
use crate::indent;
use crate::layout;
use crate::receipt::Decided;
use crate::steps::Document;

/// What depends on which lines there are: a file that is laid out may show something else, and whoever went by it would go another way then.
const FLEETING: [Key; 7] = [
    Key::AlignList,
    Key::AlignOperand,
    Key::BraceWrapped,
    Key::IndentBracket,
    Key::MaxLineLength,
    Key::WrapIndent,
    Key::WrapLiteral,
];

/// How many places of how many files tell together what none of them does.
const PLACES_ENOUGH: u32 = 4;
const FILES_ENOUGH: u32 = 2;

/// In one of how many files at least lines must be longer than usual for that to be meant.
const WIDE_ENOUGH: u32 = 4;

/// What one file shows, for others to go by.
#[derive(Clone, Debug, Default)]
pub struct Told {
    indentation: Option<Indentation>,
    settings: Vec<(Key, String)>,
    /// The places of settings that have too few of them to be shown.
    few: Vec<(Key, &'static str, u32)>,
    /// The width it keeps to, if that is more than what is usual.
    width: Option<u32>,
}

/// What files show.
#[derive(Clone, Debug, Default)]
pub struct Beside {
    indentation: Vec<(Indentation, u32)>,
    /// For each value of a setting how many files show it.
    files: BTreeMap<Key, BTreeMap<String, u32>>,
    /// The places of files that have too few of them, for each value of a setting, and how many files that is.
    few: BTreeMap<Key, BTreeMap<&'static str, (u32, u32)>>,
    /// How many files were looked at, and the widths of those that keep to more than what is usual.
    all: u32,
    wide: Vec<u32>,
}

impl Told {
    /// What a file shows, if it still does so when it is laid out: what it will not show any more, others cannot go by. One that cannot be
    /// read whole shows nothing.
    ///
    /// A file of another folder (`elsewhere`) may stand in other company there, and tells all that it shows when it is laid out.
    pub fn of(document: &Document, elsewhere: bool) -> Self {
        let code = document.code();
        if code.tree.gave_up() || code.tree.has_error() {
            return Self::default();
        }
        let own = layout::shown(code, document.style());
        let few = own.few.iter().filter(|(key, ..)| !elsewhere && !FLEETING.contains(key)).copied().collect();
        let mut width = own.width;
        let (mut indentation, mut settings) = shown(document, own);
        let once = match code.toolkit().layout {
            Some(_) => layout::once(code, document.style(), None),
            None => indent::once(code, document.style(), None),
        };
        if !once.edits.is_empty() {
            let laid_out = document.laid_out(&once);
            let own = layout::shown(laid_out.code(), laid_out.style());
            width = own.width.filter(|made| elsewhere || width == Some(*made));
            let (made_indentation, made) = self::shown(&laid_out, own);
            if elsewhere {
                (indentation, settings) = (made_indentation, made);
            } else {
                indentation = indentation.filter(|own| made_indentation == Some(*own));
                settings.retain(|own| made.contains(own));
            }
        }
        Self { indentation, settings, few, width }
    }
}

impl Beside {
    /// Counts what a file shows.
    pub fn count(&mut self, told: &Told) {
        for (key, value, places) in &told.few {
            let all = self.few.entry(*key).or_default().entry(value).or_default();
            *all = (all.0 + places, all.1 + 1);
        }
        self.all += 1;
        self.wide.extend(told.width);
        if let Some(own) = told.indentation {
            match self.indentation.iter_mut().find(|(other, _)| *other == own) {
                Some((_, votes)) => *votes += 1,
                None => self.indentation.push((own, 1)),
            }
        }
        for (key, value) in &told.settings {
            *self.files.entry(*key).or_default().entry(value.clone()).or_default() += 1;
        }
    }

    /// What four in five of the files that tell have.
    pub fn values(&self) -> Vec<(Key, String)> {
        let mut values = Vec::new();
        if let Some(indentation) = self.indentation() {
            let made_of = if indentation.tabs { "tab" } else { "space" };
            values.push((Key::IndentStyle, made_of.to_owned()));
            values.push((Key::IndentSize, indentation.size.to_string()));
            values.push((Key::TabWidth, indentation.tab_width.to_string()));
        }
        for (key, votes) in &self.files {
            let agreed = agreed(votes.iter().map(|(value, votes)| (value, *votes)));
            values.extend(agreed.map(|value| (*key, value.clone())));
        }
        values.extend(self.width().map(|width| (Key::MaxLineLength, width.to_string())));
        values.extend(self.few.iter().filter(|(key, _)| !self.files.contains_key(key)).filter_map(together));
        values
    }

    /// A width that is more than what is usual, of which two files show that lines may be that wide, if one in so many has such lines: the
    /// others may do without. Files that come to keep to it, or to less, change nothing about it.
    fn width(&self) -> Option<u32> {
        let mut wide = self.wide.clone();
        wide.sort_unstable_by_key(|width| Reverse(*width));
        wide.get(1).filter(|_| WIDE_ENOUGH * wide.len() as u32 >= self.all).copied()
    }

    /// What levels are in most files. How wide tabs are taken to be hardly matters, so there the width that most have will do.
    fn indentation(&self) -> Option<Indentation> {
        let votes = |tabs: bool| self.indentation
            .iter()
            .filter(move |(own, _)| own.tabs == tabs)
            .map(|(_, votes)| votes);
        let tabs = agreed([false, true].into_iter().map(|tabs| (tabs, votes(tabs).sum())))?;
        let alike = self.indentation.iter().filter(|(own, _)| own.tabs == tabs).map(|(own, votes)| (*own, *votes));
        match tabs {
            true => alike.max_by_key(|(own, votes)| (*votes, Reverse((own.size, own.tab_width)))).map(|(own, _)| own),
            false => agreed(alike),
        }
    }
}

/// What files show together, none of which has enough places to show it, where several do and four in five of their places agree.
fn together((key, votes): (&Key, &BTreeMap<&'static str, (u32, u32)>)) -> Option<(Key, String)> {
    let places: u32 = votes.values().map(|(places, _)| places).sum();
    let files: u32 = votes.values().map(|(_, files)| files).sum();
    let agreed = agreed(votes.iter().map(|(value, (places, _))| (*value, *places)));
    agreed.filter(|_| places >= PLACES_ENOUGH && files >= FILES_ENOUGH).map(|value| (*key, value.to_owned()))
}

/// What levels are in a file that tells, and the settings that it shows.
fn shown(document: &Document, layout: layout::Shown) -> (Option<Indentation>, Vec<(Key, String)>) {
    let (code, style) = (document.code(), document.style());
    let (indentation, decided) = decided_indentation(code, style);
    let ways = layout.settings.into_iter().filter(|(_, _, found)| *found);
    let all = ways.map(|(key, value, _)| (key, value)).chain(indent::told(code, style));
    let all = all.chain(imports::shown(code, style));
    let shown = all.filter(|(key, _)| !FLEETING.contains(key)).collect();
    (Some(indentation).filter(|_| decided == Decided::ByFile), shown)
}

/// What four in five votes are for.
fn agreed<T>(votes: impl Iterator<Item = (T, u32)> + Clone) -> Option<T> {
    let all: u32 = votes.clone().map(|(_, votes)| votes).sum();
    votes.max_by_key(|(_, votes)| *votes).filter(|(_, most)| 5 * most >= 4 * all).map(|(value, _)| value)
}
