//! Widths of tokens and where measuring stops, so that "does it fit" is one subtraction.

use super::plan::Form;
use super::planner::Planner;
use crate::frames::place::width_of;

/// What is known of a plan's tokens before anything is printed.
pub(super) struct Measure {
    /// Where each token would begin and end if all were on one line.
    starts: Vec<u32>,
    ends: Vec<u32>,
    /// How many gaps up to each one must break.
    forced: Vec<u32>,
    /// For each gap the first at or behind it where a line may or does break.
    chance: Vec<u32>,
    /// For each gap the first at or behind it where the line ends whatever is decided.
    stop: Vec<u32>,
    /// For each gap the first at or behind it where a line breaks if it is a wrapped one.
    wrap: Vec<u32>,
    /// For each gap where a group may break, where what begins there ends: at the next such gap, or with the group.
    item: Vec<u32>,
    /// Whether a comma may come in at the gap.
    comma: Vec<bool>,
    /// Whether the token takes several lines.
    pub multiline: Vec<bool>,
}

impl Measure {
    /// Measures a plan in which some groups are known to be broken.
    pub fn of(planner: &Planner<'_>, broken: &[bool]) -> Self {
        let tokens = planner.tree.tokens();
        let count = tokens.len();
        let mut measure = Self {
            starts: Vec::with_capacity(count),
            ends: Vec::with_capacity(count),
            forced: Vec::with_capacity(count + 1),
            chance: vec![count as u32; count + 2],
            stop: vec![count as u32; count + 2],
            wrap: vec![count as u32; count + 2],
            item: vec![0; count],
            comma: vec![false; count + 2],
            multiline: Vec::with_capacity(count),
        };
        for comma in &planner.plan.commas {
            measure.comma[comma.gap as usize] = true;
            measure.comma[comma.gap as usize + 1] |= planner.is_comment_token(comma.gap);
        }
        let (mut at, mut forced) = (0u32, 0u32);
        for (index, token) in tokens.iter().enumerate() {
            let text = token.span().of(planner.text);
            let comment = planner.written[index].comment;
            // A comment at the end of a line does not push its code onto another.
            let trailing = comment && planner.newlines(index as u32) == 0 && planner.newlines(index as u32 + 1) > 0;
            // Most tokens are too short for a search to pay.
            let first_line = text.bytes().position(|byte| byte == b'\n').map_or(text, |end| &text[..end]);
            forced += u32::from(is_forced(planner, broken, index));
            at = at.saturating_add(if trailing { 0 } else { blank(planner, index) });
            measure.starts.push(at);
            at = at.saturating_add(if trailing { 0 } else { width_of(first_line) });
            measure.ends.push(at);
            measure.forced.push(forced);
            measure.multiline.push(first_line.len() < text.len());
        }
        measure.forced.push(forced);
        let mut ends: Vec<u32> = planner.plan.groups.iter().map(|group| group.close).collect();
        for index in (0..count).rev() {
            let gap = planner.plan.gaps[index];
            if gap.form == Form::Soft && let Some(end) = ends.get_mut(gap.group as usize) {
                measure.item[index] = std::mem::replace(end, index as u32);
            }
            let stops =
                is_kept(gap.form) && planner.newlines(index as u32) > 0 || index > 0 && measure.multiline[index - 1];
            let may_break = matches!(gap.form, Form::Soft | Form::Hard)
                || gap.form == Form::AfterWrap && gap.fill
                || matches!(gap.form, Form::Author | Form::AfterClosing) && planner.newlines(index as u32) > 0;
            let wraps = gap.form == Form::AfterWrap;
            measure.wrap[index] = if wraps { index as u32 } else { measure.wrap[index + 1] };
            measure.stop[index] = if stops { index as u32 } else { measure.stop[index + 1] };
            measure.chance[index] = if stops || may_break { index as u32 } else { measure.chance[index + 1] };
        }
        measure
    }

    /// Columns of a token's first line.
    pub fn token(&self, token: u32) -> u32 {
        let (start, end) = (self.starts.get(token as usize), self.ends.get(token as usize));
        end.copied().unwrap_or(0) - start.copied().unwrap_or(0)
    }

    /// Columns from token `from` to the end of the tokens before `fit_end`, with what cannot be parted from them.
    pub fn run(&self, from: u32, fit_end: u32) -> u32 {
        let stop = self.stop.get(from as usize + 1).copied().unwrap_or(fit_end);
        let end = match stop < fit_end {
            true => stop,
            false => self.chance.get(fit_end as usize).copied().unwrap_or(fit_end),
        };
        self.columns(from, end)
    }

    /// Columns from token `from` to the end of the tokens before `end`, with a comma that may come in there.
    pub fn columns(&self, from: u32, end: u32) -> u32 {
        let comma = u32::from(self.comma.get(end as usize).copied().unwrap_or(false));
        let last = (end.max(from + 1) - 1) as usize;
        let end = self.ends.get(last).or(self.ends.last()).copied().unwrap_or(0) + comma;
        end.saturating_sub(self.starts.get(from as usize).copied().unwrap_or(0))
    }

    /// The first gap at or behind `fit_end` where the line breaks if it is a wrapped one, if it does not break before.
    pub fn next_wrap(&self, fit_end: u32) -> Option<u32> {
        let next = |gaps: &[u32]| gaps.get(fit_end as usize).copied();
        next(&self.wrap).filter(|wrap| next(&self.chance).is_some_and(|chance| *wrap < chance))
    }

    /// The first gap behind gap `gap` where the line may break.
    pub fn next_chance(&self, gap: u32) -> u32 {
        self.chance.get(gap as usize + 1).copied().unwrap_or(u32::MAX)
    }

    /// Where what begins at a gap of a group ends.
    pub fn item_end(&self, gap: u32) -> u32 {
        self.item.get(gap as usize).copied().unwrap_or(gap)
    }

    /// Whether a gap from the first up to and without the second must break.
    pub fn is_forced(&self, from: u32, to: u32) -> bool {
        let upto = |gap: u32| gap.checked_sub(1).and_then(|gap| self.forced.get(gap as usize)).copied().unwrap_or(0);
        to > from && upto(to) > upto(from)
    }
}

/// Columns of a gap on one line.
fn blank(planner: &Planner<'_>, index: usize) -> u32 {
    let gap = planner.plan.gaps[index];
    match is_kept(gap.form) && planner.newlines(index as u32) == 0 {
        true => width_of(planner.tree.gap_span(index as u32).of(planner.text)),
        false => u32::from(gap.spaced),
    }
}

/// Whether a gap stays as it was written.
fn is_kept(form: Form) -> bool {
    matches!(form, Form::Keep | Form::Verbatim | Form::Unset)
}

fn is_forced(planner: &Planner<'_>, broken: &[bool], index: usize) -> bool {
    let gap = planner.plan.gaps[index];
    match gap.form {
        Form::Hard => true,
        Form::Author => planner.newlines(index as u32) > 0,
        Form::Soft if !gap.fill => broken.get(gap.group as usize).copied().unwrap_or(false),
        _ => false,
    }
}
