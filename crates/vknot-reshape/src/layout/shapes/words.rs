//! Parts one after another: declarations, statements, headers with bodies.

use vknot_syntax::{NodeId, Role, Span};

use vknot_style::Key;
use vknot_style::choices::{KeepBreaks, RequiredBraces};
use crate::frames::marks::leads_clause;
use crate::layout::plan::{AddedBraces, Cell, GapPlan, Group, NO_GROUP};
use crate::layout::planner::Planner;
use crate::spec::indent::Hold;
use crate::spec::layout::{Annotations, BraceOf, CellsOf, Rule, Spacing, Words};

/// How many tokens behind an item, which separate it, close what holds it or are said about it, are passed to find out what its line ends with.
const FEW: u32 = 8;

impl Planner<'_> {
    /// Parts with the spaces of the table between them; what the rule says more is settled first.
    pub(in crate::layout) fn words(&mut self, id: NodeId, rule: &Words, children: &[NodeId]) {
        if self.role(id) == Role::Branch {
            self.clauses(id, children);
        }
        if rule.annotations != Annotations::Inline {
            self.leading_annotations(rule.annotations, children);
        }
        if !rule.wrap.is_empty() {
            self.wrapped_parts(id, rule, false, children);
        }
        if !rule.clauses.is_empty() {
            self.wrapped_parts(id, rule, true, children);
        }
        if let Some(late) = rule.late {
            self.late_part(late, true, children);
        }
        if let Some(value) = rule.value {
            self.late_part(value, false, children);
        }
        if let Some(mark) = rule.led {
            self.led_items(id, mark, children);
        }
        if self.is_inline_branch(id) {
            let group = Group { ..Group::over(self.first(id), self.end(id)) };
            let number = self.plan.group(group);
            self.shared.insert(id, number);
        }
        self.row(id, rule, children);
        let plain = rule.is_plain();
        for pair in children.windows(2) {
            match plain {
                true => self.space(id, pair[0], pair[1]),
                false => self.part(id, rule, pair[0], pair[1]),
            }
        }
    }

    /// Notes the columns of an item that is a word.
    pub(in crate::layout) fn row_of_word(&mut self, id: NodeId) {
        if let Rule::Words(rule) = self.rule_of(id) && rule.open_columns {
            let children: Vec<NodeId> = self.tree.children(id).collect();
            self.row(id, rule, &children);
        }
    }

    fn row(&mut self, id: NodeId, rule: &Words, children: &[NodeId]) {
        if let Some(last) = self.begins_row(id, rule) {
            self.cells(id, rule, children, last);
        }
    }

    /// Whether the columns of an item with neighbours above and below end with it, as others are on its line. `None` if it has none: it
    /// takes several lines, or shares one.
    fn begins_row(&self, id: NodeId, rule: &Words) -> Option<bool> {
        if rule.cells.is_empty() {
            return None;
        }
        let (node, source) = (self.tree.node(id), self.code.source);
        let begins = self.newlines(node.first_token) > 0 || node.first_token == 0;
        // What holds it may close behind it.
        let goes_on = |token: &u32| matches!(self.token_text(*token), "," | ";" | "}" | ")")
            && self.newlines(*token) == 0;
        let passed =
            (node.token_end..node.token_end + FEW).take_while(|token| goes_on(token) || self.is_trailing(*token));
        let behind = node.token_end + passed.count() as u32;
        let ends = self.newlines(behind) > 0 || behind as usize >= self.tree.tokens().len();
        let whole = rule.cells_of == CellsOf::Long || source.line(node.start) == source.line(node.end);
        (begins && whole && (ends || rule.cells_of == CellsOf::First)).then_some(!ends)
    }

    fn is_trailing(&self, token: u32) -> bool {
        self.is_comment_token(token) && self.newlines(token) == 0
    }

    /// Notes the parts of an item that may line up with those of its neighbours.
    fn cells(&mut self, id: NodeId, rule: &Words, children: &[NodeId], last: bool) {
        let (holder, line) = (self.tree.node(id).parent, self.code.source.line(self.tree.node(id).start));
        let (mut missing, mut leads) = (Vec::new(), false);
        let mut columns = 0..;
        for cell in rule.cells {
            let at = children.iter().position(|child| self.is_part(*child, cell));
            // What says that a name is a pointer or a reference belongs to it.
            let mark = |child: &&NodeId| matches!(self.label(**child), "*" | "&" | "&&");
            let first = at.map(|at| at - children[..at].iter().rev().take_while(mark).count());
            // What an item begins with is in no column; those behind it move up.
            if first == Some(0) {
                leads = true;
                continue;
            }
            let Some(column) = columns.next() else { return };
            let Some(part) = first.and_then(|first| children.get(first)) else {
                missing.push(column);
                continue;
            };
            let gap = self.first(*part);
            if self.code.source.line(self.tree.gap_span(gap).start) == line {
                let cell = Cell { gap, column, holder, missing: false, last };
                self.open_columns(rule, &mut missing, cell);
                self.plan.cells.push(cell);
            }
        }
        let end = self.end(id);
        if self.is_trailing(end) {
            missing.extend(leads.then(|| columns.next()).flatten());
            self.open_columns(rule, &mut missing, Cell { gap: end, column: 0, holder, missing: true, last });
        }
    }

    /// Notes the columns of parts that are missing in front of one.
    fn open_columns(&mut self, rule: &Words, missing: &mut Vec<u8>, cell: Cell) {
        let open = missing.drain(..).map(|column| Cell { column, missing: true, ..cell });
        self.plan.cells.extend(open.filter(|_| rule.open_columns));
    }

    /// Whether a part stands in a field, or is such a token.
    fn is_part(&self, part: NodeId, name: &str) -> bool {
        let field = self.tree.language().field_name(self.tree.node(part).field);
        field == name || self.label(part) == name
    }

    fn part(&mut self, id: NodeId, rule: &Words, before: NodeId, part: NodeId) {
        let gap = self.first(part);
        let field = self.tree.language().field_name(self.tree.node(part).field);
        let name = self.name(part);
        let last = rule.ends_in_body && self.end(part) == self.end(id);
        let kind = rule.body_kinds.contains(&self.name(part));
        if (last || kind || !field.is_empty() && rule.bodies.contains(&field)) && !self.is_comment(part) {
            return self.body(id, rule, before, part);
        }
        if name == ";" && matches!(self.role(id), Role::Branch | Role::Arm) {
            return self.body(id, rule, before, part);
        }
        if rule.joined.contains(&name) && !rule.own_line.contains(&name) && !rule.author.contains(&name) {
            return self.follow(before, gap);
        }
        let plan = if rule.own_line.contains(&name) {
            Some(match self.token_text(gap.saturating_sub(1)) {
                _ if self.is_bodiless_line(id) => GapPlan::fixed(true),
                _ if self.ends_line_of_header(part) => GapPlan::fixed(true),
                ")" => GapPlan::after_closing(),
                _ => GapPlan::hard(NO_GROUP, 0, 0),
            })
        } else if rule.author.contains(&name) {
            let touches = self.newlines(gap) == 0 && matches!(self.spacing(id, before, part), Spacing::Nothing);
            Some(if touches { GapPlan::fixed(false) } else { GapPlan::author(true) })
        } else if matches!(self.role(part), Role::Block | Role::Body) && rule.brace != BraceOf::Neither {
            return self.brace(id, rule, part);
        } else {
            None
        };
        match plan {
            Some(plan) => self.plan.set(gap, plan),
            None if rule.lines && self.newlines(gap) > 0 && self.name(part) != ";" => {
                let most = if self.is_comment(part) { self.options.blank_most } else { 0 };
                self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, most));
            }
            None => self.space(id, before, part),
        }
    }

    /// Whether the word that a clause begins with ends the line of a header, and its items have lines of their own.
    pub(in crate::layout) fn ends_line_of_header(&self, clause: NodeId) -> bool {
        let word = self.first(clause);
        let kept = self.options.keep != KeepBreaks::None && self.end(clause) > word + 1;
        kept && self.newlines(word) == 0 && self.newlines(word + 1) > 0
    }

    /// Whether an item is one line with nothing in its body, if it has one.
    pub(in crate::layout) fn is_bodiless_line(&self, id: NodeId) -> bool {
        let end = self.end(id);
        let [last, before] = [1, 2].map(|back| self.token_text(end.saturating_sub(back)));
        let empty = || last == "}" && before == "{" && self.style.word(Key::BraceEmpty) != "next";
        !self.is_multiline(id) && self.options.keep != KeepBreaks::None && (last == ";" || empty())
    }

    /// An opening brace behind its header.
    fn brace(&mut self, id: NodeId, rule: &Words, block: NodeId) {
        let key = match rule.brace {
            BraceOf::Control => Key::BraceControl,
            BraceOf::Type => Key::BraceType,
            BraceOf::Declaration => Key::BraceDeclaration,
            BraceOf::Accessor => Key::BraceAccessor,
            BraceOf::Lambda => Key::BraceLambda,
            BraceOf::Neither => return self.brace_behind_wrap(id, block),
        };
        self.brace_by(key, id, block);
    }

    /// An opening brace on the line of its header, unless the header wraps and a setting says otherwise of those.
    pub(in crate::layout) fn brace_behind_wrap(&mut self, id: NodeId, block: NodeId) {
        let gap = self.first(block);
        self.spaced_as_block(gap);
        if self.is_hollow(block) {
            return self.plan.set(gap, GapPlan::author(true));
        }
        let shows = self.is_wrapped_header(id, gap).then(|| self.newlines(gap) > 0);
        self.set_by(gap, Key::BraceWrapped, [GapPlan::fixed(true), GapPlan::after_wrap()], shows);
    }

    /// Whether the line on which a header ends stands further in than the one it begins on, or begins with a clause of it.
    fn is_wrapped_header(&self, id: NodeId, gap: u32) -> bool {
        let source = self.code.source;
        let start = |token: u32| self.tree.tokens().get(token as usize).map_or(0, |token| token.start);
        let blank = |token: u32| source.line_blank(start(token));
        let last = blank(gap.saturating_sub(1));
        leads_clause(source.slice(Span::new(last.end, start(gap).max(last.end))))
            || last.len() > blank(self.first(id)).len()
    }

    /// An opening brace whose place a setting says.
    pub(in crate::layout) fn brace_by(&mut self, key: Key, id: NodeId, block: NodeId) {
        let gap = self.first(block);
        self.spaced_as_block(gap);
        // What holds nothing stays where its author had it.
        if self.is_hollow(block) {
            let below = self.follows_own_line(id, block) && !self.is_bodiless_line(id);
            return self.plan.set(gap, if below { GapPlan::hard(NO_GROUP, 0, 0) } else { GapPlan::author(true) });
        }
        // Behind what ends with a semicolon it always begins a line.
        if self.token_text(gap.saturating_sub(1)) == ";" {
            return self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, 0));
        }
        // What stays on one line does so with its header.
        if let Some(group) = self.single_group(block) {
            let below = self.newlines(gap) > 0;
            let apart = if below { GapPlan::hard(NO_GROUP, 0, 0) } else { GapPlan::soft(group, true) };
            return self.set_by(gap, key, [GapPlan::fixed(true), apart], below.then_some(true));
        }
        if !self.plan.is_open(gap) {
            return;
        }
        // Some give the brace a line of its own only where the header wraps.
        let (next, wraps) = (self.newlines(gap) > 0, key != Key::BraceLambda && self.is_wrapped_header(id, gap));
        let (same, apart) = (GapPlan::fixed(true), GapPlan::hard(NO_GROUP, 0, 0));
        self.set_by(gap, key, [same, apart], (!wraps || !next).then_some(next));
        if key != Key::BraceLambda && !self.is_bare_header(id, block) {
            // Where only the brace finds no room, its author may have put it on the next line instead.
            let full = next && !wraps && self.options.keep != KeepBreaks::None;
            let wrapped = if full { GapPlan::after_wrap_or_full() } else { GapPlan::after_wrap() };
            self.or_by(gap, Key::BraceWrapped, [same, wrapped], None);
            self.manner.wrapped.extend(wraps.then_some((key, next)));
        }
    }

    /// Whether a header is nothing but words, at which no line breaks.
    fn is_bare_header(&self, id: NodeId, block: NodeId) -> bool {
        let mut header = self.tree.parts(id).take_while(|part| *part != block);
        header.all(|part| self.tree.children(part).next().is_none())
    }

    /// Whether what stands in front of a block has a line of its own.
    pub(in crate::layout) fn follows_own_line(&self, id: NodeId, block: NodeId) -> bool {
        let Rule::Words(rule) = self.rule_of(id) else { return false };
        if rule.own_line.is_empty() {
            return false;
        }
        let before = self.tree.parts(id).take_while(|part| *part != block).last();
        before.is_some_and(|before| rule.own_line.contains(&self.name(before)))
    }

    /// `else` and the like: on the line of a closing brace, else on a line of its own.
    fn follow(&mut self, before: NodeId, gap: u32) {
        let braced = self.token_text(self.end(before).saturating_sub(1)) == "}";
        let closes = braced && matches!(self.role(before), Role::Block | Role::Arm);
        // Comments and directives in front of it, and what ends without a brace, stand as far above it as their author had them; in a
        // well-kept file a brace does, too.
        let near = closes && !self.is_comment_token(gap) && !self.is_directive(gap) && !self.keeps_meant();
        let blank = if near { 0 } else { self.options.blank_most };
        let apart = GapPlan { joins: true, ..GapPlan::hard(NO_GROUP, 0, blank) };
        if !closes {
            // Behind a comment on the line of a brace it stays there.
            let first = self.first(before);
            let noted = self.is_comment(before) && self.token_text(first.saturating_sub(1)) == "}";
            let together = noted && self.newlines(first) == 0 && self.options.keep != KeepBreaks::None;
            return self.plan.set(gap, if together { GapPlan::author(true) } else { apart });
        }
        self.spaced_as_block(gap);
        let shows = self.newlines(gap) > 0;
        self.set_by(gap, Key::BraceFollow, [GapPlan::fixed(true), apart], Some(shows));
    }

    /// One statement under a header: a block, a chained branch, or a statement of its own.
    fn body(&mut self, id: NodeId, rule: &Words, before: NodeId, body: NodeId) {
        let gap = self.first(body);
        if self.role(body) == Role::Block {
            return self.brace(id, rule, body);
        }
        // Where nothing is to be done, a line that says nothing else shows that it is meant.
        if self.token_text(gap) == ";" {
            let apart = self.keeps_meant() && !self.written[gap as usize].empty;
            return self.plan.set(gap, GapPlan::author(apart));
        }
        let holder = if rule.ends_in_body { self.tree.node(id).parent } else { id };
        let chained = rule.ends_in_body || rule.joined.contains(&self.name(before));
        if self.tree.node(holder).kind == self.tree.node(body).kind && chained {
            return self.plan.set(gap, GapPlan::fixed(true));
        }
        let mut group = Group::over(gap.saturating_sub(1), self.end(body));
        group.first = gap;
        let broken = self.newlines(gap) > 0;
        group.always = broken;
        let braced = match self.options.required {
            RequiredBraces::Keep => false,
            RequiredBraces::Multiline => broken || self.is_multiline(body),
            RequiredBraces::Always => true,
        };
        if braced && self.can_be_braced(body) {
            self.plan.set(gap, GapPlan::hard(NO_GROUP, 0, 0));
            let close = self.behind_trailing_comments(self.end(body));
            self.plan.added.push(AddedBraces { open: gap, close });
            return;
        }
        // What its author began on the line may stay there with the rest of it on further lines.
        let next = self.next_break(gap);
        if self.keeps_meant() && !broken && next < self.end(body) {
            group.fit_end = next;
        }
        let number = self.plan.group(group);
        self.plan.set(gap, GapPlan::soft(number, true));
    }

    /// Whether a token is of a line that stands at the margin.
    pub(in crate::layout) fn is_directive(&self, token: u32) -> bool {
        let table = &self.code.toolkit().indent;
        let holders = self.tree.tokens().get(token as usize).into_iter().flat_map(|token| {
            std::iter::once(token.node).chain(self.tree.ancestors(token.node).take(3))
        });
        holders.into_iter().any(|id| table.kind(self.tree.node(id).kind).hold == Hold::Margin)
    }

    /// Declarations and labels may not stand alone in a block's place, and what has errors is left alone.
    fn can_be_braced(&self, body: NodeId) -> bool {
        let gap = self.first(body);
        // A brace would come behind a comment, or to stand on the line of a directive.
        let parted = gap > 0 && (self.is_comment_token(gap - 1) || self.is_directive(gap - 1));
        !self.tree.node(body).has_error() && !parted && self.role(body).is_item()
    }

    /// The first gap behind `token` that is not in front of a comment on the same line.
    fn behind_trailing_comments(&self, token: u32) -> u32 {
        let trailing = |gap: &u32| self.is_comment_token(*gap) && self.newlines(*gap) == 0;
        (token..).find(|gap| !trailing(gap)).unwrap_or(token)
    }

    /// Parts that begin lines together when the header does not fit.
    fn wrapped_parts(&mut self, id: NodeId, rule: &Words, each: bool, children: &[NodeId]) {
        let names = if each { rule.clauses } else { rule.wrap };
        let wraps = |planner: &Self, child: &NodeId| names.contains(&planner.label(*child));
        let Some(first) = children.iter().skip(1).find(|child| wraps(self, child)) else { return };
        let ends = |child: &&NodeId| {
            matches!(self.role(**child), Role::Block | Role::Body) || rule.own_line.contains(&self.name(**child))
        };
        let body = children.iter().find(ends);
        let end = body.map_or(self.end(id), |body| self.first(*body));
        let from = self.first(*first);
        // What follows a closing brace, or the bracket of a list of several lines, stays on its line if it fits there.
        let closing = (!each).then(|| self.closing_on_line(from, self.header_start(children))).flatten();
        // It goes with a word that is no longer than a level of indentation.
        if !each && rule.wrap_by.is_none() && self.is_shorter_than_level(children[0], *first) {
            return;
        }
        // A line that its author began in front of it is what has to fit.
        let begins = |child: &&NodeId| rule.author.contains(&self.name(**child))
            && self.newlines(self.first(**child)) > 0;
        let begun = children.iter().take_while(|child| *child != first).filter(begins).last();
        let begun = begun.filter(|_| self.options.keep != KeepBreaks::None).map(|begun| self.first(*begun));
        let start = begun.max(closing).unwrap_or_else(|| self.header_start(children));
        let mut group = Group::over(start, end);
        group.first = from;
        group.keep =
            self.options.keep != KeepBreaks::None && (each || rule.wrap_kept || self.role(id) == Role::Operator);
        group.keep |= !each && self.keeps_meant() && self.is_as_written(id);
        if let Some(key) = rule.wrap_by.filter(|_| !each) {
            return self.wrapped_tokens(
                id,
                group,
                key,
                children.iter().skip(1).filter(|child| wraps(self, child)).copied().collect(),
            );
        }
        let number = self.plan.group(group);
        for child in children.iter().skip(1).filter(|child| wraps(self, child)).copied().collect::<Vec<_>>() {
            let plan = if each { GapPlan::filled(number, true) } else { GapPlan::soft(number, true) };
            self.plan.set(self.first(child), plan);
        }
    }

    /// The closing brace in front of a token, or another closing bracket that begins the line of what is in front of it, from a token on.
    fn closing_on_line(&self, token: u32, from: u32) -> Option<u32> {
        let before = token.checked_sub(1)?;
        if self.token_text(before) == "}" {
            return Some(before);
        }
        let tokens = self.tree.tokens();
        let line = self.code.source.line_blank(tokens.get(before as usize)?.start).start;
        let leads = tokens.partition_point(|token| token.start < line) as u32;
        let closes = matches!(self.token_text(leads), ")" | "]" | ">") && self.newlines(leads) > 0;
        (closes && leads >= from && leads < token).then_some(leads)
    }

    /// The token that begins the next line behind one, if it is in front of `close`.
    pub(in crate::layout) fn first_break(&self, token: u32, close: u32) -> Option<u32> {
        let (tokens, source) = (self.tree.tokens(), self.code.source);
        let rest = tokens.get(token as usize..close as usize)?;
        let line = source.line(rest.first()?.start);
        let next = token + rest.partition_point(|token| source.line(token.start) <= line) as u32;
        (next < close && self.newlines(next) > 0).then_some(next)
    }

    /// Whether one part stands in front of another alone and is too short to have a line of its own.
    fn is_shorter_than_level(&self, part: NodeId, next: NodeId) -> bool {
        let node = self.tree.node(part);
        self.end(part) == self.first(next) && node.end - node.start < self.options.level
    }

    /// Tokens at which lines break together, or as their author had it, before or after them.
    fn wrapped_tokens(&mut self, id: NodeId, mut group: Group, key: Key, tokens: Vec<NodeId>) {
        let broken = |gap: u32| self.newlines(gap) > 0;
        let kept =
            group.keep && tokens.iter().any(|token| broken(self.first(*token)) || broken(self.first(*token) + 1));
        (group.keep, group.always) = (false, kept);
        // Where only what the operands hold breaks, that is enough.
        let inside = || self.first_break(group.first, group.close).filter(|_| self.keeps_meant());
        if !kept && let Some(hug) = inside().or_else(|| self.hug_of_operand(id)) {
            group.fit_end = hug;
        }
        let number = self.plan.group(group);
        // With nothing between, they are one mark (`level ?: 0`).
        if let [first, second] = *tokens && self.first(first) + 1 == self.first(second) {
            self.plan.set(self.first(first), GapPlan::soft(number, true));
            return self.space(id, first, second);
        }
        let side = self.side(key, tokens.iter().map(|token| self.first(*token))).filter(|_| kept);
        for token in tokens {
            let gap = self.first(token);
            let [before, behind] = [gap, gap + 1].map(|gap| self.newlines(gap) > 0);
            let soft = match kept {
                true if before || behind => GapPlan::hard(number, 0, 0),
                true => GapPlan::filled(number, true),
                false => GapPlan::soft(number, true),
            };
            self.set_side(gap, (key, side), [soft, GapPlan::fixed(true)], (before != behind).then_some(behind));
        }
    }

    /// A part that moves to the next line: when the header cannot even begin with it, or when it fits there as a whole or can only
    /// there begin.
    fn late_part(&mut self, (before, field): (&str, &str), head_only: bool, children: &[NodeId]) {
        let field = self.tree.language().field(field);
        let fits = |planner: &Self, pair: &[NodeId]| {
            planner.name(pair[0]) == before && planner.tree.node(pair[1]).field == field
        };
        let Some(pair) = children.windows(2).find(|pair| fits(self, pair)) else { return };
        let gap = self.first(pair[1]);
        let mut group = Group::over(gap - 1, if head_only { gap + 1 } else { self.end(pair[1]) });
        group.first = gap;
        let list = children.iter().find(|child| head_only && **child > pair[1] && self.role(**child) == Role::List);
        group.fit_end = list.map_or(gap + 1, |list| self.first(*list) + 1);
        (group.lazy, group.head_only) = (true, head_only);
        let number = self.plan.group(group);
        self.plan.set(gap, GapPlan::soft(number, true));
    }

    /// A mark that begins a line if the items behind it do not fit, which then begin lines of their own if they do not fit there. Where
    /// the author broke among them, that stays.
    fn led_items(&mut self, id: NodeId, mark: &str, children: &[NodeId]) {
        let Some(at) = children.iter().position(|child| self.label(*child) == mark).filter(|at| *at > 0) else {
            return
        };
        let body = children.iter().find(|child| matches!(self.role(**child), Role::Block | Role::Body));
        let (gap, end) = (self.first(children[at]), body.map_or(self.end(id), |body| self.first(*body)));
        if (gap..end).any(|gap| self.newlines(gap) > 0) {
            return;
        }
        let number = self.plan.group(Group { first: gap, ..Group::over(gap - 1, end) });
        self.plan.set(gap, GapPlan::soft(number, true));
        self.spaced_as_table(id, children[at - 1], children[at]);
        let number = self.plan.group(Group::over(gap, end));
        let mut angles = 0u32;
        for pair in children[at..].windows(2) {
            match self.label(pair[0]) {
                "<" => angles += 1,
                ">" => angles = angles.saturating_sub(1),
                _ => {}
            }
            if self.label(pair[0]) == "," && angles == 0 {
                self.spaced_as_table(id, pair[0], pair[1]);
                self.plan.set(self.first(pair[1]), GapPlan::soft(number, true));
            }
        }
    }

    /// The first token behind annotations that have lines of their own.
    fn header_start(&self, children: &[NodeId]) -> u32 {
        let Some(first) = children.first() else { return 0 };
        let start = self.first(*first);
        let annotations = self.tree.children(*first).take_while(|child| self.role(*child) == Role::Annotation);
        let behind = annotations.last().map_or(start, |last| self.end(last));
        (behind..).find(|token| !self.is_comment_token(*token)).unwrap_or(behind)
    }

    /// Annotations at the very front of a declaration, alone or among its modifiers.
    fn leading_annotations(&mut self, how: Annotations, children: &[NodeId]) {
        let Some(first) = children.first() else { return };
        let holder = match self.role(*first) {
            Role::Annotation => children.to_vec(),
            _ => self.tree.parts(*first).collect(),
        };
        for annotation in holder {
            if self.role(annotation) != Role::Annotation {
                break;
            }
            // Comments between the annotation and what it is on stand on lines of their own, too.
            let mut gap = self.end(annotation);
            self.behind_annotation(how, gap, Some(self.newlines(gap) > 0));
            while self.is_comment_token(gap) {
                gap += 1;
                self.behind_annotation(how, gap, None);
            }
        }
    }

    fn behind_annotation(&mut self, how: Annotations, gap: u32, shows: Option<bool>) {
        let (kept, next) = (GapPlan::author(true), GapPlan::hard(NO_GROUP, 0, 0));
        match how {
            Annotations::BySetting => self.set_by(gap, Key::WrapAnnotation, [kept, next], shows),
            _ => self.plan.set(gap, kept),
        }
    }

    /// A conditional used as a value, which may stay on one line with its blocks.
    fn is_inline_branch(&self, id: NodeId) -> bool {
        self.role(id) == Role::Branch
            && self.tree.parent(id).is_some_and(|parent| {
                let role = self.role(parent);
                // A grammar may wrap the value a block ends in in a statement of its own.
                let bare = role == Role::Statement && self.end(id) == self.end(parent);
                let block = if bare { self.tree.node(parent).parent } else { parent };
                let tail = self.role(block) == Role::Block && self.end(id) + 1 == self.end(block);
                if tail && self.tree.child_named(id, "alternative").is_some() {
                    return true;
                }
                !matches!(role, Role::Statement | Role::Block | Role::File | Role::Branch)
                    && !self.table.spec.else_kinds.contains(&self.name(parent))
                    || matches!(self.rule_of(parent), Rule::Assign(_))
            })
    }
}
