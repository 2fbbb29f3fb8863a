//! Unified diffs.

use std::fmt::Write;
use std::time::Duration;

use similar::{ChangeTag, TextDiff};

use super::{FAINT, HEAD, IN, OUT};

/// A diff of huge texts gives up on being the shortest one after this time; it stays right.
const PATIENCE: Duration = Duration::from_millis(800);

/// The unified diff of a file, with three lines of context.
pub fn unified(shown: &str, old: &str, new: &str) -> String {
    let diff = TextDiff::configure().timeout(PATIENCE).diff_lines(old, new);
    let mut out = format!("{HEAD}--- {shown}{HEAD:#}\n{HEAD}+++ {shown}{HEAD:#}\n");
    for hunk in diff.unified_diff().context_radius(3).iter_hunks() {
        let _ = writeln!(out, "{FAINT}{}{FAINT:#}", hunk.header());
        for change in hunk.iter_changes() {
            let (sign, style) = match change.tag() {
                ChangeTag::Delete => ('-', OUT),
                ChangeTag::Insert => ('+', IN),
                ChangeTag::Equal => (' ', anstyle::Style::new()),
            };
            let line = change.value();
            let body = line.strip_suffix('\n').unwrap_or(line);
            let body = body.strip_suffix('\r').unwrap_or(body);
            let _ = writeln!(out, "{style}{sign}{body}{style:#}");
            if change.missing_newline() {
                let _ = writeln!(out, "{FAINT}\\ No newline at end of file{FAINT:#}");
            }
        }
    }
    out
}

/// How many lines of the old text are changed or gone, and how many of the new one are changed or new.
pub fn changed_lines(old: &str, new: &str) -> (usize, usize) {
    let diff = TextDiff::configure().timeout(PATIENCE).diff_lines(old, new);
    let count = |tag| diff.iter_all_changes().filter(|change| change.tag() == tag).count();
    (count(ChangeTag::Delete), count(ChangeTag::Insert))
}
