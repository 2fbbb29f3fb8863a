//! Todos: tagged notes in comments.

use vknot_syntax::Span;

use crate::spec::Code;

use super::comments;
use super::marks::Marks;

/// A tagged note.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Todo {
    /// The tag, as the project writes it.
    pub tag: String,
    /// Who is named in parentheses behind the tag.
    pub author: Option<String>,
    /// What it says, to the end of its line.
    pub text: String,
    /// From the tag to the end of the text.
    pub span: Span,
}

/// All notes with one of the project's tags, in order. Only comments count, wherever the language has them.
pub fn todos(code: Code<'_>, marks: &Marks) -> Vec<Todo> {
    let source = code.source;
    let mut found = Vec::new();
    // Most files have few of the tags, and in an embedded piece escapes do not change their letters.
    let marks = Marks {
        tags: marks.tags.iter().filter(|tag| source.text().contains(tag.as_str())).cloned().collect(),
        ..Marks::default()
    };
    if marks.tags.is_empty() {
        return found;
    }
    for comment in comments(code) {
        let mut at = comment.span.start;
        for line in source.slice(comment.span).split_inclusive('\n') {
            found.extend(in_line(line, at, &marks));
            at += line.len() as u32;
        }
    }
    found
}

/// The first note of a line: a tag in capitals that stands alone, then maybe an author and a colon.
fn in_line(line: &str, start: u32, marks: &Marks) -> Option<Todo> {
    let (at, tag) = marks.tags.iter().filter_map(|tag| Some((position(line, tag)?, tag))).min()?;
    let rest = &line[at + tag.len()..];
    let (author, rest) = match rest.strip_prefix('(').and_then(|rest| rest.split_once(')')) {
        Some((author, rest)) => (Some(author.trim().to_owned()).filter(|author| !author.is_empty()), rest),
        None => (None, rest),
    };
    let text = comments::body(rest.trim_start_matches([':', '-', ' ', '\t'])).trim();
    let end = if text.is_empty() {
        at + tag.len()
    } else {
        text.as_ptr() as usize - line.as_ptr() as usize + text.len()
    };
    let span = Span::new(start + at as u32, start + end as u32);
    Some(Todo { tag: tag.clone(), author, text: text.to_owned(), span })
}

/// Where a tag begins that is a word of its own: nothing but marks in front, or a colon or author behind.
fn position(line: &str, tag: &str) -> Option<usize> {
    let word = |c: Option<char>| c.is_some_and(|c| c.is_alphanumeric() || c == '_' || c == '-');
    line.match_indices(tag).map(|(at, _)| at).find(|at| {
        let (before, behind) = (&line[.. * at], &line[at + tag.len()..]);
        let alone = !word(before.chars().last()) && !word(behind.chars().next());
        let leads = !before.contains(char::is_alphanumeric);
        let tagged = behind.starts_with([':', '(']);
        alone && !before.ends_with(['\'', '"', '`']) && (leads || tagged)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn notes_are_tags_that_lead_or_are_marked() {
        for (line, expected) in [
            ("// TODO: read the gauge", Some(("TODO", None, "read the gauge"))),
            ("/* FIXME(mira): drifts */", Some(("FIXME", Some("mira"), "drifts"))),
            (" * TODO - ask the harbour", Some(("TODO", None, "ask the harbour"))),
            ("# see TODO: below", Some(("TODO", None, "below"))),
            ("# lists each TODO of a file", None),
            ("# MASTODON", None),
            ("# TODO", Some(("TODO", None, ""))),
        ] {
            let todo = in_line(line, 0, &Marks::default());
            let shown = todo.as_ref().map(|todo| (todo.tag.as_str(), todo.author.as_deref(), todo.text.as_str()));
            assert_eq!(shown, expected, "{line}");
        }
    }
}
