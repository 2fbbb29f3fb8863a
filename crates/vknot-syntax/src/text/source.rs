//! A file's text, checked and measured once.

use std::path::{Path, PathBuf};

use super::facts::Facts;
use super::lines::{LineColumn, Lines, Position16};
use super::span::Span;

/// The largest file that is read: 256 MiB. Spans are 32-bit, and a tree takes several times its text's memory.
pub const MAX_BYTES: u64 = 256 * 1024 * 1024;

/// Why bytes could not be taken as source text.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ReadError {
    /// The bytes are not UTF-8.
    #[error("is not UTF-8 text (byte {offset} of the file); convert it first")]
    NotUtf8 {
        /// First bad byte.
        offset: usize,
        /// Its line, from 1.
        line: u32,
    },
    /// There is a NUL byte, so this is hardly text.
    #[error("holds a NUL byte (byte {offset} of the file) and is taken for a binary file; nothing was done to it")]
    Nul {
        /// First NUL byte.
        offset: usize,
        /// Its line, from 1.
        line: u32,
    },
    /// The file is over [`MAX_BYTES`].
    #[error("has {size} bytes; files over {MAX_BYTES} bytes are not read")]
    TooLarge {
        /// Size in bytes.
        size: u64,
    },
}

impl ReadError {
    /// The line (from 1) the error points at, where it points at one.
    pub fn line(&self) -> Option<u32> {
        match self {
            ReadError::NotUtf8 { line, .. } | ReadError::Nul { line, .. } => Some(*line),
            ReadError::TooLarge { .. } => None,
        }
    }
}

/// Source text with its path, facts and lines. The byte-order mark is taken off and remembered in the facts.
#[derive(Clone, Debug)]
pub struct Source {
    path: PathBuf,
    text: String,
    facts: Facts,
    lines: Lines,
}

impl Source {
    /// Takes the bytes of a file.
    ///
    /// # Errors
    /// When they are too many, not UTF-8, or hold a NUL byte.
    pub fn from_bytes(path: impl Into<PathBuf>, bytes: Vec<u8>) -> Result<Self, ReadError> {
        if bytes.len() as u64 > MAX_BYTES {
            return Err(ReadError::TooLarge { size: bytes.len() as u64 });
        }
        if let Some(offset) = memchr::memchr(0, &bytes) {
            return Err(ReadError::Nul { offset, line: line_of(&bytes, offset) });
        }
        match String::from_utf8(bytes) {
            Ok(text) => Ok(Self::from_text(path, text)),
            Err(error) => {
                let offset = error.utf8_error().valid_up_to();
                Err(ReadError::NotUtf8 { offset, line: line_of(error.as_bytes(), offset) })
            }
        }
    }

    /// Takes text that is known to be UTF-8. Text over 4 GiB is not supported; see [`Source::from_bytes`].
    pub fn from_text(path: impl Into<PathBuf>, text: impl Into<String>) -> Self {
        let mut text = text.into();
        let bom = text.starts_with('\u{feff}');
        if bom {
            text.drain(..'\u{feff}'.len_utf8());
        }
        let facts = Facts::of(&text, bom);
        let lines = Lines::of(&text);
        Self { path: path.into(), text, facts, lines }
    }

    /// Where the text came from, as given.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The text without its byte-order mark.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// What the text is like as a whole.
    pub fn facts(&self) -> &Facts {
        &self.facts
    }

    /// The line table.
    pub fn lines(&self) -> &Lines {
        &self.lines
    }

    /// The text of a span.
    pub fn slice(&self, span: Span) -> &str {
        span.of(&self.text)
    }

    /// The whole text as a span.
    pub fn span(&self) -> Span {
        Span::new(0, self.text.len() as u32)
    }

    /// Line and column of a byte offset.
    pub fn line_column(&self, offset: u32) -> LineColumn {
        self.lines.line_column(&self.text, offset)
    }

    /// UTF-16 position of a byte offset.
    pub fn position16(&self, offset: u32) -> Position16 {
        self.lines.position16(&self.text, offset)
    }

    /// The line (from 1) of a byte offset.
    pub fn line(&self, offset: u32) -> u32 {
        self.lines.index_at(offset) + 1
    }

    /// The first byte of the line that holds an offset.
    pub fn line_start(&self, offset: u32) -> u32 {
        self.lines.start(self.lines.index_at(offset))
    }

    /// The spaces and tabs at the start of the line that holds an offset.
    pub fn line_blank(&self, offset: u32) -> Span {
        let start = self.line_start(offset);
        let rest = self.text.get(start as usize..).unwrap_or("");
        let blank = rest.len() - rest.trim_start_matches([' ', '\t']).len();
        Span { start, end: start + blank as u32 }
    }

    /// Whether nothing but white space stands between the start of a line and an offset in it.
    pub fn begins_line(&self, offset: u32) -> bool {
        Span { start: self.line_start(offset), end: offset }.of(&self.text).trim().is_empty()
    }

    /// From the start of the first line that a span touches to the end of the last.
    pub fn whole_lines(&self, span: Span) -> Span {
        let (first, last) = self.line_range(span);
        Span { start: self.lines.start(first - 1), end: self.lines.span(&self.text, last - 1).end }
    }

    /// The lines (from 1) of a span's first byte and of its last one.
    pub fn line_range(&self, span: Span) -> (u32, u32) {
        let last = if span.is_empty() { span.start } else { span.end - 1 };
        (self.line(span.start), self.line(last))
    }
}

fn line_of(bytes: &[u8], offset: usize) -> u32 {
    memchr::memchr_iter(b'\n', &bytes[..offset]).count() as u32 + 1
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_not_text_is_refused_with_its_line() {
        let bad = Source::from_bytes("a", b"ok\n\xff".to_vec()).unwrap_err();
        assert_eq!(bad, ReadError::NotUtf8 { offset: 3, line: 2 });
        let nul = Source::from_bytes("a", b"\n\n\0".to_vec()).unwrap_err();
        assert_eq!(nul, ReadError::Nul { offset: 2, line: 3 });
    }

    #[test]
    fn the_byte_order_mark_is_remembered_not_kept() {
        let source = Source::from_bytes("a", b"\xef\xbb\xbfx".to_vec()).unwrap();
        assert_eq!((source.text(), source.facts().bom), ("x", true));
    }
}
