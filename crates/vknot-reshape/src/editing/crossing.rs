//! What passes a bracket: the neighbour outside comes in, the outermost inside goes out.
//!
//! Where items are parted by white space alone, it is the bracket that goes past them: the lines stay as they are broken.

use std::ops::Range;

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use super::draft::Piece;
use super::error::EditError;
use super::placing::{Side, Target};
use super::row::Row;
use super::standing::{base, column, shifted};
use super::taken::{Taken, whole};
use super::transfer::{suits, transfer};
use super::wish::{End, Reach};
use super::work::Work;

/// A pair that holds a row, and the row it stands in.
struct Pair {
    inner: Row,
    outer: Row,
    /// Which item of the outer row it is, or is in.
    index: usize,
}

fn closest_pair(code: Code<'_>, at: Span) -> Result<Pair, EditError> {
    let tree = code.tree;
    let taken = Taken::at(code, at).ok();
    let inner = match &taken {
        Some(taken) => empty_pair(code, at).unwrap_or(taken.holder(code)),
        None => tree.covering(at),
    };
    for id in tree.ancestors(inner) {
        let Some(inner) = Row::of(code, id).filter(|row| row.inside.is_some() || tree.role(id) == Role::Block) else {
            continue;
        };
        let span = tree.node(id).span();
        let outer = tree.ancestors(tree.node(id).parent).find_map(|above| {
            let row = Row::of(code, above)?;
            let range = row.touched(span)?;
            (range.len() == 1).then_some((row, range.start))
        });
        let Some((outer, index)) = outer.filter(|(outer, _)| suits(code, id, outer.holder)) else { continue };
        return Ok(Pair { inner, outer, index });
    }
    Err(EditError::NoPair { what: "bracket, block or element among other items" })
}

/// The pair that a place is in, or at a bracket of, where it holds nothing.
fn empty_pair(code: Code<'_>, at: Span) -> Option<NodeId> {
    let tree = code.tree;
    let around = tree.covering(at);
    let empty = |id: &NodeId| Row::of(code, *id).is_some_and(|row| row.inside.is_some() && row.entries.is_empty());
    tree.parent(around).filter(|_| tree.node(around).is_leaf()).into_iter().chain([around]).find(empty)
}

pub(crate) fn pulled(work: &mut Work<'_>, end: End, reach: &Reach) -> Result<(), EditError> {
    let code = work.code;
    let Pair { inner, outer, index } = closest_pair(code, work.at)?;
    let there = match end {
        End::Last => outer.entries.len() - 1 - index,
        End::First => index,
    };
    let way = if end == End::Last { "behind" } else { "in front of" };
    let count = reached(code, reach, &outer, |at| match end {
        End::Last => at.checked_sub(index),
        End::First => index.checked_sub(at),
    })?;
    if count > there || count == 0 {
        return Err(EditError::TooFar { there, wanted: count.max(1), way });
    }
    let range = match end {
        End::Last => index + 1..index + 1 + count,
        End::First => index - count..index,
    };
    let own = outer.entries[index].span();
    let whole = whole(&outer, &range);
    outer.passes(code, Span::new(own.start.min(whole.start), own.end.max(whole.end)))?;
    if bracket_goes_out(work, &inner, &outer, (index, &range), end) {
        return Ok(());
    }
    transfer(work, &outer, &range, &Target::at(code, inner, end), end)
}

pub(crate) fn pushed(work: &mut Work<'_>, end: End, reach: &Reach) -> Result<(), EditError> {
    let code = work.code;
    let Pair { inner, outer, index } = closest_pair(code, work.at)?;
    let there = inner.entries.len();
    let count = reached(code, reach, &inner, |at| match end {
        End::Last => Some(there - at),
        End::First => Some(at + 1),
    })?;
    if count > there || count == 0 {
        return Err(EditError::TooFar { there, wanted: count.max(1), way: "inside" });
    }
    // What a label at the end is for would be nothing.
    let last = inner.entries.get(there - 1).filter(|_| end == End::Last);
    if let Some(label) = last.and_then(|last| inner.labels.iter().find(|label| label.start >= last.body.end)) {
        return Err(EditError::Fixed { what: code.source.slice(*label).to_owned() });
    }
    let (range, side) = match end {
        End::Last => (there - count..there, Side::After(index)),
        End::First => (0..count, Side::Before(index)),
    };
    let whole = whole(&inner, &range);
    let edges = inner.inside.unwrap_or(whole);
    inner.passes(code, match end {
        End::Last => Span::new(whole.start, edges.end),
        End::First => Span::new(edges.start, whole.end),
    })?;
    if bracket_comes_in(work, &inner, &outer, (index, &range), end) {
        return Ok(());
    }
    transfer(work, &inner, &range, &Target { row: outer, side }, end)
}

/// How many items are meant: a count, or as far as a place.
fn reached(
    code: Code<'_>,
    reach: &Reach,
    row: &Row,
    count: impl Fn(usize) -> Option<usize>,
) -> Result<usize, EditError> {
    match reach {
        Reach::Count(count) => Ok(*count as usize),
        Reach::Until(at) => {
            let span = Taken::at(code, *at)?.span(code);
            row.touched(span).and_then(|range| count(range.start)).ok_or(EditError::NoRow)
        }
    }
}

/// Whether nothing but white space parts the items of both rows.
fn is_bare(work: &Work<'_>, inner: &Row, outer: &Row) -> bool {
    let tags = |row: &Row| matches!(work.code.tree.role(row.holder), Role::Element | Role::File);
    (work.code.toolkit().edits.listed.is_empty() || tags(inner) && tags(outer))
        && inner.separator.is_none()
        && outer.separator.is_none()
        && inner.inside.is_some()
}

/// The white space in a span; `None` where anything else is in it.
fn white(code: Code<'_>, span: Span) -> Option<&str> {
    Some(code.source.slice(span)).filter(|text| span.start <= span.end && text.trim().is_empty())
}

/// Moves a bracket past the items behind it, or in front of it; `false` where comments are in the way.
fn bracket_goes_out(
    work: &mut Work<'_>,
    inner: &Row,
    outer: &Row,
    (index, range): (usize, &Range<usize>),
    end: End,
) -> bool {
    let code = work.code;
    let (Some(inside), true) = (inner.inside, is_bare(work, inner, outer)) else { return false };
    let pair = code.tree.node(outer.entries[index].node).span();
    let items = Span::new(outer.entries[range.start].body.start, outer.entries[range.end - 1].body.end);
    let (pieces, span) = match (end, inner.entries.first(), inner.entries.last()) {
        (_, None, _) => {
            let way = if end == End::Last {
                Span::new(pair.end, items.start)
            } else {
                Span::new(items.end, pair.start)
            };
            let (Some(_), Some(gap)) = (white(code, inside), white(code, way)) else { return false };
            let (gap, open) = (Piece::New(gap.to_owned()), Piece::Old(Span::new(pair.start, inside.start)));
            let whole = Span::new(pair.start.min(items.start), pair.end.max(items.end));
            let mut pieces = vec![open];
            pieces.extend(if end == End::Last { Some(gap.clone()) } else { None });
            pieces.extend(set(code, items, None));
            pieces.extend(if end == End::First { Some(gap) } else { None });
            pieces.push(Piece::Old(Span::new(inside.end, pair.end)));
            (pieces, whole)
        }
        (End::Last, _, Some(last)) => {
            let own = Span::new(last.body.end, inside.end);
            let gap = Span::new(pair.end, items.start);
            let (Some(own_gap), Some(gap)) = (white(code, own), white(code, gap)) else { return false };
            let mut pieces = placed(code, items, gap, (pair.start, last.body.start));
            pieces.push(Piece::New(own_gap.to_owned()));
            pieces.push(Piece::Old(Span::new(inside.end, pair.end)));
            (pieces, Span::new(own.start, items.end))
        }
        (End::First, Some(first), _) => {
            let own = Span::new(inside.start, first.body.start);
            let gap = Span::new(items.end, pair.start);
            let (Some(own), Some(gap)) = (white(code, own), white(code, gap)) else { return false };
            let mut pieces = vec![Piece::Old(Span::new(pair.start, inside.start)), Piece::New(own.to_owned())];
            pieces.extend(set(code, items, own.contains('\n').then(|| column(code, first.body.start))));
            let level = column(code, items.start) == column(code, pair.start);
            let gap = if level { regapped(gap, &column(code, first.body.start)) } else { gap.to_owned() };
            pieces.push(Piece::New(gap));
            (pieces, Span::new(items.start, first.body.start))
        }
        _ => return false,
    };
    work.allowance.whole = true;
    work.draft.replace(span, pieces);
    true
}

/// Moves a bracket in front of the last items inside, or behind the first ones; `false` where comments are in the way.
fn bracket_comes_in(
    work: &mut Work<'_>,
    inner: &Row,
    outer: &Row,
    (index, range): (usize, &Range<usize>),
    end: End,
) -> bool {
    let code = work.code;
    let (Some(inside), true) = (inner.inside, is_bare(work, inner, outer)) else { return false };
    let pair = code.tree.node(outer.entries[index].node).span();
    let items = Span::new(inner.entries[range.start].body.start, inner.entries[range.end - 1].body.end);
    let before = range.start.checked_sub(1).and_then(|at| inner.entries.get(at));
    let (pieces, span) = match end {
        End::Last => {
            let from = before.map_or(inside.start, |before| before.body.end);
            let rest = white(code, Span::new(items.end, inside.end));
            let (Some(gap), Some(rest)) = (white(code, Span::new(from, items.start)), rest) else { return false };
            let gap = parted(work, gap);
            let mut pieces = vec![Piece::New(rest.to_owned()), Piece::Old(Span::new(inside.end, pair.end))];
            pieces.extend(placed(code, items, gap, (before.map_or(pair.start, |before| before.body.start), pair.start)));
            (pieces, Span::new(from, pair.end))
        }
        End::First => {
            let to = inner.entries.get(range.end).map_or(inside.end, |next| next.body.start);
            let rest = white(code, Span::new(inside.start, items.start));
            let (Some(gap), Some(rest)) = (white(code, Span::new(items.end, to)), rest) else { return false };
            let gap = parted(work, gap);
            let starts = code.source.begins_line(pair.start) && code.source.begins_line(items.start);
            let mut pieces = set(code, items, starts.then(|| column(code, pair.start)));
            let gap = if ends_as(gap, &column(code, items.start)) {
                regapped(gap, &column(code, pair.start))
            } else {
                gap.to_owned()
            };
            pieces.push(Piece::New(gap));
            pieces.push(Piece::Old(Span::new(pair.start, inside.start)));
            pieces.push(Piece::New(rest.to_owned()));
            (pieces, Span::new(pair.start, to))
        }
    };
    work.allowance.whole = true;
    work.draft.replace(span, pieces);
    true
}

/// Forms are parted by white space; elements need not be.
fn parted<'a>(work: &Work<'_>, gap: &'a str) -> &'a str {
    if gap.is_empty() && work.code.toolkit().edits.listed.is_empty() { " " } else { gap }
}

/// White space whose last line, if it breaks one, is as wide as something else.
fn regapped(gap: &str, column: &str) -> String {
    match gap.rfind('\n') {
        Some(last) => format!("{}{column}", &gap[..=last]),
        None => gap.to_owned(),
    }
}

/// Items that begin in another column, or where they are.
fn set(code: Code<'_>, items: Span, column: Option<String>) -> Vec<Piece> {
    let mut pieces = vec![Piece::Begin];
    match column {
        Some(to) => pieces.extend(shifted(code, items, (base(code, items.start), &to), true)),
        None => pieces.push(Piece::Moved(items)),
    }
    pieces.push(Piece::End);
    pieces
}

/// Whether the last line of white space that breaks one is as wide as something else.
fn ends_as(gap: &str, column: &str) -> bool {
    gap.rsplit_once('\n').is_some_and(|(_, last)| last == column)
}

/// Items behind white space. Where that breaks the line, and they stand in the column of what was beside them, they come to stand in that of
/// what is beside them now.
fn placed(code: Code<'_>, items: Span, gap: &str, (was, is): (u32, u32)) -> Vec<Piece> {
    let to = column(code, is);
    let level = ends_as(gap, &column(code, was));
    let gap = if level { regapped(gap, &to) } else { gap.to_owned() };
    let mut pieces = vec![Piece::New(gap)];
    pieces.extend(set(code, items, level.then_some(to)));
    pieces
}
