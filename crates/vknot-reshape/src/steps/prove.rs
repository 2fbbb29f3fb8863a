//! The one proof: what a step made is read again and held against the original, by the step's contract, before anything is shown or
//! written.

use vknot_syntax::Span;

use crate::edits::Edits;
use crate::frames::standings::moved_line;
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use crate::spec::Code;
use crate::spec::indent::LinesBy;
use super::contract::{Contract, Gaps, Shape, Tokens};
use super::document::Document;
use super::imported::{Extents, Imports, same_imports};
use super::matching::{matched, Matching, Side};
use super::refusal::{Difference, Refusal};
use super::structure::{same_kept_nodes, same_nodes};

/// A result that passed the proof: the only thing that may be shown as one, written, or given to the next step.
#[derive(Debug)]
pub struct Proven {
    document: Document,
    reshape: Reshape,
    contract: Contract,
}

impl Proven {
    /// The document as it is now.
    pub fn document(&self) -> &Document {
        &self.document
    }

    /// Gives the document away.
    pub fn into_document(self) -> Document {
        self.document
    }

    /// The new text, without byte-order mark.
    pub fn text(&self) -> &str {
        self.document.source().text()
    }

    /// What changed in the original text.
    pub fn edits(&self) -> &Edits {
        &self.reshape.edits
    }

    /// What was done and what was not.
    pub fn receipt(&self) -> &Receipt {
        &self.reshape.receipt
    }

    /// Whether a byte-order mark is to be put in front (`true`) or taken off.
    pub fn bom(&self) -> Option<bool> {
        self.reshape.bom
    }

    /// Whether anything changes.
    pub fn is_empty(&self) -> bool {
        self.reshape.is_empty()
    }

    /// The same edits on a document that holds the same text wherever they are.
    pub(super) fn onto(self, document: &Document) -> Proven {
        Proven { document: document.changed(&self.reshape.edits), ..self }
    }

    /// What it was proven against.
    pub(super) fn contract(&self) -> Contract {
        self.contract
    }

    /// What it was proven from.
    pub(super) fn reshape(&self) -> &Reshape {
        &self.reshape
    }
}

/// Proves what a step made of a document.
///
/// # Errors
/// With the first place at which the result differs in a way that the contract does not allow.
pub fn prove(document: &Document, reshape: Reshape, contract: Contract) -> Result<Proven, Refusal> {
    if reshape.edits.is_empty() {
        return Ok(Proven { document: document.clone(), reshape, contract });
    }
    let prove = || {
        sound(document, &reshape, contract)?;
        let result = document.changed(&reshape.edits);
        if spares_reading(document, &reshape, contract) && document.same_lexemes(&result) {
            return Ok(result);
        }
        compared(document.code(), result.code(), &reshape.receipt, contract)?;
        Ok(result)
    };
    match prove() {
        Ok(result) => Ok(Proven { document: result, reshape, contract }),
        Err(refusal) => {
            let first = document.tree().errors().next();
            let error = first.map(|id| document.tree().node(id).start);
            Err(Refusal { error, ..refusal })
        }
    }
}

/// Proves a result by reading it again even where its tokens alone would tell.
///
/// # Errors
/// As [`prove`].
pub fn prove_by_tree(document: &Document, reshape: &Reshape, contract: Contract) -> Result<(), Refusal> {
    sound(document, reshape, contract)?;
    let result = document.changed(&reshape.edits);
    compared(document.code(), result.code(), &reshape.receipt, contract)
}

/// Whether the tree is the same if the tokens are, so that it need not be read again: they all are there in their order, and the language
/// does not read white space.
fn spares_reading(document: &Document, reshape: &Reshape, contract: Contract) -> bool {
    let tree = document.tree();
    let receipt = &reshape.receipt;
    let same = contract.tokens != Tokens::Imports && receipt.added.is_empty() && receipt.removed.is_empty();
    same && !tree.has_error() && !tree.gave_up() && tree.embedded().is_empty()
}

/// Whether edits are in order, inside the text, and where the contract lets white space change.
fn sound(document: &Document, reshape: &Reshape, contract: Contract) -> Result<(), Refusal> {
    let source = document.source();
    if !reshape.edits.are_sound(source.span().end) {
        return Err(Refusal::at(0, Difference::UnsoundEdits));
    }
    if contract.gaps == Gaps::LineStarts {
        let blank = |text: &str| text.bytes().all(|byte| matches!(byte, b' ' | b'\t'));
        for (span, new) in reshape.edits.iter() {
            // In the strings of a notebook tabs are written with a backslash, and lines begin behind a quote.
            let inside = document.tree().embedded().iter().any(|piece| piece.span().covers(span));
            let old = source.slice(span).replace("\\t", "\t");
            if !blank(new) || !blank(&old) || !(inside || source.begins_line(span.start)) {
                return Err(Refusal::at(span.start, Difference::Gap));
            }
        }
    }
    Ok(())
}

/// Compares two readings.
fn compared(
    old: Code<'_>,
    new: Code<'_>,
    receipt: &Receipt,
    contract: Contract,
) -> Result<(), Refusal> {
    let broken = old.tree.has_error() || old.tree.gave_up();
    // How many errors a broken file has may depend on where its lines stand; what counts then is that its tokens are the same.
    let by_margin = broken && contract.gaps == Gaps::LineStarts;
    if !by_margin {
        no_new_error(old, new)?;
    }
    let imports = (contract.tokens == Tokens::Imports).then(|| (Imports::of(old), Imports::of(new)));
    let free = |imports: Option<&Imports<'_>>| imports.map_or_else(Extents::default, Imports::extents);
    let old_side = Side { code: old, free: free(imports.as_ref().map(|(old, _)| old)), hosts: hosts(old) };
    let new_side = Side { code: new, free: free(imports.as_ref().map(|(_, new)| new)), hosts: hosts(new) };
    let matching = matched(&old_side, &new_side, receipt, contract)?;
    if let Some((old, new)) = &imports {
        same_imports(old, new, receipt)?;
    }
    if !by_margin {
        same_shape(old, new, &matching, contract)?;
    }
    if contract.levels && old.toolkit().indent.spec.lines == LinesBy::Levels {
        same_levels(old, new)?;
    }
    same_pieces(old, new, contract)
}

fn same_shape(old: Code<'_>, new: Code<'_>, matching: &Matching, contract: Contract) -> Result<(), Refusal> {
    match contract.shape {
        Shape::Receipt if !matching.complete => same_kept_nodes(old, new, matching),
        _ => same_nodes(old, new),
    }
}

fn no_new_error(old: Code<'_>, new: Code<'_>) -> Result<(), Refusal> {
    if !(new.tree.has_error() || new.tree.gave_up()) {
        return Ok(());
    }
    let (was, is) = (old.tree.errors().count(), new.tree.errors().count());
    if is <= was && new.tree.gave_up() == old.tree.gave_up() {
        return Ok(());
    }
    let first = new.tree.errors().next().map_or(0, |id| new.tree.node(id).start);
    let offset = old.tree.tokens().get(new.tree.token_from(first) as usize).map_or(0, |token| token.start);
    Err(Refusal::at(offset, Difference::SyntaxError { line: new.source.line(first) }))
}

/// The tokens that hold pieces of other languages.
fn hosts(code: Code<'_>) -> Extents {
    let node = |piece: &vknot_syntax::Embedded| code.tree.node(piece.host);
    Extents::of(code.tree.embedded().iter().map(|piece| (node(piece).first_token, node(piece).token_end)).collect())
}

/// Columns of a tab to languages that read levels.
const TAB_WIDTH: u32 = 8;

/// Every statement is as deep as it was.
fn same_levels(old: Code<'_>, new: Code<'_>) -> Result<(), Refusal> {
    let Some(line) = moved_line(old, new, TAB_WIDTH) else { return Ok(()) };
    let span: Span = old.source.lines().span(old.source.text(), line - 1);
    let statement = old.source.slice(span).trim().to_owned();
    Err(Refusal::at(span.start, Difference::Level { statement }))
}

/// Pieces of other languages are the same, as far as the contract says.
fn same_pieces(old: Code<'_>, new: Code<'_>, contract: Contract) -> Result<(), Refusal> {
    let (pieces, new_pieces) = (old.tree.embedded(), new.tree.embedded());
    for (piece, new_piece) in pieces.iter().zip(new_pieces) {
        compared(old.piece(piece), new.piece(new_piece), &Receipt::default(), contract)
            .map_err(|refusal| Refusal { offset: piece.outer(refusal.offset), ..refusal })?;
    }
    if pieces.len() == new_pieces.len() {
        return Ok(());
    }
    let offset = pieces.get(new_pieces.len()).map_or(0, |piece| piece.span().start);
    Err(Refusal::at(offset, Difference::Embedded))
}
