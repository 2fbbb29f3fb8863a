//! Takes indentation away, to see how much of it [`super::set`] brings back.

use vknot_style::Indentation;
use vknot_syntax::Span;

use crate::spec::Code;
use crate::edits::Edits;
use crate::frames::blocks::{Block, inner_lines};
use crate::frames::lines::lines;
use crate::frames::place::blank_columns;

const PLAIN: Indentation = Indentation { tabs: false, size: 4, tab_width: 8 };

/// The text with the indentation of its lines taken away: of every line that begins with a token, and of the lines of prose. The lines of a
/// comment lose what its first line lost, those that begin with `*` all they have. Lines inside strings are left.
pub fn stripped(code: Code<'_>) -> String {
    let Code { source, tree, .. } = code;
    let mut edits: Vec<(Span, String)> = Vec::new();
    let lines = lines(code, PLAIN, None);
    edits.extend(lines.iter().filter(|line| !line.kept).map(|line| (Span::new(line.start, line.end), String::new())));
    for (index, token) in tree.tokens().iter().enumerate() {
        let index = index as u32;
        let prose = tree.language().is_prose(tree.node(token.node).kind);
        let behind = lines.partition_point(|line| line.token <= index);
        let Some(line) = behind.checked_sub(1).and_then(|at| lines.get(at)).filter(|line| !line.kept) else { continue };
        if !prose && !tree.is_comment(index) || !source.slice(token.span()).contains('\n') {
            continue;
        }
        let span = Span::new(line.start, line.end);
        let moved = -i64::from(blank_columns(span.of(source.text()), PLAIN.tab_width));
        let block = Block { token: index, column: 0, prose: prose.then_some(Default::default()), moved };
        let starred = source.slice(token.span()).lines().skip(1).all(|line| line.trim_start().starts_with('*'));
        for (span, place) in inner_lines(code, &block, PLAIN, false) {
            let columns = if starred || prose { 0 } else { place.columns() };
            edits.push((span, " ".repeat(columns as usize)));
        }
    }
    edits.sort_by_key(|(span, _)| span.start);
    let mut sorted = Edits::default();
    edits.iter().for_each(|(span, blank)| sorted.push(*span, blank));
    sorted.apply(source.text())
}
