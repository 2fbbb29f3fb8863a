//! Chains of calls: `a.b().c().d()`.

use vknot_syntax::{Field, NodeId, Role};

use vknot_style::choices::{KeepBreaks, WrapChain};
use crate::layout::plan::{GapPlan, Group};
use crate::layout::planner::Planner;
use crate::spec::layout::{Link, Rule};

impl Planner<'_> {
    /// The outermost link plans for the whole chain; each link spaces its own parts.
    pub(in crate::layout) fn chain(&mut self, id: NodeId, children: &[NodeId]) {
        let inner = self.tree.parent(id).is_some_and(|parent| self.link_before(parent) == Some(id));
        if !inner && !self.is_chain_as_written(id, self.links_of(id).into_iter()) {
            self.chain_group(id);
        }
        for pair in children.windows(2) {
            self.space(id, pair[0], pair[1]);
        }
    }

    /// The part a link hangs on, if the node is a link.
    fn link_before(&self, id: NodeId) -> Option<NodeId> {
        let (field, _) = (*self.table.chain.get(self.tree.node(id).kind.0 as usize)?)?;
        match field {
            Field(0) => self.tree.parts(id).next(),
            field => self.tree.child(id, field),
        }
    }

    /// Whether a node is something behind a link, such as an index or a question mark.
    pub(in crate::layout) fn is_suffix(&self, id: NodeId) -> bool {
        self.link_of(id) == Some(Link::Suffix)
    }

    fn link_of(&self, id: NodeId) -> Option<Link> {
        (*self.table.chain.get(self.tree.node(id).kind.0 as usize)?).map(|(_, link)| link)
    }

    /// The gaps between the parts of all links of a chain, in order.
    fn links_of(&self, id: NodeId) -> Vec<u32> {
        let mut gaps = Vec::new();
        let mut at = Some(id);
        while let Some(link) = at {
            let from = gaps.len();
            gaps.extend(self.tree.children(link).skip(1).map(|part| self.first(part)));
            gaps[from..].reverse();
            at = self.link_before(link);
        }
        gaps.reverse();
        gaps
    }

    fn chain_group(&mut self, id: NodeId) {
        // From the outside in: each link's dot, and whether the link is a call.
        let mut dots: Vec<(u32, bool)> = Vec::new();
        let mut followed_by_arguments = false;
        let (mut at, mut last_arguments, mut first_hug) = (id, None, 0);
        while let (Some(before), Some(link)) = (self.link_before(at), self.link_of(at)) {
            if matches!(link, Link::Arguments | Link::Call) && let Some(last) = self.tree.parts(at).last() {
                let hug = self.hugs[last.0 as usize];
                first_hug = if hug > 0 && self.is_multiline(last) { hug } else { first_hug };
            }
            if dots.is_empty() && matches!(link, Link::Arguments | Link::Call) {
                last_arguments = self.tree.parts(at).last();
            }
            if matches!(link, Link::Call | Link::Access)
                && let Some(dot) =
                self.tree.children(at).find(|child| self.table.spec.dots.contains(&self.label(*child)))
            {
                let gap = self.first(dot) + u32::from(self.table.spec.dots_end_lines);
                dots.push((gap, link == Link::Call || followed_by_arguments));
            }
            followed_by_arguments = link == Link::Arguments || link == Link::Types && followed_by_arguments;
            at = before;
        }
        dots.reverse();
        let head_calls = followed_by_arguments || self.role(at) == Role::Call;
        let calls = dots.iter().filter(|(_, call)| *call).count() + usize::from(head_calls);
        let keeps = self.options.keep != KeepBreaks::None;
        let Some(first_call) = dots.iter().position(|(_, call)| *call) else {
            // What is got of a block may stand below it.
            dots.retain(|(gap, _)| keeps && self.token_text(gap.saturating_sub(1)) == "}");
            return dots.into_iter().for_each(|(gap, _)| self.plan.set(gap, GapPlan::author(false)));
        };
        let more = dots.len() > first_call + 1;
        let held = usize::from(more && self.head_holds_call(id, at, dots[first_call].0));
        // An author who begins lines further to the front, or with the only link, has it so.
        let begun = dots.iter().position(|(gap, _)| keeps && self.newlines(*gap) > 0);
        let from = begun.map_or(first_call + held, |begun| begun.min(first_call + held));
        let breakable: Vec<u32> = dots.split_off(from).into_iter().map(|(gap, _)| gap).collect();
        let (true, Some(first)) = (calls > 1 || begun.is_some(), breakable.first()) else { return };
        let author = begun.is_some();
        if first_hug == 0 && self.is_multiline(at) {
            first_hug = self.hugs[at.0 as usize];
        }
        let wrap = self.options.chain;
        let mut group = Group::over(self.first(id), self.end(id));
        // Where links follow what closes above them, a first part of several lines is reason enough to break.
        let follows = self.code.toolkit().indent.spec.links_follow_blocks;
        group.first = if follows { group.first } else { *first };
        group.always = match wrap {
            WrapChain::Always => calls > 2,
            WrapChain::Fit => author && self.options.keep != KeepBreaks::None,
            WrapChain::Never => false,
        };
        if wrap == WrapChain::Never {
            group.fit_end = group.open;
        } else {
            let hug = self.hugs[id.0 as usize];
            let broken = last_arguments.filter(|list| keeps && !author && self.is_broken_behind_bracket(*list));
            group.fit_end = match broken {
                Some(list) => self.first(list) + 1,
                // What opens a bracket in the midst of a chain need not break it.
                None if self.table.spec.chains_hold_blocks && first_hug > 0 && keeps && !author => first_hug,
                None if hug > *first => hug,
                None => group.close,
            };
        }
        let number = self.plan.group(group);
        let kept = author && wrap == WrapChain::Fit && self.table.spec.chains_hold_blocks;
        for gap in breakable {
            // Links stay beside each other where their author had them so.
            let plan = match kept {
                true if self.newlines(gap) > 0 => GapPlan::hard(number, 0, 0),
                true => GapPlan::filled(number, false),
                false => GapPlan::soft(number, false),
            };
            self.plan.set(gap, plan);
        }
    }

    /// Whether the author broke the line behind the bracket that a list begins with.
    pub(in crate::layout) fn is_broken_behind_bracket(&self, list: NodeId) -> bool {
        matches!(self.rule_of(list), Rule::List(_)) && self.newlines(self.first(list) + 1) > 0
    }

    /// Whether the first call stays beside what it is called on: a plain name, or something hardly wider than a level.
    fn head_holds_call(&self, chain: NodeId, head: NodeId, first_dot: u32) -> bool {
        let tokens = self.tree.tokens();
        let start = self.tree.node(chain).start;
        let end = (first_dot as usize).checked_sub(1).and_then(|last| tokens.get(last)).map_or(start, |t| t.end);
        let plain = self.tree.node(head).is_leaf() && self.role(head) != Role::String;
        if self.table.spec.names_hold_first_call {
            plain
        } else {
            end - start <= self.code.toolkit().indent.spec.habit
        }
    }
}
