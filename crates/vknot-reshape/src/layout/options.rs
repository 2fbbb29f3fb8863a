//! The settings a layout needs, read off the style once.

use vknot_style::{Indentation, Key, Style};
use vknot_style::choices::{
    AlignList, BlankEdge, BreakBlock, KeepBreaks, RequiredBraces, WrapChain, WrapComma, WrapList, WrapOperand,
};

use super::blanks;
use crate::spec::Code;

#[derive(Clone, Copy, Debug)]
pub(super) struct Options {
    /// Columns of a line.
    pub width: u32,
    pub blank_most: u8,
    /// Blank lines between groups of imports, if that is set.
    pub blank_import: u8,
    /// Fewest blank lines around an item with a body.
    pub blank_item: u8,
    /// Fewest blank lines between members of different kinds.
    pub blank_kind: u8,
    /// Blank lines between members without a body; `None` where they are their author's.
    pub blank_member: Option<u8>,
    /// Columns a tab stands for.
    pub tab_width: u32,
    /// Columns of a level of indentation.
    pub level: u32,
    pub keep: KeepBreaks,
    /// Which lists line up with their first item.
    pub align: AlignList,
    pub chain: WrapChain,
    /// What becomes of the operands of a run of operators that is broken.
    pub operands: WrapOperand,
    /// What becomes of the items of a list of arguments or parameters that is broken.
    pub list: WrapList,
    pub control_next: bool,
    /// Whether a block with a single statement may stay on its line.
    pub single: bool,
    /// Whether an arm with one may.
    pub arm: bool,
    /// Whether those with several do, too.
    pub several: bool,
    /// Whether simple statements stay on the line of the one in front of them.
    pub rows: bool,
    /// Whether blank lines stay beside the braces of a block.
    pub edges: bool,
    pub required: RequiredBraces,
    /// Whether broken lists get a comma behind their last item.
    pub commas: bool,
}

impl Options {
    pub fn of(code: Code<'_>, style: &Style, indentation: Indentation) -> Self {
        Self {
            width: style.number(Key::MaxLineLength).unwrap_or(u32::MAX / 4),
            blank_item: style.number(Key::BlankItem).unwrap_or(0) as u8,
            blank_kind: style.number(Key::BlankKind).unwrap_or(0) as u8,
            blank_member: style.number(Key::BlankMember).map(|lines| lines as u8),
            blank_most: blanks::most(code, style),
            blank_import: style.number(Key::ImportBlank).unwrap_or(0) as u8,
            tab_width: indentation.tab_width,
            level: indentation.size,
            keep: style.choice(),
            align: style.choice(),
            chain: style.choice(),
            operands: style.choice(),
            list: style.choice(),
            // What the file shows is known when it was walked.
            control_next: false,
            single: style.choice::<BreakBlock>() != BreakBlock::All,
            arm: style.choice::<BreakBlock>() != BreakBlock::All || style.is_open(Key::BreakBlock),
            several: style.choice::<BreakBlock>() == BreakBlock::Several,
            rows: false,
            edges: style.choice::<BlankEdge>() == BlankEdge::Keep,
            required: style.choice(),
            commas: style.choice::<WrapComma>() == WrapComma::Add,
        }
    }
}
