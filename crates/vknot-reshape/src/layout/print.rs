//! One linear pass over the plan: decides what fits, and gives an edit for each gap that comes out otherwise than
//! written. Where the lines it makes begin, the frames say.

mod added;
mod beside;
mod breaks;
mod ends;

use std::cell::OnceCell;

use vknot_syntax::Span;

use crate::edits::Edits;
use crate::frames::comments::touches_comment;
use crate::frames::lines::{any_indented, Line, stays_at_margin};
use crate::frames::place::{blank_columns, Place};
use crate::frames::stack::Frames;
use super::measure::Measure;
use crate::frames::place::width_of;
use super::plan::{AddedBraces, AddedComma, Cell, Form, GapPlan};
use crate::indent::Kept;
use super::paper::Paper;
use super::planner::Planner;
use super::reflow;
use self::ends::Ends;
use super::columns::{self, Padded, Placed, Trailing};
use super::width::{Longest, Witness};

/// A token that was put in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Added {
    pub text: &'static str,
    /// The gap it went into.
    pub gap: u32,
}

/// A comment that begins a line, whose place is known with the line behind it.
struct Waiting {
    token: u32,
    /// The line, as the frames count them.
    line: usize,
    breaks: Option<u32>,
    /// The column at which it was written.
    was: u32,
    /// What comes in front of its line.
    before: String,
}

pub(super) struct Printer<'a, 'p> {
    planner: &'a Planner<'p>,
    measure: Measure,
    paper: &'a Paper,
    frames: Frames<'a>,
    /// Groups in the order in which they open, outer ones first.
    order: Vec<u32>,
    next_group: usize,
    /// Of each group whether it is broken.
    broken: Vec<bool>,
    /// Groups that are decided at the next gap, by where a line there would begin, each with the column it opened at.
    undecided: Vec<(u32, u32)>,
    /// Lines of the result so far.
    line: u32,
    column: u32,
    /// Where the line at hand begins.
    line_place: Place,
    /// Whether any code of the file is indented; found out when a comment at the margin is met.
    indented: Option<bool>,
    /// Where the line that holds the current token began in the text as written.
    written_line: u32,
    /// The columns that line began with.
    written_indent: u32,
    buffer: String,
    edits: Edits,
    added: Vec<Added>,
    closing: Vec<(AddedBraces, Place)>,
    opening: Vec<AddedBraces>,
    commas: Vec<AddedComma>,
    trailing: Vec<Trailing>,
    /// Parts that may line up, the next one last.
    cells: Vec<Cell>,
    placed: Vec<Placed>,
    /// Columns in which parts stay wherever they stand, once one is asked about.
    padded: OnceCell<Padded>,
    /// The table that was asked about last.
    ends: Ends,
    /// The line that was asked about last, and whether numbers near it stand behind blanks.
    padded_near: (Option<u32>, bool),
    waiting: Vec<Waiting>,
    witnesses: &'a [Witness],
    /// Whether the file mixes tabs and spaces, which stays.
    mixed: bool,
    /// Whether what a line begins with may stay.
    open: bool,
    longest: Longest,
    /// Edits of comments that waited.
    late: Edits,
}

/// What came of a plan.
pub(super) struct Printed {
    pub edits: Edits,
    pub added: Vec<Added>,
    /// The longest line.
    pub longest: Longest,
}

/// Prints the plan. `witnesses` says which tokens count for the longest line.
/// Where `kept` is given, lines of its author's may stand in their ways.
pub(super) fn print(planner: &Planner<'_>, paper: &Paper, witnesses: &[Witness], kept: Option<&Kept>) -> Printed {
    let groups = &planner.plan.groups;
    let mut order: Vec<u32> = (0..groups.len() as u32).collect();
    let place = |number: &u32| {
        let group = groups[*number as usize];
        (group.open, u32::MAX - group.close, *number)
    };
    order.sort_by_key(place);
    let mut opening = planner.plan.added.clone();
    opening.sort_by_key(|braces| std::cmp::Reverse(braces.open));
    let mut commas = planner.plan.commas.clone();
    commas.sort_by_key(|comma| std::cmp::Reverse(comma.gap));
    let mut cells = planner.plan.cells.clone();
    cells.sort_by_key(|cell| std::cmp::Reverse((cell.gap, cell.column)));
    let broken = initially_broken(planner);
    let options = kept.map_or(&paper.frames, |kept| &kept.options);
    let frames = Frames::new(planner.code, &planner.code.toolkit().indent, options, Place::default());
    let printer = Printer {
        planner,
        measure: Measure::of(planner, &broken),
        paper,
        frames: frames.with_ways(kept.map(Kept::ways), 0),
        order,
        next_group: 0,
        broken,
        undecided: Vec::new(),
        line: 0,
        column: 0,
        line_place: Place::default(),
        indented: None,
        written_line: 0,
        written_indent: 0,
        buffer: String::new(),
        edits: Edits::default(),
        added: Vec::new(),
        closing: Vec::new(),
        opening,
        commas,
        trailing: Vec::new(),
        cells,
        placed: Vec::new(),
        padded: OnceCell::new(),
        ends: Ends::default(),
        padded_near: (None, false),
        waiting: Vec::new(),
        witnesses,
        mixed: kept.is_some_and(|kept| kept.mixed),
        open: kept.is_some_and(|kept| kept.open),
        longest: Longest::of(planner.table.spec.width),
        late: Edits::default(),
    };
    printer.run()
}

/// Groups that are broken whatever fits: those marked so, and those whose breaks are kept.
fn initially_broken(planner: &Planner<'_>) -> Vec<bool> {
    let groups = &planner.plan.groups;
    let mut broken: Vec<bool> = groups.iter().map(|group| group.always).collect();
    for (index, gap) in planner.plan.gaps.iter().enumerate() {
        if let Some(group) = groups.get(gap.group as usize)
            && planner.newlines(index as u32) > 0
            && group.keep
            && gap.form == Form::Soft
        {
            broken[gap.group as usize] = true;
        }
    }
    broken
}

impl Printer<'_, '_> {
    fn run(mut self) -> Printed {
        let count = self.planner.tree.tokens().len() as u32;
        for gap in 0..count {
            self.decide(gap);
            self.gap(gap);
            self.open_groups(gap);
            self.token(gap);
        }
        self.end_of_file(count);
        let mut lined_up = columns::line_up(&self.placed, &self.trailing, self.paper);
        lined_up.sort_by_key(|(span, _)| span.start);
        let text = self.planner.text;
        let changed =
            lined_up.iter().filter(|(span, new)| span.of(text) != new).map(|(span, new)| (*span, new.as_str()));
        let edits = self.edits.merged(self.late.iter()).merged(changed);
        Printed { edits, added: self.added, longest: self.longest }
    }

    fn gap(&mut self, gap: u32) {
        let plan = self.planner.plan.gaps[gap as usize];
        let written = self.planner.written[gap as usize];
        self.buffer.clear();
        let span = self.planner.tree.gap_span(gap);
        if self.stays_lined_up(gap, &plan, span)
            || self.is_cell(gap, &plan, span)
            || self.is_settled(gap, &plan, span)
        {
            return;
        }
        if written.newlines > 0 {
            self.pass_lines(span);
        }
        self.adds_comma(gap);
        if self.opens_braces(gap) | self.closes_braces(gap, &plan) {
            if !self.waits(gap) {
                self.edits.push(span, &self.buffer);
            }
            return;
        }
        if written.plain && self.trails(gap, &plan, span) {
            return;
        }
        match written.plain {
            true => self.format_gap(gap, &plan),
            false => self.take_over(gap),
        }
        if !self.buffer.is_empty() {
            self.line += self.buffer.bytes().filter(|byte| *byte == b'\n').count() as u32;
        }
        if !self.waits(gap) && self.buffer != span.of(self.planner.text) {
            self.edits.push(span, &self.buffer);
        }
    }

    /// Whether what stands in front of a comment is written when its place is known.
    fn waits(&self, token: u32) -> bool {
        self.waiting.last().is_some_and(|waiting| waiting.token == token)
    }

    /// Passes over a gap on one line that is as it should be, which most are.
    fn is_settled(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        let written = self.planner.written[gap as usize];
        let pending = self.commas.last().is_some_and(|comma| comma.gap <= gap)
            || self.opening.last().is_some_and(|braces| braces.open == gap)
            || self.closing.last().is_some_and(|(braces, _)| braces.close == gap);
        let fixed = plan.form == Form::Fixed && written.newlines == 0 && written.plain;
        if !fixed || pending || written.comment || span.len() != u32::from(plan.spaced) {
            return false;
        }
        let right = !plan.spaced || span.of(self.planner.text) == " ";
        self.column += if right { span.len() } else { 0 };
        right
    }

    /// Remembers where the line begins that a span ends on.
    fn pass_lines(&mut self, span: Span) {
        if let Some(end) = span.of(self.planner.text).rfind('\n') {
            self.written_line = span.start + end as u32 + 1;
            if self.frames.ways.is_some() {
                self.written_indent = self.written_column(span.end);
            }
        }
    }

    fn format_gap(&mut self, gap: u32, plan: &GapPlan) {
        let newlines = self.planner.newlines(gap);
        match plan.form {
            Form::Unset | Form::Keep if newlines > 0 => self.new_line(gap, Some(newlines)),
            Form::Unset | Form::Keep | Form::Verbatim => self.take_over(gap),
            _ if gap == 0 => self.first_line(),
            _ if self.breaks_at(gap, plan) => {
                let blank = newlines.saturating_sub(1).clamp(plan.blank.0.into(), plan.blank.1.into());
                self.new_line(gap, Some(blank + 1));
            }
            _ => self.same_line(plan.spaced),
        }
    }

    fn first_line(&mut self) {
        self.line_place = self.frames.begin_line(0, Some(Place::default()));
    }

    /// Line breaks, then the indentation that the frames ask for.
    fn new_line(&mut self, gap: u32, breaks: Option<u32>) {
        let line = self.frames.places.len();
        let mut kept = self.stays_at_margin(gap).then(Place::default);
        let own_line = self.planner.newlines(gap) > 0;
        if let Some(ways) = &mut self.frames.ways {
            ways.column = self.written_indent;
            if !own_line && kept.is_none() {
                kept = Some(self.frames.spot_of(gap).place);
            }
        }
        let plan = self.planner.plan.gaps[gap as usize];
        let group = self.planner.plan.groups.get(plan.group as usize);
        let names = self.frames.has_prefixed_names();
        self.frames.in_table = names || plan.form == Form::Hard && group.is_some_and(|group| group.table);
        self.line_place = self.frames.begin_line(gap, kept);
        self.column = self.line_place.columns();
        if self.frames.is_waiting() {
            let was = self.written_column(self.planner.tree.gap_span(gap).end);
            let before = std::mem::take(&mut self.buffer);
            return self.waiting.push(Waiting { token: gap, line, breaks, was, before });
        }
        self.settle();
        let stays = own_line
            && self.frames.ways.is_some()
            && self.column == self.written_indent
            && self.open
            && (self.mixed || self.frames.stays.last().copied().unwrap_or(false));
        if stays {
            let written = self.planner.tree.gap_span(gap).of(self.planner.text);
            let at = written.rfind('\n').map_or(0, |end| end + 1);
            self.write_line(gap, breaks, Place::default());
            self.buffer.push_str(&written[at..]);
            return;
        }
        self.write_line(gap, breaks, self.line_place);
    }

    /// Writes line breaks, or with `None` those in front of a token as they are, and then the beginning of a line.
    fn write_line(&mut self, gap: u32, breaks: Option<u32>, place: Place) {
        match breaks {
            Some(breaks) => (0..breaks).for_each(|_| self.buffer.push_str(self.paper.line_end)),
            None => {
                let written = self.planner.tree.gap_span(gap).of(self.planner.text);
                let lines = written.split_inclusive('\n').filter(|line| line.ends_with('\n'));
                for line in lines {
                    self.buffer.push_str(line.trim_end_matches(['\r', '\n']));
                    self.buffer.push_str(self.paper.line_end);
                }
            }
        }
        place.write(self.paper.indentation, self.paper.align_with_tabs, &mut self.buffer);
    }

    /// Whether the token behind a gap is a comment that its author left at the margin.
    fn stays_at_margin(&mut self, gap: u32) -> bool {
        let planner = self.planner;
        let end = planner.tree.gap_span(gap).end;
        if !planner.is_comment_token(gap) || planner.newlines(gap) == 0 || self.written_column(end) > 0 {
            return false;
        }
        let indented = *self.indented.get_or_insert_with(|| any_indented(planner.code));
        let found = Place::default();
        let line = Line { token: gap, start: self.written_line, end, found, kept: false, goes_on: false };
        stays_at_margin(planner.code, &line, indented)
    }

    /// Writes the comments that waited, now that their places are known.
    fn settle(&mut self) {
        let buffer = std::mem::take(&mut self.buffer);
        for waiting in std::mem::take(&mut self.waiting) {
            let place = self.frames.places.get(waiting.line).copied().unwrap_or_default();
            self.buffer.push_str(&waiting.before);
            self.write_line(waiting.token, waiting.breaks, place);
            let span = self.planner.tree.gap_span(waiting.token);
            if self.buffer != span.of(self.planner.text) {
                self.late.push(span, &self.buffer);
            }
            self.buffer.clear();
            if let Some(moved) = self.reflowed(waiting.token, waiting.was, place, true) {
                self.late.push(moved.0, &moved.1);
            }
        }
        self.buffer = buffer;
    }

    fn same_line(&mut self, spaced: bool) {
        if spaced {
            self.buffer.push(' ');
            self.column += 1;
        }
    }

    /// A gap that stays to the byte, but for the blanks in front of the token where it is certain how many they must be.
    fn take_over(&mut self, gap: u32) {
        let span = self.planner.tree.gap_span(gap);
        let written = span.of(self.planner.text);
        let Some(end) = written.rfind('\n') else {
            self.buffer.push_str(written);
            self.column += width_of(written);
            return;
        };
        let blank = &written[end + 1..];
        let plain = blank.bytes().all(|byte| matches!(byte, b' ' | b'\t'));
        if plain && !self.planner.is_lost(span.end) {
            return self.new_line(gap, None);
        }
        self.buffer.push_str(written);
        self.line_place = self.frames.begin_line(gap, Some(Place::of(blank, self.paper.indentation)));
        self.settle();
        self.column = self.line_place.columns();
    }

    fn token(&mut self, token: u32) {
        if let Some(place) = self.frames.go_on(token) {
            // The comment in front of it on its line stands where the token would.
            self.column = self.column + place.columns() - self.line_place.columns().min(self.column);
            self.line_place = place;
            self.settle();
        }
        let column = self.column;
        self.frames.pass(token, &mut || column);
        let width = self.measure.token(token);
        if !self.planner.written[token as usize].comment {
            let witness = self.witnesses.get(token as usize).copied().unwrap_or(Witness::No);
            self.longest.pass(self.line, self.column + width, width, witness);
        }
        if !self.measure.multiline[token as usize] {
            self.column += width;
            return;
        }
        let planner = self.planner;
        let Some(span) = planner.tree.tokens().get(token as usize).map(|token| token.span()) else { return };
        let text = span.of(planner.text);
        if planner.is_comment_token(token) && !self.waits(token) {
            let (was, first) = (self.written_column(span.start), planner.newlines(token) > 0 || token == 0);
            if let Some((span, moved)) = self.reflowed(token, was, Place::level(self.column), first) {
                self.edits.push(span, &moved);
            }
        }
        self.pass_lines(span);
        self.line += text.bytes().filter(|byte| *byte == b'\n').count() as u32;
        self.column = width_of(text.rsplit('\n').next().unwrap_or(text));
    }

    /// The new text of a comment of several lines that was written in a column and stands elsewhere now, if it changes.
    fn reflowed(&self, token: u32, was: u32, place: Place, first_on_line: bool) -> Option<(Span, String)> {
        let planner = self.planner;
        let kept = planner.plan.gaps[token as usize].form == Form::Verbatim || !planner.is_comment_token(token);
        if kept || !self.measure.multiline[token as usize] || touches_comment(planner.tree, token) {
            return None;
        }
        let span = planner.tree.tokens().get(token as usize)?.span();
        let moved =
            reflow::comment(planner.code, token, &reflow::Frame {
                was,
                place,
                first_on_line,
                paper: self.paper,
                well_kept: self.frames.ways.is_some(),
                open: self.open && self.frames.ways.is_some(),
            })?;
        Some((span, moved))
    }

    /// The column at which a byte was written.
    fn written_column(&self, offset: u32) -> u32 {
        let line = self.planner.text.get(self.written_line as usize..offset as usize).unwrap_or("");
        blank_columns(line, self.paper.indentation.tab_width)
    }

    fn end_of_file(&mut self, gap: u32) {
        self.frames.finish();
        self.settle();
        let written = self.planner.written[gap as usize];
        let span = self.planner.tree.gap_span(gap);
        if !written.plain || gap == 0 {
            return;
        }
        self.buffer.clear();
        self.closes_braces(gap, &GapPlan::default());
        if self.paper.final_newline {
            self.buffer.push_str(self.paper.line_end);
        }
        if self.buffer != span.of(self.planner.text) {
            self.edits.push(span, &self.buffer);
        }
    }
}
