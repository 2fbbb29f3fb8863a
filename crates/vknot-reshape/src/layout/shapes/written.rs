//! Where line breaks stay as their author has them.

use vknot_style::Key;
use vknot_style::choices::{KeepBreaks, WrapList, WrapOperand};
use vknot_syntax::{NodeId, Role, TokenId};

use crate::layout::manner::{ENOUGH, MANY};
use crate::layout::plan::GapPlan;
use crate::layout::planner::Planner;
use crate::spec::layout::{List, Rule};

/// How many rows make a table.
const ROWS: usize = 3;

/// A line of items.
struct Row {
    /// Where its items begin, if they are simple ones, in bytes.
    columns: Vec<u32>,
    /// Whether it follows right below another.
    near: bool,
    /// How many parts of the sequence it holds.
    items: usize,
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

    /// Which items of a well-kept file stay on the line of those in front of them: in rows of simple statements or members, equally many on
    /// neighbouring lines. Two such lines will do if their items begin in the same columns, one where the file has such lines here and there.
    pub fn in_rows(&self, items: &[NodeId]) -> Vec<bool> {
        let lines = || items.chunk_by(|_, item| self.newlines(self.first(*item)) == 0);
        let least = if self.options.rows { 1 } else { ROWS - 1 };
        if !self.keeps_meant() || lines().filter(|line| line.len() > 1).take(least).count() < least {
            return vec![false; items.len()];
        }
        let rows: Vec<Row> = lines().map(|line| self.row_of(line)).collect();
        let alike = |above: &Row, row: &Row| row.near && above.columns.len() == row.columns.len();
        let runs = rows.chunk_by(alike).flat_map(|run| {
            let several = run.first().is_some_and(|row| row.columns.len() > 1);
            let lined_up = run.windows(2).all(|pair| pair[0].columns == pair[1].columns);
            let stays = several && (self.options.rows || run.len() >= if lined_up { ROWS - 1 } else { ROWS });
            run.iter().flat_map(move |row| (0..row.items).map(move |index| stays && index > 0))
        });
        runs.collect()
    }

    /// Whether a well-kept file has lines with several simple statements, and nothing is set that parts them.
    pub fn keeps_statements_in_rows(&self) -> bool {
        let open = self.options.single && !self.options.several && self.style.is_open(Key::BreakBlock);
        let nodes = if open && self.keeps_meant() { self.tree.nodes().len() as u32 } else { 0 };
        let blocks = (0..nodes).map(NodeId).filter(|id| self.role(*id) == Role::Block && self.is_multiline(*id));
        let rows = blocks.map(|block| {
            let items: Vec<NodeId> = self.tree.children(block).collect();
            let lines = items.chunk_by(|_, item| self.newlines(self.first(*item)) == 0).filter(|line| line.len() > 1);
            lines.filter(|line| self.row_of(line).columns.len() > 1).take(ENOUGH as usize).count()
        });
        self.manner.agreed([0, rows.sum::<usize>() as u32], ENOUGH) == Some(true)
    }

    /// What a line of items is to those above and below.
    fn row_of(&self, line: &[NodeId]) -> Row {
        let simple = |item: &NodeId| {
            let role = matches!(self.role(*item), Role::Statement | Role::Member | Role::Part | Role::Call);
            role && !self.is_multiline(*item) && self.token_text(self.end(*item).saturating_sub(1)) != "}"
        };
        let column = |item: &NodeId| {
            let start = self.tree.node(*item).start;
            start - self.code.source.line_start(start)
        };
        let parts = || line.iter().filter(|item| !self.is_separator(**item));
        let code = || parts().take_while(|item| !self.is_comment(**item));
        let whole = code().all(simple) && parts().skip(code().count()).count() < 2;
        let near = line.first().is_some_and(|first| self.newlines(self.first(*first)) == 1);
        Row { columns: code().filter(|_| whole).map(column).collect(), near, items: line.len() }
    }

    /// Which lists of a well-kept file are filled where their lines break, by whether they are declared or handed over: four in five of
    /// those with three items at least hold several on one of their lines.
    pub fn filled_lists(&mut self) -> [bool; 2] {
        let mut counts = [[0; 2]; 2];
        let open = self.keeps_meant() && self.options.list == WrapList::AsFound;
        let nodes = if open { self.tree.nodes().len() as u32 } else { 0 };
        for id in (0..nodes).map(NodeId) {
            let Some(handed) = self.is_handed(id).filter(|_| self.breaks_between(id)) else { continue };
            let Rule::List(List { hug_any: true, .. }) = self.rule_of(id) else { continue };
            let behind = self.tree.parts(id).filter(|part| !self.is_punctuation(*part)).skip(1);
            let [beside, below] = behind.fold([0; 2], |[beside, below], part| match self.newlines(self.first(part)) {
                0 => [beside + 1, below],
                _ => [beside, below + 1],
            });
            if beside + below > 1 && self.is_list_as_written(id) {
                counts[usize::from(handed)][usize::from(beside > 0)] += 1;
            }
        }
        counts.map(|counts| self.manner.agreed(counts, MANY) == Some(true))
    }

    /// Whether a list that is not broken would be filled, as others are.
    pub fn fills_as_others(&self, id: NodeId) -> bool {
        self.is_handed(id).is_some_and(|handed| self.fills[usize::from(handed)])
    }

    /// Whether what stands in a list is handed over, as against declared.
    fn is_handed(&self, id: NodeId) -> Option<bool> {
        match self.role(id) {
            Role::Arguments => Some(true),
            Role::List => Some(false),
            _ => None,
        }
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
