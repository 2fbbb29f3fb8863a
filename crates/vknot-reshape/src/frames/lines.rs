//! The lines of a file that begin with a token, and the white space in front of it.

use vknot_style::Indentation;
use vknot_syntax::{Span, TokenId};

use crate::spec::Code;

use super::place::Place;

/// A line that begins with a token.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Line {
    pub token: TokenId,
    /// First byte of the line.
    pub start: u32,
    /// First byte of the token.
    pub end: u32,
    /// Where it begins now.
    pub found: Place,
    /// Whether it stays there.
    pub kept: bool,
}

/// A mark of the byte order is one at the very start of a file only.
fn begins_with_mark(text: &str) -> bool {
    text.starts_with('\u{feff}')
}

/// The lines of a file that begin with a token. Those outside of `only` are kept, and those where something else than blanks is in front
/// of the token.
pub(crate) fn lines(code: Code<'_>, indentation: Indentation, only: Option<&[Span]>) -> Vec<Line> {
    let Code { source, tree, .. } = code;
    let text = source.text();
    let mut lines = Vec::new();
    for token in 0..tree.tokens().len() as u32 {
        let gap = tree.gap_span(token);
        let white = gap.of(text);
        let start = match white.rfind('\n') {
            Some(at) => gap.start + at as u32 + 1,
            None if token == 0 => gap.start,
            None => continue,
        };
        let blank = Span::new(start, gap.end).of(text);
        let plain = blank.bytes().all(|byte| matches!(byte, b' ' | b'\t'));
        let wanted = only.is_none_or(
            |spans| spans.iter().any(|span| span.start <= gap.end && start < span.end.max(span.start + 1)),
        );
        lines.push(Line {
            token,
            start,
            end: gap.end,
            found: Place::of(blank, indentation),
            kept: !plain || !wanted || start == 0 && text.get(gap.end as usize..).is_some_and(begins_with_mark),
        });
    }
    lines
}
