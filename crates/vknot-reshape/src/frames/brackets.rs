//! What brackets open and close, and words that do the same.

use vknot_syntax::{Node, NodeId, Role};

use super::engine::{Engine, Frame};
use crate::spec::forms::{FormSpec, HeadRule};
use super::forms;
use vknot_style::choices::AlignList;
use super::place::Place;
use crate::spec::indent::Hold;
use super::spots::is_one_of;

/// What stands for a word that opens or closes.
const WORD: u8 = b'w';

impl Engine<'_> {
    /// Whether the first child of a node is a bracket, or a word that opens it.
    pub(crate) fn begins_with_bracket(&self, id: NodeId) -> bool {
        let opens = |first: NodeId| self.tree.role(first) == Role::Open || opener(self.text(first)).is_some();
        self.tree.children(id).next().is_some_and(opens)
    }

    /// Brackets and words that open and close.
    pub(crate) fn enter_leaf(&mut self, id: NodeId, node: &Node, role: Role) {
        let parent = self.tree.node(node.parent);
        let hold = self.table.kind(parent.kind).hold;
        let text = self.text(id);
        let bracket = match opener(text) {
            Some(bracket) if !matches!(role, Role::String | Role::Comment | Role::Inert) => Some(bracket),
            _ if role == Role::Open && hold == Hold::Body && parent.first_token == node.first_token => Some(WORD),
            _ if text == "<" && hold == Hold::List && parent.first_token == node.first_token => Some(b'<'),
            _ => None,
        };
        if self.top().hold == Hold::Inactive && self.top().bracket.is_none() {
            self.enter_inactive_leaf(node, text, role);
        }
        if let Some(bracket) = bracket {
            self.open_bracket(node, hold, bracket);
        } else if let Some(bracket) = closer(text, role) {
            self.close_bracket(node, bracket);
        } else if text == ":" && self.top().hold == Hold::Header && self.top().named
            || self.options.align_operands && self.leads_operands(text)
        {
            self.line_up_behind(node);
        }
    }

    fn leads_operands(&self, text: &str) -> bool {
        let conditions = self.table.spec.conditions;
        matches!(text, "=" | "return" | ":=" | "+=" | "-=")
            || is_one_of(conditions, text)
    }

    /// What wraps in the innermost frame lines up with what stands behind a token, such as the colon of a constructor.
    fn line_up_behind(&mut self, node: &Node) {
        let sequence = matches!(self.top().hold, Hold::Flat | Hold::Parts | Hold::Inactive | Hold::Body);
        if self.top().node == node.parent && self.top().bracket.is_none() && !sequence && self.is_filled(node) {
            let next = self.tree.tokens().get(node.token_end as usize).map_or(node.end, |token| token.start);
            let base = self.current.lined_up(self.pen.column_of(next));
            if let Some(last) = self.frames.last_mut() {
                match last.hold {
                    Hold::Branch | Hold::Arm => last.argument = base,
                    _ => last.base = base,
                }
            }
        }
    }

    fn close_bracket(&mut self, node: &Node, bracket: u8) {
        // What is open inside the node has ended; a brace closes whatever was left open in front of it.
        let top = self.top();
        let open = match bracket {
            _ if top.node != node.parent => None,
            b'{' if top.braces > 0 => self.frames.iter().rposition(|frame| frame.bracket == Some(bracket)),
            _ => (top.bracket == Some(bracket)).then_some(self.frames.len() - 1),
        };
        if let Some(open) = open {
            self.frames.truncate(open);
        }
    }

    fn open_bracket(&mut self, node: &Node, hold: Hold, bracket: u8) {
        let (top, options) = (self.top(), self.options);
        let holder = node.parent;
        let body = matches!(bracket, b'{' | WORD) && !matches!(hold, Hold::List | Hold::Literal) || hold == Hold::Body;
        // A body stands against the beginning of what it is the body of, however far that wrapped.
        let owned = top.bracket.is_none() && (top.node == holder || top.node == self.tree.node(holder).parent);
        let branch = matches!(top.hold, Hold::Branch | Hold::Arm);
        let leads = self.pen_is_at_line_start(node);
        let anchor = match body && owned && top.hold != Hold::Flat {
            true if leads && branch => self.current,
            true => top.anchor,
            false => self.behind_mark,
        };
        let of = self.table.kind(self.tree.node(top.node).kind);
        let deeper = match (body, hold) {
            (true, _) if owned && of.flush => 0,
            (true, _) if owned && of.namespace => options.namespace,
            (_, Hold::Literal) => options.literal,
            (true, _) => options.size,
            _ => options.wrap,
        };
        let mut frame = Frame {
            node: holder,
            end: self.tree.node(holder).next,
            hold: if body { Hold::Body } else { hold },
            bracket: Some(bracket),
            anchor,
            base: anchor.deeper(deeper),
            close: anchor.deeper(if bracket == b'(' && hold == Hold::List { options.bracket } else { 0 }),
            prefix_end: node.first_token,
            named: false,
            lined_up: false,
            rule: HeadRule::Call,
            passed: 1,
            argument: anchor,
            kept: top.kept,
            braces: if top.node == holder { top.braces } else { 0 } + usize::from(bracket == b'{'),
            depth: top.depth + usize::from(matches!(bracket, b'(' | b'[' | b'{')),
        };
        if let Some(spec) = self.table.spec.forms {
            self.open_form(node, &mut frame, spec);
        } else if !body && self.is_filled(node) && !self.leads_statement(node, hold) {
            let round = bracket == b'(' || bracket == b'[' && hold != Hold::Literal;
            if options.align == AlignList::All || options.align == AlignList::Arguments && round {
                let next = self.tree.tokens().get(node.token_end as usize).map_or(node.end, |token| token.start);
                let column = self.pen.column_of(node.start);
                frame.base = self.current.lined_up(column + next - node.start);
                frame.lined_up = true;
            }
        }
        self.frames.push(frame);
    }

    /// Whether a literal begins a statement: the names that something is assigned to.
    fn leads_statement(&mut self, node: &Node, hold: Hold) -> bool {
        let first = hold == Hold::Literal && self.top().hold == Hold::Head && self.top().prefix_end == node.first_token;
        first && self.pen_is_at_line_start(node)
    }

    pub(crate) fn pen_is_at_line_start(&mut self, node: &Node) -> bool {
        self.pen.column_of(node.start) == self.current.columns()
    }

    /// Whether something stands behind an opening bracket on its line.
    pub(crate) fn is_filled(&self, node: &Node) -> bool {
        let gap = self.tree.gap(self.source.text(), node.token_end);
        gap.newlines == 0
            && (node.token_end as usize) < self.tree.tokens().len()
            && !self.tree.is_comment(node.token_end)
    }

    fn open_form(&mut self, node: &Node, frame: &mut Frame, spec: &FormSpec) {
        // A mark in front of the bracket does not count.
        let bracket = node.end.saturating_sub(1);
        let column = self.pen.column_of(bracket);
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
        let below = first.filter(|_| matches!(frame.rule, HeadRule::Aligned(_)));
        frame.argument = Place::level(below.unwrap_or(column + spec.argument));
        frame.close = Place::level(head);
    }
}

/// The bracket that a token opens, without the mark in front of it.
pub(crate) fn opener(text: &str) -> Option<u8> {
    match text {
        "(" | "[" | "{" => text.bytes().next(),
        _ => {
            let (mark, bracket) = text.split_at_checked(text.len().checked_sub(1)?)?;
            let marked =
                mark.starts_with(['#', '@', '$']) && mark.bytes().skip(1).all(|byte| byte.is_ascii_alphanumeric());
            bracket.bytes().next().filter(|byte| marked && b"([{".contains(byte))
        }
    }
}

/// The bracket that a token closes.
pub(crate) fn closer(text: &str, role: Role) -> Option<u8> {
    match text {
        ")" => Some(b'('),
        "]" => Some(b'['),
        "}" => Some(b'{'),
        ">" | "/>" => Some(b'<'),
        _ => (role == Role::Close).then_some(WORD),
    }
}
