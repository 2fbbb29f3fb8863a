//! Rows: the items that one node holds, as edits take hold of them, each with its text, its separator and what trails it.

use vknot_syntax::{NodeId, Role, Span};

use crate::items::{Item, Sequence, is_separator};
use crate::looks::is_region_marker;
use crate::spec::Code;
use super::error::EditError;
use super::standing::base;
use super::wish::End;

/// An item in a row.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    /// What it is.
    pub node: NodeId,
    /// From the first of what leads it to its own end, its separator left out.
    pub body: Span,
    /// The mark that parts it from the next one.
    pub separator: Option<Span>,
    /// Comments behind it on its line.
    pub trail: Option<Span>,
}

impl Entry {
    /// One past the last byte of what belongs to it.
    pub fn end(&self) -> u32 {
        [self.separator, self.trail].into_iter().flatten().map(|span| span.end).fold(self.body.end, u32::max)
    }

    /// From the first byte of what belongs to it to the last.
    pub fn span(&self) -> Span {
        Span::new(self.body.start, self.end())
    }

    /// One past the separator, or the item where there is none.
    pub fn parted_end(&self) -> u32 {
        self.separator.map_or(self.body.end, |separator| separator.end)
    }
}

/// The items that one node holds.
#[derive(Clone, Debug)]
pub(crate) struct Row {
    /// What holds them.
    pub holder: NodeId,
    /// What is between the brackets, tags or words around them; `None` where nothing is around them.
    pub inside: Option<Span>,
    pub entries: Vec<Entry>,
    /// What parts items here, where anything does.
    pub separator: Option<&'static str>,
    /// What stands among them and stays where it is.
    pub fixed: Vec<Span>,
    /// What names a place among them, and stays, too.
    pub labels: Vec<Span>,
}

impl Row {
    /// The row that a node holds, if it holds one.
    pub fn of(code: Code<'_>, holder: NodeId) -> Option<Row> {
        let tree = code.tree;
        match kind_of(code, holder)? {
            Holding::All => Some(all(code, holder)),
            Holding::Attributes => {
                let attributes = tree.children(holder).filter(|child| tree.role(*child) == Role::Attribute);
                let plain = |node| Entry { node, body: tree.node(node).span(), separator: None, trail: None };
                let entries = attributes.map(plain).collect();
                Some(Row { holder, inside: None, entries, separator: None, fixed: Vec::new(), labels: Vec::new() })
            }
            Holding::Statements => {
                let items = Sequence::of(code, holder).items.into_iter();
                let is_item = |item: &Item| tree.role(item.node).is_item();
                let entries = items.filter(is_item).map(|item| entry(code, &item, true)).collect();
                Some(Row { holder, inside: None, entries, separator: None, fixed: Vec::new(), labels: Vec::new() })
            }
            Holding::Parted => Some(parted(code, holder)),
        }
    }

    /// The entries that some span touches, as a range; `None` where they do not cover it.
    pub fn touched(&self, span: Span) -> Option<std::ops::Range<usize>> {
        let meets = |entry: &Entry| {
            let own = entry.span();
            if span.is_empty() {
                own.start <= span.start && span.start <= entry.parted_end()
            } else {
                own.start < span.end && span.start < own.end
            }
        };
        let first = self.entries.iter().position(meets)?;
        let last = self.entries.iter().rposition(meets)?;
        // Of two that touch, the one that begins here is meant.
        let first = match span.is_empty() && last > first {
            true => last,
            false => first,
        };
        let whole = Span::new(self.entries[first].body.start, self.entries[last].end());
        whole.covers(span).then_some(first..last + 1)
    }

    /// That nothing that stays is in a span.
    pub fn passes(&self, code: Code<'_>, span: Span) -> Result<(), EditError> {
        match self.fixed.iter().find(|fixed| span.start < fixed.end && fixed.start < span.end) {
            None => Ok(()),
            Some(fixed) => Err(EditError::Fixed { what: code.source.slice(*fixed).to_owned() }),
        }
    }

    /// The row with what stays in front of the first item, or behind the last one, as if it were one, too.
    pub fn with_edge(mut self, code: Code<'_>, end: End) -> Row {
        let edge = |span: &Span| Entry { node: code.tree.covering(*span), body: *span, separator: None, trail: None };
        match end {
            End::First => {
                let first = self.entries.first().map_or(0, |entry| entry.body.start);
                let fixed = self.fixed.iter().find(|span| span.end <= first).map(edge);
                self.entries.splice(0..0, fixed);
            }
            // A mark that parts items does not stand behind what stays.
            End::Last if self.separator.is_some() => {}
            End::Last => {
                let last = self.entries.last().map_or(u32::MAX, Entry::end);
                let staying = self.fixed.iter().chain(&self.labels).filter(|span| span.start >= last);
                let edge = staying.max_by_key(|span| span.start).map(edge);
                self.entries.extend(edge);
            }
        }
        self
    }

    /// Whether one of its entries is none of its items, but stays.
    fn is_edge(&self, entry: &Entry) -> bool {
        self.fixed.contains(&entry.body) || self.labels.contains(&entry.body)
    }

    /// The white space that lines of its items begin with beside one of its entries.
    pub fn base_beside<'c>(&self, code: Code<'c>, index: usize) -> &'c str {
        let near = self.entries[..=index].iter().rev().chain(&self.entries[index..]);
        let item = near.clone().find(|entry| !self.is_edge(entry)).unwrap_or(&self.entries[index]);
        base(code, item.body.start)
    }

    /// Where what stays in front of an item ends, or what is behind it begins, if anything stays between it and its neighbour.
    pub fn staying_beside(&self, item: Span, end: End) -> Option<u32> {
        let staying = self.fixed.iter().chain(&self.labels);
        match end {
            End::First => staying.map(|span| span.end).filter(|at| *at <= item.start).max(),
            End::Last => staying.map(|span| span.start).filter(|at| *at >= item.end).min(),
        }
    }

    /// That the row can come to hold another number of items: brackets around a place in an array, or a type, hold one.
    pub fn varies(&self, code: Code<'_>, count: usize) -> Result<(), EditError> {
        let role = code.tree.role(self.holder);
        let many = role.is_sequence() || matches!(role, Role::Arm | Role::Element | Role::Form);
        let single = !many && self.inside.is_some() && self.separator.is_none() && code.toolkit().edits.listed == ",";
        if single && count != 1 { Err(EditError::Single) } else { Ok(()) }
    }

    /// Whether items stand on lines of their own.
    pub fn is_vertical(&self, code: Code<'_>) -> bool {
        self.entries.iter().any(|entry| is_vertical(code, entry))
            && self.entries.iter().all(
                |entry| code.source.begins_line(entry.body.start),
            )
    }
}

/// Whether an item has its lines to itself.
pub(crate) fn is_vertical(code: Code<'_>, entry: &Entry) -> bool {
    code.source.begins_line(entry.body.start) && ends_line(code, entry.end())
}

/// Whether nothing but white space follows on the line.
pub(crate) fn ends_line(code: Code<'_>, offset: u32) -> bool {
    let rest = code.source.text().get(offset as usize..).unwrap_or("");
    rest.split('\n').next().unwrap_or("").trim().is_empty()
}

/// How a node holds items.
enum Holding {
    /// All it holds are items, but for its brackets and separators.
    All,
    /// Its attributes are.
    Attributes,
    /// Only its statements are.
    Statements,
    /// What stands beside its commas.
    Parted,
}

fn kind_of(code: Code<'_>, holder: NodeId) -> Option<Holding> {
    let tree = code.tree;
    let role = tree.role(holder);
    if tree.node(holder).is_leaf() || role == Role::Error || role == Role::Macro {
        return None;
    }
    let mut children = tree.children(holder);
    let colon = || tree.children(holder).any(|child| {
        tree.role(child) == Role::Label || code.source.slice(tree.node(child).span()) == ":"
    });
    let attributes = || tree.children(holder).any(|child| tree.role(child) == Role::Attribute);
    let comma = || tree.children(holder).any(|child| {
        is_separator(code, child) && code.source.slice(tree.node(child).span()) == ","
    });
    match role {
        Role::Element if tree.children(holder).any(|child| tree.role(child) == Role::Open) => Some(Holding::All),
        Role::File | Role::Block | Role::Body | Role::Arguments | Role::Collection | Role::Form => Some(Holding::All),
        Role::List => Some(Holding::All),
        Role::Arm if colon() => Some(Holding::Statements),
        Role::Parenthesized | Role::Operator => None,
        _ if bracketed_form(code, holder) => Some(Holding::All),
        _ if attributes() => Some(Holding::Attributes),
        _ if children.any(|child| !tree.node(child).is_empty()) && comma() => Some(Holding::Parted),
        _ => None,
    }
}

/// Whether a node is a form with a role of its own, as a definition is where all code is forms.
fn bracketed_form(code: Code<'_>, holder: NodeId) -> bool {
    let tree = code.tree;
    let language = tree.language();
    let mut children = tree.children(holder).filter(|id| !tree.node(*id).is_empty());
    let bracket = |id: Option<NodeId>| id.and_then(|id| language.bracket(tree.node(id).kind));
    let (first, last) = (children.next(), children.last());
    let shape = |id| bracket(id).map(|bracket| (bracket.shape, bracket.opens));
    matches!((shape(first), shape(last)), (Some((open, true)), Some((close, false))) if open == close)
}

fn all(code: Code<'_>, holder: NodeId) -> Row {
    let tree = code.tree;
    let sequence = Sequence::of(code, holder);
    let around = sequence.brackets;
    let inside = around.map(|(open, close)| Span::new(tree.node(open).end, tree.node(close).start));
    let listed = matches!(tree.role(holder), Role::List | Role::Arguments | Role::Collection | Role::Form);
    let fields =
        listed || tree.role(holder) == Role::Body && sequence.items.iter().any(|item| is(code, item.separator, ","));
    let strong = fields && has_both(code, &sequence);
    let mut entries: Vec<Entry> = Vec::new();
    let mut open = false;
    let stays = code.toolkit().edits.fixed;
    let (fixed, items): (Vec<&Item>, Vec<&Item>) =
        sequence.items.iter().partition(|item| stays.contains(&tree.kind_name(item.node)));
    let fixed = fixed.iter().map(|item| tree.node(item.node).span()).collect();
    let is_label = |item: &Item| tree.role(item.node) == Role::Label;
    let labels = items.iter().filter(|item| is_label(item)).map(|item| tree.node(item.node).span()).collect();
    // A label is a place among items, not one of them.
    for item in items.into_iter().filter(|item| !is_label(item)) {
        let next = entry(code, item, !strong || is(code, item.separator, ";"));
        match entries.last_mut().filter(|_| open) {
            Some(last) => {
                last.body.end = next.body.end;
                (last.separator, last.trail) = (next.separator, next.trail);
            }
            None => entries.push(next),
        }
        // Where marks part items, what is not parted is one.
        let edits = &code.toolkit().edits;
        let comma = listed && tree.role(holder) != Role::Form && !edits.listed.is_empty() && !edits.lines_end;
        let marked = fields && (strong || comma || sequence.items.iter().any(|item| item.separator.is_some()));
        open = marked && entries.last().is_some_and(|last| last.separator.is_none());
    }
    let separator = match () {
        _ if !fields => None,
        _ if strong => Some(";"),
        _ => match entries.iter().find_map(|entry| entry.separator) {
            Some(mark) => if code.source.slice(mark) == ";" { Some(";") } else { Some(",") },
            None if entries.len() > 1 => None,
            None => code.toolkit().edits.separator(code, holder),
        },
    };
    Row { holder, inside, entries, separator, fixed, labels }
}

/// Whether both marks part items: then the stronger one does, and the other stands inside them.
fn has_both(code: Code<'_>, sequence: &Sequence) -> bool {
    let has = |mark: &str| sequence.items.iter().any(|item| is(code, item.separator, mark));
    has(",") && has(";")
}

fn is(code: Code<'_>, separator: Option<NodeId>, mark: &str) -> bool {
    separator.is_some_and(|id| code.source.slice(code.tree.node(id).span()) == mark)
}

fn entry(code: Code<'_>, item: &Item, separates: bool) -> Entry {
    let node = |id: NodeId| code.tree.node(id);
    // What marks a region stays where it is.
    let leads: Vec<NodeId> = item.heads.iter().chain(&item.leads).copied().collect();
    let marker = leads.iter().rposition(|lead| is_region_marker(code.source.slice(node(*lead).span())));
    let lead = leads.get(marker.map_or(0, |marker| marker + 1)).copied().unwrap_or(item.node);
    let start = node(lead).start.min(node(item.node).start);
    let mut end = node(item.node).end;
    let separator = item.separator.filter(|_| separates).map(|id| node(id).span());
    if let Some(mark) = item.separator.filter(|_| !separates) {
        end = end.max(node(mark).end);
    }
    // A comment in front of the separator stands inside.
    let (within, behind): (Vec<Span>, Vec<Span>) = item.trails
        .iter()
        .map(|id| node(*id).span())
        .partition(|trail| separator.is_some_and(|mark| trail.end <= mark.start));
    end = within.last().map_or(end, |last| end.max(last.end));
    let trail = behind.first().zip(behind.last()).map(|(first, last)| Span::new(first.start, last.end));
    Entry { node: item.node, body: Span::new(start, end), separator, trail }
}

/// What stands beside commas in a node that holds other things, too.
fn parted(code: Code<'_>, holder: NodeId) -> Row {
    let tree = code.tree;
    let children: Vec<NodeId> = tree.parts(holder).collect();
    let comma = |id: &NodeId| is_separator(code, *id) && code.source.slice(tree.node(*id).span()) == ",";
    let mut entries = Vec::new();
    let (first, last) = (children.iter().position(comma), children.iter().rposition(comma));
    if let (Some(first), Some(last)) = (first, last) {
        let range = children.get(first.saturating_sub(1)..(last + 2).min(children.len())).unwrap_or_default();
        let runs: Vec<&[NodeId]> = range.split(comma).collect();
        // Several nodes between two commas are not told apart.
        let single = runs.iter().all(|run| run.len() == 1) && first > 0;
        let marks: Vec<Span> = range.iter().filter(|id| comma(id)).map(|id| tree.node(*id).span()).collect();
        for (at, run) in runs.iter().enumerate().filter(|_| single) {
            if let [node] = run {
                let body = tree.node(*node).span();
                entries.push(Entry { node: *node, body, separator: marks.get(at).copied(), trail: None });
            }
        }
    }
    Row { holder, inside: None, entries, separator: Some(","), fixed: Vec::new(), labels: Vec::new() }
}
