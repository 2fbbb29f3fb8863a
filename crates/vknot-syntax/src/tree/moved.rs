//! The tree of a text whose tokens stand elsewhere than in the one that was read.

use super::{Token, Tree};
use crate::text::Span;

impl Tree {
    /// The tree of a text that replacements make of the one that was read, each a span with the bytes that come in its place, in order
    /// and apart. `None` where one of them reaches over the edge of a token.
    ///
    /// It is what would be read if the replacements are white space, no token comes or goes, and the language does not read what changes:
    /// that is the caller's to know. Pieces of other languages are not taken along.
    pub fn moved(&self, replacements: impl Iterator<Item = (Span, u32)>, length: u32) -> Option<Tree> {
        let mut mover = Mover { replacements: replacements.peekable(), delta: 0 };
        let tokens: Option<Vec<Token>> = self.tokens.iter().map(|token| mover.moved(*token)).collect();
        let tokens = tokens?;
        let mut nodes = self.nodes.clone();
        for node in &mut nodes {
            let (first, last) = (tokens.get(node.first_token as usize), node.token_end.checked_sub(1));
            let last = last.and_then(|last| tokens.get(last as usize));
            (node.start, node.end) = match (first, last) {
                (Some(first), Some(last)) if node.first_token < node.token_end => (first.start, last.end),
                // What has no token stands at the end of the token before it.
                (_, last) => last.map_or((0, 0), |last| (last.end, last.end)),
            };
        }
        Some(Tree { language: self.language, nodes, tokens, length, gave_up: self.gave_up, embedded: Vec::new() })
    }
}

/// Goes over tokens and replacements side by side.
struct Mover<R: Iterator<Item = (Span, u32)>> {
    replacements: std::iter::Peekable<R>,
    /// By how much the text has grown up to here.
    delta: i64,
}

impl<R: Iterator<Item = (Span, u32)>> Mover<R> {
    /// A token where it is now.
    fn moved(&mut self, token: Token) -> Option<Token> {
        self.pass(|span| span.end <= token.start);
        let start = i64::from(token.start) + self.delta;
        self.pass(|span| token.start < span.start && span.end <= token.end && span.start < token.end);
        let end = i64::from(token.end) + self.delta;
        let over = self.replacements.peek().is_some_and(|(span, _)| span.start < token.end);
        (!over).then_some(Token { start: start as u32, end: end as u32, node: token.node })
    }

    fn pass(&mut self, is_before: impl Fn(Span) -> bool) {
        while let Some((span, new)) = self.replacements.next_if(|(span, _)| is_before(*span)) {
            self.delta += i64::from(new) - i64::from(span.len());
        }
    }
}
