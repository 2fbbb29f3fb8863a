//! Brackets and their partners, and those that have none.

use vknot_syntax::{NodeId, Role, Source, Span, TokenId, Tree};

/// Two brackets that belong together.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Pair {
    /// The opening bracket.
    pub open: TokenId,
    /// The closing one.
    pub close: TokenId,
    /// How many pairs hold it.
    pub depth: u32,
}

/// Where a missing bracket most likely is, told from indentation that disagrees with nesting.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Culprit {
    /// The bracket that is likely the one without a partner.
    pub token: TokenId,
    /// The line (from 1) at which indentation and nesting part.
    pub line: u32,
}

/// A bracket without a partner.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Unpaired {
    /// The bracket that is left over when brackets are matched in order.
    pub token: TokenId,
    /// The likelier place of the mistake, where there is one.
    pub culprit: Option<Culprit>,
}

/// All brackets of a file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Pairs {
    /// Pairs by their opening bracket.
    pub pairs: Vec<Pair>,
    /// Brackets without a partner.
    pub unpaired: Vec<Unpaired>,
}

impl Pairs {
    /// The pair one of whose brackets is `token`.
    pub fn of(&self, token: TokenId) -> Option<&Pair> {
        self.pairs.iter().find(|pair| pair.open == token || pair.close == token)
    }

    /// The innermost pair around a span.
    pub fn around(&self, tree: &Tree, at: Span) -> Option<&Pair> {
        let start = |token: TokenId| tree.tokens()[token as usize];
        self.pairs.iter().rev().find(|pair| start(pair.open).start <= at.start && at.end <= start(pair.close).end)
    }

    /// The text span between the brackets, and the one with them.
    pub fn spans(&self, tree: &Tree, pair: &Pair) -> (Span, Span) {
        let (open, close) = (tree.tokens()[pair.open as usize], tree.tokens()[pair.close as usize]);
        (Span::new(open.end, close.start), Span::new(open.start, close.end))
    }

    /// The construct a pair belongs to: the node that says what the brackets are for.
    pub fn construct(&self, tree: &Tree, pair: &Pair) -> NodeId {
        let Some(open) = tree.tokens().get(pair.open as usize) else { return tree.root() };
        let holder = tree.node(open.node).parent;
        let around = self.spans(tree, pair).1;
        // A node that is nothing but the pair stands for the brackets; what it is for is further out.
        let own = tree.node(holder).span() == around;
        let bare = |id: &NodeId| {
            matches!(tree.role(*id), Role::Block | Role::Body | Role::Parenthesized | Role::List | Role::Arguments)
        };
        let mut above = tree.ancestors(holder).skip(usize::from(own)).take(BARE_AT_MOST);
        above.find(|id| !bare(id)).unwrap_or(tree.node(holder).parent)
    }
}

/// How many brackets within brackets are looked through for what they belong to.
const BARE_AT_MOST: usize = 64;

const SHAPES: [(&str, &str); 3] = [("(", ")"), ("[", "]"), ("{", "}")];

/// How many open brackets a stray closing one is held against.
const CROSSED_AT_MOST: usize = 32;

/// Matches the brackets of a file. Brackets in strings and comments do not count; angle brackets and bars count where
/// the tree says that they are brackets.
pub fn pairs(source: &Source, tree: &Tree) -> Pairs {
    let mut found = Pairs::default();
    let mut open: Vec<(TokenId, usize)> = Vec::new();
    let mut left_over = Vec::new();
    for token in 0..tree.tokens().len() as TokenId {
        let text = bracket_text(source, tree, token);
        if let Some(shape) = SHAPES.iter().position(|(opening, _)| *opening == text) {
            open.push((token, shape));
        } else if let Some(shape) = SHAPES.iter().position(|(_, closing)| *closing == text) {
            close(source, tree, &mut open, (token, shape), &mut found, &mut left_over);
        }
    }
    left_over.extend(open.into_iter().map(|(token, _)| token));
    angles(source, tree, &mut found);
    found.pairs.sort_by_key(|pair| pair.open);
    set_depths(&mut found.pairs);
    left_over.sort_unstable();
    let culprit = left_over.first().and_then(|_| culprit(source, tree, &found.pairs));
    found.unpaired = left_over.into_iter().map(|token| Unpaired { token, culprit }).collect();
    found
}

fn bracket_text<'s>(source: &'s Source, tree: &Tree, token: TokenId) -> &'s str {
    let token = &tree.tokens()[token as usize];
    if token.end - token.start != 1 || matches!(tree.role(token.node), Role::String | Role::Comment) {
        return "";
    }
    source.slice(token.span())
}

/// A closing bracket takes the nearest open one of its shape, unless an open one between them stands further to the
/// left than it: then the closing bracket is the one too many.
fn close(
    source: &Source,
    tree: &Tree,
    open: &mut Vec<(TokenId, usize)>,
    (token, shape): (TokenId, usize),
    found: &mut Pairs,
    left_over: &mut Vec<TokenId>,
) {
    let Some(at) = open.iter().rposition(|(_, other)| *other == shape) else { return left_over.push(token) };
    let column = indent_of(source, tree, token);
    let crossed = open[at + 1..].iter().rev().take(CROSSED_AT_MOST);
    if crossed.into_iter().any(|(other, _)| indent_of(source, tree, *other) < column) {
        return left_over.push(token);
    }
    left_over.extend(open.drain(at + 1..).map(|(token, _)| token));
    open.truncate(at + 1);
    if let Some((opening, _)) = open.pop() {
        found.pairs.push(Pair { open: opening, close: token, depth: 0 });
    }
}

/// Pairs of `<` and `>` or of bars that are a list's brackets.
fn angles(source: &Source, tree: &Tree, found: &mut Pairs) {
    for (index, node) in tree.nodes().iter().enumerate() {
        if node.token_end - node.first_token < 2 || tree.language().role(node.kind) != Role::List {
            continue;
        }
        let (first, last) = (node.first_token, node.token_end - 1);
        let own = |token: TokenId| tree.node(tree.tokens()[token as usize].node).parent == NodeId(index as u32);
        let texts = (bracket_text(source, tree, first), bracket_text(source, tree, last));
        if matches!(texts, ("<", ">") | ("|", "|")) && own(first) && own(last) {
            found.pairs.push(Pair { open: first, close: last, depth: 0 });
        }
    }
}

fn set_depths(pairs: &mut [Pair]) {
    let mut open: Vec<TokenId> = Vec::new();
    for pair in pairs {
        while open.last().is_some_and(|close| *close < pair.open) {
            open.pop();
        }
        pair.depth = open.len() as u32;
        open.push(pair.close);
    }
}

/// The innermost pair whose closing bracket begins a line and stands elsewhere than the line that opened it.
fn culprit(source: &Source, tree: &Tree, pairs: &[Pair]) -> Option<Culprit> {
    let astray = pairs.iter().filter_map(|pair| {
        let (opened, closed) = (indent_of(source, tree, pair.open), indent_of(source, tree, pair.close));
        let lines = (line_of(source, tree, pair.open), line_of(source, tree, pair.close));
        if lines.0 == lines.1 || !begins_line(source, tree, pair.close) || opened == closed {
            return None;
        }
        // Closed further left: the opening bracket lacks its own partner. Further right: the closing one is too many.
        let token = if closed < opened { pair.open } else { pair.close };
        Some((lines.1 - lines.0, Culprit { token, line: lines.1 }))
    });
    astray.min_by_key(|(length, _)| *length).map(|(_, culprit)| culprit)
}

fn line_of(source: &Source, tree: &Tree, token: TokenId) -> u32 {
    source.line(tree.tokens()[token as usize].start)
}

fn line_start<'s>(source: &'s Source, tree: &Tree, token: TokenId) -> (&'s str, u32) {
    let start = tree.tokens()[token as usize].start;
    let line = source.lines().start(source.lines().index_at(start));
    let rest = source.text().get(line as usize..).unwrap_or("");
    (&rest[..rest.len() - rest.trim_start_matches([' ', '\t']).len()], start - line)
}

fn indent_of(source: &Source, tree: &Tree, token: TokenId) -> usize {
    line_start(source, tree, token).0.chars().map(|c| if c == '\t' { 4 } else { 1 }).sum()
}

fn begins_line(source: &Source, tree: &Tree, token: TokenId) -> bool {
    let (blank, column) = line_start(source, tree, token);
    blank.len() as u32 == column
}
