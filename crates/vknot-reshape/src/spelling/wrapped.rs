//! Comments on lines of their own that are too wide: what does not fit goes on with the next line. Only prose is broken: headings, tables,
//! code, tags and what programs read stay on their lines.

use vknot_syntax::{Span, TokenId};

use crate::frames::comments::is_line_comment;
use crate::frames::place::{blank_columns, width_of};
use super::comments::marker_length;
use super::draft::{Change, Draft};

/// How wide lines may be.
#[derive(Clone, Copy)]
pub(super) struct Room {
    /// In columns.
    pub width: u32,
    /// Columns that a tab stands for.
    pub tab_width: u32,
}

/// One line of a comment.
struct Line<'a> {
    /// White space and marker in front of what it says.
    lead: &'a str,
    said: &'a str,
}

/// Breaks comments so that no line is wider, if its words allow.
pub(super) fn fit(draft: &mut Draft<'_>, room: Room) {
    let count = draft.code.tree.tokens().len() as u32;
    let mut token = 0;
    while token < count {
        token = match draft.code.tree.is_comment(token) && begins_line(draft, token) {
            true if is_line_comment(draft.code, token) => fit_run(draft, token, room),
            true => fit_block(draft, token, room),
            false => token + 1,
        };
    }
}

fn begins_line(draft: &Draft<'_>, token: TokenId) -> bool {
    let start = draft.code.tree.tokens().get(token as usize).map_or(0, |token| token.start);
    draft.code.source.begins_line(start)
}

/// The white space in front of a token on its line.
fn blank<'a>(draft: &Draft<'a>, token: TokenId) -> &'a str {
    let start = draft.code.tree.tokens().get(token as usize).map_or(0, |token| token.start);
    draft.code.source.slice(draft.code.source.line_blank(start))
}

/// Breaks comments on lines below each other that begin with the same marker; gives the token behind them.
fn fit_run(draft: &mut Draft<'_>, first: TokenId, room: Room) -> TokenId {
    let lead = |draft: &Draft<'_>, token: TokenId| {
        let text = draft.text(token);
        (blank(draft, token).to_owned(), text[..marker_length(text)].to_owned())
    };
    let own = lead(draft, first);
    let count = draft.code.tree.tokens().len() as u32;
    let follows = |token: &TokenId| {
        let gap = draft.code.source.slice(draft.code.tree.gap_span(*token));
        is_line_comment(draft.code, *token) && gap.matches('\n').count() == 1 && lead(draft, *token) == own
    };
    let end = (first + 1..count).find(|token| !follows(token)).unwrap_or(count);
    let said = |token: TokenId| {
        let text = draft.text(token);
        let (marker, said) = text.split_at(marker_length(text));
        Line { lead: marker, said }
    };
    let lines: Vec<Line<'_>> = (first..end).map(said).collect();
    let width = room.width.saturating_sub(blank_columns(&own.0, room.tab_width));
    let room = Room { width, ..room };
    for Rewritten { from, to, lines: new } in rewritten(&lines, room) {
        let (from, to) = (first + from as u32, first + to as u32);
        let tokens = draft.code.tree.tokens();
        let Some((one, other)) = tokens.get(from as usize).zip(tokens.get(to as usize - 1)) else { continue };
        let span = Span::new(one.start, other.end);
        let count = new.len() as u32;
        let new = new.join(&format!("{}{}", line_end(draft), own.0));
        draft.change(Change { span, new, tokens: from..to, count });
    }
    end
}

/// Breaks the lines inside a block comment that all begin alike; gives the token behind it.
fn fit_block(draft: &mut Draft<'_>, token: TokenId, room: Room) -> TokenId {
    let text = draft.text(token);
    let inner: Vec<&str> = text.split('\n').collect();
    let [_, inner @ .., _] = inner.as_slice() else { return token + 1 };
    let line = |line: &&'_ str| {
        let line: &str = line.trim_end_matches('\r');
        let blank = line.len() - line.trim_start().len();
        let star = usize::from(line[blank..].starts_with('*'));
        let (lead, said) = line.split_at(blank + star);
        (lead.to_owned(), said.to_owned())
    };
    let leads: Vec<(String, String)> = inner.iter().map(line).collect();
    let lines: Vec<Line<'_>> = leads.iter().map(|(lead, said)| Line { lead, said }).collect();
    let mut new: Vec<String> = text.split('\n').map(str::to_owned).collect();
    let carriage = if text.contains("\r\n") { "\r" } else { "" };
    // From the back, so that the lines in front keep their numbers.
    let changes = rewritten(&lines, room);
    for Rewritten { from, to, lines } in changes.iter().rev() {
        new.splice(from + 1..to + 1, lines.iter().map(|line| format!("{line}{carriage}")));
    }
    if !changes.is_empty() {
        draft.write(token, new.join("\n"));
    }
    token + 1
}

fn line_end(draft: &Draft<'_>) -> &'static str {
    draft.code.source.facts().line_end().text()
}

/// Lines that others come in place of.
struct Rewritten {
    from: usize,
    to: usize,
    lines: Vec<String>,
}

/// What comes in place of the lines that are too wide, and of those below that what does not fit goes on with.
fn rewritten(lines: &[Line<'_>], room: Room) -> Vec<Rewritten> {
    let mut found = Vec::new();
    let mut code = false;
    let mut at = 0;
    while let Some(line) = lines.get(at) {
        code ^= line.said.trim_start().starts_with("```");
        let wide = blank_columns_of(line.lead, room) + width_of(line.said.trim_end()) > room.width;
        let rewritten = (wide && !code && is_prose(line)).then(|| paragraph(lines, at, room)).flatten();
        at = rewritten.as_ref().map_or(at + 1, |rewritten| rewritten.to);
        found.extend(rewritten);
    }
    found
}

fn blank_columns_of(lead: &str, room: Room) -> u32 {
    let marks = lead.trim_start();
    blank_columns(&lead[..lead.len() - marks.len()], room.tab_width) + width_of(marks)
}

/// Breaks a line, and those below as far as what is left over of it goes on with them.
fn paragraph(lines: &[Line<'_>], from: usize, room: Room) -> Option<Rewritten> {
    let first = lines.get(from)?;
    let blank = &first.said[..first.said.len() - first.said.trim_start().len()];
    let further = blank.to_owned() + &" ".repeat(bullet_length(first.said.trim_start()));
    let columns = room.width.saturating_sub(blank_columns_of(first.lead, room));
    let mut filled = Filled {
        columns,
        further: &further,
        lines: Vec::new(),
        current: blank.to_owned(),
        width: width_of(blank),
    };
    filled.add(first.said);
    let mut to = from + 1;
    let mut count = 0;
    while filled.lines.len() > count {
        count = filled.lines.len();
        let Some(next) = lines.get(to).filter(|next| goes_on(first, next, &further)) else { break };
        filled.add(next.said);
        to += 1;
    }
    filled.end_line();
    let new: Vec<String> = filled.lines.iter().map(|line| format!("{}{line}", first.lead)).collect();
    let old = lines[from..to].iter().map(|line| format!("{}{}", line.lead, line.said.trim_end()));
    (!old.eq(new.iter().cloned())).then_some(Rewritten { from, to, lines: new })
}

/// Lines that are filled with words.
struct Filled<'a> {
    columns: u32,
    /// What lines begin with but the first.
    further: &'a str,
    lines: Vec<String>,
    current: String,
    width: u32,
}

impl Filled<'_> {
    /// Adds what a line says.
    fn add(&mut self, said: &str) {
        let mut words = said.split_whitespace().peekable();
        let bullet = if bullet_length(said.trim_start()) > 0 { words.next() } else { None };
        if let Some(bullet) = bullet {
            self.add_words(bullet, false);
        }
        let mut leads = bullet.is_some();
        while let Some(word) = words.next() {
            // Words that may not begin a line stay with the one in front of them.
            let mut words_of = word.to_owned();
            while let Some(next) = words.next_if(|next| !may_begin_line(next)) {
                words_of = words_of + " " + next;
            }
            self.add_words(&words_of, !leads);
            leads = false;
        }
    }

    /// Adds words that stay together, on a line of their own where they do not fit and may.
    fn add_words(&mut self, words: &str, may_break: bool) {
        let (width, empty) = (width_of(words), self.current.trim_start().is_empty());
        if !empty && may_break && self.width + 1 + width > self.columns {
            self.end_line();
            self.current = self.further.to_owned();
            self.width = width_of(self.further);
        } else if !empty {
            self.current.push(' ');
            self.width += 1;
        }
        self.current.push_str(words);
        self.width += width;
    }

    fn end_line(&mut self) {
        self.lines.push(std::mem::take(&mut self.current));
    }
}

/// Whether a line may begin with a word: it would not be read as the beginning of something else.
fn may_begin_line(word: &str) -> bool {
    let starts = word.starts_with(|c: char| c.is_alphabetic() || matches!(c, '"' | '\'' | '(' | '`'));
    let mark = ["region", "endregion", "vknot:", "TODO", "FIXME", "XXX", "HACK"];
    starts && !word.starts_with("```") && !mark.iter().any(|mark| word.starts_with(mark)) && !is_for_programs(word)
}

/// Whether a line goes on with the paragraph that another one begins.
fn goes_on(first: &Line<'_>, next: &Line<'_>, further: &str) -> bool {
    let said = next.said.trim_start();
    let blank = &next.said[..next.said.len() - said.len()];
    next.lead == first.lead
        && is_prose(next)
        && bullet_length(said) == 0
        && (blank == further || further.starts_with(blank))
        && !said.contains("  ")
        && may_begin_line(said.split_whitespace().next().unwrap_or(""))
}

/// The bytes of what begins an item of a list, with the space behind it.
fn bullet_length(said: &str) -> usize {
    let mark = said.split_whitespace().next().unwrap_or("");
    let number = mark.trim_end_matches(['.', ')']);
    let counted =
        number.len() + 1 == mark.len() && !number.is_empty() && number.bytes().all(|byte| byte.is_ascii_digit());
    if matches!(mark, "-" | "*" | "+") || counted { mark.len() + 1 } else { 0 }
}

/// Whether a line is prose, or an item of a list of prose.
fn is_prose(line: &Line<'_>) -> bool {
    let said = line.said.trim_start();
    let blank = &line.said[..line.said.len() - said.len()];
    let word = said.split_whitespace().next().unwrap_or("");
    let begins = word.starts_with(|c: char| c.is_alphanumeric() || matches!(c, '"' | '\'' | '(' | '`'));
    // What stands further in is code, or lined up.
    let spaced = (1..=3).contains(&blank.len()) && !blank.contains('\t');
    spaced
        && (begins || bullet_length(said) > 0)
        && !is_for_programs(word)
        && !said.starts_with("```")
        && !said.contains(['\\', '|', '\t'])
        && !said.trim_end().contains("   ")
}

/// Whether a word at the beginning of a comment is meant for a program: `word:word`, `word-word`, `@word`.
fn is_for_programs(word: &str) -> bool {
    let lower = |text: &str| text.bytes().all(|byte| byte.is_ascii_lowercase() || byte.is_ascii_digit());
    let named = word.split_once([':', '-']).is_some_and(|(before, behind)| {
        lower(before) && !before.is_empty() && (word.contains(':') || lower(&behind.replace('-', "")))
    });
    named && !word.ends_with([',', '.']) || word.starts_with('@')
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fitted(text: &str, room: u32) -> Vec<String> {
        let lines: Vec<Line<'_>> = text.lines().map(|line| Line { lead: "//", said: &line[2..] }).collect();
        let mut new: Vec<String> = text.lines().map(str::to_owned).collect();
        let room = Room { width: room, tab_width: 8 };
        for Rewritten { from, to, lines } in rewritten(&lines, room).into_iter().rev() {
            new.splice(from..to, lines);
        }
        new
    }

    #[test]
    fn what_does_not_fit_goes_on_with_the_next_line() {
        let cases: &[(&str, &[&str])] = &[
            ("// one two three four five", &["// one two three", "// four five"]),
            ("// one two three four\n// five.\n// Six.", &["// one two three", "// four five.", "// Six."]),
            ("// one two three four\n//\n// Five.", &["// one two three", "// four", "//", "// Five."]),
            ("// - one two three four\n//   five", &["// - one two three", "//   four five"]),
            ("// - one two three four\n// - five", &["// - one two three", "//   four", "// - five"]),
            ("// https://tide.example/quay/one", &["// https://tide.example/quay/one"]),
            ("// one two three 4 five", &["// one two three 4", "// five"]),
            ("// one two three - five", &["// one two three -", "// five"]),
            ("// | one | two | three |", &["// | one | two | three |"]),
            ("// ```\n// one two three four five\n// ```", &["// ```", "// one two three four five", "// ```"]),
            ("// lint:allow one two three", &["// lint:allow one two three"]),
            ("//     one two three four", &["//     one two three four"]),
            ("// one two three region", &["// one two", "// three region"]),
        ];
        for (text, new) in cases {
            assert_eq!(fitted(text, 18), *new, "{text}");
        }
    }
}
