//! Items one below the other: files, bodies, blocks, clauses.

use vknot_syntax::{NodeId, Role};

use vknot_style::Key;
use vknot_style::choices::KeepBreaks;
use crate::layout::manner::ENOUGH;
use crate::layout::plan::{GapPlan, Group, NO_GROUP};
use crate::layout::planner::Planner;
use crate::spec::layout::{Braces, Items, Rule};

impl Planner<'_> {
    /// Items on lines of their own; separators stay with what they follow.
    pub(in crate::layout) fn items(&mut self, rule: &Items, children: &[NodeId], group: u32) {
        let mut before: Option<NodeId> = None;
        let in_rows = self.in_rows(children);
        let mut row = NO_GROUP;
        for (index, child) in children.iter().enumerate() {
            let gap = self.first(*child);
            if index == 0 {
                before = self.item_of(*child);
                continue;
            }
            if self.table.spec.follows.contains(&self.token_text(gap)) && self.token_text(gap - 1) == "}" {
                let shows = self.newlines(gap) > 0;
                self.set_by(gap, Key::BraceFollow, [GapPlan::fixed(true), GapPlan::hard(group, 0, 0)], Some(shows));
                before = Some(*child);
                continue;
            }
            let in_row = in_rows.get(index) == Some(&true);
            if in_row && in_rows.get(index - 1) != Some(&true) {
                let rest =
                    children.get(index..).unwrap_or_default().iter().zip(in_rows.get(index..).unwrap_or_default());
                let end = rest.take_while(|(_, in_row)| **in_row).last().map_or(gap, |(last, _)| self.end(*last));
                row = self.plan.group(Group::over(self.first(children[index - 1]), end));
            }
            let opens_with_separator = matches!(self.token_text(gap), ";" | ",");
            let plan = match opens_with_separator {
                // Behind a label it is all that is done.
                true => GapPlan::fixed(self.token_text(gap - 1) == ":" && !self.written[gap as usize].empty),
                // A separator that begins a line belongs to what follows on it.
                false if self.leads_line(gap) => GapPlan::fixed(false),
                false if in_row && !self.is_comment(*child) => GapPlan::soft(row, true),
                false => self.item_gap(rule, before, *child, &children[index..], group),
            };
            self.plan.set(gap, plan);
            let trails = self.is_comment(*child) && self.newlines(gap) == 0;
            if !(self.is_separator(*child) || trails) {
                before = Some(*child);
            }
        }
    }

    /// Whether a gap is behind a separator that begins a line, with nothing between.
    fn leads_line(&self, gap: u32) -> bool {
        let begins = gap < 2 || self.newlines(gap - 1) > 0;
        begins && self.token_text(gap - 1) == ";" && self.written.get(gap as usize).is_some_and(|written| written.empty)
    }

    fn item_of(&self, child: NodeId) -> Option<NodeId> {
        (!self.is_separator(child)).then_some(child)
    }

    /// The gap in front of an item, a comment or an annotation among items.
    fn item_gap(
        &self,
        rule: &Items,
        before: Option<NodeId>,
        child: NodeId,
        rest: &[NodeId],
        group: u32,
    ) -> GapPlan {
        let most = self.options.blank_most;
        // What follows the separator that opens a sequence is parted from what was before it.
        let Some(before) = before else { return GapPlan::hard(group, 1.min(most), most) };
        match self.role(before) {
            Role::Annotation if !self.is_comment(child) => {
                let apart = matches!(self.role(child), Role::Type | Role::Callable | Role::Annotation);
                let inner = self.tree.text_of(self.text, before).starts_with("#!");
                return match apart || inner {
                    true => GapPlan::hard(group, 0, if inner { most } else { 0 }),
                    false => GapPlan { group, ..GapPlan::author(true) },
                };
            }
            Role::Annotation | Role::Comment => return GapPlan::hard(group, 0, most),
            Role::Arm if self.role(child) == Role::Arm && self.shares_label_line(self.first(child)) => {
                return GapPlan { group, ..GapPlan::author(true) };
            }
            _ => {}
        }
        if self.closes_what_is_above(rest) {
            return GapPlan::hard(group, 0, most);
        }
        if self.newlines(self.first(child)) == 0 && self.ends_with_word(before, child) {
            return GapPlan::fixed(true);
        }
        // What stands in front of an item belongs to it, so the blank line goes before that.
        let trimming = |id: &&NodeId| matches!(self.role(**id), Role::Comment | Role::Annotation);
        let item = rest.iter().find(|id| !trimming(id)).copied().unwrap_or(child);
        let apart = self.wants_room(rule, before) || self.wants_room(rule, item);
        let imports = rule.imports_apart && self.imports_meet(before, item);
        let mut least = u8::from(imports).max(if apart { self.options.blank_item } else { 0 });
        if self.is_member(before) && self.is_member(item) {
            if self.role(before) != self.role(item) {
                least = least.max(self.options.blank_kind);
            } else if let Some(lines) =
                self.options.blank_member.filter(|_| item == child && !self.has_body(before) && !self.has_body(item))
            {
                return GapPlan::hard(group, lines.min(most), lines.min(most));
            }
        }
        let most = if self.are_imports(before, item) { most.max(self.options.blank_import) } else { most };
        GapPlan::hard(group, least.min(most), most)
    }

    fn are_imports(&self, before: NodeId, item: NodeId) -> bool {
        [before, item].into_iter().all(|id| self.role(id) == Role::Import)
    }

    /// Whether items begin with comments that touch what is above them and nothing below.
    fn closes_what_is_above(&self, items: &[NodeId]) -> bool {
        let gap = |item: &NodeId| self.newlines(self.first(*item));
        let ends = items.iter().enumerate().skip(1).find(|(_, item)| gap(item) != 1 || !self.is_comment(**item));
        let touches = |first: &NodeId| self.is_comment(*first) && gap(first) == 1;
        items.first().is_some_and(touches) && ends.is_none_or(|(_, item)| gap(item) > 1)
    }

    /// Whether a word alone ends what a block is of, behind its brace: the `break` of a `case`, or what a macro closes with.
    fn ends_with_word(&self, before: NodeId, item: NodeId) -> bool {
        let word = self.role(item) == Role::Statement && self.end(item) - self.first(item) <= 2;
        let block = matches!(self.role(before), Role::Block | Role::Branch) && self.has_body(before);
        word && block && self.is_multiline(before) && self.options.keep != KeepBreaks::None
    }

    /// Whether an item is a member of a type.
    fn is_member(&self, item: NodeId) -> bool {
        let holder = self.tree.parent(item).map(|holder| self.role(holder));
        holder == Some(Role::Body) && matches!(self.role(item), Role::Member | Role::Callable | Role::Type)
    }

    pub(super) fn has_body(&self, item: NodeId) -> bool {
        self.token_text(self.end(item).saturating_sub(1)) == "}"
    }

    /// Whether the item is of a kind that may have blank lines around it, and has a body that takes lines.
    fn wants_room(&self, rule: &Items, item: NodeId) -> bool {
        let lines = || self.is_multiline(item) || !self.keeps_single();
        rule.apart.contains(&self.name(item)) && self.has_body(item) && lines()
    }

    /// Whether blocks with a single statement may stay on their lines.
    fn keeps_single(&self) -> bool {
        let meant = || self.table.spec.blocks_are_meant && self.style.is_open(Key::BreakBlock) && self.keeps_meant();
        self.options.single || meant()
    }

    fn imports_meet(&self, before: NodeId, item: NodeId) -> bool {
        let front = |role| matches!(role, Role::Import | Role::Package);
        let (a, b) = (self.role(before), self.role(item));
        a != b && (front(a) || front(b)) && !(self.is_comment(before) || self.is_comment(item))
    }

    /// Items between braces, indented one level; `{}` when there are none.
    pub(in crate::layout) fn braces(&mut self, id: NodeId, rule: &Braces, children: &[NodeId]) {
        let Some((open, close)) = self.brackets(children) else {
            return children.windows(2).for_each(|pair| self.space(id, pair[0], pair[1]));
        };
        let inner = &children[open + 1..close];
        let close_gap = self.first(children[close]);
        for pair in children[..=open].windows(2) {
            self.space(id, pair[0], pair[1]);
        }
        let Some(first) = inner.first() else { return self.empty_block(id, self.first(children[open]), close_gap) };
        if self.is_hollow(id) {
            for gap in self.first(*first)..=close_gap {
                self.plan.set(gap, GapPlan::fixed(!self.written[gap as usize].empty));
            }
            return;
        }
        if let Some(group) = self.inline_group(id, rule, children, inner) {
            self.plan.set(self.first(*first), GapPlan::soft(group, true));
            self.plan.set(close_gap, GapPlan::soft(group, true));
            for pair in inner.windows(2) {
                self.space(id, pair[0], pair[1]);
            }
            return;
        }
        if let Some(group) = self.single_group(id) {
            self.plan.set(self.first(*first), GapPlan::soft(group, true));
            self.plan.set(close_gap, GapPlan::soft(group, true));
            for item in self.block_items(id).iter().skip(1) {
                self.plan.set(self.first(*item), GapPlan::soft(group, true));
            }
            for pair in inner.windows(2) {
                self.space(id, pair[0], pair[1]);
            }
            return;
        }
        let most = if self.options.edges { self.options.blank_most } else { 0 };
        let mut group = Group::over(self.first(children[open]), self.end(children[close]));
        group.always = true;
        let number = self.plan.group(group);
        let leading = if rule.leading_blank { self.options.blank_most } else { most };
        self.plan.set(self.first(*first), GapPlan::hard(number, 0, leading));
        self.plan.set(close_gap, GapPlan::hard(number, 0, most));
        if rule.rows {
            self.rows(inner, number);
        }
        let last = inner.iter().rev().find(|item| !self.is_comment(**item));
        if rule.comma && last.is_none_or(|last| self.token_text(self.end(*last) - 1) != "}") {
            self.comma_behind(inner, number);
        }
        self.items(&Items { apart: rule.apart, imports_apart: false }, inner, number);
    }

    /// Whether braces hold nothing, or comments alone, or a semicolon, that are on their line.
    pub(in crate::layout) fn is_hollow(&self, id: NodeId) -> bool {
        let (open, close) = (self.first(id), self.end(id).saturating_sub(1));
        let comment = |token| self.is_comment_token(token) && !self.token_text(token).contains('\n')
            || self.token_text(token) == ";" && close == open + 2;
        close == open + 1
            || close > open && (open + 1..close).all(comment) && (open + 1..=close).all(|gap| self.newlines(gap) == 0)
    }

    /// The gap between braces that hold nothing. Where the first begins a line, the second may, too.
    fn empty_block(&mut self, id: NodeId, open: u32, close: u32) {
        let (begins, next) = (self.newlines(open) > 0, self.newlines(close) > 0);
        let set = self.style.word(Key::BraceEmpty) != "as-found";
        let told = !begins
            && self.is_body(id)
            && self.style.language().covers(Key::BraceEmpty)
            && (set || !self.is_body_of_line(id));
        let is_open = !told || !set;
        let apart = begins && next && self.options.keep != KeepBreaks::None;
        let kept = apart || self.keeps_meant() && next || self.options.keep == KeepBreaks::All;
        if kept && is_open {
            let plan = if apart { GapPlan::hard(NO_GROUP, 0, 0) } else { self.empty(close) };
            self.plan.set(close, plan);
            return self.show(close, Key::BraceEmpty, told.then_some(next));
        }
        self.spaced_by(close, Key::SpaceEmpty, [false, true].map(GapPlan::fixed));
        if told {
            self.or_by(close, Key::BraceEmpty, [GapPlan::fixed(false), GapPlan::hard(NO_GROUP, 0, 0)], Some(next));
        }
    }

    /// Whether a node is the body of a type or of a callable with a name.
    fn is_body(&self, id: NodeId) -> bool {
        let holder = self.tree.parent(id).filter(|holder| matches!(self.role(*holder), Role::Type | Role::Callable));
        holder.is_some_and(|holder| self.tree.name_span(holder).is_some())
    }

    /// Whether a body without anything in it ends one line with a clause that has a line of its own elsewhere.
    fn is_body_of_line(&self, id: NodeId) -> bool {
        let holder = self.tree.parent(id).filter(|holder| self.follows_own_line(*holder, id));
        holder.is_some_and(|holder| self.is_bodiless_line(holder))
    }

    /// The gap between brackets that hold nothing.
    pub(in crate::layout) fn empty(&self, gap: u32) -> GapPlan {
        match self.keeps_meant() && self.newlines(gap) > 0 {
            true => GapPlan::hard(NO_GROUP, 0, 0),
            false => GapPlan::fixed(false),
        }
    }

    /// The positions of the first and last bracket among a node's parts.
    pub(in crate::layout) fn brackets(&self, children: &[NodeId]) -> Option<(usize, usize)> {
        let is = |id: &NodeId, set: &[&str]| self.is_punctuation(*id) && set.contains(&self.name(*id));
        let close = children.iter().rposition(|id| is(id, &["}", ")", "]", ">", "|"]))?;
        let shape = match self.name(children[close]) {
            "}" => "{",
            ")" => "(",
            "]" => "[",
            ">" => "<",
            other => other,
        };
        let open = children.iter().position(|id| is(id, &[shape]))?;
        (open < close).then_some((open, close))
    }

    pub(in crate::layout) fn keep_unruled(&mut self, children: &[NodeId]) {
        children.iter().skip(1).for_each(|child| self.plan.set(self.first(*child), GapPlan::keep()));
    }

    /// The group of a block that may stay on its line: one expression, where the author wrote it so.
    fn inline_group(&mut self, id: NodeId, rule: &Braces, children: &[NodeId], inner: &[NodeId]) -> Option<u32> {
        if self.newlines(self.first(inner[0])) > 0 {
            return None;
        }
        let parent = self.tree.parent(id)?;
        if rule.rows {
            let with_header = self.single.get(&id).copied();
            let stays = with_header.is_some() || self.is_row(id, inner);
            return stays.then(|| with_header.unwrap_or_else(|| self.plain_group(children)));
        }
        if !rule.inline_in.contains(&self.name(parent)) {
            return None;
        }
        let [only] = inner else { return None };
        let handed = self.role(parent) == Role::List && self.role(*only) == Role::Macro;
        if matches!(self.role(*only), Role::Statement | Role::Comment | Role::Macro | Role::Branch)
            && !self.table.spec.values.contains(&self.name(*only))
            && !handed
            && !self.does_nothing_inside(*only)
        {
            return None;
        }
        let above = self.tree.parent(parent).filter(|_| self.table.spec.else_kinds.contains(&self.name(parent)));
        let shared = self.shared.get(&parent).or_else(|| self.shared.get(&above?)).copied();
        if shared.is_none() && (self.role(parent) == Role::Branch || above.is_some()) {
            return None;
        }
        let own = self.plain_group(children);
        let Some(shared) = shared else { return Some(own) };
        // The branches break together; this block's own group only indents.
        self.plan.groups[own as usize].always = true;
        Some(shared)
    }

    /// Whether the only braces of a statement are its last two tokens, as of a loop that does all in its head.
    fn does_nothing_inside(&self, id: NodeId) -> bool {
        let (first, end) = (self.first(id), self.end(id));
        end >= first + 2
            && self.token_text(end - 1) == "}"
            && (first..end - 1).find(|token| self.token_text(*token) == "{") == Some(end - 2)
            && !self.is_multiline(id)
    }

    /// Whether its author has all of some short items on one line.
    fn is_row(&self, block: NodeId, inner: &[NodeId]) -> bool {
        let simple = |item: &NodeId| self.is_separator(*item) || self.is_simple_item(*item);
        !inner.is_empty() && inner.iter().all(simple) && !self.is_multiline(block)
    }

    /// The group of a block that may stay on the line of its header, or on one of its own, because it holds a single simple item, or a row of
    /// short ones, and its author had it so.
    pub(in crate::layout) fn single_group(&mut self, block: NodeId) -> Option<u32> {
        if let Some(group) = self.single.get(&block) {
            return Some(*group);
        }
        let Rule::Braces(rule) = self.rule_of(block) else { return None };
        let tree = self.tree;
        let first = self.first(block);
        let handed = self.is_handed_over(block);
        if self.is_multiline(block) || self.newlines(first) > 0 && !(self.ends_line(block) || handed) {
            return None;
        }
        if rule.rows {
            let children: Vec<NodeId> = tree.children(block).collect();
            let (open, close) = self.brackets(&children)?;
            let row = self.is_row(block, children.get(open + 1..close).unwrap_or_default());
            if row {
                return Some(self.group_with_header(block));
            }
        }
        if !rule.single || !self.keeps_single() {
            return None;
        }
        let several = rule.several || self.options.several || handed;
        let few = self.short_items(block).filter(|count| *count == 1 || several);
        few.map(|_| self.group_with_header(block))
    }

    /// Whether a block stands in brackets, as what a macro is given does.
    fn is_handed_over(&self, block: NodeId) -> bool {
        let mut holders = self.tree.ancestors(block).take(2);
        self.keeps_meant() && holders.any(|id| matches!(self.role(id), Role::Arguments | Role::Parenthesized))
    }

    /// How many items a block holds, if all of them are short ones.
    fn short_items(&self, block: NodeId) -> Option<usize> {
        let short = |item: &NodeId| match self.role(*item) {
            Role::Branch | Role::Type | Role::Rule | Role::Comment => false,
            Role::Callable => self.token_text(self.end(*item) - 1) != "}",
            _ => true,
        };
        let items = self.block_items(block);
        let noted = self.tree.children(block).any(|child| self.is_comment(child));
        (!items.is_empty() && items.iter().all(short) && !noted).then_some(items.len())
    }

    /// Whether nothing is set, and a well-kept file has blocks of one line with several short items.
    pub(in crate::layout) fn keeps_several(&self) -> bool {
        let open = self.options.single && self.style.is_open(Key::BreakBlock) && self.keeps_meant();
        let nodes = if open { self.tree.nodes().len() as u32 } else { 0 };
        let holds_several = |id: &NodeId| {
            let block = matches!(self.rule_of(*id), Rule::Braces(Braces { single: true, several: false, .. }));
            block && !self.is_multiline(*id) && self.short_items(*id).is_some_and(|count| count > 1)
        };
        let several = (0..nodes).map(NodeId).filter(holds_several).take(ENOUGH as usize).count();
        self.manner.agreed([0, several as u32], ENOUGH) == Some(true)
    }

    /// Whether a node ends its line.
    fn ends_line(&self, id: NodeId) -> bool {
        let end = self.end(id);
        self.newlines(end) > 0 || end as usize == self.tree.tokens().len()
    }

    fn group_with_header(&mut self, block: NodeId) -> u32 {
        let first = self.first(block);
        // What has a line of its own is measured there.
        let number = match self.newlines(first) > 0 {
            true => self.plan.group(Group::over(first, self.end(block))),
            false => self.plan.group(Group { first, ..Group::over(first.saturating_sub(1), self.end(block)) }),
        };
        self.single.insert(block, number);
        number
    }

    /// What is between the braces of a block, also where one node holds all of it.
    fn block_items(&self, block: NodeId) -> Vec<NodeId> {
        let items = |id| self.tree.parts(id).filter(|part| !self.is_punctuation(*part)).collect::<Vec<NodeId>>();
        match items(block).as_slice() {
            [list] if matches!(self.rule_of(*list), Rule::Items(_)) => items(*list),
            all => all.to_vec(),
        }
    }

    fn plain_group(&mut self, children: &[NodeId]) -> u32 {
        let (Some(first), Some(last)) = (children.first(), children.last()) else { return NO_GROUP };
        self.plan.group(Group::over(self.first(*first), self.end(*last)))
    }

    fn is_simple_item(&self, item: NodeId) -> bool {
        !self.is_comment(item) && self.role(item) == Role::Member && self.token_text(self.end(item) - 1) != "}"
    }

    /// Simple items in one row where the author had them so.
    fn rows(&mut self, inner: &[NodeId], group: u32) {
        let begins = |item: &NodeId| self.is_separator(*item) && self.newlines(self.first(*item)) > 0;
        if self.options.keep != KeepBreaks::None && inner.iter().skip(1).filter(|item| begins(item)).count() > 1 {
            return self.rows_led_by_separators(inner, group);
        }
        for (index, item) in inner.iter().enumerate().skip(1) {
            let gap = self.first(*item);
            let behind_comma = self.is_separator(inner[index - 1]);
            if behind_comma && self.newlines(gap) == 0 && self.is_simple_item(*item) {
                self.plan.set(gap, GapPlan::filled(group, true));
            }
        }
    }

    /// Lines that begin with what parts them from those above.
    fn rows_led_by_separators(&mut self, inner: &[NodeId], group: u32) {
        for pair in inner.windows(2) {
            let gap = self.first(pair[1]);
            let parts = self.is_separator(pair[1]) || self.token_text(gap) == ";";
            let plan = match (parts, self.newlines(gap) > 0) {
                (true, true) => GapPlan::hard(group, 0, 0),
                (false, false) if self.is_separator(pair[0]) => GapPlan::author(true),
                _ => continue,
            };
            self.plan.set(gap, plan);
        }
    }

    /// A keyword, then items one level in below it.
    pub(in crate::layout) fn clause(&mut self, id: NodeId, children: &[NodeId]) {
        let mut group = Group::over(self.first(id), self.end(id));
        // One item stays on the keyword's line if its author had it on a line with nothing else.
        let parts = children.iter().skip(1).filter(|child| !self.is_separator(**child));
        let own_line = self.tree.parent(id).is_some_and(|parent| match self.rule_of(parent) {
            Rule::Words(words) => words.own_line.contains(&self.name(id)) && !self.is_bodiless_line(parent),
            _ => false,
        });
        let broken = self.newlines(group.first) > 0 || own_line && self.newlines(group.open) == 0;
        group.always = broken || parts.count() > 1 || self.options.keep == KeepBreaks::None;
        let number = self.plan.group(group);
        for child in children.iter().skip(1) {
            let plan = match self.is_separator(*child) {
                true => GapPlan::fixed(false),
                false => GapPlan::soft(number, true),
            };
            self.plan.set(self.first(*child), plan);
        }
        // Nothing follows the last item in front of what ends the declaration; where the word ends the line of the header, it may.
        let may = own_line && self.ends_line_of_header(id) && self.keeps_meant() && self.style.is_open(Key::WrapComma);
        if self.token_text(self.end(id)) != ";" && !may {
            self.comma_behind(children, number);
        }
    }
}
