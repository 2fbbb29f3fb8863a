//! Where lines break: groups that are decided once their first gap is reached, and gaps that follow them or go by themselves.

use vknot_style::choices::KeepBreaks;

use super::Printer;
use crate::layout::plan::{Form, GapPlan, Group};

impl Printer<'_, '_> {
    /// Decides groups that begin with a token, or has them wait for their first gap.
    pub(super) fn open_groups(&mut self, token: u32) {
        while let Some(number) = self.order.get(self.next_group).copied() {
            let group = self.planner.plan.groups[number as usize];
            if group.open > token {
                break;
            }
            self.next_group += 1;
            if self.broken[number as usize] || self.cannot_break(&group) {
                continue;
            }
            if group.lazy || group.reluctant {
                self.undecided.push((number, self.column));
            } else {
                self.broken[number as usize] = self.is_too_long(&group, group.fit_end, self.column);
            }
        }
    }

    fn cannot_break(&self, group: &Group) -> bool {
        let waits = self.broken.get(group.outer as usize).is_some_and(|broken| !broken);
        group.fit_end <= group.open || waits || self.planner.plan.is_in_row(group.open)
    }

    /// Decides groups whose first break would be here.
    pub(super) fn decide(&mut self, gap: u32) {
        while let Some((number, column)) = self.undecided.pop() {
            let group = self.planner.plan.groups[number as usize];
            let inner = self.frames.spot_of(gap).place.columns();
            self.broken[number as usize] = match group.lazy {
                true => self.value_moves(&group, column, inner),
                false => self.is_too_long(&group, self.reluctant_end(&group, inner), column),
            };
        }
    }

    /// The end of what must fit of a list whose last item stays on the line only if the items would not fit on one of their own.
    fn reluctant_end(&self, group: &Group, inner: u32) -> u32 {
        let unforced = !self.measure.is_forced(group.fit_end, group.close);
        match group.fit_end < group.close && unforced && self.fits(inner, group.open + 1, group.close) {
            true => group.close,
            false => group.fit_end,
        }
    }

    fn is_too_long(&self, group: &Group, fit_end: u32, column: u32) -> bool {
        // What stays on the line may end in front of a brace that begins one.
        let brace = fit_end.saturating_sub(1);
        let next = self.planner.plan.gaps.get(brace as usize).is_some_and(|gap| gap.form == Form::Hard);
        let begins = fit_end < group.close && brace > group.first && next && self.planner.token_text(brace) == "{";
        let fit_end = if begins { brace } else { fit_end };
        self.measure.is_forced(group.first.max(group.open + 1), fit_end)
            || !self.fits(column, group.open, fit_end) && !self.fits_before_wrap(column, group.open, fit_end)
    }

    fn fits(&self, column: u32, from: u32, fit_end: u32) -> bool {
        column + self.measure.run(from, fit_end) <= self.planner.options.width
    }

    /// The same where what follows goes to the next line, since the one at hand is a wrapped one.
    fn fits_before_wrap(&self, column: u32, from: u32, fit_end: u32) -> bool {
        let Some(wrap) = self.measure.next_wrap(fit_end) else { return false };
        self.frames.is_wrapped_up_to(wrap) && column + self.measure.columns(from, wrap) <= self.planner.options.width
    }

    /// Whether the value behind an operator, which stands in a column, goes to the next line, where it would stand in another.
    fn value_moves(&self, group: &Group, column: u32, inner: u32) -> bool {
        let value = group.first;
        let author = self.planner.options.keep != KeepBreaks::None && self.planner.newlines(value) > 0;
        if author && group.keep {
            return true;
        }
        let forced = self.measure.is_forced(value + 1, group.close);
        let end = if group.head_only { group.fit_end } else { group.close };
        if !forced && self.fits(column, group.open, end) {
            return false;
        }
        if author {
            return true;
        }
        let gains = inner < column + self.measure.token(group.open) + 1;
        // What ends in braces goes there only if its author had it so.
        let opens_braces = self.planner.token_text(group.close - 1) == "}";
        let whole = !forced && !opens_braces && !group.head_only && self.fits(inner, value, group.close);
        let begins_here = self.fits(column, group.open, group.fit_end);
        let begins_there = self.fits(inner, value, group.fit_end);
        gains && (whole || !begins_here && begins_there)
    }

    pub(super) fn breaks_at(&mut self, gap: u32, plan: &GapPlan) -> bool {
        let author = self.planner.newlines(gap) > 0;
        match plan.form {
            Form::Hard => true,
            Form::Author => author,
            Form::AfterClosing => author || !self.frames.is_led_by_closing(),
            Form::AfterWrap if author && (self.frames.is_led_by_closing() || self.frames.is_led_by_section()) => true,
            Form::AfterWrap if self.frames.is_led_by_clause() => true,
            Form::AfterWrap => {
                let full = || self.column + 1 + self.measure.run(gap, self.measure.next_chance(gap))
                    > self.planner.options.width;
                plan.fill && full() || self.line_place.columns() > self.frames.spot_of(gap).place.columns()
            }
            Form::Soft if plan.fill => {
                let group = self.planner.plan.groups.get(plan.group as usize);
                let broken = self.broken.get(plan.group as usize).copied().unwrap_or(false);
                broken && (author && group.is_some_and(|group| group.keep || group.rows) || !self.item_fits(gap))
            }
            Form::Soft => self.broken.get(plan.group as usize).copied().unwrap_or(false),
            _ => false,
        }
    }

    /// Whether the line of a filled group goes on: with all that is up to the next gap of the group, if that fits on any line.
    fn item_fits(&mut self, gap: u32) -> bool {
        let (width, end) = (self.planner.options.width, self.measure.item_end(gap));
        let whole = self.measure.run(gap, end);
        if self.column + 1 + whole <= width {
            return true;
        }
        if !self.measure.is_forced(gap + 1, end) && self.frames.spot_of(gap).place.columns() + whole <= width {
            return false;
        }
        self.column + 1 + self.measure.run(gap, self.measure.next_chance(gap)) <= width
    }
}
