//! Languages in which indentation is meaning: the levels of the lines are scaled, and what wraps keeps its relation to them.
//!
//! Levels are told as the languages themselves tell them: by the widths of the logical lines before (The Python Language Reference,
//! section 2.1.8, "Indentation").

use vknot_style::Indentation;
use vknot_syntax::{Source, Span};

use crate::spec::Code;
use crate::frames::lines::Line;
use crate::frames::place::{blank_columns, Place};
use crate::frames::standings::{Standing, standings};

/// Where each line goes when levels are of another size. `was` is the indentation the file has.
pub(super) fn scaled(
    code: Code<'_>,
    lines: &[Line],
    (was, wanted): (Indentation, Indentation),
) -> Vec<Place> {
    let source = code.source;
    let standings = standings(code, lines, was.tab_width);
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
