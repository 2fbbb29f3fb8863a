//! What the files of a folder show together, for those among them that show too little. It is the same for all of them, so that none goes
//! another way when the others have gone theirs.

use std::collections::BTreeMap;

use vknot_style::{Indentation, Key};

use crate::frames::found::decided_indentation;
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

/// What files show.
#[derive(Clone, Debug, Default)]
pub struct Beside {
    indentation: Vec<(Indentation, u32)>,
    /// For each value of a setting how many files show it.
    files: BTreeMap<Key, BTreeMap<String, u32>>,
}

impl Beside {
    /// Counts what a file shows, if it still does so when it is laid out: what it will not show any more, others cannot go by. One that
    /// cannot be read whole shows nothing.
    ///
    /// A file of another folder (`elsewhere`) may stand in other company there, and counts for all that it shows when it is laid out.
    pub fn count(&mut self, document: &Document, elsewhere: bool) {
        let code = document.code();
        if code.tree.gave_up() || code.tree.has_error() {
            return;
        }
        let (mut indentation, mut shown) = shown(document);
        let once = match code.toolkit().layout {
            Some(_) => layout::once(code, document.style(), None),
            None => indent::once(code, document.style(), None),
        };
        if !once.edits.is_empty() {
            let (made_indentation, made) = self::shown(&document.laid_out(&once));
            if elsewhere {
                (indentation, shown) = (made_indentation, made);
            } else {
                indentation = indentation.filter(|own| made_indentation == Some(*own));
                shown.retain(|own| made.contains(own));
            }
        }
        if let Some(own) = indentation {
            match self.indentation.iter_mut().find(|(other, _)| *other == own) {
                Some((_, votes)) => *votes += 1,
                None => self.indentation.push((own, 1)),
            }
        }
        for (key, value) in shown {
            *self.files.entry(key).or_default().entry(value).or_default() += 1;
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
        values
    }
}

/// What levels are in a file that tells, and the settings that it shows.
fn shown(document: &Document) -> (Option<Indentation>, Vec<(Key, String)>) {
    let (code, style) = (document.code(), document.style());
    let (indentation, decided) = decided_indentation(code, style);
    let ways = layout::shown(code, style).into_iter().filter(|(_, _, found)| *found);
    let all = ways.map(|(key, value, _)| (key, value)).chain(indent::told(code, style));
    let shown = all.filter(|(key, _)| !FLEETING.contains(key)).collect();
    (Some(indentation).filter(|_| decided == Decided::ByFile), shown)
}

/// What four in five votes are for.
fn agreed<T>(votes: impl Iterator<Item = (T, u32)> + Clone) -> Option<T> {
    let all: u32 = votes.clone().map(|(_, votes)| votes).sum();
    votes.max_by_key(|(_, votes)| *votes).filter(|(_, most)| 5 * most >= 4 * all).map(|(value, _)| value)
}
