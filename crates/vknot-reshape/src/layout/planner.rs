//! Walks the tree once and lets each node's rule give its gaps their policies.

use std::collections::{HashMap, HashSet};

use vknot_style::{Key, Style};
use vknot_style::choices::KeepBreaks;
use vknot_syntax::{NodeId, Role, Span, Tree};

use crate::frames::broken::lost_spans;

use crate::keeps::keeps;
use crate::spec::Code;
use super::damage;
use super::manner::Manner;
use super::meant::Meant;
use super::options::Options;
use super::plan::{GapPlan, Group, NO_GROUP, Plan};
use crate::spec::layout::{Hug, LayoutTable, Pad, Rule, Spacing};

/// What the author wrote in a gap.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Written {
    pub newlines: u32,
    /// Line breaks in this gap and all before it.
    pub total: u32,
    pub plain: bool,
    pub empty: bool,
    /// Whether the token behind the gap is a comment.
    pub comment: bool,
}

/// The state of the walk.
pub(super) struct Planner<'a> {
    pub code: Code<'a>,
    pub tree: &'a Tree,
    pub text: &'a str,
    pub table: &'static LayoutTable,
    pub style: &'a Style,
    pub options: Options,
    pub manner: Manner,
    pub plan: Plan,
    pub written: Vec<Written>,
    /// For each node the token up to which it must fit when it stays on the line, or 0.
    pub hugs: Vec<u32>,
    /// Groups that blocks of one expression break with, by the node that set them up.
    pub shared: HashMap<NodeId, u32>,
    /// Groups of blocks that may stay on their line, by the block.
    pub single: HashMap<NodeId, u32>,
    /// Nodes left alone because of errors in them.
    pub left_alone: Vec<NodeId>,
    /// Pieces whose lines cannot be told.
    lost: Vec<Span>,
    /// Nodes that are not nested as the tree says.
    untrusted: HashSet<NodeId>,
    children: Vec<NodeId>,
    /// The lines of a well-kept file as they were written.
    pub meant: Option<Meant>,
    /// What was told last of the line breaks of a node.
    pub asked: Option<(NodeId, bool)>,
    /// Whether what is declared between brackets, and what is handed over, is filled where its author broke lines.
    pub fills: [bool; 2],
}

impl<'a> Planner<'a> {
    /// Plans what the rules say of a whole file; the gaps beside comments are not settled yet. `meant` tells which line breaks are, if
    /// the file is well kept.
    pub fn planned(
        code: Code<'a>,
        table: &'static LayoutTable,
        style: &'a Style,
        options: Options,
        meant: Option<Meant>,
    ) -> Planner<'a> {
        let Code { source, tree, .. } = code;
        let text = source.text();
        let tokens = tree.tokens().len();
        // Rows of numbers are long without being squeezed.
        let words = tree.tokens().iter().filter(|token| token.span().of(text) != ",").count();
        let mut total = 0;
        let written = (0..=tokens as u32).map(|index| {
            let gap = tree.gap(text, index);
            total += gap.newlines;
            let comment = tree.is_comment(index);
            Written { newlines: gap.newlines, total, plain: gap.plain, empty: gap.span.is_empty(), comment }
        });
        let mut planner = Planner {
            code,
            tree,
            text,
            table,
            style,
            options,
            manner: Manner::of(words, source.lines().count() as usize),
            plan: Plan::new(tokens),
            written: written.collect(),
            hugs: vec![0; tree.nodes().len()],
            shared: HashMap::new(),
            single: HashMap::new(),
            left_alone: Vec::new(),
            lost: if tree.has_error() { lost_spans(code) } else { Vec::new() },
            untrusted: damage::untrusted(code),
            children: Vec::new(),
            meant,
            asked: None,
            fills: [false; 2],
        };
        planner.fills = planner.filled_lists();
        planner.options.rows = planner.keeps_statements_in_rows();
        planner.options.several |= planner.keeps_several();
        planner.find_hugs();
        planner.walk();
        planner.count_names();
        planner.count_wrapped();
        planner
    }
}

impl Planner<'_> {
    fn walk(&mut self) {
        let mut at = 0u32;
        while let Some(node) = self.tree.nodes().get(at as usize) {
            let id = NodeId(at);
            at += 1;
            if node.is_leaf() {
                continue;
            }
            if node.token_end - node.first_token < 2 {
                self.row_of_word(id);
                continue;
            }
            if node.has_error() && self.leave_alone(id) {
                at = node.next;
                continue;
            }
            let parent = self.tree.node(node.parent).kind;
            let rule = self.table.rule(parent, node.kind);
            if matches!(rule, Rule::Keep) {
                self.keep(id);
                at = node.next;
                continue;
            }
            let mut children = std::mem::take(&mut self.children);
            children.clear();
            children.extend(self.tree.children(id).filter(|child| !self.tree.node(*child).is_empty()));
            self.lay_out(id, rule, &children);
            self.children = children;
        }
    }

    fn lay_out(&mut self, id: NodeId, rule: &'static Rule, children: &[NodeId]) {
        match rule {
            Rule::Keep => {}
            Rule::Words(words) => self.words(id, words, children),
            Rule::Items(items) => self.items(items, children, NO_GROUP),
            Rule::Braces(braces) => self.braces(id, braces, children),
            Rule::List(list) => self.list(id, list, children),
            Rule::Commas => self.commas(id, children),
            Rule::CommasOnly => self.commas_only(children),
            Rule::Arm(arm) => self.arm(id, *arm, children),
            Rule::Lines(key) => self.lines(id, *key, children),
            Rule::Operators(operators) => self.operators(id, operators, children),
            Rule::Assign(operators) => self.assign(id, operators, children),
            Rule::Chain => self.chain(id, children),
            Rule::Clause => self.clause(id, children),
            Rule::Markup => self.markup(children),
            Rule::Tag => self.tag(id, children),
        }
    }

    /// Whether a node with an error inside is left as it is: an error itself, or anything but a sequence whose broken
    /// items are further in.
    fn leave_alone(&mut self, id: NodeId) -> bool {
        let tree = self.tree;
        let unreadable = |id: NodeId| tree.role(id) == Role::Error || tree.node(id).is_missing();
        let direct = unreadable(id) || tree.children(id).any(unreadable);
        let holds_items = tree.children(id).any(|child| {
            let role = tree.role(child);
            tree.node(child).has_error() && (role.is_item() || role.is_sequence() || role == Role::Lambda)
        });
        let sequence = tree.role(id).is_sequence();
        let untrusted = self.untrusted.contains(&id);
        if !untrusted && sequence && direct && !unreadable(id) && tree.node(id).first_token < tree.node(id).token_end {
            // The readable items of the sequence are still laid out; only what touches the error is kept.
            self.keep_around_errors(id);
            return false;
        }
        if !untrusted && !direct && (holds_items || sequence || tree.role(id).is_item()) {
            return false;
        }
        let node = *tree.node(id);
        for gap in node.first_token..node.token_end {
            let slot = &mut self.plan.gaps[gap as usize];
            *slot = GapPlan::verbatim();
        }
        self.left_alone.push(id);
        true
    }

    fn keep_around_errors(&mut self, id: NodeId) {
        for child in self.tree.children(id) {
            let node = *self.tree.node(child);
            if self.tree.role(child) == Role::Error || node.is_missing() {
                self.plan.set(node.first_token, GapPlan::verbatim());
                self.plan.set(node.token_end, GapPlan::verbatim());
                self.left_alone.push(child);
            }
        }
    }

    /// Keeps every gap inside a node.
    fn keep(&mut self, id: NodeId) {
        let node = self.tree.node(id);
        (node.first_token + 1..node.token_end).for_each(|gap| self.plan.set(gap, GapPlan::keep()));
    }

    /// What its author keeps stays to the byte.
    pub fn keep_parts(&mut self) {
        let kept = keeps(self.code);
        for part in &kept {
            let tokens = &part.tokens;
            self.plan.gaps[tokens.start as usize..tokens.end as usize].fill(GapPlan::verbatim());
            let inside = |gap: u32| tokens.contains(&gap);
            self.plan.added.retain(|braces| !inside(braces.open) && !inside(braces.close));
            self.plan.commas.retain(|comma| !inside(comma.gap));
            self.plan.cells.retain(|cell| !inside(cell.gap));
        }
        self.lost.extend(kept.iter().map(|part| part.span));
        self.lost.sort_by_key(|span| span.start);
    }

    /// From the leaves up: which nodes open a bracket late enough to stay on the line of what is before them.
    fn find_hugs(&mut self) {
        for at in (0..self.tree.nodes().len() as u32).rev() {
            let id = NodeId(at);
            let node = self.tree.node(id);
            let Some(Some(hug)) = self.table.hugs.get(node.kind.0 as usize) else { continue };
            self.hugs[at as usize] = match hug {
                Hug::Opens if node.token_end - node.first_token > 2 => node.first_token + 1,
                Hug::Opens => 0,
                Hug::Last => self.tree.parts(id).last().map_or(0, |last| self.hugs[last.0 as usize]),
                Hug::First => self.tree.parts(id).next().map_or(0, |first| self.hugs[first.0 as usize]),
                Hug::Either => match self.tree.parts(id).last().map_or(0, |last| self.hugs[last.0 as usize]) {
                    0 => self.tree.parts(id).next().map_or(0, |first| self.hugs[first.0 as usize]),
                    last => last,
                },
                Hug::Item => self.hug_of_items(id),
            };
        }
    }

    pub fn hug_of_items(&self, id: NodeId) -> u32 {
        let tree = self.tree;
        let (mut count, mut hugging, mut first, mut last) = (0, 0, 0, None);
        for item in tree.parts(id).filter(|part| !self.is_punctuation(*part)) {
            count += 1;
            let hug = self.hugs[item.0 as usize];
            hugging += u32::from(hug != 0);
            first = if first == 0 { hug } else { first };
            last = Some(item);
        }
        let Some(last) = last else { return 0 };
        let own = self.hugs[last.0 as usize];
        let parent = tree.node(tree.node(id).parent).kind;
        match self.table.rule(parent, tree.node(id).kind) {
            Rule::List(list) if list.hug_any && count > 0 && hugging > 0 && !self.breaks_between(id) => first,
            Rule::List(list) if list.hug_single && count == 1 && own == 0 => self.bracket_of_last(last, false),
            Rule::List(list) if list.hug_single && count == 1 || list.hug && hugging == 1 && own != 0 => {
                // What its author broke there need not be opened further in.
                match self.bracket_of_last(last, true) {
                    0 if list.hug && own != 0 => own,
                    kept => kept,
                }
            }
            _ => 0,
        }
    }

    /// Whether the author broke a line between the items of a list.
    pub fn breaks_between(&self, id: NodeId) -> bool {
        self.tree.parts(id).skip(1).any(|part| self.newlines(self.first(part)) > 0)
    }

    /// The token behind the opening bracket of the list a node ends with, if it may stay on the line, or if its `author` had it so.
    fn bracket_of_last(&self, id: NodeId, author: bool) -> u32 {
        let is_list = |id: NodeId| matches!(self.rule_of(id), Rule::List(_));
        let mut list = id;
        while !is_list(list) {
            // A mark may follow the bracket.
            let suffix = self.is_suffix(list);
            let mut parts = self.tree.parts(list);
            match if suffix {
                parts.next()
            } else {
                parts.last()
            } {
                Some(part) if suffix || is_list(part) => list = part,
                _ => return 0,
            }
        }
        // What comes before the bracket must be too plain to break itself, unless its author had it so.
        let before = self.first(id)..self.first(list);
        let plain = !author
            && before.len() <= 12
            && !before.clone().any(|token| matches!(self.token_text(token), "(" | "[" | "{"));
        let kept = self.options.keep != KeepBreaks::None
            && self.is_broken_behind_bracket(list)
            && before.clone().all(|token| self.newlines(token) == 0);
        let node = self.tree.node(list);
        if (plain || kept) && node.token_end - node.first_token > 2 { node.first_token + 1 } else { 0 }
    }

    // What rules ask about nodes.

    pub fn first(&self, id: NodeId) -> u32 {
        self.tree.node(id).first_token
    }

    pub fn end(&self, id: NodeId) -> u32 {
        self.tree.node(id).token_end
    }

    pub fn name(&self, id: NodeId) -> &str {
        self.tree.kind_name(id)
    }

    pub fn rule_of(&self, id: NodeId) -> &'static Rule {
        let node = self.tree.node(id);
        self.table.rule(self.tree.node(node.parent).kind, node.kind)
    }

    pub fn role(&self, id: NodeId) -> Role {
        self.tree.role(id)
    }

    pub fn is_comment(&self, id: NodeId) -> bool {
        self.role(id) == Role::Comment
    }

    /// Whether a node is a fixed token such as `,`.
    pub fn is_punctuation(&self, id: NodeId) -> bool {
        let node = self.tree.node(id);
        node.is_leaf() && !self.tree.language().is_named(node.kind)
    }

    pub fn is_separator(&self, id: NodeId) -> bool {
        let node = self.tree.node(id);
        node.token_end - node.first_token == 1 && matches!(self.token_text(node.first_token), "," | ";")
    }

    pub fn token_text(&self, token: u32) -> &str {
        self.tree.tokens().get(token as usize).map_or("", |token| token.span().of(self.text))
    }

    /// Whether what begins at an offset is in a piece whose lines cannot be told.
    pub fn is_lost(&self, offset: u32) -> bool {
        let behind = self.lost.partition_point(|span| span.start <= offset);
        behind.checked_sub(1).is_some_and(|at| offset < self.lost[at].end)
    }

    pub fn is_comment_token(&self, token: u32) -> bool {
        self.written.get(token as usize).is_some_and(|written| written.comment)
    }

    pub fn newlines(&self, gap: u32) -> u32 {
        self.written.get(gap as usize).map_or(0, |written| written.newlines)
    }

    /// Whether the author broke a line anywhere between a node's tokens.
    pub fn is_multiline(&self, id: NodeId) -> bool {
        self.has_break(self.first(id), self.end(id))
    }

    /// Whether the author broke a line anywhere in a group.
    pub fn is_broken(&self, group: &Group) -> bool {
        self.has_break(group.open, group.close)
    }

    /// The same from a token to the one in front of another.
    fn has_break(&self, first: u32, end: u32) -> bool {
        let total = |gap: u32| self.written.get(gap as usize).map_or(0, |written| written.total);
        total(end.saturating_sub(1)) > total(first)
    }

    /// The first gap from one on in which a line breaks.
    pub fn next_break(&self, gap: u32) -> u32 {
        let before = self.written.get(gap.saturating_sub(1) as usize).map_or(0, |written| written.total);
        self.written.partition_point(|written| written.total <= before) as u32
    }

    /// Gives the gap between two neighbouring parts the space the table says.
    pub fn space(&mut self, parent: NodeId, left: NodeId, right: NodeId) {
        let tree = self.tree;
        let gap = self.first(right);
        if self.newlines(gap) > 0 && self.is_as_written(parent) {
            return self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, 0));
        }
        let written = self.written.get(gap as usize).is_some_and(|written| !written.empty);
        let may_part = written || !tree.is_joined(self.text, gap);
        let spaced = match self.spacing(parent, left, right) {
            Spacing::Nothing => false,
            Spacing::Space => true,
            Spacing::Author => written,
            Spacing::Set(key) => self.set_space(key).unwrap_or(written),
            // Behind the sign of an operator that is declared.
            Spacing::By(Key::SpaceParameters) if self.ends_in_sign(left) => written,
            Spacing::By(key) if may_part => return self.spaced_by(gap, key, [false, true].map(GapPlan::fixed)),
            Spacing::By(_) => false,
        };
        self.plan.set(gap, GapPlan::fixed(spaced && may_part));
    }

    /// Whether a name ends in a sign, as those of operators do.
    fn ends_in_sign(&self, name: NodeId) -> bool {
        let text = self.token_text(self.end(name).saturating_sub(1));
        self.role(name) != Role::List && !text.ends_with(|c: char| c.is_alphanumeric() || matches!(c, '_' | '$'))
    }

    /// What the table says about the space between two neighbouring parts.
    pub fn spacing(&self, parent: NodeId, left: NodeId, right: NodeId) -> Spacing {
        let texts = (self.token_text(self.end(left).saturating_sub(1)), self.token_text(self.first(right)));
        if self.table.spec.nothing_between.contains(&texts) {
            return Spacing::Author;
        }
        let angle = |text: &str| matches!(text, "<" | ">");
        if (angle(texts.0) || angle(texts.1)) && self.holds_type_arguments(parent) {
            return Spacing::Author;
        }
        let part = |id: NodeId| (self.tree.node(id).kind, self.mark(id));
        self.table.spacing(self.tree.node(parent).kind, part(left), part(right))
    }

    /// The text of a mark that is known by it.
    fn mark(&self, id: NodeId) -> &str {
        let node = self.tree.node(id);
        if self.table.is_mark(node.kind) { self.token_text(node.first_token) } else { "" }
    }

    /// What tables call a part: its kind, or the text of a mark that is known by it.
    pub fn label(&self, id: NodeId) -> &str {
        match self.mark(id) {
            "" => self.name(id),
            mark => mark,
        }
    }

    /// Gives a gap one of two policies, by a setting about spaces.
    pub fn spaced_by(&mut self, gap: u32, key: Key, ways: [GapPlan; 2]) {
        let shows = (self.newlines(gap) == 0).then(|| !self.written[gap as usize].empty);
        self.set_by(gap, key, ways, shows);
    }

    /// Gives a gap inside brackets its policy: `plan` with or without a space.
    pub fn padded(&mut self, gap: u32, pad: Pad, plan: impl Fn(bool) -> GapPlan) {
        match pad {
            Pad::Nothing => self.plan.set(gap, plan(false)),
            Pad::By(key) => self.spaced_by(gap, key, [plan(false), plan(true)]),
        }
    }
}
