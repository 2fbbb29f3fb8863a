//! Turns the white space at the start of lines into tabs or into spaces; columns stay.

use vknot_style::{Indentation, Key, Style};
use vknot_syntax::Span;

use crate::spec::Code;
use crate::edits::Edits;
use crate::keeps::{kept_spans, reached};
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use crate::frames::found::decided_indentation;
use crate::frames::standings::standings;
use crate::frames::lines::lines;
use crate::frames::place::{blank_columns, Place};
use super::shift::wanted_lines;

/// What leading white space becomes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Target {
    /// Tabs, as far as levels go.
    Tabs,
    /// Spaces, so many for a tab; `None` for as many as the style says.
    Spaces(Option<u32>),
}

/// Converts the lines that some spans touch, or all. Lines inside strings stay as they are.
pub fn convert(code: Code<'_>, style: &Style, only: Option<&[Span]>, target: Target) -> Reshape {
    let source = code.source;
    let (found, decided) = decided_indentation(code, style);
    let size = match target {
        Target::Spaces(size) => size.or(style.number(Key::TabWidth)).unwrap_or(found.size),
        Target::Tabs => found.size,
    };
    let indentation = Indentation { tabs: target == Target::Tabs, size, tab_width: size };
    let levels = level_columns(code, indentation);
    let kept = kept_spans(code);
    let mut edits = Edits::default();
    let mut blank = String::new();
    for (_, span) in wanted_lines(code, only) {
        let old = span.of(source.text());
        let columns = blank_columns(old, indentation.tab_width);
        let tabs = old.bytes().take_while(|byte| *byte == b'\t').count() as u32 * indentation.tab_width;
        let lined_up = levels.binary_search_by_key(&span.start, |(start, _)| *start).ok().and_then(|at| levels[at].1);
        // Spaces behind tabs are there to line something up, and stay.
        let level = match lined_up {
            _ if tabs > 0 && columns > tabs => tabs,
            Some(level) => level.min(columns),
            None => columns / size.max(1) * size,
        };
        blank.clear();
        Place { level, align: columns - level }.write(indentation, false, &mut blank);
        if blank != old && reached(&kept, span).is_none() {
            edits.push(span, &blank);
        }
    }
    let receipt = Receipt { indentation: Some((indentation, decided)), ..Receipt::default() };
    Reshape { edits, receipt, ..Reshape::default() }
}

/// For the start of each line that begins with a token, how many of its columns are levels, if it is lined up with something above.
fn level_columns(code: Code<'_>, indentation: Indentation) -> Vec<(u32, Option<u32>)> {
    let source = code.source;
    let lines = lines(code, indentation, None);
    let standings = standings(code, &lines, indentation.tab_width);
    let mut levels: Vec<(u32, Option<u32>)> = Vec::with_capacity(lines.len());
    for (index, (_, anchor, lined_up)) in standings.into_iter().enumerate() {
        let line = &lines[index];
        let anchored = || {
            let columns = lines.get(anchor).map_or(0, |anchor| {
                blank_columns(Span::new(anchor.start, anchor.end).of(source.text()), indentation.tab_width)
            });
            levels
                .get(anchor)
                .and_then(|(_, level)| *level)
                .unwrap_or(columns / indentation.size.max(1) * indentation.size)
        };
        let level = (lined_up && anchor < index).then(anchored);
        levels.push((line.start, level));
    }
    levels
}
