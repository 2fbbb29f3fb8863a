//! How far the lines inside each frame stand in, as they were written: where most of a frame's lines agree, that is a way of their author.

use std::collections::{BTreeMap, HashMap};

use vknot_syntax::Role;

use crate::spec::indent::Hold;

/// How often each offset was seen.
#[derive(Clone, Debug, Default)]
struct Counts(Vec<(i32, u32)>);

impl Counts {
    fn add(&mut self, offset: i32, most: usize) {
        if let Some((_, count)) = self.0.iter_mut().find(|(seen, _)| *seen == offset) {
            *count += 1;
        } else if self.0.len() < most {
            self.0.push((offset, 1));
        }
    }

    fn of(&self, offset: i32) -> u32 {
        self.0.iter().find(|(seen, _)| *seen == offset).map_or(0, |(_, count)| *count)
    }

    fn all(&self) -> u32 {
        self.0.iter().map(|(_, count)| count).sum()
    }
}

/// How many different offsets of one frame are told apart; lines that stand in more ways stand in none.
const MOST: usize = 8;

/// The same of all frames that are alike.
const MOST_ALIKE: usize = 64;

/// How many lines of lists that are alike at least, and one in how many, must stand so far in for that to be a habit.
const HABIT: (u32, u32) = (10, 3);

/// What the lines of one frame show.
#[derive(Clone, Debug, Default)]
struct Seen {
    counts: Counts,
    class: Option<Class>,
    /// How far they should stand in.
    usual: i32,
    /// How far in the first thing behind their bracket stands.
    first: Option<i32>,
    /// Whether they are those of a form.
    form: bool,
    /// Where they may stand with their bracket: how far in that is.
    steps: Option<i32>,
    /// Whether they are members of a namespace.
    namespace: bool,
    /// How far in, or out, the margin is, if a line stands there.
    margin: Option<i32>,
}

/// A line that is counted.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Counted {
    /// How far in it stands, and how far it should.
    pub offset: i32,
    pub usual: i32,
    /// How far in the first thing behind the bracket of its frame stands.
    pub first: Option<i32>,
    /// Whether that is a form.
    pub form: bool,
    /// Where what is in its frame may stand with the bracket of that, which is further in than what it belongs to: how far in that is.
    pub steps: Option<i32>,
    /// Whether it is a member of a namespace.
    pub namespace: bool,
    /// Whether it begins with a tag, in an element of a page.
    pub tag: bool,
    /// Whether it stands at the margin.
    pub margin: bool,
}

/// What leads lines that say nothing of others but those that are alike.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Mark {
    /// What closes frames that are alike.
    Closing(u8, u8),
    /// The label of a case.
    Case,
}

impl Mark {
    pub fn closing((hold, role): Class) -> Mark {
        Mark::Closing(hold as u8, role as u8)
    }
}

/// Frames that are alike.
pub(crate) type Class = (Hold, Role);

/// How far the lines of a file stand in, by the frames they are in.
#[derive(Clone, Debug, Default)]
pub(crate) struct Offsets {
    frames: HashMap<u32, Seen>,
    classes: BTreeMap<(u8, u8), Counts>,
    /// How far in the lines stand that close frames, by what these are, and labels of cases.
    marks: BTreeMap<Mark, Counts>,
    /// How far behind the bracket of what they are in the lines stand that may stand with it.
    steps: Counts,
    /// Lines that stand further in than what they are in.
    further: u32,
    /// Lines in elements of a page that begin with a tag: those at the margin, and all.
    elements: (u32, u32),
    /// Lines that stand with what they are in though they should not, and how many frames have such.
    flush: (u32, u32),
}

/// How far in lines of a frame may stand.
const FAR: i32 = 24;

/// The same of lines that go on in a list, all alike.
const FAR_IN_LIST: i32 = 40;

/// One in how many lines of frames that are alike must stand so far in for that to be common.
const COMMON: u32 = 50;

/// How many marks that are alike at least, and one in how many, must stand so far in for that to be meant.
const MARKS: (u32, u32) = (4, 4);

/// How many lines at least tell how others stand that may stand in two ways.
const ALIKE: u32 = 4;

/// How many lines make a block one that is around a whole file.
const AROUND: u32 = 6;

/// How many lines at the margin make a page one whose lines stand there.
const FLAT: u32 = 20;

/// One in how many of the lines in what is around a page makes a piece of it.
const TENTH: u32 = 10;

/// How near to the first item of a list a line stands that was lined up with it and is no longer.
const MISSED: i32 = 3;

impl Offsets {
    /// Counts a line of a frame.
    pub fn count(&mut self, frame: u32, class: Class, line: Counted) {
        let Counted { offset, usual, first, form, steps, namespace, tag, margin } = line;
        let seen = self.frames.entry(frame).or_default();
        if offset == 0 && usual > 0 && steps.is_none() {
            self.flush.1 += u32::from(seen.counts.of(0) == 0);
            self.flush.0 += 1;
        }
        seen.counts.add(offset, MOST);
        steps.into_iter().for_each(|bracket| self.steps.add(offset - bracket, MOST));
        (seen.class, seen.usual, seen.first) = (Some(class), usual, first);
        (seen.form, seen.steps, seen.namespace) = (form, steps, namespace);
        seen.margin = if margin { Some(offset) } else { seen.margin };
        self.further += u32::from(offset > 0);
        if tag {
            self.elements = (self.elements.0 + u32::from(margin), self.elements.1 + 1);
        }
        self.classes.entry(key(class)).or_default().add(offset, MOST_ALIKE);
    }

    /// Counts a line that a mark leads.
    pub fn count_mark(&mut self, mark: Mark, offset: i32) {
        self.marks.entry(mark).or_default().add(offset, MOST);
    }

    /// Whether so many marks that are alike stand so far in that it is meant.
    pub fn accepts_mark(&self, mark: Mark, offset: i32) -> bool {
        let (least, share) = MARKS;
        let alike = self.marks.get(&mark);
        alike.is_some_and(|alike| alike.of(offset) >= least && alike.of(offset) * share >= alike.all())
    }

    /// How far in most lines of a frame stand, if that is another offset than the usual one.
    pub fn most(&self, frame: u32) -> Option<i32> {
        let seen = self.frames.get(&frame)?;
        let (most, count) = seen.counts.0.iter().max_by_key(|(_, count)| *count)?;
        let stands = *count > seen.counts.of(seen.usual) && self.accepts(frame, *most);
        let undecided = || seen.counts.all() < 2 || seen.counts.of(seen.usual) == 0;
        let alike = || Some(self.most_step()? + seen.steps.filter(|_| undecided())?);
        stands.then_some(*most).or_else(alike).filter(|most| *most != seen.usual)
    }

    /// How far behind the bracket of what they are in most of the lines stand that may stand with it.
    fn most_step(&self) -> Option<i32> {
        let (most, count) = self.steps.0.iter().max_by_key(|(_, count)| *count)?;
        (*count >= ALIKE && 5 * count >= 4 * self.steps.all()).then_some(*most)
    }

    /// Whether what stands with what it is in are long lists, as of data, and no jumble.
    pub fn are_tables(&self) -> bool {
        let (lines, frames) = self.flush;
        frames > 0 && lines >= AROUND * frames
    }

    /// Whether so many lines stand so far in, in a frame or in all that are like it, that it is meant.
    pub fn accepts(&self, frame: u32, offset: i32) -> bool {
        let Some((seen, class)) = self.frames.get(&frame).and_then(|seen| Some((seen, seen.class?))) else {
            return false
        };
        let (count, all) = (seen.counts.of(offset), seen.counts.all());
        let (element, at_margin) = (class.0 == Hold::Element, seen.margin == Some(offset));
        // Where most tags of a page stand at the margin, what does was meant to.
        let (margin, lines) = self.elements;
        if element && at_margin && margin >= FLAT && margin * 4 >= lines * 3 {
            return true;
        }
        // What is around most of a page is written in pieces, each of which its author set where they liked.
        if element && offset <= 0 && all >= FLAT && count >= AROUND && count * TENTH >= all {
            return true;
        }
        // What a page or a namespace holds may stand at the margin, though what holds it does not.
        if offset < 0 {
            let most = element && count * 10 >= all * 9 || seen.namespace && count * 2 > all;
            return at_margin && count >= AROUND && most;
        }
        // Lines in a block do not stand with it, but for a block around a whole file that is well kept otherwise.
        let flat = seen.usual == 0;
        if offset == 0 && !flat && seen.steps.is_none() {
            return count >= AROUND && count * 10 >= all * 9 && (self.further >= count || self.are_tables());
        }
        let alike = self.classes.get(&key(class));
        if class.0 == Hold::List && !seen.form {
            // What missed its first item does not stand.
            let missed = seen.first.is_some_and(|first| (first - offset).abs() <= MISSED);
            let (least, share) = HABIT;
            let habit = || alike.is_some_and(
                |alike| alike.of(offset) >= least && alike.of(offset) * share >= alike.all(),
            );
            return count == all && (all > 1 && !missed && offset <= FAR_IN_LIST || all > 0 && habit());
        }
        if count == 0 || offset > FAR {
            return false;
        }
        let common = alike.is_some_and(|alike| alike.of(offset) > 3 && alike.of(offset) * COMMON >= alike.all());
        let here = count > 1 && count * 2 >= all || count > 2 && count * 4 >= all;
        here || common && count == all && !flat
    }
}

fn key(class: Class) -> (u8, u8) {
    (class.0 as u8, class.1 as u8)
}
