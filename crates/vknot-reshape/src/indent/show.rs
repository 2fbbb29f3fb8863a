//! What indentation a file has, and where it disagrees with the nesting.

use vknot_style::Style;
use vknot_syntax::Span;

use crate::frames::found::effective_indentation;
use super::set::set;
use crate::spec::Code;
use crate::frames::place::blank_columns;
use super::shift::touches_line;

/// A line as it is shown.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ShownLine {
    /// Its number, from 1.
    pub line: u32,
    /// Its white space.
    pub blank: Span,
    /// The columns of it.
    pub columns: u32,
    /// The columns its nesting asks for, where they differ.
    pub wanted: Option<u32>,
    /// Columns of a level.
    pub size: u32,
    /// Columns of a tab.
    pub tab_width: u32,
    /// Whether tabs and spaces disagree with what most of the file has.
    pub foreign: bool,
}

impl ShownLine {
    /// Whether the line is not as its nesting and the file ask for.
    pub fn disagrees(&self) -> bool {
        self.wanted.is_some() || self.foreign
    }
}

/// The lines that some spans touch, or all, in order.
pub fn show(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Vec<ShownLine> {
    let source = code.source;
    let reshape = set(code, style, None);
    let decided = reshape.receipt.indentation.map(|(indentation, _)| indentation);
    let indentation = decided.unwrap_or_else(|| effective_indentation(code, style));
    let mut edits = reshape.edits.iter().peekable();
    let text = source.text();
    let mut shown = Vec::new();
    for line in 0..source.lines().count() {
        let span = source.lines().span(text, line);
        let blank = source.line_blank(span.start);
        while edits.next_if(|(edit, _)| edit.start < span.start).is_some() {}
        let new = edits.next_if(|(edit, _)| edit.start <= blank.end).map(|(_, new)| new);
        let columns = blank_columns(blank.of(text), indentation.tab_width);
        let wanted = new.map(|new| blank_columns(new, indentation.tab_width));
        if only.is_none_or(|only| only.iter().any(|only| touches_line(*only, span))) {
            shown.push(ShownLine {
                line: line + 1,
                blank,
                columns,
                wanted: wanted.filter(|wanted| *wanted != columns),
                size: indentation.size,
                tab_width: indentation.tab_width,
                foreign: new.is_some() && wanted == Some(columns),
            });
        }
    }
    shown
}
