//! Items that come into a row and go out of one: copies, deletions, insertions.

use std::ops::Range;

use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::layout;
use crate::spec::Code;
use super::work::Work;
use super::draft::Piece;
use super::error::EditError;
use super::placing::{Apart, Load, Side, Target, gap, is_marked, own_mark, put};
use super::row::{Entry, Row, ends_line, is_vertical};
use super::standing::{base, shifted};
use super::taken::{Taken, rows_within, whole};
use super::wish::{End, To};

/// Where a wish points to. Steps up and down are told from the items at the place.
pub(crate) fn target(code: Code<'_>, to: &To) -> Result<Target, EditError> {
    match to {
        To::Before(at) => {
            let (row, range) = Taken::items(code, *at)?;
            Ok(Target { row, side: Side::Before(range.start) })
        }
        To::After(at) => {
            let (row, range) = Taken::items(code, *at)?;
            Ok(Target { row, side: Side::After(range.end - 1) })
        }
        To::Into(at) => into(code, *at),
        To::Up(_) | To::Down(_) => Err(EditError::NoRow),
    }
}

/// The row that something comes into at a place: the main one of the item there, else the closest one around it.
fn into(code: Code<'_>, at: Span) -> Result<Target, EditError> {
    let tree = code.tree;
    let span = Taken::at(code, at).map_or(at, |taken| taken.span(code));
    // Of an item at a position only what it is there to hold is meant, not the arguments of a call.
    let main = |row: &Row| {
        let role = tree.role(row.holder);
        !at.is_empty() || matches!(role, Role::Body | Role::Block | Role::Element | Role::Collection | Role::Form)
    };
    let within = rows_within(code, span).into_iter().next().filter(|row| !span.is_empty() && main(row));
    let around = || {
        let inner = tree.covering(at);
        tree.ancestors(inner).find_map(|id| Row::of(code, id).filter(|row| row.inside.is_some() || id.0 == 0))
    };
    let row = within.or_else(around).ok_or(EditError::NoRow)?;
    Ok(Target::at(code, row, End::Last))
}

pub(crate) fn deleted(work: &mut Work<'_>) -> Result<(), EditError> {
    let (row, range) = Taken::items(work.code, work.at)?;
    row.varies(work.code, row.entries.len() - range.len())?;
    row.passes(work.code, whole(&row, &range))?;
    work.allowance.gone.push(whole(&row, &range));
    work.allowance.separators = true;
    cut(work, &row, &range, End::First);
    Ok(())
}

pub(crate) fn copied(work: &mut Work<'_>, to: &To, times: u32) -> Result<(), EditError> {
    let code = work.code;
    let (row, range) = Taken::items(code, work.at)?;
    let target = match to {
        To::Up(_) => Target { row: row.clone(), side: Side::Before(range.start) },
        To::Down(_) => Target { row: row.clone(), side: Side::After(range.end - 1) },
        _ => target(code, to)?,
    };
    of_one_sort(code, (&row, &range), &target.row)?;
    target.row.varies(code, target.row.entries.len() + times as usize)?;
    row.passes(code, whole(&row, &range))?;
    let span = Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].body.end);
    let own = base(code, span.start).to_owned();
    let body = |to: &str| vec![Piece::New(text_of(code, &shifted(code, span, (&own, to), false)))];
    let text = code.source.slice(span).to_owned();
    work.allowance.separators = true;
    work.allowance.whole = true;
    let marked = is_marked(code, &row, &row.entries[range.end - 1]);
    let mark = own_mark(code, &row, range.end - 1);
    work.allowance.texts = Some(vec![format!("{text}{mark}"); times as usize]);
    let loads: Vec<Load<'_>> =
        (0..times).map(|_| Load { body: &body, trail: None, apart: None, marked, mark }).collect();
    put(work, &target, &loads);
    Ok(())
}

/// The text that pieces make.
fn text_of(code: Code<'_>, pieces: &[Piece]) -> String {
    let text = |piece: &Piece| match piece {
        Piece::Old(span) | Piece::Moved(span) => code.source.slice(*span).to_owned(),
        Piece::New(text) => text.clone(),
        Piece::Begin | Piece::End => String::new(),
    };
    pieces.iter().map(text).collect()
}

pub(crate) fn inserted(work: &mut Work<'_>, to: &To, text: &str) -> Result<(), EditError> {
    let target = target(work.code, to)?;
    target.row.varies(work.code, target.row.entries.len() + 1)?;
    let lines = dedented(text);
    let lines = match target.row.separator {
        Some(mark) => lines.trim_end().strip_suffix(mark).unwrap_or(lines.trim_end()).to_owned(),
        None => lines.trim_end().to_owned(),
    };
    let laid_out = laid_out(work, &target, &lines);
    let body = |to: &str| vec![Piece::New(lines.replace('\n', &format!("\n{to}")))];
    work.allowance.separators = true;
    work.allowance.whole = true;
    match laid_out {
        Some(text) => {
            let body = |_: &str| vec![Piece::New(text.clone())];
            work.allowance.texts = Some(vec![text.clone()]);
            put(work, &target, &[Load { body: &body, trail: None, apart: None, marked: text.ends_with(';'), mark: "" }]);
        }
        None => {
            work.allowance.texts = Some(vec![lines.clone()]);
            put(work, &target, &[
                Load { body: &body, trail: None, apart: None, marked: lines.ends_with(';'), mark: "" },
            ]);
        }
    }
    Ok(())
}

/// A text without the white space that all its lines begin with, and with plain line ends.
fn dedented(text: &str) -> String {
    let text = text.replace("\r\n", "\n");
    let text = text.trim_matches('\n');
    let blank = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
    let shared = text.lines().filter(|line| !line.trim().is_empty()).map(blank).min().unwrap_or(0);
    let lines: Vec<&str> = text.lines().map(|line| line.get(shared..).unwrap_or("")).collect();
    lines.join("\n")
}

/// The text as it is laid out where it comes in; `None` where layout has nothing to say.
fn laid_out(work: &Work<'_>, target: &Target, text: &str) -> Option<String> {
    let code = work.code;
    code.toolkit().layout.as_ref()?;
    let mut trial = Work { draft: Default::default(), allowance: Default::default(), ..*work };
    let body = |to: &str| vec![Piece::New(text.replace('\n', &format!("\n{to}")))];
    put(&mut trial, target, &[Load { body: &body, trail: None, apart: None, marked: text.ends_with(';'), mark: "" }]);
    let reshape = trial.draft.finish(code, Default::default());
    let span = *reshape.receipt.placed.first()?;
    let source = Source::from_text(code.source.path(), reshape.edits.apply(code.source.text()));
    let tree = Tree::read(&source, code.tree.language());
    if tree.errors().count() > code.tree.errors().count() {
        return None;
    }
    let edits = layout::inside(code.other(&source, &tree), work.style, &[span], code);
    let inside = edits.filtered(|edit, _| span.covers(edit));
    let end = inside.moved(span.end);
    inside.apply(source.text()).get(span.start as usize..end as usize).map(str::to_owned)
}

/// That items of one row can stand in another.
pub(crate) fn of_one_sort(code: Code<'_>, (row, range): (&Row, &Range<usize>), other: &Row) -> Result<(), EditError> {
    among_arms(code, (row, range), other)?;
    // What a file holds is no item between commas.
    let at_top = |row: &Row| code.tree.role(row.holder) == Role::File;
    let parted = |row: &Row| row.separator == Some(",");
    let mixed = at_top(row) && parted(other) || at_top(other) && parted(row);
    let (own, other) = (row.holder, other.holder);
    if own == other || !mixed && (suits(code, own, other) || suits(code, other, own)) {
        return Ok(());
    }
    let sort = |id: NodeId| match code.tree.role(id) {
        Role::Arguments => ("an argument", "arguments"),
        Role::Collection => ("a value in a list", "values in a list"),
        Role::List => ("what stands in a list", "what stands in a list"),
        Role::Block | Role::Arm => ("a statement", "statements"),
        Role::Body => ("a member", "members"),
        Role::Element => ("what stands in an element", "what stands in an element"),
        Role::Form => ("a form", "forms"),
        Role::File => ("what stands at the top of a file", "what stands at the top of a file"),
        _ => ("this", "what stands there"),
    };
    Err(EditError::Sort { what: sort(own).0, others: sort(other).1 })
}

/// That arms of a branch stand among arms, and nothing else does.
fn among_arms(code: Code<'_>, (row, range): (&Row, &Range<usize>), other: &Row) -> Result<(), EditError> {
    let are_arms = |entries: &[Entry]| entries.iter().any(|entry| code.tree.role(entry.node) == Role::Arm);
    let arms = are_arms(&row.entries[range.clone()]);
    match !other.entries.is_empty() && are_arms(&other.entries) != arms {
        true if arms => Err(EditError::Sort { what: "an arm of a branch", others: "statements" }),
        true => Err(EditError::Sort { what: "a statement", others: "arms of a branch" }),
        false => Ok(()),
    }
}

/// Whether items of one row can stand in another.
pub(crate) fn suits(code: Code<'_>, inner: NodeId, outer: NodeId) -> bool {
    let kind = |id: NodeId| match code.tree.role(id) {
        Role::Arguments | Role::Collection => 1,
        Role::List => 6,
        Role::Block | Role::Body | Role::Arm => 2,
        Role::Element => 3,
        Role::Form => 4,
        Role::File => 0,
        _ => 5,
    };
    let (inner, outer) = (kind(inner), kind(outer));
    inner == outer
        || outer == 0 && !matches!(inner, 1 | 6)
        || matches!((inner, outer), (4 | 5, 4 | 5) | (4, 1) | (1, 4))
}

/// Takes items out of a row and puts them into another; what parts them from the item on the side they come from goes along.
pub(crate) fn transfer(
    work: &mut Work<'_>,
    from: &Row,
    range: &Range<usize>,
    target: &Target,
    end: End,
) -> Result<(), EditError> {
    let code = work.code;
    among_arms(code, (from, range), &target.row)?;
    from.varies(code, from.entries.len() - range.len())?;
    target.row.varies(code, target.row.entries.len() + range.len())?;
    from.passes(code, whole(from, range))?;
    let (first, last) = (&from.entries[range.start], &from.entries[range.end - 1]);
    let span = Span::new(first.body.start, last.body.end);
    let own = base(code, span.start).to_owned();
    let trail = last.trail.map(|trail| Piece::Moved(Span::new(last.parted_end(), trail.end)));
    let apart = apart(code, from, range, end);
    let body = |to: &str| shifted(code, span, (&own, to), true);
    work.allowance.separators = true;
    work.allowance.whole = true;
    let marked = is_marked(code, from, last);
    let mark = own_mark(code, from, range.end - 1);
    put(work, target, &[Load { body: &body, trail, apart, marked, mark }]);
    cut(work, from, range, if end == End::First { End::Last } else { End::First });
    Ok(())
}

/// How items stand apart from the one beside them: in front of them for those that go behind something, else behind them.
fn apart(code: Code<'_>, row: &Row, range: &Range<usize>, end: End) -> Option<Apart> {
    let (left, right) = match end {
        End::Last => {
            let item = row.entries.get(range.start)?;
            let before = range.start.checked_sub(1).and_then(|before| row.entries.get(before)).map(Entry::end);
            (before.max(row.staying_beside(item.span(), End::First))?, item.body.start)
        }
        End::First => {
            let item = row.entries.get(range.end - 1)?;
            let behind = row.entries.get(range.end).map(|behind| behind.body.start);
            let staying = row.staying_beside(item.span(), End::Last);
            (item.end(), behind.into_iter().chain(staying).min()?)
        }
    };
    // Comments in between that are of no item count for nothing.
    let between = code.source.slice(Span::new(left, right));
    Some(match end {
        End::Last => gap(code, left + between.trim_end().len() as u32, right),
        End::First => gap(code, left, right - between.trim_start().len() as u32),
    })
}

/// Takes items out of a row, with the blank lines on one side of them, and the separator that is one too many.
pub(crate) fn cut(work: &mut Work<'_>, row: &Row, range: &Range<usize>, blanks: End) {
    let code = work.code;
    let (first, last) = (&row.entries[range.start], &row.entries[range.end - 1]);
    let before = range.start.checked_sub(1).and_then(|at| row.entries.get(at));
    let behind = row.entries.get(range.end);
    let lone = before.filter(|_| behind.is_none() && last.separator.is_none()).and_then(|before| before.separator);
    if code.source.begins_line(first.body.start) && ends_line(code, last.end()) {
        if let Some(mark) = lone {
            work.draft.cut(mark);
        }
        let span = lines_of(code, Span::new(first.body.start, last.end()), (before, behind), blanks);
        return work.draft.cut(span);
    }
    let span = match (before, behind) {
        (_, Some(behind)) if !code.source.begins_line(behind.body.start) => {
            Span::new(first.body.start, behind.body.start)
        }
        (Some(before), _) => match lone {
            Some(_) if before.trail.is_none() => Span::new(before.body.end, last.end()),
            Some(mark) => {
                work.draft.cut(mark);
                Span::new(before.end(), last.end())
            }
            None => Span::new(before.end(), last.end()),
        },
        (None, _) => alone(code, row, Span::new(first.body.start, last.end())),
    };
    work.draft.cut(span);
}

/// A span with the blanks around it on its line, up to the brackets.
fn alone(code: Code<'_>, row: &Row, span: Span) -> Span {
    let source = code.source;
    let blank = |c: char| matches!(c, ' ' | '\t');
    let line = source.slice(Span::new(source.line_start(span.start), span.start));
    let start = span.start - (line.len() - line.trim_end_matches(blank).len()) as u32;
    let rest = source.text().get(span.end as usize..).unwrap_or("");
    let end = span.end + (rest.len() - rest.trim_start_matches(blank).len()) as u32;
    match row.inside {
        Some(inside) => Span::new(start.max(inside.start), end.min(inside.end).max(span.end)),
        // An attribute goes with what is in front of it.
        None => Span::new(start, span.end),
    }
}

/// The whole lines of items, with blank lines on one side.
fn lines_of(code: Code<'_>, span: Span, (before, behind): (Option<&Entry>, Option<&Entry>), blanks: End) -> Span {
    let source = code.source;
    let lines = source.lines();
    let (mut first, last) = (lines.index_at(span.start), lines.index_at(span.end));
    let blank = |line: u32| lines.text(source.text(), line).trim().is_empty();
    let mut next = last + 1;
    let above = before.is_some() && (blanks == End::First || behind.is_none());
    if above {
        while first > 0 && blank(first - 1) {
            first -= 1;
        }
    } else if behind.is_some() {
        while next < lines.count() && blank(next) {
            next += 1;
        }
    }
    match next < lines.count() {
        true => Span::new(lines.start(first), lines.start(next)),
        false if source.text().ends_with('\n') => Span::new(lines.start(first), source.span().end),
        // The last line goes with the line end in front of it.
        false if first > 0 => Span::new(lines.span(source.text(), first - 1).end, lines.span(source.text(), last).end),
        false => Span::new(lines.start(first), source.span().end),
    }
}

/// Whether some items have their lines to themselves.
pub(crate) fn are_vertical(code: Code<'_>, row: &Row, range: &Range<usize>) -> bool {
    row.entries.get(range.clone()).unwrap_or_default().iter().all(|entry| is_vertical(code, entry))
}
