//! The one proof: what a step made is read again and held against the original, by the step's contract, before anything is shown or
//! written.

use std::collections::{HashMap, HashSet};

use vknot_syntax::{Embedded, Role, Span};

use crate::edits::Edits;
use crate::keeps::{kept_spans, may_keep, reached};
use crate::frames::standings::moved_line;
use crate::receipt::Receipt;
use crate::reshape::Reshape;
use crate::spec::Code;
use crate::spec::indent::LinesBy;
use super::contract::{Contract, Gaps, Shape, Tokens};
use super::document::Document;
use super::imported::{Extents, Imports, reconcile, same_imports};
use super::matching::{matched, Matching, NONE, Side};
use super::refusal::{Difference, Refusal, shortened};
use super::rearranged::{allowed, no_new_breach, placed_whole, same_pieces_of};
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

/// Whether all means the same if the tokens do, so that the tree need not be read again: they all are there in their order, and the
/// language does not read white space. How what is broken is read may depend on where its lines stand; its tokens do not.
fn spares_reading(document: &Document, reshape: &Reshape, contract: Contract) -> bool {
    let tree = document.tree();
    let receipt = &reshape.receipt;
    let same = !matches!(contract.tokens, Tokens::Imports | Tokens::Edit)
        && receipt.added.is_empty()
        && receipt.removed.is_empty()
        && receipt.respelled.is_empty();
    same && !tree.gave_up() && tree.embedded().is_empty()
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
            let inside = document.tree().pieces_at(span).any(|piece| piece.span().covers(span));
            let old = source.slice(span).replace("\\t", "\t");
            if !blank(new) || !blank(&old) || !(inside || source.begins_line(span.start)) {
                return Err(Refusal::at(span.start, Difference::Gap));
            }
        }
    }
    if contract.keeps { keeps(document, reshape) } else { Ok(()) }
}

/// Whether what its author keeps stays as it is. Where indentation is meaning, its lines may move with the block they are in.
fn keeps(document: &Document, reshape: &Reshape) -> Result<(), Refusal> {
    if !may_keep(document.source().text()) {
        return Ok(());
    }
    let code = document.code();
    let kept = kept_spans(code);
    let moves = code.toolkit().indent.spec.lines == LinesBy::Levels;
    for (span, _) in reshape.edits.iter() {
        let blank = moves && code.source.line_blank(span.start).covers(span);
        if let Some(part) = reached(&kept, span).filter(|_| !blank) {
            return Err(Refusal::at(part.start.max(span.start), Difference::Kept));
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
    if contract.tokens == Tokens::Edit {
        allowed(old, receipt)?;
        placed_whole(new, receipt)?;
        no_new_breach(old, new)?;
    }
    let broken = old.tree.has_error() || old.tree.gave_up();
    if broken && contract.gaps == Gaps::LineStarts {
        same_lines(old, new)?;
        return same_depths(old, new, (receipt, contract));
    }
    no_new_error(old, new, receipt)?;
    let imports = (contract.tokens == Tokens::Imports).then(|| {
        let (mut old, mut new) = (Imports::of(old), Imports::of(new));
        reconcile(&mut old, &mut new);
        (old, new)
    });
    let free = |code: Code<'_>, imports: Option<&Imports<'_>>| match imports {
        _ if !receipt.pieces.is_empty() => {
            let done: HashSet<usize> = receipt.pieces.iter().map(|(piece, _)| *piece).collect();
            hosts(code, |piece| done.contains(&piece))
        }
        Some(imports) => imports.extents(),
        None => Extents::default(),
    };
    let old_side = Side {
        code: old,
        free: free(old, imports.as_ref().map(|(old, _)| old)),
        hosts: hosts(old, |_| true),
    };
    let new_side = Side {
        code: new,
        free: free(new, imports.as_ref().map(|(_, new)| new)),
        hosts: hosts(new, |_| true),
    };
    let matching = matched(&old_side, &new_side, receipt, contract)?;
    if let Some((old, new)) = &imports {
        same_imports(old, new, receipt)?;
    }
    same_shape(old, new, &matching, (receipt, contract))?;
    match contract.tokens {
        Tokens::Edit => same_hosted(old, new, &matching, receipt),
        _ => same_depths(old, new, (receipt, contract)),
    }
}

/// Pieces of other languages whose hosts are there still are the same, but for one that was edited and proven on its own.
fn same_hosted(old: Code<'_>, new: Code<'_>, matching: &Matching, receipt: &Receipt) -> Result<(), Refusal> {
    let host = |code: Code<'_>, piece: &Embedded| code.tree.node(piece.host).first_token;
    let inside = receipt.allowance.as_ref().and_then(|allowance| allowance.inside);
    let contract = Contract { keeps: false, levels: false, ..Contract::LAYOUT };
    let new_pieces: HashMap<u32, &Embedded> =
        new.tree.embedded().iter().map(|piece| (host(new, piece), piece)).collect();
    for piece in old.tree.embedded().iter().filter(|piece| Some(piece.span()) != inside) {
        let token = matching.old.get(host(old, piece) as usize).copied().unwrap_or(NONE);
        let Some(new_piece) = new_pieces.get(&token) else {
            if token == NONE {
                continue;
            }
            return Err(Refusal::at(piece.span().start, Difference::Embedded));
        };
        compared(old.piece(piece), new.piece(new_piece), &Receipt::default(), contract)
            .map_err(|refusal| Refusal { offset: piece.outer(refusal.offset), ..refusal })?;
    }
    Ok(())
}

/// Where depth is meaning, statements are as deep as they were; and pieces of other languages are the same.
fn same_depths(
    old: Code<'_>,
    new: Code<'_>,
    (receipt, contract): (&Receipt, Contract),
) -> Result<(), Refusal> {
    if contract.levels && old.toolkit().indent.spec.lines == LinesBy::Levels {
        same_levels(old, new)?;
    }
    same_pieces(old, new, (receipt, contract))
}

fn same_shape(
    old: Code<'_>,
    new: Code<'_>,
    matching: &Matching,
    (receipt, contract): (&Receipt, Contract),
) -> Result<(), Refusal> {
    match contract.shape {
        Shape::Pieces if receipt.allowance.as_ref().is_some_and(|allowance| allowance.free) => Ok(()),
        Shape::Pieces => same_pieces_of(old, new, matching, receipt),
        Shape::Receipt if !matching.complete => same_kept_nodes(old, new, matching),
        _ => same_nodes(old, new),
    }
}

fn no_new_error(old: Code<'_>, new: Code<'_>, receipt: &Receipt) -> Result<(), Refusal> {
    if !(new.tree.has_error() || new.tree.gave_up()) {
        return Ok(());
    }
    let (was, is) = (old.tree.errors().count(), new.tree.errors().count());
    // One error may grow to hold what several did: no more is in errors than was, but for what came in.
    let held = |code: Code<'_>| -> u32 {
        code.tree.errors().map(|id| code.tree.node(id)).map(|node| node.token_end - node.first_token).sum()
    };
    let came: usize = receipt.added.iter().map(|change| change.text.len()).sum();
    let grew = held(new) as usize > held(old) as usize + came;
    if is <= was && !grew && new.tree.gave_up() == old.tree.gave_up() {
        return Ok(());
    }
    let first = new.tree.errors().next().map_or(0, |id| new.tree.node(id).start);
    let offset = old.tree.tokens().get(new.tree.token_from(first) as usize).map_or(0, |token| token.start);
    Err(Refusal::at(offset, Difference::SyntaxError { line: new.source.line(first) }))
}

/// How a broken file is read may depend on where its lines stand, down to its tokens. What counts then is that no white space differs
/// but at the start of lines, and there only where neither reading has text that keeps it.
fn same_lines(old: Code<'_>, new: Code<'_>) -> Result<(), Refusal> {
    let blank = |line: &str| (line.len() - line.trim_start_matches([' ', '\t']).len()) as u32;
    let (mut lines, mut new_lines) = (old.source.text().split('\n'), new.source.text().split('\n'));
    let (mut at, mut new_at) = (0, 0);
    loop {
        let (line, new_line) = match (lines.next(), new_lines.next()) {
            (None, None) => return Ok(()),
            (line, new_line) => (line.unwrap_or(""), new_line.unwrap_or("")),
        };
        let (was, is) = (blank(line), blank(new_line));
        let moves = line.get(..was as usize) != new_line.get(..is as usize);
        let own = |length: u32| Span::new(at, at + length);
        let kept = || keeps_blank(old, own(was)) || keeps_blank(new, Span::new(new_at, new_at + is));
        // Code of other languages is compared on its own.
        let hosts = || old.tree.pieces_at(own(line.len() as u32)).next().is_some();
        let same = line.get(was as usize..) == new_line.get(is as usize..) && !(moves && kept());
        if !same && !hosts() {
            let reason = Difference::Token { old: shortened(line.trim()), new: shortened(new_line.trim()) };
            return Err(Refusal::at(at + was, reason));
        }
        (at, new_at) = (at + line.len() as u32 + 1, new_at + new_line.len() as u32 + 1);
    }
}

/// Whether the white space at the start of a line is part of a token, and not of a comment, of prose or of code in another language.
fn keeps_blank(code: Code<'_>, blank: Span) -> bool {
    let Code { tree, .. } = code;
    let before = tree.token_from(blank.end).checked_sub(1);
    let Some(token) = before.and_then(|at| tree.tokens().get(at as usize)) else { return false };
    let free = tree.role(token.node) == Role::Comment || tree.language().is_prose(tree.node(token.node).kind);
    token.end > blank.start && !free
}

/// The tokens that hold pieces of other languages, of those at certain places.
fn hosts(code: Code<'_>, wanted: impl Fn(usize) -> bool) -> Extents {
    let tree = code.tree;
    let run = |piece: &Embedded| {
        let (host, span) = (tree.node(piece.host), piece.span());
        // What the piece begins in the middle of is one of them.
        let first = tree.token_from(span.start);
        let begun = |token: u32| tree.tokens().get(token as usize).is_some_and(|token| token.end > span.start);
        let first = first.checked_sub(1).filter(|before| begun(*before)).unwrap_or(first);
        (first.max(host.first_token), tree.token_from(span.end).min(host.token_end))
    };
    let pieces = tree.embedded().iter().enumerate().filter(|(index, _)| wanted(*index));
    Extents::of(pieces.map(|(_, piece)| run(piece)).collect())
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

/// Pieces of other languages are the same, as far as the contract and what was done in each say.
fn same_pieces(
    old: Code<'_>,
    new: Code<'_>,
    (receipt, contract): (&Receipt, Contract),
) -> Result<(), Refusal> {
    let (pieces, new_pieces) = (old.tree.embedded(), new.tree.embedded());
    let untouched = Receipt::default();
    let receipts: HashMap<usize, &Receipt> = receipt.pieces.iter().map(|(piece, receipt)| (*piece, receipt)).collect();
    for (index, (piece, new_piece)) in pieces.iter().zip(new_pieces).enumerate() {
        let receipt = receipts.get(&index).copied().unwrap_or(&untouched);
        compared(old.piece(piece), new.piece(new_piece), receipt, contract)
            .map_err(|refusal| Refusal { offset: piece.outer(refusal.offset), ..refusal })?;
    }
    if pieces.len() == new_pieces.len() {
        return Ok(());
    }
    let offset = pieces.get(new_pieces.len()).map_or(0, |piece| piece.span().start);
    Err(Refusal::at(offset, Difference::Embedded))
}
