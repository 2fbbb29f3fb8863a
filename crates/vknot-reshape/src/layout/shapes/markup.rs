//! Elements in code: tags with their attributes, and what stands between tags.

use vknot_syntax::{NodeId, Role};

use vknot_style::Key;
use vknot_style::choices::KeepBreaks;
use crate::layout::plan::{GapPlan, Group};
use crate::layout::planner::Planner;

impl Planner<'_> {
    /// What is between two tags. White space with a line break in it says nothing, so it may come where nothing parts two pieces that are no
    /// text, and its size is free; all other white space is text.
    pub(in crate::layout) fn markup(&mut self, children: &[NodeId]) {
        let (Some(first), Some(last)) = (children.first(), children.last()) else { return };
        let mut group = Group::over(self.end(*first) - 1, self.end(*last));
        group.first = self.end(*first);
        group.always = self.options.keep != KeepBreaks::None
            && {
                children.iter().skip(1).any(|child| self.newlines(self.first(*child)) > 0)
            };
        let number = self.plan.group(group);
        let most = self.options.blank_most;
        for pair in children.windows(2) {
            let gap = self.first(pair[1]);
            let text = |id: NodeId| self.tree.language().is_prose(self.tree.node(id).kind);
            let bare = !text(pair[0]) && !text(pair[1]);
            let tags = pair[0] == *first && pair[1] == *last;
            let empty = self.written.get(gap as usize).is_some_and(|written| written.empty);
            let plan = if self.newlines(gap) > 0 {
                match bare && tags {
                    true => GapPlan::soft(number, false),
                    false => GapPlan::hard(number, 0, most),
                }
            } else if empty && bare && !tags {
                GapPlan::soft(number, false)
            } else {
                GapPlan::keep()
            };
            self.plan.set(gap, plan);
        }
    }

    /// A tag: its attributes on its line, or each on a line of its own, or as their author had them behind the first.
    pub(in crate::layout) fn tag(&mut self, id: NodeId, children: &[NodeId]) {
        let is_attribute = |planner: &Self, child: &NodeId| {
            let field = planner.tree.language().field_name(planner.tree.node(*child).field);
            planner.role(*child) == Role::Attribute || field == "attribute"
        };
        let attributes: Vec<NodeId> = children.iter().copied().filter(|child| is_attribute(self, child)).collect();
        let Some(close) = children.last().copied() else { return };
        let close_gap = self.first(close);
        let Some(first) = attributes.first().copied() else {
            self.author_space(close_gap);
            return children.windows(2).for_each(|pair| self.space(id, pair[0], pair[1]));
        };
        let keeps = self.options.keep != KeepBreaks::None;
        let begun = self.newlines(self.first(first)) > 0;
        let later = attributes.iter().skip(1).any(|child| self.newlines(self.first(*child)) > 0);
        let mut group = Group::over(self.first(id), self.end(id));
        group.first = self.first(first);
        group.keep = keeps;
        group.always = keeps && (begun || later);
        // A last attribute that opens a bracket may stay on the line.
        let open = attributes.iter().map(|child| self.hugs[child.0 as usize]).find(|hug| *hug > 0);
        let stays = !begun && !later && attributes.iter().any(|child| self.is_multiline(*child));
        if let Some(open) = open.filter(|_| stays || attributes.len() == 1) {
            group.fit_end = open;
        }
        let number = self.plan.group(group);
        for child in attributes {
            let plan = match keeps && !begun && later {
                true => GapPlan::filled(number, true),
                false => GapPlan::soft(number, true),
            };
            self.plan.set(self.first(child), plan);
        }
        let spaced = !self.written.get(close_gap as usize).is_some_and(|written| written.empty);
        let spaced = spaced && self.name(close) != ">";
        let shows = self.is_multiline(id).then(|| self.newlines(close_gap) == 0);
        self.set_by(close_gap, Key::WrapTag, [GapPlan::soft(number, spaced), GapPlan::fixed(spaced)], shows);
        children.windows(2).for_each(|pair| self.space(id, pair[0], pair[1]));
    }

    /// Nothing or a space, as the author had it.
    fn author_space(&mut self, gap: u32) {
        let empty = self.written.get(gap as usize).is_some_and(|written| written.empty);
        self.plan.set(gap, GapPlan::fixed(!empty));
    }
}
