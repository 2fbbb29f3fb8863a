//! Long runs of comments: at each of its lines the grammar looks for the next one with code, which would take the square of their number.

use crate::reader::Mask;

/// How many lines in a row are left to the grammar.
const RUN_AT_MOST: usize = 50;

/// Hides the comments of long runs, all but the first lines of each; `None` when there is none.
pub(super) fn mask(text: &str) -> Option<Mask> {
    let mut mask: Option<Mask> = None;
    let (mut at, mut run) = (0, 0);
    let mut quote: Option<&str> = None;
    for line in text.split_inclusive('\n') {
        let bare = line.trim();
        let comment = quote.is_none() && bare.starts_with('#');
        run = if comment || quote.is_none() && bare.is_empty() { run + usize::from(comment) } else { 0 };
        if comment && run > RUN_AT_MOST {
            let start = at + line.len() - line.trim_start().len();
            mask.get_or_insert_with(|| Mask::new(text)).hide(start, start + bare.len());
        }
        if !comment {
            quote = quote_behind(line, quote);
        }
        at += line.len();
    }
    mask
}

/// Which string over lines is open behind a line, given which one is in front of it.
fn quote_behind<'q>(line: &str, open: Option<&'q str>) -> Option<&'q str> {
    let bytes = line.as_bytes();
    let mut open = open;
    let mut at = 0;
    while at < bytes.len() {
        let rest = &bytes[at..];
        match open {
            Some(quote) if rest.starts_with(quote.as_bytes()) => (open, at) = (None, at + quote.len()),
            Some(_) => at += if rest[0] == b'\\' { 2 } else { 1 },
            None if rest.starts_with(b"\"\"\"") => (open, at) = (Some("\"\"\""), at + 3),
            None if rest.starts_with(b"'''") => (open, at) = (Some("'''"), at + 3),
            None if rest[0] == b'#' => return None,
            None if matches!(rest[0], b'"' | b'\'') => at += short_string(rest),
            None => at += 1,
        }
    }
    open
}

/// The bytes of a string on one line.
fn short_string(text: &[u8]) -> usize {
    let mut at = 1;
    while at < text.len() && text[at] != text[0] {
        at += if text[at] == b'\\' { 2 } else { 1 };
    }
    at + 1
}
