//! Gaps beside comments. A comment stays on a line of its own, or behind what it was behind, as its author had it.

use crate::spec::indent::Hold;
use crate::frames::comments::{Beside, is_line_comment, touches_comment};
use crate::frames::place::blank_columns;
use super::plan::{Form, GapPlan};
use super::planner::Planner;

/// Settles the gaps around every comment, over what the rules said.
pub(super) fn settle(planner: &mut Planner<'_>) {
    directives(planner);
    let (code, tab_width) = (planner.code, planner.options.tab_width);
    let mut beside = Beside::default();
    for token in 0..planner.tree.tokens().len() as u32 {
        if planner.is_comment_token(token) && !lead_item(planner, token) {
            before(planner, token);
            after(planner, token);
        }
        if planner.newlines(token) == 0 && token > 0 {
            beside.pass(code, token, tab_width);
        } else if beside.is_open() {
            let gap = planner.tree.gap_span(token).of(planner.text);
            let column = blank_columns(&gap[gap.rfind('\n').map_or(0, |end| end + 1)..], tab_width);
            planner.plan.gaps[token as usize].continues = beside.begins_line(code, token, gap, column);
        }
    }
}

/// Whether a comment stands on the line of the bracket in front of it and of the item behind it: then it goes with the item.
fn leads_first_item(planner: &Planner<'_>, token: u32) -> bool {
    let bracket = token.checked_sub(1).is_some_and(|before| matches!(planner.token_text(before), "(" | "[" | "<"));
    bracket && planner.newlines(token) == 0 && planner.newlines(token + 1) == 0
}

/// Takes a comment that stands between a comma and an item on one line along with the item: the line breaks in front of it.
fn lead_item(planner: &mut Planner<'_>, token: u32) -> bool {
    let comma = token.checked_sub(1).is_some_and(|before| planner.token_text(before) == ",");
    let one_line = planner.newlines(token) == 0 && planner.newlines(token + 1) == 0;
    let item = planner.plan.gaps.get(token as usize + 1).filter(|plan| plan.form == Form::Soft).copied();
    let tree = planner.tree;
    let next =
        tree.tokens().get(token as usize + 1).and_then(|next| tree.language().bracket(tree.node(next.node).kind));
    let closes = next.is_some_and(|bracket| !bracket.opens) || token as usize + 1 == tree.tokens().len();
    let leads = comma && one_line && !closes && !is_line_comment(planner.code, token);
    let Some(plan) = item.filter(|_| leads) else { return false };
    planner.plan.gaps[token as usize] = plan;
    planner.plan.gaps[token as usize + 1] = GapPlan::fixed(!planner.written[token as usize + 1].empty);
    true
}

fn before(planner: &mut Planner<'_>, token: u32) {
    if leads_first_item(planner, token) {
        return;
    }
    let most = planner.options.blank_most;
    let own_line = planner.newlines(token) > 0;
    let closes_line = is_line_comment(planner.code, token) || planner.newlines(token + 1) > 0;
    let empty = planner.written[token as usize].empty;
    let touches = !planner.tree.language().spec().loose.is_empty();
    let of_comments = touches_comment(planner.tree, token);
    let slot = &mut planner.plan.gaps[token as usize];
    if matches!(slot.form, Form::Keep | Form::Verbatim) || token == 0 {
        return;
    }
    *slot = match slot.form {
        Form::Hard if own_line => *slot,
        _ if own_line => broken(*slot, most),
        _ if of_comments => GapPlan::fixed(false),
        _ if closes_line => GapPlan::fixed(!(empty && touches)),
        Form::Hard | Form::Soft | Form::Author if !empty => GapPlan::fixed(true),
        Form::Hard => GapPlan::fixed(true),
        _ => GapPlan::fixed(!empty),
    };
}

/// The lines of directives stay lines.
fn directives(planner: &mut Planner<'_>) {
    let (tree, table) = (planner.tree, &planner.code.toolkit().indent);
    let most = planner.options.blank_most;
    for node in tree.nodes() {
        if table.kind(node.kind).hold != Hold::Margin || node.is_empty() {
            continue;
        }
        let mut gap = node.first_token;
        let count = tree.tokens().len() as u32;
        if planner.newlines(gap) > 0 {
            let slot = &mut planner.plan.gaps[gap as usize];
            *slot = if slot.form == Form::Hard { *slot } else { broken(*slot, most) };
        }
        gap += 1;
        while gap < count && planner.newlines(gap) == 0 {
            planner.plan.gaps[gap as usize] = GapPlan::keep();
            gap += 1;
        }
        if gap < count {
            let slot = &mut planner.plan.gaps[gap as usize];
            *slot = if slot.form == Form::Hard { *slot } else { broken(*slot, most) };
        }
    }
}

fn after(planner: &mut Planner<'_>, token: u32) {
    let most = planner.options.blank_most;
    let line_comment = is_line_comment(planner.code, token);
    let own_line = planner.newlines(token) > 0 || token == 0 || leads_first_item(planner, token);
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

/// The policy with a line break.
fn broken(plan: GapPlan, most: u8) -> GapPlan {
    GapPlan::hard(plan.group, 0, most)
}
