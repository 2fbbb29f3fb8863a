//! Conflicts that version control left in a text: they stay as they are, and what is around them is read as if only the first side were
//! there.

use vknot_syntax::Span;

use crate::edits::Edits;
use crate::receipt::{LeftAlone, Reason, TokenChange};
use crate::reshape::Reshape;

/// The conflicts of a text, in order.
#[derive(Debug, Default)]
pub(super) struct Conflicts {
    /// From the first marker to the end of the line of the last.
    spans: Vec<Span>,
    /// What is not read: the markers, and all sides but the first.
    hidden: Vec<Span>,
}

/// What the lines of markers begin with: in front of the first side, of what both sides come from, of the second side, and behind it.
const MARKERS: [&str; 4] = ["<<<<<<<", "|||||||", "=======", ">>>>>>>"];

/// Which marker a line is.
fn marker(line: &str) -> Option<usize> {
    let line = line.trim_end_matches(['\n', '\r']);
    let is = |mark: &str| line.strip_prefix(mark).is_some_and(|rest| rest.is_empty() || rest.starts_with(' '));
    MARKERS.iter().position(|mark| is(mark))
}

impl Conflicts {
    /// Finds them: markers at the beginning of lines, in their order.
    pub fn of(text: &str) -> Conflicts {
        let mut found = Conflicts::default();
        if !text.contains(MARKERS[0]) {
            return found;
        }
        // Where the conflict at hand begins, where its first marker and its first side end, and which marker came last.
        let mut open: Option<(u32, u32, u32, usize)> = None;
        let mut at = 0;
        for line in text.split_inclusive('\n') {
            let (start, end) = (at, at + line.len() as u32);
            at = end;
            open = match (marker(line), open) {
                (Some(0), _) => Some((start, end, end, 0)),
                (Some(2), Some((first, behind, _, 0))) => Some((first, behind, start, 2)),
                (Some(1), Some((first, behind, _, 0))) => Some((first, behind, start, 1)),
                (Some(2), Some((first, behind, side, 1))) => Some((first, behind, side, 2)),
                (Some(3), Some((first, behind, side, 2))) => {
                    found.spans.push(Span::new(first, end));
                    found.hidden.extend([Span::new(first, behind), Span::new(side, end)]);
                    None
                }
                (Some(_), Some(_)) => None,
                (_, open) => open,
            };
        }
        found
    }

    pub fn is_empty(&self) -> bool {
        self.spans.is_empty()
    }

    /// The text with blanks in place of what is not read.
    pub fn masked(&self, text: &str) -> String {
        let mut masked = String::with_capacity(text.len());
        let mut at = 0;
        for span in &self.hidden {
            masked.push_str(Span::new(at, span.start).of(text));
            masked.extend(
                span.of(text).bytes().map(|byte| if matches!(byte, b'\n' | b'\r') { byte as char } else { ' ' }),
            );
            at = span.end;
        }
        masked.push_str(Span::new(at, text.len() as u32).of(text));
        masked
    }

    /// What of some parts of a text, `None` for all of it, lies outside.
    pub fn outside(&self, only: Option<&[Span]>, length: u32) -> Vec<Span> {
        let whole = [Span::new(0, length)];
        let mut outside = Vec::new();
        for part in only.unwrap_or(&whole) {
            let mut at = part.start;
            for span in self.spans.iter().filter(|span| span.start < part.end && part.start < span.end) {
                if at < span.start {
                    outside.push(Span::new(at, span.start - 1));
                }
                at = span.end;
            }
            if at < part.end || part.is_empty() && at == part.start {
                outside.push(Span::new(at, part.end));
            }
        }
        outside
    }

    /// Takes out of a reshape of a text what touches a conflict, and says that it was left.
    pub fn leave(&self, reshape: &mut Reshape, text: &str) {
        let mut kept = Edits::default();
        let mut dropped = false;
        for (edit, new) in reshape.edits.iter() {
            // The line behind a conflict is outside of it.
            let is_before = |span: &Span| span.end < edit.start
                || span.end == edit.start && span.of(text).ends_with('\n');
            let after = self.spans.partition_point(is_before);
            let touched = self.spans[after..].iter().take_while(|span| span.start <= edit.end).last();
            let Some(last) = touched else {
                kept.push(edit, new);
                continue;
            };
            // Where the line behind the conflict begins is told by the edit that covers both.
            let line = edit.of(text).rfind('\n').map(|at| edit.start + at as u32 + 1).filter(|line| *line >= last.end);
            match (line, new.rfind('\n')) {
                (Some(line), Some(end)) if Span::new(line, edit.end).of(text) == &new[end + 1..] => {}
                (Some(line), Some(end)) => kept.push(Span::new(line, edit.end), &new[end + 1..]),
                _ => dropped = true,
            }
        }
        reshape.edits = kept;
        if dropped {
            let edits: Vec<Span> = reshape.edits.iter().map(|(span, _)| span).collect();
            let stays = |change: &TokenChange| edits
                .iter()
                .any(|edit| edit.start <= change.offset && change.offset <= edit.end);
            reshape.receipt.added.retain(stays);
            reshape.receipt.removed.retain(stays);
        }
        let left = |span: &Span| LeftAlone { span: *span, reason: Reason::Conflict };
        reshape.receipt.left_alone.extend(self.spans.iter().map(left));
        reshape.receipt.left_alone.sort_by_key(|left| left.span.start);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn conflicts_are_found_by_their_markers_in_order() {
        let text = "a\n<<<<<<< ours\nb\n||||||| base\nc\n=======\nd\n>>>>>>> theirs\ne\n=======\n<<<<<<< x\n";
        let conflicts = Conflicts::of(text);
        assert_eq!(conflicts.spans, [Span::new(2, 57)]);
        assert_eq!(conflicts.masked(text).split_whitespace().collect::<Vec<_>>(), ["a", "b", "e", "=======", "<<<<<<<", "x"]);
        assert_eq!(conflicts.masked(text).len(), text.len());
        assert_eq!(conflicts.outside(None, text.len() as u32), [Span::new(0, 1), Span::new(57, text.len() as u32)]);
    }
}
