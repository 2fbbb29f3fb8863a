//! How deep in brackets lines are, told from the brackets alone: what holds where a tree with errors cannot be trusted.

use vknot_syntax::{Role, Source, Token, Tree};

use super::brackets::{closer, opener};
use super::lines::Line;

/// What a line stands in.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Nested {
    /// How many brackets are open in front of it.
    pub depth: usize,
    /// The line that opened the innermost one it does not close.
    pub opened_on: Option<usize>,
    /// Whether it begins with a closing bracket.
    pub closes: bool,
}

/// What each line stands in. A brace closes whatever was left open inside it; other brackets only close their like.
pub(super) fn nesting(source: &Source, tree: &Tree, lines: &[Line]) -> Vec<Nested> {
    let mut open: Vec<(u8, usize)> = Vec::new();
    let mut nesting = Vec::with_capacity(lines.len());
    for (index, token) in tree.tokens().iter().enumerate() {
        let role = tree.role(token.node);
        let opaque = matches!(role, Role::String | Role::Comment | Role::Inert);
        let text = if opaque { "" } else { source.slice(token.span()) };
        let closed = closer(text, Role::Part).filter(|bracket| *bracket != b'<');
        if lines.get(nesting.len()).is_some_and(|line| line.token == index as u32) {
            let innermost = open.last().filter(|_| closed.is_none());
            let partner = closed.and_then(|bracket| open.iter().rev().find(|(kind, _)| *kind == bracket));
            nesting.push(Nested {
                depth: open.len(),
                opened_on: innermost.or(partner).map(|(_, line)| *line),
                closes: closed.is_some(),
            });
        }
        if let Some(bracket) = closed {
            let at = open.iter().rposition(|(kind, _)| *kind == bracket);
            if let Some(at) = at.filter(|at| bracket == b'{' || at + 1 == open.len()) {
                let line = open[at].1;
                open.truncate(at);
                // A bracket in front of a brace that is closed again was left open if a word follows.
                let word = |next: &Token| source.slice(next.span()).starts_with(char::is_alphanumeric);
                if tree.tokens().get(index + 1).is_some_and(word) {
                    while open.pop_if(|(kind, opened)| *kind != b'{' && *opened == line).is_some() {}
                }
            }
        } else if let Some(bracket) = opener(text) {
            open.push((bracket, nesting.len().saturating_sub(1)));
        }
    }
    nesting
}
