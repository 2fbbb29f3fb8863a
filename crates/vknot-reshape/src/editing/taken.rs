//! What is taken hold of at a place: the smallest item, the items of a range, or a node that is no item.

use std::ops::Range;

use vknot_syntax::{NodeId, Role, Span};

use crate::looks::{kind_words, settle};
use crate::spec::Code;
use super::error::EditError;
use super::row::Row;

/// What is taken hold of.
#[derive(Clone, Debug)]
pub(crate) enum Taken {
    /// Items side by side.
    Items(Row, Range<usize>),
    /// A node that stands in no row.
    Node(NodeId),
}

impl Taken {
    /// What is at a place.
    pub fn at(code: Code<'_>, at: Span) -> Result<Taken, EditError> {
        let tree = code.tree;
        let at = settle(code, trimmed(code, at));
        let inner = match tree.token_at(at.start).filter(|_| at.is_empty()) {
            Some(token) => tree.tokens()[token as usize].node,
            None if at.is_empty() => return Err(EditError::Nothing),
            None => tree.covering(at),
        };
        let exact = tree.ancestors(inner).take_while(|id| tree.node(*id).span() == at).last();
        // Of nodes around the same text the innermost that is an item is meant.
        let same = tree.ancestors(inner).take_while(|id| exact.is_some() && tree.node(*id).span() == at);
        for id in same {
            let row = tree.parent(id).and_then(|holder| Row::of(code, holder));
            let own = row.and_then(|row| Some((row.entries.iter().position(|entry| entry.node == id)?, row)));
            if let Some((index, row)) = own {
                return Ok(Taken::Items(row, index..index + 1));
            }
        }
        // A node that is meant itself is no place to look for items inside it.
        let start = exact.and_then(|exact| tree.parent(exact)).unwrap_or(inner);
        for holder in tree.ancestors(start) {
            let Some(row) = Row::of(code, holder) else { continue };
            let Some(range) = row.touched(at) else { continue };
            let items = Taken::Items(row, range);
            let is_node = exact.is_some() && items.span(code) != at && items.node_span(code) != at;
            return Ok(if is_node { Taken::Node(exact.unwrap_or(inner)) } else { items });
        }
        exact.map(Taken::Node).ok_or(EditError::Nothing)
    }

    /// The items at a place.
    pub fn items(code: Code<'_>, at: Span) -> Result<(Row, Range<usize>), EditError> {
        match Taken::at(code, at)? {
            Taken::Items(row, range) => Ok((row, range)),
            Taken::Node(id) => Err(EditError::NoItem { what: kind_words(code, id).to_owned() }),
        }
    }

    /// From its first byte to its last, with what belongs to items.
    pub fn span(&self, code: Code<'_>) -> Span {
        match self {
            Taken::Items(row, range) => whole(row, range),
            Taken::Node(id) => code.tree.node(*id).span(),
        }
    }

    /// The same, without what belongs to items.
    pub fn node_span(&self, code: Code<'_>) -> Span {
        match self {
            Taken::Items(row, range) => match row.entries.get(range.clone()) {
                Some([first, .., last]) => Span::new(code.tree.node(first.node).start, last.body.end),
                Some([only]) => Span::new(code.tree.node(only.node).start, only.body.end),
                _ => self.span(code),
            },
            Taken::Node(id) => code.tree.node(*id).span(),
        }
    }

    /// The node that holds it.
    pub fn holder(&self, code: Code<'_>) -> NodeId {
        match self {
            Taken::Items(row, _) => row.holder,
            Taken::Node(id) => code.tree.node(*id).parent,
        }
    }
}

/// From the first byte of some items to the last.
pub(crate) fn whole(row: &Row, range: &Range<usize>) -> Span {
    match row.entries.get(range.clone()) {
        Some([first, .., last]) => Span::new(first.body.start, last.end()),
        Some([only]) => only.span(),
        _ => Span::new(0, 0),
    }
}

/// A span without white space at its ends.
fn trimmed(code: Code<'_>, span: Span) -> Span {
    let text = code.source.slice(span);
    let start = span.start + (text.len() - text.trim_start().len()) as u32;
    match text.trim().is_empty() {
        true => Span::new(span.start, span.start),
        false => Span::new(start, start + text.trim().len() as u32),
    }
}

/// Which way to go from an item.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum About {
    /// So many items on.
    Next(u32),
    /// So many items back.
    Previous(u32),
    /// The first one beside it.
    First,
    /// The last one.
    Last,
    /// What holds it, so many times.
    Parent(u32),
    /// The first item inside, so many times.
    Child(u32),
}

/// The item, or items, at a place: what edits would take hold of there.
///
/// # Errors
/// When there is none.
pub fn item(code: Code<'_>, at: Span) -> Result<Span, EditError> {
    Taken::at(code, at).map(|taken| taken.node_span(code))
}

/// Where one gets from the item at a place; with `extend`, from there on as far as that.
///
/// # Errors
/// When there is no item, or nothing in that direction.
pub fn about(code: Code<'_>, at: Span, about: About, extend: bool) -> Result<Span, EditError> {
    let found = match about {
        About::Parent(times) => (0..times).try_fold(at, |at, _| parent(code, at))?,
        About::Child(times) => {
            let start = item(code, at)?;
            (0..times).try_fold(start, |at, _| child(code, at))?
        }
        _ => beside(code, at, about)?,
    };
    let start = item(code, at)?;
    Ok(if extend { Span::new(found.start.min(start.start), found.end.max(start.end)) } else { found })
}

fn beside(code: Code<'_>, at: Span, about: About) -> Result<Span, EditError> {
    let (row, range) = Taken::items(code, at)?;
    let last = row.entries.len() - 1;
    let too_far = |there, wanted: u32, way| EditError::TooFar { there, wanted: wanted as usize, way };
    let index = match about {
        About::Next(count) => match range.end - 1 + count as usize {
            index if index <= last => index,
            _ => return Err(too_far(last + 1 - range.end, count, "behind")),
        },
        About::Previous(count) => {
            range.start.checked_sub(count as usize).ok_or(too_far(range.start, count, "in front of"))?
        }
        About::First => 0,
        _ => last,
    };
    Ok(Taken::Items(row, index..index + 1).node_span(code))
}

/// The item that holds the one at a place.
fn parent(code: Code<'_>, at: Span) -> Result<Span, EditError> {
    let tree = code.tree;
    let taken = Taken::at(code, at)?;
    let own = taken.span(code);
    for id in tree.ancestors(taken.holder(code)) {
        let span = tree.node(id).span();
        if id.0 == 0 || span == own || !span.covers(own) {
            continue;
        }
        let items = Taken::at(code, span)?;
        if items.span(code) != own && items.span(code).covers(own) {
            return Ok(items.node_span(code));
        }
    }
    Err(EditError::NoPair { what: "item" })
}

/// The first item inside the one at a place.
fn child(code: Code<'_>, at: Span) -> Result<Span, EditError> {
    let none = EditError::TooFar { there: 0, wanted: 1, way: "inside" };
    let row = rows_within(code, at).into_iter().find(|row| !row.entries.is_empty()).ok_or(none)?;
    Ok(Taken::Items(row, 0..1).node_span(code))
}

/// The rows in a span, from the outside in: first the one whose items are statements, members or elements.
pub(crate) fn rows_within(code: Code<'_>, span: Span) -> Vec<Row> {
    let tree = code.tree;
    let top = tree.covering(span);
    let mut rows: Vec<(u32, bool, Row)> = Vec::new();
    for id in tree.subtree(top) {
        let node = tree.node(id);
        if !span.covers(node.span()) || node.is_leaf() {
            continue;
        }
        let role = tree.role(id);
        let depth = tree.ancestors(id).take_while(|above| *above != top).count() as u32;
        let main = matches!(role, Role::Body | Role::Block | Role::Element | Role::Collection | Role::Form);
        rows.extend(Row::of(code, id).filter(|row| row.inside.is_some() || role == Role::Block).map(|row| (
            depth,
            !main,
            row,
        )));
        // What is further in is not asked for.
        if rows.len() >= ROWS_LOOKED_AT {
            break;
        }
    }
    rows.sort_by_key(|(depth, minor, _)| (*minor, *depth));
    rows.into_iter().map(|(_, _, row)| row).collect()
}

/// How many rows inside an item are looked at for the one that is meant.
const ROWS_LOOKED_AT: usize = 64;
