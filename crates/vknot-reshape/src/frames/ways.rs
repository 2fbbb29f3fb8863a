//! The ways of an author: where a line may stand other than settings and habit say, as long as it stands for something.
//!
//! In a file that is well kept, a line stays where another value of the setting that decides it would have it, or, if it goes on with
//! what another line began, where it lines up with something in front of it or stands whole steps further in. It is held against the
//! lines around it: what they move, it moves. The first line of a kind decides for those beside it.

use std::collections::{BTreeMap, HashSet};

use vknot_style::{Key, Style};
use vknot_syntax::TokenId;

use super::offsets::Offsets;
use super::place::{By, Place};

/// Columns of one line, up to the 255th.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Columns([u64; 4]);

impl Columns {
    pub fn insert(&mut self, column: u32) {
        if let Some(word) = self.0.get_mut(column as usize / 64) {
            *word |= 1 << (column % 64);
        }
    }

    pub fn contains(&self, column: u32) -> bool {
        self.0.get(column as usize / 64).is_some_and(|word| word >> (column % 64) & 1 == 1)
    }
}

/// What is known of how the lines of a frame were written.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Written {
    /// How many columns the line it began on was moved.
    pub shift: i64,
    /// Where its tokens stand, and those of what it is in that begin with it.
    pub columns: Columns,
    /// Where the first thing behind its bracket, or behind a sign in it, stands.
    pub first: Option<u32>,
    /// The column in which that was written, if it is near the beginning of its line.
    pub first_was: Option<u32>,
    /// Where the bracket of a form stands.
    pub bracket: u32,
    /// Where the mark stands that leads the line it began on, if it goes by what is behind that.
    pub mark: Option<u32>,
    /// How many blocks of a template are open in it.
    pub templates: u32,
    /// Where its labels stand.
    pub labels: Option<Place>,
    /// Whether a line has told where those beside it stand, and where they would have stood.
    pub settled: bool,
    pub usual: Place,
}

impl Written {
    /// That of a frame that stands on the same line.
    pub fn bare(&self) -> Written {
        Written { shift: self.shift, ..Written::default() }
    }
}

/// What the lines of a file show of its ways.
#[derive(Clone, Debug, Default)]
pub(crate) struct Shown {
    /// On how many lines each value of a setting holds.
    pub votes: BTreeMap<(Key, &'static str), u32>,
    /// Lines that begin something: those that stand for something, and all.
    pub begun: (u32, u32),
    /// The same of lines that go on with what another line began.
    pub wrapped: (u32, u32),
}

impl Shown {
    /// Whether every line stands for something.
    pub fn is_whole(&self) -> bool {
        [self.begun, self.wrapped].iter().all(|(standing, all)| standing == all)
    }

    /// Whether so many lines stand for something that the file is no jumble. Where none begins anything, those that wrap tell.
    pub fn is_kept(&self) -> bool {
        let (standing, all) = if self.begun.1 > 0 { self.begun } else { self.wrapped };
        all > 0 && standing * 100 >= all * KEPT
    }
}

/// The share of the lines, in hundredths, that must stand for something.
const KEPT: u32 = 80;

/// Follows the lines of a file that may stand in other ways.
pub(crate) struct Ways<'a> {
    style: &'a Style,
    pub shown: Shown,
    /// How far in lines stand inside each frame, if that is known.
    pub offsets: Option<&'a Offsets>,
    /// The same, to be found out; lines stand as they were written then.
    pub counted: Option<Offsets>,
    /// The tokens that lead lines that stand right by brackets alone, where not all could be read.
    pub bracketed: Option<&'a HashSet<TokenId>>,
    /// In which column the line at hand was written.
    pub column: u32,
    /// How many columns it was moved.
    pub shift: i64,
    /// Where the tokens of the line at hand stand, and those of the line above.
    pub line: Columns,
    pub above: Columns,
    /// Where the line above stands, and whether it holds a comment only that stays where it was.
    pub line_above: (u32, bool),
    /// Whether the line at hand ends with a comment behind code, or goes on with one.
    pub beside: bool,
}

impl<'a> Ways<'a> {
    pub fn new(style: &'a Style) -> Self {
        Self {
            style,
            shown: Shown::default(),
            offsets: None,
            counted: None,
            bracketed: None,
            column: 0,
            shift: 0,
            line: Columns::default(),
            above: Columns::default(),
            line_above: (0, false),
            beside: false,
        }
    }

    /// Lets lines stand as far in as others do that are with them.
    pub fn with_offsets(self, offsets: Option<&'a Offsets>) -> Self {
        Ways { offsets, ..self }
    }

    /// Lets lines stand that these tokens lead.
    pub fn with_bracketed(self, bracketed: &'a HashSet<TokenId>) -> Self {
        Ways { bracketed: Some(bracketed), ..self }
    }

    /// Finds out how far in lines stand inside each frame.
    pub fn counting(self) -> Self {
        Ways { counted: Some(Offsets::default()), ..self }
    }

    /// Whether somebody set where such lines stand.
    pub fn is_set(&self, by: By) -> bool {
        match by {
            By::Wrap => WRAPS.iter().any(|key| !self.is_open(*key)),
            By::Setting(key, _) => !self.is_open(key),
            _ => false,
        }
    }

    /// Whether nobody set a key, so that lines may tell.
    pub fn is_open(&self, key: Key) -> bool {
        self.style.is_open(key)
    }
}

/// The settings that say how lines stand that go on with others.
const WRAPS: [Key; 7] = [
    Key::AlignList,
    Key::AlignOperand,
    Key::IndentCondition,
    Key::IndentHeads,
    Key::IndentOperand,
    Key::WrapIndent,
    Key::WrapLiteral,
];
