//! How lines stand to each other where indentation is meaning, told as such languages themselves tell it: by the widths of the logical
//! lines before (The Python Language Reference, section 2.1.8, "Indentation").

use vknot_style::Indentation;
use vknot_syntax::{Role, Span};

use crate::spec::Code;
use super::lines::{Line, lines};
use super::place::{blank_columns, Pen};

/// How a line stands to those before it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Standing {
    /// It begins a statement, so many levels deep; whether that is the width of a block that is open or begins.
    Statement(u32, bool),
    /// It goes on with what another line began.
    Wrapped,
    /// It holds nothing but a comment.
    Comment,
}

/// A bracket that is open.
struct Open {
    line: usize,
    /// The column of the first thing behind it, if that is on its line.
    first: Option<u32>,
}

/// For each line how it stands, and what it may be lined up with: the line that opened its bracket, and whether it stands in the column of
/// the first thing in it.
pub(crate) fn standings(code: Code<'_>, lines: &[Line], tab_width: u32) -> Vec<(Standing, usize, bool)> {
    let Code { source, tree, .. } = code;
    let mut standings = Vec::with_capacity(lines.len());
    let mut widths: Vec<u32> = vec![0];
    let mut open: Vec<Open> = Vec::new();
    let mut statement = 0;
    let mut pen = Pen::new(source.text(), tab_width);
    let mut next = 0;
    let mut opened = false;
    for (token, facts) in tree.tokens().iter().enumerate() {
        let begins = lines.get(next).filter(|line| line.token == token as u32);
        if let Some(line) = begins {
            let column = blank_columns(Span::new(line.start, line.end).of(source.text()), tab_width);
            standings.push(match open.last() {
                Some(bracket) => (Standing::Wrapped, bracket.line, bracket.first == Some(column)),
                None if tree.is_comment(token as u32) => (Standing::Comment, statement, false),
                None if continues(code, token as u32) => (Standing::Wrapped, statement, false),
                None => {
                    let goes_out = widths.last().is_some_and(|width| *width > column);
                    while widths.len() > 1 && widths.last().is_some_and(|width| *width > column) {
                        widths.pop();
                    }
                    let deeper = widths.last().is_some_and(|width| *width < column);
                    if deeper {
                        widths.push(column);
                    }
                    // A block begins behind a colon only, and ends at a width that there was.
                    let regular = !deeper || !goes_out && opened;
                    statement = next;
                    (Standing::Statement(widths.len() as u32 - 1, regular), next, false)
                }
            });
            next += 1;
        }
        if tree.is_comment(token as u32) {
            continue;
        }
        opened = source.slice(facts.span()) == ":";
        if tree.role(facts.node) == Role::String {
            continue;
        }
        match source.slice(facts.span()) {
            "(" | "[" | "{" => {
                let gap = tree.gap(source.text(), token as u32 + 1);
                let filled = gap.newlines == 0 && !tree.is_comment(token as u32 + 1);
                let first = tree.tokens().get(token + 1).filter(|_| filled).map(|first| pen.column_of(first.start));
                open.push(Open { line: next.saturating_sub(1), first });
            }
            ")" | "]" | "}" => drop(open.pop()),
            _ => {}
        }
    }
    standings
}

/// Whether a backslash in front of a token takes its line for more of the one before.
fn continues(code: Code<'_>, token: u32) -> bool {
    let Code { source, tree, .. } = code;
    let before = token.checked_sub(1).and_then(|before| tree.tokens().get(before as usize));
    let splice = |text: &str| text.trim_start().starts_with('\\');
    splice(tree.gap_span(token).of(source.text())) || before.is_some_and(|before| splice(source.slice(before.span())))
}

/// The first line (from 1) whose statement is not in the block it was in, in a text of which only comments and indentation differ.
pub(crate) fn moved_line(was: Code<'_>, is: Code<'_>, tab_width: u32) -> Option<u32> {
    let levels = |code: Code<'_>| {
        let source = code.source;
        let lines = lines(code, Indentation { tabs: false, size: 1, tab_width }, None);
        let standings = standings(code, &lines, tab_width);
        let of = |(line, (standing, ..)): (&Line, &(Standing, usize, bool))| match standing {
            Standing::Statement(level, regular) => Some((source.line(line.end), *level, *regular)),
            _ => None,
        };
        lines.iter().zip(&standings).filter_map(of).collect::<Vec<(u32, u32, bool)>>()
    };
    let (was, is) = (levels(was), levels(is));
    let same = |was: &(u32, u32, bool), is: &(u32, u32, bool)| (was.1, was.2) == (is.1, is.2);
    let differs = was.iter().zip(&is).find(|(was, is)| !same(was, is)).map(|(was, _)| was.0);
    differs.or((was.len() != is.len()).then_some(1))
}
