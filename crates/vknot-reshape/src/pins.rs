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
    /// Whether other lines of the file were like these, so that those must not be taken for them.
    pub twins: bool,
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
    /// Remembers lines of a text, less blank ones at their ends.
    pub fn of(text: &str, lines: Lines) -> Anchor {
        let all: Vec<&str> = text.lines().collect();
        let (mut first, mut last) = (
            (lines.first.max(1) as usize - 1).min(all.len()),
            (lines.last as usize).min(all.len()),
        );
        let blank = |line: usize| all.get(line).is_some_and(|line| line.trim().is_empty());
        while first + 1 < last && blank(first) {
            first += 1;
        }
        while first + 1 < last && blank(last - 1) {
            last -= 1;
        }
        let owned = |lines: &[&str]| lines.iter().map(|line| (*line).to_owned()).collect::<Vec<String>>();
        let mut anchor = Anchor {
            first_line: first as u32 + 1,
            lines: owned(all.get(first..last).unwrap_or(&[])),
            before: owned(&all[first.saturating_sub(AROUND)..first]),
            after: owned(all.get(last..(last + AROUND).min(all.len())).unwrap_or(&[])),
            twins: false,
        };
        let file: Vec<Line<'_>> = all.iter().map(|line| Line::of(line)).collect();
        anchor.twins = last > first && Wanted::of(&anchor).fits_elsewhere(&file, (first, last - 1));
        anchor
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
        if let Some(only) = wanted.among_copies(&file) {
            return only.map_or(Found::Lost, |start| self.named(start, start + self.lines.len() - 1));
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
            () if self.shape == other.shape && self.is_telling() => match shared_words(self.bare, other.bare) {
                shared if shared >= SHARED_AT_LEAST => 0.4 + 0.5 * shared,
                _ => 0.0,
            },
            () => 0.0,
        }
    }

    /// Whether a line says more than a bracket or a closing word does.
    fn is_telling(&self) -> bool {
        self.bare.chars().filter(|c| c.is_alphanumeric()).count() >= 6
    }
}

/// Lines of one shape that share fewer of their words have nothing to do with each other.
const SHARED_AT_LEAST: f32 = 0.3;

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
    /// Whether the file had others like them.
    twins: bool,
}

/// How many copies of the lines are looked at.
const COPIES_AT_MOST: usize = 200;
/// How many places are tried.
const PLACES: usize = 12;
/// The share of the pin's lines that must be found again.
const SHARE: f32 = 0.5;
/// How much better than the next a place must fit, in lines.
const MARGIN: f32 = 0.7;
/// The share of the pin's lines that are found again where nothing around them is.
const SAME: f32 = 0.99;
/// How many lines in front of a pin and behind it tell that it was cut out.
const SEAM: usize = 2;
/// How many lines tell a pin without those around it.
const TELLING_ALONE: f32 = 3.0;
/// How much of what stands around it is found again beside it: where its lines are the same, and where they are not.
const ONE_BESIDE: f32 = 0.8;
const TWO_BESIDE: f32 = 1.6;
/// How many lines may have come in between a pin and a line beside it.
const BESIDE: usize = 6;
/// How many lines may have come in between.
const SLACK: usize = 60;

/// A place that was tried.
struct Fit {
    first: usize,
    last: usize,
    own: f32,
    around: f32,
    all: f32,
}

impl<'a> Wanted<'a> {
    fn of(anchor: &'a Anchor) -> Wanted<'a> {
        let lines: Vec<Line<'a>> =
            anchor.before.iter().chain(&anchor.lines).chain(&anchor.after).map(|line| Line::of(line)).collect();
        Wanted { lines, own: anchor.before.len()..anchor.before.len() + anchor.lines.len(), twins: anchor.twins }
    }

    /// Whether lines elsewhere than at the pin's own place could be taken for it.
    fn fits_elsewhere(&self, file: &[Line<'_>], place: (usize, usize)) -> bool {
        let weight: f32 = self.lines[self.own.clone()].iter().map(|line| line.likeness(line)).sum();
        let places = self.places(file, place.0);
        let mut fits = places.iter().filter_map(|at| self.fit(file, *at, Some(place)));
        fits.any(|fit| fit.own >= SHARE * weight)
    }

    /// The first and last line of the place that fits best, if it fits well and no other does.
    fn best(&self, file: &[Line<'_>], was: usize) -> Option<(usize, usize)> {
        let places = self.places(file, was);
        let fits = |taken: Option<(usize, usize)>| {
            let mut fits: Vec<Fit> = places.iter().filter_map(|place| self.fit(file, *place, taken)).collect();
            fits.sort_by(|a, b| b.all.total_cmp(&a.all).then(a.first.cmp(&b.first)));
            fits
        };
        let found = fits(None);
        let best = found.first()?;
        let differs = found
            .iter()
            .any(|other| (other.first, other.last) != (best.first, best.last) && best.all - other.all < 0.1);
        // What else would fit if this place were not there?
        let rival = fits(Some((best.first, best.last))).first().map_or(0.0, |fit| fit.all);
        let weight: f32 = self.lines[self.own.clone()].iter().map(|line| line.likeness(line)).sum();
        // Of several alike what is neither the same nor stands beside the same lines is another one.
        let same = best.own >= SAME * weight;
        let is_cut_out = !same && self.twins && self.is_cut_out(file);
        let is_it = !is_cut_out
            && (!self.twins
                || same && weight >= TELLING_ALONE
                || best.around >= if same { ONE_BESIDE } else { TWO_BESIDE });
        let is_best = best.own >= SHARE * weight && best.all >= rival + MARGIN && !differs;
        (is_it && is_best).then_some((best.first, best.last))
    }

    /// Whether what stood in front of the pin and what stood behind it now stand together: then it is not there any more.
    fn is_cut_out(&self, file: &[Line<'_>]) -> bool {
        let says = |line: &&Line<'_>| !line.bare.is_empty();
        let mut seam: Vec<&Line<'_>> = self.lines[..self.own.start].iter().rev().filter(says).take(SEAM).collect();
        seam.reverse();
        let before = seam.len();
        seam.extend(self.lines[self.own.end..].iter().filter(says).take(SEAM));
        if before == 0 || seam.len() == before || !seam.iter().any(|line| line.is_telling()) {
            return false;
        }
        let file: Vec<&str> = file.iter().filter(says).map(|line| line.bare).collect();
        file.windows(seam.len()).any(|lines| lines.iter().zip(&seam).all(|(line, wanted)| *line == wanted.bare))
    }

    /// Where the lines stand in a file that has them more than once: the copy that also has all that stood around them, if it is
    /// the only one. `None` when there are no copies.
    fn among_copies(&self, file: &[Line<'_>]) -> Option<Option<usize>> {
        let is_at = |start: usize, range: std::ops::Range<usize>| {
            let wanted = &self.lines[range];
            file.get(start..start + wanted.len())
                .is_some_and(|lines| lines.iter().zip(wanted).all(|(line, wanted)| line.bare == wanted.bare))
        };
        let copies: Vec<usize> =
            (0..file.len()).filter(|start| is_at(*start, self.own.clone())).take(COPIES_AT_MOST).collect();
        if copies.len() < 2 {
            return None;
        }
        let around = |start: &&usize| start
            .checked_sub(self.own.start)
            .is_some_and(|from| is_at(from, 0..self.lines.len()));
        let mut fitting = copies.iter().filter(around);
        Some(fitting.next().copied().filter(|_| fitting.next().is_none()))
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

    /// Aligns the wanted lines with those around a place, less some that are taken; `None` when the pin's ends are not certain
    /// there.
    fn fit(&self, file: &[Line<'_>], place: i64, taken: Option<(usize, usize)>) -> Option<Fit> {
        let from = (place - SLACK as i64).clamp(0, file.len() as i64) as usize;
        let to = (place + (self.lines.len() + SLACK) as i64).clamp(0, file.len() as i64) as usize;
        let free = |line: usize| taken.is_none_or(|(first, last)| from + line < first || from + line > last);
        let window = &file[from..to];
        let pairs: Vec<(usize, usize)> = align(&self.lines, window, &free);
        let weight = |(wanted, line): &(usize, usize)| self.lines[*wanted].likeness(&window[*line]);
        let telling: Vec<(usize, usize)> = pairs
            .iter()
            .copied()
            .filter(|(wanted, _)| self.own.contains(wanted) && self.lines[*wanted].is_telling())
            .collect();
        // Where lines came in between that are the pin's own once more, either could be meant.
        let again = |line: &Line<'_>| self.lines[self.own.clone()]
            .iter()
            .any(|own| own.is_telling() && own.bare == line.bare);
        if telling.iter().zip(telling.iter().skip(1)).any(|(one, next)| window[one.1 + 1..next.1].iter().any(again)) {
            return None;
        }
        let first = self.begin(telling.first()?, &pairs, window)?;
        let last = self.end(telling.last()?, &pairs, window)?;
        let own: f32 = telling.iter().map(weight).sum();
        // Lines around it count while they are still beside it.
        let is_beside = |(wanted, line): &&(usize, usize)| match *wanted < self.own.start {
            true => first.saturating_sub(*line) <= self.own.start - wanted + BESIDE,
            false => line.saturating_sub(last) <= wanted + 1 - self.own.end + BESIDE,
        };
        let beside = pairs.iter().filter(|(wanted, _)| !self.own.contains(wanted)).filter(is_beside);
        let around: f32 = beside.map(weight).sum();
        Some(Fit { first: from + first, last: from + last, own, around, all: own + 0.5 * around })
    }

    /// Where the pin begins, told from its first telling line: lines in front of that must stand there as they did, or be gone
    /// with what stood in front of them next to the rest.
    fn begin(&self, (wanted, line): &(usize, usize), pairs: &[(usize, usize)], window: &[Line<'_>]) -> Option<usize> {
        let missing = wanted - self.own.start;
        let same = |back: usize| line.checked_sub(back)
            .is_some_and(|at| window[at].likeness(&self.lines[wanted - back]) > 0.0);
        if (1..=missing).all(same) {
            return Some(line - missing);
        }
        let before = self.own.start.checked_sub(1)?;
        let joined =
            pairs.iter().any(|(other, at)| *other == before && at + 1 == *line && self.lines[before].is_telling());
        joined.then_some(*line)
    }

    /// Where the pin ends; see [`begin`](Self::begin).
    fn end(&self, (wanted, line): &(usize, usize), pairs: &[(usize, usize)], window: &[Line<'_>]) -> Option<usize> {
        let missing = self.own.end - 1 - wanted;
        let same = |on: usize| window
            .get(line + on)
            .is_some_and(|other| other.likeness(&self.lines[wanted + on]) > 0.0);
        if (1..=missing).all(same) {
            return Some(line + missing);
        }
        let joined = pairs
            .iter()
            .any(|(other, at)| *other == self.own.end && *at == line + 1 && self.lines[self.own.end].is_telling());
        joined.then_some(*line)
    }
}

/// How often a line may be repeated in a file and still have a vote everywhere.
const REPEATED_AT_MOST: usize = 40;

/// What a line that came in between costs, so that of two places for a line the nearer to the others is taken.
const GAP: f32 = 0.003;

/// The pairs of lines of the best alignment, in order. Lines of the window that are not free are not taken.
fn align(wanted: &[Line<'_>], window: &[Line<'_>], free: &dyn Fn(usize) -> bool) -> Vec<(usize, usize)> {
    let width = window.len() + 1;
    let mut best = vec![0f32; (wanted.len() + 1) * width];
    let take = |best: &[f32], row: usize, column: usize| {
        let likeness = if free(column) { wanted[row].likeness(&window[column]) } else { 0.0 };
        if likeness > 0.0 { likeness + best[(row + 1) * width + column + 1] } else { -1.0 }
    };
    // In front of the first pair nothing came in between.
    let skip = |best: &[f32], row: usize, column: usize| best[row * width + column + 1]
        - if row > 0 { GAP } else { 0.0 };
    for row in (0..wanted.len()).rev() {
        for column in (0..window.len()).rev() {
            let without = best[(row + 1) * width + column].max(skip(&best, row, column));
            best[row * width + column] = without.max(take(&best, row, column));
        }
    }
    let (mut row, mut column) = (0, 0);
    let mut pairs = Vec::new();
    while row < wanted.len() && column < window.len() {
        let here = best[row * width + column];
        if here == take(&best, row, column) {
            pairs.push((row, column));
            (row, column) = (row + 1, column + 1);
        } else if here == skip(&best, row, column) {
            column += 1;
        } else {
            row += 1;
        }
    }
    pairs
}
