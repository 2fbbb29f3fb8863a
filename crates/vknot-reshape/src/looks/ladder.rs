//! The nested selections around a place, from the word under it outwards.

use vknot_syntax::{contents_span, Embedded, NodeId, Role, Span, word_span_at};

use crate::spec::Code;
use crate::spec::inner::NESTED_AT_MOST;

use super::naming::{attached, header_start, kind_words};
use super::sections::{end_of_section, heading_level};

/// One selection of a ladder.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Rung {
    /// What it holds, in words.
    pub kind: String,
    /// Its bytes.
    pub span: Span,
    /// Where it begins to say what it is: behind comments and annotations.
    pub head: u32,
    /// What the node is whose bytes they are, if they are one's.
    pub role: Role,
}

impl Rung {
    /// Whether it is what a person calls by this word: its own kind, or one of the words that all languages share.
    pub fn is_called(&self, word: &str) -> bool {
        let roles: &[Role] = match word {
            "type" => &[Role::Type],
            "function" | "method" => &[Role::Callable, Role::Lambda],
            "member" => &[Role::Member, Role::Callable, Role::Type],
            "statement" => &[Role::Statement, Role::Branch],
            "block" => &[Role::Block, Role::Body],
            "element" => &[Role::Element],
            "list" => &[Role::List, Role::Arguments, Role::Collection],
            "form" => &[Role::Form],
            "rule" => &[Role::Rule],
            _ => &[],
        };
        self.kind == word || roles.contains(&self.role)
    }
}

/// The ladder around a span: every rung covers it, and each is larger than the one before.
///
/// For a place between tokens the ladder starts from the token next to it. A file without tokens has one rung, the
/// file.
pub fn ladder(code: Code<'_>, at: Span) -> Vec<Rung> {
    within(code, at, NESTED_AT_MOST)
}

/// The ladder, with the code inside tokens so many levels deep.
fn within(code: Code<'_>, at: Span, levels: usize) -> Vec<Rung> {
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
        inside_rungs(code, inner, levels, &mut rungs);
        token_rungs(code, inner, at, &mut rungs);
    }
    for id in tree.ancestors(inner) {
        node_rungs(code, id, &mut rungs);
    }
    rungs.add("file", source.span());
    rungs.list
}

/// The ladder in code inside a token.
fn inside_rungs(code: Code<'_>, id: NodeId, levels: usize, rungs: &mut Rungs) {
    let at = rungs.at;
    let all = if levels == 0 { Vec::new() } else { (code.toolkit().looks.inside)(code.source, code.tree, id) };
    // Between two pieces, the one behind is meant, as it is with words.
    let Some(inner) = all.iter().rfind(|inner| inner.whole().covers(at)) else { return };
    let piece = inner.read(code.source, code.tree, id);
    if let (true, Some(from), Some(to)) = (inner.span.covers(at), piece.inner(at.start), piece.inner(at.end)) {
        for rung in within(code.piece(&piece), Span::new(from, to), levels - 1) {
            let span = piece.outer_span(rung.span);
            let head = piece.outer_span(Span::new(rung.head, rung.head)).start;
            let own = inner.span.covers(span) && span != inner.span;
            if own && span.len() == rung.span.len() {
                rungs.add_node(&rung.kind, span, head, rung.role);
            }
        }
    }
    rungs.add(inner.word, inner.span);
    if !inner.open.is_empty() {
        rungs.add("interpolation", inner.whole());
    }
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
        let head = piece.outer_span(Span::new(rung.head, rung.head)).start;
        rungs.add_node(&rung.kind, piece.outer_span(rung.span), head, rung.role);
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
        self.add_node(kind, span, span.start, Role::Part);
    }

    /// The same, with where it begins to say what it is.
    fn add_node(&mut self, kind: &str, span: Span, head: u32, role: Role) {
        let grows = self.list.last().is_none_or(|last| span.covers(last.span) && span.len() > last.span.len());
        if grows && span.covers(self.at) && !span.is_empty() {
            self.list.push(Rung { kind: kind.to_owned(), span, head, role });
        }
    }
}

/// Moves an empty place in white space to the nearest token: the next one on its line, else the one before.
pub(crate) fn settle(code: Code<'_>, at: Span) -> Span {
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
        _ if code.toolkit().kind(tree.node(id).kind).has_word => kind_words(code, id),
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
        documented(code, id, rungs);
    }
}

/// The item a comment in front of it says something about.
fn documented(code: Code<'_>, id: NodeId, rungs: &mut Rungs) {
    let tree = code.tree;
    let mut at = tree.node(id).next;
    let end = tree.parent(id).map_or(0, |parent| tree.node(parent).next);
    while at < end {
        let next = NodeId(at);
        if !matches!(tree.role(next), Role::Comment | Role::Annotation) {
            let inner = wrapped_item(code, next);
            if has_rung_with_comment(tree.role(inner)) {
                attached_rung(code, inner, rungs);
            }
            return;
        }
        at = tree.node(next).next;
    }
}

/// The item that a node says more about, or the node.
fn wrapped_item(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let mut inner = id;
    while code.toolkit().kind(tree.node(inner).kind).wraps {
        let item = tree.children(inner).find(|child| {
            has_rung_with_comment(tree.role(*child)) || code.toolkit().kind(tree.node(*child).kind).wraps
        });
        match item {
            Some(item) => inner = item,
            None => break,
        }
    }
    inner
}

fn has_rung_with_comment(role: Role) -> bool {
    matches!(role, Role::Type | Role::Callable | Role::Member | Role::Rule)
}

/// An item with the comments, annotations and wrappers that belong to it.
fn attached_rung(code: Code<'_>, id: NodeId, rungs: &mut Rungs) {
    let attached = attached(code, id);
    let kind = match attached.commented {
        true => format!("{} with its comment", noun(code, id)),
        false => format!("whole {}", noun(code, id)),
    };
    rungs.add_node(&kind, attached.span, header_start(code.tree, id), Role::Part);
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
    if let Some(contents) = between_brackets(code, id).or_else(|| between_tags(code, id)) {
        rungs.add(&format!("{} contents", noun(code, id)), contents);
    }
    let item_of_list = matches!(parent_role, Role::Arguments | Role::List | Role::Collection);
    if role != Role::Part || item_of_list || code.toolkit().kind(node.kind).is_rung {
        let kind = match parent_role {
            Role::Arguments if role != Role::Error => "argument".to_owned(),
            Role::List if role == Role::Part => "parameter".to_owned(),
            _ => noun(code, id),
        };
        rungs.add_node(&kind, node.span(), header_start(tree, id), role);
    }
    if has_rung_with_comment(role) {
        attached_rung(code, id, rungs);
    }
    match role {
        Role::Heading => {
            let level = heading_level(code, id);
            rungs.add("section", Span::new(node.start, end_of_section(code, id, level)));
        }
        _ if code.toolkit().has_headings => outer_runs(code, id, rungs),
        _ => {}
    }
}

/// In prose, the list an item is one of, and the sections something stands in.
fn outer_runs(code: Code<'_>, id: NodeId, rungs: &mut Rungs) {
    let tree = code.tree;
    let Some(parent) = tree.parent(id) else { return };
    let here = tree.node(id).span();
    let mut list: Option<Span> = None;
    let mut headings: Vec<(u32, NodeId)> = Vec::new();
    for child in tree.children(parent) {
        let span = tree.node(child).span();
        match tree.role(child) {
            Role::Arm => list = Some(Span::new(list.map_or(span.start, |list| list.start), span.end)),
            _ if list.is_some_and(|list| list.covers(here)) => break,
            _ => list = None,
        }
    }
    if let Some(list) = list.filter(|list| list.covers(here)) {
        rungs.add("list", list);
    }
    for child in tree.children(parent).take_while(|child| child.0 < id.0) {
        if tree.role(child) == Role::Heading {
            let level = heading_level(code, child);
            headings.retain(|(other, _)| *other < level);
            headings.push((level, child));
        }
    }
    for (level, heading) in headings.into_iter().rev() {
        rungs.add("section", Span::new(tree.node(heading).start, end_of_section(code, heading, level)));
    }
}

/// What a role is called on a ladder.
fn noun(code: Code<'_>, id: NodeId) -> String {
    let tree = code.tree;
    if code.toolkit().kind(tree.node(id).kind).has_word {
        return kind_words(code, id).to_owned();
    }
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

/// What is between the tags of an element.
fn between_tags(code: Code<'_>, id: NodeId) -> Option<Span> {
    let tree = code.tree;
    let element = Some(id).filter(|id| tree.role(*id) == Role::Element)?;
    let opening = tree.children(element).find(|child| tree.role(*child) == Role::Open)?;
    let closing = tree.children(element).filter(|child| tree.role(*child) == Role::Close).last()?;
    let first = tree.tokens().get(tree.node(opening).token_end as usize)?;
    let last = tree.tokens().get((tree.node(closing).first_token as usize).checked_sub(1)?)?;
    (first.start < last.end && first.start >= tree.node(opening).end).then_some(Span::new(first.start, last.end))
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
