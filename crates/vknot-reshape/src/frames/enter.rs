//! What a node opens, and where lines inside it begin.

use vknot_style::Key;
use vknot_style::choices::AlignList;
use vknot_syntax::{Node, NodeId, Role, Span};

use super::blocks::Block;
use super::comments::touches_comment;
use super::marks::{closer, ends_item, is_operator};
use super::place::{By, Place};
use super::stack::{Frame, Frames, LinesUp};
use super::ways::Written;
use crate::spec::forms::HeadRule;
use crate::spec::indent::{Hold, KindIndent};

impl Frames<'_> {
    /// Opens what a node opens.
    pub(super) fn enter(&mut self, id: NodeId, node: &Node, column: &mut dyn FnMut() -> u32) {
        let kind = self.table.kind(node.kind);
        self.count_in_top(id, node, kind);
        if node.is_leaf() {
            let top = self.top();
            if top.item_has_line && node.parent == top.node && ends_item(self.text(id)) {
                self.stack.last_mut().into_iter().for_each(|top| top.item_has_line = false);
            }
            self.enter_leaf(id, node, kind, column);
            self.enter_block(node, kind.role, column);
            if kind.role != Role::Comment {
                self.behind = Some(node.first_token);
            }
        }
        if kind.role == Role::Attribute && self.top().hold == Hold::Tag && !self.top().named {
            self.enter_attributes(column());
        }
        if let Some(place) = self.behind_keyword(node, kind.role) {
            (self.current, self.behind_mark) = (place, place);
        }
        let current = self.among(node).unwrap_or(self.current);
        match kind.hold {
            Hold::Through => {}
            Hold::Head | Hold::Header => {
                self.push(id, kind.hold, current, current.deeper(self.options.wrap));
            }
            Hold::Chain if !self.is_inside_like(node) => {
                self.push(id, kind.hold, current, current.deeper(self.options.wrap));
            }
            Hold::Operands if self.leads_or_follows_word(node) && self.begins_operands(node) => {
                self.push(id, kind.hold, current, current.deeper(self.options.wrap));
            }
            Hold::Arm | Hold::Branch if self.is_middle(id) => {
                // It goes with its head, also where it ends the line of the statement in front of it.
                let top = self.top();
                let with_head = top.hold == Hold::Branch && top.bracket.is_none() && node.parent == top.node;
                let anchor = if with_head && !self.is_at_line_start(node) { top.anchor } else { current };
                self.push(id, Hold::Branch, anchor, anchor.deeper(self.options.size));
            }
            Hold::Element => {
                let deeper = if self.is_flush(id) { 0 } else { self.options.size };
                let by = By::Setting(Key::IndentPage, current);
                self.push_by(id, kind.hold, (current, current.deeper(deeper)), by);
            }
            Hold::Arm => {
                let places = (current, current.deeper(self.options.arm));
                self.push_by(id, kind.hold, places, By::Step(current));
            }
            Hold::Branch | Hold::Section => {
                self.push(id, kind.hold, current, current.deeper(self.options.size));
                if kind.hold == Hold::Section && self.options.align != AlignList::None {
                    self.line_up_with_next(LinesUp::Base);
                }
            }
            Hold::Tag => self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap)),
            Hold::Margin => self.enter_directive(node),
            Hold::Inactive => self.enter_inactive(id),
            Hold::Flat | Hold::Parts => self.push(id, kind.hold, self.current, self.current),
            // A body without brackets, such as that of a keyword language.
            Hold::Body if !self.begins_with_bracket(id) => {
                let leads = self.is_at_line_start(node) && !self.tree.is_comment(node.first_token);
                let (base, by) = match leads {
                    true => (self.stood, By::Structure),
                    false => self.inside(),
                };
                // What is off in its first line says nothing of the others.
                let written = self.top().written.bare();
                self.push_by(id, kind.hold, (self.current, base), by);
                self.stack.iter_mut().next_back().into_iter().for_each(|body| {
                    body.written = Written { usual: base, ..written };
                });
            }
            _ => {}
        }
    }

    /// Where a node stands that begins with a directive: not with that, but with what it is among.
    fn among(&self, node: &Node) -> Option<Place> {
        let top = self.top();
        let same = self.tree.node(top.node).first_token == node.first_token && top.node != NodeId(0);
        self.leads_with_directive(node).then_some(if same { top.anchor } else { top.base })
    }

    /// Where the first of several things that one keyword declares stands, if what it holds was written as standing against it, not against
    /// the keyword: its bracket closes where its name begins.
    fn behind_keyword(&self, node: &Node, role: Role) -> Option<Place> {
        let tree = self.tree;
        let declared = matches!(role, Role::Member | Role::Assignment) && !self.is_at_line_start(node);
        let next = Some(NodeId(node.next)).filter(|next| declared && tree.nodes().get(next.0 as usize).is_some())?;
        let several = tree.node(next).parent == node.parent && self.text(next) == ",";
        let holder = tree.node(node.parent);
        let statement = tree.role(node.parent) == Role::Statement && holder.first_token == self.line_token;
        let close = tree.tokens().get(node.token_end.checked_sub(1)? as usize).filter(|_| several && statement)?;
        let begins_line = self.source.line_blank(close.start).end == close.start;
        if !begins_line || closer(self.source.slice(close.span()), tree.role(close.node)).is_none() {
            return None;
        }
        let line = self.source.line_blank(node.start);
        let further = self.source.slice(Span::new(line.end, node.start)).chars().count() as u32;
        let closes_there = self.written_column(close.start) == self.written_column(node.start) + further;
        closes_there.then(|| match further % self.options.size.max(1) {
            0 => self.current.deeper(further),
            _ => self.current.aligned(further),
        })
    }

    /// Counts a node among what the innermost frame holds.
    fn count_in_top(&mut self, id: NodeId, node: &Node, kind: KindIndent) {
        let KindIndent { role, hold, .. } = kind;
        let word = || node.is_leaf() && self.table.spec.prefixes.contains(&self.text(id));
        let first = node.first_token == self.top().prefix_end;
        let prefix = first
            && (matches!(role, Role::Annotation | Role::Comment) || hold == Hold::Margin || kind.prefix || word());
        let moves = first && !prefix && node.parent == self.top().node && self.stands_in(node, self.top());
        let (current, wrap) = (self.current, self.options.wrap);
        let Some(top) = self.stack.last_mut() else { return };
        if node.parent == top.node {
            top.passed += u32::from(role != Role::Comment);
            top.named |= hold == Hold::List && node.start >= top.name;
        }
        if prefix {
            top.prefix_end = node.token_end;
        } else if moves {
            (top.anchor, top.close) = (current, current);
            top.base = current.deeper(wrap);
        }
    }

    /// Where the lines of a body stand that begins behind its head.
    fn inside(&self) -> (Place, By) {
        let top = self.top();
        match top.hold {
            Hold::Branch | Hold::Arm => (top.base, By::Structure),
            Hold::Head => {
                let by = By::Setting(Key::IndentFunction, top.anchor);
                (top.anchor.deeper(self.function_body(top.node)), by)
            }
            _ => (self.current, By::Structure),
        }
    }

    /// How far a body stands in that no bracket opens.
    pub(crate) fn function_body(&self, id: NodeId) -> u32 {
        let holder = self.tree.node(id).parent;
        let in_function = self.tree.role(self.tree.node(holder).parent) == Role::Callable;
        let of_file = self.tree.role(holder) == Role::File || in_function;
        if of_file && self.tree.role(id) == Role::Callable { self.options.function } else { self.options.size }
    }

    /// Whether a node begins a line, or stands behind a word that does, which is not the first of what holds both.
    fn leads_or_follows_word(&self, node: &Node) -> bool {
        let line_token = self.tree.tokens().get(self.line_token as usize);
        let word = line_token.filter(|word| self.tree.node(word.node).parent == node.parent);
        let of_both = |text: &str| text.bytes().all(|byte| byte.is_ascii_alphabetic());
        self.is_at_line_start(node)
            || node.first_token.checked_sub(1) == Some(self.line_token)
                && self.tree.node(node.parent).first_token < self.line_token
                && word.is_some_and(|word| of_both(self.source.slice(word.span())))
    }

    /// Whether a node begins with an operand, and no longer one like it does so.
    fn begins_operands(&self, node: &Node) -> bool {
        let first = self.tree.tokens().get(node.first_token as usize);
        // A mark of one operand is of an operation of its own.
        let of_same = |mark: NodeId| self.tree.parent(mark).map(|holder| self.tree.node(holder).kind)
            == Some(node.kind);
        !self.is_inside_like(node)
            && first.is_some_and(|first| !of_same(first.node) || !is_operator(self.source.slice(first.span())))
    }

    /// Whether a node is the beginning of a longer one that holds the same, as a chain is of a longer chain.
    fn is_inside_like(&self, node: &Node) -> bool {
        let parent = self.tree.node(node.parent);
        let hold = |node: &Node| self.table.kind(node.kind).hold;
        parent.first_token == node.first_token && hold(parent) == hold(node)
    }

    /// Where the name begins in front of which the lists of a header are not its own.
    fn name_of_header(&self, id: NodeId, hold: Hold) -> u32 {
        let name = Some(id).filter(|_| hold == Hold::Header).and_then(|id| self.tree.name_span(id));
        name.map_or(0, |name| name.start)
    }

    pub(crate) fn push(&mut self, id: NodeId, hold: Hold, anchor: Place, base: Place) {
        self.push_by(id, hold, (anchor, base), By::Structure);
    }

    /// The same, with what decides where lines inside begin.
    fn push_by(&mut self, id: NodeId, hold: Hold, (anchor, base): (Place, Place), by: By) {
        let node = self.tree.node(id);
        let serial = Self::node_serial(id);
        let wraps = !matches!(hold, Hold::Flat | Hold::Parts | Hold::Body | Hold::Arm | Hold::Branch | Hold::Element);
        let base = self.own_base(serial, if wraps { By::Wrap } else { by }, anchor).unwrap_or(base);
        self.stack.push(Frame {
            node: id,
            end: node.next,
            hold,
            bracket: None,
            anchor,
            base,
            close: anchor,
            prefix_end: node.first_token,
            named: false,
            name: self.name_of_header(id, hold),
            lined_up: false,
            rule: HeadRule::Call,
            passed: 0,
            first_column: None,
            item: anchor,
            item_has_line: false,
            argument: anchor.deeper(self.options.wrap),
            braces: 0,
            depth: self.stack.last().map_or(0, |top| top.depth),
            kept: self.stack.last().is_some_and(|top| top.kept) || self.is_preserved(id, hold),
            by,
            written: Written { usual: base, ..self.written_here() },
            serial,
        });
    }

    /// A comment or prose of several lines.
    fn enter_block(&mut self, node: &Node, role: Role, column: &mut dyn FnMut() -> u32) {
        let prose = self.tree.language().is_prose(node.kind);
        let span = node.span();
        let goes_on = touches_comment(self.tree, node.first_token);
        if (prose || role == Role::Comment) && !goes_on && !self.top().kept && self.source.slice(span).contains('\n') {
            let column = column();
            // Text that was well kept moves with its first line.
            let prose = Some(self.top().base).filter(|_| prose && self.ways.is_none());
            self.blocks.push(Block { token: node.first_token, column, prose, moved: 0 });
        }
    }
}
