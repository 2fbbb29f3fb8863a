//! What a style changes in code, counted in lines.

use vknot_style::{Key, LanguageStyle, Style, Values};
use vknot_syntax::Source;

use crate::edits::Edits;
use crate::indent;
use crate::keeps;
use crate::layout;
use crate::steps::Document;

/// What a style makes of a document: laid out where the layout of its language is known, else indented.
/// It is for counting and has not passed a proof.
pub fn reshaped(document: &Document, style: &Style) -> Edits {
    let code = document.code();
    match code.toolkit().layout {
        Some(_) => layout::once(code, style),
        None => indent::once(code, style),
    }
}

/// Whether a document says that a program wrote it.
pub fn is_generated(document: &Document) -> bool {
    keeps::generated(document.code()).is_some()
}

/// How many lines of a text edits change. A line counts where white space in front of it, in it or behind it does; a break that goes or
/// comes changes the line before it, a blank line more or less none.
pub fn touched_lines(source: &Source, edits: &Edits) -> u32 {
    let (mut changed, mut upto) = (0, 0);
    for (span, new) in edits.iter() {
        let old = source.slice(span);
        let broken = old.contains('\n') && new.contains('\n');
        let same = broken && ends_alike(old, new);
        let (first, last) = (source.line(span.start), source.line(span.end));
        let first = if broken { last } else { first }.max(upto + 1);
        if !same {
            changed += (last + 1).saturating_sub(first);
            upto = upto.max(last);
        }
    }
    changed
}

/// Whether the last of the lines of two texts is the same, and they end lines alike.
fn ends_alike(old: &str, new: &str) -> bool {
    old.rsplit('\n').next() == new.rsplit('\n').next() && old.contains("\r\n") == new.contains("\r\n")
}

/// The values of a setting that are worth trying in a language; none where it has no effect.
pub fn values(key: Key, language: &LanguageStyle) -> Vec<String> {
    if !language.covers(key) {
        return Vec::new();
    }
    let words = |words: &[&str]| words.iter().map(|word| (*word).to_owned()).collect::<Vec<String>>();
    let numbers: &[&str] = match (key, key.setting().values) {
        (Key::IndentSize, _) => &["2", "3", "4", "8"],
        (Key::TabWidth, _) => &["2", "4", "8"],
        (Key::MaxLineLength, _) => &["72", "80", "90", "100", "110", "120", "140", "off"],
        (Key::BlankMost, _) => &["0", "1", "2", "3"],
        (_, Values::Words(choices)) => return words(choices),
        (_, Values::Pairs(..)) => &[],
        _ => return key.setting().choices(),
    };
    words(numbers)
}

#[cfg(test)]
mod tests {
    use vknot_syntax::Span;

    use super::*;

    #[test]
    fn lines_count_once_and_blank_ones_not() {
        let source = Source::from_text("gauge", "a  b\n\n\nc\n  d\n");
        let count = |list: &[(u32, u32, &str)]| {
            let mut edits = Edits::default();
            list.iter().for_each(|(start, end, new)| edits.push(Span::new(*start, *end), new));
            touched_lines(&source, &edits)
        };
        assert_eq!(count(&[]), 0);
        assert_eq!(count(&[(1, 3, " ")]), 1);
        assert_eq!(count(&[(4, 7, "\n")]), 0);
        assert_eq!(count(&[(1, 3, " "), (8, 11, "\n    ")]), 2);
        assert_eq!(count(&[(8, 11, " ")]), 2);
    }
}
