//! The structure of a file as a tree of named items.

use std::collections::HashSet;

use vknot_syntax::{Embedded, NodeId, Role, Span, Tree};

use crate::spec::Code;

use super::blocks::{self, NamedBlock};
use super::naming::kind_words;
use super::sections;
use super::naming::whole_item;

/// A named item.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct OutlineEntry {
    /// Its name, as used in `FILE@NAME`.
    pub name: String,
    /// Its name with what tells it from its like: parameters, the trait an implementation is of.
    pub label: String,
    /// What it is, in words.
    pub kind: String,
    /// Its role.
    pub role: Role,
    /// Its bytes.
    pub span: Span,
    /// How many entries hold it.
    pub depth: u32,
    /// The index of the entry that holds it.
    pub parent: Option<usize>,
}

/// A path of names, joined by `.`.
pub type OutlinePath<'p> = &'p str;

/// All named items in the order of the file, those of embedded code below what holds them.
pub fn outline(code: Code<'_>) -> Vec<OutlineEntry> {
    let own = own_entries(code);
    let pieces = code.tree.embedded();
    if pieces.is_empty() {
        return own;
    }
    let mut merged = Merged { entries: Vec::with_capacity(own.len()), open: Vec::new(), places: Vec::new() };
    let mut pieces: Vec<(Span, &Embedded)> =
        pieces.iter().map(|piece| (code.tree.node(piece.host).span(), piece)).collect();
    pieces.sort_by_key(|(host, _)| host.start);
    let mut pieces = pieces.into_iter().peekable();
    for entry in own {
        while let Some((host, piece)) = pieces.next_if(|(host, _)| host.start < entry.span.start) {
            merged.put_in(host, piece, outline(code.piece(piece)));
        }
        merged.push(entry);
    }
    pieces.for_each(|(host, piece)| merged.put_in(host, piece, outline(code.piece(piece))));
    merged.entries
}

/// The entries of a file with those of what is embedded in it, in the order of the text.
struct Merged {
    entries: Vec<OutlineEntry>,
    /// Those of the file itself that may hold what comes next, the outermost first.
    open: Vec<usize>,
    /// Where each entry of the file itself has come to stand.
    places: Vec<usize>,
}

impl Merged {
    fn push(&mut self, entry: OutlineEntry) {
        self.close(entry.span.start);
        let place = self.entries.len();
        self.places.push(place);
        self.open.push(place);
        let parent = entry.parent.and_then(|parent| self.places.get(parent).copied());
        self.entries.push(OutlineEntry { parent, ..entry });
    }

    /// Those that end in front of an offset hold nothing more.
    fn close(&mut self, offset: u32) {
        while self.open.last().is_some_and(|last| self.entries[*last].span.end <= offset) {
            self.open.pop();
        }
    }

    /// The entries of an embedded piece, below the entry that holds it.
    fn put_in(&mut self, host: Span, piece: &Embedded, inner: Vec<OutlineEntry>) {
        self.close(host.start);
        let holder = self.open.iter().rev().copied().find(|open| self.entries[*open].span.covers(host));
        let depth = holder.map_or(0, |holder| self.entries[holder].depth + 1);
        let at = self.entries.len();
        self.entries.extend(inner.into_iter().map(|entry| OutlineEntry {
            span: piece.outer_span(entry.span),
            depth: entry.depth + depth,
            parent: entry.parent.map(|parent| parent + at).or(holder),
            ..entry
        }));
    }
}

fn own_entries(code: Code<'_>) -> Vec<OutlineEntry> {
    let tree = code.tree;
    let toolkit = code.toolkit();
    let mut walk = Walk::default();
    let mut skipped_to = 0;
    for index in 0..tree.nodes().len() as u32 {
        let id = NodeId(index);
        walk.leave(index);
        if index < skipped_to {
            continue;
        }
        if toolkit.kind(tree.node(id).kind).hides {
            skipped_to = tree.node(id).next;
        } else if tree.role(id) == Role::Lambda {
            walk.enter(tree.node(id).next, None);
        } else if let Some(role) = outlined_as(code, id) {
            walk.take(code, id, role);
        }
    }
    walk.entries
}

/// What is open at a node.
#[derive(Clone, Copy)]
struct Open {
    /// The node behind it.
    end: u32,
    /// The innermost entry.
    holder: Option<usize>,
    /// Whether a function without a name is further in than that.
    in_lambda: bool,
}

/// The entries so far, and what is open.
#[derive(Default)]
struct Walk {
    entries: Vec<OutlineEntry>,
    open: Vec<Open>,
    elements: ElementNumbers,
    /// Headings whose sections go on, with their levels.
    headings: Vec<(u32, usize)>,
    /// Variables that have an entry, by what holds them.
    assigned: HashSet<(Option<usize>, String)>,
}

impl Walk {
    fn leave(&mut self, index: u32) {
        while self.open.pop_if(|open| open.end <= index).is_some() {}
    }

    fn enter(&mut self, end: u32, entry: Option<usize>) {
        let holder = entry.or(self.open.last().and_then(|open| open.holder));
        self.open.push(Open { end, holder, in_lambda: entry.is_none() });
    }

    /// Adds the entry of a node, if it has one.
    fn take(&mut self, code: Code<'_>, id: NodeId, role: Role) {
        let tree = code.tree;
        let open = self.open.last().copied();
        let holder = open.and_then(|open| open.holder);
        let around = holder.map(|holder| &self.entries[holder]);
        let is_local = is_local_value(role, open.is_some_and(|open| open.in_lambda), around);
        if is_local || role == Role::Collection && !in_named_collection(tree, id, around) {
            return;
        }
        let block = blocks::named_block(code, id);
        let Some(name) = self.name(code, id, role, holder, block.as_ref()) else { return };
        let around = holder.map(|holder| &self.entries[holder]);
        let kind = block.map_or_else(|| kind_of(code, id, (role, &name), around), |block| block.kind.to_owned());
        let label = label_of(code, id, &name, code.toolkit().looks.details);
        let (span, parent) = self.place(code, id, role, holder);
        let depth = parent.map_or(0, |parent| self.entries[parent].depth + 1);
        if role != Role::Heading {
            self.enter(tree.node(id).next, Some(self.entries.len()));
        }
        self.entries.push(OutlineEntry { name, label, kind, role, span, depth, parent });
    }

    fn name(
        &mut self,
        code: Code<'_>,
        id: NodeId,
        role: Role,
        holder: Option<usize>,
        block: Option<&NamedBlock<'_>>,
    ) -> Option<String> {
        let tree = code.tree;
        match role {
            Role::Collection => Some(self.elements.number(tree, id).to_string()),
            Role::Cell => Some((self.elements.number(tree, id) + 1).to_string()),
            Role::Call => block.map(|block| one_line(block.name)),
            Role::Name => Some(tree.text_of(code.source.text(), id).trim_matches(['"', '\'']).to_owned()),
            Role::Assignment => variable_name(code, id).filter(|name| self.assigned.insert((holder, name.clone()))),
            _ => name_of(code, id),
        }
    }

    /// The bytes of an entry and the one that holds it: of a heading and what is below it, the heading above.
    fn place(&mut self, code: Code<'_>, id: NodeId, role: Role, holder: Option<usize>) -> (Span, Option<usize>) {
        let mut span = code.tree.node(whole_item(code, id)).span();
        if role == Role::Heading && holder.is_none() {
            let level = sections::heading_level(code, id);
            span.end = sections::end_of_section(code, id, level);
            self.headings.retain(|(open, _)| *open < level);
            let parent = self.headings.last().map(|(_, entry)| *entry);
            self.headings.push((level, self.entries.len()));
            return (span, parent);
        }
        (span, holder.or(self.headings.last().map(|(_, entry)| *entry)))
    }
}

/// What an entry is, in words; `holder` is the one around it.
fn kind_of(code: Code<'_>, id: NodeId, (role, name): (Role, &str), holder: Option<&OutlineEntry>) -> String {
    let tree = code.tree;
    let toolkit = code.toolkit();
    let in_type = holder.is_some_and(|holder| holder.role == Role::Type);
    let kind = match (role, tree.role(id)) {
        (Role::Collection, _) => "element",
        // A name for a function is one.
        (Role::Callable, Role::Member | Role::Assignment | Role::Part) => "function",
        (Role::Callable, _) if in_type && toolkit.looks.methods => "method",
        (Role::Type, Role::Member | Role::Assignment | Role::Part) => "class",
        (Role::Element, _) => tag_of(code, id).filter(|tag| *tag != name).unwrap_or("element"),
        (Role::Name, Role::Name | Role::String) =>
            toolkit.kind(tree.node(tree.node(id).parent).kind).names.unwrap_or_default(),
        (Role::Assignment, _) if in_type => "field",
        (Role::Assignment, _) if is_constant(name) => "constant",
        _ => kind_words(code, id),
    };
    kind.to_owned()
}

/// The role under which a node has an entry, if its name is one for the outline.
fn outlined_as(code: Code<'_>, id: NodeId) -> Option<Role> {
    let tree = code.tree;
    let toolkit = code.toolkit();
    let role = tree.role(id);
    let looks = toolkit.kind(tree.node(id).kind);
    if let Some(field) = looks.value {
        let value = tree.child(id, field);
        return match value.map(|value| tree.role(value)) {
            Some(Role::Lambda | Role::Callable) => Some(Role::Callable),
            Some(Role::Type) => Some(Role::Type),
            Some(Role::Call) if value.is_some_and(|value| blocks::is_wrapped(code, id, value)) => Some(Role::Callable),
            _ => (role == Role::Member).then_some(Role::Member),
        };
    }
    match role {
        Role::Type | Role::Callable | Role::Member | Role::Rule | Role::Element | Role::Cell | Role::Heading =>
            Some(role),
        Role::Collection => Some(role),
        Role::Call => toolkit.looks.named_calls.then_some(role),
        Role::Name | Role::String if toolkit.kind(tree.node(tree.node(id).parent).kind).names.is_some() =>
            Some(Role::Name),
        _ => looks.outlined.then_some(role),
    }
}

/// The name that an assignment declares, if it is nothing but a name.
fn variable_name(code: Code<'_>, id: NodeId) -> Option<String> {
    let text = code.source.slice(code.tree.name_span(id)?);
    text.chars().all(|c| c.is_alphanumeric() || c == '_').then(|| text.to_owned())
}

/// Whether a name is written like that of a constant.
fn is_constant(name: &str) -> bool {
    name.contains(char::is_uppercase) && !name.contains(char::is_lowercase)
}

/// A variable inside a callable, or a function without a name, is no part of a file's structure.
fn is_local_value(role: Role, in_lambda: bool, holder: Option<&OutlineEntry>) -> bool {
    let in_callable = holder.is_some_and(|holder| matches!(holder.role, Role::Callable | Role::Call));
    matches!(role, Role::Member | Role::Assignment) && (in_lambda || in_callable)
}

/// Whether the node is a collection among the elements of a list that has a name.
fn in_named_collection(tree: &Tree, id: NodeId, holder: Option<&OutlineEntry>) -> bool {
    let parent = tree.node(id).parent;
    let named = holder.is_none_or(|holder| matches!(holder.role, Role::Member | Role::Collection));
    let has_members = tree.children(id).any(|child| tree.role(child) == Role::Member);
    named && tree.role(parent) == Role::Collection && id.0 != 0 && has_members
}

/// Numbers the elements of lists as the walk meets them, each list's elements counted once.
#[derive(Default)]
struct ElementNumbers {
    /// For each list that is open: its node, the child to count from, the number so far.
    lists: Vec<(NodeId, u32, u32)>,
}

impl ElementNumbers {
    /// The number of a list's element, from 0.
    fn number(&mut self, tree: &Tree, id: NodeId) -> u32 {
        let list = tree.node(id).parent;
        while self.lists.last().is_some_and(|(open, _, _)| tree.node(*open).next <= list.0) {
            self.lists.pop();
        }
        if self.lists.last().is_none_or(|(open, _, _)| *open != list) {
            self.lists.push((list, list.0 + 1, 0));
        }
        let Some((_, at, count)) = self.lists.last_mut() else { return 0 };
        while *at < id.0 {
            let node = tree.node(NodeId(*at));
            *count += u32::from(tree.language().is_named(node.kind) && tree.role(NodeId(*at)) != Role::Comment);
            *at = node.next;
        }
        *count
    }
}

fn name_of(code: Code<'_>, id: NodeId) -> Option<String> {
    let Code { source, tree, .. } = code;
    let span = tree.name_span(id)?;
    let text = source.slice(span);
    let quoted = |quote: char| text.strip_prefix(quote).and_then(|text| text.strip_suffix(quote));
    let bare = quoted('"').or_else(|| quoted('\'')).unwrap_or(text);
    // An implementation for `Gauge<T>` is found as `Gauge`; what is set at `Gauge.prototype.read` as `read`.
    let bare = match tree.role(id) {
        Role::Type => bare.split('<').next().unwrap_or(bare).trim(),
        // What is qualified is found by its last name.
        Role::Assignment | Role::Callable => bare.rsplit(['.', ':']).next().unwrap_or(bare).trim(),
        _ => bare.trim(),
    };
    (!bare.is_empty()).then(|| one_line(bare))
}

fn label_of(code: Code<'_>, id: NodeId, name: &str, details: &[(&str, &[&str])]) -> String {
    let Code { source, tree, .. } = code;
    if let Some((_, fields)) = details.iter().find(|(kind, _)| *kind == tree.kind_name(id)) {
        let parts = fields.iter().filter_map(|field| tree.child_named(id, field));
        return parts.map(|part| one_line(tree.text_of(source.text(), part))).collect::<Vec<_>>().join(" for ");
    }
    match tree.role(id) {
        Role::Callable => callable_label(code, id, name),
        Role::Cell => cell_label(tree, id, name),
        Role::Assignment => tree.name_span(id).map_or(name.to_owned(), |span| one_line(source.slice(span))),
        _ => name.to_owned(),
    }
}

/// A cell's number, and its first line of code or text.
fn cell_label(tree: &Tree, id: NodeId, name: &str) -> String {
    let piece = tree.piece_in(id);
    let first = piece.and_then(|piece| piece.source.text().lines().find(|line| !line.trim().is_empty()));
    match (piece, first) {
        (Some(piece), Some(first)) => format!("{name} {}: {}", piece.tree.language().spec().title, one_line(first)),
        _ => name.to_owned(),
    }
}

/// The tag of an element.
fn tag_of<'s>(code: Code<'s>, id: NodeId) -> Option<&'s str> {
    let Code { source, tree, .. } = code;
    let opening = tree.children(id).next()?;
    let name = tree.children(opening).find(|child| tree.role(*child) == Role::Name)?;
    Some(tree.text_of(source.text(), name))
}

/// A callable's name with what qualifies it, and its parameters.
fn callable_label(code: Code<'_>, id: NodeId, name: &str) -> String {
    let Code { source, tree, .. } = code;
    let full = tree.name_span(id).map_or(name, |span| source.slice(span));
    let Some(parameters) = tree.child_named(id, "parameters") else { return one_line(full) };
    let text = tree.text_of(source.text(), parameters);
    let holds_name = tree.name_span(id).is_some_and(|name| tree.node(parameters).span().covers(name));
    match holds_name {
        // `(name argument)`: the brackets hold the name, too.
        true if text.starts_with('(') => one_line(text),
        // What stands in front of a name may be said about it.
        true => one_line(full),
        false => format!("{}{}", one_line(full), one_line(text)),
    }
}

/// White space folded, and cut to what fits beside others.
fn one_line(text: &str) -> String {
    let folded = text.split_whitespace().collect::<Vec<_>>().join(" ").replace("( ", "(").replace(" )", ")");
    match folded.char_indices().nth(72) {
        Some((cut, _)) => format!("{}…", &folded[..cut]),
        None => folded,
    }
}

/// The entries a path of names leads to. Each name may be any entry's below the one before, so steps can be left out;
/// what is called by all of the path is preferred, then a path without steps left out. A name may hold dots of its own.
pub fn find_by_name(entries: &[OutlineEntry], path: OutlinePath<'_>) -> Vec<usize> {
    let called: Vec<usize> = (0..entries.len()).filter(|index| entries[*index].name == path).collect();
    if !called.is_empty() && path.contains('.') {
        return called;
    }
    let steps = |index: usize| {
        let (mut rest, mut steps) = (Some(path), 0);
        let mut at = Some(index);
        while let (Some(wanted), Some(here)) = (rest, at) {
            match before_name(wanted, &entries[here].name) {
                Some(before) => (rest, steps) = (before, steps + 1),
                None if here == index => return None,
                None => {}
            }
            at = entries[here].parent;
        }
        rest.is_none().then_some(steps)
    };
    let found: Vec<(usize, u32)> =
        (0..entries.len()).filter_map(|index| steps(index).map(|steps| (index, steps))).collect();
    let exact: Vec<usize> =
        found.iter().filter(|(index, steps)| entries[*index].depth + 1 == *steps).map(|(index, _)| *index).collect();
    if exact.is_empty() { found.into_iter().map(|(index, _)| index).collect() } else { exact }
}

/// What is left of a path in front of its last name: `Some(None)` when it is nothing but that name.
fn before_name<'p>(path: &'p str, name: &str) -> Option<Option<&'p str>> {
    let before = path.strip_suffix(name).filter(|_| !name.is_empty())?;
    match before.strip_suffix('.') {
        _ if before.is_empty() => Some(None),
        Some(before) => Some(Some(before)),
        None => name.starts_with('.').then_some(Some(before)),
    }
}
