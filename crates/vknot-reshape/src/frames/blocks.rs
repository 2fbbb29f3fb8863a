//! Comments and prose of several lines: a block moves with its first line.

use vknot_style::Indentation;
use vknot_syntax::{Span, TokenId};

use crate::spec::Code;

use super::place::{blank_columns, Place};

/// A token of several lines whose lines may be moved.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Block {
    pub token: TokenId,
    /// The column its first line begins in.
    pub column: u32,
    /// Where lines of prose begin; `None` for a comment.
    pub prose: Option<Place>,
    /// How far its first line has moved.
    pub moved: i64,
}

/// The lines of a block behind its first, with the white space each gets. In a comment that was well kept, stars stay below each
/// other where they are.
pub(crate) fn inner_lines(
    code: Code<'_>,
    block: &Block,
    indentation: Indentation,
    well_kept: bool,
) -> Vec<(Span, Place)> {
    let Code { source, tree, .. } = code;
    let Some(token) = tree.tokens().get(block.token as usize) else { return Vec::new() };
    let (first, last) = source.line_range(token.span());
    let text = source.text();
    let lines: Vec<(Span, &str)> = (first..last)
        .map(|line| {
            let span = source.lines().span(text, line);
            let line = span.of(text);
            let blank = line.len() - line.trim_start_matches([' ', '\t']).len();
            (Span::new(span.start, span.start + blank as u32), &line[blank..])
        })
        .collect();
    // One star stands below that of the opening mark, two below its slash.
    let star = u32::from(!lines.first().is_some_and(|(_, rest)| rest.starts_with("**")));
    let was = i64::from(block.column) - block.moved;
    let columns = |blank: &Span| i64::from(blank_columns(blank.of(text), indentation.tab_width)) - was;
    let (end, stars) = lines.split_last().map_or((None, &[][..]), |(last, others)| (Some(columns(&last.0)), others));
    let mut stars = stars.iter().map(|(blank, _)| columns(blank));
    // The end may stand below the beginning.
    let first = stars.next().or(end);
    let ends_below = end == first || end == Some(0);
    // Behind code they may stand with the line that it begins.
    let behind = source.line_blank(token.start).end < token.start;
    let below = ends_below
        && first.is_some_and(|first| (behind || (0..=2).contains(&first)) && stars.all(|star| star == first));
    let starred = lines.iter().all(|(_, rest)| rest.starts_with('*'));
    let moved = |blank: Span| {
        Place::of(blank.of(text), indentation).moved(block.moved)
    };
    let place = |blank: Span| match block.prose {
        Some(place) => place,
        None if starred && !(well_kept && below) => Place::level(block.column).lined_up(block.column + star),
        None => moved(blank),
    };
    lines.into_iter().filter(|(_, rest)| !rest.trim().is_empty()).map(|(blank, _)| (blank, place(blank))).collect()
}
