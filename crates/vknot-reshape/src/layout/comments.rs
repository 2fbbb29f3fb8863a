//! Gaps beside comments. A comment stays on a line of its own, or behind what it was behind, as its author had it.

use vknot_syntax::Span;

use super::measure::indent_columns;
use super::plan::{Form, GapPlan, NO_GROUP};
use super::planner::Planner;

/// Settles the gaps around every comment, over what the rules said.
pub(super) fn settle(planner: &mut Planner<'_>) {
    let mut behind: Option<(u32, u32)> = None;
    for token in 0..planner.tree.tokens().len() as u32 {
        if planner.is_comment_token(token) {
            before(planner, token);
            after(planner, token);
            planner.plan.gaps[token as usize].margin = stays_at_margin(planner, token);
            behind = continued(planner, token, behind);
        }
    }
}

/// Whether a comment stands at the margin while the code around it does not: then that is where its author wants it.
fn stays_at_margin(planner: &Planner<'_>, token: u32) -> bool {
    let tokens = planner.tree.tokens();
    let column = |index: u32| {
        let start = tokens[index as usize].start;
        start - planner.source.line_start(start)
    };
    if !is_line_comment(planner, token) || planner.newlines(token) == 0 || column(token) > 0 {
        return false;
    }
    let code = |index: &u32| !planner.is_comment_token(*index);
    let line_column = |index: u32| {
        // The column of the first token on the line.
        let first = (0..=index).rev().take(64).find(|at| *at == 0 || planner.newlines(*at) > 0);
        first.map_or(1, column)
    };
    let before = (0..token).rev().take(64).find(code).map(line_column);
    let after = (token + 1..tokens.len() as u32).take(64).find(code).map(column);
    before.is_some_and(|column| column > 0) && after.is_some_and(|column| column > 0)
}

/// Marks a comment that goes on, in the same column, with the one behind the code of the line above. `behind` is the
/// last comment that is behind code or goes on with such a one, with its column; gives the new one.
fn continued(planner: &mut Planner<'_>, token: u32, behind: Option<(u32, u32)>) -> Option<(u32, u32)> {
    let start = planner.tree.tokens()[token as usize].start;
    let line = planner.source.line_start(start);
    let column = indent_columns(Span::new(line, start).of(planner.text), planner.options.tab_width);
    let trailing = planner.newlines(token) == 0 && token > 0;
    if trailing && is_line_comment(planner, token) {
        return Some((token, column));
    }
    let (before, at) = behind?;
    let goes_on = before + 1 == token && planner.newlines(token) == 1 && at == column;
    if !goes_on || !is_line_comment(planner, token) {
        return None;
    }
    planner.plan.gaps[token as usize].continues = true;
    Some((token, column))
}

fn is_line_comment(planner: &Planner<'_>, token: u32) -> bool {
    let prefix = planner.tree.language().spec().line_comment;
    let text = planner.token_text(token);
    !prefix.is_empty() && text.starts_with(prefix) || text.starts_with("#!")
}

fn before(planner: &mut Planner<'_>, token: u32) {
    let most = planner.options.blank_most;
    let own_line = planner.newlines(token) > 0;
    let closes_line = is_line_comment(planner, token) || planner.newlines(token + 1) > 0;
    let empty = planner.written[token as usize].empty;
    let slot = &mut planner.plan.gaps[token as usize];
    if matches!(slot.form, Form::Keep | Form::Verbatim) || token == 0 {
        return;
    }
    *slot = match slot.form {
        Form::Hard if own_line => *slot,
        _ if own_line => broken(*slot, most),
        _ if closes_line => GapPlan::fixed(true),
        Form::Hard | Form::Soft | Form::Author if !empty => GapPlan::fixed(true),
        Form::Hard => GapPlan::fixed(true),
        _ => GapPlan::fixed(!empty),
    };
}

fn after(planner: &mut Planner<'_>, token: u32) {
    let most = planner.options.blank_most;
    let line_comment = is_line_comment(planner, token);
    let own_line = planner.newlines(token) > 0 || token == 0;
    let broken_behind = planner.newlines(token + 1) > 0;
    let empty = planner.written[token as usize + 1].empty;
    let last = token as usize + 1 == planner.tree.tokens().len();
    let slot = &mut planner.plan.gaps[token as usize + 1];
    if matches!(slot.form, Form::Keep | Form::Verbatim) || last {
        return;
    }
    if line_comment || broken_behind {
        if slot.form != Form::Hard {
            *slot = broken(*slot, most);
        }
    } else if own_line {
        *slot = GapPlan::fixed(!empty);
    } else if slot.form == Form::Fixed {
        *slot = GapPlan::fixed(!empty && slot.spaced);
    }
}

/// The policy with a line break. Outside any group the next line hangs.
fn broken(plan: GapPlan, most: u8) -> GapPlan {
    let hang = matches!(plan.form, Form::Fixed | Form::Unset) && !plan.flush;
    let group = if hang { NO_GROUP } else { plan.group };
    GapPlan { hang, ..GapPlan::hard(group, 0, most) }
}
