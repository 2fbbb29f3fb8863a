//! Receipts for people.

use vknot_reshape::Decided;
use vknot_reshape::{Act, Fate, Reason, Receipt, TokenChange};
use vknot_style::Indentation;
use vknot_reshape::steps::Proven;
use vknot_syntax::Source;

use super::{count, FAINT, MARK, NAME};

/// What changed in a file, in one line; `None` when nothing did.
pub fn summary(shown: &str, receipt: &Receipt, changed: (usize, usize)) -> Option<String> {
    let mut summary = Vec::new();
    if changed != (0, 0) {
        summary.push(format!("{} in place of {}", count(changed.1, "line"), changed.0));
    }
    // Imports are named on lines of their own, with the reason.
    let imports = receipt.imports.iter().any(|fate| matches!(fate.act, Act::Added | Act::Removed));
    for (changes, word) in [(&receipt.added, "added"), (&receipt.removed, "removed")] {
        if imports && !changes.is_empty() {
            summary.push(format!("{word} {}", count(changes.len(), "import")));
        } else if !changes.is_empty() {
            summary.push(format!("{word} {}", by_text(changes)));
        }
    }
    if !receipt.respelled.is_empty() {
        summary.push(format!("{} written otherwise", count(receipt.respelled.len(), "token")));
    }
    if !receipt.moved.is_empty() {
        let tokens = receipt.moved.iter().map(|run| (run.end - run.first) as usize).sum();
        summary.push(format!("moved {}", count(tokens, "token")));
    }
    if let Some((indentation, decided)) = receipt.indentation.filter(|_| !summary.is_empty()) {
        summary.push(levels(indentation, decided));
    }
    if !receipt.manner.is_empty() && !summary.is_empty() {
        let values: Vec<String> = receipt.manner.iter().map(|(key, value)| format!("{key} = {value}")).collect();
        summary.push(format!("{}, as found in the file", values.join(", ")));
    }
    let kept = receipt.left_alone.iter().filter(|left| left.reason == Reason::Kept).count();
    if kept > 0 {
        summary.push(format!("{} kept by comments", count(kept, "part")));
    }
    (!summary.is_empty()).then(|| format!("{NAME}{shown}{NAME:#}: {}", summary.join("; ")))
}

/// What a level is made of, and what decided that.
fn levels(indentation: Indentation, decided: Decided) -> String {
    let made_of = match indentation {
        Indentation { tabs: true, size, tab_width } if size == tab_width => "tabs".to_owned(),
        Indentation { tabs: true, size, tab_width } =>
            format!("{} in tabs of {tab_width}", count(size as usize, "column")),
        Indentation { size, .. } => count(size as usize, "space"),
    };
    let why = match decided {
        Decided::BySetting => "as set",
        Decided::ByFile => "as found in the file",
        Decided::ByNeighbours => "as found in the files beside it",
        Decided::ByHabit => "as usual in the language",
    };
    format!("levels of {made_of}, {why}")
}

/// How many places of one file are told that were left alone.
const PLACES_SHOWN: usize = 20;

/// What was left alone, and remarks.
pub fn remarks(shown: &str, source: &Source, receipt: &Receipt) -> Vec<String> {
    let mut lines = Vec::new();
    let at = |offset| {
        let at = source.line_column(offset);
        format!("{}:{}", at.line, at.column)
    };
    let told = || receipt.left_alone.iter().filter(|left| left.reason != Reason::Kept);
    for left in told().take(PLACES_SHOWN) {
        let why = match left.reason {
            Reason::SyntaxError => "cannot be read, left as it is",
            Reason::Brackets => "cannot be read; its lines are indented by their brackets",
            Reason::Conflict => "is a conflict that is not resolved, left as it is",
            Reason::Kept => "is kept as it is by a comment",
            Reason::Generated => "says that a program wrote this file, left as it is; --generated takes it, too",
            Reason::NoLayout => "is in a language whose layout is not known, left as it is",
            Reason::Unsettled => "would be indented otherwise with each run, left as it is",
            Reason::GaveUp => "is too far from its language to be read in reasonable time, left as it is",
        };
        let (from, to) = (at(left.span.start), at(left.span.end));
        lines.push(format!("{MARK}{shown}:{from}-{to}{MARK:#}: {why}"));
    }
    let untold = told().count().saturating_sub(PLACES_SHOWN);
    if untold > 0 {
        lines.push(
            format!("{MARK}{shown}{MARK:#}: {} more are left as they are; --output json names all", count(untold, "place")),
        );
    }
    for note in &receipt.notes {
        lines.push(format!("{FAINT}{shown}:{}: {}{FAINT:#}", at(note.span.start), note.text));
    }
    lines
}

/// Where what an edit was about stands now, as a place to go on from.
pub fn placed(shown: &str, proven: &Proven) -> Option<String> {
    let span = proven.receipt().place().filter(|span| !span.is_empty())?;
    let source = proven.document().source();
    let (start, end) = (source.line_column(span.start), source.line_column(span.end));
    Some(format!("now at {NAME}{shown}:{}:{}-{}:{}{NAME:#}", start.line, start.column, end.line, end.column))
}

/// What is said of imports.
#[derive(Clone, Copy, PartialEq, Eq)]
pub enum Told {
    /// What came and went, and what is used and not imported.
    Changed,
    /// What stays though nothing is known to need it, too.
    Notable,
    All,
}

/// What is said of the imports of a file, and how many stay of which nothing is said.
pub struct ImportLines {
    pub lines: Vec<String>,
    pub untold: usize,
}

/// What became of imports, and why.
pub fn imports(shown: &str, source: &Source, receipt: &Receipt, told: Told) -> ImportLines {
    let is_told = |fate: &&Fate| match fate.act {
        Act::Merged | Act::Moved | Act::Held => told == Told::All,
        Act::Kept => told != Told::Changed,
        Act::Added | Act::Removed | Act::Passed | Act::Missing => true,
    };
    let mut fates: Vec<&Fate> = receipt.imports.iter().filter(is_told).collect();
    let untold = receipt.imports.iter().filter(|fate| fate.act == Act::Kept && !is_told(fate)).count();
    fates.sort_by_key(|fate| (fate.act, fate.span.start));
    let line = |fate: &Fate| {
        let at = source.line_column(fate.span.start);
        let word = match fate.act {
            Act::Added => "added",
            Act::Removed => "removed",
            Act::Kept => "kept",
            Act::Merged => "merged",
            Act::Moved => "moved",
            Act::Held => "kept in order",
            Act::Passed => "passed over",
            Act::Missing => "not imported",
        };
        let place = format!("{shown}:{}:{}", at.line, at.column);
        match fate.act {
            Act::Kept | Act::Held | Act::Passed | Act::Missing =>
                format!("{FAINT}{place}: {word} `{}`: {}{FAINT:#}", fate.import, fate.why),
            _ => format!("{place}: {NAME}{word}{NAME:#} `{}`: {}", fate.import, fate.why),
        }
    };
    ImportLines { lines: fates.into_iter().map(line).collect(), untold }
}

/// As much of a text, on one line, as says what came or went.
fn shortened(text: &str) -> String {
    let line = text.split_whitespace().collect::<Vec<_>>().join(" ");
    match line.char_indices().nth(48) {
        Some((cut, _)) => format!("{}…", &line[..cut]),
        None => line,
    }
}

/// `3 × {, 3 × }`, or the texts themselves when they are few.
fn by_text(changes: &[TokenChange]) -> String {
    let mut counted: Vec<(String, usize)> = Vec::new();
    for change in changes {
        match counted.iter_mut().find(|(text, _)| *text == shortened(&change.text)) {
            Some((_, number)) => *number += 1,
            None => counted.push((shortened(&change.text), 1)),
        }
    }
    let shown = counted.iter().take(6).map(|(text, number)| match number {
        1 => format!("`{text}`"),
        _ => format!("{number} × `{text}`"),
    });
    let mut shown: Vec<String> = shown.collect();
    if counted.len() > 6 {
        shown.push(format!("{} more", counted.len() - 6));
    }
    shown.join(", ")
}
