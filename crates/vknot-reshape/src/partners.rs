//! Which brackets belong together, in whole and in broken texts, in one linear pass.
//!
//! A brace closes whatever was left open inside it; other brackets close their like only.

use vknot_syntax::{Bracket, Node, Role, TokenId, Tree};

use crate::spec::Code;

/// Brackets that are open, each with what is known of it.
#[derive(Clone, Debug, Default)]
pub(crate) struct OpenBrackets<T> {
    open: Vec<(u8, T)>,
    /// How many of them are braces, so that a lone one costs no search.
    braces: usize,
}

impl<T: Copy> OpenBrackets<T> {
    /// None that is open.
    pub fn new() -> Self {
        Self { open: Vec::new(), braces: 0 }
    }

    /// Opens a bracket.
    pub fn open(&mut self, shape: u8, facts: T) {
        self.braces += usize::from(shape == b'{');
        self.open.push((shape, facts));
    }

    /// What is known of the bracket that one of such a shape would close.
    pub fn partner(&self, shape: u8) -> Option<T> {
        self.position(shape).map(|at| self.open[at].1)
    }

    /// Closes the partner of such a bracket, if it has one; gives what is known of that, and what was left open inside it.
    pub fn close(&mut self, shape: u8) -> Option<(T, Vec<T>)> {
        let at = self.position(shape)?;
        let left = self.open.drain(at + 1..).map(|(_, facts)| facts).collect();
        let (_, facts) = self.open.pop()?;
        // What is left open inside holds no brace: a brace would have been the partner.
        self.braces -= usize::from(shape == b'{');
        Some((facts, left))
    }

    fn position(&self, shape: u8) -> Option<usize> {
        match shape {
            b'{' if self.braces == 0 => None,
            b'{' => self.open.iter().rposition(|(other, _)| *other == shape),
            _ => self.open.last().filter(|(other, _)| *other == shape).map(|_| self.open.len() - 1),
        }
    }

    /// Those that are open, from the outside in.
    pub fn iter(&self) -> impl DoubleEndedIterator<Item = (u8, T)> + '_ {
        self.open.iter().copied()
    }

    /// The innermost one.
    pub fn last(&self) -> Option<T> {
        self.open.last().map(|(_, facts)| *facts)
    }

    /// How many are open.
    pub fn depth(&self) -> usize {
        self.open.len()
    }

    /// Drops the innermost ones that are no braces, as long as they fit.
    pub fn forget_while(&mut self, fits: impl Fn(T) -> bool) {
        while self.open.pop_if(|(shape, facts)| *shape != b'{' && fits(*facts)).is_some() {}
    }
}

/// The bracket that a token is; `None` for the inside of strings and comments, and for what only looks like one. A mark may stand in front
/// of it, as in `#(`.
pub(crate) fn bracket_of(code: Code<'_>, token: TokenId) -> Option<Bracket> {
    let token = code.tree.tokens().get(token as usize)?;
    let kind = code.tree.node(token.node).kind;
    let language = code.tree.language();
    if let Some(bracket) = language.bracket(kind) {
        return (language.role(kind) != Role::Inert).then_some(bracket);
    }
    // Fixed tokens of grammars are known by their kind; other readers may keep marks with their brackets.
    let marked = matches!(language.role(kind), Role::Open | Role::Close | Role::Part | Role::Name | Role::Error);
    let text = code.source.slice(token.span());
    if !marked || text.len() > MARK_AT_MOST {
        return None;
    }
    // A directive may end with a bracket, too: `#endif(`.
    let directive = text.starts_with('#') && code.toolkit().indent.has_directives;
    Bracket::of(text).or_else(|| Bracket::marked(text).filter(|_| !directive))
}

/// The shape of the bracket that a node stands for which the text lacks.
pub(crate) fn missing_closer(tree: &Tree, node: &Node) -> Option<u8> {
    let bracket = Bracket::of(tree.language().kind_name(node.kind)).filter(|_| node.is_missing())?;
    (!bracket.opens).then_some(bracket.shape)
}

/// The closing brackets that the text lacks, each with the token in front of which it belongs.
pub(crate) fn missing_closers(tree: &Tree) -> impl Iterator<Item = (TokenId, u8)> + '_ {
    let nodes = if tree.has_error() { tree.nodes() } else { &[] };
    nodes.iter().filter_map(|node| Some((node.first_token, missing_closer(tree, node)?)))
}

/// Whether a token is a bracket of which the reader says that it closes nothing.
pub(crate) fn is_stray(tree: &Tree, token: TokenId) -> bool {
    let node = tree.tokens().get(token as usize).map(|token| token.node);
    node.is_some_and(|id| tree.role(id) == Role::Error && tree.role(tree.node(id).parent) != Role::Error)
}

/// How many bytes a bracket takes with the mark in front of it.
const MARK_AT_MOST: usize = 12;

/// For each token the token that is its partner, if it is a bracket with one; itself, if it is no bracket.
pub(crate) struct Partners {
    partner: Vec<TokenId>,
}

/// A bracket without a partner.
const ALONE: TokenId = TokenId::MAX;

impl Partners {
    /// The partners of all brackets.
    pub fn of(code: Code<'_>) -> Self {
        let mut partner: Vec<TokenId> = (0..code.tree.tokens().len() as TokenId).collect();
        let mut open: OpenBrackets<TokenId> = OpenBrackets::new();
        let mut missing = missing_closers(code.tree).peekable();
        for token in 0..partner.len() as TokenId {
            while let Some((_, shape)) = missing.next_if(|(at, _)| *at <= token) {
                open.close(shape);
            }
            let Some(bracket) = bracket_of(code, token) else { continue };
            partner[token as usize] = ALONE;
            if is_stray(code.tree, token) {
                continue;
            }
            if bracket.opens {
                open.open(bracket.shape, token);
            } else if let Some((start, _)) = open.close(bracket.shape) {
                partner[start as usize] = token;
                partner[token as usize] = start;
            }
        }
        Self { partner }
    }

    /// Whether a token is no bracket, or one whose partner is in a range or, where it has none, about which `lone` says yes.
    pub fn is_closed(&self, token: TokenId, range: &std::ops::Range<TokenId>, lone: bool) -> bool {
        let partner = self.partner.get(token as usize);
        partner.is_some_and(|partner| if *partner == ALONE { lone } else { range.contains(partner) })
    }
}

#[cfg(test)]
mod tests {
    use vknot_syntax::{Language, Source, Tree};

    use super::*;

    /// For each bracket of a text its partner's number among them, or `-`.
    fn partners(language: &str, text: &str) -> String {
        let source = Source::from_text("gauge", text);
        let tree = Tree::read(&source, Language::named(language).unwrap());
        let code = Code::of(&source, &tree);
        let partners = Partners::of(code).partner;
        let brackets: Vec<TokenId> =
            (0..partners.len() as TokenId).filter(|token| bracket_of(code, *token).is_some()).collect();
        let number = |token: TokenId| brackets.iter().position(|bracket| *bracket == token);
        let shown = brackets
            .iter()
            .map(|bracket| number(partners[*bracket as usize]).map_or("-".to_owned(), |at| at.to_string()));
        shown.collect::<Vec<_>>().join(" ")
    }

    #[test]
    fn brackets_find_their_partners() {
        assert_eq!(partners("java", "class A { int b = c(d[0]); }"), "5 4 3 2 1 0");
        assert_eq!(partners("java", "class A { void b() { c((d; } }"), "7 2 1 6 - - 3 0");
        assert_eq!(partners("json", "[1, \"(\", {\"a\": [2]}]"), "5 4 3 2 1 0");
        assert_eq!(partners("scheme", "#(a (b))"), "3 2 1 0");
    }

    #[test]
    fn a_brace_closes_what_was_left_open_inside_it() {
        let mut open = OpenBrackets::new();
        open.open(b'{', 1);
        open.open(b'(', 2);
        open.open(b'[', 3);
        assert_eq!(open.close(b'('), None);
        assert_eq!((open.partner(b'{'), open.last(), open.depth()), (Some(1), Some(3), 3));
        assert_eq!(open.close(b'{'), Some((1, vec![2, 3])));
        assert_eq!((open.close(b'{'), open.depth()), (None, 0));
        open.open(b'(', 4);
        open.forget_while(|facts| facts > 3);
        assert_eq!(open.iter().next(), None);
    }
}
