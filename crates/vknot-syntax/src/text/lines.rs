//! Bytes to lines and columns and back, in characters and in UTF-16 code units.

use super::span::Span;

/// A position as people write it: line and column count from 1, columns in characters.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct LineColumn {
    /// Line, from 1.
    pub line: u32,
    /// Column, from 1, in characters.
    pub column: u32,
}

/// A position as the Language Server Protocol writes it: both count from 0, `character` in UTF-16 code units.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Position16 {
    /// Line, from 0.
    pub line: u32,
    /// Offset in the line, in UTF-16 code units.
    pub character: u32,
}

/// Where each line of a text starts. A line ends at `\n`; a `\r` before it belongs to the line end.
#[derive(Clone, Debug)]
pub struct Lines {
    starts: Vec<u32>,
    length: u32,
    /// Whether every character is one byte, so that columns need no counting. Lines can be as long as files.
    ascii: bool,
}

impl Lines {
    /// Finds the line starts of `text`.
    pub fn of(text: &str) -> Self {
        let mut starts = vec![0];
        starts.extend(memchr::memchr_iter(b'\n', text.as_bytes()).map(|at| at as u32 + 1));
        Self { starts, length: text.len() as u32, ascii: text.is_ascii() }
    }

    /// How many lines there are. Text behind the last line end counts as a line, nothing behind it does not.
    pub fn count(&self) -> u32 {
        let count = self.starts.len() as u32;
        if count > 1 && self.starts.last() == Some(&self.length) { count - 1 } else { count }
    }

    /// The line (from 0) that holds byte `offset`.
    pub fn index_at(&self, offset: u32) -> u32 {
        (self.starts.partition_point(|start| *start <= offset).max(1) - 1) as u32
    }

    /// First byte of line `index` (from 0); the length of the text when there is no such line.
    pub fn start(&self, index: u32) -> u32 {
        self.starts.get(index as usize).copied().unwrap_or(self.length)
    }

    /// The bytes of line `index` (from 0) without its line end.
    pub fn span(&self, text: &str, index: u32) -> Span {
        let start = self.start(index);
        let next = self.start(index + 1);
        let line = Span::new(start, next).of(text);
        let kept = line.strip_suffix('\n').map_or(line, |line| line.strip_suffix('\r').unwrap_or(line));
        Span::new(start, start + kept.len() as u32)
    }

    /// The text of line `index` (from 0) without its line end.
    pub fn text<'t>(&self, text: &'t str, index: u32) -> &'t str {
        self.span(text, index).of(text)
    }

    /// Byte offset to line and column in characters.
    pub fn line_column(&self, text: &str, offset: u32) -> LineColumn {
        let index = self.index_at(offset);
        if self.ascii {
            return LineColumn { line: index + 1, column: offset - self.start(index) + 1 };
        }
        let before = Span::new(self.start(index), offset).of(text);
        LineColumn { line: index + 1, column: before.chars().count() as u32 + 1 }
    }

    /// Byte offset to line and UTF-16 offset.
    pub fn position16(&self, text: &str, offset: u32) -> Position16 {
        let index = self.index_at(offset);
        if self.ascii {
            return Position16 { line: index, character: offset - self.start(index) };
        }
        let before = Span::new(self.start(index), offset).of(text);
        Position16 { line: index, character: before.chars().map(|c| c.len_utf16() as u32).sum() }
    }

    /// Line and column to byte offset. `None` when the line does not exist or is shorter; the column one past the
    /// last character is allowed.
    pub fn offset(&self, text: &str, at: LineColumn) -> Option<u32> {
        if at.line == 0 || at.column == 0 || at.line > self.count() {
            return None;
        }
        let span = self.span(text, at.line - 1);
        let line = span.of(text);
        let skip = at.column as usize - 1;
        let end = line.char_indices().map(|(byte, _)| byte).chain([line.len()]).nth(skip)?;
        Some(span.start + end as u32)
    }

    /// A UTF-16 position to byte offset; a position inside a surrogate pair goes to the character's start.
    pub fn offset16(&self, text: &str, at: Position16) -> Option<u32> {
        if at.line >= self.starts.len() as u32 {
            return None;
        }
        let span = self.span(text, at.line);
        let mut units = 0;
        for (byte, c) in span.of(text).char_indices() {
            units += c.len_utf16() as u32;
            if units > at.character {
                return Some(span.start + byte as u32);
            }
        }
        (units >= at.character).then_some(span.end)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const TEXT: &str = "tide\r\n  𝄞höhe\n\nlast";

    #[test]
    fn lines_and_columns_go_both_ways() {
        let lines = Lines::of(TEXT);
        assert_eq!(lines.count(), 4);
        for (offset, _) in TEXT.char_indices().filter(|(_, c)| !matches!(c, '\r' | '\n')) {
            let at = lines.line_column(TEXT, offset as u32);
            assert_eq!(lines.offset(TEXT, at), Some(offset as u32), "{at:?}");
            let wide = lines.position16(TEXT, offset as u32);
            assert_eq!(lines.offset16(TEXT, wide), Some(offset as u32), "{wide:?}");
        }
    }

    #[test]
    fn utf16_counts_surrogates() {
        let lines = Lines::of(TEXT);
        let offset = TEXT.find('h').unwrap() as u32;
        assert_eq!(lines.position16(TEXT, offset), Position16 { line: 1, character: 4 });
        assert_eq!(lines.line_column(TEXT, offset), LineColumn { line: 2, column: 4 });
    }

    #[test]
    fn columns_past_the_line_are_refused() {
        let lines = Lines::of(TEXT);
        assert!(lines.offset(TEXT, LineColumn { line: 1, column: 5 }).is_some());
        assert!(lines.offset(TEXT, LineColumn { line: 1, column: 6 }).is_none());
        assert!(lines.offset(TEXT, LineColumn { line: 9, column: 1 }).is_none());
    }

    #[test]
    fn a_final_newline_adds_no_line() {
        assert_eq!(Lines::of("a\n").count(), 1);
        assert_eq!(Lines::of("").count(), 1);
        assert_eq!(Lines::of("\n\n").count(), 2);
    }
}
