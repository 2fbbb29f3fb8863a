//! The proof of everything that changes indentation: only blanks at the start of lines come and go, and what is read afterwards is the
//! same, in pieces of other languages, too.

use vknot_syntax::{Source, Span, Token, Tree};

use crate::languages::Toolkit;
use crate::proof::{self, Difference, Proven, Refusal};
use crate::reshape::Reshape;
use super::levels;
use super::rules::LinesBy;

/// Proves a change of indentation.
///
/// # Errors
/// With the first place at which something else than indentation would change.
pub fn prove(source: &Source, tree: &Tree, reshape: &Reshape) -> Result<Proven, Refusal> {
    let blank = |text: &str| text.bytes().all(|byte| matches!(byte, b' ' | b'\t'));
    for (span, new) in reshape.edits.iter() {
        let escaped = span.of(source.text()).replace("\\t", "\t");
        if !blank(new) || !blank(&escaped) {
            let reason = Difference::Token { old: span.of(source.text()).to_owned(), new: new.to_owned() };
            return Err(Refusal { offset: span.start, reason });
        }
    }
    // How many errors a broken file has may depend on where its lines stand; what counts is that its tokens are the same.
    let proven = match tree.has_error() {
        true => proof::read_again(source, tree, &reshape.edits)?,
        false => proof::read_result(source, tree, &reshape.edits)?,
    };
    same(source, tree, &proven.source, &proven.tree)?;
    Ok(proven)
}

/// Compares two readings: tokens, nodes, and the pieces of other languages.
fn same(source: &Source, tree: &Tree, new: &Source, new_tree: &Tree) -> Result<(), Refusal> {
    // What holds a piece has changed with it; the piece is looked at on its own.
    let hosts: Vec<(u32, u32)> = tree.embedded()
        .iter()
        .map(|piece| (tree.node(piece.host).first_token, tree.node(piece.host).token_end))
        .collect();
    let mut next_host = 0;
    for (index, (token, new_token)) in tree.tokens().iter().zip(new_tree.tokens()).enumerate() {
        let index = index as u32;
        while hosts.get(next_host).is_some_and(|(_, end)| *end <= index) {
            next_host += 1;
        }
        let hosted = hosts.get(next_host).is_some_and(|(start, _)| *start <= index);
        let (old_text, new_text) = (source.slice(token.span()), new.slice(new_token.span()));
        let moves = tree.is_comment(index) || tree.language().is_prose(tree.node(token.node).kind);
        let lines_alike = || old_text.lines().map(str::trim).eq(new_text.lines().map(str::trim));
        if !(hosted || old_text == new_text || moves && lines_alike()) {
            let reason = Difference::Token { old: old_text.to_owned(), new: new_text.to_owned() };
            return Err(Refusal { offset: token.start, reason });
        }
    }
    let count = tree.tokens().len().min(new_tree.tokens().len());
    if tree.tokens().len() != new_tree.tokens().len() {
        let text = |tokens: &[Token], source: &Source| {
            tokens.get(count).map_or(String::new(), |token| source.slice(token.span()).to_owned())
        };
        let reason = Difference::Token { old: text(tree.tokens(), source), new: text(new_tree.tokens(), new) };
        let offset = tree.tokens().get(count).map_or(source.span().end, |token| token.start);
        return Err(Refusal { offset, reason });
    }
    let spec = Toolkit::of(tree.language()).indent.spec;
    // Where brackets are missing, readers go by the margin; what they make of them then is no measure.
    if !tree.has_error() {
        proof::same_nodes(source, tree, new_tree)?;
    }
    if spec.lines == LinesBy::Levels {
        same_blocks(source, tree, new, new_tree)?;
    }
    let (pieces, new_pieces) = (tree.embedded(), new_tree.embedded());
    for (piece, new_piece) in pieces.iter().zip(new_pieces) {
        same(&piece.source, &piece.tree, &new_piece.source, &new_piece.tree)
            .map_err(|refusal| Refusal { offset: piece.outer(refusal.offset), ..refusal })?;
    }
    if pieces.len() == new_pieces.len() {
        return Ok(());
    }
    let offset = pieces.get(new_pieces.len()).map_or(0, |piece| piece.span().start);
    Err(Refusal { offset, reason: Difference::UnsoundEdits })
}

/// Where indentation is meaning, every statement is as deep as it was.
fn same_blocks(source: &Source, tree: &Tree, new: &Source, new_tree: &Tree) -> Result<(), Refusal> {
    let Some(line) = levels::moved_line((source, tree), (new, new_tree), TAB_WIDTH) else { return Ok(()) };
    let span = source.lines().span(source.text(), line - 1);
    let statement = source.slice(span).trim().to_owned();
    let reason = Difference::Structure { token: statement, old: "its block".to_owned(), new: "another".to_owned() };
    Err(Refusal { offset: span.start, reason })
}

/// Columns of a tab to these languages themselves.
const TAB_WIDTH: u32 = 8;

/// The lines inside tokens of several lines that white space means something in: strings, and what is shown as it is.
pub(super) fn frozen_lines(source: &Source, tree: &Tree) -> Vec<Span> {
    let text = source.text();
    let mut frozen: Vec<Span> = Vec::new();
    for (index, token) in tree.tokens().iter().enumerate() {
        let moves = tree.is_comment(index as u32) || tree.language().is_prose(tree.node(token.node).kind);
        let slice = source.slice(token.span());
        if let Some(first) = slice.find('\n').filter(|_| !moves) {
            frozen.push(Span::new(token.start + first as u32 + 1, token.end));
        }
    }
    for piece in tree.embedded() {
        let span = piece.span();
        frozen.retain(|frozen| !(span.start <= frozen.start && frozen.end <= tree.node(piece.host).end.max(span.end)));
        let inner = frozen_lines(&piece.source, &piece.tree);
        frozen.extend(inner.into_iter().map(|inner| piece.outer_span(inner)));
    }
    debug_assert!(frozen.iter().all(|span| span.end as usize <= text.len()));
    frozen.sort_by_key(|span| span.start);
    frozen
}
