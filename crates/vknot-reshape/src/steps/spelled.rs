//! Whether what is written otherwise says the same: strings by their characters, comments by their words.

use std::ops::Range;

use vknot_syntax::Role;

use crate::spec::Code;

/// Whether tokens of one text say the same as those of another.
pub(super) fn says_the_same(old: (Code<'_>, Range<u32>), new: (Code<'_>, Range<u32>)) -> bool {
    let texts = |(code, tokens): &(Code<'_>, Range<u32>)| -> Vec<String> {
        let tokens = code.tree.tokens().get(tokens.start as usize..tokens.end as usize).unwrap_or_default();
        tokens.iter().map(|token| code.source.slice(token.span()).to_owned()).collect()
    };
    let (old_text, new_text) = (texts(&old).join("\n"), texts(&new).join("\n"));
    let comments = |(code, tokens): &(Code<'_>, Range<u32>)| tokens.clone().all(|token| code.tree.is_comment(token));
    let string = |(code, tokens): &(Code<'_>, Range<u32>)| {
        let node = code.tree.tokens().get(tokens.start as usize).map(|token| token.node);
        tokens.len() == 1 && node.is_some_and(|node| code.tree.role(node) == Role::String)
    };
    match (comments(&old) && comments(&new), string(&old) && string(&new)) {
        (true, _) => {
            let marks: Vec<&str> =
                old.0.tree.language().spec().line_comments().filter(|mark| !mark.is_empty()).collect();
            same_words(&old_text, &new_text, &marks)
        }
        (_, true) => characters(&old_text).is_some_and(|old| characters(&new_text) == Some(old)),
        _ => false,
    }
}

/// What a string between quotes holds, quotes without a backslash that they may have or not; `None` where it does not end where its text
/// does.
fn characters(text: &str) -> Option<String> {
    let quote = text.chars().next().filter(|c| matches!(c, '"' | '\''))?;
    let inner = text.get(1..)?.strip_suffix(quote)?;
    let mut read = String::new();
    let mut chars = inner.chars();
    while let Some(c) = chars.next() {
        match c {
            _ if c == quote => return None,
            '\\' => match chars.next()? {
                quote @ ('"' | '\'') => read.push(quote),
                other => read.extend(['\\', other]),
            },
            _ => read.push(c),
        }
    }
    Some(read)
}

/// Whether two comments have the same words in the same order, and no line begins otherwise than one of the first's.
fn same_words(old: &str, new: &str, marks: &[&str]) -> bool {
    let lines = |text: &'_ str| -> Vec<(String, Vec<String>)> {
        text.lines().map(|line| parted(line, marks)).collect()
    };
    let (old, new) = (lines(old), lines(new));
    let words = |lines: &[(String, Vec<String>)]| lines
        .iter()
        .flat_map(|(_, words)| words.clone())
        .collect::<Vec<String>>();
    words(&old) == words(&new) && new.iter().all(|(mark, _)| old.iter().any(|(own, _)| own == mark))
}

/// The mark that a line of a comment begins with, and its words.
fn parted(line: &str, marks: &[&str]) -> (String, Vec<String>) {
    let line = line.trim();
    let begins = marks.iter().chain(&["/*", "*"]).filter(|mark| line.starts_with(**mark)).max_by_key(|mark| mark.len());
    let rest = line.trim_start_matches(|c| begins.is_some() && matches!(c, '/' | '!' | '#' | '*' | ';' | '%' | '-'));
    let mark = &line[..line.len() - rest.len()];
    (mark.to_owned(), rest.split_whitespace().map(str::to_owned).collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strings_are_the_same_by_their_characters() {
        assert_eq!(characters("'it\\'s'"), characters("\"it's\""));
        assert_eq!(characters("'a\\n'"), characters("\"a\\n\""));
        assert_ne!(characters("'a\\n'"), characters("\"an\""));
        assert_ne!(characters("'a'"), characters("\"a \""));
        assert_eq!(characters("\"a\"b\""), None);
        assert_eq!(characters("\"a\\\""), None);
    }

    #[test]
    fn comments_are_the_same_by_their_words_and_marks() {
        let same = |old: &str, new: &str| same_words(old, new, &["//"]);
        assert!(same("// one two", "// one\n    // two"));
        assert!(same("//one", "// one"));
        assert!(!same("// one two", "// one\n/// two"));
        assert!(!same("// one two", "// one"));
        assert!(!same("// one two", "// two one"));
        assert!(!same("// one\n// - two", "// one two"));
        assert!(same(" * one two", " * one\n * two"));
        assert!(!same(" * one two", " * one\n   two"));
    }
}
