//! Heads whose clauses are parted by semicolons: on one line, or each on its own.

use vknot_style::choices::KeepBreaks;
use vknot_syntax::{NodeId, Role};

use crate::layout::plan::{GapPlan, Group};
use crate::layout::planner::Planner;
use crate::spec::layout::Spacing;

impl Planner<'_> {
    /// Breaks a head of clauses behind its semicolons, if it does not fit on a line.
    pub(in crate::layout) fn clauses(&mut self, id: NodeId, children: &[NodeId]) {
        let bracket = |id: &NodeId| self.tree.role(*id) == Role::Parenthesized
            && self.token_text(self.first(*id)) == "(";
        let inner: Vec<NodeId> = match children.iter().take(3).find(|child| bracket(child)) {
            Some(group) => self.tree.children(*group).collect(),
            None => children.to_vec(),
        };
        let at = |mark: &str| inner.iter().position(|child| self.name(*child) == mark);
        let (Some(open), Some(close)) = (at("("), at(")")) else { return };
        let Some(clauses) = inner.get(open + 1..close) else { return };
        let ends = |child: NodeId| self.token_text(self.end(child).saturating_sub(1)) == ";";
        let holder = self.tree.parent(inner[open]).unwrap_or(id);
        let behind: Vec<(NodeId, NodeId)> = clauses
            .windows(2)
            .filter(|pair| ends(pair[0]) && !matches!(self.token_text(self.first(pair[1])), ";" | ")"))
            .map(|pair| (pair[0], pair[1]))
            .collect();
        // Their author may have lines begin with semicolons.
        let mark = |clause: &NodeId| self.end(*clause).saturating_sub(1);
        let leads = |mark: &u32| self.token_text(*mark) == ";" && self.newlines(*mark) > 0;
        let keeps = self.options.keep != KeepBreaks::None;
        let leading: Vec<u32> = clauses.iter().map(mark).filter(|mark| keeps && leads(mark)).collect();
        if behind.is_empty() && leading.is_empty() {
            return;
        }
        let mut group = Group::over(self.first(inner[open]), self.end(inner[close]));
        let broken = behind.iter().any(|(_, part)| self.newlines(self.first(*part)) > 0);
        group.always = keeps && broken || !leading.is_empty();
        // Where its author broke only what the clauses hold, that is enough.
        if !group.always && self.keeps_meant() && let Some(inside) = self.first_break(group.open, group.close) {
            group.fit_end = inside;
        }
        let (kept, number) = (group.always, self.plan.group(group));
        leading.iter().for_each(|mark| self.plan.set(*mark, GapPlan::hard(number, 0, 0)));
        for (before, part) in behind {
            let gap = self.first(part);
            let spaced = !matches!(self.spacing(holder, before, part), Spacing::Nothing);
            // Lines that their author broke may hold several.
            let plan = match kept {
                true if self.newlines(gap) > 0 => GapPlan::hard(number, 0, 0),
                true if !leading.is_empty() => GapPlan::fixed(spaced),
                true => GapPlan::filled(number, spaced),
                false => GapPlan::soft(number, spaced),
            };
            self.plan.set(gap, plan);
        }
    }
}
