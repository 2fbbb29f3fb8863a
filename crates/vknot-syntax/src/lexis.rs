//! The lexemes of languages that do not read white space between them, told without their grammar: enough to say that two texts are made
//! of the same lexemes.

/// What a language's lexemes are like, beside words, numbers and marks.
#[derive(Clone, Copy, Debug)]
pub struct Lexis {
    /// What begins a comment that ends with its line; empty where there is none.
    pub line_comment: &'static str,
    /// What begins and ends a comment; empty where there is none.
    pub block_comment: (&'static str, &'static str),
    /// Whether such comments nest.
    pub nested: bool,
    /// What begins and ends a string with escapes, the longest first.
    pub strings: &'static [&'static str],
    /// Whether a string with a single quotation mark at either end may go on over lines.
    pub lines_in_strings: bool,
    /// Words that begin a string without escapes, with as many `#` as end it.
    pub raw: &'static [&'static str],
    /// Whether a single quote may also stand alone in front of a word.
    pub lone_quotes: bool,
}

/// The class of a lexeme.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Class {
    Word,
    Number,
    String,
    Comment,
    Mark,
}

/// A lexeme.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Found<'t> {
    pub class: Class,
    pub text: &'t str,
    /// Where it ends.
    pub end: usize,
    /// Whether nothing stands between it and the one before.
    touches: bool,
}

/// Whether two texts are made of the same lexemes in the same order, and no two have come to touch, or to stand apart, that could be one
/// together. Comments may have their lines moved. A `false` only says that this cannot tell.
pub fn same_lexemes(old: &str, new: &str, lexis: &Lexis) -> bool {
    let (mut old, mut new) = (Lexer::new(old, lexis), Lexer::new(new, lexis));
    let mut before: Option<Found<'_>> = None;
    loop {
        let (is, was) = match (old.next(), new.next()) {
            (None, None) => return true,
            (Some(old), Some(new)) => (new, old),
            _ => return false,
        };
        let same = is.class == was.class
            && (is.text == was.text || is.class == Class::Comment && lines_alike(was.text, is.text));
        let moved = is.touches != was.touches && before.is_some_and(|before| may_merge(before, is));
        if !same || moved {
            return false;
        }
        before = Some(is);
    }
}

fn lines_alike(old: &str, new: &str) -> bool {
    old.lines().map(str::trim).eq(new.lines().map(str::trim))
}

/// Whether two lexemes might be read otherwise if they touched.
fn may_merge(left: Found<'_>, right: Found<'_>) -> bool {
    let separates = |found: Found<'_>| matches!(found.text, "(" | ")" | "[" | "]" | "{" | "}" | "," | ";");
    if separates(left) || separates(right) || left.class == Class::Comment || right.class == Class::Comment {
        return false;
    }
    match (left.class, right.class) {
        (Class::Mark, Class::Mark) => true,
        (Class::Mark, Class::Word) => matches!(left.text, "'" | "#" | "@" | "."),
        (Class::Word, Class::Mark) => matches!(right.text, "'" | "#" | "."),
        (Class::Mark, Class::Number) => left.text == ".",
        (Class::Number, Class::Mark) => right.text == ".",
        (Class::Mark, Class::String) | (Class::String, Class::Mark) => false,
        _ => true,
    }
}

/// Goes over the lexemes of a text.
pub(crate) struct Lexer<'t> {
    text: &'t str,
    at: usize,
    lexis: &'t Lexis,
}

impl<'t> Lexer<'t> {
    pub fn new(text: &'t str, lexis: &'t Lexis) -> Self {
        Self { text, at: 0, lexis }
    }
}

impl<'t> Iterator for Lexer<'t> {
    type Item = Found<'t>;

    fn next(&mut self) -> Option<Found<'t>> {
        let rest = &self.text[self.at..];
        let blank = rest.len() - rest.trim_start().len();
        let start = self.at + blank;
        let first = *self.text.as_bytes().get(start)?;
        let (class, length) = self.measure(first, &self.text[start..]);
        self.at = start + length;
        Some(Found { class, text: &self.text[start..self.at], end: self.at, touches: blank == 0 })
    }
}

impl Lexer<'_> {
    fn measure(&self, first: u8, rest: &str) -> (Class, usize) {
        let lexis = self.lexis;
        match first {
            b'/' if begins(rest, lexis.line_comment) => (Class::Comment, line_length(rest)),
            b'/' if begins(rest, lexis.block_comment.0) => (Class::Comment, block_length(rest, lexis)),
            b'\'' if lexis.lone_quotes => match quoted_character(rest) {
                Some(length) => (Class::String, length),
                None => (Class::Mark, 1),
            },
            b'"' | b'\'' => match lexis.strings.iter().find(|quote| rest.starts_with(**quote)) {
                Some(quote) => (Class::String, string_length(rest, quote, lexis.lines_in_strings || quote.len() > 1)),
                None => (Class::Mark, 1),
            },
            b'0'..=b'9' => (Class::Number, word_length(rest)),
            first if is_word(first) => {
                let length = word_length(rest);
                let word = &rest[..length];
                let raw = lexis.raw.contains(&word).then(|| raw_length(&rest[length..])).flatten();
                raw.map_or((Class::Word, length), |raw| (Class::String, length + raw))
            }
            _ => (Class::Mark, 1),
        }
    }
}

fn begins(text: &str, mark: &str) -> bool {
    !mark.is_empty() && text.starts_with(mark)
}

pub(crate) fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'$') || !byte.is_ascii()
}

/// The bytes of a word; what is not ASCII belongs to it, as far as it is no white space.
fn word_length(text: &str) -> usize {
    let ascii = text.bytes().take_while(|byte| is_word(*byte) && byte.is_ascii()).count();
    match text.as_bytes().get(ascii) {
        Some(byte) if !byte.is_ascii() => {
            text.find(|c: char| c.is_whitespace() || c.is_ascii() && !is_word(c as u8)).unwrap_or(text.len())
        }
        _ => ascii,
    }
}

fn line_length(text: &str) -> usize {
    let end = memchr::memchr(b'\n', text.as_bytes()).unwrap_or(text.len());
    text[..end].trim_end().len()
}

fn block_length(text: &str, lexis: &Lexis) -> usize {
    let (open, close) = lexis.block_comment;
    let (mut at, mut depth) = (open.len(), 1);
    while depth > 0 {
        let rest = &text[at..];
        let end = rest.find(close);
        let again = if lexis.nested { rest.find(open) } else { None };
        match (end, again) {
            (None, _) => return text.len(),
            (Some(end), Some(again)) if again < end => (at, depth) = (at + again + open.len(), depth + 1),
            (Some(end), _) => (at, depth) = (at + end + close.len(), depth - 1),
        }
    }
    at
}

/// The bytes of a string; one that nothing ends goes on to the end, of its line where strings do not hold lines.
fn string_length(text: &str, quote: &str, holds_lines: bool) -> usize {
    let bytes = text.as_bytes();
    let mut at = quote.len();
    while at < bytes.len() {
        match bytes[at] {
            b'\n' if !holds_lines => return text[..at].trim_end().len(),
            b'\\' if holds_lines || bytes.get(at + 1) != Some(&b'\n') => at += 2,
            _ if bytes[at..].starts_with(quote.as_bytes()) => return at + quote.len(),
            _ => at += 1,
        }
    }
    bytes.len()
}

/// The bytes of a character between single quotes; `None` where the quote stands for itself.
fn quoted_character(text: &str) -> Option<usize> {
    let mut characters = text.char_indices().skip(1);
    let (at, first) = characters.next()?;
    if first == '\\' {
        return Some(string_length(text, "'", false));
    }
    let behind = at + first.len_utf8();
    text[behind..].starts_with('\'').then_some(behind + 1)
}

/// The bytes of a string without escapes behind the word that begins it.
fn raw_length(text: &str) -> Option<usize> {
    let hashes = text.bytes().take_while(|byte| *byte == b'#').count();
    let inner = text.get(hashes..)?.strip_prefix('"')?;
    let close = format!("\"{}", &text[..hashes]);
    Some(hashes + 1 + inner.find(&close).map_or(inner.len(), |end| end + close.len()))
}

#[cfg(test)]
mod tests {
    use super::*;

    const LEXIS: Lexis = Lexis {
        line_comment: "//",
        block_comment: ("/*", "*/"),
        nested: true,
        strings: &["\"\"\"", "\""],
        lines_in_strings: true,
        raw: &["r"],
        lone_quotes: true,
    };

    #[test]
    fn white_space_between_lexemes_says_nothing() {
        let same = [
            ("a+b", "a + b"),
            ("f(a,b);", "f(\n  a,\n  b\n);"),
            ("// low\na", "// low\n\n  a"),
            ("/* a\n  b */ c", "/* a\nb */\nc"),
            ("x['a']", "x[ 'a' ]"),
            ("&'a b", "&'a  b"),
            ("r#\"a \" b\"# c", "r#\"a \" b\"#\nc"),
        ];
        for (old, new) in same {
            assert!(same_lexemes(old, new, &LEXIS), "{old} and {new}");
        }
    }

    #[test]
    fn strings_that_nothing_ends_go_to_the_end_of_their_line_or_text() {
        let lines = Lexis { lines_in_strings: false, ..LEXIS };
        let (old, new) = ("a(\"b c\nd( e)", "a(\"b c\n  d(e)");
        assert!(same_lexemes(old, new, &lines));
        assert!(!same_lexemes(old, new, &LEXIS));
        assert!(!same_lexemes("a(\"b c\nd", "a(\"b  c\nd", &lines));
        assert!(!same_lexemes("\"\"\"a\n b", "\"\"\"a\n  b", &lines));
        assert!(same_lexemes("\"a\\\\\" b", "\"a\\\\\"  b", &lines));
    }

    #[test]
    fn what_could_be_read_otherwise_is_not_taken_for_the_same() {
        let other = [
            ("a b", "ab"),
            ("a - -b", "a --b"),
            ("a..=b", "a.. =b"),
            ("\"a b\"", "\"a  b\""),
            ("1 .f", "1.f"),
            ("// low\na", "// low a"),
            ("/* /* a */ */ b", "/* /* a */ b"),
            ("r\"a \\\" b", "r\"a  \\\" b"),
            ("r #\"a\"#", "r#\"a\"#"),
            ("& 'a b", "&' a b"),
            ("a,", "a"),
            ("'a' b", "' a' b"),
            ("\"\"\"a \" b\"\"\"", "\"\"\"a \"  b\"\"\""),
        ];
        for (old, new) in other {
            assert!(!same_lexemes(old, new, &LEXIS), "{old} and {new}");
        }
    }
}
