//! Which line breaks of an author are meant: in a well-kept file those between the parts of a list, an operation or a chain that all
//! begin lines further in than the first of them, in one column, none of these longer than lines may be.

use vknot_style::Key;
use vknot_style::choices::{KeepBreaks, WrapList, WrapOperand};
use vknot_syntax::{NodeId, TokenId};

use super::measure::width_of;
use super::planner::Planner;
use crate::frames::place::blank_columns;
use crate::spec::Code;

/// The lines of a well-kept file as they were written.
pub(super) struct Meant {
    /// For each token the column in which its line begins, and whether that line is longer than lines may be.
    lines: Vec<(u32, bool)>,
}

impl Meant {
    /// `width` says how many columns lines may take.
    pub fn of(code: Code<'_>, tab_width: u32, width: u32) -> Self {
        let (source, tokens) = (code.source, code.tree.tokens());
        let mut lines = Vec::with_capacity(tokens.len());
        let (mut next, mut line) = (0, (0, false));
        for token in tokens {
            if token.start >= next {
                let blank = source.line_blank(token.start);
                let code = source.text().get(blank.end as usize..).and_then(|rest| rest.lines().next()).unwrap_or("");
                let column = blank_columns(source.slice(blank), tab_width);
                line = (column, column.saturating_add(width_of(code.trim_end())) > width);
                next = token.end.max(blank.end + code.len() as u32);
            }
            lines.push(line);
        }
        Self { lines }
    }

    /// Whether the lines that begin in these gaps are meant, in what begins with a token and may end with one that closes it.
    pub fn holds(&self, first: TokenId, gaps: impl Iterator<Item = TokenId>, close: Option<TokenId>) -> bool {
        let Some((base, false)) = self.lines.get(first as usize).copied() else { return false };
        let mut column = None;
        for gap in gaps {
            let Some((begins, false)) = self.lines.get(gap as usize).copied() else { return false };
            let stands = match close == Some(gap) {
                true => begins >= base,
                false => begins > base && *column.get_or_insert(begins) == begins,
            };
            if !stands {
                return false;
            }
        }
        true
    }
}

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
}
