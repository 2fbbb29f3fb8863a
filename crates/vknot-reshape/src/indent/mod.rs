//! Indentation: where lines begin, told from the structure of the code. Only white space at the start of lines changes.
//!
//! [`set`] goes by structure, [`shift`] moves lines by levels, [`convert`] turns tabs into spaces and back, [`show`] says what there is.
//! [`prove`] is the proof of all three.

mod blocks;
mod brackets;
mod comments;
mod completed;
mod convert;
mod directives;
mod elements;
mod engine;
pub(crate) mod forms;
mod found;
mod learn;
mod levels;
mod lines;
mod manner;
mod nesting;
mod options;
mod place;
mod proof;
pub(crate) mod rules;
mod set;
mod shift;
mod show;
mod spots;
mod strip;

pub use convert::{convert, Target};
pub use found::indentation as found_indentation;
pub use learn::HeadVotes;
pub use manner::own_style;
pub(crate) use options::wrap_columns;
pub use proof::prove;
pub use set::set;
pub use shift::{Shift, shift, ShiftError};
pub use show::{show, ShownLine};
pub use strip::stripped;

use vknot_style::{Indentation, Style};
use vknot_syntax::{Language, Source, Tree};

use rules::LinesBy;
use crate::languages::Toolkit;

/// What decides the indentation of a file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Decided {
    /// A setting.
    BySetting,
    /// What the file itself has.
    ByFile,
    /// What is usual in the language.
    ByHabit,
}

/// The indentation a file gets: as its style says, else as found in it, else as is usual in its language.
pub fn effective_indentation(source: &Source, tree: &Tree, style: &Style) -> Indentation {
    decided_indentation(source, tree, style).0
}

/// The same, and what decided it.
pub fn decided_indentation(source: &Source, tree: &Tree, style: &Style) -> (Indentation, Decided) {
    let spec = Toolkit::of(tree.language()).indent.spec;
    let habit = Indentation { tabs: spec.tabs, size: spec.habit, tab_width: spec.habit };
    let found = found::indentation(source, tree);
    let indentation = style.indentation(found, habit);
    let sized = style.word("indent_size") != "as-found" || style.word("indent_style") == "tab";
    let decided = match found {
        _ if sized => Decided::BySetting,
        Some(found) if found.tabs == indentation.tabs => Decided::ByFile,
        _ => Decided::ByHabit,
    };
    (indentation, decided)
}

/// Whether indentation is meaning in a language, so that it can only be scaled.
pub fn is_meaning(language: &'static Language) -> bool {
    Toolkit::of(language).indent.spec.lines == LinesBy::Levels
}

/// Whether the lines of a language can be set; those of prose are left to their author, code in it aside.
pub fn covers(language: &'static Language) -> bool {
    Toolkit::of(language).indent.spec.lines != LinesBy::Author || language.spec().embeds.is_some()
}
