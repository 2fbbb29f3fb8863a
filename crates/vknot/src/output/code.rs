//! Shows source lines with their numbers, comments and strings coloured.

use std::fmt::Write;

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

    /// One line with its number. Spans in `marked` are pointed out.
    pub fn line(&self, line: u32, marked: &[Span]) -> String {
        let mut out = format!("{}  ", self.number(line));
        let span = self.source.lines().span(self.source.text(), line - 1);
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
        out
    }

    fn piece(&self, out: &mut String, span: Span, style: Paint) {
        let text = self.source.slice(span).replace('\t', "    ");
        let _ = write!(out, "{style}{text}{style:#}");
    }
}
