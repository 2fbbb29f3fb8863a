//! Which line breaks of an author are meant: in a well-kept file those between the parts of a list, an operation or a chain that all
//! begin lines further in than the first of them, by half a level or more or where something above stands, in one column, none of these
//! longer than lines may be.

use vknot_style::Indentation;
use vknot_syntax::{Span, Token, TokenId};

use crate::frames::place::{blank_columns, width_of};
use crate::frames::tables::Tables;
use crate::spec::Code;

/// The lines of a well-kept file as they were written.
pub(super) struct Meant {
    /// For each token where it stands.
    tokens: Vec<Standing>,
    /// Columns of which those that a line stands further in are a multiple, if it lines up with nothing.
    step: u32,
}

/// Looks again at lines that are too long and end in a comment: at what is in front of that.
fn spare_comments(code: Code<'_>, tokens: &mut [Standing], long: impl Fn(u32) -> bool) {
    let tree = code.tree;
    for index in 1..tokens.len() {
        let Standing { long: counted, behind, .. } = tokens[index];
        let ends_line = tokens.get(index + 1).is_none_or(|next| next.behind <= behind);
        if !counted
            || behind == 0
            || !ends_line
            || !tree.is_comment(index as u32)
            || tree.is_comment(index as u32 - 1)
        {
            continue;
        }
        let Some(before) = tree.tokens().get(index - 1).filter(|before| !long(before.end)) else { continue };
        let start = code.source.line_start(before.end);
        let line = (0..index).rev().take_while(|at| tree.tokens().get(*at).is_some_and(|token| token.start >= start));
        line.for_each(|at| tokens[at].long = false);
    }
}

/// Where a token stands.
#[derive(Clone, Copy)]
struct Standing {
    /// The column in which its line begins, or the leftmost line of its table.
    line: u32,
    /// How many columns further in it does.
    further: u32,
    /// Whether that line is longer than lines may be, a comment behind it not counted.
    long: bool,
    /// Bytes from the start of its line.
    behind: u32,
}

impl Meant {
    /// `width` says how many columns lines may take.
    pub fn of(code: Code<'_>, indentation: Indentation, width: u32) -> Self {
        let source = code.source;
        let (mut next, mut begins) = (0, 0);
        let mut line = Standing { line: 0, further: 0, long: false, behind: 0 };
        let mut tables = Tables::default();
        let standing = |token: &Token| {
            if token.start >= next {
                let blank = source.line_blank(token.start);
                let code = source.text().get(blank.end as usize..).and_then(|rest| rest.lines().next()).unwrap_or("");
                let column = blank_columns(source.slice(blank), indentation.tab_width);
                let long = column.saturating_add(width_of(code.trim_end())) > width;
                let further = tables.offset(source, blank.end, indentation.tab_width);
                line = Standing { line: column.saturating_sub(further), further, long, behind: 0 };
                (next, begins) = (token.end.max(blank.end + code.len() as u32), blank.end);
            }
            Standing { behind: token.start - begins.min(token.start), ..line }
        };
        let mut tokens: Vec<Standing> = code.tree.tokens().iter().map(standing).collect();
        let long = |end: u32| {
            let blank = source.line_blank(end);
            let code = source.slice(Span::new(blank.end.min(end), end));
            blank_columns(source.slice(blank), indentation.tab_width).saturating_add(width_of(code)) > width
        };
        spare_comments(code, &mut tokens, long);
        Self { tokens, step: (indentation.size / 2).max(1) }
    }

    /// Whether the lines that begin in these gaps are meant, in what begins with a token and may end with one that closes it.
    pub fn holds(&self, first: TokenId, gaps: impl Iterator<Item = TokenId>, close: Option<TokenId>) -> bool {
        let at = |token: TokenId| self.tokens.get(token as usize).filter(|standing| !standing.long);
        let Some(base) = at(first).map(|standing| standing.line) else { return false };
        let mut column = None;
        for gap in gaps {
            let Some(begins) = at(gap).map(|standing| standing.line) else { return false };
            let stands = match (close == Some(gap), column) {
                (true, _) => begins >= base,
                (false, Some(column)) => begins == column,
                (false, None) => {
                    column = Some(begins);
                    begins > base && ((begins - base) % self.step == 0 || self.lines_up(gap, begins))
                }
            };
            if !stands {
                return false;
            }
        }
        true
    }

    /// Whether a token of the line above stands in a column.
    fn lines_up(&self, gap: TokenId, column: u32) -> bool {
        let above = self.tokens.get(..gap as usize).unwrap_or_default().iter().rev();
        let mut behind = u32::MAX;
        let mut line = above.take_while(|standing| std::mem::replace(&mut behind, standing.behind) > standing.behind);
        line.any(|standing| standing.line + standing.further + standing.behind == column)
    }
}
