//! Items between brackets, and items with nothing but commas between them.

use vknot_syntax::{NodeId, Role};

use vknot_style::choices::{AlignList, KeepBreaks, WrapList};
use crate::frames::place::width_of;
use crate::layout::plan::{AddedComma, GapPlan, Group};
use crate::layout::planner::Planner;
use vknot_style::Key;
use crate::spec::layout::{Fill, Hug, List, Rule, Spacing};

impl Planner<'_> {
    /// On one line if it fits; else broken behind the opening bracket and behind every separator.
    pub(in crate::layout) fn list(&mut self, id: NodeId, rule: &List, children: &[NodeId]) {
        let Some((open, close)) = self.brackets(children) else { return self.keep_unruled(children) };
        let inner = &children[open + 1..close];
        let close_gap = self.first(children[close]);
        for pair in children[..=open].windows(2).chain(children[close..].windows(2)) {
            let gap = self.first(pair[1]);
            // The bracket of a literal may begin a line.
            match rule.keep
                && self.options.keep != KeepBreaks::None
                && pair[1] == children[open]
                && self.newlines(gap) > 0
            {
                true => self.plan.set(gap, GapPlan::author(true)),
                false => self.space(id, pair[0], pair[1]),
            }
        }
        let (Some(first), Some(last)) = (inner.first(), inner.last()) else {
            return self.plan.set(close_gap, self.empty_list(children[open], close_gap));
        };
        let table = self.role(id) == Role::Collection && self.keep_rows(inner);
        // What has no use but for what takes it apart, such as a macro, is its author's.
        let unknown =
            rule.only_kept && inner.len() > 2 && self.options.keep != KeepBreaks::None && self.breaks_between(id);
        if table && self.keeps_meant() || unknown || self.is_list_as_written(id) || self.is_led_by_separators(inner) {
            return self.list_as_written(id, rule, &children[open..=close]);
        }
        let mut group = Group::over(self.first(children[open]), self.end(children[close]));
        group.keep = self.options.keep != KeepBreaks::None && rule.keep && self.newlines(self.first(*first)) > 0;
        // A separator behind the last item is how an author asks for one item a line.
        let several = inner.len() > 2 || self.newlines(self.first(*first)) > 0;
        group.always = self.is_separator(*last) && self.name(*last) == "," && rule.close_apart && several;
        // An author who broke the line there may have what fits on one line there, not what only begins on it.
        let begun = rule.hug_any && self.options.keep != KeepBreaks::None && self.newlines(self.first(*first)) > 0;
        if rule.hug && !group.always && !begun {
            let hug = match self.table.hugs.get(self.tree.node(id).kind.0 as usize) {
                // Values beside each other on one line are told apart by lines of their own.
                _ if self.role(id) == Role::Collection && inner.len() > 2 && !self.is_multiline(id) => 0,
                Some(Some(Hug::Item)) => self.hugs[id.0 as usize],
                _ if rule.hug_any => self.hug_of_items(id),
                _ => 0,
            };
            group.fit_end = if hug == 0 { group.close } else { hug };
            // A text does not get shorter on a line of its own, and what it names would only be pushed in.
            if hug > 0 && self.is_text_and_block(inner) {
                group.fit_end = group.open;
            }
        }
        // Where nothing in it breaks but what its items hold, it need not break, either.
        let (broken, own) = (self.is_multiline(id), self.breaks_between(id));
        let keeps = rule.hug_any && self.options.keep != KeepBreaks::None;
        if keeps && broken && !own && group.fit_end == group.close && !group.always {
            group.fit_end = self.first(*first) + 1;
        }
        group.rows = keeps && own && !group.keep && self.options.list == WrapList::AsFound && !group.always;
        if group.rows {
            let filled = |planner: &mut Self, number| {
                planner.padded(planner.first(*first), rule.padded, |padded| GapPlan::filled(number, padded));
                // A bracket that its author left behind the last item stays there, however long that is.
                let apart = planner.newlines(close_gap) > 0;
                planner.padded(close_gap, rule.padded, |padded| match apart {
                    true => GapPlan::filled(number, padded),
                    false => GapPlan::fixed(padded),
                });
            };
            group.fit_end = if rule.with_header { self.header_end(id).max(group.close) } else { group.close };
            let number = self.plan.group(group);
            filled(self, number);
            return self.row_gaps(id, inner, number);
        }
        let lone = inner.len() == 1 && !self.is_multiline(id);
        if rule.only_kept || lone && (rule.stay_single || self.is_wider_than_lines(*first)) {
            group.fit_end = group.open;
        }
        if rule.with_header {
            group.fit_end = self.header_end(id).max(group.fit_end);
        }
        group.reluctant = rule.reluctant;
        // What its author had on one line breaks as most of what is broken does.
        let as_others = || !own && self.options.list == WrapList::AsFound && self.fills_as_others(id);
        let fills = rule.hug_any && (self.options.list == WrapList::Fill || as_others());
        let filled = fills || self.is_long_row(id, inner) || self.is_filled(rule, inner, group.keep || begun);
        let number = self.plan.group(group);
        // The items of a broken list may still share one line.
        let among = match rule.together && !group.always {
            true => {
                let items = Group {
                    outer: number,
                    ..Group::over(self.first(*first), self.end(*last))
                };
                self.plan.group(items)
            }
            false => number,
        };
        // What lines up with the first item has that behind the bracket, and the closing one behind the last.
        let aligned = self.is_aligned(id, children[open], *first);
        let most = if rule.keep && self.options.edges { self.options.blank_most } else { 0 };
        // What only its author breaks is no chance for a line to end.
        let breaks = !rule.only_kept || group.keep || group.always;
        let edge = |apart: bool| {
            move |padded| if apart && breaks {
                GapPlan::soft(number, padded).blanks(most)
            } else {
                GapPlan::fixed(padded)
            }
        };
        match self.spacing(id, children[open], *first) {
            Spacing::Author if self.is_separator(*first) => self.space(id, children[open], *first),
            _ => self.padded(self.first(*first), rule.padded, edge(!aligned)),
        }
        // A bracket that its author put on a line of its own behind an item of several lines stays there.
        let own_line = rule.hug_any && !begun && group.fit_end < group.close && self.newlines(close_gap) > 0;
        if own_line && self.options.keep != KeepBreaks::None {
            self.plan.set(close_gap, GapPlan::hard(number, 0, 0));
        }
        match self.spacing(id, *last, children[close]) {
            Spacing::Author if self.is_separator(*last) => self.space(id, *last, children[close]),
            _ => {
                let kept =
                    self.keeps_meant() && [self.first(*first), close_gap].iter().all(|gap| self.newlines(*gap) > 0);
                self.padded(close_gap, rule.padded, edge((rule.close_apart || kept) && !aligned))
            }
        }
        let blank = if rule.keep { self.options.blank_most } else { 0 };
        for (index, pair) in inner.windows(2).enumerate() {
            let gap = self.first(pair[1]);
            // A comment parts items as a comma does.
            let parts = self.is_separator(pair[0]) || self.is_comment(pair[0]);
            let names = rule.fill == Fill::Flat && index > 0 && self.is_name(inner[index - 1]) && self.is_name(pair[1]);
            let plan = match (parts, filled || names) {
                // Where an item is left out, its place may show.
                _ if self.is_separator(pair[1]) =>
                    GapPlan::fixed(self.is_separator(pair[0]) && !self.written[gap as usize].empty),
                (true, _) if !breaks => GapPlan::fixed(true),
                (true, false) => GapPlan::soft(among, true).blanks(blank),
                (true, true) => GapPlan::filled(number, true).blanks(blank),
                (false, _) if self.role(pair[0]) == Role::Annotation => GapPlan::author(true),
                // A line break may part items, too.
                _ if self.newlines(gap) > 0 && rule.lines => GapPlan::hard(number, 0, blank),
                _ => {
                    self.space(id, pair[0], pair[1]);
                    continue;
                }
            };
            self.plan.set(gap, plan);
            self.spaced_behind_comma(id, pair[0], pair[1]);
        }
        if rule.comma && !aligned && !self.does_without_comma(id, inner) {
            self.comma_behind(inner, number);
        }
    }

    /// Whether a list is one argument on lines of its own, which may do without a comma.
    fn does_without_comma(&self, id: NodeId, inner: &[NodeId]) -> bool {
        let [only] = inner else { return false };
        let open = self.keeps_meant() && self.style.is_open(Key::WrapComma);
        let apart = self.newlines(self.first(*only)) > 0 && self.newlines(self.end(*only)) > 0;
        open && apart && self.role(id) == Role::Arguments
    }

    /// Whether something is a single token, or a macro, that no line has room for.
    fn is_wider_than_lines(&self, id: NodeId) -> bool {
        let node = self.tree.node(id);
        let most = self.style.number(Key::MaxLineLength).unwrap_or(self.table.spec.width);
        let whole = node.token_end == node.first_token + 1 || self.role(id) == Role::Macro;
        whole && width_of(self.tree.text_of(self.text, id)) >= most
    }

    /// The gap between the brackets of a list that holds nothing. Braces stand as those of blocks do, if the language has a habit there.
    fn empty_list(&self, open: NodeId, gap: u32) -> GapPlan {
        let like_block = self.table.spec.habits.contains(&Key::SpaceEmpty) && self.name(open) == "{";
        let kept = self.keeps_meant() && self.name(open) == "{" && self.style.is_open(Key::SpaceEmpty);
        if kept && self.newlines(gap) == 0 {
            return GapPlan::fixed(!self.written[gap as usize].empty);
        }
        if !like_block || self.keeps_meant() && self.newlines(gap) > 0 {
            return self.empty(gap);
        }
        GapPlan::fixed(match self.style.word(Key::SpaceEmpty) {
            "as-found" => !self.written[gap as usize].empty,
            word => word == "true",
        })
    }

    /// Whether the items are a text and a block of several lines that it names, as its author has them on one line.
    fn is_text_and_block(&self, inner: &[NodeId]) -> bool {
        let [text, comma, block] = inner else { return false };
        let together = |item: &NodeId| self.newlines(self.first(*item)) == 0;
        self.role(*text) == Role::String
            && self.is_separator(*comma)
            && self.role(*block) == Role::Lambda
            && self.is_multiline(*block)
            && inner.iter().all(together)
    }

    /// The gaps between items that stay on the lines where their author had them, should the list not fit on one.
    fn row_gaps(&mut self, id: NodeId, inner: &[NodeId], number: u32) {
        for pair in inner.windows(2) {
            let parts = (self.is_separator(pair[0]) || self.is_comment(pair[0])) && !self.is_separator(pair[1]);
            match parts || self.newlines(self.first(pair[1])) > 0 {
                true => {
                    self.plan.set(self.first(pair[1]), GapPlan::filled(number, true));
                    self.spaced_behind_comma(id, pair[0], pair[1]);
                }
                false => self.space(id, pair[0], pair[1]),
            }
        }
    }

    /// A list whose line breaks are its author's; where it is too long, it is filled.
    fn list_as_written(&mut self, id: NodeId, rule: &List, parts: &[NodeId]) {
        let [open, inner @ .., close] = parts else { return };
        let most = self.options.blank_most;
        let mut group = Group::over(self.first(*open), self.end(*close));
        let apart = self.newlines(self.first(*close)) > 0;
        group.always = apart;
        group.table = self.options.keep == KeepBreaks::Meant;
        let number = self.plan.group(group);
        let led = self.is_led_by_separators(inner);
        for pair in parts.windows(2) {
            let gap = self.first(pair[1]);
            if self.newlines(gap) > 0 {
                self.plan.set(gap, GapPlan::hard(number, 0, most));
            } else if led && (pair[0] == *open || pair[1] == *close) {
                // What is between a bracket and its item has the first line up with the others.
                self.plan.set(gap, GapPlan::author(!self.written[gap as usize].empty));
            } else if pair[0] == *open || pair[1] == *close {
                self.padded(gap, rule.padded, GapPlan::fixed);
            } else if self.is_separator(pair[0]) && !self.is_separator(pair[1]) {
                self.plan.set(gap, if rule.only_kept { GapPlan::fixed(true) } else { GapPlan::filled(number, true) });
                self.spaced_behind_comma(id, pair[0], pair[1]);
            } else {
                self.space(id, pair[0], pair[1]);
            }
        }
        if rule.comma && apart && !led && !self.does_without_comma(id, inner) {
            self.comma_behind(inner, number);
        }
    }

    /// Whether lines of a list that a value is begin with separators of its items.
    pub(in crate::layout) fn is_list_led_by_separators(&self, value: NodeId) -> bool {
        let items: Vec<NodeId> = if self.is_multiline(value) {
            self.tree.children(value).collect()
        } else {
            Vec::new()
        };
        self.role(value) == Role::Collection && self.is_led_by_separators(&items)
    }

    /// Whether lines begin with separators of items, as their author had them, and nothing is set that says how lists wrap.
    fn is_led_by_separators(&self, inner: &[NodeId]) -> bool {
        let open = self.options.list == WrapList::AsFound && self.options.keep != KeepBreaks::None;
        let leads = |pair: &[NodeId]| {
            let [item, separator] = [pair[0], pair[1]];
            self.is_separator(separator) && !self.is_comment(item) && self.newlines(self.first(separator)) > 0
        };
        open && inner.windows(2).any(leads)
    }

    /// Whether the lines of a list line up with its first item, which its author left behind the bracket.
    fn is_aligned(&self, id: NodeId, open: NodeId, first: NodeId) -> bool {
        let literal = self.role(id) == Role::Collection;
        let wanted = match self.options.align {
            AlignList::None => false,
            AlignList::Arguments => !literal && self.token_text(self.first(open)) == "(",
            AlignList::All => true,
        };
        wanted && self.newlines(self.first(first)) == 0 && !self.is_comment(first)
    }

    /// A comma behind the last item, should the group break.
    pub(in crate::layout) fn comma_behind(&mut self, inner: &[NodeId], group: u32) {
        let Some(last) = inner.iter().rev().find(|id| !self.is_comment(**id)) else { return };
        let no_comma = self.table.spec.no_comma;
        let rest = no_comma.contains(&self.name(*last)) || no_comma.contains(&self.token_text(self.first(*last)));
        // Behind a directive nothing may stand.
        let directive =
            self.code.toolkit().indent.has_directives && self.token_text(self.first(*last)).starts_with('#');
        let ends = rest || directive || self.token_text(self.end(*last) - 1) == ",";
        let repeats = inner.iter().any(|id| self.is_separator(*id) && self.name(*id) == ";");
        if self.options.commas && !ends && !repeats && !self.tree.node(*last).has_error() {
            self.plan.commas.push(AddedComma { gap: self.end(*last), group });
        }
    }

    /// Whether a collection on one line, at least half as long as lines may be, holds nothing but numbers, characters and the like.
    fn is_long_row(&self, id: NodeId, inner: &[NodeId]) -> bool {
        let most = self.style.number(Key::MaxLineLength).unwrap_or(self.table.spec.width);
        let is_row = self.role(id) == Role::Collection && !self.is_multiline(id);
        if !is_row || self.tree.node(id).span().len() < most / 2 {
            return false;
        }
        let character = |id: &NodeId| self.role(*id) == Role::String && self.tree.node(*id).span().len() <= 4;
        let literal = |id: &NodeId| self.role(*id) == Role::Literal && self.is_short(*id) || character(id);
        inner.iter().all(|id| self.is_separator(*id) || literal(id))
    }

    fn is_filled(&self, rule: &List, inner: &[NodeId], kept: bool) -> bool {
        let simple = |id: &NodeId| {
            self.tree.node(*id).is_leaf() || self.end(*id) - self.first(*id) <= 3 && self.role(*id) != Role::Call
        };
        match rule.fill {
            Fill::Never => false,
            Fill::Author =>
                kept && inner.iter().skip(1).any(|id| !self.is_separator(*id) && self.newlines(self.first(*id)) == 0),
            Fill::Flat => {
                inner.iter().all(|id| !matches!(self.token_text(self.end(*id) - 1), "}" | "]" | ")"))
            }
            // Rows an author laid out stay rows; numbers and the like are filled in any case.
            Fill::Simple => {
                let rows =
                    inner.iter().skip(1).any(|id| !self.is_separator(*id) && self.newlines(self.first(*id)) == 0);
                inner.iter().all(simple)
                    && if kept { rows } else { inner.iter().all(|id| self.is_separator(*id) || self.is_short(*id)) }
            }
        }
    }

    fn is_name(&self, id: NodeId) -> bool {
        self.tree.node(id).is_leaf() && !self.is_comment(id)
    }

    fn is_short(&self, id: NodeId) -> bool {
        let node = self.tree.node(id);
        node.end - node.start <= 12
    }

    /// One past the last token in front of the body or clause that follows a list in its parent.
    fn header_end(&self, list: NodeId) -> u32 {
        let end = self.whole_header_end(list);
        let next = self.next_break(self.end(list));
        // Where its author broke a line behind the list, no more need fit with that.
        if self.keeps_meant() && !self.is_multiline(list) && next < end { next } else { end }
    }

    fn whole_header_end(&self, list: NodeId) -> u32 {
        let Some(parent) = self.tree.parent(list) else { return self.end(list) };
        let lambda = match self.rule_of(parent) {
            Rule::Assign(operators) => *operators,
            _ => &[],
        };
        let stops = |id: &NodeId| {
            let clause = matches!(self.rule_of(*id), Rule::Clause);
            let before = self.first(*id).saturating_sub(1);
            clause
                || lambda.contains(&self.token_text(before))
                || matches!(self.role(*id), Role::Block | Role::Body | Role::Comment)
        };
        let behind = self.tree.children(parent).filter(|id| *id > list && !self.tree.node(*id).is_empty());
        behind.take_while(|id| !stops(id)).last().map_or(self.end(list), |last| self.end(last))
    }

    /// Spaces commas; where the author broke a line, and everywhere else, nothing changes.
    pub(in crate::layout) fn commas_only(&mut self, children: &[NodeId]) {
        for pair in children.windows(2) {
            let gap = self.first(pair[1]);
            let plan = match (self.name(pair[0]), self.name(pair[1])) {
                _ if self.newlines(gap) > 0 => GapPlan::keep(),
                (_, ",") => GapPlan::fixed(false),
                (",", ")") => GapPlan::keep(),
                (",", _) => GapPlan::fixed(true),
                _ => GapPlan::keep(),
            };
            self.plan.set(gap, plan);
        }
    }

    /// Parts whose lines are their author's. Behind a comma a line may break that is too long, or begins one if a setting says so.
    pub(in crate::layout) fn lines(&mut self, id: NodeId, each: Option<Key>, children: &[NodeId]) {
        let number = self.plan.group(Group::over(self.first(id), self.end(id)));
        let most = self.options.blank_most;
        for pair in children.windows(2) {
            let gap = self.first(pair[1]);
            let (behind_comma, broken) = (self.name(pair[0]) == ",", self.newlines(gap) > 0);
            match each.filter(|_| behind_comma) {
                Some(key) => {
                    let ways = [GapPlan::filled(number, true), GapPlan::hard(number, 0, 0)];
                    self.set_by(gap, key, ways, Some(broken));
                }
                None if broken && self.name(pair[1]) != "," => self.plan.set(gap, GapPlan::hard(number, 0, most)),
                None if behind_comma => {
                    match self.spacing(id, pair[0], pair[1]) {
                        Spacing::By(key) =>
                            self.spaced_by(gap, key, [false, true].map(|spaced| GapPlan::filled(number, spaced))),
                        _ => self.plan.set(gap, GapPlan::filled(number, true)),
                    }
                }
                None => self.space(id, pair[0], pair[1]),
            }
        }
    }

    /// Items parted by commas, as many on a line as fit.
    pub(in crate::layout) fn commas(&mut self, id: NodeId, children: &[NodeId]) {
        let mut group = Group::over(self.first(id), self.end(id));
        group.keep = self.is_as_written(id);
        let number = self.plan.group(group);
        for pair in children.windows(2) {
            match self.is_separator(pair[0]) {
                true if group.keep && self.newlines(self.first(pair[1])) > 0 => {
                    self.plan.set(self.first(pair[1]), GapPlan::hard(number, 0, 0));
                }
                true => self.plan.set(self.first(pair[1]), GapPlan::filled(number, true)),
                false => self.space(id, pair[0], pair[1]),
            }
        }
    }
}
