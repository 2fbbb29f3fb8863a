//! Semicolons that begin a line, where those at the ends of lines are left out: they stay in front of what they part from the line above.

use vknot_style::choices::TokenSemicolon;

use super::plan::{Form, GapPlan, NO_GROUP};
use super::planner::Planner;

/// Keeps them where their author had them, unless every statement is to end in one.
pub(super) fn settle(planner: &mut Planner<'_>) {
    let needless = planner.table.spec.spelling.semicolons.is_none();
    if needless || planner.style.choice::<TokenSemicolon>() == TokenSemicolon::Add {
        return;
    }
    let most = planner.options.blank_most;
    for token in 0..planner.tree.tokens().len() as u32 {
        let behind = token as usize + 1;
        let touches = planner.written.get(behind).is_some_and(|written| written.empty);
        let leads = planner.token_text(token) == ";" && planner.newlines(token) > 0 && touches;
        let free = |gap: usize| {
            planner.plan.gaps.get(gap).is_some_and(|plan| !matches!(plan.form, Form::Keep | Form::Verbatim))
        };
        if leads && behind < planner.tree.tokens().len() && free(token as usize) && free(behind) {
            planner.plan.gaps[token as usize] = GapPlan::hard(NO_GROUP, 0, most);
            planner.plan.gaps[behind] = GapPlan::fixed(false);
        }
    }
}
