//! Brackets, tags and block keywords with their partners, and those that have none.

use std::collections::{BTreeMap, HashMap, HashSet};

use vknot_syntax::{Embedded, NodeId, Role, Source, Span, TokenId, Tree};

use crate::partners::{bracket_of, is_stray, missing_closers};
use crate::spec::Code;
use crate::spec::inner::NESTED_AT_MOST;

use super::divided::{Division, divided};
use super::marks::Marks;
use super::naming::named_start;
use super::naming::kind_words;

/// Two marks that belong together: brackets, tags, the words that open and close a block.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Pair {
    /// The opening mark.
    pub open: Span,
    /// The closing one.
    pub close: Span,
    /// How many pairs hold it.
    pub depth: u32,
    /// What the construct is that the pair belongs to, in words.
    pub construct: &'static str,
    /// Where that construct begins to say what it is.
    pub header: u32,
    /// The marks between the two that belong to them: what parts the branches of a conditional of the preprocessor.
    pub branches: Vec<Span>,
}

impl Pair {
    /// From the opening mark to the end of the closing one.
    pub fn around(&self) -> Span {
        Span::new(self.open.start, self.close.end)
    }

    /// Its marks, in order.
    pub fn marks(&self) -> impl Iterator<Item = Span> + '_ {
        std::iter::once(self.open).chain(self.branches.iter().copied()).chain(std::iter::once(self.close))
    }

    /// What is between the two.
    pub fn inside(&self) -> Span {
        Span::new(self.open.end, self.close.start)
    }
}

/// Where a missing mark most likely is, told from indentation that disagrees with nesting.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Culprit {
    /// The mark that is likely the one without a partner.
    pub span: Span,
    /// The line (from 1) at which indentation and nesting part.
    pub line: u32,
}

/// A mark without a partner.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Unpaired {
    /// The mark that is left over when marks are matched in order.
    pub span: Span,
    /// The likelier place of the mistake, where there is one.
    pub culprit: Option<Culprit>,
}

/// All pairs of a file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Pairs {
    /// Pairs by their opening mark.
    pub pairs: Vec<Pair>,
    /// Marks without a partner.
    pub unpaired: Vec<Unpaired>,
}

impl Pairs {
    /// The pair one of whose marks is at that span.
    pub fn of(&self, mark: Span) -> Option<&Pair> {
        self.pairs.iter().find(|pair| pair.marks().any(|own| own == mark))
    }

    /// The innermost pair around a span.
    pub fn around(&self, at: Span) -> Option<&Pair> {
        self.pairs.iter().rev().find(|pair| pair.open.start <= at.start && at.end <= pair.close.end)
    }

    /// All marks, paired or not.
    pub fn marks(&self) -> impl Iterator<Item = Span> + '_ {
        let paired = self.pairs.iter().flat_map(Pair::marks);
        paired.chain(self.unpaired.iter().map(|unpaired| unpaired.span))
    }
}

/// The construct that marks below `holder` belong to: the node that says what they are for.
fn construct(tree: &Tree, holder: NodeId, around: Span) -> NodeId {
    // A node that is nothing but the pair stands for the brackets; what it is for is further out.
    let own = tree.node(holder).span() == around;
    let bare = |id: &NodeId| {
        matches!(tree.role(*id), Role::Block | Role::Body | Role::Parenthesized | Role::List | Role::Arguments)
    };
    let own = own && !matches!(tree.role(holder), Role::Element | Role::Form | Role::Collection | Role::Branch);
    let mut above = tree.ancestors(holder).skip(usize::from(own)).take(BARE_AT_MOST);
    above.find(|id| !bare(id)).unwrap_or(tree.node(holder).parent)
}

/// How many brackets within brackets are looked through for what they belong to.
const BARE_AT_MOST: usize = 64;

/// How many open brackets a stray closing one is held against.
const CROSSED_AT_MOST: usize = 32;

/// A pair as the search finds it.
struct Match {
    open: Span,
    close: Span,
    holder: NodeId,
}

/// Matches the marks of a file. Brackets in strings and comments do not count, but for code inside of them; angle brackets and bars count
/// where the tree says that they are brackets, and so do tags, the words around blocks, directives around code that may be left out, and
/// the markers of regions.
pub fn pairs(code: Code<'_>, marks: &Marks) -> Pairs {
    let mut result = nested(code);
    let (divided, lone) = divided(code, marks);
    result.pairs.extend(divided.into_iter().map(|Division { open, close, construct, branches }| {
        Pair { open, close, depth: 0, construct, header: open.start, branches }
    }));
    result.unpaired.extend(lone.into_iter().map(|span| Unpaired { span, culprit: None }));
    result.pairs.extend(inside_tokens(code, NESTED_AT_MOST));
    result.pairs.sort_by_key(|pair| (pair.open.start, u32::MAX - pair.close.end));
    result.unpaired.sort_by_key(|lone| lone.span.start);
    set_depths(&mut result.pairs);
    result
}

/// The pairs of the code inside tokens, and those around it.
fn inside_tokens(code: Code<'_>, levels: usize) -> Vec<Pair> {
    let Code { tree, .. } = code;
    let inside = code.toolkit().looks.inside;
    let mut found = Vec::new();
    for id in tree.tokens().iter().map(|token| token.node) {
        for inner in inside(code.source, tree, id) {
            if !inner.open.is_empty() {
                found.push(Pair {
                    open: inner.open,
                    close: inner.close,
                    depth: 0,
                    construct: inner.word,
                    header: inner.open.start,
                    branches: Vec::new(),
                });
            }
            let piece = inner.read(code.source, code.tree, id);
            let within = code.piece(&piece);
            let mut pairs = nested(within).pairs;
            if levels > 0 {
                pairs.extend(inside_tokens(within, levels - 1));
            }
            // What was put around it to read it is not there.
            let all = Span::new(inner.span.start, inner.span.end);
            let there = |pair: &Pair| {
                let (open, close) = (piece.outer_span(pair.open), piece.outer_span(pair.close));
                open.len() == pair.open.len()
                    && close.len() == pair.close.len()
                    && all.covers(open)
                    && all.covers(close)
                    && piece.inner(open.start) == Some(pair.open.start)
            };
            let named = |pair: Pair| match Some(pair.header) >= piece.inner(all.start) {
                true => outside(&piece, pair),
                false => Pair { construct: inner.word, header: all.start, ..outside(&piece, pair) },
            };
            found.extend(pairs.into_iter().filter(there).map(named));
        }
    }
    found
}

/// A pair of a piece, as the file has it.
fn outside(piece: &Embedded, pair: Pair) -> Pair {
    Pair {
        open: piece.outer_span(pair.open),
        close: piece.outer_span(pair.close),
        header: piece.outer(pair.header),
        branches: pair.branches.iter().map(|branch| piece.outer_span(*branch)).collect(),
        ..pair
    }
}

/// Brackets, tags and words, which nest.
fn nested(code: Code<'_>) -> Pairs {
    let Code { source, tree, .. } = code;
    let mut found = Search::default();
    brackets(code, &mut found);
    angles(code, &mut found);
    words(tree, &mut found);
    found.pairs.sort_by_key(|pair| (pair.open.start, u32::MAX - pair.close.end));
    let guessed = found.left_over.first().and_then(|_| culprit(source, &found.pairs));
    let guessed = guessed.filter(|_| found.known.is_empty() && !found.strays);
    let culprit = |span: &Span| found.known.get(span).copied().or(guessed);
    // Many pairs may belong to one construct, which then is looked at once.
    let mut headers = HashMap::new();
    let mut result = Pairs {
        pairs: found.pairs.into_iter().map(|pair| described(code, &pair, &mut headers)).collect(),
        unpaired: found.left_over.into_iter().map(|span| Unpaired { span, culprit: culprit(&span) }).collect(),
    };
    for piece in tree.embedded() {
        let inner = nested(code.piece(piece));
        result.pairs.extend(inner.pairs.into_iter().map(|pair| outside(piece, pair)));
        let outer = |culprit: Culprit| Culprit {
            span: piece.outer_span(culprit.span),
            line: source.line(piece.outer(piece.source.lines().start(culprit.line - 1))),
        };
        result.unpaired.extend(inner.unpaired.into_iter().map(|lone| Unpaired {
            span: piece.outer_span(lone.span),
            culprit: lone.culprit.map(outer),
        }));
    }
    result
}

#[derive(Default)]
struct Search {
    pairs: Vec<Match>,
    left_over: Vec<Span>,
    /// What the reader knows of those that are left over.
    known: BTreeMap<Span, Culprit>,
    /// Whether it knows of one that is too much or ends nowhere.
    strays: bool,
}

fn described(code: Code<'_>, pair: &Match, headers: &mut HashMap<NodeId, u32>) -> Pair {
    let tree = code.tree;
    let construct = construct(tree, pair.holder, Span::new(pair.open.start, pair.close.end));
    Pair {
        open: pair.open,
        close: pair.close,
        depth: 0,
        construct: kind_words(code, construct),
        header: *headers.entry(construct).or_insert_with(|| named_start(code, construct)),
        branches: Vec::new(),
    }
}

fn brackets(code: Code<'_>, found: &mut Search) {
    let tree = code.tree;
    let mut open: Vec<(TokenId, u8)> = Vec::new();
    let mut missing = missing_closers(tree).peekable();
    for token in 0..=tree.tokens().len() as TokenId {
        while let Some((_, shape)) = missing.next_if(|(at, _)| *at <= token) {
            leave_open(code, &mut open, (token, shape), found);
        }
        match bracket_of(code, token) {
            Some(_) if is_stray(tree, token) => {
                found.left_over.push(span_of(code, token));
                found.strays = true;
            }
            Some(bracket) if bracket.opens => open.push((token, bracket.shape)),
            Some(bracket) => close(code, &mut open, (token, bracket.shape), found),
            None => {}
        }
    }
    found.left_over.extend(open.into_iter().map(|(token, _)| span_of(code, token)));
    found.left_over.sort_unstable();
}

/// The reader knows that a bracket of that shape ends in front of a token without a partner.
fn leave_open(code: Code<'_>, open: &mut Vec<(TokenId, u8)>, (token, shape): (TokenId, u8), found: &mut Search) {
    let Some(at) = open.iter().rposition(|(_, other)| *other == shape) else { return };
    let (opening, _) = open.remove(at);
    let span = span_of(code, opening);
    found.left_over.push(span);
    let line = code.source.line(span_of(code, token).start);
    found.known.insert(span, Culprit { span, line });
}

fn span_of(code: Code<'_>, token: TokenId) -> Span {
    let end = code.source.span().end;
    code.tree.tokens().get(token as usize).map_or(Span::new(end, end), |token| token.span())
}

/// Tags and the words around blocks: what opens and what closes among the children of one node.
fn words(tree: &Tree, found: &mut Search) {
    let marks = || {
        let ids = (1..tree.nodes().len() as u32).map(NodeId);
        ids.filter(|id| matches!(tree.role(*id), Role::Open | Role::Close)).map(|id| (id, tree.node(id)))
    };
    let mut last_closing = HashMap::new();
    for (id, node) in marks().filter(|(id, _)| tree.role(*id) == Role::Close) {
        last_closing.insert(node.parent, id);
    }
    let mut opened = HashSet::new();
    for (id, node) in marks() {
        match (tree.role(id), last_closing.get(&node.parent)) {
            (Role::Open, Some(closing)) => {
                opened.insert(node.parent);
                let close = tree.node(*closing).span();
                found.pairs.push(Match { open: node.span(), close, holder: node.parent });
            }
            (Role::Close, _) if opened.contains(&node.parent) => {}
            _ => found.left_over.push(node.span()),
        }
    }
    found.left_over.sort_unstable();
}

fn angle_text<'s>(code: Code<'s>, token: TokenId) -> &'s str {
    let Code { source, tree, .. } = code;
    let token = &tree.tokens()[token as usize];
    let mark = source.text().as_bytes().get(token.start as usize).copied().unwrap_or(b' ');
    let bracket = matches!(mark, b'<' | b'>' | b'|');
    if token.end - token.start != 1
        || !bracket
        || matches!(tree.role(token.node), Role::String | Role::Comment | Role::Inert)
    {
        return "";
    }
    source.slice(token.span())
}

/// A closing bracket takes the nearest open one of its shape, unless an open one between them stands further to the
/// left than it: then the closing bracket is the one too many.
fn close(
    code: Code<'_>,
    open: &mut Vec<(TokenId, u8)>,
    (token, shape): (TokenId, u8),
    found: &mut Search,
) {
    let Code { source, tree, .. } = code;
    let span = |token: TokenId| span_of(code, token);
    let Some(at) = open.iter().rposition(|(_, other)| *other == shape) else {
        return found.left_over.push(span(token));
    };
    let column = indent_of(source, span(token));
    let crossed = open[at + 1..].iter().rev().take(CROSSED_AT_MOST);
    if crossed.into_iter().any(|(other, _)| indent_of(source, span(*other)) < column) {
        return found.left_over.push(span(token));
    }
    found.left_over.extend(open.drain(at + 1..).map(|(token, _)| span(token)));
    open.truncate(at + 1);
    if let Some((opening, _)) = open.pop() {
        let holder = tree.node(tree.tokens()[opening as usize].node).parent;
        found.pairs.push(Match { open: span(opening), close: span(token), holder });
    }
}

/// Pairs of `<` and `>` or of bars that are a list's brackets.
fn angles(code: Code<'_>, found: &mut Search) {
    let tree = code.tree;
    for (index, node) in tree.nodes().iter().enumerate() {
        if node.token_end - node.first_token < 2 || tree.language().role(node.kind) != Role::List {
            continue;
        }
        let (first, last) = (node.first_token, node.token_end - 1);
        let own = |token: TokenId| tree.node(tree.tokens()[token as usize].node).parent == NodeId(index as u32);
        let texts = (angle_text(code, first), angle_text(code, last));
        if matches!(texts, ("<", ">") | ("|", "|")) && own(first) && own(last) {
            let span = |token: TokenId| tree.tokens()[token as usize].span();
            found.pairs.push(Match { open: span(first), close: span(last), holder: NodeId(index as u32) });
        }
    }
}

fn set_depths(pairs: &mut [Pair]) {
    let mut open: Vec<u32> = Vec::new();
    for pair in pairs {
        while open.last().is_some_and(|close| *close < pair.open.start) {
            open.pop();
        }
        pair.depth = open.len() as u32;
        open.push(pair.close.start);
    }
}

/// The innermost pair whose closing mark begins a line and stands elsewhere than the line that opened it.
fn culprit(source: &Source, pairs: &[Match]) -> Option<Culprit> {
    let astray = pairs.iter().filter_map(|pair| {
        let (opened, closed) = (indent_of(source, pair.open), indent_of(source, pair.close));
        let lines = (source.line(pair.open.start), source.line(pair.close.start));
        if lines.0 == lines.1 || !source.begins_line(pair.close.start) || opened == closed {
            return None;
        }
        // Closed further left: the opening mark lacks its own partner. Further right: the closing one is too many.
        let span = if closed < opened { pair.open } else { pair.close };
        Some((lines.1 - lines.0, Culprit { span, line: lines.1 }))
    });
    astray.min_by_key(|(length, _)| *length).map(|(_, culprit)| culprit)
}

fn indent_of(source: &Source, span: Span) -> usize {
    source.slice(source.line_blank(span.start)).chars().map(|c| if c == '\t' { 4 } else { 1 }).sum()
}
