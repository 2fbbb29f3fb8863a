//! Byte ranges and the small questions asked of a piece of text.

/// A byte range of one file's text: `start` is included, `end` is not. A byte-order mark is not counted.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Span {
    /// First byte.
    pub start: u32,
    /// One past the last byte.
    pub end: u32,
}

impl Span {
    /// Makes a span; an `end` before `start` gives the empty span at `start`.
    pub fn new(start: u32, end: u32) -> Self {
        Self { start, end: end.max(start) }
    }

    /// Length in bytes.
    pub fn len(self) -> u32 {
        self.end.saturating_sub(self.start)
    }

    /// Whether the span holds no byte.
    pub fn is_empty(self) -> bool {
        self.end <= self.start
    }

    /// Whether `other` lies within this span, edges included.
    pub fn covers(self, other: Span) -> bool {
        self.start <= other.start && other.end <= self.end
    }

    /// Whether the two share a byte, or one is an empty span inside the other or at its edge.
    pub fn touches(self, other: Span) -> bool {
        self.start <= other.end && other.start <= self.end
    }

    /// The text the span stands for; empty when the span does not fit `text`.
    pub fn of(self, text: &str) -> &str {
        text.get(self.start as usize..self.end as usize).unwrap_or("")
    }
}

/// Whether every byte is a space, a tab or a line break: the only white space a layout may change.
pub fn is_plain_blank(text: &str) -> bool {
    text.bytes().all(|byte| matches!(byte, b' ' | b'\t' | b'\n' | b'\r'))
}

/// Whether a character can be part of a word: a letter, a digit, or `_`.
pub fn is_word_character(c: char) -> bool {
    c.is_alphanumeric() || c == '_'
}

/// The span of the word (letters, digits, `_`) around byte `at` within `within`, if there is one.
///
/// A position just behind a word counts as on it.
pub fn word_span_at(text: &str, within: Span, at: u32) -> Option<Span> {
    let piece = within.of(text);
    let offset = at.checked_sub(within.start)? as usize;
    if !piece.is_char_boundary(offset) {
        return None;
    }
    let before =
        piece.get(..offset)?.chars().rev().take_while(|c| is_word_character(*c)).map(char::len_utf8).sum::<usize>();
    let after = piece.get(offset..)?.chars().take_while(|c| is_word_character(*c)).map(char::len_utf8).sum::<usize>();
    (before + after > 0).then(|| Span::new(at - before as u32, at + after as u32))
}

/// The span between the quotes of a string-like token, if `text` begins and ends with matching quotes.
///
/// Takes any run of letters and `#` before the opening quote (`r#"…"#`, `b'…'`) and tripled quotes.
pub fn contents_span(text: &str, span: Span) -> Option<Span> {
    let piece = span.of(text);
    let open = piece.find(['"', '\'', '`'])?;
    if !piece[..open].chars().all(|c| c.is_ascii_alphabetic() || c == '#') {
        return None;
    }
    let quote = piece[open..].chars().next()?;
    let hashes = piece[..open].matches('#').count();
    let tripled = piece[open..].chars().take(3).filter(|c| *c == quote).count() == 3 && piece.len() >= open + 6;
    let width = if tripled { 3 } else { 1 };
    let close = piece.len().checked_sub(hashes)?.checked_sub(width)?;
    let closes = piece.get(close..)?.starts_with(quote);
    (closes && close >= open + width).then(|| Span::new(span.start + (open + width) as u32, span.start + close as u32))
}

/// The first byte at which two texts differ, moved back to a character boundary of both; `None` when they are equal.
pub fn first_difference(left: &str, right: &str) -> Option<usize> {
    if left == right {
        return None;
    }
    let mut at = left.bytes().zip(right.bytes()).take_while(|(a, b)| a == b).count();
    while !(left.is_char_boundary(at) && right.is_char_boundary(at)) {
        at -= 1;
    }
    Some(at)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn contents_lie_between_the_quotes() {
        for (text, inner) in [
            ("\"tide\"", Some("tide")),
            ("r#\"a\"b\"#", Some("a\"b")),
            ("b'x'", Some("x")),
            ("\"\"\"\nrise\n\"\"\"", Some("\nrise\n")),
            ("\"\"", Some("")),
            ("'static", None),
            ("plain", None),
        ] {
            let span = contents_span(text, Span::new(0, text.len() as u32));
            assert_eq!(span.map(|span| span.of(text)), inner, "{text}");
        }
    }

    #[test]
    fn words_are_found_from_inside_and_from_just_behind() {
        let text = "let höhe_2 = 1;";
        let whole = Span::new(0, text.len() as u32);
        for at in [4, 5, 11] {
            assert_eq!(word_span_at(text, whole, at).map(|span| span.of(text)), Some("höhe_2"), "{at}");
        }
        assert_eq!(word_span_at(text, whole, 12), None);
        assert_eq!(word_span_at(text, whole, 6), None, "inside a character");
    }

    #[test]
    fn differences_fall_on_characters() {
        assert_eq!(first_difference("aé", "aè"), Some(1));
        assert_eq!(first_difference("a", "ab"), Some(1));
        assert_eq!(first_difference("a", "a"), None);
    }
}
