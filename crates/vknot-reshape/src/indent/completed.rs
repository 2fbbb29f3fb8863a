//! Half-written files: what is open at the end is closed, so that the lines before can be told from a sound tree.

use vknot_syntax::{Role, Source, Tree};

/// A text with what it leaves open closed behind it, and its tree. `None` when nothing is open.
pub(super) fn completed(source: &Source, tree: &Tree) -> Option<(Source, Tree)> {
    let text = source.text();
    let mut open: Vec<(char, u32)> = Vec::new();
    for token in tree.tokens() {
        if matches!(tree.role(token.node), Role::String | Role::Comment | Role::Inert) {
            continue;
        }
        let word = source.slice(token.span());
        // A bracket, maybe with a mark in front, such as `#(` and `@{`.
        match word.chars().last().filter(|_| word.len() <= 2 && word.chars().all(|c| c.is_ascii_punctuation())) {
            Some('(') => open.push((')', token.start)),
            Some('[') => open.push((']', token.start)),
            Some('{') => open.push(('}', token.start)),
            // A brace closes whatever was left open inside it; other brackets only close their like.
            Some(close @ (')' | ']' | '}')) => match open.iter().rposition(|(wanted, _)| *wanted == close) {
                Some(at) if at + 1 == open.len() || close == '}' => open.truncate(at),
                _ => {}
            },
            _ => {}
        }
    }
    if open.is_empty() {
        return None;
    }
    // The last line may break off anywhere, and in the middle of a comment or string, too.
    let last = tree.tokens().last()?;
    let line = source.lines().start(source.lines().index_at(last.start));
    let mut done = text.get(..line as usize)?.to_owned();
    for (close, _) in open.iter().rev().filter(|(_, start)| *start < line) {
        done.push(*close);
    }
    done.push('\n');
    let source = Source::from_text(source.path(), done);
    let tree = Tree::read(&source, tree.language());
    Some((source, tree))
}
