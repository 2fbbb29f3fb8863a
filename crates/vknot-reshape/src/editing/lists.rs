//! Lists that come to stand one item a line, or on one line; pairs in two, and two in one.

use vknot_syntax::{Role, Span};

use crate::spec::Code;
use super::work::Work;
use super::constructs;
use super::draft::Piece;
use super::error::EditError;
use super::row::Row;
use super::standing::{base, level, shifted};
use super::taken::Taken;
use super::wish::Part;

pub(crate) fn split(work: &mut Work<'_>, part: Part) -> Result<(), EditError> {
    match part {
        Part::Pair => split_pair(work),
        Part::Closest if constructs::split(work)? => Ok(()),
        Part::Closest => one_a_line(work),
    }
}

pub(crate) fn joined(work: &mut Work<'_>, part: Part) -> Result<(), EditError> {
    match part {
        Part::Pair => join_pairs(work),
        Part::Closest if constructs::joined(work)? => Ok(()),
        Part::Closest => one_line(work),
    }
}

/// The closest row between brackets around a place, or in what is meant itself.
fn list_at(code: Code<'_>, at: Span) -> Result<Row, EditError> {
    let tree = code.tree;
    let none = EditError::NoPair { what: "list" };
    let taken = Taken::at(code, at);
    let own = match &taken {
        Ok(taken) if !at.is_empty() => {
            let span = taken.node_span(code);
            tree.ancestors(tree.covering(span)).find(|id| tree.node(*id).span() == span && listed(code, *id).is_some())
        }
        _ => None,
    };
    let start = match (&taken, own) {
        (_, Some(own)) => own,
        (Ok(taken), _) => taken.holder(code),
        _ => tree.covering(at),
    };
    tree.ancestors(start).find_map(|id| listed(code, id)).ok_or(none)
}

fn listed(code: Code<'_>, id: vknot_syntax::NodeId) -> Option<Row> {
    let row = Row::of(code, id).filter(|row| row.inside.is_some() && !row.entries.is_empty())?;
    let listed = !matches!(code.tree.role(id), Role::Block | Role::Body | Role::Element);
    let low = || !code.source.slice(code.tree.node(id).span()).contains('\n');
    (listed || low()).then_some(row)
}

fn one_a_line(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let row = list_at(code, work.at)?;
    if code.toolkit().edits.lines_end {
        return Err(EditError::Unbroken { language: code.tree.language().spec().name });
    }
    let inside = row.inside.unwrap_or_default();
    let end = code.source.facts().line_end().text();
    let own = base(code, inside.start).to_owned();
    let form = code.tree.role(row.holder) == Role::Form || code.toolkit().edits.listed.is_empty();
    let inner = match form {
        // Behind the bracket, as far as that stands from the margin.
        true => {
            let bracket = code.source.slice(Span::new(code.source.line_start(inside.start), inside.start));
            " ".repeat(bracket.chars().count() + usize::from(code.tree.role(row.holder) == Role::Form))
        }
        false => format!("{own}{}", level(code, work.style)),
    };
    let mut reached = inside.start;
    for (index, entry) in row.entries.iter().enumerate() {
        let gap = plain_gap(code, Span::new(reached, entry.body.start))?;
        if !(form && index == 0) {
            work.draft.replace(gap, vec![Piece::New(format!("{end}{inner}"))]);
        }
        let from = base(code, entry.body.start);
        if code.source.slice(entry.body).contains('\n') {
            work.draft.replace(entry.body, shifted(code, entry.body, (from, &inner), false));
        }
        reached = entry.end();
    }
    let gap = plain_gap(code, Span::new(reached, inside.end))?;
    if !form {
        let lacks = row.entries.last().is_some_and(|last| last.separator.is_none());
        let mark = row.separator.filter(|_| code.toolkit().edits.trailing && lacks).unwrap_or("");
        work.allowance.separators |= !mark.is_empty();
        work.draft.replace(gap, vec![Piece::New(format!("{mark}{end}{own}"))]);
    }
    Ok(())
}

/// A gap that holds nothing but white space.
fn plain_gap(code: Code<'_>, span: Span) -> Result<Span, EditError> {
    let text = code.source.slice(span).trim();
    match text.is_empty() {
        true => Ok(span),
        false => Err(EditError::LosesComment { comment: text.lines().next().unwrap_or("").to_owned() }),
    }
}

fn one_line(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let row = list_at(code, work.at)?;
    let inside = row.inside.unwrap_or_default();
    let padded = code.source.slice(Span::new(inside.start.saturating_sub(1), inside.start)) == "{";
    let edge = if padded { " " } else { "" };
    let mut reached = inside.start;
    for (index, entry) in row.entries.iter().enumerate() {
        if entry.trail.is_some() || code.tree.node(entry.node).start != entry.body.start {
            return Err(EditError::Swallows);
        }
        if code.source.slice(entry.body).contains('\n') {
            return Err(EditError::Unfit {
                what: "a list with an item of several lines".to_owned(),
                fits: "join that first",
            });
        }
        let gap = plain_gap(code, Span::new(reached, entry.body.start))?;
        work.draft.replace(gap, vec![Piece::New(if index == 0 { edge } else { " " }.to_owned())]);
        reached = entry.end();
    }
    let gap = plain_gap(code, Span::new(reached, inside.end))?;
    let last = row.entries.last().and_then(|last| last.separator);
    if let Some(mark) = last.filter(|_| code.toolkit().edits.trailing) {
        work.allowance.separators = true;
        work.draft.cut(mark);
    }
    work.draft.replace(gap, vec![Piece::New(edge.to_owned())]);
    Ok(())
}

/// The row that a pair around items is an item of, and which.
fn outer_of(code: Code<'_>, pair: Span, holder: vknot_syntax::NodeId) -> Option<(Row, usize)> {
    code.tree.ancestors(code.tree.node(holder).parent).find_map(|above| {
        let row = Row::of(code, above)?;
        let range = row.touched(pair)?;
        (range.len() == 1).then_some((row, range.start))
    })
}

/// A pair becomes two, the second beginning with the item at the place.
fn split_pair(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let (row, range) = Taken::items(code, work.at)?;
    let whole = code.tree.node(row.holder).span();
    let inside = row.inside.ok_or(EditError::NoPair { what: "element, form, list or block" })?;
    let before = range.start.checked_sub(1).and_then(|at| row.entries.get(at));
    let before = before.ok_or(EditError::TooFar { there: 0, wanted: 1, way: "in front of" })?;
    let item = &row.entries[range.start];
    let outer = outer_of(code, whole, row.holder);
    let own = |(outer, index): &(Row, usize)| code.tree.node(outer.entries[*index].node).span() == whole;
    if row.separator.is_some() && !outer.as_ref().is_some_and(own) {
        return Err(EditError::NoPair { what: "pair that is an item itself" });
    }
    let mark = outer.and_then(|(outer, _)| outer.separator).unwrap_or("");
    let open = code.source.slice(Span::new(whole.start, inside.start));
    let close = code.source.slice(Span::new(inside.end, whole.end));
    let end = code.source.facts().line_end().text();
    let high = code.source.begins_line(item.body.start);
    let own = base(code, whole.start);
    let last = row.separator.filter(|_| code.toolkit().edits.trailing).unwrap_or("");
    let apart = match high {
        true => format!("{last}{end}{own}{close}{mark}{end}{own}{open}{end}{}", base(code, item.body.start)),
        false if mark.is_empty() && code.tree.role(row.holder) == Role::Element => format!("{close}{open}"),
        false => format!("{close}{mark} {open}"),
    };
    work.allowance.separators = true;
    work.allowance.texts = Some(vec![close.to_owned(), open.to_owned()]);
    work.allowance.remade.push(whole);
    let gap = Span::new(before.trail.map_or(before.body.end, |_| before.end()), item.body.start);
    if let Some(mark) = before.separator.filter(|_| before.trail.is_some()) {
        work.draft.cut(mark);
    }
    work.draft.replace(gap, vec![Piece::New(apart)]);
    Ok(())
}

/// Two pairs of a kind beside each other become one.
fn join_pairs(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let tree = code.tree;
    let taken = Taken::at(code, work.at)?;
    let at = taken.holder(code);
    let found = tree.ancestors(at).find_map(|id| {
        let first = Row::of(code, id).filter(|row| row.inside.is_some() && !row.entries.is_empty())?;
        let (outer, index) = outer_of(code, tree.node(id).span(), id)?;
        let next = outer.entries.get(index + 1)?;
        let second = Row::of(code, next.node).filter(|row| row.inside.is_some() && !row.entries.is_empty())?;
        (outer.entries[index].node == id && tree.node(id).kind == tree.node(next.node).kind).then_some((first, second))
    });
    let (first, second) = found.ok_or(EditError::NoPair { what: "pair with another of its kind behind it" })?;
    let (Some(left), Some(right)) = (first.inside, second.inside) else { return Err(EditError::NoRow) };
    let (Some(last), Some(item)) = (first.entries.last(), second.entries.first()) else { return Err(EditError::NoRow) };
    work.allowance.separators = true;
    let ends = [
        Span::new(left.end, tree.node(first.holder).end),
        Span::new(tree.node(second.holder).start, right.start),
    ];
    work.allowance.gone.extend(ends);
    work.allowance.remade.extend([tree.node(first.holder).span(), tree.node(second.holder).span()]);
    let high = code.source.begins_line(item.body.start);
    let end = code.source.facts().line_end().text();
    let mark = match last.separator {
        None => first.separator.unwrap_or(""),
        Some(_) => "",
    };
    let element = mark.is_empty() && tree.role(first.holder) == Role::Element;
    let apart = match high {
        true => format!("{mark}{end}{}", base(code, item.body.start)),
        false if element => String::new(),
        false => format!("{mark} "),
    };
    work.draft.replace(Span::new(last.end(), item.body.start), vec![Piece::New(apart)]);
    Ok(())
}
