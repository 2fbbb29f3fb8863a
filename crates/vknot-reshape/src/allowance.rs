//! What one edit may do to the tokens of a file: told from what was asked for, apart from how it is done, so that the proof can hold the one
//! against the other.

use vknot_syntax::Span;

/// What an edit may do.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Allowance {
    /// The texts that come in, in order; `None` where any may, as where lines are edited without regard to their structure.
    pub texts: Option<Vec<String>>,
    /// Where tokens may go.
    pub gone: Vec<Span>,
    /// Nodes that are made into others: they need not be there.
    pub remade: Vec<Span>,
    /// The piece of another language that is edited, and was proven on its own.
    pub inside: Option<Span>,
    /// Whether marks that part items may come and go.
    pub separators: bool,
    /// Whether brackets may come around operands, or go.
    pub brackets: bool,
    /// Whether what comes in must be comments.
    pub comments: bool,
    /// Whether lines are edited whatever their structure.
    pub free: bool,
    /// Whether what it is about must be whole items where it comes to stand.
    pub whole: bool,
}

impl Allowance {
    /// A text without what may come and go anywhere, and without white space.
    pub(crate) fn essence(&self, text: &str) -> String {
        let kept = |c: &char| {
            let separator = self.separators && matches!(c, ',' | ';');
            !(c.is_whitespace() || separator || self.brackets && matches!(c, '(' | ')'))
        };
        text.chars().filter(kept).collect()
    }

    /// Where tokens may go, for many questions.
    pub(crate) fn going(&self) -> Going {
        let mut furthest: Vec<(u32, u32)> = self.gone.iter().map(|span| (span.start, span.end)).collect();
        furthest.sort_unstable();
        let mut reach = 0;
        for (_, end) in &mut furthest {
            reach = reach.max(*end);
            *end = reach;
        }
        Going { furthest }
    }
}

/// Spans, each with how far it and those before it reach.
pub(crate) struct Going {
    furthest: Vec<(u32, u32)>,
}

impl Going {
    /// Whether one of the spans covers another.
    pub fn covers(&self, span: Span) -> bool {
        let behind = self.furthest.partition_point(|(start, _)| *start <= span.start);
        behind.checked_sub(1).and_then(|last| self.furthest.get(last)).is_some_and(|(_, end)| *end >= span.end)
    }
}
