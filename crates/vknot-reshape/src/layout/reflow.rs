//! Moves the lines of a comment along with its first one. The drawing inside stays as it is.

use crate::frames::blocks::{Block, inner_lines};
use crate::frames::place::{Place, blank_columns};
use crate::spec::Code;
use super::paper::Paper;

/// Where a comment stood and where it stands now.
pub(super) struct Frame<'a> {
    /// Columns before the comment, as written.
    pub was: u32,
    /// Where it stands now.
    pub place: Place,
    /// Whether it begins its line.
    pub first_on_line: bool,
    pub paper: &'a Paper,
    /// Whether the lines of the file may stand in ways of their own.
    pub well_kept: bool,
    /// Whether a line that keeps its column keeps its mix of tabs and spaces.
    pub open: bool,
}

/// The comment's new text, or `None` when nothing changes: its lines moved as indentation moves them, with the line ends of the file, and
/// without blanks at their ends if the style says so.
pub(super) fn comment(code: Code<'_>, token: u32, frame: &Frame<'_>) -> Option<String> {
    let paper = frame.paper;
    let span = code.tree.tokens().get(token as usize)?.span();
    let text = code.source.slice(span);
    let column = frame.place.columns();
    let moved = if frame.first_on_line { i64::from(column) - i64::from(frame.was) } else { 0 };
    let block = Block { token, column, prose: None, moved };
    let mut places = inner_lines(code, &block, paper.indentation, frame.well_kept).into_iter().peekable();
    let columns = |blank| blank_columns(code.source.slice(blank), paper.indentation.tab_width);
    let mut out = String::with_capacity(text.len());
    let mut at = span.start;
    for (index, line) in text.split('\n').enumerate() {
        let start = at;
        at += line.len() as u32 + 1;
        let line = line.strip_suffix('\r').unwrap_or(line);
        let line = if paper.trim { line.trim_end_matches([' ', '\t']) } else { line };
        if index > 0 {
            out.push_str(paper.line_end);
        }
        while places.next_if(|(blank, _)| blank.start < start).is_some() {}
        match places.next_if(|(blank, _)| blank.start == start && index > 0) {
            Some((blank, place)) if frame.open && place.columns() == columns(blank) => out.push_str(line),
            Some((blank, place)) => {
                place.write(paper.indentation, paper.align_with_tabs, &mut out);
                out.push_str(line.get(blank.len() as usize..).unwrap_or(""));
            }
            None => out.push_str(line),
        }
    }
    (out != text).then_some(out)
}
