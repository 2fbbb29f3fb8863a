//! Reads the blocks of Markdown line by line: headings, lists, quotes, fences, paragraphs.
//!
//! Source: the CommonMark specification, section "Blocks and inlines". What is inside a line is text.

use crate::language::Field;
use crate::reading::{kinds, line_end, word_end};
use crate::tree::{NodeId, TreeBuilder};

kinds! {
    DOCUMENT = "document" as File,
    HEADING = "heading" as Heading,
    HEADING_MARK = "heading_mark",
    HEADING_TEXT = "heading_text",
    NESTED_HEADING = "nested_heading",
    PARAGRAPH = "paragraph" as Statement,
    TABLE = "table" as Statement,
    TEXT = "text" as Inert,
    LIST_ITEM = "list_item" as Arm,
    QUOTE = "quote" as Block,
    ITEM_MARK = "item_mark",
    QUOTE_MARK = "quote_mark",
    FENCE = "fence" as Block,
    FENCE_OPENING = "fence_opening" as Open,
    FENCE_CLOSING = "fence_closing" as Close,
    INFO = "info",
    CODE_LINE = "code_line" as Inert,
    CODE = "indented_code" as Block,
    MARKUP = "markup" as Macro,
    COMMENT = "comment" as Comment,
    RULE = "break",
    FRONT_MATTER = "front_matter" as String,
}

/// Reads a text.
pub(super) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    builder.open(DOCUMENT, Field(0));
    let mut reader = Reader { text, bytes: text.as_bytes(), builder, containers: Vec::new(), leaf: Leaf::None };
    let mut at = reader.front_matter();
    while at < text.len() {
        at = reader.line(at);
    }
    reader.close_to(0);
}

/// What lines are inside of.
enum Container {
    Quote,
    /// A list item whose lines stand at this column.
    Item(usize),
}

/// The block that is being read.
enum Leaf {
    None,
    Paragraph(NodeId),
    Fence { mark: u8, length: usize },
    Code,
}

/// How deep quotes and lists nest; deeper marks are text.
const DEPTH_AT_MOST: usize = 64;

struct Reader<'r, 't> {
    text: &'r str,
    bytes: &'r [u8],
    builder: &'r mut TreeBuilder<'t>,
    containers: Vec<Container>,
    leaf: Leaf,
}

impl Reader<'_, '_> {
    /// Lines between `---` at the beginning of the file.
    fn front_matter(&mut self) -> usize {
        if !self.text.starts_with("---\n") && !self.text.starts_with("---\r\n") {
            return 0;
        }
        let mut at = 3;
        while let Some(start) = memchr::memchr(b'\n', &self.bytes[at..]).map(|next| at + next + 1) {
            at = line_end(self.bytes, start);
            if matches!(&self.text[start..at], "---" | "...") {
                self.builder.token(FRONT_MATTER, 0, at);
                return at;
            }
        }
        0
    }

    /// Reads the line that begins at `start`; gives where the next begins.
    fn line(&mut self, start: usize) -> usize {
        let end = line_end(self.bytes, start);
        let next = memchr::memchr(b'\n', &self.bytes[end..]).map_or(self.bytes.len(), |found| end + found + 1);
        let (kept, at) = self.matching(start, end);
        let blank = self.text[at..end].trim().is_empty();
        let fenced = matches!(self.leaf, Leaf::Fence { .. });
        if fenced && kept == self.containers.len() {
            self.quote_marks(start, at);
            self.fence_line(at, end);
            return next;
        }
        let lazy = kept < self.containers.len()
            && matches!(self.leaf, Leaf::Paragraph(_))
            && !blank
            && !self.begins_block(at, end);
        if kept < self.containers.len() && !lazy {
            self.close_to(kept);
        }
        self.quote_marks(start, at);
        if blank {
            self.blank_line();
            return next;
        }
        let at = if lazy { at } else { self.new_containers(start, at, end) };
        self.block(start, at, end, next)
    }

    /// How many containers go on in this line, and where what is inside them begins.
    fn matching(&self, start: usize, end: usize) -> (usize, usize) {
        let mut at = start;
        for (index, container) in self.containers.iter().enumerate() {
            let ink = word_end(self.bytes, at, |byte| matches!(byte, b' ' | b'\t')).min(end);
            match container {
                Container::Quote if self.bytes.get(ink) == Some(&b'>') && ink < end => at = ink + 1,
                Container::Item(_) if ink == end => {}
                Container::Item(column) if columns(self.bytes, start, ink) >= *column =>
                    at = ink.min(self.at_column(start, *column)),
                _ => return (index, at),
            }
        }
        (self.containers.len(), at)
    }

    fn at_column(&self, start: usize, column: usize) -> usize {
        let mut at = start;
        while columns(self.bytes, start, at) < column && at < self.bytes.len() {
            at += 1;
        }
        at
    }

    /// Marks of quotes between two offsets.
    fn quote_marks(&mut self, start: usize, end: usize) {
        for at in memchr::memchr_iter(b'>', &self.bytes[start..end]) {
            self.builder.token(QUOTE_MARK, start + at, start + at + 1);
        }
    }

    fn close_leaf(&mut self) {
        if !matches!(std::mem::replace(&mut self.leaf, Leaf::None), Leaf::None) {
            self.builder.close();
        }
    }

    fn close_to(&mut self, kept: usize) {
        self.close_leaf();
        while self.containers.len() > kept {
            self.containers.pop();
            self.builder.close();
        }
    }

    fn blank_line(&mut self) {
        if !matches!(self.leaf, Leaf::Code) {
            self.close_leaf();
        }
    }

    /// Opens the quotes and list items that begin in this line.
    fn new_containers(&mut self, start: usize, mut at: usize, end: usize) -> usize {
        while self.containers.len() < DEPTH_AT_MOST {
            let ink = word_end(self.bytes, at, |byte| matches!(byte, b' ' | b'\t')).min(end);
            let indented = columns(self.bytes, start, ink).saturating_sub(columns(self.bytes, start, at)) >= 4;
            if indented {
                break;
            }
            if self.bytes.get(ink) == Some(&b'>') && ink < end {
                self.close_leaf();
                self.builder.open(QUOTE, Field(0));
                self.builder.token(QUOTE_MARK, ink, ink + 1);
                self.containers.push(Container::Quote);
                at = ink + 1;
                continue;
            }
            let Some(mark) = item_mark(self.bytes, ink, end)
                .filter(|mark| !self.is_break(ink, end) && !self.interrupts(*mark, ink, end))
            else { break };
            self.close_leaf();
            self.builder.open(LIST_ITEM, Field(0));
            self.builder.token(ITEM_MARK, ink, mark);
            let content = word_end(self.bytes, mark, |byte| matches!(byte, b' ' | b'\t')).min(end);
            let column = match content == end || content > mark + 4 {
                true => columns(self.bytes, start, mark) + 1,
                false => columns(self.bytes, start, content),
            };
            self.containers.push(Container::Item(column));
            at = if content > mark + 4 { mark + 1 } else { content };
        }
        at
    }

    /// A number other than 1, or an empty item, does not end a paragraph.
    fn interrupts(&self, mark: usize, ink: usize, end: usize) -> bool {
        let numbered = self.bytes[ink].is_ascii_digit() && self.bytes.get(ink..mark - 1) != Some(b"1".as_slice());
        let empty = self.text[mark..end].trim().is_empty();
        matches!(self.leaf, Leaf::Paragraph(_))
            && (numbered || empty)
            && !matches!(self.containers.last(), Some(Container::Item(_)))
    }

    fn is_break(&self, at: usize, end: usize) -> bool {
        let line: Vec<u8> = self.bytes[at..end].iter().copied().filter(|byte| !byte.is_ascii_whitespace()).collect();
        line.len() >= 3 && matches!(line[0], b'-' | b'*' | b'_') && line.iter().all(|byte| *byte == line[0])
    }

    /// Whether a line begins a block of its own, so that no paragraph goes on with it.
    fn begins_block(&self, at: usize, end: usize) -> bool {
        let ink = word_end(self.bytes, at, |byte| matches!(byte, b' ' | b'\t')).min(end);
        self.bytes.get(ink) == Some(&b'>')
            || item_mark(self.bytes, ink, end).is_some()
            || self.is_break(ink, end)
            || heading_level(self.bytes, ink, end).is_some()
            || fence_mark(self.bytes, ink, end).is_some()
    }

    /// The block a line belongs to, behind its containers' marks; gives where to go on.
    fn block(&mut self, start: usize, at: usize, end: usize, next: usize) -> usize {
        let ink = word_end(self.bytes, at, |byte| matches!(byte, b' ' | b'\t')).min(end);
        if ink >= end {
            return next;
        }
        let paragraph = matches!(self.leaf, Leaf::Paragraph(_));
        let indented = columns(self.bytes, start, ink).saturating_sub(columns(self.bytes, start, at)) >= 4;
        if indented && !paragraph {
            if !matches!(self.leaf, Leaf::Code) {
                self.builder.open(CODE, Field(0));
                self.leaf = Leaf::Code;
            }
            self.builder.token(CODE_LINE, ink, end);
            return next;
        }
        if matches!(self.leaf, Leaf::Code) {
            self.close_leaf();
        }
        if self.underlines(ink, end) {
            return next;
        }
        if let Some(level) = heading_level(self.bytes, ink, end) {
            self.heading(ink, ink + level, end);
        } else if let Some(length) = fence_mark(self.bytes, ink, end) {
            self.open_fence(ink, length, end);
        } else if self.is_break(ink, end) {
            self.close_leaf();
            self.builder.token(RULE, ink, end);
        } else if !paragraph && self.bytes[ink] == b'<' && self.containers.is_empty()
            && let Some(end) = self.markup(ink)
        {
            return end;
        } else {
            if !paragraph {
                let table =
                    self.text[ink..end].contains('|') && is_table_rule(&self.text[next..line_end(self.bytes, next)]);
                let node = self.builder.open(if table { TABLE } else { PARAGRAPH }, Field(0));
                self.leaf = Leaf::Paragraph(node);
            }
            self.builder.token(TEXT, ink, end);
        }
        next
    }

    /// A line of `=` or `-` below a paragraph makes that a heading.
    fn underlines(&mut self, ink: usize, end: usize) -> bool {
        let Leaf::Paragraph(node) = self.leaf else { return false };
        let line = self.text[ink..end].trim_end();
        let mark = self.bytes[ink];
        if !matches!(mark, b'=' | b'-')
            || !line.bytes().all(|byte| byte == mark)
            || self.builder.kind_of(node) != PARAGRAPH
        {
            return false;
        }
        self.builder.retag(node, if self.containers.is_empty() { HEADING } else { NESTED_HEADING });
        self.builder.set_field(NodeId(node.0 + 1), Field::NAME);
        self.builder.token(HEADING_MARK, ink, end);
        self.close_leaf();
        true
    }

    fn heading(&mut self, ink: usize, mark: usize, end: usize) {
        self.close_leaf();
        self.builder.open(if self.containers.is_empty() { HEADING } else { NESTED_HEADING }, Field(0));
        self.builder.token(HEADING_MARK, ink, mark);
        let text = self.text[mark..end].trim_end();
        let bare = text.trim_end_matches('#');
        let closed = bare.len() < text.len() && bare.ends_with([' ', '\t']);
        let stop = mark + if closed { bare.trim_end().len() } else { text.len() };
        if !self.text[mark..stop].trim().is_empty() {
            self.builder.token(HEADING_TEXT, mark, stop);
            self.builder.set_field(self.builder.last(), Field::NAME);
        }
        if closed {
            self.builder.token(HEADING_MARK, stop, end);
        }
        self.builder.close();
    }

    fn open_fence(&mut self, ink: usize, length: usize, end: usize) {
        self.close_leaf();
        self.builder.open(FENCE, Field(0));
        self.builder.token(FENCE_OPENING, ink, ink + length);
        if !self.text[ink + length..end].trim().is_empty() {
            self.builder.token(INFO, ink + length, end);
        }
        self.leaf = Leaf::Fence { mark: self.bytes[ink], length };
    }

    fn fence_line(&mut self, at: usize, end: usize) {
        let Leaf::Fence { mark, length } = self.leaf else { return };
        let ink = word_end(self.bytes, at, |byte| matches!(byte, b' ' | b'\t')).min(end);
        let marks = word_end(self.bytes, ink, |byte| byte == mark).min(end) - ink;
        let closes = marks >= length && self.text[ink + marks..end].trim().is_empty();
        if closes {
            self.builder.token(FENCE_CLOSING, ink, ink + marks);
            self.close_leaf();
        } else if ink < end {
            self.builder.token(CODE_LINE, ink, end);
        }
    }

    /// Markup up to the next blank line, or a comment up to its end.
    fn markup(&mut self, ink: usize) -> Option<usize> {
        let next = *self.bytes.get(ink + 1)?;
        let comment = self.text[ink..].starts_with("<!--");
        let link = self.text[ink + 1..].starts_with("http") || self.text[ink + 1..].starts_with("mailto:");
        if !comment && (!(next.is_ascii_alphabetic() || matches!(next, b'/' | b'!' | b'?')) || link) {
            return None;
        }
        let end = match comment {
            true => self.text[ink..].find("-->").map_or(self.text.len(), |end| ink + end + 3),
            false => blank_line(self.bytes, ink),
        };
        self.builder.token(if comment { COMMENT } else { MARKUP }, ink, end);
        Some(end)
    }
}

/// The column of an offset in its line, tabs going to the next multiple of four.
fn columns(bytes: &[u8], start: usize, at: usize) -> usize {
    bytes[start..at.max(start)]
        .iter()
        .fold(0, |column, byte| if *byte == b'\t' { column / 4 * 4 + 4 } else { column + 1 })
}

/// Where a list item's mark ends: `-`, `*`, `+`, `1.`, `1)`, with a blank or nothing behind.
fn item_mark(bytes: &[u8], at: usize, end: usize) -> Option<usize> {
    let digits = word_end(bytes, at, |byte| byte.is_ascii_digit()) - at;
    let mark = match bytes.get(at)? {
        b'-' | b'*' | b'+' => at + 1,
        _ if (1..=9).contains(&digits) && matches!(bytes.get(at + digits), Some(b'.' | b')')) => at + digits + 1,
        _ => return None,
    };
    (mark >= end || matches!(bytes.get(mark), Some(b' ' | b'\t'))).then_some(mark.min(end))
}

fn heading_level(bytes: &[u8], at: usize, end: usize) -> Option<usize> {
    let marks = word_end(bytes, at, |byte| byte == b'#').min(end) - at;
    ((1..=6).contains(&marks) && (at + marks == end || matches!(bytes.get(at + marks), Some(b' ' | b'\t')))).then_some(
        marks,
    )
}

/// How many marks open a fence here.
fn fence_mark(bytes: &[u8], at: usize, end: usize) -> Option<usize> {
    let mark = *bytes.get(at).filter(|byte| matches!(byte, b'`' | b'~'))?;
    let length = word_end(bytes, at, |byte| byte == mark).min(end) - at;
    let inline = mark == b'`' && bytes[at + length..end].contains(&b'`');
    (length >= 3 && !inline).then_some(length)
}

fn is_table_rule(line: &str) -> bool {
    let line = line.trim();
    line.contains('-') && line.bytes().all(|byte| matches!(byte, b'|' | b'-' | b':' | b' ' | b'\t'))
}

/// The end of the last line before a blank one.
fn blank_line(bytes: &[u8], at: usize) -> usize {
    let mut end = line_end(bytes, at);
    while let Some(next) = memchr::memchr(b'\n', &bytes[end..]).map(|found| end + found + 1) {
        let stop = line_end(bytes, next);
        if bytes[next..stop].iter().all(u8::is_ascii_whitespace) {
            return end;
        }
        end = stop;
    }
    end
}
