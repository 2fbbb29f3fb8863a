//! Imports: sorted, grouped, merged, and where it is certain dropped. What a language does with them is in its folder;
//! here is what all share.

mod block;

pub(crate) use block::{Block, blocks, Line};

use vknot_style::Style;
use vknot_syntax::Span;

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
        reshape.edits = reshape.edits.filtered(|span, _| only.iter().any(|only| only.touches(span)));
        if reshape.edits.len() < before {
            let touched: Vec<Span> = reshape.edits.iter().map(|(span, _)| span).collect();
            reshape.receipt.removed.retain(|removed| {
                touched.iter().any(|span| span.covers(Span::new(removed.offset, removed.offset)))
            });
        }
    }
    reshape
}
