//! The white space between the marker of a comment and what it says.

use crate::frames::comments::is_line_comment;
use super::draft::Draft;

/// Puts a space behind the markers of comments that end with their line, where a letter or a digit follows.
pub(super) fn space(draft: &mut Draft<'_>) {
    for token in 0..draft.code.tree.tokens().len() as u32 {
        if !is_line_comment(draft.code, token) {
            continue;
        }
        let text = draft.text(token);
        let (marker, said) = text.split_at(marker_length(text));
        if said.starts_with(char::is_alphanumeric) && !is_directive(draft, said) {
            draft.write(token, format!("{marker} {said}"));
        }
    }
}

/// The bytes of the marks that a comment begins with.
pub(super) fn marker_length(text: &str) -> usize {
    text.len() - text.trim_start_matches(['/', '!']).len()
}

/// Whether what a comment says is meant for a program: `word:word`, a single `WORD`, and what the language has.
fn is_directive(draft: &Draft<'_>, said: &str) -> bool {
    let word = said.split(char::is_whitespace).next().unwrap_or(said);
    let parted = word.split_once(':').is_some_and(|(before, behind)| {
        before.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit()) && !behind.is_empty()
    });
    let shouted = word.len() > 1 && word == said && word.bytes().all(|byte| byte.is_ascii_uppercase());
    parted || shouted || draft.spec.directives.iter().any(|directive| begins_with_word(said, directive))
}

fn begins_with_word(said: &str, word: &str) -> bool {
    said.strip_prefix(word).is_some_and(|rest| !rest.starts_with(char::is_alphanumeric))
}
