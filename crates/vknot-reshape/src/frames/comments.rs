//! Where comments stand that begin a line: with the line behind them, unless that closes what they are in; or below the comment behind the
//! code above, if they go on with it; or at the margin, if their author left them there.

use vknot_syntax::TokenId;

use crate::spec::Code;
use super::lines::Line;
use super::place::{blank_columns, Place};
use super::stack::Spot;

/// Comments that wait for the line behind them.
#[derive(Default)]
pub(crate) struct Waiting {
    /// The line, and where it would stand as an item of what it is in.
    list: Vec<(usize, Place)>,
}

impl Waiting {
    pub fn push(&mut self, line: usize, inside: Place) {
        self.list.push((line, inside));
    }

    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// The last line that waits.
    pub fn last(&self) -> Option<usize> {
        self.list.last().map(|(line, _)| *line)
    }

    /// Gives them their places, `next` being that of the line behind them.
    pub fn settle(&mut self, next: Option<Spot>, places: &mut [Place]) {
        for (line, inside) in self.list.drain(..) {
            places[line] = next.filter(|spot| !spot.closes).map_or(inside, |spot| spot.place);
        }
    }
}

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
        self.last = Some((token, blank_columns(before, tab_width)));
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

/// Whether a line holds a comment that stays at the margin: as a rule it is code that is not to run. `indented` tells whether any code of
/// the file is indented.
pub(crate) fn stays_at_margin(code: Code<'_>, line: &Line, indented: bool) -> bool {
    let text = || code.tree.tokens().get(line.token as usize).map_or("", |token| code.source.slice(token.span()));
    indented && line.found.columns() == 0 && code.tree.is_comment(line.token) && !text().contains('\n')
}

/// Whether any line that holds code is indented.
pub(crate) fn any_indented(code: Code<'_>, lines: &[Line]) -> bool {
    lines.iter().any(|line| line.found.columns() > 0 && !code.tree.is_comment(line.token))
}
