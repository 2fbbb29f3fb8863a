//! The nested selections around a place, from the word under it outwards.

use vknot_syntax::{contents_span, Embedded, NodeId, Role, Span, word_span_at};

use crate::spec::Code;

use super::naming::kind_words;
use super::naming::with_attached;

/// One selection of a ladder.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Rung {
    /// What it holds, in words.
    pub kind: String,
    /// Its bytes.
    pub span: Span,
}

/// The ladder around a span: every rung covers it, and each is larger than the one before.
///
/// For a place between tokens the ladder starts from the token next to it. A file without tokens has one rung, the
/// file.
pub fn ladder(code: Code<'_>, at: Span) -> Vec<Rung> {
    let Code { source, tree, .. } = code;
    let mut rungs = Rungs { list: Vec::new(), at };
    let inside = tree.embedded().iter().find_map(|piece| {
        let inner = Span::new(piece.inner(at.start)?, piece.inner(at.end)?);
        (piece.span().covers(at) && inner.start <= inner.end).then_some((piece, inner))
    });
    if let Some((piece, inner)) = inside {
        return through(code, piece, inner);
    }
    let at = settle(code, at);
    rungs.at = at;
    let inner = match tree.token_at(at.start).filter(|_| at.is_empty() || tree.covering(at).0 != 0) {
        Some(token) if tree.tokens()[token as usize].span().covers(at) => tree.tokens()[token as usize].node,
        _ => tree.covering(at),
    };
    if tree.node(inner).is_leaf() {
        token_rungs(code, inner, at, &mut rungs);
    }
    for id in tree.ancestors(inner) {
        node_rungs(code, id, &mut rungs);
    }
    rungs.add("file", source.span());
    rungs.list
}

/// The ladder inside an embedded piece, then from what holds the piece outwards.
fn through(code: Code<'_>, piece: &Embedded, at: Span) -> Vec<Rung> {
    let Code { source, tree, .. } = code;
    let mut rungs = Rungs { list: Vec::new(), at: piece.outer_span(at) };
    let mut inner = ladder(code.piece(piece), at);
    if let Some(whole) = inner.last_mut() {
        whole.kind = format!("{} code", piece.tree.language().spec().title);
    }
    for rung in inner {
        rungs.add(&rung.kind, piece.outer_span(rung.span));
    }
    for id in tree.ancestors(piece.host) {
        node_rungs(code, id, &mut rungs);
    }
    rungs.add("file", source.span());
    rungs.list
}

struct Rungs {
    list: Vec<Rung>,
    at: Span,
}

impl Rungs {
    /// Adds a rung if it covers the place and is larger than all before.
    fn add(&mut self, kind: &str, span: Span) {
        let grows = self.list.last().is_none_or(|last| span.covers(last.span) && span.len() > last.span.len());
        if grows && span.covers(self.at) && !span.is_empty() {
            self.list.push(Rung { kind: kind.to_owned(), span });
        }
    }
}

/// Moves an empty place in white space to the nearest token: the next one on its line, else the one before.
fn settle(code: Code<'_>, at: Span) -> Span {
    let Code { source, tree, .. } = code;
    if !at.is_empty() || tree.tokens().is_empty() {
        return at;
    }
    if let Some(token) = tree.token_at(at.start) {
        let span = tree.tokens()[token as usize].span();
        // Between two tokens that touch, a word is what a person means.
        let next = tree.tokens().get(token as usize + 1).filter(|next| next.start == at.start);
        let word = |span: Span| source.slice(span).starts_with(|c: char| c.is_alphanumeric() || c == '_');
        return match next {
            Some(next) if span.end == at.start && (word(next.span()) || !word(span)) => {
                Span::new(next.start, next.start)
            }
            _ => at,
        };
    }
    let next = tree.tokens().get(tree.token_from(at.start) as usize);
    let before = tree.token_from(at.start).checked_sub(1).and_then(|index| tree.tokens().get(index as usize));
    let same_line = |offset: u32| source.line(offset) == source.line(at.start);
    match (next, before) {
        (Some(next), _) if same_line(next.start) => Span::new(next.start, next.start),
        (_, Some(before)) if same_line(before.end) => Span::new(before.end, before.end),
        // A blank line belongs to what is around it.
        _ => at,
    }
}

/// The word, the contents of a string, the whole token.
fn token_rungs(code: Code<'_>, id: NodeId, at: Span, rungs: &mut Rungs) {
    let Code { source, tree, .. } = code;
    let span = tree.node(id).span();
    let role = tree.role(id);
    if matches!(role, Role::String | Role::Comment) {
        if let Some(word) = word_span_at(source.text(), span, at.start) {
            rungs.add("word", word);
        }
        if role == Role::String && let Some(contents) = contents_span(source.text(), span) {
            rungs.add("string contents", contents);
        }
    } else if let Some(word) = word_span_at(source.text(), span, at.start).filter(|word| *word != span) {
        rungs.add("word", word);
    }
    let kind = match role {
        Role::String => "string",
        Role::Comment => "comment",
        Role::Literal => "literal",
        _ if source.slice(span).starts_with(|c: char| c.is_alphabetic() || c == '_') => "word",
        _ => "symbol",
    };
    // A bracket alone is nothing a person selects.
    if !matches!(source.slice(span), "(" | ")" | "[" | "]" | "{" | "}" | "," | ";") {
        rungs.add(kind, span);
    }
    if role == Role::Comment {
        comment_run(code, id, rungs);
    }
}

/// Line comments directly above and below one another are one piece.
fn comment_run(code: Code<'_>, id: NodeId, rungs: &mut Rungs) {
    let Code { source, tree, .. } = code;
    let Some(parent) = tree.parent(id) else { return };
    let mut run: Option<Span> = None;
    for child in tree.children(parent) {
        let span = tree.node(child).span();
        let comment = tree.role(child) == Role::Comment;
        let joins = |run: Span| comment && source.line(span.start) == source.line(run.end) + 1;
        run = match run {
            Some(run) if joins(run) => Some(Span::new(run.start, span.end)),
            Some(run) if run.covers(tree.node(id).span()) => {
                return rungs.add("comments", run);
            }
            _ => comment.then_some(span),
        };
    }
    if let Some(run) = run.filter(|run| run.covers(tree.node(id).span())) {
        rungs.add("comments", run);
    }
}

/// The rungs one node gives: what is between its brackets, itself, itself with what belongs to it.
fn node_rungs(code: Code<'_>, id: NodeId, rungs: &mut Rungs) {
    let tree = code.tree;
    let node = tree.node(id);
    let role = tree.role(id);
    let parent_role = tree.role(node.parent);
    if role == Role::File || node.is_leaf() {
        return;
    }
    if let Some(contents) = between_brackets(code, id) {
        rungs.add(&format!("{} contents", noun(code, id)), contents);
    }
    let item_of_list = matches!(parent_role, Role::Arguments | Role::List | Role::Collection);
    if role != Role::Part || item_of_list {
        let kind = match parent_role {
            Role::Arguments if role != Role::Error => "argument".to_owned(),
            Role::List if role == Role::Part => "parameter".to_owned(),
            _ => noun(code, id),
        };
        rungs.add(&kind, node.span());
    }
    if matches!(role, Role::Type | Role::Callable | Role::Member | Role::Rule) {
        let kind = format!("{} with its comment", noun(code, id));
        rungs.add(&kind, with_attached(code, id));
    }
}

/// What a role is called on a ladder.
fn noun(code: Code<'_>, id: NodeId) -> String {
    let tree = code.tree;
    match tree.role(id) {
        Role::Block => "block".to_owned(),
        Role::Body => "body".to_owned(),
        Role::Arguments => "argument list".to_owned(),
        Role::List => "list".to_owned(),
        Role::Call => "call".to_owned(),
        Role::Statement => "statement".to_owned(),
        Role::Link => "access".to_owned(),
        Role::Operator => "operation".to_owned(),
        Role::Parenthesized => "parentheses".to_owned(),
        Role::Error => "unreadable piece".to_owned(),
        _ => kind_words(code, id).to_owned(),
    }
}

/// From behind a node's opening bracket to before its closing one, blanks at the edges left out.
fn between_brackets(code: Code<'_>, id: NodeId) -> Option<Span> {
    let Code { source, tree, .. } = code;
    let node = tree.node(id);
    let (first, last) = (
        tree.tokens().get(node.first_token as usize)?,
        tree.tokens().get(node.token_end as usize - 1)?,
    );
    let matched = matches!(
        (source.slice(first.span()), source.slice(last.span())),
        ("(", ")") | ("[", "]") | ("{", "}") | ("<", ">") | ("|", "|")
    );
    // Both brackets must be the node's own, as against `(a) + (b)`.
    let own = first.node.0 == id.0 + 1 && tree.node(last.node).parent == id;
    if !(matched && own) || node.token_end - node.first_token < 3 {
        return None;
    }
    let inner = tree.tokens().get(node.first_token as usize + 1)?.start;
    let end = tree.tokens().get(node.token_end as usize - 2)?.end;
    Some(Span::new(inner, end))
}
