//! Lines that stand by where something begins in the midst of another: one wrap behind an operation that they go on with, or below the
//! first thing behind a bracket.

use vknot_syntax::{Node, Role, Span};

use super::marks::is_operator;
use super::place::{By, Spot, blank_columns};
use super::stack::Frames;
use super::written::{DEEP, is_sequence};

/// Among how many of what holds a line its operations are looked for.
const HOLDERS: usize = 8;

/// How many bytes into its line an operation may begin.
const FAR: u32 = 500;

impl Frames<'_> {
    /// Where the first thing behind a bracket went with which a line was lined up, unless whole steps say where it stands.
    pub(super) fn goes_with_first(&self, spot: &Spot, candidate: u32) -> Option<u32> {
        let column = self.ways.as_ref().map(|ways| ways.column);
        let further = candidate.saturating_sub(self.statement()?);
        if further.is_multiple_of(self.options.size.max(1)) {
            return None;
        }
        let open = self.stack.iter().rev().take_while(|frame| !is_sequence(frame)).take(DEEP);
        let mut firsts = open.filter(|_| spot.by == By::Wrap).map(|frame| frame.written);
        firsts
            .find(|written| written.first_was.is_some() && written.first_was == column)
            .and_then(|written| written.first)
    }

    /// Whether a line that begins with a node stands one wrap behind the beginning of an operation that it goes on with, which is on the
    /// line above or on the line that what is open began on.
    pub(super) fn goes_on_with_operation(&self, node: &Node, candidate: u32) -> bool {
        let column = self.ways.as_ref().map_or(0, |ways| ways.column);
        let shift = self.top().written.shift;
        let kept = i64::from(candidate) == i64::from(column) + shift;
        let mut operations = std::iter::once(node.parent).chain(self.tree.ancestors(node.parent)).take(HOLDERS);
        kept
            && operations.any(|id| {
                let holder = self.tree.node(id);
                self.tree.role(id) == Role::Operator
                    && holder.first_token < node.first_token
                    && self.has_moved_by(holder.start, node.start, shift)
                    && self.begins_in(holder.start) == column.checked_sub(self.options.wrap)
            })
    }

    /// Whether an operator leads a line that stands further in than its statement, so that what is behind the operator lines up with
    /// something in front of it, or as the next line does, which the same operator leads.
    pub(super) fn leads_alike(&self, node: &Node, candidate: u32) -> bool {
        let text = |index: u32| self.tree.tokens().get(index as usize).map(|token| token.span());
        let Some(operator) = text(node.first_token).filter(|span| is_operator(self.source.slice(*span))) else {
            return false
        };
        let line = self.source.line(operator.start);
        let operand = text(node.first_token + 1).filter(|next| self.source.line(next.start) == line);
        let column = operand.map(|next| candidate + (next.start - operator.start));
        let open = || self.stack.iter().rev().take_while(|frame| !is_sequence(frame)).take(DEEP);
        let lines_up = column.is_some_and(|column| open().any(|frame| frame.written.columns.contains(column)));
        let alike = || {
            let (blank, code) = self.line_below(operator.start);
            code.strip_prefix(self.source.slice(operator)).is_some_and(|rest| rest.starts_with(' '))
                && blank == self.written_column(operator.start)
        };
        self.statement().is_some_and(|statement| candidate > statement) && (lines_up || alike())
    }

    /// Whether the first item behind a bracket stands where the second does, which a comma leads on the next line.
    pub(super) fn stands_before_comma(&self, node: &Node) -> bool {
        if !matches!(self.before(), "{" | "(" | "[") {
            return false;
        }
        let (blank, code) = self.line_below(node.start);
        let second = code.strip_prefix(',').map(|rest| 1 + (rest.len() - rest.trim_start_matches(' ').len()) as u32);
        second.is_some_and(|behind| self.written_column(node.start) == blank + behind)
    }

    /// The line below that of an offset: the columns of white space in front of it, and the rest.
    fn line_below(&self, offset: u32) -> (u32, &str) {
        let line = self.source.line(offset);
        let whole = if line < self.source.lines().count() {
            self.source.lines().text(self.source.text(), line)
        } else {
            ""
        };
        let code = whole.trim_start_matches([' ', '\t']);
        (blank_columns(&whole[..whole.len() - code.len()], self.options.indentation.tab_width), code)
    }

    /// Whether the line of an operation was moved so many columns, as far as that is known.
    fn has_moved_by(&self, operation: u32, line: u32, shift: i64) -> bool {
        let row = |offset: u32| self.source.line(offset);
        let above = row(operation) + 1 == row(line) && self.ways.as_ref().is_some_and(|ways| ways.shift == shift);
        let held = self.tree.node(self.top().node).start;
        above || row(operation) == row(held)
    }

    /// The column in which something was written, if that is near the beginning of its line.
    pub(super) fn begins_in(&self, offset: u32) -> Option<u32> {
        let line = self.source.line_blank(offset).start;
        let before = Span::new(line, offset);
        (before.len() <= FAR).then(|| blank_columns(self.source.slice(before), self.options.indentation.tab_width))
    }
}
