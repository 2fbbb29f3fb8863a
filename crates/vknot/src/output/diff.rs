//! Unified diffs, made straight from the edits: linear, and exact about what was changed.

use std::fmt::Write;

use vknot_reshape::Edits;
use vknot_syntax::{Source, Span};

use super::{FAINT, HEAD, IN, OUT, PLAIN};

/// Lines of context around a change.
const CONTEXT: u32 = 3;

/// Old lines and what comes in their place.
#[derive(Debug, PartialEq, Eq)]
pub struct Change {
    /// First old line, from 0.
    from: u32,
    /// One past the last old line; equal to the first where lines only come in.
    to: u32,
    /// The new text, whole lines.
    new: String,
}

impl Change {
    fn new_lines(&self) -> u32 {
        self.new.split_inclusive('\n').count() as u32
    }
}

/// Old lines that edits touch, with those edits.
type Touched<'e> = (u32, u32, Vec<(Span, &'e str)>);

/// The changed lines of a file, in order and apart from each other.
pub fn changes(source: &Source, edits: &Edits) -> Vec<Change> {
    let mut changes: Vec<Touched> = Vec::new();
    for (span, new) in edits.iter() {
        let (span, new) = trimmed(source, span, new);
        if span.is_empty() && new.is_empty() {
            continue;
        }
        let (from, to) = lines_of(source, span, new);
        match changes.last_mut() {
            // Neighbours are read as one: what goes, then what comes.
            Some((_, last, edits)) if from <= *last => {
                *last = to.max(*last);
                edits.push((span, new));
            }
            _ => changes.push((from, to, vec![(span, new)])),
        }
    }
    let change = |(from, to, edits): Touched<'_>| alike_left_out(
        source,
        from,
        to,
        &rewritten(source, from, to, &edits),
    );
    changes.into_iter().map(change).filter(|change| change.from < change.to || !change.new.is_empty()).collect()
}

/// A change without the lines that are the same at both its ends: edits that meet there may make each line anew.
fn alike_left_out(source: &Source, mut from: u32, mut to: u32, new: &str) -> Change {
    let mut lines: std::collections::VecDeque<&str> = new.split_inclusive('\n').collect();
    while from < to && lines.front().is_some_and(|line| *line == old_line(source, from)) {
        lines.pop_front();
        from += 1;
    }
    while from < to && lines.back().is_some_and(|line| *line == old_line(source, to - 1)) {
        lines.pop_back();
        to -= 1;
    }
    Change { from, to, new: lines.into_iter().collect() }
}

/// The edits that make one text of another, whole lines each.
pub fn between(old: &Source, new: &str) -> Edits {
    let old_lines: Vec<&str> = old.text().split_inclusive('\n').collect();
    let new_lines: Vec<&str> = new.split_inclusive('\n').collect();
    let mut edits = Edits::default();
    let operations = similar::capture_diff_slices(similar::Algorithm::Myers, &old_lines, &new_lines);
    for operation in operations.iter().filter(|operation| operation.tag() != similar::DiffTag::Equal) {
        let (from, to) = (operation.old_range(), operation.new_range());
        let start = |line: usize| old.lines().start(line as u32).min(old.span().end);
        let text = new_lines.get(to).unwrap_or_default().concat();
        edits.push(Span::new(start(from.start), start(from.end)), &text);
    }
    edits
}

/// Takes what both texts begin and end with off an edit.
fn trimmed<'e>(source: &Source, span: Span, new: &'e str) -> (Span, &'e str) {
    let old = source.slice(span);
    let common = |pairs: &mut dyn Iterator<Item = (char, char)>| -> usize {
        pairs.take_while(|(a, b)| a == b).map(|(a, _)| a.len_utf8()).sum()
    };
    let front = common(&mut old.chars().zip(new.chars()));
    let (old, new) = (&old[front..], &new[front..]);
    let back = common(&mut old.chars().rev().zip(new.chars().rev()));
    let start = span.start + front as u32;
    (Span::new(start, start + (old.len() - back) as u32), &new[..new.len() - back])
}

/// The old lines an edit replaces, the second not included. Whole lines that come or go leave their neighbours alone.
fn lines_of(source: &Source, span: Span, new: &str) -> (u32, u32) {
    let lines = source.lines();
    let (first, last) = (lines.index_at(span.start), lines.index_at(span.end));
    let whole = lines.start(first) == span.start && lines.start(last) == span.end;
    let whole_lines = whole && (new.is_empty() || new.ends_with('\n'));
    (first, if whole_lines { last } else { last + 1 })
}

fn rewritten(source: &Source, from: u32, to: u32, edits: &[(Span, &str)]) -> String {
    let mut new = String::new();
    let mut at = source.lines().start(from);
    for (span, text) in edits {
        new.push_str(source.slice(Span::new(at, span.start)));
        new.push_str(text);
        at = span.end;
    }
    new.push_str(source.slice(Span::new(at, source.lines().start(to))));
    new
}

/// How many lines of the old text are changed or gone, and how many of the new one are changed or new.
pub fn changed_lines(changes: &[Change]) -> (usize, usize) {
    let old: u32 = changes.iter().map(|change| change.to - change.from).sum();
    let new: u32 = changes.iter().map(Change::new_lines).sum();
    (old as usize, new as usize)
}

/// Whether lines come to end otherwise than they did.
pub fn changes_line_ends(source: &Source, changes: &[Change]) -> bool {
    let returns = |text: &str| text.lines().count() > 0 && text.contains("\r\n");
    changes.iter().any(|change| {
        let old = (change.from..change.to).any(|line| returns(old_line(source, line)));
        change.to > change.from && !change.new.is_empty() && old != returns(&change.new)
    })
}

/// The unified diff of a file, with three lines of context; with `line_ends`, carriage returns at the end of lines are shown.
pub fn unified(shown: &str, source: &Source, changes: &[Change], line_ends: bool) -> String {
    let mut out = format!("{HEAD}--- {shown}{HEAD:#}\n{HEAD}+++ {shown}{HEAD:#}\n");
    let near = |a: &Change, b: &Change| b.from - a.to <= 2 * CONTEXT;
    let mut shift = 0i64;
    for hunk in changes.chunk_by(near) {
        write_hunk(&mut out, source, hunk, &mut shift, line_ends);
    }
    out
}

fn write_hunk(out: &mut String, source: &Source, hunk: &[Change], shift: &mut i64, line_ends: bool) {
    let (Some(first), Some(last)) = (hunk.first(), hunk.last()) else { return };
    let count = source.lines().count() * u32::from(source.span().end > 0);
    let start = first.from.saturating_sub(CONTEXT);
    let end = (last.to + CONTEXT).min(count).max(last.to);
    let (gone, come) = changed_lines(hunk);
    let old_length = end - start;
    let new_length = (i64::from(old_length) + come as i64 - gone as i64) as u32;
    let new_start = (i64::from(start) + *shift) as u32;
    *shift += come as i64 - gone as i64;
    let (old_range, new_range) = (range(start, old_length), range(new_start, new_length));
    let _ = writeln!(out, "{FAINT}@@ -{old_range} +{new_range} @@{FAINT:#}");
    let mut at = start;
    for change in hunk {
        (at..change.from).for_each(|line| write_line(out, ' ', old_line(source, line), line_ends));
        (change.from..change.to).for_each(|line| write_line(out, '-', old_line(source, line), line_ends));
        change.new.split_inclusive('\n').for_each(|line| write_line(out, '+', line, line_ends));
        at = change.to;
    }
    (at..end).for_each(|line| write_line(out, ' ', old_line(source, line), line_ends));
}

/// A range as unified diffs write it; one of no lines names the line in front.
fn range(start: u32, length: u32) -> String {
    match length {
        0 => format!("{start},0"),
        1 => (start + 1).to_string(),
        _ => format!("{},{length}", start + 1),
    }
}

fn old_line(source: &Source, line: u32) -> &str {
    source.slice(Span::new(source.lines().start(line), source.lines().start(line + 1)))
}

fn write_line(out: &mut String, sign: char, line: &str, line_ends: bool) {
    let style = match sign {
        '-' => OUT,
        '+' => IN,
        _ => PLAIN,
    };
    let ended = line.strip_suffix('\n');
    let body = ended.unwrap_or(line);
    let body = body.strip_suffix('\r').filter(|_| !line_ends).unwrap_or(body);
    let _ = writeln!(out, "{style}{sign}{body}{style:#}");
    if ended.is_none() {
        let _ = writeln!(out, "{FAINT}\\ No newline at end of file{FAINT:#}");
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn diff(old: &str, edits: &[(&str, &str)]) -> String {
        let source = Source::from_text("gauge", old);
        let mut made = Edits::default();
        for (find, new) in edits {
            let start = old.find(find).unwrap() as u32;
            made.push(Span::new(start, start + find.len() as u32), new);
        }
        let plain = unified("gauge", &source, &changes(&source, &made), true);
        crate::output::plain(&plain).lines().skip(2).collect::<Vec<_>>().join("\n")
    }

    #[test]
    fn only_the_lines_that_change_are_shown_as_changed() {
        let old = "a\n  b\nc\n";
        assert_eq!(diff(old, &[("\n  b", "\n    b")]), "@@ -1,3 +1,3 @@\n a\n-  b\n+    b\n c");
        assert_eq!(diff("a\nb\n", &[("\nb", "\n\nb")]), "@@ -1,2 +1,3 @@\n a\n+\n b");
        assert_eq!(diff("a\n\n\nb\n", &[("\n\n\n", "\n")]), "@@ -1,4 +1,2 @@\n a\n-\n-\n b");
    }

    #[test]
    fn a_missing_line_end_is_told() {
        assert_eq!(diff("a", &[("a", "a\n")]), "@@ -1 +1 @@\n-a\n\\ No newline at end of file\n+a");
        assert_eq!(diff("a b", &[(" ", "\n")]), "@@ -1 +1,2 @@\n-a b\n\\ No newline at end of file\n+a\n+b\n\\ No newline at end of file");
    }

    #[test]
    fn distant_changes_get_hunks_of_their_own() {
        let old = "1\n2\n3\n4\n5\n6\n7\n8\n9\n10\n11\n";
        let shown = diff(old, &[("1\n2", "1\nx\n2"), ("11", "12")]);
        assert_eq!(shown, "@@ -1,4 +1,5 @@\n 1\n+x\n 2\n 3\n 4\n@@ -8,4 +9,4 @@\n 8\n 9\n 10\n-11\n+12");
    }
}
