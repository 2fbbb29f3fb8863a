//! Imports: sorted, grouped, merged, and where it is certain dropped. What a language does with them is in its folder;
//! here is what all share.

mod block;

pub(crate) use block::{Block, blocks, Line};

use vknot_style::Style;
use vknot_syntax::{Source, Span};

use crate::edits::Edits;
use crate::lines::Lines;
use crate::spec::Code;
use crate::receipt::{LeftAlone, Note, Reason, Receipt};
use crate::reshape::Reshape;

/// Puts the imports of a file in order. With `only`, those that the spans touch.
pub fn organize(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    let Some(spec) = code.toolkit().imports else {
        let text = format!("{} has no imports", tree.language().spec().title);
        receipt.notes.push(Note { span: Span::new(0, 0), text });
        return Reshape { receipt, ..Reshape::default() };
    };
    let mut reshape = (spec.organize)(code, style);
    if let Some(only) = only {
        let before = reshape.edits.len();
        let lines = Lines::of(source, only);
        reshape.edits = reshape.edits.filtered(|span, new| may_change(source, &lines, span, new));
        if reshape.edits.len() < before {
            let touched: Vec<Span> = reshape.edits.iter().map(|(span, _)| span).collect();
            reshape.receipt.removed.retain(|removed| {
                touched.iter().any(|span| span.covers(Span::new(removed.offset, removed.offset)))
            });
        }
    }
    reshape.edits = reshape.edits.by_lines(source.text());
    reshape
}

/// Whether an edit takes out none but some lines.
fn may_change(source: &Source, lines: &Lines, span: Span, new: &str) -> bool {
    let mut edit = Edits::default();
    edit.push(span, new);
    let by_lines = edit.by_lines(source.text());
    by_lines.iter().all(|(span, _)| {
        let (first, last) = source.line_range(span);
        span.is_empty() || lines.within(first, last)
    })
}
