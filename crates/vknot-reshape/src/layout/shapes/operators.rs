//! Operators with their operands, and assignments.

use vknot_syntax::{NodeId, Role};

use vknot_style::Key;
use vknot_style::choices::{KeepBreaks, WrapOperand};
use crate::layout::plan::{Form, GapPlan, Group, NO_GROUP};
use crate::layout::planner::Planner;
use crate::spec::layout::{Operators, Rule, key_of_operator};

/// How many bytes a short word has at most.
const SHORT: usize = 16;

impl Planner<'_> {
    /// All operators of one precedence in one group, broken at the operators.
    ///
    /// Grammars nest `a + b + c` to the left; the outermost node plans for the whole run.
    pub(in crate::layout) fn operators(&mut self, id: NodeId, rule: &Operators, children: &[NodeId]) {
        let class = self.class_of(id);
        let continues = self.tree.parent(id).is_some_and(|parent| {
            self.tree.node(parent).kind == self.tree.node(id).kind
                && class.is_some()
                && self.class_of(parent) == class
                && self.left_of(parent) == Some(id)
        });
        if !continues && !self.holds_type_arguments(id) {
            self.operator_group(id, rule, class);
        }
        for pair in children.windows(2) {
            self.space(id, pair[0], pair[1]);
        }
    }

    fn operator_group(&mut self, id: NodeId, rule: &Operators, class: Option<u8>) {
        let kind = self.tree.node(id).kind;
        let mut gaps = Vec::new();
        let mut parts = Vec::new();
        let mut author = false;
        let (mut at, mut innermost) = (Some(id), id);
        while let Some(node) = at {
            let Some(operator) = self.operator_of(node) else { break };
            let gap = self.first(operator);
            author |= self.newlines(gap) > 0 || self.newlines(gap + 1) > 0;
            gaps.push(gap);
            parts.push((node, operator));
            innermost = node;
            let left = self.left_of(node);
            at = left.filter(|left| {
                self.tree.node(*left).kind == kind && class.is_some() && self.class_of(*left) == class
            });
        }
        let Some(first) = gaps.last() else { return };
        // A break on either side of an operator is the author's wish to have the run broken.
        let kept = author && self.options.keep != KeepBreaks::None;
        if !kept && self.options.keep != KeepBreaks::None && self.is_multiline(id) && self.are_between_braces(&gaps) {
            for gap in gaps.iter().flat_map(|gap| [*gap, gap + 1]) {
                self.plan.set(gap, GapPlan::fixed(true));
            }
            return self.space_operators(&parts);
        }
        let mut group = Group::over(self.first(id), self.end(id));
        group.first = *first;
        let streams = gaps.len() > 1 && self.table.spec.streams.contains(&self.token_text(*first));
        group.always = kept;
        let filled = match self.options.operands {
            WrapOperand::Each => false,
            WrapOperand::Fill => true,
            WrapOperand::AsFound => kept || streams,
        };
        if !kept && let Some(hug) = self.hug_of_operand(id).or_else(|| self.end_behind_short(id, &gaps)) {
            group.fit_end = hug;
        }
        // What follows a list of several lines goes on behind its bracket.
        let behind = first.saturating_sub(1);
        let closes = matches!(self.token_text(behind), ")" | "]" | "}");
        if gaps.len() == 1 && !kept && closes && self.newlines(behind) > 0 {
            group.open = behind;
        }
        let leading = rule.leads.then(|| self.leading_operator(innermost)).flatten();
        if let Some(gap) = leading {
            (group.open, group.first) = (gap.saturating_sub(1), gap);
            group.always |= kept && self.newlines(gap) > 0;
        }
        if self.are_operators_as_written(id, &gaps) || kept && self.are_patterns_in_rows(id, &gaps) {
            return self.operators_as_written(group, gaps);
        }
        let number = self.plan.group(group);
        if let Some(gap) = leading {
            self.plan.gaps[gap as usize] = GapPlan::soft(number, true);
        }
        let fixed = GapPlan::fixed(true);
        // How a stream breaks says nothing of other operators.
        let streams = streams && self.style.word(Key::WrapOperator) == "as-found";
        let side = self.side(Key::WrapOperator, gaps.iter().copied()).filter(|_| kept).or(streams.then_some(false));
        if gaps.len() == 1 && !kept && closes && self.ends_in_mark(*first, self.end(id)) {
            self.set_by(*first, Key::WrapOperator, [GapPlan::soft(number, true), fixed], None);
            self.plan.set(*first + 1, fixed);
            return self.space_operators(&parts);
        }
        for gap in gaps {
            let [before, behind] = [gap, gap + 1].map(|gap| self.newlines(gap) > 0);
            let soft = match filled {
                true if kept && (before || behind) => GapPlan::hard(number, 0, 0),
                true => GapPlan::filled(number, true),
                false => GapPlan::soft(number, true),
            };
            if rule.leads {
                self.plan.set(gap, soft);
                continue;
            }
            // Which side of an operator breaks is a setting.
            let shows = (before != behind && !streams).then_some(behind);
            self.set_side(gap, (Key::WrapOperator, side), [soft, fixed], shows);
        }
        self.space_operators(&parts);
    }

    /// Whether patterns stand in rows, several on a line.
    fn are_patterns_in_rows(&self, id: NodeId, gaps: &[u32]) -> bool {
        let broken = |gap: &&u32| self.newlines(**gap) > 0 || self.newlines(**gap + 1) > 0;
        let open = self.keeps_meant() && self.style.is_open(Key::WrapOperand);
        open && self.role(id) != Role::Operator && gaps.iter().filter(broken).count() < gaps.len()
    }

    /// Whether all that is compared behind an operator is a short word or number, which on a line of its own would say nothing.
    fn ends_in_mark(&self, operator: u32, end: u32) -> bool {
        let compares = key_of_operator(self.token_text(operator)) == Key::SpaceComparison;
        compares && operator + 2 == end && self.token_text(operator + 1).len() <= SHORT
    }

    /// Whether each operator stands behind a closing brace or in front of an opening one, which take their lines by themselves.
    fn are_between_braces(&self, gaps: &[u32]) -> bool {
        gaps.iter().all(|gap| self.token_text(gap.saturating_sub(1)) == "}" || self.token_text(gap + 1) == "{")
    }

    /// The spaces round operators, as the table has them.
    fn space_operators(&mut self, parts: &[(NodeId, NodeId)]) {
        for (node, operator) in parts {
            let parts: Vec<NodeId> =
                self.tree.children(*node).filter(|child| !self.tree.node(*child).is_empty()).collect();
            for pair in parts.windows(2).filter(|pair| pair.contains(operator)) {
                self.spaced_as_table(*node, pair[0], pair[1]);
            }
        }
    }

    /// Operators whose lines break where their author broke them, or where they do not fit.
    fn operators_as_written(&mut self, group: Group, gaps: Vec<u32>) {
        let number = self.plan.group(Group { always: true, ..group });
        for gap in gaps.into_iter().flat_map(|gap| [gap, gap + 1]) {
            if self.newlines(gap) > 0 {
                self.plan.set(gap, GapPlan::hard(number, 0, 0));
            }
        }
    }

    /// The token behind the bracket that a last operand of several lines opens, if it may stay on the line.
    pub(in crate::layout) fn hug_of_operand(&self, id: NodeId) -> Option<u32> {
        let last = self.tree.parts(id).last().filter(|last| self.is_multiline(*last))?;
        let hug = self.hugs[last.0 as usize];
        (hug > 0 && self.table.spec.chains_hold_blocks).then_some(hug)
    }

    /// Where the line ends that begins with an operand no longer than a level, for which the other need not begin a line of its own.
    fn end_behind_short(&self, id: NodeId, gaps: &[u32]) -> Option<u32> {
        let [gap] = gaps else { return None };
        let left = self.tree.node(self.left_of(id)?);
        let short = left.end - left.start <= self.options.level && self.options.keep != KeepBreaks::None;
        self.first_break(*gap, self.end(id)).filter(|_| short)
    }

    /// The gap in front of an operator that stands before the first operand, where the value may begin a line.
    fn leading_operator(&self, id: NodeId) -> Option<u32> {
        let mut at = id;
        loop {
            let first = self.tree.parts(at).next()?;
            if self.is_punctuation(first) {
                break;
            }
            at = Some(first).filter(|first| self.tree.node(*first).kind == self.tree.node(id).kind)?;
        }
        let gap = self.first(id);
        let slot = self.plan.gaps.get(gap as usize)?;
        let lazy = self.plan.groups.get(slot.group as usize).is_some_and(|group| group.lazy);
        (slot.form == Form::Fixed || slot.form == Form::Soft && lazy).then_some(gap)
    }

    /// Whether what was read as comparisons, one of what the other says, must be a name with arguments: `(Gauge)new List < Level > (low)`.
    pub(in crate::layout) fn holds_type_arguments(&self, id: NodeId) -> bool {
        let mark = |id: NodeId| {
            let operator = Some(id).filter(|_| self.role(id) == Role::Operator).and_then(|id| self.operator_of(id));
            operator.map_or("", |operator| self.token_text(self.first(operator)))
        };
        let ends = |id: NodeId| mark(id) == ">" && self.left_of(id).is_some_and(|left| mark(left) == "<");
        let begins = || self.tree.parent(id).is_some_and(|outer| ends(outer) && self.left_of(outer) == Some(id));
        ends(id) || mark(id) == "<" && begins()
    }

    fn class_of(&self, id: NodeId) -> Option<u8> {
        let operator = self.operator_of(id)?;
        self.table.precedence(self.tree.node(operator).kind, self.token_text(self.first(operator)))
    }

    /// The operator: the part in that field, else the first fixed token behind the first part.
    pub(in crate::layout) fn operator_of(&self, id: NodeId) -> Option<NodeId> {
        let field = self.tree.child_named(id, "operator");
        field.or_else(|| self.tree.parts(id).skip(1).find(|part| self.is_punctuation(*part)))
    }

    fn left_of(&self, id: NodeId) -> Option<NodeId> {
        self.tree.child_named(id, "left").or_else(|| self.tree.parts(id).next())
    }

    /// A value that goes to the next line when its beginning does not fit behind the operator.
    pub(in crate::layout) fn assign(&mut self, id: NodeId, operators: &[&str], children: &[NodeId]) {
        let is_operator = |planner: &Self, child: &NodeId| {
            let node = planner.tree.node(*child);
            node.token_end - node.first_token == 1
                && operators.iter().any(|operator| planner.token_text(node.first_token) == *operator)
        };
        let at = children.iter().position(|child| is_operator(self, child));
        // A grammar may take the operator of `..=high` for two: nothing is assigned to a mark.
        let pair = at.and_then(|at| Some((*children.get(at.checked_sub(1)?)?, *children.get(at)?)));
        let touches = |mark: NodeId, operator: NodeId| self.tree.node(mark).end == self.tree.node(operator).start;
        if pair.is_some_and(|(before, operator)| self.is_lone_mark(before) && touches(before, operator)) {
            children.windows(2).for_each(|pair| self.plan.set(self.first(pair[1]), GapPlan::author(false)));
            return;
        }
        if let Some(at) = at
            && let (Some(operator), Some(value)) = (children.get(at), children.get(at + 1))
            && !self.is_comment(*value)
        {
            let gap = self.first(*value);
            if self.role(*value) == Role::Block && !self.style.language().covers(Key::BraceLambda) {
                self.brace_behind_wrap(id, *value);
            } else if self.role(*value) == Role::Block {
                self.brace_by(Key::BraceLambda, id, *value);
            } else if self.role(*value) == Role::Assignment && self.newlines(gap) > 0 && self.keeps_meant() {
                // Each of several that get one value may have a line.
                self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, 0));
            } else if self.newlines(gap) > 0 && self.is_list_led_by_separators(*value) {
                self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, 0));
            } else if self.stays_behind_operator(*value) {
                self.plan.set(gap, GapPlan::fixed(true));
                self.spaced_as_table(id, *operator, *value);
            } else {
                let mut group = Group::over(self.first(*operator), self.end(*value));
                group.first = gap;
                group.lazy = true;
                group.fit_end = gap + 1;
                // Where something follows that is done otherwise, the break shows that better.
                let otherwise = self.tree.child_named(id, "alternative").is_some() && self.keeps_meant();
                group.keep = otherwise || self.is_as_written(id);
                let number = self.plan.group(group);
                self.plan.set(gap, GapPlan::soft(number, true));
                self.spaced_as_table(id, *operator, *value);
            }
        }
        // What is done where the value is another one begins a line behind a value of several, or where its author had it so.
        if let Some(other) = self.tree.child_named(id, "alternative") {
            let gap = self.first(other).saturating_sub(1);
            let kept = self.newlines(gap) > 0 && self.options.keep != KeepBreaks::None;
            self.plan.set(gap, if kept { GapPlan::hard(NO_GROUP, 0, 0) } else { GapPlan::after_wrap_or_full() });
        }
        // In front of a clause, and of the value in front of one, lines break where their author broke them.
        let clause = children.iter().position(|child| matches!(self.rule_of(*child), Rule::Clause));
        for (index, pair) in children.windows(2).enumerate() {
            if clause.is_some_and(|clause| clause == index + 1 || at == Some(index + 1)) {
                self.plan.set(self.first(pair[1]), GapPlan::author(true));
            }
            match self.role(pair[0]) {
                Role::Annotation => self.plan.set(self.first(pair[1]), GapPlan::author(true)),
                _ => self.space(id, pair[0], pair[1]),
            }
        }
    }

    /// Whether a node is a single token that is no word.
    fn is_lone_mark(&self, id: NodeId) -> bool {
        let node = self.tree.node(id);
        let mark = |c: char| c.is_ascii_punctuation() && !matches!(c, '_' | '$' | '"' | '\'' | '`');
        node.token_end - node.first_token == 1 && self.token_text(node.first_token).chars().all(mark)
    }

    /// Whether a function gives another one that stands on a line of its own, right below.
    fn gives_flush(&self, function: NodeId) -> bool {
        let source = self.code.source;
        let column = |id: NodeId| source.line_blank(self.tree.node(id).start).len();
        let given = self.tree.children(function).last().filter(|given| self.role(*given) == Role::Lambda);
        given.is_some_and(|given| self.newlines(self.first(given)) > 0 && column(given) == column(function))
    }

    /// Whether a value begins on the line of its operator whatever fits. A conditional may go where its author had it, and a collection
    /// that is one line.
    fn stays_behind_operator(&mut self, value: NodeId) -> bool {
        let moved = self.options.keep != KeepBreaks::None && self.newlines(self.first(value)) > 0;
        match self.role(value) {
            Role::Block => true,
            Role::Lambda =>
                !moved || self.is_multiline(value) && !self.gives_flush(value) && !self.is_as_written(value),
            Role::Collection => !moved || self.is_multiline(value),
            Role::Branch => !moved,
            _ => false,
        }
    }
}
