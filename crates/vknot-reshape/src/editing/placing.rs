//! Where items come into a row: on lines of their own or on the line, with what parts them from their neighbours.

use vknot_syntax::{Role, Span};

use crate::spec::Code;
use super::draft::Piece;
use super::row::{Entry, Row, ends_line};
use super::standing::{base, level};
use super::wish::End;
use super::work::Work;

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
    /// In front of all that a row holds, or behind it.
    pub fn at(code: Code<'_>, row: Row, end: End) -> Target {
        let row = row.with_edge(code, end);
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

pub(crate) fn gap(code: Code<'_>, left: u32, right: u32) -> Apart {
    let text = code.source.slice(Span::new(left, right));
    match text.matches('\n').count() {
        0 if text.trim().is_empty() => Apart::Blank(text.to_owned()),
        0 => Apart::Blank(" ".to_owned()),
        lines => Apart::Lines(lines as u32 - 1),
    }
}

/// The mark that must stand between statements, where the last one may do without; nothing where there are none.
fn between(code: Code<'_>, row: &Row) -> &'static str {
    match code.tree.role(row.holder) {
        Role::Arguments | Role::List | Role::Collection | Role::Parenthesized => "",
        _ if row.separator.is_some() => "",
        _ => code.toolkit().edits.between,
    }
}

/// Whether an item ends with that mark.
pub(crate) fn is_marked(code: Code<'_>, row: &Row, entry: &Entry) -> bool {
    let mark = between(code, row);
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
    let crowded = !vertical && row.separator.is_none() && is_crowded(code, (row, *side), loads);
    match (side, vertical) {
        (Side::Before(index), false) if crowded => put_crowded(work, row, (*index, End::First), loads),
        (Side::After(index), false) if crowded => put_crowded(work, row, (*index, End::Last), loads),
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

/// Whether items that take several lines, and stood on lines of their own, come among others that share a line with what is around them.
fn is_crowded(code: Code<'_>, (row, side): (&Row, Side), loads: &[Load<'_>]) -> bool {
    let long = || row.entries.iter().any(|entry| code.source.slice(entry.body).contains('\n'));
    let begins = |index: usize| code.source.begins_line(row.entries[index].body.start);
    let own_lines = match (code.tree.role(row.holder), side) {
        // Closing brackets of forms stand behind the last of what they hold.
        (role, Side::Before(index) | Side::After(index)) if is_form(code) && role != Role::File => begins(index),
        (Role::Block | Role::Body | Role::File, _) => long(),
        _ => false,
    };
    own_lines && loads.iter().all(|load| matches!(load.apart, Some(Apart::Lines(_))))
}

/// Whether code is made of forms.
fn is_form(code: Code<'_>) -> bool {
    code.toolkit().indent.spec.forms.is_some()
}

/// Puts texts beside an item on lines of their own, and breaks the line that it shares.
fn put_crowded(work: &mut Work<'_>, row: &Row, (index, end): (usize, End), loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let begins = code.source.begins_line(anchor.body.start);
    if end == End::First && begins {
        return put_lines_before(work, row, index, loads);
    }
    if end == End::Last && ends_line(code, anchor.end()) {
        return put_lines_after(work, row, index, loads);
    }
    let alone = Piece::New(format!("{}{base}", code.source.facts().line_end().text()));
    let beside = if index > 0 { (index - 1, index) } else { (0, 1) };
    let mut pieces = Vec::new();
    for load in loads {
        let apart = Piece::New(format!("{}{base}", lines_apart(code, row, load, beside)));
        let mut own = marked(load, &base);
        own.push(Piece::New(if load.marked { "" } else { between(code, row) }.to_owned()));
        own.extend(load.trail.clone());
        own.insert(if end == End::First { own.len() } else { 0 }, apart);
        pieces.extend(own);
    }
    if is_form(code) {
        return work.draft.replace(Span::new(anchor.end(), anchor.end()), pieces);
    }
    pieces.insert(if end == End::First { 0 } else { pieces.len() }, alone);
    let at = match end {
        End::First => anchor.body.start,
        End::Last => anchor.end(),
    };
    work.draft.replace(blank_around(code, at, end), pieces);
}

/// The blanks in front of an offset, or behind it.
fn blank_around(code: Code<'_>, offset: u32, end: End) -> Span {
    let (before, behind) = code.source.text().split_at_checked(offset as usize).unwrap_or_default();
    let blank = [' ', '\t'];
    match end {
        End::First => Span::new(before.trim_end_matches(blank).len() as u32, offset),
        End::Last => Span::new(offset, offset + (behind.len() - behind.trim_start_matches(blank).len()) as u32),
    }
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
pub(crate) fn own_mark<'a>(code: Code<'a>, row: &Row, index: usize) -> &'a str {
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
    let base = row.base_beside(code, index).to_owned();
    let mark = row.separator.unwrap_or("");
    let beside = if index > 0 { (index - 1, index) } else { (0, 1) };
    let mut pieces = Vec::new();
    for load in loads {
        pieces.push(Piece::New(base.clone()));
        pieces.extend(marked(load, &base));
        pieces.push(Piece::New(if load.marked { mark } else { between(code, row) }.to_owned()));
        pieces.extend(load.trail.clone());
        pieces.push(Piece::New(lines_apart(code, row, load, beside)));
    }
    let at = code.source.line_start(anchor.body.start);
    work.draft.replace(Span::new(at, at), pieces);
}

fn put_lines_after(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = row.base_beside(code, index).to_owned();
    let last = index + 1 == row.entries.len();
    let bare = last && anchor.separator.is_none();
    let mark = row.separator.unwrap_or("");
    if bare && !is_marked(code, row, anchor) {
        work.draft.put(anchor.body.end, between(code, row));
    } else if bare && !mark.is_empty() {
        work.draft.put(anchor.body.end, mark);
    }
    let beside = if index > 0 { (index - 1, index) } else { (0, 1) };
    if bare && !mark.is_empty() && !ends_line(code, anchor.end()) {
        // What closes the row stays behind its last item.
        let mut pieces = Vec::new();
        for (at, load) in loads.iter().enumerate() {
            let mark = if at > 0 { mark } else { "" };
            pieces.push(Piece::New(format!("{mark}{}{base}", lines_apart(code, row, load, beside))));
            pieces.extend(marked(load, &base));
            pieces.extend(load.trail.clone());
        }
        return work.draft.replace(Span::new(anchor.end(), anchor.end()), pieces);
    }
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
            false if !last => between(code, row),
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
        let mark = if load.marked { row.separator.unwrap_or("") } else { between(code, row) };
        pieces.push(Piece::New(format!("{mark}{}", blank_apart(code, row, load))));
    }
    work.draft.replace(Span::new(anchor.body.start, anchor.body.start), pieces);
}

fn put_after(work: &mut Work<'_>, row: &Row, index: usize, loads: &[Load<'_>]) {
    let code = work.code;
    let anchor = &row.entries[index];
    let base = base(code, anchor.body.start).to_owned();
    let mark = match is_marked(code, row, anchor) {
        true => row.separator.unwrap_or(""),
        false => between(code, row),
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
