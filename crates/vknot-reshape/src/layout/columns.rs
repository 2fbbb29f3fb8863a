//! Columns of neighbouring lines: parts of items, and comments behind code, that are lined up.

use std::collections::HashMap;

use vknot_style::choices::AlignColumn;
use vknot_syntax::{NodeId, Span};

use crate::frames::place::Place;
use crate::spec::Code;
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
    /// Whether it is not there, and its column stays open.
    pub missing: bool,
    /// Whether the columns that it is in end with its line.
    pub last: bool,
}

/// How far into a line parts may line up, in bytes.
pub(super) const FAR: u32 = 1000;

/// How many blanks set a part apart: one more than somebody writes without a thought.
pub(super) const SET_APART: u32 = 3;

/// How many others stand in a column that is one wherever they do.
const SHARED: u32 = 3;

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
    /// The column at which the code before it ended, as written.
    pub ended: u32,
    /// The columns at which its line begins: now, and as written.
    pub begins: (u32, u32),
    /// Whether the code before it opens a block.
    pub opens: bool,
    /// Whether columns end with its line: an operator is in front of it, or several items of a list.
    pub last: bool,
    /// Whether an item of a list is in front of it.
    pub of_list: bool,
    /// Where the line of the code stands that it goes on beside, if it is on a line of its own.
    pub begins_line: Option<Place>,
}

/// In which columns of a file parts stand behind several blanks: how many, by where the line begins and where they do, in bytes.
#[derive(Default)]
pub(super) struct Padded(HashMap<[u32; 2], u32>);

impl Padded {
    pub fn of(code: Code<'_>) -> Self {
        let mut padded = Self::default();
        for gap in 0..code.tree.tokens().len() as u32 {
            let span = code.tree.gap_span(gap);
            let inline = span.len() >= SET_APART && !span.of(code.source.text()).contains('\n');
            if let Some(place) = Self::place(code, span.end).filter(|_| inline) {
                *padded.0.entry(place).or_default() += 1;
            }
        }
        padded
    }

    /// Where a line begins and where an offset stands in it, if that is not far.
    fn place(code: Code<'_>, offset: u32) -> Option<[u32; 2]> {
        let near = offset - code.source.line_start(offset) < FAR;
        near.then(|| code.source.line_blank(offset)).map(|blank| [blank.len(), offset - blank.start])
    }

    /// Whether what stands behind blanks does so in a column that several others of the file share.
    pub fn holds(&self, code: Code<'_>, blank: Span) -> bool {
        Self::place(code, blank.end).and_then(|place| self.0.get(&place)).is_some_and(|count| *count > SHARED)
    }
}

/// The text of each gap that lines something up, in no order; those that stay as written are left out.
pub(super) fn line_up(cells: &[Placed], comments: &[Trailing], paper: &Paper) -> Vec<(Span, String)> {
    let mut lines = Lines::default();
    let mut cells: Vec<Placed> = cells.to_vec();
    close_columns(&mut cells);
    move_up(&mut cells);
    cells.sort_by_key(|cell| (cell.part, cell.line));
    lines.cells(&cells, paper.columns);
    lines.comments(comments, paper);
    lines.gaps
}

/// What is lined up so far.
#[derive(Default)]
struct Lines {
    gaps: Vec<(Span, String)>,
    /// How many columns what follows on a line was moved.
    moved: HashMap<u32, i64>,
    /// Up to where columns stay open on a line.
    open: HashMap<u32, u32>,
}

impl Lines {
    /// Where what is in front of a part ends, now that what is before it on its line has its place.
    fn end(&self, line: u32, column: u32) -> u32 {
        (i64::from(column) + self.moved.get(&line).copied().unwrap_or(0)).max(0) as u32
    }

    /// The same, where columns that stay open are passed.
    fn passed(&self, line: u32, column: u32) -> u32 {
        self.end(line, column).max(self.open.get(&line).copied().unwrap_or(0))
    }

    fn cells(&mut self, cells: &[Placed], which: AlignColumn) {
        let kept = lined_up_by_author(cells);
        for run in cells.chunk_by(|a, b| a.part == b.part && a.line + 1 == b.line && !a.last) {
            let ends: Vec<u32> = run.iter().map(|cell| self.end(cell.line, cell.column)).collect();
            let passed = run.iter().map(|cell| self.passed(cell.line, cell.column)).max();
            let target = passed.unwrap_or(0) + 1;
            for (cell, end) in run.iter().zip(ends) {
                if cell.missing {
                    self.open.extend((which == AlignColumn::All).then_some((cell.line, target - 1)));
                    continue;
                }
                let column = match which {
                    AlignColumn::All => target,
                    AlignColumn::Keep if kept.holds(cell) => (cell.begins.0 + cell.offset()).max(end + 1),
                    _ => end + 1,
                };
                let stands = end + cell.begins.1 == cell.was.0 + cell.begins.0;
                if !(stands && column - end == cell.was.1 - cell.was.0) {
                    self.gaps.push((cell.gap, " ".repeat((column - end) as usize)));
                }
                *self.moved.entry(cell.line).or_default() += i64::from(column) - i64::from(end) - 1;
            }
        }
    }

    fn comments(&mut self, comments: &[Trailing], paper: &Paper) {
        let usual = usual_gap(comments);
        // How many comments stand in each column, and whether one could have stood before it.
        let mut columns: HashMap<u32, (u32, bool)> = HashMap::new();
        for comment in comments {
            let column = columns.entry(comment.offset()).or_default();
            *column = (column.0 + 1, column.1 || comment.ended + usual < comment.was);
        }
        let mut sizes = Sizes::default();
        let joins = |a: &Trailing, b: &Trailing| {
            let near = a.line + 1 == b.line;
            let ends = sizes.differ(a, b, near) || a.opens || a.last;
            let alike = !ends && a.begins == b.begins;
            let all = paper.comments == AlignColumn::All && alike;
            near && (all || a.was == b.was && paper.comments == AlignColumn::Keep)
        };
        for run in comments.chunk_by(joins) {
            let ends: Vec<u32> = run.iter().map(|comment| self.end(comment.line, comment.column)).collect();
            let needed = run.iter().map(|comment| self.passed(comment.line, comment.column)).max().unwrap_or(0);
            // In a column of its author's it stays, as far as there is room; a lone one behind the usual gap.
            let keeps = paper.comments == AlignColumn::Keep && paper.comment_gap.is_none();
            let shared = |comment: &&Trailing| columns
                .get(&comment.offset())
                .is_some_and(|(count, padded)| *count > 1 && *padded);
            let sharing = run.iter().find(shared);
            let own = keeps.then(|| sharing.map_or(needed + usual, |comment| comment.begins.0 + comment.offset()));
            // One line in four may be too long for a column that others keep to.
            // Code may fill all of the column in front of it.
            let fills = |comment: &Trailing, end: u32, column: u32| keeps
                && comment.was == comment.ended
                && end == column;
            let cells = || run.iter().zip(ends.iter());
            let crossing = |column: &u32| cells()
                .filter(|(comment, end)| **end >= *column && !fills(comment, **end, *column))
                .count();
            let shares = own.filter(|column| 4 * crossing(column) <= run.len());
            let target =
                shares.unwrap_or(own.map_or(needed + paper.comment_gap.unwrap_or(1), |own| own.max(needed + 1)));
            for (comment, end) in run.iter().zip(ends) {
                let target = if fills(comment, end, target) { target } else { target.max(end + 1) };
                let mut text = String::new();
                let stands = end + comment.begins.1 == comment.ended + comment.begins.0;
                match comment.begins_line {
                    Some(place) => {
                        text.push_str(paper.line_end);
                        place.lined_up(target).write(paper.indentation, paper.align_with_tabs, &mut text);
                    }
                    None if stands && target - end == comment.was - comment.ended => continue,
                    None => text.extend(std::iter::repeat_n(' ', (target - end) as usize)),
                }
                self.gaps.push((comment.gap, text));
            }
        }
    }
}

/// How long items may be that columns go over, however they differ.
const SHORT: u32 = 40;

/// How many times longer or shorter an item is than those above it, for columns to end there.
const OTHER: f64 = 2.5;

/// The sizes of the items of a list that columns go over: the sum of their logarithms, and how many they are.
#[derive(Default)]
struct Sizes(f64, u32);

impl Sizes {
    /// Whether the item in front of a comment is of quite another size than those right above it.
    fn differ(&mut self, above: &Trailing, item: &Trailing, near: bool) -> bool {
        if !(near && above.of_list && item.of_list) {
            *self = Self::default();
            return false;
        }
        let [last, size] = [above, item].map(|item| item.column.saturating_sub(item.begins.0 + 1).max(1));
        if self.1 == 0 {
            *self = Self(f64::from(last).ln(), 1);
        }
        let ratio = f64::from(size) / (self.0 / f64::from(self.1)).exp();
        let differ = last.max(size) > SHORT && (ratio * OTHER <= 1.0 || ratio >= OTHER);
        *self = if differ { Self::default() } else { Self(self.0 + f64::from(size).ln(), self.1 + 1) };
        differ
    }
}

/// How many spaces stand in front of most comments that nothing lines up: one or two.
fn usual_gap(comments: &[Trailing]) -> u32 {
    let gap = |comment: &Trailing| comment.was.saturating_sub(comment.ended);
    let count = |size: u32| comments.iter().filter(|comment| gap(comment) == size).count();
    1 + u32::from(count(2) > 4 * count(1))
}

/// Where parts follow on columns that are open on all lines of a run, these have none.
fn close_columns(cells: &mut Vec<Placed>) {
    if !cells.iter().any(|cell| cell.missing) {
        return;
    }
    cells.sort_by_key(|cell| (cell.part.1, cell.line, cell.part.0));
    let same = |a: &Placed, b: &Placed| a.part.1 == b.part.1 && a.line == b.line;
    let mut rows: Vec<&mut [Placed]> = cells.chunk_by_mut(same).collect();
    let goes_on = |a: &&mut [Placed], b: &&mut [Placed]| {
        let ends = |row: &[Placed]| row.last().filter(|last| !last.missing && last.part.0 > 0).copied();
        ends(a).zip(ends(b)).is_some_and(|(a, b)| a.part.1 == b.part.1 && a.line + 1 == b.line)
    };
    // Behind the first column, which is missing, there is one part.
    let open = |row: &[Placed]| matches!(row, [first, last] if first.missing && !last.missing);
    for run in rows.chunk_by_mut(goes_on).filter(|run| run.iter().all(|row| open(row))) {
        for row in run {
            if let [first, last] = row {
                *last = Placed { part: first.part, ..*last };
                *first = *last;
            }
        }
    }
    cells.dedup_by_key(|cell| (cell.part, cell.line));
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

/// The columns, counted from where lines begin, that an author lined up: several parts begin there, and one could have begun before.
struct Columns {
    near: HashMap<((u8, NodeId), u32), (u32, bool)>,
    anywhere: HashMap<(u8, u32), (u32, bool)>,
}

impl Columns {
    fn holds(&self, cell: &Placed) -> bool {
        let near = self.near.get(&(cell.part, cell.offset())).is_some_and(|(count, padded)| *count > 1 && *padded);
        let anywhere = self.anywhere.get(&(cell.part.0, cell.offset()));
        near || anywhere.is_some_and(|(count, padded)| *count > 3 && *padded)
    }
}

impl Placed {
    /// The column where it was written, counted from where its line began.
    fn offset(&self) -> u32 {
        self.was.1.saturating_sub(self.begins.1)
    }
}

impl Trailing {
    fn offset(&self) -> u32 {
        self.was.saturating_sub(self.begins.1)
    }
}

fn lined_up_by_author(cells: &[Placed]) -> Columns {
    let mut columns = Columns { near: HashMap::new(), anywhere: HashMap::new() };
    for cell in cells.iter().filter(|cell| !cell.missing) {
        let padded = cell.was.0 + 1 < cell.was.1;
        let near = columns.near.entry((cell.part, cell.offset())).or_default();
        *near = (near.0 + 1, near.1 || padded);
        let anywhere = columns.anywhere.entry((cell.part.0, cell.offset())).or_default();
        *anywhere = (anywhere.0 + u32::from(padded), anywhere.1 || padded);
    }
    columns
}
