//! Items that change places: the places stay, with their separators and the white space between them, and what stands in them goes round.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use super::work::Work;
use super::draft::Piece;
use super::enclose::bracketed;
use super::error::EditError;
use super::row::{Row, ends_line};
use super::standing::{base, shifted};
use super::taken::{Taken, whole};
use super::placing::{Side, Target};
use super::transfer::{of_one_sort, target, transfer};
use super::wish::{End, To};

pub(crate) fn moved(work: &mut Work<'_>, to: &To) -> Result<(), EditError> {
    let (row, range) = Taken::items(work.code, work.at)?;
    let (start, end, count) = (range.start, range.end, row.entries.len());
    let too_far = |there, wanted: u32, way| EditError::TooFar { there, wanted: wanted as usize, way };
    let aim = match to {
        To::Up(0) | To::Down(0) => return Ok(()),
        To::Up(by) => start.checked_sub(*by as usize).ok_or(too_far(start, *by, "above"))?,
        To::Down(by) if end + *by as usize <= count => start + *by as usize,
        To::Down(by) => return Err(too_far(count - end, *by, "below")),
        To::Before(_) | To::After(_) | To::Into(_) => {
            let target = target(work.code, to)?;
            if target.row.holder != row.holder {
                return elsewhere(work, &row, &range, &target);
            }
            match target.side {
                Side::Before(index) if index <= start => index,
                Side::After(index) if index < start => index + 1,
                Side::Before(index) if index >= end => index - range.len(),
                Side::After(index) if index >= end => index + 1 - range.len(),
                _ => return Err(EditError::Inside),
            }
        }
    };
    let others = if aim < start { aim..start } else { end..aim + range.len() };
    let order: Vec<usize> = match aim < start {
        true => range.clone().chain(others.clone()).collect(),
        false => others.clone().chain(range.clone()).collect(),
    };
    let first = start.min(aim);
    let places: Vec<(usize, usize)> = order.iter().enumerate().map(|(at, source)| (first + at, *source)).collect();
    permuted(work, &row, &places, |source| range.contains(&source))
}

/// Items go into another row.
fn elsewhere(
    work: &mut Work<'_>,
    row: &Row,
    range: &std::ops::Range<usize>,
    target: &Target,
) -> Result<(), EditError> {
    let own = whole(row, range);
    let node = work.code.tree.node(target.row.holder);
    if own.covers(node.span()) {
        return Err(EditError::Inside);
    }
    of_one_sort(work.code, (row, range), &target.row)?;
    let end = if matches!(target.side, Side::Before(_)) { End::First } else { End::Last };
    transfer(work, row, range, target, end)
}

/// Puts what stands in some places into others: `(place, whose item)`.
fn permuted(
    work: &mut Work<'_>,
    row: &Row,
    places: &[(usize, usize)],
    meant: impl Fn(usize) -> bool,
) -> Result<(), EditError> {
    let code = work.code;
    let reached = |at: &(usize, usize)| [at.0, at.1];
    let (from, to) = (places.iter().flat_map(reached).min(), places.iter().flat_map(reached).max());
    if let (Some(from), Some(to)) = (from, to) {
        row.passes(code, Span::new(row.entries[from].body.start, row.entries[to].end()))?;
    }
    let marks = Marks::of(code, row, places);
    work.allowance.separators = true;
    work.allowance.whole = true;
    for (at, source) in places.iter().filter(|(at, source)| at != source) {
        let (place, item) = (&row.entries[*at], &row.entries[*source]);
        let own = marks.body(row, *source);
        let (from, to) = (base(code, item.body.start), base(code, place.body.start));
        let mut pieces = shifted(code, own, (from, to), true);
        if meant(*source) {
            pieces.insert(0, Piece::Begin);
            pieces.push(Piece::End);
        }
        if marks.gains == Some((*source, *at)) {
            pieces.push(Piece::New(code.toolkit().edits.between_or(row.separator).to_owned()));
        }
        work.draft.replace(place.body, pieces);
        if place.trail.is_none() && item.trail.is_none() {
            continue;
        }
        let trail = match item.trail {
            Some(trail) => vec![Piece::Moved(Span::new(item.parted_end(), trail.end))],
            None => Vec::new(),
        };
        if item.trail.is_some() && !ends_line(code, place.end()) {
            return Err(EditError::Swallows);
        }
        work.draft.replace(Span::new(place.parted_end(), place.end()), trail);
    }
    Ok(())
}

/// The mark at the end of items where the last one does without: what becomes the last loses it, and what was the last gains it.
struct Marks {
    /// Which item loses it.
    loses: Option<usize>,
    /// Which item gains it, and where.
    gains: Option<(usize, usize)>,
}

impl Marks {
    fn of(code: Code<'_>, row: &Row, places: &[(usize, usize)]) -> Marks {
        let none = Marks { loses: None, gains: None };
        let Some(last) = row.entries.len().checked_sub(1) else { return none };
        let Some((_, source)) = places.iter().find(|(at, source)| *at == last && at != source) else { return none };
        let ends = |at: usize| code.source.slice(row.entries[at].body).ends_with([';', ',']);
        let kind = |at: usize| code.tree.node(row.entries[at].node).kind;
        let part = row.entries.iter().any(|entry| entry.separator.is_some());
        if part || ends(last) || !(0..last).any(|at| ends(at) && kind(at) == kind(last)) {
            return none;
        }
        let closed = code.source.slice(row.entries[last].body).ends_with('}');
        let to = places.iter().find(|(_, source)| *source == last).map(|(at, _)| (last, *at));
        Marks { loses: Some(*source).filter(|source| ends(*source)), gains: to.filter(|_| !closed) }
    }

    /// The text of an item where it goes.
    fn body(&self, row: &Row, source: usize) -> Span {
        let own = row.entries[source].body;
        match self.loses {
            Some(loses) if loses == source => Span::new(own.start, own.end - 1),
            _ => own,
        }
    }
}

pub(crate) fn swapped(work: &mut Work<'_>, with: &To) -> Result<(), EditError> {
    let code = work.code;
    let taken = Taken::at(code, work.at)?;
    if let (Taken::Items(row, range), To::Up(_) | To::Down(_)) = (&taken, with) {
        return beside(work, row, range, with);
    }
    let other = match with {
        To::Before(at) | To::After(at) | To::Into(at) => Taken::at(code, *at)?,
        _ => Taken::Node(operand(code, &taken, matches!(with, To::Down(_)))?),
    };
    if let (Taken::Items(row, range), Taken::Items(others, other)) = (&taken, &other)
        && row.holder == others.holder
        && range.len() == 1
        && other.len() == 1
    {
        let (a, b) = (range.start, other.start);
        return if a == b { Err(EditError::Overlap) } else { permuted(work, row, &[(a, b), (b, a)], |at| at == a) };
    }
    if let (Taken::Items(row, range), Taken::Items(others, _)) = (&taken, &other) {
        of_one_sort(code, (row, range), others)?;
    }
    let (own, other) = (body_span(code, &taken), body_span(code, &other));
    if own.start < other.end && other.start < own.end {
        return Err(EditError::Overlap);
    }
    work.allowance.whole = true;
    work.allowance.brackets = work.bracketed;
    let (own_base, other_base) = (base(code, own.start), base(code, other.start));
    let pieces = |work: &Work<'_>, span: Span, from: &str, to: &str| {
        let pieces = shifted(code, span, (from, to), true);
        if work.bracketed { bracketed(code, span, pieces) } else { pieces }
    };
    let there = pieces(work, other, other_base, own_base);
    let mut here = vec![Piece::Begin];
    here.extend(pieces(work, own, own_base, other_base));
    here.push(Piece::End);
    work.draft.replace(own, there);
    work.draft.replace(other, here);
    Ok(())
}

/// The text of what is taken hold of, without what trails it.
fn body_span(code: Code<'_>, taken: &Taken) -> Span {
    match taken {
        Taken::Items(row, range) => {
            Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].body.end)
        }
        Taken::Node(_) => taken.span(code),
    }
}

/// Swaps items with as many of those beside them as are named.
fn beside(work: &mut Work<'_>, row: &Row, range: &std::ops::Range<usize>, with: &To) -> Result<(), EditError> {
    let by = match with {
        To::Up(by) | To::Down(by) => *by as usize,
        _ => 1,
    };
    let other = match with {
        To::Up(_) => range.start.checked_sub(by),
        _ => Some(range.end - 1 + by).filter(|index| *index < row.entries.len()),
    };
    let up = matches!(with, To::Up(_));
    let there = if up { range.start } else { row.entries.len() - range.end };
    let way = if up { "in front of" } else { "behind" };
    let other = other.ok_or(EditError::TooFar { there, wanted: by, way })?;
    let own = if up { range.start } else { range.end - 1 };
    permuted(work, row, &[(own, other), (other, own)], |at| at == own)
}

/// The operand on the other side of an operator.
fn operand(code: Code<'_>, taken: &Taken, next: bool) -> Result<NodeId, EditError> {
    let tree = code.tree;
    let Taken::Node(id) = taken else { return Err(EditError::Nothing) };
    let what = || crate::looks::kind_words(code, *id).to_owned();
    let holder = tree.node(*id).parent;
    if tree.role(holder) != Role::Operator {
        return Err(EditError::NoItem { what: what() });
    }
    let language = tree.language();
    let operand = |other: &NodeId| {
        let node = tree.node(*other);
        *other != *id && language.is_named(node.kind)
    };
    let found = match next {
        true => tree.parts(holder).filter(operand).find(|other| other.0 > id.0),
        false => tree.parts(holder).filter(operand).filter(|other| other.0 < id.0).last(),
    };
    let way = if next { "behind" } else { "in front of" };
    found.ok_or(EditError::TooFar { there: 0, wanted: 1, way })
}
