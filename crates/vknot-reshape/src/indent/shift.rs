//! Moves lines in or out by levels; how they stand to each other stays.

use vknot_style::{Indentation, Style};
use vknot_syntax::{Source, Span, Tree};

use crate::spec::Code;
use crate::edits::Edits;
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use crate::frames::found::decided_indentation;
use crate::frames::standings::moved_line;
use crate::frames::place::blank_columns;
use super::frozen::frozen_lines;
use crate::spec::indent::LinesBy;

/// By how many levels, and where to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shift {
    /// Further in.
    In(u32),
    /// Further out; with `true` lines that cannot go so far go to the margin.
    Out(u32, bool),
}

/// Why lines cannot be shifted.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum ShiftError {
    /// A line would be flattened against the margin.
    #[error("line {line} has {columns} columns of indentation and cannot go {wanted} out; shift fewer levels, or flatten it with --force")]
    Flattens {
        /// The line, from 1.
        line: u32,
        /// Its indentation.
        columns: u32,
        /// How far it should go.
        wanted: u32,
    },
    /// Indentation is meaning here, and a line would change its block.
    #[error("line {line} would change the block it belongs to; shift whole blocks")]
    Breaks {
        /// The line, from 1.
        line: u32,
    },
}

/// Shifts the lines that some spans touch, or all. Blank lines and lines inside strings stay as they are.
///
/// # Errors
/// When a shift out would flatten some lines, or when it would change what a language reads.
pub fn shift(
    code: Code<'_>,
    style: &Style,
    only: Option<&[Span]>,
    by: Shift,
) -> Result<Reshape, ShiftError> {
    let Code { source, tree, .. } = code;
    let (indentation, decided) = decided_indentation(code, style);
    let mut edits = Edits::default();
    for (line, blank) in wanted_lines(code, only) {
        let new = match by {
            Shift::In(levels) => further_in(blank.of(source.text()), levels * indentation.size, indentation),
            Shift::Out(levels, force) => {
                let wanted = levels * indentation.size;
                let columns = blank_columns(blank.of(source.text()), indentation.tab_width);
                if columns < wanted && !force {
                    return Err(ShiftError::Flattens { line: line + 1, columns, wanted });
                }
                further_out(blank.of(source.text()), wanted, indentation)
            }
        };
        if new != blank.of(source.text()) {
            edits.push(blank, &new);
        }
    }
    if code.toolkit().indent.spec.lines == LinesBy::Levels {
        let new = Source::from_text(source.path(), edits.apply(source.text()));
        let new_tree = Tree::read(&new, tree.language());
        let moved = moved_line(code, code.other(&new, &new_tree), indentation.tab_width);
        if let Some(line) = moved {
            return Err(ShiftError::Breaks { line });
        }
    }
    let receipt = Receipt { indentation: Some((indentation, decided)), ..Receipt::default() };
    Ok(Reshape { edits, receipt, ..Reshape::default() })
}

/// The lines (from 0) that hold something and may be moved, each with its white space.
pub(super) fn wanted_lines(code: Code<'_>, only: Option<&[Span]>) -> Vec<(u32, Span)> {
    let source = code.source;
    let frozen = frozen_lines(code);
    let text = source.text();
    let mut found = Vec::new();
    for line in 0..source.lines().count() {
        let span = source.lines().span(text, line);
        let whole = span.of(text);
        let behind = frozen.partition_point(|frozen| frozen.start <= span.start);
        let inside = behind.checked_sub(1).and_then(|at| frozen.get(at)).is_some_and(|frozen| span.start < frozen.end);
        let wanted = only.is_none_or(|only| only.iter().any(|only| touches_line(*only, span)));
        if wanted && !inside && !whole.trim().is_empty() {
            found.push((line, source.line_blank(span.start)));
        }
    }
    found
}

/// Whether a span has a part in a line; one that ends where a line begins has none in it.
pub(super) fn touches_line(span: Span, line: Span) -> bool {
    span.start <= line.end && (line.start < span.end || span.is_empty() && span.start >= line.start)
}

fn further_in(blank: &str, columns: u32, indentation: Indentation) -> String {
    let (tabs, spaces) = match indentation.tabs {
        true => (columns / indentation.tab_width.max(1), columns % indentation.tab_width.max(1)),
        false => (0, columns),
    };
    format!("{}{}{blank}", "\t".repeat(tabs as usize), " ".repeat(spaces as usize))
}

/// Takes columns off the front; what is left of a tab becomes spaces.
fn further_out(blank: &str, columns: u32, indentation: Indentation) -> String {
    let mut passed = 0;
    for (at, _) in blank.char_indices() {
        if passed >= columns {
            return format!("{}{}", " ".repeat((passed - columns) as usize), &blank[at..]);
        }
        passed = blank_columns(&blank[..at + 1], indentation.tab_width);
    }
    " ".repeat(passed.saturating_sub(columns) as usize)
}
