//! Comments behind code: where their author lined them up on neighbouring lines, they stay lined up.

use vknot_syntax::Span;

use crate::frames::place::Place;
use super::paper::Paper;

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
    /// Where the line of the code stands that it goes on beside, if it is on a line of its own.
    pub begins_line: Option<Place>,
}

/// The text of each gap: one space, or as many as bring a run of comments to one column.
pub(super) fn line_up(comments: &[Trailing], paper: &Paper) -> Vec<(Span, String)> {
    let mut gaps = Vec::with_capacity(comments.len());
    let joins = |a: &Trailing, b: &Trailing| a.line + 1 == b.line && a.was == b.was;
    for run in comments.chunk_by(joins) {
        let target = run.iter().map(|comment| comment.column).max().unwrap_or(0) + 1;
        for comment in run {
            let mut text = String::new();
            match comment.begins_line {
                Some(place) => {
                    text.push_str(paper.line_end);
                    place.lined_up(target).write(paper.indentation, paper.align_with_tabs, &mut text);
                }
                None => text.extend(std::iter::repeat_n(' ', (target - comment.column) as usize)),
            }
            gaps.push((comment.gap, text));
        }
    }
    gaps
}
