//! Items that come into a row and go out of one: copies, deletions, insertions, and what passes a bracket.

use std::ops::Range;

use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::layout;
use crate::spec::Code;
use super::Work;
use super::draft::Piece;
use super::error::EditError;
use super::row::{Entry, Row, ends_line, is_vertical};
use super::standing::{base, level, shifted};
use super::taken::{Taken, rows_within, whole};
use super::wish::{End, Reach, To};

/// Where in a row something comes in.
#[derive(Clone, Debug)]
pub(crate) struct Target {
    pub row: Row,
    pub side: Side,
}

/// Beside which item.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Side {
    Before(usize),
    After(usize),
    /// There is none.
    Empty,
}

impl Target {
    /// In front of an item, or behind the last one.
    fn at(row: Row, end: End) -> Target {
        let side = match (row.entries.len(), end) {
            (0, _) => Side::Empty,
            (_, End::First) => Side::Before(0),
            (count, End::Last) => Side::After(count - 1),
        };
        Target { row, side }
    }
}

/// What comes in.
pub(crate) struct Load<'l> {
    /// Its text behind a line that begins with some white space.
    pub body: &'l dyn Fn(&str) -> Vec<Piece>,
    /// What trails it, with the white space in front.
    pub trail: Option<Piece>,
    /// How it stands apart from the item beside it: blank lines, or white space on the line. `None` to stand as others do.
    pub apart: Option<Apart>,
    /// Whether it ends with a mark of its own that parts statements.
    pub marked: bool,
    /// The mark behind it that is its own, where nothing parts the items of the row.
    pub mark: &'l str,
}

/// How an item stands apart from the one beside it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Apart {
    Lines(u32),
    Blank(String),
}

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
    Ok(Target::at(row, End::Last))
}

pub(crate) fn deleted(work: &mut Work<'_>) -> Result<(), EditError> {
    let (row, range) = Taken::items(work.code, work.at)?;
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
    let span = Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].body.end);
    let own = base(code, span.start).to_owned();
    let body = |to: &str| vec![Piece::New(text_of(code, &shifted(code, span, (&own, to), false)))];
    let text = code.source.slice(span).to_owned();
    work.allowance.separators = true;
    work.allowance.whole = true;
    let marked = is_marked(code, &row.entries[range.end - 1]);
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
    let edits = layout::inside(code.other(&source, &tree), work.style, &[span]);
    let inside = edits.filtered(|edit, _| span.covers(edit));
    let end = inside.moved(span.end);
    inside.apply(source.text()).get(span.start as usize..end as usize).map(str::to_owned)
}

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
        Some(taken) => taken.holder(code),
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

/// Whether items of one row can stand in another.
fn suits(code: Code<'_>, inner: NodeId, outer: NodeId) -> bool {
    let kind = |id: NodeId| match code.tree.role(id) {
        Role::Arguments | Role::Collection | Role::List => 1,
        Role::Block | Role::Body | Role::Arm => 2,
        Role::Element => 3,
        Role::Form => 4,
        Role::File => 0,
        _ => 5,
    };
    let (inner, outer) = (kind(inner), kind(outer));
    inner == outer || outer == 0 && inner != 1 || matches!((inner, outer), (4 | 5, 4 | 5) | (4, 1) | (1, 4))
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
    transfer(work, &outer, &range, &Target::at(inner, end), end);
    Ok(())
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
    let (range, side) = match end {
        End::Last => (there - count..there, Side::After(index)),
        End::First => (0..count, Side::Before(index)),
    };
    transfer(work, &inner, &range, &Target { row: outer, side }, end);
    Ok(())
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

/// Takes items out of a row and puts them into another; what parts them from the item on the side they come from goes along.
pub(crate) fn transfer(work: &mut Work<'_>, from: &Row, range: &Range<usize>, target: &Target, end: End) {
    let code = work.code;
    let (first, last) = (&from.entries[range.start], &from.entries[range.end - 1]);
    let span = Span::new(first.body.start, last.body.end);
    let own = base(code, span.start).to_owned();
    let trail = last.trail.map(|trail| Piece::Moved(Span::new(last.parted_end(), trail.end)));
    let apart = apart(code, from, range, end);
    let body = |to: &str| shifted(code, span, (&own, to), true);
    work.allowance.separators = true;
    work.allowance.whole = true;
    let marked = is_marked(code, last);
    let mark = own_mark(code, from, range.end - 1);
    put(work, target, &[Load { body: &body, trail, apart, marked, mark }]);
    cut(work, from, range, if end == End::First { End::Last } else { End::First });
}

/// How items stand apart from the one beside them: in front of them for those that go behind something, else behind them.
fn apart(code: Code<'_>, row: &Row, range: &Range<usize>, end: End) -> Option<Apart> {
    let (left, right) = match end {
        End::Last => (row.entries.get(range.start.checked_sub(1)?)?.end(), row.entries.get(range.start)?.body.start),
        End::First => (row.entries.get(range.end - 1)?.end(), row.entries.get(range.end)?.body.start),
    };
    Some(gap(code, left, right))
}

fn gap(code: Code<'_>, left: u32, right: u32) -> Apart {
    let text = code.source.slice(Span::new(left, right));
    match text.matches('\n').count() {
        0 if text.trim().is_empty() => Apart::Blank(text.to_owned()),
        0 => Apart::Blank(" ".to_owned()),
        lines => Apart::Lines(lines as u32 - 1),
    }
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
        // The last line goes with the line end in front of it.
        false if first > 0 => Span::new(lines.span(source.text(), first - 1).end, lines.span(source.text(), last).end),
        false => Span::new(lines.start(first), source.span().end),
    }
}

/// The mark that must stand between statements, where the last one may do without.
fn between(code: Code<'_>) -> &'static str {
    code.toolkit().edits.between
}

/// Whether an item ends with that mark.
pub(crate) fn is_marked(code: Code<'_>, entry: &Entry) -> bool {
    let mark = between(code);
    mark.is_empty() || code.source.slice(entry.body).ends_with([';', '}']) || entry.separator.is_some()
}

/// Puts texts into a row, one behind the other.
pub(crate) fn put(work: &mut Work<'_>, target: &Target, loads: &[Load<'_>]) {
    let code = work.code;
    let Target { row, side } = target;
    let vertical = match row.entries.is_empty() {
        true => row.inside.is_none() || is_high(code, row),
        false => row.is_vertical(code),
    };
    match (side, vertical) {
        (Side::Empty, _) => put_alone(work, row, loads, vertical),
        (Side::Before(index), true) => put_lines_before(work, row, *index, loads),
        (Side::After(index), true) => put_lines_after(work, row, *index, loads),
        (Side::Before(index), false) => put_before(work, row, *index, loads),
        (Side::After(index), false) => put_after(work, row, *index, loads),
    }
}

/// Whether items of an empty row stand on lines of their own.
fn is_high(code: Code<'_>, row: &Row) -> bool {
    let broken = row.inside.is_some_and(|inside| code.source.slice(inside).contains('\n'));
    broken || matches!(code.tree.role(row.holder), Role::Block | Role::Body | Role::Element)
}

fn put_alone(work: &mut Work<'_>, row: &Row, loads: &[Load<'_>], vertical: bool) {
    let code = work.code;
    let end = code.source.facts().line_end().text();
    let Some(inside) = row.inside else {
        let mut pieces = Vec::new();
        for load in loads {
            pieces.extend(marked(load, ""));
            pieces.push(Piece::New(end.to_owned()));
        }
        return work.draft.replace(Span::new(code.source.span().end, code.source.span().end), pieces);
    };
    let holder = base(code, inside.start).to_owned();
    if !vertical {
        let mut pieces = Vec::new();
        for (at, load) in loads.iter().enumerate() {
            let mark = if at > 0 { format!("{} ", row.separator.unwrap_or("")) } else { String::new() };
            pieces.push(Piece::New(mark));
            pieces.extend(marked(load, &holder));
        }
        return work.draft.replace(Span::new(inside.start, inside.start), pieces);
    }
    let inner = format!("{holder}{}", level(code, work.style));
    let text = code.source.slice(inside);
    let mut pieces = Vec::new();
    for (at, load) in loads.iter().enumerate() {
        let mark = if at > 0 { row.separator.unwrap_or("") } else { "" };
        pieces.push(Piece::New(format!("{mark}{end}{inner}")));
        pieces.extend(marked(load, &inner));
    }
    // Behind comments that stand there.
    let start = inside.start + text.trim_end().len() as u32;
    if !text.get(text.trim_end().len()..).unwrap_or("").contains('\n') {
        pieces.push(Piece::New(format!("{end}{holder}")));
        return work.draft.replace(Span::new(start, inside.end), pieces);
    }
    work.draft.replace(Span::new(start, start), pieces);
}

/// What comes in, between marks that say where.
fn marked(load: &Load<'_>, base: &str) -> Vec<Piece> {
    let mut pieces = vec![Piece::Begin];
    pieces.extend((load.body)(base));
    pieces.push(Piece::New(load.mark.to_owned()));
    pieces.push(Piece::End);
    pieces
}

/// The mark behind an item of a row whose items nothing parts.
fn own_mark<'a>(code: Code<'a>, row: &Row, index: usize) -> &'a str {
    let own = row.entries.get(index).and_then(|entry| entry.separator).filter(|_| row.separator.is_none());
    own.map_or("", |mark| code.source.slice(mark))
}

/// What parts an item on lines of its own from the next: the line end, and blank lines.
fn lines_apart(code: Code<'_>, row: &Row, load: &Load<'_>, between: (usize, usize)) -> String {
    let end = code.source.facts().line_end().text();
    let blank = match &load.apart {
        Some(Apart::Lines(blank)) => *blank,
        _ => match (row.entries.get(between.0), row.entries.get(between.1)) {
            (Some(left), Some(right)) => match gap(code, left.end(), right.body.start) {
                Apart::Lines(blank) => blank,
                Apart::Blank(_) => 0,
            },
            // Nothing shows it: functions and types stand apart.
            (Some(only), _) => {
                let role = code.tree.role(only.node);
                u32::from(matches!(role, Role::Callable | Role::Type) && code.source.slice(only.body).contains('\n'))
            }
            _ => 0,
        },
    };
    end.repeat(1 + blank as usize)
}

fn put_lines_before(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let mark = row.separator.unwrap_or("");
    let beside = if index > 0 { (index - 1, index) } else { (0, 1) };
    let mut pieces = Vec::new();
    for load in loads {
        pieces.push(Piece::New(base.clone()));
        pieces.extend(marked(load, &base));
        pieces.push(Piece::New(if load.marked { mark } else { between(code) }.to_owned()));
        pieces.extend(load.trail.clone());
        pieces.push(Piece::New(lines_apart(code, row, load, beside)));
    }
    let at = code.source.line_start(anchor.body.start);
    work.draft.replace(Span::new(at, at), pieces);
}

fn put_lines_after(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let last = index + 1 == row.entries.len();
    let bare = last && anchor.separator.is_none();
    let mark = row.separator.unwrap_or("");
    if bare && !is_marked(code, anchor) {
        work.draft.put(anchor.body.end, between(code));
    } else if bare && !mark.is_empty() {
        work.draft.put(anchor.body.end, mark);
    }
    let beside = if index > 0 { (index - 1, index) } else { (0, 1) };
    let end = line_end(code, anchor.end());
    let line = code.source.facts().line_end().text();
    // From the start of the next line, if there is one.
    let next = code.source.text().get(end as usize..).is_some_and(|rest| rest.starts_with(line));
    let mut pieces = Vec::new();
    for (at, load) in loads.iter().enumerate() {
        let apart = lines_apart(code, row, load, beside);
        let apart = if next { apart.strip_prefix(line).unwrap_or(&apart) } else { &apart };
        pieces.push(Piece::New(format!("{apart}{base}")));
        pieces.extend(marked(load, &base));
        let ends = bare && at + 1 == loads.len();
        let own = match load.marked {
            true if !ends => mark,
            false if !last => between(code),
            _ => "",
        };
        pieces.push(Piece::New(own.to_owned()));
        pieces.extend(load.trail.clone());
        pieces.push(Piece::New(if next { line } else { "" }.to_owned()));
    }
    let end = if next { end + line.len() as u32 } else { end };
    work.draft.replace(Span::new(end, end), pieces);
}

/// Where a line ends, its line end left out.
fn line_end(code: Code<'_>, offset: u32) -> u32 {
    let lines = code.source.lines();
    lines.span(code.source.text(), lines.index_at(offset)).end.max(offset)
}

/// The white space between items on one line.
fn blank_apart(code: Code<'_>, row: &Row, load: &Load<'_>) -> String {
    let pairs = row.entries.windows(2).find_map(|pair| match gap(code, pair[0].end(), pair[1].body.start) {
        Apart::Blank(blank) => Some(blank),
        Apart::Lines(_) => None,
    });
    match &load.apart {
        Some(Apart::Blank(blank)) => blank.clone(),
        _ => pairs.unwrap_or_else(|| " ".to_owned()),
    }
}

fn put_before(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let mut pieces = Vec::new();
    for load in loads {
        pieces.extend(marked(load, &base));
        let mark = if load.marked { row.separator.unwrap_or("") } else { between(code) };
        pieces.push(Piece::New(format!("{mark}{}", blank_apart(code, row, load))));
    }
    work.draft.replace(Span::new(anchor.body.start, anchor.body.start), pieces);
}

fn put_after(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let mark = match is_marked(code, anchor) {
        true => row.separator.unwrap_or(""),
        false => between(code),
    };
    let bare = anchor.separator.is_none();
    let mut pieces = Vec::new();
    for load in loads {
        let apart = match anchor.trail {
            Some(_) => format!("{}{base}", code.source.facts().line_end().text()),
            None => blank_apart(code, row, load),
        };
        if bare && anchor.trail.is_none() {
            pieces.push(Piece::New(mark.to_owned()));
        }
        pieces.push(Piece::New(apart));
        pieces.extend(marked(load, &base));
        if !bare {
            pieces.push(Piece::New(mark.to_owned()));
        }
    }
    if bare && anchor.trail.is_some() && !mark.is_empty() {
        work.draft.put(anchor.body.end, mark);
    }
    let at = match anchor.trail {
        Some(trail) => trail.end,
        None => anchor.parted_end(),
    };
    work.draft.replace(Span::new(at, at), pieces);
}

/// Whether some items have their lines to themselves.
pub(crate) fn are_vertical(code: Code<'_>, row: &Row, range: &Range<usize>) -> bool {
    row.entries.get(range.clone()).unwrap_or_default().iter().all(|entry| is_vertical(code, entry))
}
