//! Where line breaks stay as their author has them.

use vknot_style::Key;
use vknot_style::choices::{KeepBreaks, WrapList, WrapOperand};
use vknot_syntax::{NodeId, TokenId};

use crate::layout::plan::GapPlan;
use crate::layout::planner::Planner;

/// How many rows make a table.
const ROWS: usize = 3;

impl Planner<'_> {
    /// Whether line breaks stay wherever they are meant.
    pub fn keeps_meant(&self) -> bool {
        match self.options.keep {
            KeepBreaks::All => true,
            KeepBreaks::Meant => self.meant.is_some(),
            KeepBreaks::None | KeepBreaks::Some => false,
        }
    }

    /// Whether the line breaks between the parts of a node stay as their author has them.
    pub fn is_as_written(&mut self, id: NodeId) -> bool {
        if self.options.keep == KeepBreaks::All {
            return true;
        }
        if let Some((asked, answer)) = self.asked && asked == id {
            return answer;
        }
        let parts = self.tree.children(id).filter(|part| !self.is_comment(*part) && !self.tree.node(*part).is_empty());
        let answer = self.are_meant(id, parts.skip(1).map(|part| self.first(part)));
        self.asked = Some((id, answer));
        answer
    }

    /// The same of a list, unless something says how lists are wrapped.
    pub fn is_list_as_written(&mut self, id: NodeId) -> bool {
        self.options.keep == KeepBreaks::All || self.options.list == WrapList::AsFound && self.is_as_written(id)
    }

    /// The same of operators of one precedence, given the gaps in front of them.
    pub fn are_operators_as_written(&self, id: NodeId, gaps: &[TokenId]) -> bool {
        let around = gaps.iter().rev().flat_map(|gap| [*gap, gap + 1]);
        self.options.keep == KeepBreaks::All
            || self.options.operands == WrapOperand::AsFound && self.are_meant(id, around)
    }

    /// The same of a chain, given the gaps in front of its links.
    pub fn is_chain_as_written(&self, id: NodeId, gaps: impl Iterator<Item = TokenId>) -> bool {
        self.options.keep == KeepBreaks::All || self.style.is_open(Key::WrapChain) && self.are_meant(id, gaps)
    }

    /// Whether a node has several lines, and those that begin in some of its gaps are meant.
    fn are_meant(&self, id: NodeId, gaps: impl Iterator<Item = TokenId>) -> bool {
        let Some(meant) = self.meant.as_ref().filter(|_| self.keeps_meant() && self.is_multiline(id)) else {
            return false
        };
        let last = self.end(id).saturating_sub(1);
        let close = Some(last).filter(|last| matches!(self.token_text(*last), ")" | "]" | "}" | ">"));
        meant.holds(self.first(id), gaps.filter(|gap| self.newlines(*gap) > 0), close)
    }

    /// Keeps the rows of a table as long as they are, unless something says how lists are wrapped: lines of which all but the last hold
    /// equally many items, two at least. Gives whether it is one.
    pub fn keep_rows(&mut self, items: &[NodeId]) -> bool {
        if self.options.list != WrapList::AsFound || matches!(self.options.keep, KeepBreaks::None) {
            return false;
        }
        let rows: Vec<&[NodeId]> = items.chunk_by(|_, item| self.newlines(self.first(*item)) == 0).collect();
        let count = |row: &&[NodeId]| row.iter()
            .filter(|id| !self.is_separator(**id) && !self.is_comment(**id))
            .count();
        let [whole @ .., last] = rows.as_slice() else { return false };
        let width = whole.first().map_or(0, count);
        let even =
            whole.len() + 1 >= ROWS && width > 1 && count(last) <= width && whole.iter().all(|row| count(row) == width);
        if !even || items.iter().any(|id| self.is_multiline(*id)) {
            return false;
        }
        for row in rows {
            let (Some(first), Some(last)) = (row.first(), row.last()) else { continue };
            self.plan.rows.push((self.first(*first), self.end(*last)));
            for pair in row.windows(2) {
                if self.is_separator(pair[0]) && !self.is_comment(pair[1]) {
                    self.plan.set(self.first(pair[1]), GapPlan::fixed(true));
                }
            }
        }
        true
    }
}
