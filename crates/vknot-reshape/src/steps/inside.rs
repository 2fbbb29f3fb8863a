//! Edits in a piece of another language: done and proven there, and put back into the file around it.

use vknot_syntax::Span;

use crate::allowance::Allowance;
use crate::editing::{Edit, EditError};
use crate::edits::Edits;
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use super::contract::Contract;
use super::document::Document;
use super::prove::{Proven, prove};
use super::refusal::Refusal;

/// An edit in a piece of another language.
pub(super) struct Inside {
    /// The piece.
    pub document: Document,
    /// Where it is in the file.
    pub own: Span,
    /// The edit, and its place, in the piece.
    pub edit: Edit,
    pub at: Span,
}

/// The edit as it is to be done in the piece of another language that a place is in; `None` where it is in none.
pub(super) fn inside(document: &Document, at: Span, edit: &Edit) -> Option<Result<Inside, EditError>> {
    if !edit.is_structural() {
        return None;
    }
    let piece = document.tree().embedded().iter().find(|piece| piece.span().covers(at))?;
    let language = piece.tree.language().spec().title;
    if document.source().slice(piece.span()) != piece.source.text() {
        return Some(Err(EditError::Escaped { language }));
    }
    let own = piece.span();
    let inner = |span: Span| own.covers(span).then(|| Span::new(span.start - own.start, span.end - own.start));
    Some(match edit.placed(inner).zip(inner(at)) {
        Some((edit, at)) => Ok(Inside { document: document.piece(piece), own, edit, at }),
        None => Err(EditError::Across { language }),
    })
}

/// What was proven in a piece, as a change of the file around it.
///
/// # Errors
/// When the file around it would not be the same.
pub(super) fn put_back(document: &Document, own: Span, proven: &Proven) -> Result<Proven, Refusal> {
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
