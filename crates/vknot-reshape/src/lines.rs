//! The lines that a reshape may change, where it is asked for a part of a file: no other line comes out otherwise than it went in.

use vknot_syntax::{Source, Span};

/// Some lines of a text.
#[derive(Clone, Debug)]
pub(crate) struct Lines {
    /// From the first to the last of each run, from 1, in order and apart.
    runs: Vec<(u32, u32)>,
}

impl Lines {
    /// The lines that some spans touch.
    pub fn of(source: &Source, spans: &[Span]) -> Lines {
        let mut runs: Vec<(u32, u32)> = spans.iter().map(|span| source.line_range(*span)).collect();
        runs.sort_unstable();
        runs.dedup_by(|next, run| {
            let meets = next.0 <= run.1 + 1;
            run.1 = if meets { run.1.max(next.1) } else { run.1 };
            meets
        });
        Lines { runs }
    }

    /// Whether a line is one of them.
    pub fn covers(&self, line: u32) -> bool {
        self.within(line, line)
    }

    /// Whether all lines from one to another are.
    pub fn within(&self, first: u32, last: u32) -> bool {
        let behind = self.runs.partition_point(|run| run.0 <= first);
        behind.checked_sub(1).and_then(|at| self.runs.get(at)).is_some_and(|run| last <= run.1)
    }

    /// What may come in place of a span of a text, so that only these lines change: `new`, or as much of it as concerns them. A line may come
    /// in beside one of them.
    pub fn held(&self, source: &Source, span: Span, new: &str) -> Option<String> {
        let old = source.slice(span);
        let (first, last) = (source.line(span.start), source.line(span.end));
        if self.within(first, last) {
            return Some(new.to_owned());
        }
        let (Some(old), Some(new)) = (Broken::of(old), Broken::of(new)) else { return None };
        if !old.is_blank() {
            return None;
        }
        let (before, behind) = (self.covers(first), self.covers(last));
        let head = if before { new.head } else { old.head };
        // A token that comes in belongs to the line that it comes in on.
        if !before && !new.head.trim().is_empty() || !behind && !new.tail.trim().is_empty() {
            return None;
        }
        let more = new.middle.matches('\n').count() > old.middle.matches('\n').count();
        let blank = first + 1 < last && self.within(first + 1, last - 1);
        let tokens = new.middle.trim_end();
        let middle = match () {
            () if blank || more && (before || behind) => new.middle.to_owned(),
            // What comes in on lines of its own stands in front of the blank lines that stay.
            () if !tokens.is_empty() => format!("{tokens}{}", old.middle),
            () => old.middle.to_owned(),
        };
        let tail = if behind { new.tail } else { old.tail };
        let held = format!("{head}{middle}{tail}");
        (held != source.slice(span)).then_some(held)
    }
}

/// A text with line breaks: what is in front of the first, from there to behind the last, and what is behind it.
struct Broken<'t> {
    head: &'t str,
    middle: &'t str,
    tail: &'t str,
}

impl Broken<'_> {
    fn of(text: &str) -> Option<Broken<'_>> {
        let first = text.find('\n')?;
        let last = text.rfind('\n')? + 1;
        // The line end is whole in the middle.
        let first = if text[..first].ends_with('\r') { first - 1 } else { first };
        Some(Broken { head: &text[..first], middle: &text[first..last], tail: &text[last..] })
    }

    fn is_blank(&self) -> bool {
        [self.head, self.middle, self.tail].iter().all(|part| part.trim().is_empty())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What comes of an edit of `a \n\n\n   b` where some lines may change.
    fn held(lines: &[u32], new: &str) -> Option<String> {
        let source = Source::from_text("gauge", "a \n\n\n   b\n");
        let spans: Vec<Span> = lines
            .iter()
            .map(|line| source.lines().span(source.text(), line - 1))
            .collect();
        Lines::of(&source, &spans).held(&source, Span::new(1, 8), new)
    }

    #[test]
    fn only_the_lines_that_may_change_do() {
        let text = |text: &str| Some(text.to_owned());
        assert_eq!(held(&[1, 2, 3, 4], "\nb"), text("\nb"));
        assert_eq!(held(&[4], "\n "), text(" \n\n\n "));
        assert_eq!(held(&[1], "\n "), text("\n\n\n   "));
        assert_eq!(held(&[1], " "), None);
        assert_eq!(held(&[9], "\n "), None);
        assert_eq!(held(&[2, 3], "\n "), text(" \n   "));
        assert_eq!(held(&[4], "\n\n\n\n "), text(" \n\n\n\n "));
        assert_eq!(held(&[4], " {\n "), None);
        assert_eq!(held(&[1], "\n }\n\n "), text("\n }\n\n\n   "));
        assert_eq!(held(&[1], " {\n}\n\n\n\n "), text(" {\n}\n\n\n\n   "));
    }
}
