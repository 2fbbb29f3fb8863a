//! Long runs of comments: at each of its lines the grammar looks for the next one with code, which would take the square of their number.

use crate::reader::Mask;

/// How many lines in a row are left to the grammar.
const RUN_AT_MOST: usize = 50;

/// Hides the comments of long runs, all but the first lines of each; `None` when there is none.
pub(super) fn mask(text: &str) -> Option<Mask> {
    // Most files have fewer comments than make a run.
    memchr::memchr_iter(b'#', text.as_bytes()).nth(RUN_AT_MOST)?;
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

#[cfg(test)]
mod tests {
    use super::*;

    fn hidden(text: &str) -> usize {
        mask(text).map_or(0, |mask| {
            assert_eq!(mask.text.len(), text.len());
            mask.hidden.len()
        })
    }

    #[test]
    fn only_what_is_behind_the_first_lines_of_a_run_is_hidden() {
        let run = |count: usize| "    # low\n".repeat(count);
        for (text, count) in [
            (String::new(), 0),
            (run(RUN_AT_MOST), 0),
            (run(RUN_AT_MOST + 3), 3),
            // Blank lines do not end a run, code does.
            (format!("{}\n\n{}", run(RUN_AT_MOST), run(2)), 2),
            (format!("{}a = 1\n{}", run(RUN_AT_MOST), run(2)), 0),
            // What is in a string is no comment.
            (format!("a = \"\"\"\n{}\"\"\"\n", run(RUN_AT_MOST + 3)), 0),
            (format!("a = \'\'\'b\\\'\'\'\n{}\'\'\'\n", run(RUN_AT_MOST + 3)), 0),
            (format!("a = \'\"\"\"\'  # \"\"\"\n{}", run(RUN_AT_MOST + 1)), 1),
        ] {
            assert_eq!(hidden(&text), count, "{text}");
        }
    }
}
