//! What ends items in columns of its own, over all rows of a table: commas, closing brackets, and the colons of pairs.

use std::collections::HashMap;
use std::ops::Range;

use vknot_syntax::Span;

use super::Printer;
use crate::layout::columns::FAR;

/// How many rows make a column of single blanks.
const ENOUGH: u32 = 3;

/// What may stand behind blanks that make a column.
pub(super) const ENDS: [char; 4] = [',', ')', ']', ':'];

/// The rows of a table, which begin in one column, and what ends items in each column of them.
#[derive(Default)]
pub(super) struct Ends {
    rows: Range<u32>,
    columns: HashMap<(u32, char), Column>,
}

#[derive(Default)]
struct Column {
    /// How many rows have it behind blanks.
    spaced: u32,
    /// Whether one of them has several, or one has none.
    proven: bool,
}

impl Printer<'_, '_> {
    /// Whether what ends an item stands, behind blanks, where several rows of its table have it: a single blank tells nothing where no row
    /// fills the column.
    pub(super) fn is_end_in_table(&mut self, end: char, blank: Span) -> bool {
        let line = self.planner.code.source.line(blank.end) - 1;
        if !self.ends.rows.contains(&line) {
            self.ends = self.table_around(line);
        }
        let column = self.ends.columns.get(&(self.written_column(blank.end), end));
        column.is_some_and(|column| column.proven && column.spaced > 1 && (blank.len() > 1 || column.spaced >= ENOUGH))
    }

    /// The rows around a line that begin where it does. Directives among them are none, and a blank line parts them from no others.
    fn table_around(&self, line: u32) -> Ends {
        let count = self.planner.code.source.lines().count();
        let first = self.last_row(line, (0..line).rev());
        let last = self.last_row(line, line + 1..count);
        let mut ends = Ends { rows: first..last + 1, columns: HashMap::new() };
        (first..=last).for_each(|row| self.note_ends(row, &mut ends.columns));
        ends
    }

    /// The last line of some that begins where one does, before the first that does not.
    fn last_row(&self, line: u32, others: impl Iterator<Item = u32>) -> u32 {
        let (own, directives) = (self.indent_of(line), self.planner.code.toolkit().indent.has_directives);
        let (mut last, mut blank) = (line, false);
        for other in others {
            let text = self.line_text(other).trim_start();
            if directives && text.starts_with('#') {
                continue;
            }
            if text.is_empty() && blank || !text.is_empty() && self.indent_of(other) != own {
                break;
            }
            blank = text.is_empty();
            last = if blank { last } else { other };
        }
        last
    }

    fn line_text(&self, line: u32) -> &str {
        self.planner.code.source.lines().text(self.planner.text, line)
    }

    fn note_ends(&self, row: u32, columns: &mut HashMap<(u32, char), Column>) {
        let (mut column, mut blanks) = (0, 0);
        for c in self.line_text(row).chars().take(FAR as usize) {
            if ENDS.contains(&c) {
                let noted = columns.entry((column, c)).or_default();
                noted.spaced += u32::from(blanks > 0);
                noted.proven |= blanks != 1;
            }
            match c {
                '\t' => (column, blanks) = ((column / self.tab_width() + 1) * self.tab_width(), blanks + 2),
                ' ' => (column, blanks) = (column + 1, blanks + 1),
                _ => (column, blanks) = (column + 1, 0),
            }
        }
    }
}
