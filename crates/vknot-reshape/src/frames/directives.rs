//! Conditionals of a preprocessor: their parts stand with their beginning, and branches that were read flat, since their brackets
//! do not match, go by the first line of the branch that counts and by what opens and closes inside them.

use vknot_syntax::{Node, NodeId, Role, TokenId};

use super::stack::{Branches, Frames};
use super::place::Place;
use crate::spec::indent::{Conditional, Hold};
use super::marks::{closer, is_one_of, opener};

impl Frames<'_> {
    /// Where a directive stands that goes on with a conditional or ends it.
    pub(super) fn goes_on(&self, node: &Node) -> Option<Place> {
        let part = self.part(node).filter(|part| *part != Conditional::Begin);
        part.and(self.conditionals.last()).and_then(|conditional| self.places.get(conditional.line)).copied()
    }

    /// Whether a node begins with a directive.
    pub(super) fn is_directive(&self, node: &Node) -> bool {
        let directive = self.table.kind(node.kind).hold == Hold::Margin;
        directive || self.leads_with_directive(node)
    }

    /// Whether the first token of a node is a directive, or the mark of one.
    pub(super) fn leads_with_directive(&self, node: &Node) -> bool {
        if !self.table.has_directives {
            return false;
        }
        let Some(first) = self.tree.tokens().get(node.first_token as usize) else { return false };
        let directive = |node: &Node| self.table.kind(node.kind).hold == Hold::Margin;
        let leaf = self.tree.node(first.node);
        let parent = self.tree.node(leaf.parent);
        directive(leaf) || directive(parent) && parent.first_token == node.first_token
    }

    /// Whether a directive stands in front of the line at hand.
    pub(super) fn follows_directive(&self) -> bool {
        let before = self.behind.and_then(|before| self.tree.tokens().get(before as usize));
        before.is_some_and(|before| self.leads_with_directive(self.tree.node(before.node)))
    }

    /// Whether a comment stands, in a column, above the word of a directive that is set off from its mark (`#   define`).
    pub(super) fn heads_directive(&self, comment: &Node, column: u32) -> bool {
        let next = self.tree.tokens().get(comment.token_end as usize).filter(|_| self.table.has_directives);
        let text = next.map_or("", |next| self.source.slice(next.span()));
        let blanks = text.strip_prefix('#').map_or(0, |rest| rest.len() - rest.trim_start_matches(' ').len());
        blanks > 0 && next.is_some_and(|next| self.written_column(next.start) + 1 + blanks as u32 == column)
    }

    /// The first token of a node that is no directive: some stand in front of the first word of what they are about.
    pub(super) fn behind_directives(&self, node: &Node) -> TokenId {
        let tokens = self.tree.tokens();
        let is_code = |token: &TokenId| {
            let leaf = tokens.get(*token as usize).map(|token| self.tree.node(token.node));
            leaf.is_some_and(|leaf| self.table.kind(leaf.kind).hold != Hold::Margin)
        };
        match self.table.has_directives {
            true => (node.first_token..node.token_end).find(is_code).unwrap_or(node.first_token),
            false => node.first_token,
        }
    }

    /// Comments in front of a directive wait for the code behind it, and so does the directive, if it stands with the code. What goes
    /// on with a conditional ends that.
    pub(super) fn wait_as_directive(&mut self, node: &Node, line: Option<usize>, inside: Place) {
        if self.part(node).is_some_and(|part| part != Conditional::Begin) {
            self.settle_waiting();
        } else if let Some(line) = line.filter(|_| !self.options.directive_margin) {
            self.wait(line, inside);
        }
    }

    fn part(&self, node: &Node) -> Option<Conditional> {
        let first = self.tree.tokens().get(node.first_token as usize)?;
        self.table.spec.conditional(self.source.slice(first.span()))
    }

    /// Counts a directive.
    pub(super) fn enter_directive(&mut self, node: &Node) {
        let line = self.places.len().saturating_sub(1);
        // What was left out may be one token, to the end of its conditional.
        let left_out = self.source.slice(node.span()).rsplit_once('\n');
        let ends = left_out.and_then(|(_, last)| self.table.spec.conditional(last)) == Some(Conditional::End);
        match self.part(node) {
            Some(Conditional::Begin) if ends => {}
            _ if ends => drop(self.conditionals.pop()),
            Some(Conditional::Begin) => self.conditionals.push(Branches { line, code: None }),
            Some(Conditional::End) => drop(self.conditionals.pop()),
            _ => {}
        }
    }

    /// Notes where code in a conditional begins.
    pub(super) fn note_code(&mut self, place: Place) {
        if let Some(conditional) = self.conditionals.last_mut() {
            conditional.code = conditional.code.or(Some(place));
        }
    }

    /// Opens a branch that was read flat.
    pub(super) fn enter_inactive(&mut self, id: NodeId) {
        let place = self.inactive_base();
        self.push(id, Hold::Inactive, place, place);
    }

    /// Where a branch stands that was read flat.
    pub(super) fn inactive_base(&self) -> Place {
        self.conditionals.last().and_then(|conditional| conditional.code).unwrap_or(self.top().base)
    }

    /// Counts what opens and closes in a branch that was read flat.
    pub(super) fn enter_inactive_leaf(&mut self, node: &Node, text: &str, role: Role) {
        let (size, first) = (self.options.size, self.begins_branch(node));
        let opens = self.opens_inactive(text, role);
        let closes = !first && self.closes_inactive(text, role);
        if let Some(last) = self.stack.last_mut() {
            last.base = if opens { last.base.deeper(size) } else { last.base };
            last.base = if closes { last.base.shallower(size) } else { last.base };
        }
    }

    /// Where a line stands in a branch that was read flat.
    pub(super) fn in_inactive(&self, node: &Node) -> Place {
        let base = self.top().base;
        let first = self.tree.tokens().get(node.first_token as usize);
        let text = first.map_or("", |first| self.source.slice(first.span()));
        if self.begins_branch(node) {
            base
        } else if self.closes_inactive(text, first.map_or(Role::Part, |first| self.tree.role(first.node))) {
            base.shallower(self.options.size)
        } else {
            base.deeper(if self.begins_item(node) { 0 } else { self.options.wrap })
        }
    }

    /// Whether a node is the first of its branch.
    fn begins_branch(&self, node: &Node) -> bool {
        node.first_token == self.tree.node(self.top().node).first_token
    }

    fn opens_inactive(&self, text: &str, role: Role) -> bool {
        role == Role::Inert && opener(text).is_some() || is_one_of(self.table.spec.opening, text)
    }

    fn closes_inactive(&self, text: &str, role: Role) -> bool {
        role == Role::Inert && closer(text, Role::Part).is_some() || is_one_of(self.table.spec.closing, text)
    }
}
