//! Settings of two ways that nothing sets: what the file shows decides, else the habit of its language. Gaps that depend on them wait until
//! the whole file was walked.

use std::collections::HashMap;

use vknot_style::{Key, SETTINGS, Style};

use super::plan::GapPlan;

/// How many places must speak before they count.
pub(super) const ENOUGH: u32 = 3;

/// How many places speak for most of them.
pub(super) const MANY: u32 = 10;

/// How many tokens that are no commas a line may have, on an average, that a person wrote.
const CROWDED: usize = 25;

/// A gap that waits, with what it is the one way and the other.
pub(super) struct Waiting {
    pub gap: u32,
    pub key: Key,
    pub first: GapPlan,
    pub second: GapPlan,
}

/// Whether a gap that is otherwise planned holds a space.
pub(super) enum Spaced {
    By(Key),
    As(bool),
}

/// A gap whose way goes by a name.
pub(super) struct Named {
    pub gap: u32,
    pub key: Key,
    /// Whether its author had it the second way, if that tells.
    pub shows: Option<bool>,
}

/// What is known so far.
pub(super) struct Manner {
    /// For each setting how many places show the first way, and how many the second.
    votes: Vec<[u32; 2]>,
    /// Gaps that wait, each with its policy the one way and the other.
    pub waiting: Vec<Waiting>,
    /// Gaps whose space waits.
    pub spaced: Vec<(u32, Spaced)>,
    /// Gaps whose way goes by a name.
    pub named: Vec<Named>,
    /// Braces behind heads that wrap: the setting that says how those behind others open, and whether they begin a line.
    pub wrapped: Vec<(Key, bool)>,
    /// Gaps whose names have a way of their own, and whether that is the second.
    pub own: HashMap<(u32, Key), bool>,
    /// Whether too much stands on each line to be anyone's manner.
    squeezed: bool,
}

impl Default for Manner {
    fn default() -> Self {
        Self {
            votes: vec![[0; 2]; SETTINGS.len()],
            waiting: Vec::new(),
            spaced: Vec::new(),
            named: Vec::new(),
            wrapped: Vec::new(),
            own: HashMap::new(),
            squeezed: false,
        }
    }
}

impl Manner {
    /// What is known of a file with so many tokens, without commas, on so many lines. One that a program squeezed has no manner.
    pub fn of(tokens: usize, lines: usize) -> Self {
        Self { squeezed: tokens / CROWDED > lines, ..Self::default() }
    }

    /// A place that shows one of two ways.
    pub fn vote(&mut self, key: Key, second: bool) {
        self.votes[key as usize][usize::from(second)] += 1;
    }

    /// Places of one name that show the first way, and the second. However many there are, no name speaks for others; one that goes one way
    /// in four of five places, if they are `enough`, keeps to it.
    pub fn vote_for_name(&mut self, key: Key, places: [u32; 2], enough: u32) -> Option<bool> {
        let votes = &mut self.votes[key as usize];
        votes.iter_mut().zip(places).for_each(|(votes, places)| *votes += places.min(ENOUGH));
        self.agreed(places, enough)
    }

    /// Which way four in five places show, if enough do.
    pub fn found(&self, key: Key) -> Option<bool> {
        self.agreed(self.votes[key as usize], ENOUGH)
    }

    /// Which way four in five of these places show, if they are enough.
    pub fn agreed(&self, [first, second]: [u32; 2], enough: u32) -> Option<bool> {
        let total = first + second;
        (total >= enough && !self.squeezed && 5 * first.max(second) >= 4 * total).then_some(second > first)
    }

    /// Which way the few places go that a file has, if it is one.
    pub fn lone(&self, key: Key) -> Option<bool> {
        let [first, second] = self.votes[key as usize];
        (first.min(second) == 0 && first + second > 0 && !self.squeezed).then_some(second > 0)
    }

    /// How many places of a file show the first of two ways, and how many the second.
    pub fn shown(&self, key: Key) -> [u32; 2] {
        self.votes[key as usize]
    }

    /// Whether a file shows which of two ways it goes.
    pub fn shows(&self, key: Key) -> bool {
        self.found(key).is_some()
    }

    /// Which way most places go, two in three of many, where they do not agree.
    pub fn most(&self, key: Key) -> Option<bool> {
        let [first, second] = self.votes[key as usize];
        let (total, most) = (first + second, first.max(second));
        (total >= MANY && !self.squeezed && 3 * most >= 2 * total).then_some(second > first)
    }

    /// Whether a setting is the second of its two ways.
    pub fn second(&self, style: &Style, key: Key, habit: bool) -> bool {
        match style.word(key) {
            _ if !style.language().covers(key) => habit,
            "as-found" => self.found(key).unwrap_or(habit),
            word => is_second_word(word),
        }
    }
}

/// Whether a word names the second of two ways.
pub(super) fn is_second_word(word: &str) -> bool {
    matches!(word, "true" | "next" | "after" | "each")
}
