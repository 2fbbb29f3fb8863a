//! Where a line stands, by what is open there and what it begins with.

use vknot_syntax::{Node, NodeId, Role};

use super::marks::{closer, ends_item, is_one_of, is_operator, leads_clause, opener};
use super::stack::{Frame, Frames};
use crate::spec::forms::HeadRule;
use vknot_style::Key;
use vknot_style::choices::{AccessPlace, LabelPlace};
use super::place::{blank_columns, By, Place, Spot};
use crate::spec::indent::Hold;

impl Frames<'_> {
    /// Where a line that begins with a node stands.
    pub(super) fn spot(&self, id: NodeId, node: &Node) -> Spot {
        let mut frame = *self.top();
        let kind = self.table.kind(node.kind);
        if frame.hold == Hold::Operands && !(node.is_leaf() && is_operator(self.text(id))) {
            let holder = self.stack.iter().rev().find(|frame| frame.hold != Hold::Operands);
            frame = holder.copied().unwrap_or(frame);
        }
        let direct = node.parent == frame.node;
        if self.is_directive(node) {
            let place = || self.goes_on(node).unwrap_or(frame.base);
            let place = if self.options.directive_margin { Place::default() } else { place() };
            return Spot::by(place, By::Author);
        }
        if kind.hold == Hold::Inactive {
            return Spot::by(self.inactive_base(), By::Author);
        }
        let closes = || node.is_leaf()
            && closer(self.text(id), kind.role).is_some_and(|bracket| frame.is_closed_by(bracket));
        if direct && (kind.hold == Hold::Closing || closes()) {
            return Spot { place: frame.close, closes: true, by: By::Close };
        }
        if self.is_labelled(id) {
            return self.jump_target(&frame);
        }
        if let Some(spot) = self.label_spot(id, &frame, kind.role) {
            return spot;
        }
        if self.parts_statements(id, node) {
            return frame.anchor.into();
        }
        match (frame.hold, frame.bracket) {
            (Hold::Flat | Hold::Parts, None) => self.in_sequence(id, node, &frame).into(),
            (Hold::Inactive, None) => Spot::by(self.in_inactive(node), By::Author),
            (Hold::Body, _) => self.in_body(id, node, &frame),
            (_, Some(_)) => Spot::by(self.in_list(&frame), By::Wrap),
            (Hold::Branch | Hold::Arm, None) => self.in_branch(id, node, &frame),
            (Hold::Element, None) => Spot::by(frame.base, frame.by),
            (Hold::Section, None) => Spot::by(frame.base, By::Wrap),
            (Hold::Tag | Hold::Operands, None) => Spot::by(frame.base, By::Wrap),
            _ => self.in_head(id, node, &frame),
        }
    }

    /// Whether a semicolon ends a statement on a line above, and the next one begins on its line.
    fn parts_statements(&self, id: NodeId, node: &Node) -> bool {
        let holder = self.tree.node(node.parent);
        let ends = node.token_end == holder.token_end && node.first_token > holder.first_token;
        let gap = self.tree.gap_span(node.token_end);
        // A clause of a loop is no statement.
        let clause = self.tree.role(holder.parent) == Role::Branch
            && holder.token_end < self.tree.node(holder.parent).token_end;
        node.is_leaf()
            && ends
            && !clause
            && self.text(id) == ";"
            && !matches!(self.tree.role(node.parent), Role::Branch | Role::Arm | Role::Error)
            && gap.end < self.source.span().end
            && !self.source.slice(gap).contains('\n')
    }

    /// Labels and labelled groups.
    fn label_spot(&self, id: NodeId, frame: &Frame, role: Role) -> Option<Spot> {
        let options = self.options;
        let holder = self.tree.role(frame.node);
        let labels = |usual: Place, key| {
            Some(Spot::by(frame.written.labels.unwrap_or(usual), By::Setting(key, frame.anchor)))
        };
        match role {
            Role::Arm if self.is_middle(id) => None,
            Role::Arm if matches!(frame.hold, Hold::Body | Hold::Branch) => {
                labels(frame.anchor.deeper(options.case), Key::IndentCase)
            }
            Role::Label if frame.hold == Hold::Arm && self.leads_arm(id, frame) => Some(frame.anchor.into()),
            Role::Label if holder == Role::Body => {
                let place = match options.access {
                    AccessPlace::Type => frame.anchor,
                    AccessPlace::Half => frame.anchor.deeper(options.size / 2),
                    AccessPlace::Member => frame.base,
                };
                labels(place, Key::IndentAccess)
            }
            Role::Label if holder == Role::Block || frame.hold == Hold::Arm => Some(self.jump_target(frame)),
            _ => None,
        }
    }

    /// Whether a label is the first of an arm, or stands right behind another one.
    fn leads_arm(&self, id: NodeId, frame: &Frame) -> bool {
        self.tree.node(id).first_token == self.tree.node(frame.node).first_token || self.before() == ":"
    }

    fn jump_target(&self, frame: &Frame) -> Spot {
        let place = match self.options.label {
            LabelPlace::Margin => Place::default(),
            LabelPlace::Out => frame.base.shallower(self.options.size),
            LabelPlace::In => frame.base,
        };
        Spot::by(place, By::Setting(Key::IndentLabel, frame.base))
    }

    /// Whether a node is a target of a jump, or a run of statements that begins with one.
    fn is_labelled(&self, id: NodeId) -> bool {
        let labelled = |id: NodeId| self.table.kind(self.tree.node(id).kind).hold == Hold::Labelled;
        let run = || self.tree.role(id) == Role::Part && self.tree.parts(id).next().is_some_and(labelled);
        labelled(id) || run()
    }

    /// Whether a node begins with a word that stands with the head of its branch.
    pub(crate) fn is_middle(&self, id: NodeId) -> bool {
        let first = self.behind_directives(self.tree.node(id));
        let word = self.tree.tokens().get(first as usize).map_or("", |token| self.source.slice(token.span()));
        let spec = self.table.spec;
        let tails = if self.tree.node(id).is_leaf() { spec.tails } else { &[] };
        is_one_of(spec.middle, word) || is_one_of(tails, word)
    }

    /// Among items that need no bracket around them. Pieces that could not be read are told apart by marks.
    fn in_sequence(&self, id: NodeId, node: &Node, frame: &Frame) -> Place {
        let role = self.table.kind(node.kind).role;
        if frame.hold == Hold::Parts && matches!(role, Role::Statement | Role::Branch) {
            return frame.base.deeper(self.options.size);
        }
        // What ends a file stands with its parts, wherever their items do.
        let ends_file = role == Role::Block || node.is_leaf() && is_one_of(self.table.spec.closing, self.text(id));
        if frame.hold == Hold::Parts && ends_file {
            return frame.anchor;
        }
        if self.tree.role(frame.node) != Role::Error || self.begins_item(node) {
            return frame.base;
        }
        frame.base.deeper(self.options.wrap)
    }

    /// Whether the token in front of a node ends a statement, or a node opens braces, which stand with what they belong to.
    pub(crate) fn begins_item(&self, node: &Node) -> bool {
        let before = self.before();
        let is_item = self.table.kind(node.kind).role.is_item();
        is_item || before.is_empty() || self.opens(node) == Some(b'{') || self.table.spec.ends.contains(&before)
    }

    /// The text of the code in front of the line at hand.
    pub(crate) fn before(&self) -> &str {
        let token = self.behind.and_then(|token| self.tree.tokens().get(token as usize));
        token.map_or("", |token| self.source.slice(token.span()))
    }

    fn in_body(&self, id: NodeId, node: &Node, frame: &Frame) -> Spot {
        match self.tree.role(frame.node) {
            Role::Error if !self.begins_item(node) => Spot::by(frame.base.deeper(self.options.wrap), By::Wrap),
            Role::Macro => Spot::by(self.in_macro(id, node, frame), By::Author),
            _ => Spot::by(frame.base, frame.by),
        }
    }

    /// Inside a macro, where nothing is code for certain: lines keep how they stand to the first one between the same brackets. One that an
    /// operator leads goes on with an item that has a line of its own.
    fn in_macro(&self, id: NodeId, node: &Node, frame: &Frame) -> Place {
        let further = self.written_column(node.start).saturating_sub(frame.first_column.unwrap_or(u32::MAX));
        let follows = self.table.spec.links_follow_blocks && self.led_by_closing && self.text(id) == ".";
        let joins = is_operator(self.text(id)) && !follows && !ends_item(self.before()) && frame.item_has_line;
        // What stands a few columns off was not meant to.
        match further / self.options.size.max(1) {
            0 => frame.base.deeper(if joins { self.options.wrap } else { 0 }),
            levels => frame.base.deeper(levels * self.options.size),
        }
    }

    /// The column in which the line of an offset was written.
    pub(super) fn written_column(&self, offset: u32) -> u32 {
        let blank = self.source.line_blank(offset);
        blank_columns(self.source.slice(blank), self.options.indentation.tab_width)
    }

    /// Inside brackets: an item, or more of one.
    fn in_list(&self, frame: &Frame) -> Place {
        if self.table.spec.forms.is_some() {
            return match frame.rule {
                HeadRule::Body(count) | HeadRule::Aligned(count) if frame.passed <= count + 1 => frame.argument,
                _ => frame.base,
            };
        }
        let parenthesized = self.tree.role(frame.node) == Role::Parenthesized;
        let continued = || !matches!(self.before(), "," | ";" | "(" | "[" | "{" | "<" | "")
            && !self.follows_annotation(
                frame,
            );
        if self.options.operand > 0 && !parenthesized && !frame.lined_up && continued() {
            return frame.base.deeper(self.options.operand);
        }
        frame.base
    }

    /// Whether what stands in front of the line at hand is said about the item that begins with it.
    fn follows_annotation(&self, frame: &Frame) -> bool {
        let before = self.behind.and_then(|token| self.tree.tokens().get(token as usize));
        // Annotations are shallow, so looking a few steps up is enough.
        let holders = before.into_iter().flat_map(|before| self.tree.ancestors(before.node).take(12));
        holders.take_while(|id| *id != frame.node).any(|id| self.tree.role(id) == Role::Annotation)
    }

    fn in_branch(&self, id: NodeId, node: &Node, frame: &Frame) -> Spot {
        let kind = self.table.kind(node.kind);
        // What a directive parts from its `else` must do without it, too.
        if frame.hold == Hold::Branch && self.follows_directive() {
            return Spot::by(frame.anchor, By::Step(frame.anchor));
        }
        let text = if node.is_leaf() { self.text(id) } else { "" };
        if self.is_middle(id) && (node.is_leaf() || kind.role == Role::Arm || kind.hold == Hold::Branch) {
            let of_case = kind.role == Role::Arm
                && self.table.spec.cases.iter().any(|word| self.begins_with(self.tree.node(frame.node), word));
            let place = frame.anchor.deeper(if of_case { self.options.case_else } else { 0 });
            return if of_case { Spot::by(place, By::Setting(Key::IndentCaseElse, frame.anchor)) } else { place.into() };
        }
        if text == "{" || kind.hold == Hold::Body && self.opens_body(id, node) {
            let (deeper, key) = match frame.hold {
                Hold::Arm => (self.options.case_brace, Key::IndentCaseBrace),
                _ => (self.options.brace, Key::IndentBrace),
            };
            return Spot::by(frame.anchor.deeper(deeper), By::Setting(key, frame.anchor));
        }
        // Patterns stand below each other, with what they are of.
        let pattern = text == "|" && (frame.hold == Hold::Arm || self.tree.role(node.parent) != Role::Operator);
        if node.first_token == frame.prefix_end || pattern {
            return frame.anchor.into();
        }
        let (first, second) = self.table.spec.else_if.unwrap_or_default();
        if kind.hold == Hold::Branch && self.before().eq_ignore_ascii_case(first) && self.begins_with(node, second) {
            let place = frame.anchor.deeper(self.options.else_if);
            return Spot::by(place, By::Setting(Key::IndentElseIf, frame.anchor));
        }
        // What stands alone below one like it may stand with it.
        let stacked = |id: NodeId| self.table.spec.stacked.contains(
            &self.tree.language().kind_name(self.tree.node(id).kind),
        );
        if frame.hold == Hold::Branch && stacked(id) && stacked(frame.node) && node.parent == frame.node {
            return Spot::by(frame.anchor, By::Step(frame.anchor));
        }
        // Several labels of one group stand below each other.
        if frame.hold == Hold::Arm && self.tree.role(node.parent) == Role::Label {
            return frame.anchor.into();
        }
        let inside =
            matches!(kind.hold, Hold::Head | Hold::Header | Hold::Branch | Hold::Body | Hold::Section | Hold::Flat);
        if inside || frame.hold == Hold::Arm {
            return Spot::by(frame.base, frame.by);
        }
        let leads = self.leads_with_operator(node);
        let place = if leads { frame.anchor.deeper(self.options.condition) } else { frame.argument };
        Spot::by(place, By::Wrap)
    }

    /// Whether a node begins with what joins the two sides of it.
    fn leads_with_operator(&self, node: &Node) -> bool {
        let first = self.tree.tokens().get(node.first_token as usize);
        let text = first.map_or("", |first| self.source.slice(first.span()));
        let words = self.table.spec.operators;
        node.is_leaf() && (is_operator(text) || is_one_of(words, text))
    }

    fn begins_with(&self, node: &Node, word: &str) -> bool {
        let first = self.tree.tokens().get(self.behind_directives(node) as usize);
        first.is_some_and(|first| self.source.slice(first.span()).eq_ignore_ascii_case(word))
    }

    fn in_head(&self, id: NodeId, node: &Node, frame: &Frame) -> Spot {
        let kind = self.table.kind(node.kind);
        let annotates =
            node.first_token <= frame.prefix_end && (kind.role == Role::Annotation || self.follows_directive());
        // What is required may stand with what it is required of, or further in.
        let of_holder = || self.written_column(self.tree.node(frame.node).start);
        if kind.constraint && self.written_column(node.start) > of_holder() || self.stands_in(node, frame) {
            return Spot::by(frame.base, By::Wrap);
        }
        if node.first_token == frame.prefix_end || annotates {
            return frame.anchor.into();
        }
        if self.follows_block(frame) {
            return Spot::by(frame.anchor, By::Wrap);
        }
        if self.opens_body(id, node) || kind.hold == Hold::Section && node.parent == frame.node {
            return Spot::by(frame.anchor, By::Step(frame.anchor));
        }
        // The values of a constant open on a line of their own as a body does.
        if kind.hold == Hold::Literal && self.opens(node) == Some(b'(') {
            return Spot::by(frame.anchor, By::Wrap);
        }
        if kind.hold == Hold::Body {
            let place = frame.anchor.deeper(self.function_body(frame.node));
            return Spot::by(place, By::Setting(Key::IndentFunction, frame.anchor));
        }
        // What is done where a value is another one stands with the declaration.
        if node.is_leaf() && node.parent == frame.node && self.is_middle(id) {
            return frame.anchor.into();
        }
        // What is of a type stands with it below its body.
        if node.is_leaf()
            && node.parent == frame.node
            && self.before() == "}"
            && self.tree.role(frame.node) == Role::Type
        {
            return Spot::by(frame.anchor, By::Wrap);
        }
        // A result may stand with what gives it, and a function with one that gives it.
        let given = self.tree.role(node.parent) == Role::Lambda && kind.role == Role::Lambda;
        let result = node.is_leaf() && self.text(id) == "->" || given;
        if result
            && node.parent == frame.node
            && self.written_column(node.start) == self.written_column(self.tree.node(frame.node).start)
        {
            return Spot::by(frame.anchor, By::Wrap);
        }
        // Commas may lead initializers, below the colon that leads the first.
        if frame.hold == Hold::Header && frame.named && node.is_leaf() && leads_clause(self.text(id)) {
            return Spot::by(frame.argument, By::Wrap);
        }
        let of = self.tree.node(frame.node).kind;
        let named = self.table.spec.named.contains(&self.tree.language().kind_name(of));
        let selects = (named || self.table.kind(of).role == Role::Rule) && self.before() == ",";
        let names = frame.hold == Hold::Header && !frame.named && !matches!(self.before(), "," | "=" | "+");
        Spot::by(if selects || names { frame.anchor } else { frame.base }, By::Wrap)
    }

    /// Whether a link of a chain follows a closing bracket that stands at the beginning of the chain.
    fn follows_block(&self, frame: &Frame) -> bool {
        self.table.spec.links_follow_blocks
            && frame.hold == Hold::Chain
            && self.led_by_closing
            && self.current == frame.anchor
            && (matches!(self.before(), "}" | ")" | "]" | "?") || self.led_by_link)
    }

    /// Whether all that is declared stands further in than the parameters of its template, on the lines above it.
    pub(super) fn stands_in(&self, node: &Node, frame: &Frame) -> bool {
        let holder = self.tree.node(frame.node);
        let first =
            self.tree.tokens().get(holder.first_token as usize).map_or("", |token| self.source.slice(token.span()));
        if node.first_token != frame.prefix_end
            || frame.prefix_end == holder.first_token
            || !self.table.spec.prefixes.contains(&first)
            || !self.is_at_line_start(node)
        {
            return false;
        }
        let column = self.written_column(node.start);
        column == self.written_column(holder.start) + self.options.size
            && self.written_column(holder.end.saturating_sub(1)) >= column
    }

    /// Whether a node begins with the brace, or the word, that opens a body.
    pub(crate) fn opens_body(&self, id: NodeId, node: &Node) -> bool {
        let body = || self.table.kind(node.kind).hold == Hold::Body || self.tree.role(id) == Role::Macro;
        let word = || self.tree.children(id).next().is_some_and(|first| self.tree.role(first) == Role::Open);
        self.opens(node) == Some(b'{') || word() || body() && self.begins_with_bracket(id)
    }

    /// The bracket a node begins with.
    pub(crate) fn opens(&self, node: &Node) -> Option<u8> {
        let token = self.tree.tokens().get(self.behind_directives(node) as usize)?;
        opener(self.source.slice(token.span()))
    }
}
