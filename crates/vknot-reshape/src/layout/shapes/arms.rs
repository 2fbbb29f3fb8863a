//! Arms: labels, and the items behind them on their line or below.

use vknot_style::choices::KeepBreaks;
use vknot_syntax::{NodeId, Role};

use crate::layout::plan::{GapPlan, Group, NO_GROUP};
use crate::layout::planner::Planner;
use crate::spec::layout::{Arm, Items};

/// Within how many levels the arm is found that a token begins or ends.
const FEW_LEVELS: usize = 8;

impl Planner<'_> {
    /// Labels, then items one level in.
    pub(in crate::layout) fn arm(&mut self, id: NodeId, rule: Arm, children: &[NodeId]) {
        let colon = |child: &NodeId| self.is_punctuation(*child) && self.name(*child) == ":";
        let is_label = |planner: &Self, child: NodeId| planner.role(child) == Role::Label || planner.is_comment(child);
        let behind = children.iter().rposition(colon).map_or(0, |at| at + 1);
        let body = children.iter().skip(behind).position(|child| !is_label(self, *child));
        let body = body.map_or(children.len(), |at| at + behind);
        let from = (behind.max(1)..body).find(|index| self.is_comment(children[*index])).unwrap_or(body);
        for index in 1..from {
            let plan = match self.role(children[index]) {
                Role::Label if self.shares_label_line(self.first(children[index])) => GapPlan::author(true),
                Role::Label => GapPlan::hard(NO_GROUP, 0, 0),
                _ => {
                    self.space(id, children[index - 1], children[index]);
                    continue;
                }
            };
            self.plan.set(self.first(children[index]), plan);
        }
        let Some(first) = children.get(body) else { return };
        let keeps = self.options.keep != KeepBreaks::None;
        let label = children[..body].iter().rposition(|child| self.role(*child) == Role::Label);
        // Comments may stand between a label and its brace.
        let noted = label.map_or(from, |label| label + 1).max(1);
        let together = children[noted..=body].iter().all(|child| self.newlines(self.first(*child)) == 0);
        let opens = self.role(*first) == Role::Block && (from == body || keeps && together);
        for (index, child) in children.iter().enumerate().take(body).skip(from.max(1)) {
            let on_line = opens && index >= noted;
            let below = GapPlan::hard(NO_GROUP, 0, self.blank_in_arm(children, index));
            self.plan.set(self.first(*child), if on_line { GapPlan::author(true) } else { below });
        }
        if children.len() - body == 1 && opens {
            return self.plan.set(self.first(*first), if keeps { GapPlan::author(true) } else { GapPlan::fixed(true) });
        }
        let notes = children[body..].iter().rev().take_while(|child| self.is_note(**child)).count();
        let (items, notes) = children[body..].split_at(children.len() - body - notes);
        // Of several labels the last one has the items behind it, with those on its line.
        let line = self.label_line(&children[..body]).unwrap_or(self.first(id));
        let single = rule.single && self.is_single_arm(id, line, items);
        let end = items.last().filter(|_| single).map_or(self.end(id), |last| self.end(*last));
        let mut group = Group::over(line, end);
        group.first = self.first(children[from]);
        group.always = !single;
        let number = self.plan.group(group);
        if single {
            items.iter().for_each(|item| self.plan.set(self.first(*item), GapPlan::soft(number, true)));
            for note in notes
                .iter()
                .map(|note| self.first(*note))
                .filter(|note| self.newlines(*note) > 0)
                .collect::<Vec<u32>>()
            {
                self.plan.set(note, GapPlan::hard(NO_GROUP, 0, self.options.blank_most));
            }
            return;
        }
        let braced = opens && self.newlines(self.first(*first)) == 0;
        let gap = match braced {
            true => GapPlan::fixed(true),
            false => GapPlan::hard(number, 0, self.blank_in_arm(children, body)),
        };
        self.plan.set(self.first(*first), gap);
        self.items(&Items { apart: &[], imports_apart: false }, &children[body..], number);
    }

    /// How many blank lines stay in front of what is behind a label: as at the beginning of a block, or as between what is in one.
    fn blank_in_arm(&self, children: &[NodeId], index: usize) -> u8 {
        let before = index.checked_sub(1).and_then(|before| children.get(before));
        let between = before.is_some_and(|before| self.is_comment(*before));
        if between || self.options.edges { self.options.blank_most } else { 0 }
    }

    /// Whether a label stands right behind another on its line, as its author had them.
    pub(super) fn shares_label_line(&self, label: u32) -> bool {
        self.options.arm && self.newlines(label) == 0 && self.token_text(label.saturating_sub(1)) == ":"
    }

    /// Whether the items behind a label may stay on its `line`, as their author had them: one, or one and a jump, or several in a row of
    /// arms that look alike.
    fn is_single_arm(&self, id: NodeId, line: u32, items: &[NodeId]) -> bool {
        let among = items.len() > 1 && self.is_among_lines(id);
        let simple = |item: &NodeId| match self.role(*item) {
            Role::Branch => among && !self.has_body(*item),
            role => matches!(role, Role::Statement | Role::Part | Role::Call | Role::Literal),
        };
        let jump = |item: &NodeId| self.end(*item) - self.first(*item) <= 3;
        self.options.arm
            && (self.newlines(line) > 0 || self.shares_label_line(line))
            && self.next_break(line + 1) >= self.end_of_code(id)
            && items.iter().all(simple)
            && (items.len() == 1 || items.len() == 2 && jump(&items[1]) || among)
    }

    /// Where the last part of a node ends that is no comment and no directive.
    fn end_of_code(&self, id: NodeId) -> u32 {
        self.tree.parts(id).filter(|part| !self.is_note(*part)).last().map_or(self.end(id), |part| self.end(part))
    }

    /// Whether something among items is a comment or a directive.
    fn is_note(&self, id: NodeId) -> bool {
        self.is_comment(id) || self.is_directive(self.first(id))
    }

    /// The first of the labels on the line of the last one.
    fn label_line(&self, children: &[NodeId]) -> Option<u32> {
        let labels = || children
            .iter()
            .rev()
            .filter(|child| self.role(**child) == Role::Label)
            .map(|label| self.first(*label));
        let shared = labels().take_while(|label| self.shares_label_line(*label)).count();
        labels().nth(shared).or_else(|| labels().next_back())
    }

    /// Whether an arm of one line stands between, or above or below, others of one line that hold something.
    fn is_among_lines(&self, id: NodeId) -> bool {
        let arm_of = |token: u32| {
            let node = self.tree.tokens().get(token as usize)?.node;
            self.tree.ancestors(node).take(FEW_LEVELS).find(|id| self.role(*id) == Role::Arm)
        };
        let line = |arm: NodeId| {
            let label = self.tree.parts(arm).filter(|part| self.role(*part) == Role::Label).last().unwrap_or(arm);
            let holds = self.token_text(self.end(arm).saturating_sub(1)) != ":";
            holds && self.next_break(self.first(label) + 1) >= self.end_of_code(arm)
        };
        let before = || self.first(id).checked_sub(1).and_then(arm_of).filter(|arm| self.end(*arm) == self.first(id));
        let behind = || arm_of(self.end(id)).filter(|arm| self.first(*arm) == self.end(id));
        let near = |gap: u32| self.newlines(gap) == 1;
        near(self.first(id)) && before().is_some_and(line) || near(self.end(id)) && behind().is_some_and(line)
    }
}
