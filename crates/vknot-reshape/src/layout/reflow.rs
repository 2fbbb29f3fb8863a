//! Moves the lines of a comment along with its first one. The drawing inside stays as it is.

use vknot_style::Indentation;

use super::measure::indent_columns;
use super::print::push_indent;

/// Where a comment stood and where it stands now.
pub(super) struct Frame {
    /// Columns before the comment, as written and now.
    pub was: u32,
    pub now: u32,
    /// Whether it begins its line.
    pub first_on_line: bool,
    /// Whether blanks at the ends of its lines go.
    pub trim: bool,
    /// What its lines end in from now on; `None` keeps what is there.
    pub line_end: &'static str,
    pub indentation: Indentation,
}

/// The comment's new text, or `None` when nothing changes.
///
/// A comment whose every further line begins with `*` has them one column behind its opening slash. Any other is moved as a
/// whole, unless some line has no room to move: then its lines stay where they are.
pub(super) fn comment(text: &str, frame: &Frame) -> Option<String> {
    let mut lines = text.split('\n');
    let first = lines.next()?;
    let rest: Vec<&str> = lines.map(|line| line.strip_suffix('\r').unwrap_or(line)).collect();
    let starred = rest.iter().all(|line| line.trim_start_matches([' ', '\t']).starts_with('*'));
    let blank_of = |line: &str| {
        let blank = &line[..line.len() - line.trim_start_matches([' ', '\t']).len()];
        indent_columns(blank, frame.indentation.tab_width)
    };
    let shift = i64::from(frame.now) - i64::from(frame.was);
    let has_room = |line: &&str| line.trim().is_empty() || i64::from(blank_of(line)) + shift >= 0;
    let moves = frame.first_on_line && shift != 0 && rest.iter().all(has_room);
    let line_end = frame.line_end;
    let trimmed = |line: &str| if frame.trim { line.trim_end_matches([' ', '\t']).len() } else { line.len() };
    let first = first.strip_suffix('\r').unwrap_or(first);
    let mut out = String::with_capacity(text.len());
    out.push_str(&first[..trimmed(first)]);
    for line in rest {
        out.push_str(line_end);
        let ink = line.trim_start_matches([' ', '\t']);
        if ink.is_empty() && frame.trim {
            continue;
        }
        if starred {
            push_indent(&mut out, frame.now + 1, frame.indentation);
            out.push_str(&ink[..trimmed(ink)]);
        } else if moves && !ink.is_empty() {
            push_indent(&mut out, (i64::from(blank_of(line)) + shift) as u32, frame.indentation);
            out.push_str(&ink[..trimmed(ink)]);
        } else {
            out.push_str(&line[..trimmed(line)]);
        }
    }
    (out != text).then_some(out)
}
