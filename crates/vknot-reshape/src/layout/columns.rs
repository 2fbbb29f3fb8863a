//! Columns of neighbouring lines: parts of items, and comments behind code, that are lined up.

use std::collections::{HashMap, HashSet};

use vknot_style::choices::AlignColumn;
use vknot_syntax::{NodeId, Span};

use crate::frames::place::Place;
use super::paper::Paper;

/// A part of an item that may line up with those on the lines above and below, where it was printed.
#[derive(Clone, Copy, Debug)]
pub(super) struct Placed {
    pub gap: Span,
    pub line: u32,
    /// The column at which what is before it ends.
    pub column: u32,
    /// The columns at which it was written: what is before it ends, it begins.
    pub was: (u32, u32),
    /// The columns at which its line begins: now, and as written.
    pub begins: (u32, u32),
    /// Which part of its line it is, and what holds its neighbours.
    pub part: (u8, NodeId),
}

/// A comment behind code, or one that goes on with such a comment on a line of its own.
pub(super) struct Trailing {
    /// The gap in front of it.
    pub gap: Span,
    /// The line of the result it is on.
    pub line: u32,
    /// The column at which the code before it ends.
    pub column: u32,
    /// The column at which it was written.
    pub was: u32,
    /// The column its line begins at.
    pub begins: u32,
    /// Whether the code before it opens a block.
    pub opens: bool,
    /// Where the line of the code stands that it goes on beside, if it is on a line of its own.
    pub begins_line: Option<Place>,
}

/// The text of each gap that lines something up, in no order.
pub(super) fn line_up(cells: &[Placed], comments: &[Trailing], paper: &Paper) -> Vec<(Span, String)> {
    let mut gaps = Vec::with_capacity(cells.len() + comments.len());
    // How many columns what follows on a line was moved.
    let mut moved: HashMap<u32, u32> = HashMap::new();
    let mut cells: Vec<Placed> = cells.to_vec();
    move_up(&mut cells);
    let kept = lined_up_by_author(&cells);
    cells.sort_by_key(|cell| (cell.part, cell.line));
    for run in cells.chunk_by(|a, b| a.part == b.part && a.line + 1 == b.line) {
        let ends: Vec<u32> =
            run.iter().map(|cell| cell.column + moved.get(&cell.line).copied().unwrap_or(0)).collect();
        let target = ends.iter().max().copied().unwrap_or(0) + 1;
        for (cell, end) in run.iter().zip(ends) {
            let spaces = match paper.columns {
                AlignColumn::All => target - end,
                AlignColumn::None => 1,
                AlignColumn::Keep if kept.contains(&cell.place()) => (cell.begins.0 + cell.place().1).saturating_sub(end).max(1),
                AlignColumn::Keep => 1,
            };
            gaps.push((cell.gap, " ".repeat(spaces as usize)));
            *moved.entry(cell.line).or_default() += spaces - 1;
        }
    }
    let end = |comment: &Trailing| comment.column + moved.get(&comment.line).copied().unwrap_or(0);
    let joins = |a: &Trailing, b: &Trailing| {
        let near = a.line + 1 == b.line;
        let all = paper.comments == AlignColumn::All && !(a.opens || b.opens) && a.begins == b.begins;
        near && (all || a.was == b.was && paper.comments == AlignColumn::Keep)
    };
    for run in comments.chunk_by(joins) {
        let target = run.iter().map(end).max().unwrap_or(0) + 1;
        for comment in run {
            let mut text = String::new();
            match comment.begins_line {
                Some(place) => {
                    text.push_str(paper.line_end);
                    place.lined_up(target).write(paper.indentation, paper.align_with_tabs, &mut text);
                }
                None => text.extend(std::iter::repeat_n(' ', (target - end(comment)) as usize)),
            }
            gaps.push((comment.gap, text));
        }
    }
    gaps
}

/// Where no line of a block has two parts, they all are the first.
fn move_up(cells: &mut [Placed]) {
    cells.sort_by_key(|cell| (cell.part.1, cell.line, cell.part.0));
    let near = |a: &Placed, b: &Placed| a.part.1 == b.part.1 && b.line - a.line < 2;
    for block in cells.chunk_by_mut(near) {
        if !block.windows(2).any(|pair| pair[0].line == pair[1].line) {
            block.iter_mut().for_each(|cell| cell.part.0 = 0);
        }
    }
}

/// A part of lines in what holds them, and the column where it was written, counted from where the line begins.
type Column = ((u8, NodeId), u32);

impl Placed {
    fn place(&self) -> Column {
        (self.part, self.was.1.saturating_sub(self.begins.1))
    }
}

/// The columns that an author lined up: several begin there, and one of them could have begun before.
fn lined_up_by_author(cells: &[Placed]) -> HashSet<Column> {
    let mut found: HashMap<Column, (u32, bool)> = HashMap::new();
    for cell in cells {
        let (count, padded) = found.entry(cell.place()).or_default();
        *count += 1;
        *padded |= cell.was.0 + 1 < cell.was.1;
    }
    found.into_iter().filter(|(_, (count, padded))| *count > 1 && *padded).map(|(place, _)| place).collect()
}
