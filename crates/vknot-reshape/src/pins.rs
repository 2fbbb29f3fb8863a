//! Pins: named runs of lines, found again after the file has changed.
//!
//! A pin remembers its lines and a few lines around them. Finding it again goes by content alone, so it gives the same answer
//! wherever and whenever it is asked. Lines count as the same when they differ in blanks only, and as alike when they differ in names
//! and values only. Where two places fit about as well, the pin is lost rather than guessed.

use std::collections::HashMap;

/// What is remembered of a pin.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Anchor {
    /// The line it began on, from 1.
    pub first_line: u32,
    /// Its lines.
    pub lines: Vec<String>,
    /// Lines in front of it, the nearest last.
    pub before: Vec<String>,
    /// Lines behind it, the nearest first.
    pub after: Vec<String>,
}

/// How many lines around a pin are remembered.
const AROUND: usize = 4;

/// Where a pin is now.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Found {
    /// On the same lines.
    Exact(Lines),
    /// On other lines, as many.
    Moved(Lines),
    /// On fewer or more lines.
    Resized(Lines),
    /// Nowhere, or in several places that fit as well.
    Lost,
}

/// A run of lines, from 1, both included.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Lines {
    /// The first.
    pub first: u32,
    /// The last.
    pub last: u32,
}

impl Found {
    /// Its name in output.
    pub fn name(self) -> &'static str {
        match self {
            Found::Exact(_) => "exact",
            Found::Moved(_) => "moved",
            Found::Resized(_) => "resized",
            Found::Lost => "lost",
        }
    }

    /// The lines, unless the pin is lost.
    pub fn lines(self) -> Option<Lines> {
        match self {
            Found::Exact(lines) | Found::Moved(lines) | Found::Resized(lines) => Some(lines),
            Found::Lost => None,
        }
    }
}

impl Anchor {
    /// Remembers lines of a text.
    pub fn of(text: &str, lines: Lines) -> Anchor {
        let all: Vec<&str> = text.lines().collect();
        let (first, last) = ((lines.first.max(1) as usize - 1).min(all.len()), (lines.last as usize).min(all.len()));
        let owned = |lines: &[&str]| lines.iter().map(|line| (*line).to_owned()).collect::<Vec<String>>();
        Anchor {
            first_line: first as u32 + 1,
            lines: owned(all.get(first..last).unwrap_or(&[])),
            before: owned(&all[first.saturating_sub(AROUND)..first]),
            after: owned(all.get(last..(last + AROUND).min(all.len())).unwrap_or(&[])),
        }
    }

    /// Finds the lines again in a text.
    pub fn find(&self, text: &str) -> Found {
        let all: Vec<&str> = text.lines().collect();
        if self.lines.is_empty() {
            return Found::Lost;
        }
        let wanted = Wanted::of(self);
        let file: Vec<Line<'_>> = all.iter().map(|line| Line::of(line)).collect();
        if let Some(start) = self.in_place(&wanted, &file) {
            return self.named(start, start + self.lines.len() - 1);
        }
        let reformatted = || self.by_words(&all);
        match wanted.best(&file, self.first_line as usize - 1) {
            Some((first, last)) => self.named(first, last),
            None => reformatted().map_or(Found::Lost, |(first, last)| self.named(first, last)),
        }
    }

    /// Whether the lines and those around them are where they were.
    fn in_place(&self, wanted: &Wanted<'_>, file: &[Line<'_>]) -> Option<usize> {
        let start = self.first_line as usize - 1;
        let from = start.checked_sub(self.before.len())?;
        let here = file.get(from..from + wanted.lines.len())?;
        let same = wanted.lines.iter().zip(here).all(|(wanted, line)| wanted.bare == line.bare);
        (same && file.len() >= start).then_some(start)
    }

    fn named(&self, first: usize, last: usize) -> Found {
        let lines = Lines { first: first as u32 + 1, last: last as u32 + 1 };
        match (last + 1 - first == self.lines.len(), lines.first == self.first_line) {
            (true, true) => Found::Exact(lines),
            (true, false) => Found::Moved(lines),
            (false, _) => Found::Resized(lines),
        }
    }

    /// Finds the same words in the same order, wherever lines break now; only if they are there once and make whole lines.
    fn by_words(&self, all: &[&str]) -> Option<(usize, usize)> {
        let wanted: String = self.lines.iter().flat_map(|line| line.chars()).filter(|c| !c.is_whitespace()).collect();
        if wanted.len() < WORDS_AT_LEAST {
            return None;
        }
        let mut joined = String::new();
        let mut starts: Vec<usize> = Vec::with_capacity(all.len());
        for line in all {
            starts.push(joined.len());
            joined.extend(line.chars().filter(|c| !c.is_whitespace()));
        }
        let at = joined.find(&wanted)?;
        if joined[at + 1..].contains(&wanted) && joined.get(at + 1..).is_some() {
            return None;
        }
        let end = at + wanted.len();
        let first = starts.iter().rposition(|start| *start == at)?;
        let behind = starts.partition_point(|start| *start < end);
        let whole = starts.get(behind).is_none_or(|start| *start == end);
        whole.then_some((first, behind - 1))
    }
}

/// How many characters make words that are not found by chance.
const WORDS_AT_LEAST: usize = 24;

/// A line as it is compared.
struct Line<'t> {
    /// Without the blanks at its ends.
    bare: &'t str,
    /// With names, numbers and strings taken for one another.
    shape: String,
}

impl<'t> Line<'t> {
    fn of(text: &'t str) -> Line<'t> {
        let bare = text.trim();
        let mut shape = String::with_capacity(bare.len());
        let mut word = false;
        for c in bare.chars() {
            let part = c.is_alphanumeric() || c == '_';
            if part && !word {
                shape.push('w');
            } else if !part && !c.is_whitespace() {
                shape.push(c);
            }
            word = part;
        }
        Line { bare, shape }
    }

    /// How much says that two lines are the same: up to 1.
    fn likeness(&self, other: &Line<'_>) -> f32 {
        match () {
            () if self.bare == other.bare => if self.is_telling() { 1.0 } else { 0.2 },
            () if self.shape == other.shape && self.is_telling() => 0.4 + 0.5 * shared_words(self.bare, other.bare),
            () => 0.0,
        }
    }

    /// Whether a line says more than a bracket does.
    fn is_telling(&self) -> bool {
        self.bare.chars().filter(|c| c.is_alphanumeric()).count() >= 3
    }
}

/// The share of the words of two lines of one shape that are the same.
fn shared_words(one: &str, other: &str) -> f32 {
    let split = |text| str::split(text, |c: char| !(c.is_alphanumeric() || c == '_')).filter(|word| !word.is_empty());
    let (mut same, mut count) = (0, 0);
    for (a, b) in split(one).zip(split(other)) {
        count += 1;
        same += u32::from(a == b);
    }
    same as f32 / count.max(1) as f32
}

/// What is looked for: the lines with those around them.
struct Wanted<'a> {
    lines: Vec<Line<'a>>,
    /// Where the pin's own lines begin and end among them.
    own: std::ops::Range<usize>,
}

/// How many places are tried.
const PLACES: usize = 12;
/// The share of the pin's lines that must be found again.
const SHARE: f32 = 0.5;
/// How much better than the next a place must fit, in lines.
const MARGIN: f32 = 0.7;
/// How many lines may have come in between.
const SLACK: usize = 60;

/// A place that was tried.
struct Fit {
    first: usize,
    last: usize,
    own: f32,
    all: f32,
}

impl<'a> Wanted<'a> {
    fn of(anchor: &'a Anchor) -> Wanted<'a> {
        let lines: Vec<Line<'a>> = anchor.before.iter().chain(&anchor.lines).chain(&anchor.after).map(|line| Line::of(line)).collect();
        Wanted { lines, own: anchor.before.len()..anchor.before.len() + anchor.lines.len() }
    }

    /// The first and last line of the place that fits best, if it fits well and no other does.
    fn best(&self, file: &[Line<'_>], was: usize) -> Option<(usize, usize)> {
        let mut fits: Vec<Fit> = self.places(file, was).into_iter().filter_map(|place| self.fit(file, place)).collect();
        fits.sort_by(|a, b| b.all.total_cmp(&a.all).then(a.first.cmp(&b.first)));
        let best = fits.first()?;
        let apart = |other: &&Fit| other.last < best.first || best.last < other.first;
        let rival = fits.iter().skip(1).find(apart).map_or(0.0, |fit| fit.all);
        let weight: f32 = self.lines[self.own.clone()].iter().map(|line| line.likeness(line)).sum();
        let differs = fits.iter().skip(1).any(|other| !apart(&other) && (other.first, other.last) != (best.first, best.last) && best.all - other.all < 0.1);
        (best.own >= SHARE * weight && best.all >= rival + MARGIN && !differs).then_some((best.first, best.last))
    }

    /// Where the first of the wanted lines could be, by the votes of the others.
    fn places(&self, file: &[Line<'_>], was: usize) -> Vec<i64> {
        let mut by_text: HashMap<&str, Vec<usize>> = HashMap::new();
        let mut by_shape: HashMap<&str, Vec<usize>> = HashMap::new();
        for (index, line) in file.iter().enumerate().filter(|(_, line)| line.is_telling()) {
            by_text.entry(line.bare).or_default().push(index);
            by_shape.entry(&line.shape).or_default().push(index);
        }
        let mut votes: HashMap<i64, f32> = HashMap::new();
        for (index, line) in self.lines.iter().enumerate().filter(|(_, line)| line.is_telling()) {
            for (table, key, weight) in [(&by_text, line.bare, 1.0), (&by_shape, line.shape.as_str(), 0.4)] {
                let places = table.get(key).map_or(&[][..], Vec::as_slice);
                for place in places.iter().take(REPEATED_AT_MOST) {
                    *votes.entry(*place as i64 - index as i64).or_default() += weight / (places.len() as f32).sqrt();
                }
            }
        }
        votes.entry(was as i64 - self.own.start as i64).or_default();
        let mut sorted: Vec<(i64, f32)> = votes.into_iter().collect();
        sorted.sort_by(|a, b| b.1.total_cmp(&a.1).then(a.0.cmp(&b.0)));
        sorted.into_iter().take(PLACES).map(|(place, _)| place).collect()
    }

    /// Aligns the wanted lines with those around a place; `None` when the pin's ends are not certain there.
    fn fit(&self, file: &[Line<'_>], place: i64) -> Option<Fit> {
        let from = (place - SLACK as i64).clamp(0, file.len() as i64) as usize;
        let to = (place + (self.lines.len() + SLACK) as i64).clamp(0, file.len() as i64) as usize;
        let window = &file[from..to];
        let pairs = align(&self.lines, window);
        let weight = |(wanted, line): &(usize, usize)| self.lines[*wanted].likeness(&window[*line]);
        let inside: Vec<(usize, usize)> = pairs.iter().copied().filter(|(wanted, _)| self.own.contains(wanted)).collect();
        let (first, last) = (inside.first()?, inside.last()?);
        let neighbour = |wanted: usize| pairs.iter().find(|(other, _)| *other == wanted).map(|(_, line)| *line);
        // Lines lost at an end are fine if what stood next to them now stands next to the rest.
        let begins = first.0 == self.own.start || neighbour(self.own.start.wrapping_sub(1)).is_some_and(|line| line + 1 == first.1);
        let ends = last.0 + 1 == self.own.end || neighbour(self.own.end).is_some_and(|line| line == last.1 + 1);
        if !(begins && ends) {
            return None;
        }
        let own: f32 = inside.iter().map(weight).sum();
        let around: f32 = pairs.iter().filter(|(wanted, _)| !self.own.contains(wanted)).map(weight).sum();
        Some(Fit { first: from + first.1, last: from + last.1, own, all: own + 0.5 * around })
    }
}

/// How often a line may be repeated in a file and still have a vote everywhere.
const REPEATED_AT_MOST: usize = 40;

/// The pairs of lines of the best alignment, in order.
fn align(wanted: &[Line<'_>], window: &[Line<'_>]) -> Vec<(usize, usize)> {
    let width = window.len() + 1;
    let mut best = vec![0f32; (wanted.len() + 1) * width];
    for (row, line) in wanted.iter().enumerate().rev() {
        for (column, other) in window.iter().enumerate().rev() {
            let skip = best[(row + 1) * width + column].max(best[row * width + column + 1]);
            let likeness = line.likeness(other);
            // Pairs that touch are likelier to belong together.
            let touching = if likeness > 0.0 && best[(row + 1) * width + column + 1] > 0.0 { 0.01 } else { 0.0 };
            let take = if likeness > 0.0 { likeness + touching + best[(row + 1) * width + column + 1] } else { 0.0 };
            best[row * width + column] = skip.max(take);
        }
    }
    let (mut row, mut column) = (0, 0);
    let mut pairs = Vec::new();
    while row < wanted.len() && column < window.len() {
        let here = best[row * width + column];
        if here == best[(row + 1) * width + column] {
            row += 1;
        } else if here == best[row * width + column + 1] {
            column += 1;
        } else {
            pairs.push((row, column));
            (row, column) = (row + 1, column + 1);
        }
    }
    pairs
}
