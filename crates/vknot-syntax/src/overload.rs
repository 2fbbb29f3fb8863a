//! Texts that a grammar's parser would not come to an end with: told by a look at the bytes before it begins.
//!
//! The parser counts its steps, but not what one of them takes: the ways to read a run of marks with several meanings, or the search for
//! the end of something that has none, grow with the square of the text.

/// What a language has that a parser cannot read in any number.
#[derive(Clone, Copy, Debug)]
pub struct Overload {
    /// Bytes with several meanings, of which no statement has more than [`MARKS_AT_MOST`].
    pub marks: &'static [u8],
    /// What opens a string that may hold anything, and what closes it: no more than [`UNCLOSED_AT_MOST`] may stand behind the last that
    /// is closed.
    pub unclosed: Option<(&'static str, &'static str)>,
    /// Whether a backslash at the end of a line goes on with it, which no more than [`JOINED_AT_MOST`] lines in a row may do.
    pub joined: bool,
}

/// A language without any of that; for the end of a language's own.
pub(crate) const OVERLOAD: Overload = Overload { marks: &[], unclosed: None, joined: false };

const MARKS_AT_MOST: u32 = 1_000;
const UNCLOSED_AT_MOST: usize = 200;
const JOINED_AT_MOST: u32 = 1_000;
/// More opening brackets than closing ones than any text has: at its end the parser copies all that is open.
const OPEN_AT_MOST: usize = 100_000;

impl Overload {
    /// Whether a text has too much of something.
    pub fn is_met_by(&self, text: &str) -> bool {
        has_too_many_open(text.as_bytes())
            || !self.marks.is_empty() && self.has_too_many_marks(text.as_bytes())
            || self.unclosed.is_some_and(|(open, close)| is_left_open(text, open, close))
            || self.joined && has_long_line(text)
    }

    /// Counts marks between the ends of statements, strings and comments aside.
    fn has_too_many_marks(&self, bytes: &[u8]) -> bool {
        let (mut at, mut count) = (0, 0);
        while let Some(byte) = bytes.get(at) {
            let rest = &bytes[at..];
            at += match byte {
                b'/' if rest.starts_with(b"//") => length_to(rest, b"\n"),
                b'/' if rest.starts_with(b"/*") => length_to(rest, b"*/"),
                b'"' if rest.starts_with(b"\"\"\"") => 3 + length_to(&rest[3..], b"\"\"\""),
                b'"' | b'\'' => quoted_length(rest, *byte),
                _ => 1,
            };
            match byte {
                b';' | b'{' | b'}' => count = 0,
                byte if self.marks.contains(byte) => count += 1,
                _ => {}
            }
            if count > MARKS_AT_MOST {
                return true;
            }
        }
        false
    }
}

fn has_too_many_open(bytes: &[u8]) -> bool {
    let count = |marks: &[u8]| bytes.iter().filter(|byte| marks.contains(byte)).count();
    bytes.len() > OPEN_AT_MOST && count(b"([{") > OPEN_AT_MOST + count(b")]}")
}

fn length_to(bytes: &[u8], end: &[u8]) -> usize {
    memchr::memmem::find(bytes, end).map_or(bytes.len(), |at| at + end.len()).max(1)
}

/// The length of what stands between quotes on one line.
fn quoted_length(bytes: &[u8], quote: u8) -> usize {
    let mut at = 1;
    while let Some(byte) = bytes.get(at) {
        match byte {
            b'\\' => at += 1,
            b'\n' => return at,
            byte if *byte == quote => return at + 1,
            _ => {}
        }
        at += 1;
    }
    bytes.len()
}

fn is_left_open(text: &str, open: &str, close: &str) -> bool {
    let behind = text.rfind(close).map_or(0, |at| at + close.len());
    text.get(behind..).is_some_and(|rest| rest.matches(open).count() > UNCLOSED_AT_MOST)
}

fn has_long_line(text: &str) -> bool {
    let mut joined = 0;
    text.lines().any(|line| {
        joined = if line.ends_with('\\') { joined + 1 } else { 0 };
        joined > JOINED_AT_MOST
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    const ALL: Overload = Overload { marks: b"<>", unclosed: Some(("r#\"", "\"#")), joined: true };

    #[test]
    fn what_is_too_much_is_told() {
        for (text, too_much) in [
            ("a<".repeat(2_000), true),
            ("a<b>c;".repeat(2_000), false),
            (format!("\"{}\"", "<".repeat(2_000)), false),
            (format!("/* {} */ '<' // {}\n", "<".repeat(2_000), "<".repeat(2_000)), false),
            (format!("\"\"\"\n{}\n\"\"\"", "<\n".repeat(2_000)), false),
            ("r#\"a\"#".repeat(500), false),
            ("r#\"".repeat(500), true),
            ("a \\\n".repeat(2_000), true),
            ("a \\\nb\n".repeat(2_000), false),
            ("([{".repeat(40_000), true),
            ("([{}])".repeat(40_000), false),
            ("\"".to_owned(), false),
            ("/".to_owned(), false),
        ] {
            assert_eq!(ALL.is_met_by(&text), too_much, "{}", text.get(..20).unwrap_or(&text));
        }
    }
}
