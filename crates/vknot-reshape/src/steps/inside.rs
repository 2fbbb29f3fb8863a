//! Edits in a piece of another language: done and proven there, and put back into the file around it.

use vknot_syntax::Span;

use crate::allowance::Allowance;
use crate::editing::EditError;
use crate::edits::Edits;
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use super::contract::Contract;
use super::document::Document;
use super::prove::{Proven, prove};
use super::step::{Request, Step, StepError, Wish};

/// Does an edit that is meant for a piece of another language there; `None` where none is.
pub(super) fn run(step: &Step, document: &Document, request: &Request<'_>) -> Option<Result<Proven, StepError>> {
    let Wish::Edit(edit) = &request.wish else { return None };
    let at = request.only?.first().copied().filter(|_| edit.is_structural())?;
    let piece = document.tree().embedded().iter().find(|piece| piece.span().covers(at))?;
    let language = piece.tree.language().spec().title;
    if document.source().slice(piece.span()) != piece.source.text() {
        return Some(Err(EditError::Escaped { language }.into()));
    }
    let own = piece.span();
    let inner = |span: Span| own.covers(span).then(|| Span::new(span.start - own.start, span.end - own.start));
    let Some((edit, at)) = edit.placed(inner).zip(inner(at)) else {
        return Some(Err(EditError::Across { language }.into()));
    };
    let only = [at];
    let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..request.clone() };
    Some(step.run(&document.piece(piece), &request).and_then(|proven| Ok(put_back(document, own, &proven)?)))
}

fn put_back(document: &Document, own: Span, proven: &Proven) -> Result<Proven, super::refusal::Refusal> {
    let outer = |span: Span| Span::new(span.start + own.start, span.end + own.start);
    let mut edits = Edits::default();
    proven.edits().iter().for_each(|(span, text)| edits.push(outer(span), text));
    let receipt = Receipt {
        placed: proven.receipt().placed.iter().map(|span| outer(*span)).collect(),
        allowance: Some(Allowance { inside: Some(own), texts: Some(Vec::new()), ..Allowance::default() }),
        ..Receipt::default()
    };
    prove(document, Reshape { edits, receipt, bom: None }, Contract::EDIT)
}
