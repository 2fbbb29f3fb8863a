//! Comments behind code, and those on the lines below that go on with them.

use vknot_syntax::{TokenId, Tree};

use crate::spec::Code;
use super::place::blank_columns;

/// Comments behind code, and those on the lines below that go on with them in the same column.
#[derive(Default)]
pub(crate) struct Beside {
    /// The last one, and its column.
    last: Option<(TokenId, u32)>,
}

impl Beside {
    /// Goes past a token that begins no line.
    pub fn pass(&mut self, code: Code<'_>, token: TokenId, tab_width: u32) {
        if !is_line_comment(code, token) {
            return;
        }
        let start = code.tree.tokens().get(token as usize).map_or(0, |token| token.start);
        let line = code.source.line_start(start);
        let before = code.source.text().get(line as usize..start as usize).unwrap_or("");
        // What is behind a directive that parts code says of what it is, and goes on nowhere.
        let lead = before.trim();
        let parts = lead.starts_with(['#', '{']) && code.toolkit().indent.spec.conditional(lead).is_some();
        if !parts {
            self.last = Some((token, blank_columns(before, tab_width)));
        }
    }

    /// Whether a comment behind code may go on with the next line.
    pub fn is_open(&self) -> bool {
        self.last.is_some()
    }

    /// Goes past a token that begins a line, behind that white space and in that column; whether it goes on with a comment behind the code
    /// above.
    pub fn begins_line(&mut self, code: Code<'_>, token: TokenId, white: &str, column: u32) -> bool {
        let Some((before, at)) = self.last.take() else { return false };
        let one_line = white.bytes().filter(|byte| *byte == b'\n').count() == 1;
        let goes_on = before + 1 == token && one_line && at == column && is_line_comment(code, token);
        self.last = goes_on.then_some((token, at));
        goes_on
    }
}

/// Whether a token goes on with the line of a comment that it touches: one that begins right behind another.
pub(crate) fn touches_comment(tree: &Tree, token: TokenId) -> bool {
    let start = tree.tokens().get(token as usize).map(|token| token.start);
    let before = token.checked_sub(1).filter(|before| tree.is_comment(*before));
    before.and_then(|before| tree.tokens().get(before as usize)).is_some_and(|before| Some(before.end) == start)
}

/// Whether a token is a comment that ends with its line.
pub(crate) fn is_line_comment(code: Code<'_>, token: TokenId) -> bool {
    if !code.tree.is_comment(token) {
        return false;
    }
    let spec = code.tree.language().spec();
    let text = code.tree.tokens().get(token as usize).map_or("", |token| code.source.slice(token.span()));
    let block = !spec.block_comment.0.is_empty() && text.starts_with(spec.block_comment.0);
    !block && (spec.line_comments().any(|mark| text.starts_with(mark)) || text.starts_with("#!"))
}
