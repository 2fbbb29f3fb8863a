//! How deep in brackets lines are, told from the brackets alone: what holds where a tree with errors cannot be trusted.

use vknot_syntax::{Role, Token};

use crate::spec::Code;

use super::brackets::{closer, opener};
use super::lines::Line;

/// What a line stands in.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Nested {
    /// How many brackets are open in front of it.
    pub depth: usize,
    /// The line that opened the innermost one it does not close.
    pub opened_on: Option<usize>,
    /// Whether it begins with a closing bracket.
    pub closes: bool,
}

/// Brackets that are open, each with what is known of it. A brace closes whatever was left open inside it; other brackets only close
/// their like.
pub(crate) struct OpenBrackets<T> {
    open: Vec<(u8, T)>,
    /// How many of them are braces, so that a lone one costs no search.
    braces: usize,
}

impl<T: Copy> OpenBrackets<T> {
    pub fn new() -> Self {
        Self { open: Vec::new(), braces: 0 }
    }

    pub fn open(&mut self, bracket: u8, facts: T) {
        self.braces += usize::from(bracket == b'{');
        self.open.push((bracket, facts));
    }

    /// Closes the partner of such a bracket, if it has one, and gives what is known of that.
    pub fn close(&mut self, bracket: u8) -> Option<T> {
        let at = self.partner(bracket)?;
        let (_, facts) = self.open[at];
        self.open.truncate(at);
        self.braces -= usize::from(bracket == b'{');
        Some(facts)
    }

    fn partner(&self, bracket: u8) -> Option<usize> {
        match bracket {
            b'{' if self.braces == 0 => None,
            b'{' => self.open.iter().rposition(|(kind, _)| *kind == bracket),
            _ => self.open.last().filter(|(kind, _)| *kind == bracket).map(|_| self.open.len() - 1),
        }
    }

    /// Those that are open, from the outside in.
    pub fn iter(&self) -> impl DoubleEndedIterator<Item = (u8, T)> + '_ {
        self.open.iter().copied()
    }
}

/// The bracket that a token opens, or with `true` closes; `None` for the inside of strings and comments.
pub(crate) fn bracket_of(code: Code<'_>, token: &Token) -> Option<(u8, bool)> {
    let Code { source, tree, .. } = code;
    if matches!(tree.role(token.node), Role::String | Role::Comment | Role::Inert) {
        return None;
    }
    let text = source.slice(token.span());
    let closed = closer(text, Role::Part).filter(|bracket| *bracket != b'<');
    closed.map(|bracket| (bracket, true)).or_else(|| opener(text).map(|bracket| (bracket, false)))
}

/// What each line stands in.
pub(crate) fn nesting(code: Code<'_>, lines: &[Line]) -> Vec<Nested> {
    let Code { source, tree, .. } = code;
    let mut open: OpenBrackets<usize> = OpenBrackets::new();
    let mut nesting = Vec::with_capacity(lines.len());
    for (index, token) in tree.tokens().iter().enumerate() {
        let bracket = bracket_of(code, token);
        let closed = bracket.filter(|(_, closes)| *closes).map(|(bracket, _)| bracket);
        if lines.get(nesting.len()).is_some_and(|line| line.token == index as u32) {
            let opened_on = match closed {
                Some(bracket) => open.partner(bracket).map(|at| open.open[at].1),
                None => open.open.last().map(|(_, line)| *line),
            };
            nesting.push(Nested { depth: open.open.len(), opened_on, closes: closed.is_some() });
        }
        if let Some(line) = closed.and_then(|bracket| open.close(bracket)) {
            // A bracket in front of a brace that is closed again was left open if a word follows.
            let word = |next: &Token| source.slice(next.span()).starts_with(char::is_alphanumeric);
            if tree.tokens().get(index + 1).is_some_and(word) {
                while open.open.pop_if(|(kind, opened)| *kind != b'{' && *opened == line).is_some() {}
            }
        } else if let Some((bracket, false)) = bracket {
            open.open(bracket, nesting.len().saturating_sub(1));
        }
    }
    nesting
}
