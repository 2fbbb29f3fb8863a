//! Half-written files: what is open at the end is closed, so that the lines before can be told from a sound tree.

use vknot_syntax::{Source, Tree};

use super::nesting::{bracket_of, OpenBrackets};

/// A text with what it leaves open closed behind it, and its tree. `None` when nothing is open.
pub(super) fn completed(source: &Source, tree: &Tree) -> Option<(Source, Tree)> {
    let text = source.text();
    let mut open: OpenBrackets<u32> = OpenBrackets::new();
    for token in tree.tokens() {
        match bracket_of(source, tree, token) {
            Some((bracket, false)) => open.open(bracket, token.start),
            Some((bracket, true)) => drop(open.close(bracket)),
            None => {}
        }
    }
    open.iter().next()?;
    // The last line may break off anywhere, and in the middle of a comment or string, too.
    let last = tree.tokens().last()?;
    let line = source.lines().start(source.lines().index_at(last.start));
    let mut done = text.get(..line as usize)?.to_owned();
    for (bracket, _) in open.iter().rev().filter(|(_, start)| *start < line) {
        done.push(match bracket {
            b'(' => ')',
            b'[' => ']',
            _ => '}',
        });
    }
    done.push('\n');
    let source = Source::from_text(source.path(), done);
    let tree = Tree::read(&source, tree.language());
    Some((source, tree))
}
