//! What the indentation of lines says of brackets: which lines cannot be inside which.

use super::lexeme::Lexeme;

/// Words that stand with the head of their block, not behind it; all but the first with a colon.
const ARM_WORDS: &[&str] = &["case", "default", "public", "private", "protected", "signals"];
/// Words that begin something whose lines may stand no further in than its own.
const FLUSH_WORDS: &[&str] = &["namespace", "extern"];
/// Within how many lexemes such a word stands in front of its bracket.
const FLUSH_WITHIN: usize = 8;

/// What begins nothing, but goes on behind a value.
const BEHIND_VALUES: &[&str] = &[",", ".", "->"];

/// What does not end a statement.
const OPERATORS: &[&str] = &["+", "=", "==", "!=", "&&", "||", "??", "?", "|", "+=", ":="];

/// Within how many lexemes a value begins that a curly bracket ends.
const VALUE_WITHIN: usize = 16;
/// Within how many lexemes in front of a bracket its statement is looked for.
const HEAD_WITHIN: usize = 200;

/// Where the lines of a text begin.
pub(super) struct Margins<'m> {
    text: &'m str,
    lexemes: &'m [Lexeme],
    /// The column of each lexeme that begins its line.
    columns: Vec<Option<u32>>,
    /// For each lexeme the column of the one that begins its line.
    lines: Vec<u32>,
    flat: bool,
}

impl<'m> Margins<'m> {
    pub fn new(text: &'m str, lexemes: &'m [Lexeme]) -> Self {
        let columns: Vec<Option<u32>> =
            lexemes.iter().map(|lexeme| column_of(text.as_bytes(), lexeme.start as usize)).collect();
        let begun = columns.iter().scan(0, |last, column| {
            *last = column.unwrap_or(*last);
            Some(*last)
        });
        let lines = begun.collect();
        let mut columns_of_lines = columns.iter().flatten();
        let first = columns_of_lines.next();
        let mut others = columns_of_lines.peekable();
        let flat = others.peek().is_some() && others.all(|column| Some(column) == first);
        Self { text, lexemes, columns, lines, flat }
    }

    /// Whether there are lines, and all begin at one column: then they tell nothing.
    pub fn are_flat(&self) -> bool {
        self.flat
    }

    /// The column of a lexeme that begins its line.
    pub fn column(&self, at: usize) -> Option<u32> {
        self.columns.get(at).copied().flatten()
    }

    /// The column of the line on which begins what an opening bracket is part of: its own, or that of its statement where the lines
    /// inside stand by that.
    pub fn head(&self, open: usize) -> u32 {
        let line = self.lines.get(open).copied().unwrap_or(0);
        // A comment may stand behind the bracket on its line.
        let first = if self.word(open + 1).starts_with('/') && self.column(open + 1).is_none() { 2 } else { 1 };
        let by_statement = matches!(self.word(open), "{" | "(")
            && self.column(open).is_none()
            && self.column(open + first).is_some_and(|inside| inside <= line);
        if by_statement { self.statement(open).min(line) } else { line }
    }

    /// The column of the line on which the statement begins that a lexeme is part of.
    fn statement(&self, at: usize) -> u32 {
        let first = at.saturating_sub(HEAD_WITHIN);
        // A semicolon within round brackets parts what a loop's head says.
        let mut depth = 0;
        let mut ends = |at: &usize| match self.word(*at) {
            ")" => {
                depth += 1;
                false
            }
            "(" => {
                depth -= 1;
                false
            }
            ";" => depth <= 0,
            ":" => self.column(at + 1).is_some() && *at > 0 && self.word(at - 1) != ")",
            "{" => true,
            "}" => !self.ends_value(*at),
            _ => false,
        };
        let start = (first..at).rev().find(|at| ends(at)).map_or(first, |at| at + 1);
        let code = (start..=at).find(|at| !self.word(*at).starts_with(['/', '#']));
        code.and_then(|at| self.lines.get(at).copied()).unwrap_or(0)
    }

    /// Whether a curly bracket closes a value within a name or a text: `${`, `#{`, `@{`.
    fn ends_value(&self, at: usize) -> bool {
        let mut before = (at.saturating_sub(VALUE_WITHIN)..at).rev().map(|at| self.word(at));
        let open = before.find(|word| matches!(*word, ";" | "}") || word.ends_with('{'));
        open.is_some_and(|open| open.len() > 1)
    }

    pub fn word(&self, at: usize) -> &'m str {
        self.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// Whether the lexeme at `at` begins a line that stands no further in than the head of an opening bracket, and so is behind it.
    pub fn is_behind(&self, at: usize, (open, head): (usize, u32)) -> bool {
        if self.flat || self.column(at).is_none_or(|own| own > head) {
            return false;
        }
        let word = self.word(at);
        // Comments and directives stand anywhere; attributes do not.
        let attribute = word == "#" && self.word(at + 1) == "[" || word == "#[";
        if !attribute && word.starts_with(['/', '#']) {
            return false;
        }
        // What stands behind an operator goes on with its line.
        if at > 0 && OPERATORS.contains(&self.word(at - 1)) {
            return false;
        }
        if self.is_flush(open, head) {
            return false;
        }
        let colon = self.word(at + 1) == ":" || self.word(at + 2) == ":" && word != "default";
        // An access word further out than the head of a block belongs to what is around that.
        let beside = self.column(at) == Some(head) || matches!(word, "case" | "default");
        let arm = match ARM_WORDS.contains(&word) {
            true => word == "case" || colon && beside,
            false => self.is_label(at),
        };
        !(arm && self.word(open).ends_with('{'))
    }

    /// Whether what follows a round bracket goes on behind a value, so that the bracket must have ended: `size(, 2)`, `first(.next()`.
    pub fn holds_nothing(&self, open: usize) -> bool {
        let named = self.word(open + 2).starts_with(|first: char| first.is_alphabetic() || first == '_');
        self.word(open) == "("
            && BEHIND_VALUES.contains(&self.word(open + 1))
            && (named || self.word(open + 1) == ",")
    }

    /// `name:` alone on its line.
    fn is_label(&self, at: usize) -> bool {
        self.word(at + 1) == ":"
            && self.word(at).starts_with(|first: char| first.is_ascii_alphabetic() || first == '_')
            && self.column(at + 2).is_some()
    }

    /// Whether what is inside a bracket stands no further in than it does, as its author has it.
    fn is_flush(&self, open: usize, head: u32) -> bool {
        let inside = self.word(open) == "{" && self.column(open + 1).is_some_and(|inside| inside <= head);
        let mut before = (open.saturating_sub(FLUSH_WITHIN)..open)
            .rev()
            .take_while(|at| !matches!(self.word(*at), ";" | "}" | "{"));
        inside && before.any(|at| FLUSH_WORDS.contains(&self.word(at)))
    }
}

/// Columns of a tab among spaces, as most have it in these languages.
const TAB_WIDTH: u32 = 4;

/// The column behind a byte, with tabs of some width.
pub(super) fn behind(column: u32, byte: u8, tab_width: u32) -> u32 {
    match byte {
        b'\t' => (column / tab_width + 1) * tab_width,
        _ => column + 1,
    }
}

/// The column of what begins at `at`, if it begins its line.
fn column_of(bytes: &[u8], at: usize) -> Option<u32> {
    let before = bytes.get(..at).unwrap_or(b"");
    let blank = before.iter().rev().take_while(|byte| matches!(byte, b' ' | b'\t'));
    let start = before.len() - blank.count();
    let width = before.get(start..).unwrap_or(b"").iter().fold(0, |column, byte| behind(column, *byte, TAB_WIDTH));
    (start == 0 || bytes[start - 1] == b'\n').then_some(width)
}
