//! What the files of a folder show together, for those among them that show too little. It is the same for all of them, so that none goes
//! another way when the others have gone theirs.

use std::collections::BTreeMap;

use vknot_style::{Indentation, Key};

use crate::frames::found::decided_indentation;
use crate::indent;
use crate::layout;
use crate::receipt::Decided;
use crate::steps::Document;
use super::trial::touched_lines;

/// How many files must have lines before their width counts: a short file has no long lines whatever its author thinks.
const WIDTHS: usize = 3;
/// One line in how many a file may have to change that is well kept.
const CHANGED_AT_MOST: u32 = 10;

/// What files show.
#[derive(Clone, Debug, Default)]
pub struct Beside {
    indentation: Vec<(Indentation, u32)>,
    /// For each value of a setting how many files show it.
    files: BTreeMap<Key, BTreeMap<String, u32>>,
    /// How wide lines are in each.
    widths: Vec<u32>,
}

impl Beside {
    /// Counts what a file shows. One that cannot be read whole shows nothing, nor does one that is a jumble.
    pub fn count(&mut self, document: &Document) {
        let (code, style) = (document.code(), document.style());
        if code.tree.gave_up() || code.tree.has_error() || !is_kept(document) {
            return;
        }
        let (indentation, decided) = decided_indentation(code, style);
        if decided == Decided::ByFile {
            match self.indentation.iter_mut().find(|(other, _)| *other == indentation) {
                Some((_, votes)) => *votes += 1,
                None => self.indentation.push((indentation, 1)),
            }
        }
        let shown = layout::shown(code, style).into_iter().filter(|(_, _, found)| *found);
        for (key, value) in shown.map(|(key, value, _)| (key, value)).chain(indent::told(code, style)) {
            match (key, value.parse()) {
                (Key::MaxLineLength, Ok(width)) => self.widths.push(width),
                _ => *self.files.entry(key).or_default().entry(value).or_default() += 1,
            }
        }
    }

    /// What four in five of the files that tell have.
    pub fn values(&self) -> Vec<(Key, String)> {
        let mut values = Vec::new();
        let indentation = self.indentation.iter().map(|(indentation, votes)| (indentation, *votes));
        if let Some(indentation) = agreed(indentation) {
            let made_of = if indentation.tabs { "tab" } else { "space" };
            values.push((Key::IndentStyle, made_of.to_owned()));
            values.push((Key::IndentSize, indentation.size.to_string()));
            values.push((Key::TabWidth, indentation.tab_width.to_string()));
        }
        for (key, votes) in &self.files {
            let agreed = agreed(votes.iter().map(|(value, votes)| (value, *votes)));
            values.extend(agreed.map(|value| (*key, value.clone())));
        }
        let widest = self.widths.iter().max().filter(|_| self.widths.len() >= WIDTHS);
        values.extend(widest.map(|width| (Key::MaxLineLength, width.to_string())));
        values
    }
}

/// Whether few of a file's lines are to change.
fn is_kept(document: &Document) -> bool {
    let (code, style) = (document.code(), document.style());
    let edits = match code.toolkit().layout {
        Some(_) => layout::once(code, style, None),
        None => indent::once(code, style, None),
    };
    touched_lines(code.source, &edits) * CHANGED_AT_MOST <= code.source.lines().count()
}

/// What four in five votes are for.
fn agreed<T>(votes: impl Iterator<Item = (T, u32)> + Clone) -> Option<T> {
    let all: u32 = votes.clone().map(|(_, votes)| votes).sum();
    votes.max_by_key(|(_, votes)| *votes).filter(|(_, most)| 5 * most >= 4 * all).map(|(value, _)| value)
}
