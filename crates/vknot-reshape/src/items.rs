//! Items: what stands in a sequence, each with what belongs to it.
//!
//! A comment belongs to the item behind it, to the one before it on its line, or to what holds it: then it never travels.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;

/// An item with what goes wherever it goes.
#[derive(Clone, Debug)]
pub(crate) struct Item {
    pub node: NodeId,
    /// Comments and annotations in front of it that belong to it.
    pub leads: Vec<NodeId>,
    /// Comments above an import that are about those that follow it, too: they stay where they are.
    pub heads: Vec<NodeId>,
    /// Comments behind it on its line.
    pub trails: Vec<NodeId>,
    /// The mark that parts it from the next one.
    pub separator: Option<NodeId>,
    /// Whether something that belongs to the holder stands between the item before and this one.
    pub parted: bool,
}

impl Item {
    /// The first node of the item: of what leads it, or itself.
    pub fn first(&self) -> NodeId {
        self.leads.first().copied().unwrap_or(self.node)
    }

    /// The last node: what trails it, its separator, or itself.
    pub fn last(&self) -> NodeId {
        [self.trails.last().copied(), self.separator].into_iter().flatten().max().unwrap_or(self.node).max(self.node)
    }
}

/// The items that one node holds.
#[derive(Clone, Debug)]
pub(crate) struct Sequence {
    /// The brackets around them.
    pub brackets: Option<(NodeId, NodeId)>,
    pub items: Vec<Item>,
}

impl Sequence {
    /// The items among the children of a node.
    pub fn of(code: Code<'_>, holder: NodeId) -> Sequence {
        let children: Vec<NodeId> = code.tree.children(holder).filter(|id| !code.tree.node(*id).is_empty()).collect();
        let brackets = brackets(code, &children);
        let inner = match brackets {
            Some((open, close)) => children.get(open + 1..close).unwrap_or_default(),
            None => &children,
        };
        let mut finder = Finder { code, items: Vec::new(), waiting: above(code, holder), parted: false };
        inner.iter().for_each(|child| finder.take(*child));
        Sequence { brackets: brackets.map(|(open, close)| (children[open], children[close])), items: finder.items }
    }
}

/// The comments that stand in front of a block without brackets: what it holds begins with its first statement.
fn above(code: Code<'_>, block: NodeId) -> Vec<NodeId> {
    let tree = code.tree;
    let bare =
        tree.role(block) == Role::Block && tree.children(block).next().is_some_and(|first| !tree.node(first).is_leaf());
    let Some(holder) = tree.parent(block).filter(|_| bare) else { return Vec::new() };
    let mut comments: Vec<NodeId> = Vec::new();
    for child in tree.children(holder).take_while(|child| *child != block) {
        match tree.role(child) {
            Role::Comment if code.source.begins_line(tree.node(child).start) => comments.push(child),
            _ => comments.clear(),
        }
    }
    comments
}

/// Where among children the brackets around items stand, or the tags or words in their place.
fn brackets(code: Code<'_>, children: &[NodeId]) -> Option<(usize, usize)> {
    let language = code.tree.language();
    let bracket = |id: &NodeId| language.bracket(code.tree.node(*id).kind);
    let text = |id: Option<&NodeId>| id.map_or("", |id| code.source.slice(code.tree.node(*id).span()));
    if matches!((text(children.first()), text(children.last())), ("<", ">") | ("|", "|")) && children.len() > 1 {
        return Some((0, children.len() - 1));
    }
    let role = |id: &NodeId| code.tree.role(*id);
    let opens = |id: &NodeId| bracket(id).is_some_and(|bracket| bracket.opens) || role(id) == Role::Open;
    let closes = |id: &NodeId| bracket(id).is_some_and(|bracket| !bracket.opens) || role(id) == Role::Close;
    let open = children.iter().position(opens)?;
    let close = children.iter().rposition(closes)?;
    (open < close).then_some((open, close))
}

/// Whether a node is a mark that parts items.
pub(crate) fn is_separator(code: Code<'_>, id: NodeId) -> bool {
    let node = code.tree.node(id);
    node.token_end - node.first_token == 1 && matches!(code.source.slice(node.span()), "," | ";")
}

struct Finder<'a> {
    code: Code<'a>,
    items: Vec<Item>,
    /// Comments and annotations that may belong to the item behind them.
    waiting: Vec<NodeId>,
    parted: bool,
}

impl Finder<'_> {
    fn take(&mut self, child: NodeId) {
        let Code { source, tree, .. } = self.code;
        let node = tree.node(child);
        match tree.role(child) {
            Role::Comment if !source.begins_line(node.start) && self.waiting.is_empty() => self.take_behind(child),
            Role::Comment | Role::Annotation => self.waiting.push(child),
            _ if is_separator(self.code, child) => match self.items.last_mut() {
                Some(item) if self.waiting.is_empty() => item.separator = Some(child),
                _ => self.part(),
            },
            _ => self.add(child),
        }
    }

    /// A comment behind something: it trails that if it ends with their line, else it leads what follows.
    fn take_behind(&mut self, comment: NodeId) {
        let Code { source, tree, .. } = self.code;
        let span = tree.node(comment).span();
        let on_line = |item: &&mut Item| source.line(tree.node(item.last()).end) == source.line(span.start);
        match self.items.last_mut().filter(on_line) {
            Some(item) if !source.slice(span).contains('\n') => item.trails.push(comment),
            Some(_) => self.part(),
            None => self.waiting.push(comment),
        }
    }

    /// Something that belongs to the holder stands here.
    fn part(&mut self) {
        self.waiting.clear();
        self.parted = true;
    }

    /// Whether comments in front of an import head those that follow: nothing but a blank line, or other code, is above them.
    fn heads_group(&self, leads: &[NodeId]) -> bool {
        let Code { source, tree, .. } = self.code;
        let Some(first) = leads.first().filter(|_| leads.iter().all(|lead| tree.role(*lead) == Role::Comment)) else {
            return false;
        };
        let above = self.items.last().filter(|item| is_import(self.code, item.node));
        above.is_none_or(|above| {
            source.line(tree.node(*first).start) > source.line(tree.node(above.last()).end) + 1
        })
    }

    fn add(&mut self, node: NodeId) {
        let mut leads = leading(self.code, node, &self.waiting);
        let mut heads = Vec::new();
        if is_import(self.code, node) && self.heads_group(&leads) {
            heads = std::mem::take(&mut leads);
        }
        let parted = self.parted || leads.len() < self.waiting.len();
        self.items.push(Item { node, leads, heads, trails: Vec::new(), separator: None, parted });
        self.waiting.clear();
        self.parted = false;
    }
}

/// Whether a node is an import.
fn is_import(code: Code<'_>, id: NodeId) -> bool {
    match code.toolkit().imports {
        Some(spec) => (spec.is_import)(code, id),
        None => code.tree.role(id) == Role::Import,
    }
}

/// Those of the comments and annotations in front of an item that belong to it, in order: what stands directly above, line by line, up to
/// the first that belongs to the holder.
pub(crate) fn leading(code: Code<'_>, item: NodeId, before: &[NodeId]) -> Vec<NodeId> {
    let Code { source, tree, .. } = code;
    let import = is_import(code, item);
    let mut leads = Vec::new();
    let mut reached = tree.node(item).start;
    for id in before.iter().rev() {
        let span = tree.node(*id).span();
        let apart = source.line(reached) > source.line(span.end) + 1;
        let trailing =
            tree.role(*id) == Role::Comment && !source.begins_line(span.start) && apart_in_line(code, span, reached);
        if apart || trailing || belongs_to_holder(code, *id, import) {
            break;
        }
        reached = span.start;
        leads.push(*id);
    }
    leads.reverse();
    leads
}

/// Whether a line ends between a span and an offset behind it.
fn apart_in_line(code: Code<'_>, span: Span, behind: u32) -> bool {
    code.source.line(span.end) != code.source.line(behind)
}

/// Whether a comment is about what holds it, not about the item behind it: inner documentation, the first line of a script, a notice of
/// rights at the top of a file, a line that compilers and editors read. In front of imports that holds for every comment of several
/// lines, too.
pub(crate) fn belongs_to_holder(code: Code<'_>, comment: NodeId, before_import: bool) -> bool {
    let Code { source, tree, .. } = code;
    let node = tree.node(comment);
    let text = source.slice(node.span());
    if tree.language().spec().holder_comments.iter().any(|mark| text.starts_with(mark)) {
        return true;
    }
    if tree.role(comment) != Role::Comment {
        return false;
    }
    let body = text.trim_start_matches(|c: char| !c.is_alphanumeric());
    let notice = || ["copyright", "licen", "spdx"].iter().any(|word| text.to_lowercase().contains(word));
    let read_by_tools = body.starts_with("-*-") || text.contains("-*-") || body.starts_with("coding");
    before_import && (text.contains('\n') || node.first_token == 0 && (notice() || read_by_tools))
}
