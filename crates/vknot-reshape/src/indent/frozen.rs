//! Lines that no shift and no conversion may move.

use vknot_syntax::Span;

use crate::spec::Code;

/// The lines inside tokens of several lines that white space means something in: strings, and what is shown as it is.
pub(super) fn frozen_lines(code: Code<'_>) -> Vec<Span> {
    let Code { source, tree, .. } = code;
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
        let inner = frozen_lines(code.piece(piece));
        frozen.extend(inner.into_iter().map(|inner| piece.outer_span(inner)));
    }
    debug_assert!(frozen.iter().all(|span| span.end as usize <= text.len()));
    frozen.sort_by_key(|span| span.start);
    frozen
}
