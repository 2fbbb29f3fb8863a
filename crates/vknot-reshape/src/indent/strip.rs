//! Takes indentation away, to see how much of it [`super::set`] brings back.

use vknot_style::Indentation;
use vknot_syntax::{Source, Span, Tree};

use crate::edits::Edits;
use super::blocks::{inner_lines, Block};
use super::lines::lines;
use super::place::blank_columns;

const PLAIN: Indentation = Indentation { tabs: false, size: 4, tab_width: 8 };

/// The text with the indentation of its lines taken away: of every line that begins with a token, and of the lines of prose. The lines of a
/// comment lose what its first line lost, those that begin with `*` all they have. Lines inside strings are left.
pub fn stripped(source: &Source, tree: &Tree) -> String {
    let mut edits: Vec<(Span, String)> = Vec::new();
    for line in lines(source, tree, PLAIN, None).iter().filter(|line| !line.kept) {
        let span = Span::new(line.start, line.end);
        edits.push((span, String::new()));
        let Some(token) = tree.tokens().get(line.token as usize).map(|token| tree.node(token.node)) else { continue };
        let prose = tree.language().is_prose(token.kind);
        if !prose && !tree.is_comment(line.token) {
            continue;
        }
        let moved = -i64::from(blank_columns(span.of(source.text()), PLAIN.tab_width));
        let block = Block { token: line.token, column: 0, prose: prose.then_some(Default::default()), moved };
        let starred = source.slice(token.span()).lines().skip(1).all(|line| line.trim_start().starts_with('*'));
        for (span, place) in inner_lines(source, tree, &block, PLAIN) {
            let columns = if starred || prose { 0 } else { place.columns() };
            edits.push((span, " ".repeat(columns as usize)));
        }
    }
    let mut sorted = Edits::default();
    edits.iter().for_each(|(span, blank)| sorted.push(*span, blank));
    sorted.apply(source.text())
}
