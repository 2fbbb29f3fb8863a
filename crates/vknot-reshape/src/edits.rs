//! Edits are values: what a reshape yields, and what a diff, a write, an undo or an editor takes.

use vknot_syntax::Span;

/// Replacements of spans of one text, in order and apart from each other.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Edits {
    list: Vec<(Span, (u32, u32))>,
    pool: String,
}

impl Edits {
    /// Adds a replacement behind all earlier ones.
    pub fn push(&mut self, span: Span, text: &str) {
        let start = self.pool.len() as u32;
        self.pool.push_str(text);
        self.list.push((span, (start, self.pool.len() as u32)));
    }

    /// The spans with the text that replaces each.
    pub fn iter(&self) -> impl ExactSizeIterator<Item = (Span, &str)> {
        self.list.iter().map(|(span, (start, end))| (*span, Span { start: *start, end: *end }.of(&self.pool)))
    }

    /// How many replacements there are.
    pub fn len(&self) -> usize {
        self.list.len()
    }

    /// Whether nothing changes.
    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// The new text.
    pub fn apply(&self, text: &str) -> String {
        let mut out = String::with_capacity(text.len() + self.pool.len());
        let mut reached = 0;
        for (span, new) in self.iter() {
            out.push_str(Span { start: reached, end: span.start }.of(text));
            out.push_str(new);
            reached = span.end;
        }
        out.push_str(Span { start: reached, end: text.len() as u32 }.of(text));
        out
    }

    /// These edits with others put in, which are in order and apart from these.
    pub fn merged<'e>(&self, others: impl Iterator<Item = (Span, &'e str)>) -> Edits {
        let mut merged = Edits::default();
        let mut own = self.iter().peekable();
        for (span, text) in others {
            while let Some((before, replacement)) = own.next_if(|(before, _)| before.start < span.start) {
                merged.push(before, replacement);
            }
            merged.push(span, text);
        }
        own.for_each(|(span, text)| merged.push(span, text));
        merged
    }

    /// Only the edits that pass.
    pub fn filtered(&self, keep: impl Fn(Span, &str) -> bool) -> Edits {
        let mut kept = Edits::default();
        self.iter().filter(|(span, text)| keep(*span, text)).for_each(|(span, text)| kept.push(span, text));
        kept
    }

    /// Whether spans are in order, apart and inside a text of `length` bytes.
    pub fn are_sound(&self, length: u32) -> bool {
        let mut reached = 0;
        self.iter().all(|(span, _)| {
            let sound = reached <= span.start && span.start <= span.end && span.end <= length;
            reached = span.end;
            sound
        })
    }
}
