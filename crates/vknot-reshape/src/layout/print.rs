//! One linear pass over the plan: decides what fits, and gives an edit for each gap that comes out otherwise than
//! written.

use vknot_style::Indentation;
use vknot_syntax::Span;

use crate::edits::Edits;
use super::measure::{indent_columns, Measure, width_of};
use super::plan::{AddedBraces, AddedComma, Form, GapPlan, Group};
use super::planner::Planner;
use super::reflow;
use super::trailing::{self, Trailing};

/// Lines are indented by no more columns than this. Without a bound the text of a file nested a hundred thousand deep would
/// grow with the square of its depth.
const INDENT_AT_MOST: u32 = 256;

/// How lines are written.
#[derive(Clone, Copy, Debug)]
pub(super) struct Paper {
    pub indentation: Indentation,
    pub line_end: &'static str,
    /// Whether the file ends in a line end; `None` keeps what is there.
    pub final_newline: bool,
    pub trim: bool,
}

/// A token that was put in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Added {
    pub text: &'static str,
    /// The gap it went into.
    pub gap: u32,
}

/// A group that is open at the moment.
struct Open {
    close: u32,
    indent: (u32, u32),
    broken: bool,
    base: u32,
    inner: u32,
    /// The line it began on, if it hangs on its head.
    head_line: Option<u32>,
}

pub(super) struct Printer<'a, 'p> {
    planner: &'a Planner<'p>,
    measure: Measure,
    paper: Paper,
    /// Groups in the order in which they open, outer ones first.
    order: Vec<u32>,
    next_group: usize,
    open: Vec<Open>,
    /// Of each group: the indentation around it, and whether it is broken.
    bases: Vec<u32>,
    broken: Vec<bool>,
    /// Lines of the result so far.
    line: u32,
    column: u32,
    line_indent: u32,
    /// Where the last comment began.
    comment_column: u32,
    /// Where the line that holds the current token began in the text as written.
    written_line: u32,
    /// How far the current line stands from where its first token stood.
    shift: i64,
    buffer: String,
    edits: Edits,
    added: Vec<Added>,
    closing: Vec<AddedBraces>,
    opening: Vec<AddedBraces>,
    commas: Vec<AddedComma>,
    trailing: Vec<Trailing>,
}

/// Prints the plan.
pub(super) fn print(planner: &Planner<'_>, paper: Paper) -> (Edits, Vec<Added>) {
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
    let broken = initially_broken(planner);
    let printer = Printer {
        planner,
        measure: Measure::of(planner, &broken),
        paper,
        order,
        next_group: 0,
        open: Vec::new(),
        bases: vec![0; groups.len()],
        broken,
        line: 0,
        column: 0,
        line_indent: 0,
        comment_column: 0,
        written_line: 0,
        shift: 0,
        buffer: String::new(),
        edits: Edits::default(),
        added: Vec::new(),
        closing: Vec::new(),
        opening,
        commas,
        trailing: Vec::new(),
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
    fn run(mut self) -> (Edits, Vec<Added>) {
        let count = self.planner.tree.tokens().len() as u32;
        for gap in 0..count {
            while self.open.last().is_some_and(|group| group.close <= gap) {
                self.open.pop();
            }
            self.gap(gap);
            self.open_groups(gap);
            self.token(gap);
        }
        self.open.clear();
        self.end_of_file(count);
        let lined_up = trailing::line_up(&self.trailing);
        let text = self.planner.text;
        let changed =
            lined_up.iter().filter(|(span, new)| span.of(text) != new).map(|(span, new)| (*span, new.as_str()));
        (self.edits.merged(changed), self.added)
    }

    /// Indentation of a line that begins in `gap`.
    fn indent_at(&self, gap: u32) -> u32 {
        match self.open.last() {
            Some(group) if group.broken && group.indent.0 <= gap && gap < group.indent.1 => group.inner,
            Some(group) => group.base,
            None => 0,
        }
    }

    /// A chain behind `)` or `}` at the start of a line goes on below that bracket.
    fn hang_on_head(&mut self, gap: u32) {
        let (line, line_indent) = (self.line, self.line_indent);
        if let Some(group) = self.open.last_mut().filter(|group| group.indent.0 == gap)
            && group.head_line.is_some_and(|head| head < line)
            && line_indent == group.base
        {
            group.inner = group.base;
        }
    }

    fn open_groups(&mut self, token: u32) {
        while let Some(number) = self.order.get(self.next_group).copied() {
            let group = self.planner.plan.groups[number as usize];
            if group.open > token {
                break;
            }
            self.next_group += 1;
            let base = self.indent_at(token);
            let inner = (base + group.columns).min(INDENT_AT_MOST.max(base));
            let broken = self.broken[number as usize] || self.breaks(&group, inner);
            self.broken[number as usize] = broken;
            self.bases[number as usize] = base;
            let head_line = group.hangs_on_head.then_some(self.line);
            self.open.push(Open { close: group.close, indent: group.indent, broken, base, inner, head_line });
        }
    }

    fn breaks(&self, group: &Group, inner: u32) -> bool {
        let waits = self.broken.get(group.outer as usize).is_some_and(|broken| !broken);
        if group.fit_end <= group.open || waits {
            return false;
        }
        if group.lazy {
            return self.value_moves(group, inner);
        }
        let mut fit_end = group.fit_end;
        let unforced = !self.measure.is_forced(fit_end, group.close);
        if group.reluctant && fit_end < group.close && unforced && self.fits(inner, group.open + 1, group.close) {
            fit_end = group.close;
        }
        self.measure.is_forced(group.indent.0.max(group.open + 1), fit_end)
            || !self.fits(self.column, group.open, fit_end)
    }

    fn fits(&self, column: u32, from: u32, fit_end: u32) -> bool {
        column + self.measure.run(from, fit_end) <= self.planner.options.width
    }

    /// Whether the value behind an operator goes to the next line.
    fn value_moves(&self, group: &Group, inner: u32) -> bool {
        let value = group.indent.0;
        let forced = self.measure.is_forced(value + 1, group.close);
        let end = if group.head_only { group.fit_end } else { group.close };
        if !forced && self.fits(self.column, group.open, end) {
            return false;
        }
        let gains = inner < self.column + self.measure.token(group.open) + 1;
        let opens_braces = self.planner.token_text(group.close - 1) == "}";
        let whole = !forced && !opens_braces && !group.head_only && self.fits(inner, value, group.close);
        let begins_here = self.fits(self.column, group.open, group.fit_end);
        let begins_there = self.fits(inner, value, group.fit_end);
        gains && (whole || !begins_here && begins_there)
    }

    fn gap(&mut self, gap: u32) {
        let plan = self.planner.plan.gaps[gap as usize];
        let written = self.planner.written[gap as usize];
        self.buffer.clear();
        self.hang_on_head(gap);
        let span = self.planner.tree.gap_span(gap);
        if self.is_settled(gap, &plan, span) {
            return;
        }
        if written.newlines > 0 {
            self.pass_lines(span);
        }
        self.adds_comma(gap);
        if self.opens_braces(gap) | self.closes_braces(gap, &plan) {
            self.edits.push(span, &self.buffer);
            return;
        }
        if !written.plain {
            return self.take_over(gap);
        }
        if self.trails(gap, &plan, span) {
            return;
        }
        self.format_gap(gap, &plan);
        if !self.buffer.is_empty() {
            self.line += self.buffer.bytes().filter(|byte| *byte == b'\n').count() as u32;
        }
        if self.buffer != span.of(self.planner.text) {
            self.edits.push(span, &self.buffer);
        }
    }

    /// Passes over a gap on one line that is as it should be, which most are.
    fn is_settled(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        let written = self.planner.written[gap as usize];
        let pending = self.commas.last().is_some_and(|comma| comma.gap <= gap)
            || self.opening.last().is_some_and(|braces| braces.open == gap)
            || self.closing.last().is_some_and(|braces| braces.close == gap);
        let fixed = plan.form == Form::Fixed && written.newlines == 0 && written.plain;
        if !fixed || pending || written.comment || span.len() != u32::from(plan.spaced) {
            return false;
        }
        let right = !plan.spaced || span.of(self.planner.text) == " ";
        self.column += if right { span.len() } else { 0 };
        right
    }

    /// Notes a comment behind code, whose gap is settled when its neighbours are known.
    fn trails(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        let planner = self.planner;
        let comment = gap > 0 && planner.is_comment_token(gap);
        let behind = plan.form == Form::Fixed && plan.spaced && planner.newlines(gap + 1) > 0;
        let kept = matches!(plan.form, Form::Keep | Form::Verbatim | Form::Unset);
        if !comment || kept || !(behind || plan.continues) || !self.buffer.is_empty() {
            return false;
        }
        let begins_line = plan.continues.then_some(self.paper.line_end);
        self.line += u32::from(plan.continues);
        let (line, was) = (self.line, self.written_column(span.end));
        let column = if plan.continues { 0 } else { self.column };
        self.trailing.push(Trailing { gap: span, line, column, was, begins_line });
        self.column += 1;
        true
    }

    /// Remembers where the line begins that a span ends on.
    fn pass_lines(&mut self, span: Span) {
        if let Some(end) = span.of(self.planner.text).rfind('\n') {
            self.written_line = span.start + end as u32 + 1;
        }
    }

    fn format_gap(&mut self, gap: u32, plan: &GapPlan) {
        let newlines = self.planner.newlines(gap);
        match plan.form {
            Form::Unset | Form::Keep => self.keep_gap(gap),
            Form::Verbatim => self.take_over(gap),
            _ if gap == 0 => {}
            _ if self.breaks_at(gap, plan) => {
                let blank = newlines.saturating_sub(1).clamp(plan.blank.0.into(), plan.blank.1.into());
                self.new_line(gap, plan, blank + 1);
            }
            _ => self.same_line(plan.spaced),
        }
    }

    fn breaks_at(&self, gap: u32, plan: &GapPlan) -> bool {
        let author = self.planner.newlines(gap) > 0;
        match plan.form {
            Form::Hard => true,
            Form::Author => author,
            Form::AfterWrap => self.line_indent > self.indent_at(gap),
            Form::Soft if plan.fill => {
                let group = self.planner.plan.groups.get(plan.group as usize);
                let broken = self.broken.get(plan.group as usize).copied().unwrap_or(false);
                let next = self.measure.next_chance(gap);
                let fits = self.column + 1 + self.measure.run(gap, next) <= self.planner.options.width;
                broken && (!fits || author && group.is_some_and(|group| group.keep))
            }
            Form::Soft => self.broken.get(plan.group as usize).copied().unwrap_or(false),
            _ => false,
        }
    }

    /// Line breaks, then the indentation the structure asks for.
    fn new_line(&mut self, gap: u32, plan: &GapPlan, breaks: u32) {
        (0..breaks).for_each(|_| self.buffer.push_str(self.paper.line_end));
        let wrap = if plan.hang { self.planner.options.wrap } else { 0 };
        self.begin_line(if plan.margin { 0 } else { self.indent_at(gap) + wrap });
    }

    fn begin_line(&mut self, indent: u32) {
        push_indent(&mut self.buffer, indent, self.paper.indentation);
        self.column = indent;
        self.line_indent = indent;
        self.shift = i64::from(indent) - i64::from(self.written_indent());
    }

    fn same_line(&mut self, spaced: bool) {
        if spaced {
            self.buffer.push(' ');
            self.column += 1;
        }
    }

    /// The indentation of the line on which the token behind the gap was written.
    fn written_indent(&self) -> u32 {
        let rest = self.planner.text.get(self.written_line as usize..).unwrap_or("");
        let blank = &rest[..rest.len() - rest.trim_start_matches([' ', '\t']).len()];
        indent_columns(blank, self.paper.indentation.tab_width)
    }

    /// A gap that stays; its lines move as far as the line it hangs on did.
    fn keep_gap(&mut self, gap: u32) {
        let newlines = self.planner.newlines(gap);
        if newlines == 0 {
            return self.take_over(gap);
        }
        let written = self.planner.tree.gap_span(gap).of(self.planner.text);
        let tail = written.rfind('\n').map_or(written, |end| &written[end + 1..]);
        let tab_width = self.paper.indentation.tab_width;
        let indent = (i64::from(indent_columns(tail, tab_width)) + self.shift).max(0) as u32;
        (0..newlines).for_each(|_| self.buffer.push_str(self.paper.line_end));
        push_indent(&mut self.buffer, indent, self.paper.indentation);
        self.column = indent;
        self.line_indent = indent;
    }

    /// A gap that stays to the byte.
    fn take_over(&mut self, gap: u32) {
        let written = self.planner.tree.gap_span(gap).of(self.planner.text);
        self.buffer.push_str(written);
        match written.rfind('\n') {
            Some(end) => {
                self.column = indent_columns(&written[end + 1..], self.paper.indentation.tab_width);
                self.line_indent = self.column;
                self.shift = 0;
            }
            None => self.column += width_of(written),
        }
    }

    fn token(&mut self, token: u32) {
        if self.planner.is_comment_token(token) {
            self.comment_column = self.column;
        }
        let width = self.measure.token(token);
        if !self.measure.multiline[token as usize] {
            self.column += width;
            return;
        }
        let planner = self.planner;
        let Some(span) = planner.tree.tokens().get(token as usize).map(|token| token.span()) else { return };
        let text = span.of(planner.text);
        if planner.is_comment_token(token) && planner.plan.gaps[token as usize].form != Form::Verbatim {
            let frame = reflow::Frame {
                was: self.written_column(span.start),
                now: self.column,
                first_on_line: planner.newlines(token) > 0 || token == 0,
                trim: self.paper.trim,
                line_end: self.paper.line_end,
                indentation: self.paper.indentation,
            };
            if let Some(moved) = reflow::comment(text, &frame) {
                self.edits.push(span, &moved);
            }
        }
        self.pass_lines(span);
        self.line += text.bytes().filter(|byte| *byte == b'\n').count() as u32;
        self.column = width_of(text.rsplit('\n').next().unwrap_or(text));
    }

    /// The column at which a byte was written.
    fn written_column(&self, offset: u32) -> u32 {
        let line = self.planner.text.get(self.written_line as usize..offset as usize).unwrap_or("");
        indent_columns(line, self.paper.indentation.tab_width)
    }

    /// Puts in `,` behind the last item of a broken list.
    fn adds_comma(&mut self, gap: u32) {
        while let Some(comma) = self.commas.last().copied().filter(|comma| comma.gap <= gap) {
            self.commas.pop();
            if self.broken.get(comma.group as usize).copied().unwrap_or(false) && self.written_is_plain(gap) {
                self.buffer.push(',');
                self.column += 1;
                self.added.push(Added { text: ",", gap });
            }
        }
    }

    fn written_is_plain(&self, gap: u32) -> bool {
        let form = self.planner.plan.gaps[gap as usize].form;
        self.planner.written[gap as usize].plain && form != Form::Verbatim
    }

    /// Puts in `{` where a statement gets braces in this gap.
    fn opens_braces(&mut self, gap: u32) -> bool {
        let mut any = false;
        while let Some(braces) = self.opening.last().copied().filter(|braces| braces.open == gap) {
            self.opening.pop();
            any = true;
            let next = self.planner.options.control_next;
            let plan = GapPlan::hard(braces.group, 0, 0);
            if next {
                let base = self.bases[braces.group as usize];
                self.buffer.push_str(self.paper.line_end);
                self.begin_line(base);
            } else {
                self.buffer.push(' ');
            }
            self.buffer.push('{');
            self.added.push(Added { text: "{", gap });
            self.new_line(gap, &plan, 1);
            self.closing.push(braces);
        }
        any
    }

    /// Puts in `}` where statements that got braces end in this gap.
    fn closes_braces(&mut self, gap: u32, plan: &GapPlan) -> bool {
        let mut any = false;
        while let Some(braces) = self.closing.last().copied().filter(|braces| braces.close == gap) {
            self.closing.pop();
            any = true;
            self.buffer.push_str(self.paper.line_end);
            self.begin_line(self.bases[braces.group as usize]);
            self.buffer.push('}');
            self.column += 1;
            self.added.push(Added { text: "}", gap });
        }
        if any && gap < self.planner.tree.tokens().len() as u32 {
            match plan.joins {
                true => self.same_line(true),
                false => self.format_gap(gap, plan),
            }
        }
        any
    }

    fn end_of_file(&mut self, gap: u32) {
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

/// Writes an indentation of so many columns.
pub(super) fn push_indent(out: &mut String, columns: u32, indentation: Indentation) {
    let (tabs, spaces) = match indentation.tabs {
        true => (columns / indentation.tab_width, columns % indentation.tab_width),
        false => (0, columns),
    };
    out.extend(std::iter::repeat_n('\t', tabs as usize));
    out.extend(std::iter::repeat_n(' ', spaces as usize));
}
