//! Shows source lines with their numbers, comments and strings coloured.

use std::fmt::Write;

use unicode_width::UnicodeWidthChar;
use vknot_syntax::{Role, Source, Span, Tree};

use super::{FAINT, MARK, Paint, PLAIN, STRING};

/// Shows lines of one file.
pub struct CodeView<'v> {
    source: &'v Source,
    tree: &'v Tree,
    width: usize,
}

impl<'v> CodeView<'v> {
    pub fn new(source: &'v Source, tree: &'v Tree) -> Self {
        Self { source, tree, width: source.lines().count().to_string().len().max(3) }
    }

    /// A line number, right-aligned.
    pub fn number(&self, line: u32) -> String {
        format!("{FAINT}{line:>width$}{FAINT:#}", width = self.width)
    }

    /// How many columns the number of a line and what stands behind it take.
    pub fn margin(&self) -> usize {
        self.width + 2
    }

    /// One line with its number. Spans in `marked` are pointed out.
    pub fn line(&self, line: u32, marked: &[Span]) -> String {
        self.cut_line(line, marked, usize::MAX)
    }

    /// One line with its number, of whose text so many columns are shown at most.
    pub fn cut_line(&self, line: u32, marked: &[Span], columns: usize) -> String {
        let mut out = format!("{}  ", self.number(line));
        let whole = self.source.lines().span(self.source.text(), line - 1);
        let span = Span::new(whole.start, whole.start + bytes_within(self.source.slice(whole), columns) as u32);
        let mut at = span.start;
        let first = self.tree.token_at(span.start).unwrap_or_else(|| self.tree.token_from(span.start));
        for token in self.tree.tokens().get(first as usize..).unwrap_or(&[]) {
            if token.start >= span.end {
                break;
            }
            let (start, end) = (token.start.max(at), token.end.min(span.end));
            let style = match self.tree.role(token.node) {
                _ if marked.iter().any(|mark| mark.covers(token.span())) => MARK,
                Role::Comment => FAINT,
                Role::String => STRING,
                _ => continue,
            };
            self.piece(&mut out, Span::new(at, start), PLAIN);
            self.piece(&mut out, Span::new(start, end), style);
            at = end;
        }
        self.piece(&mut out, Span::new(at, span.end), PLAIN);
        if span.end < whole.end {
            let _ = write!(out, "{FAINT}\u{2026}{FAINT:#}");
        }
        out
    }

    fn piece(&self, out: &mut String, span: Span, style: Paint) {
        let text = self.source.slice(span).replace('\t', TAB);
        let _ = write!(out, "{style}{text}{style:#}");
    }
}

/// What a tab is shown as.
const TAB: &str = "    ";

/// How many bytes of a line take so many columns at most; where that is not all, one column less, for the mark that says so.
fn bytes_within(text: &str, columns: usize) -> usize {
    let width = |c: char| if c == '\t' { TAB.len() } else { c.width().unwrap_or(0) };
    let total: usize = if columns == usize::MAX { 0 } else { text.chars().map(width).sum() };
    if total <= columns {
        return text.len();
    }
    let mut left = columns.saturating_sub(1);
    let fits = |c: &char| {
        let fits = width(*c) <= left;
        left = left.saturating_sub(width(*c));
        fits
    };
    text.chars().take_while(fits).map(char::len_utf8).sum()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_cut_between_characters_and_by_columns() {
        for (text, columns, shown) in [
            ("", 0, ""),
            ("tide", 4, "tide"),
            ("tides", 4, "tid"),
            ("tides", 0, ""),
            ("\ttide", 8, "\ttide"),
            ("\ttide", 7, "\tti"),
            ("\u{6f6e}\u{6c50}", 4, "\u{6f6e}\u{6c50}"),
            ("\u{6f6e}\u{6c50}", 3, "\u{6f6e}"),
            ("tides", usize::MAX, "tides"),
        ] {
            assert_eq!(&text[..bytes_within(text, columns)], shown, "{text} in {columns}");
        }
    }
}
