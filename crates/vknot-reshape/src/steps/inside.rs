//! Edits in a piece of another language: done and proven there, and put back into the file around it.

use vknot_syntax::{Embedded, Span};

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
    /// Its place among the pieces of the file.
    pub index: usize,
    /// The edit, and its place, in the piece.
    pub edit: Edit,
    pub at: Span,
}

/// The edit as it is to be done in the piece of another language that a place is in; `None` where it is in none.
pub(super) fn inside(document: &Document, at: Span, edit: &Edit) -> Option<Result<Inside, EditError>> {
    if !edit.is_structural() {
        return None;
    }
    let index = document.tree().embedded().iter().position(|piece| piece.span().covers(at))?;
    let piece = document.tree().embedded().get(index)?;
    let language = piece.tree.language().spec().title;
    let own = piece.span();
    let inner = |span: Span| piece.inner_span(span).filter(|_| own.covers(span));
    Some(match edit.placed(inner).zip(inner(at)) {
        Some((edit, at)) => Ok(Inside { document: document.piece(piece), index, edit, at }),
        None => Err(EditError::Across { language }),
    })
}

/// The edits of a piece as edits of the file around it.
///
/// # Errors
/// When how they would be written there is not known.
pub(super) fn outside(document: &Document, index: usize, inner: &Edits) -> Result<Edits, EditError> {
    let Some(piece) = document.tree().embedded().get(index) else { return Err(EditError::NoRow) };
    let unknown = || EditError::Escaped { language: piece.tree.language().spec().title };
    let mut edits = Edits::default();
    for (span, text) in inner.iter() {
        let (span, text) = piece.written(document.source(), span, text).ok_or_else(unknown)?;
        edits.push(span, &text);
    }
    Ok(edits)
}

/// What was proven in a piece, as a change of the file around it.
///
/// # Errors
/// When the file around it would not be the same.
pub(super) fn put_back(document: &Document, index: usize, edits: Edits, proven: &Proven) -> Result<Proven, Refusal> {
    let own = document.tree().embedded().get(index).map(Embedded::span);
    let changed = document.changed(&edits);
    let placed = changed.tree().embedded().get(index).map(|piece| {
        proven.receipt().placed.iter().map(|span| piece.outer_span(*span)).collect()
    });
    let receipt = Receipt {
        placed: placed.unwrap_or_default(),
        allowance: Some(Allowance { inside: own, texts: Some(Vec::new()), ..Allowance::default() }),
        pieces: vec![(index, Receipt::default())],
        ..Receipt::default()
    };
    prove(document, Reshape { edits, receipt, bom: None }, Contract::EDIT)
}
