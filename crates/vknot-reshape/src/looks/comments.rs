//! The comments of a file, in embedded code too.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;

/// A comment.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Comment {
    /// Its bytes in the file.
    pub span: Span,
    /// Whether it ends with its line.
    pub to_line_end: bool,
}

/// All comments in order.
pub fn comments(code: Code<'_>) -> Vec<Comment> {
    let tree = code.tree;
    let mut found: Vec<Comment> = tree.tokens()
        .iter()
        .filter(|token| tree.role(token.node) == Role::Comment)
        .map(|token| Comment { span: token.span(), to_line_end: is_line_comment(code, token.node) })
        .collect();
    for piece in tree.embedded() {
        let inner = comments(code.piece(piece));
        found.extend(inner.into_iter().map(|comment| Comment { span: piece.outer_span(comment.span), ..comment }));
    }
    if !tree.embedded().is_empty() {
        found.sort_by_key(|comment| comment.span.start);
    }
    found
}

/// Whether a node is a comment that ends with its line.
pub(super) fn is_line_comment(code: Code<'_>, id: NodeId) -> bool {
    let Code { source, tree, .. } = code;
    let text = tree.text_of(source.text(), id);
    let spec = tree.language().spec();
    let (open, _) = spec.block_comment;
    let block = !open.is_empty() && text.starts_with(open);
    tree.role(id) == Role::Comment && !block && spec.line_comments().any(|mark| text.starts_with(mark))
}

/// What a comment says: its text less the marks around it and in front of each line.
pub(super) fn body(text: &str) -> &str {
    let marks = |c: char| matches!(c, '/' | '*' | '#' | ';' | '%' | '-' | '!' | '<' | '{' | '(' | '|')
        || c.is_whitespace();
    let text = text.trim_start_matches(marks);
    text.trim_end_matches(|c: char| matches!(c, '/' | '*' | '-' | '>' | '}' | ')' | '|') || c.is_whitespace())
}
