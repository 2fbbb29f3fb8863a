//! What brackets open and close, and words that do the same.

use vknot_syntax::{Node, NodeId, Role, Span};

use super::stack::{Frame, Frames, LinesUp};
use crate::spec::forms::{FormSpec, HeadRule};
use super::forms;
use vknot_style::Key;
use vknot_style::choices::AlignList;
use super::place::{By, Place};
use crate::spec::indent::{Hold, KindIndent, Mark};
use super::marks::{is_one_of, opener, WORD};

impl Frames<'_> {
    /// Whether the first child of a node is a bracket, or a word that opens it.
    pub(crate) fn begins_with_bracket(&self, id: NodeId) -> bool {
        let opens = |first: NodeId| self.tree.role(first) == Role::Open || opener(self.text(first)).is_some();
        let directive = |id: &NodeId| self.table.kind(self.tree.node(*id).kind).hold == Hold::Margin;
        self.tree.children(id).find(|id| !directive(id)).is_some_and(opens)
    }

    /// Brackets and words that open and close.
    pub(super) fn enter_leaf(&mut self, id: NodeId, node: &Node, kind: KindIndent, column: &mut dyn FnMut() -> u32) {
        let parent = self.tree.node(node.parent);
        let hold = self.table.kind(parent.kind).hold;
        let role = kind.role;
        if self.top().hold == Hold::Inactive && self.top().bracket.is_none() {
            self.enter_inactive_leaf(node, self.text(id), role);
        }
        let leads = parent.first_token == node.first_token;
        let mark = if kind.mark == Mark::Unknown { Mark::of(self.text(id), role) } else { kind.mark };
        match mark {
            Mark::Opens(bracket) => self.open_bracket(node, hold, bracket, column),
            Mark::Closes(bracket) => self.close_bracket(node, bracket),
            _ if role == Role::Open && hold == Hold::Body && leads => self.open_bracket(node, hold, WORD, column),
            Mark::Less if hold == Hold::List && leads => self.open_bracket(node, hold, b'<', column),
            Mark::Greater => self.close_bracket(node, b'<'),
            Mark::Colon if self.leads_clauses(node) => self.line_up_behind(node, true),
            _ if role == Role::Close => self.close_bracket(node, WORD),
            _ if (self.options.align_operands || self.ways.is_some()) && self.leads_operands(self.text(id)) => {
                self.line_up_behind(node, self.options.align_operands);
            }
            _ => {}
        }
    }

    /// Whether a colon leads what a constructor initializes or what a type derives from.
    fn leads_clauses(&self, node: &Node) -> bool {
        let top = self.top();
        match top.hold {
            Hold::Header => top.named,
            Hold::Head => node.parent == top.node && self.tree.role(top.node) == Role::Type,
            _ => false,
        }
    }

    fn leads_operands(&self, text: &str) -> bool {
        self.table.spec.leads.contains(&text) || is_one_of(self.table.spec.conditions, text)
    }

    /// What holds a token, past assignments that leave their lines to what holds them.
    fn holder_of(&self, node: &Node) -> NodeId {
        let mut holder = node.parent;
        loop {
            let around = self.tree.node(holder);
            let kind = self.table.kind(around.kind);
            if kind.role != Role::Assignment || kind.hold != Hold::Through {
                return holder;
            }
            holder = around.parent;
        }
    }

    /// What wraps in the innermost frame `aligns` with what stands behind a token, such as the colon of a constructor, or may do so.
    fn line_up_behind(&mut self, node: &Node, aligns: bool) {
        let top = *self.top();
        let sequence = matches!(top.hold, Hold::Flat | Hold::Parts | Hold::Inactive | Hold::Body);
        if top.node == self.holder_of(node) && top.bracket.is_none() && !sequence {
            self.first_of = Some((self.stack.len() - 1, top.node));
            if !aligns {
                return;
            }
            self.line_up_with_next(match top.hold {
                Hold::Branch | Hold::Arm => LinesUp::Argument,
                _ => LinesUp::Base,
            });
        }
    }

    fn close_bracket(&mut self, node: &Node, bracket: u8) {
        // What is open inside the node has ended; a brace closes whatever was left open in front of it.
        let top = *self.top();
        let open = match bracket {
            _ if top.node != node.parent => None,
            b'{' if top.braces > 0 => self.stack.iter().rposition(|frame| frame.bracket == Some(bracket)),
            _ => (top.bracket == Some(bracket)).then_some(self.stack.len() - 1),
        };
        if let Some(open) = open {
            self.stack.truncate(open);
        }
    }

    fn open_bracket(&mut self, node: &Node, hold: Hold, bracket: u8, column: &mut dyn FnMut() -> u32) {
        let (top, options) = (*self.top(), self.options);
        let holder = node.parent;
        let body = matches!(bracket, b'{' | WORD) && !matches!(hold, Hold::List | Hold::Literal) || hold == Hold::Body;
        // A body stands against the beginning of what it is the body of, however far that wrapped.
        let around = self.tree.node(holder).parent;
        // What links go on with may have a body, too.
        let first = |id: NodeId| self.tree.node(id).first_token;
        let linked = top.hold == Hold::Chain && first(around) == first(top.node);
        let owned = top.bracket.is_none() && (top.node == holder || top.node == around || linked);
        let branch = matches!(top.hold, Hold::Branch | Hold::Arm);
        let leads = self.is_at_line_start(node);
        let handed = self.tree.role(holder) == Role::Lambda || self.tree.role(around) == Role::Lambda;
        let closing = self.closing_line(holder);
        let anchor = match body && owned && top.hold != Hold::Flat {
            true if leads && branch => self.current,
            // What a line led by a mark hands over, or gives to choose from, stands against what is behind the mark, like a list would.
            true
                if handed && top.anchor == self.current
                    || self.tree.role(around) == Role::Operator && self.behind_mark != self.current => self.behind_mark,
            true => top.anchor,
            false => closing.and_then(|closing| self.of_item(closing)).unwrap_or(self.behind_mark),
        };
        let of = self.table.kind(self.tree.node(top.node).kind);
        let wraps = self.wrapper == Some(holder);
        let deeper = match (body, hold) {
            (true, _) if owned && of.flush => 0,
            (true, _) if owned && of.namespace => options.namespace,
            (true, _) if wraps => options.wrapper,
            (_, Hold::Literal) => options.literal,
            (true, _) => options.size,
            _ => options.wrap,
        };
        let by = match (body, hold) {
            (true, _) if owned && (of.namespace || of.flush) => By::Setting(Key::IndentNamespace, anchor),
            (true, _) if wraps => By::Setting(Key::IndentWrapper, anchor),
            // Some let what is inside stand with a bracket that stands further in than what it belongs to.
            (true, _) if leads && self.current.columns() > top.anchor.columns() => By::Step(anchor),
            (true, _) => By::Structure,
            _ => By::Wrap,
        };
        let serial = Self::bracket_serial(node.first_token);
        let mut frame = Frame {
            node: holder,
            end: self.tree.node(holder).next,
            hold: if body { Hold::Body } else { hold },
            bracket: Some(bracket),
            anchor,
            base: self.own_base(serial, by, anchor).unwrap_or(anchor.deeper(deeper)),
            close: match hold {
                Hold::List if bracket == b'(' => anchor.deeper(options.bracket),
                // A brace that stands further in than what it belongs to has the one that closes it below.
                _ if closing.is_none() && matches!(by, By::Step(_)) => self.current,
                _ => anchor.deeper(closing.map_or(0, |closing| self.in_front_of_more(holder, closing))),
            },
            prefix_end: node.first_token,
            named: false,
            name: 0,
            lined_up: false,
            rule: HeadRule::Call,
            passed: 1,
            first_column: None,
            item: anchor,
            item_has_line: false,
            argument: anchor,
            kept: top.kept,
            braces: if top.node == holder { top.braces } else { 0 } + usize::from(bracket == b'{'),
            depth: top.depth + usize::from(matches!(bracket, b'(' | b'[' | b'{')),
            by,
            written: if anchor == top.anchor && body && owned { top.written.bare() } else { self.written_here() },
            serial,
        };
        let mut lines_up = false;
        if let Some(spec) = self.table.spec.forms {
            self.open_form(node, &mut frame, spec, column());
        } else if !body && !self.leads_statement(node, hold) {
            let round = bracket == b'(' || bracket == b'[' && hold != Hold::Literal;
            lines_up = options.align == AlignList::All || options.align == AlignList::Arguments && round;
        }
        frame.written.usual = frame.base;
        let marked = anchor == self.behind_mark && anchor != self.current;
        frame.written.mark = marked.then(|| self.current.columns());
        self.stack.push(frame);
        if !body {
            self.first_of = Some((self.stack.len() - 1, holder));
        }
        if lines_up {
            self.line_up_with_next(LinesUp::Items);
        }
    }

    /// Inside a macro: where the item stands that brackets belong to, told by the line of the closing one.
    fn of_item(&self, closing: Span) -> Option<Place> {
        let top = self.top();
        (top.first_column == Some(self.written_column(closing.start))).then_some(top.item)
    }

    /// Inside a macro: how many columns a closing bracket was put further in than the line of its opening one, where its line opens others.
    fn in_front_of_more(&self, holder: NodeId, closing: Span) -> u32 {
        let opens = self.source.slice(closing).trim_end().ends_with(['(', '[', '{']);
        let written = |at: u32| self.written_column(at);
        let further = written(closing.start).saturating_sub(written(self.tree.node(holder).start));
        if opens && further < self.options.size { further } else { 0 }
    }

    /// The line of the closing bracket inside a macro that leads it.
    fn closing_line(&self, holder: NodeId) -> Option<Span> {
        let in_macro = self.tree.role(self.top().node) == Role::Macro && self.tree.role(holder) == Role::Macro;
        let closing = self.tree.node(holder).end.checked_sub(1).filter(|_| in_macro)?;
        let line = self.source.whole_lines(Span::new(closing, closing));
        self.source.slice(line).trim_start().starts_with([')', ']', '}']).then_some(line)
    }

    /// Whether a literal begins a statement: the names that something is assigned to.
    fn leads_statement(&self, node: &Node, hold: Hold) -> bool {
        let first = hold == Hold::Literal && self.top().hold == Hold::Head && self.top().prefix_end == node.first_token;
        first && self.is_at_line_start(node)
    }

    fn open_form(&mut self, node: &Node, frame: &mut Frame, spec: &FormSpec, column: u32) {
        // A mark in front of the bracket does not count.
        let bracket = node.end.saturating_sub(1);
        let column = column + bracket.saturating_sub(node.start);
        frame.written.bracket = column;
        let position = self.top().passed;
        frame.rule = forms::rule_of(self.code, node.parent, spec, position, &self.options.heads);
        let mut parts = self.tree.parts(node.parent).skip(1);
        let open = self.source.line_column(bracket);
        let width = |to: &Node| self.source.line_column(to.start).column.saturating_sub(open.column);
        let same_line = |to: &&Node| self.source.line_column(to.start).line == open.line;
        let head = parts
            .next()
            .map(|head| self.tree.node(head))
            .filter(same_line)
            .map_or(column + 1, |head| column + width(head));
        let first =
            parts.next().map(|first| self.tree.node(first)).filter(same_line).map(|first| column + width(first));
        frame.base = Place::level(match frame.rule {
            HeadRule::Body(_) | HeadRule::Aligned(_) => column + spec.body,
            HeadRule::Call => first.unwrap_or(head),
            HeadRule::Clauses => first.unwrap_or(column + spec.body),
            HeadRule::Data => head,
            HeadRule::Inner => head + spec.body,
        });
        let own = self.own_base(frame.serial, By::Wrap, Place::level(column));
        frame.base = own.unwrap_or(frame.base);
        let below = first.filter(|_| matches!(frame.rule, HeadRule::Aligned(_)));
        frame.argument = Place::level(below.unwrap_or(column + spec.argument));
        frame.close = Place::level(head);
    }
}
