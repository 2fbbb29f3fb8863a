//! Lines of a table that begin in columns of their own: numbers line up at their points or ends, and names that a style sheet declares
//! for several readers behind the prefixes that tell for which.

use std::ops::Range;

use vknot_syntax::Source;

use super::place::{blank_columns, width_of};

/// The number that a text begins with, with its sign; nothing where it begins with something else.
fn number_at(text: &str) -> &str {
    let digits = text.trim_start_matches(['-', '+']);
    let end = |text: &str| text.find(|c: char| !(c.is_ascii_alphanumeric() || matches!(c, '.' | '_')))
        .unwrap_or(text.len());
    let starts = digits.strip_prefix('.').unwrap_or(digits).starts_with(|c: char| c.is_ascii_digit());
    if starts { &text[..text.len() - digits.len() + end(digits)] } else { "" }
}

/// Where a number stands.
#[derive(Clone, Copy)]
pub(crate) struct Number {
    pub column: u32,
    /// The columns behind its digits in front of the point, and behind all of it.
    ends: [u32; 2],
}

impl Number {
    /// The number that a text in a column begins with.
    pub fn at(text: &str, column: u32) -> Option<Number> {
        let number = number_at(text);
        let ends = [number.split('.').next().unwrap_or(""), number].map(|part| column + width_of(part));
        (!number.is_empty()).then_some(Number { column, ends })
    }

    /// Whether it takes more than one column.
    pub fn is_long(&self) -> bool {
        self.column + 1 < self.ends[1]
    }

    /// The column behind it.
    pub fn end(&self) -> u32 {
        self.ends[1]
    }

    pub fn lines_up_with(&self, other: &Number) -> bool {
        self.ends.iter().zip(other.ends).any(|(end, other)| *end == other)
    }
}

/// The columns that the prefix of the name takes that a line declares something of; nothing where it begins otherwise.
fn prefix_of_name(text: &str) -> Option<u32> {
    let end = text.find(|c: char| !(c.is_ascii_alphanumeric() || c == '-')).unwrap_or(text.len());
    let (whole, rest) = text.split_at(end);
    let prefixed = whole.strip_prefix('-').and_then(|name| name.split_once('-'));
    let name = prefixed.filter(|(prefix, _)| !prefix.is_empty()).map_or(whole, |(_, name)| name);
    let declares = rest.starts_with(':') && name.starts_with(|c: char| c.is_ascii_alphabetic());
    declares.then_some((whole.len() - name.len()) as u32)
}

/// What a line of a table begins with: a number, or with `names` a prefix, which ends where its name begins.
fn row(line: &str, tab_width: u32, names: bool) -> Option<Number> {
    let code = line.trim_start_matches([' ', '\t']);
    let column = blank_columns(&line[..line.len() - code.len()], tab_width);
    match names {
        true => prefix_of_name(code).map(|prefix| Number { column, ends: [column + prefix; 2] }),
        false => Number::at(code, column),
    }
}

/// Goes from line to line, down the file.
#[derive(Clone, Debug, Default)]
pub(crate) struct Tables {
    /// The lines of the table that was met last, counted from 0, and the columns in which the first and the last of them begin.
    rows: Range<u32>,
    leftmost: u32,
    rightmost: u32,
    /// Whether the line asked for last is of a table whose lines begin in several columns.
    pub ragged: bool,
    /// Whether rows are told by names that may have prefixes, not by numbers.
    names: bool,
}

impl Tables {
    /// Those of numbers, or of names that may have prefixes.
    pub fn new(names: bool) -> Self {
        Self { names, ..Self::default() }
    }

    /// How many columns further in than the leftmost line of its table the line of an offset begins; 0 where it is in none.
    pub fn offset(&mut self, source: &Source, offset: u32, tab_width: u32) -> u32 {
        let line = source.line(offset).saturating_sub(1);
        let row = |line: u32| row(source.lines().text(source.text(), line), tab_width, self.names);
        let begins = source.line_blank(offset).end == offset;
        self.ragged = false;
        let Some(own) = row(line).filter(|_| begins) else { return 0 };
        if !self.rows.contains(&line) {
            let (mut last, mut end) = (own, line + 1);
            (self.leftmost, self.rightmost) = (own.column, own.column);
            while let Some(next) = (end < source.lines().count()).then(|| row(end)).flatten()
                && next.lines_up_with(&last)
            {
                self.leftmost = self.leftmost.min(next.column);
                self.rightmost = self.rightmost.max(next.column);
                (last, end) = (next, end + 1);
            }
            self.rows = line..end;
        }
        self.ragged = self.leftmost < self.rightmost;
        own.column.saturating_sub(self.leftmost)
    }
}
