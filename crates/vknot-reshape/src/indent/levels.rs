//! Languages in which indentation is meaning: the levels of the lines are scaled, and what wraps keeps its relation to them.
//!
//! Levels are told as the languages themselves tell them: by the widths of the logical lines before (The Python Language Reference,
//! section 2.1.8, "Indentation").

use vknot_style::Indentation;
use vknot_syntax::{Role, Source, Span, Tree};

use super::lines::{Line, lines};
use super::place::{blank_columns, Pen, Place};

/// How a line stands to those before it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Standing {
    /// It begins a statement, so many levels deep; whether that is the width of a block that is open or begins.
    Statement(u32, bool),
    /// It goes on with what another line began.
    Wrapped,
    /// It holds nothing but a comment.
    Comment,
}

/// A bracket that is open.
struct Open {
    line: usize,
    /// The column of the first thing behind it, if that is on its line.
    first: Option<u32>,
}

/// For each line how it stands, and what it may be lined up with: the line that opened its bracket, and whether it stands in the column of
/// the first thing in it.
pub(super) fn standings(source: &Source, tree: &Tree, lines: &[Line], tab_width: u32) -> Vec<(Standing, usize, bool)> {
    let mut standings = Vec::with_capacity(lines.len());
    let mut widths: Vec<u32> = vec![0];
    let mut open: Vec<Open> = Vec::new();
    let mut statement = 0;
    let mut pen = Pen::new(source.text(), tab_width);
    let mut next = 0;
    let mut opened = false;
    for (token, facts) in tree.tokens().iter().enumerate() {
        let begins = lines.get(next).filter(|line| line.token == token as u32);
        if let Some(line) = begins {
            let column = blank_columns(Span::new(line.start, line.end).of(source.text()), tab_width);
            standings.push(match open.last() {
                Some(bracket) => (Standing::Wrapped, bracket.line, bracket.first == Some(column)),
                None if tree.is_comment(token as u32) => (Standing::Comment, statement, false),
                None if continues(source, tree, token as u32) => (Standing::Wrapped, statement, false),
                None => {
                    let goes_out = widths.last().is_some_and(|width| *width > column);
                    while widths.len() > 1 && widths.last().is_some_and(|width| *width > column) {
                        widths.pop();
                    }
                    let deeper = widths.last().is_some_and(|width| *width < column);
                    if deeper {
                        widths.push(column);
                    }
                    // A block begins behind a colon only, and ends at a width that there was.
                    let regular = !deeper || !goes_out && opened;
                    statement = next;
                    (Standing::Statement(widths.len() as u32 - 1, regular), next, false)
                }
            });
            next += 1;
        }
        if tree.is_comment(token as u32) {
            continue;
        }
        opened = source.slice(facts.span()) == ":";
        if tree.role(facts.node) == Role::String {
            continue;
        }
        match source.slice(facts.span()) {
            "(" | "[" | "{" => {
                let gap = tree.gap(source.text(), token as u32 + 1);
                let filled = gap.newlines == 0 && !tree.is_comment(token as u32 + 1);
                let first = tree.tokens().get(token + 1).filter(|_| filled).map(|first| pen.column_of(first.start));
                open.push(Open { line: next.saturating_sub(1), first });
            }
            ")" | "]" | "}" => drop(open.pop()),
            _ => {}
        }
    }
    standings
}

/// Whether a backslash in front of a token takes its line for more of the one before.
fn continues(source: &Source, tree: &Tree, token: u32) -> bool {
    let before = token.checked_sub(1).and_then(|before| tree.tokens().get(before as usize));
    let splice = |text: &str| text.trim_start().starts_with('\\');
    splice(tree.gap_span(token).of(source.text())) || before.is_some_and(|before| splice(source.slice(before.span())))
}

/// Where each line goes when levels are of another size. `was` is the indentation the file has.
pub(super) fn scaled(
    source: &Source,
    tree: &Tree,
    lines: &[Line],
    (was, wanted): (Indentation, Indentation),
) -> Vec<Place> {
    let standings = standings(source, tree, lines, was.tab_width);
    let old: Vec<u32> = lines.iter().map(|line| line_columns(source, line, was)).collect();
    let mut new: Vec<Place> = Vec::with_capacity(lines.len());
    // The columns of the levels that are open.
    let mut levels: Vec<(u32, Place)> = Vec::new();
    let statements = statements_behind(&standings);
    for (index, (standing, anchor, lined_up)) in standings.iter().enumerate() {
        let place = match standing {
            Standing::Statement(level, _) => {
                let place = Place::level(level * wanted.size);
                levels.truncate(*level as usize);
                levels.push((old[index], place));
                place
            }
            Standing::Comment => {
                // With the block it stands in; if it stands in none, with the statement behind it.
                let own = levels.iter().rev().find(|(columns, _)| *columns == old[index]).map(|(_, place)| *place);
                let behind = statements[index].filter(|(behind, _)| old[*behind] == old[index]);
                let next = behind.map(|(_, level)| Place::level(level * wanted.size));
                own.or(next).unwrap_or_else(|| rescaled(old[index], 0, Place::default(), (was, wanted)))
            }
            Standing::Wrapped => match new.get(*anchor) {
                Some(place) if *lined_up => {
                    let columns = (old[index] + place.columns()).saturating_sub(old[*anchor]);
                    Place { level: place.level.min(columns), align: columns.saturating_sub(place.level) }
                }
                Some(place) => rescaled(old[index], old[*anchor], *place, (was, wanted)),
                None => rescaled(old[index], 0, Place::default(), (was, wanted)),
            },
        };
        new.push(if lines[index].kept { lines[index].found } else { place });
    }
    new
}

/// For each line the first statement at or behind it, with its level.
fn statements_behind(standings: &[(Standing, usize, bool)]) -> Vec<Option<(usize, u32)>> {
    let mut behind = None;
    let mut statements: Vec<Option<(usize, u32)>> = (0..standings.len())
        .rev()
        .map(|index| {
            if let Standing::Statement(level, _) = standings[index].0 {
                behind = Some((index, level));
            }
            behind
        })
        .collect();
    statements.reverse();
    statements
}

pub(super) fn line_columns(source: &Source, line: &Line, indentation: Indentation) -> u32 {
    blank_columns(Span::new(line.start, line.end).of(source.text()), indentation.tab_width)
}

/// What stood so far behind another line, at a new place of that line: whole levels are scaled, anything else is kept.
fn rescaled(old: u32, anchor: u32, place: Place, (was, wanted): (Indentation, Indentation)) -> Place {
    let Some(behind) = old.checked_sub(anchor) else {
        return place.shallower((anchor - old).div_ceil(was.size.max(1)) * wanted.size);
    };
    match behind % was.size.max(1) {
        0 => place.deeper(behind / was.size.max(1) * wanted.size),
        _ => Place { align: place.align + behind, ..place },
    }
}

/// The first line (from 1) whose statement is not in the block it was in, in a text of which only indentation differs.
pub(super) fn moved_line(was: (&Source, &Tree), is: (&Source, &Tree), tab_width: u32) -> Option<u32> {
    let levels = |(source, tree): (&Source, &Tree)| {
        let lines = lines(source, tree, Indentation { tabs: false, size: 1, tab_width }, None);
        let standings = standings(source, tree, &lines, tab_width);
        let of = |(line, (standing, ..)): (&Line, &(Standing, usize, bool))| match standing {
            Standing::Statement(level, regular) => Some((source.line(line.end), *level, *regular)),
            _ => None,
        };
        lines.iter().zip(&standings).filter_map(of).collect::<Vec<(u32, u32, bool)>>()
    };
    let (was, is) = (levels(was), levels(is));
    let differs = was.iter().zip(&is).find(|(was, is)| was != is).map(|(was, _)| was.0);
    differs.or((was.len() != is.len()).then_some(1))
}
