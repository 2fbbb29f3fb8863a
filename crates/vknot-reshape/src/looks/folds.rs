//! Runs of lines that can be shown as one.

use vknot_syntax::{Embedded, NodeId, Role, Source, Span, Tree};

use crate::spec::Code;

use crate::spec::looks::Construct;
use super::comments;
use super::naming::named_start;
use super::marks::Marks;
use super::regions;
use super::sections;

/// What a fold hides.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum FoldKind {
    /// A run of imports.
    Imports,
    /// A comment of several lines, or a run of line comments.
    Comment,
    /// Lines between region markers.
    Region,
    /// A heading and what is below it.
    Section,
    /// A type.
    Type,
    /// A function or method.
    Callable,
    /// Statements between braces, a labelled group, a style rule.
    Block,
    /// An array, object, argument list, form or string of several lines.
    Literal,
    /// An element of markup.
    Element,
    /// A cell of a notebook.
    Cell,
    /// A pinned span.
    Pin,
}

impl FoldKind {
    /// All kinds with their names in options and output, in the order in which they are listed.
    pub const ALL: [(FoldKind, &'static str); 11] = [
        (FoldKind::Imports, "imports"),
        (FoldKind::Comment, "comment"),
        (FoldKind::Region, "region"),
        (FoldKind::Section, "section"),
        (FoldKind::Type, "type"),
        (FoldKind::Callable, "callable"),
        (FoldKind::Block, "block"),
        (FoldKind::Literal, "literal"),
        (FoldKind::Element, "element"),
        (FoldKind::Cell, "cell"),
        (FoldKind::Pin, "pin"),
    ];

    /// Its name in options and output.
    pub fn name(self) -> &'static str {
        Self::ALL.iter().find(|(kind, _)| *kind == self).map_or("", |(_, name)| name)
    }
}

/// A run of lines that can be shown as one: its first line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Fold {
    /// What it hides.
    pub kind: FoldKind,
    /// What a block belongs to.
    pub construct: Option<Construct>,
    /// The line that stays, from 1.
    pub first_line: u32,
    /// The last line that is hidden, from 1; always behind the first.
    pub last_line: u32,
    /// How many folds hold it.
    pub depth: u32,
    /// The bytes from where it begins to where it ends.
    pub span: Span,
}

impl Fold {
    /// How many lines a closed fold hides.
    pub fn hidden(&self) -> u32 {
        self.last_line - self.first_line
    }

    /// Whether a line is the fold's first or one of those it hides.
    pub fn holds(&self, line: u32) -> bool {
        self.first_line <= line && line <= self.last_line
    }
}

/// All folds that the structure gives; see [`folds_with`].
pub fn folds(code: Code<'_>) -> Vec<Fold> {
    folds_with(code, &Marks::default())
}

/// All folds, by first line; of two that begin on one line the longer comes first. They nest and never cross: of two
/// that would, the later one is left out.
pub fn folds_with(code: Code<'_>, marks: &Marks) -> Vec<Fold> {
    let source = code.source;
    let mut found = structural(code);
    let regions = regions::regions(code, marks).regions.into_iter();
    let marked = regions.map(|region| (FoldKind::Region, region.span()));
    let cells = cells(code.tree);
    let sections = sections::sections(code, marks).into_iter();
    let sections = sections.map(|section| (FoldKind::Section, over_cells(&cells, section.span)));
    let pins = marks.pins.iter().map(|pin| (FoldKind::Pin, pin.span));
    for (kind, span) in marked.chain(sections).chain(pins) {
        let (first_line, last_line) = source.line_range(span);
        if last_line > first_line {
            found.push(Fold { kind, construct: None, first_line, last_line, depth: 0, span });
        }
    }
    found.sort_by_key(|fold| (fold.first_line, u32::MAX - fold.last_line, fold.kind));
    // A pin counts beside what it pins.
    found.dedup_by_key(|fold| (fold.first_line, fold.last_line, fold.kind == FoldKind::Pin));
    nest(found)
}

/// The cells of a notebook.
fn cells(tree: &Tree) -> Vec<Span> {
    let nodes = (0..tree.nodes().len() as u32).map(NodeId);
    nodes.filter(|id| tree.role(*id) == Role::Cell).map(|id| tree.node(id).span()).collect()
}

/// A section of a notebook with all of its first and last cell, as cells are not parted.
fn over_cells(cells: &[Span], section: Span) -> Span {
    let first = cells.iter().find(|cell| cell.covers(Span::new(section.start, section.start)));
    let last = cells.iter().rfind(|cell| cell.start < section.end);
    match first.zip(last) {
        Some((first, last)) => Span::new(first.start, last.end),
        None => section,
    }
}

/// What the tree gives, and the trees of embedded pieces.
fn structural(code: Code<'_>) -> Vec<Fold> {
    let Code { source, tree, .. } = code;
    let mut found = Vec::new();
    for index in 0..tree.nodes().len() as u32 {
        let id = NodeId(index);
        if let Some(kind) = kind_of(tree, id) {
            let span = Span::new(first_byte(code, id, kind), tree.node(id).end);
            push(&mut found, code, kind, span, tree.node(id).token_end);
            if kind == FoldKind::Block && let Some(last) = found.last_mut().filter(|last| last.span == span) {
                last.construct = construct_of(code, id);
            }
        }
        if index == 0
            || tree.role(id).is_sequence()
            || matches!(tree.role(id), Role::Form | Role::Element | Role::Arm)
        {
            runs(code, id, &mut found);
        }
    }
    for piece in tree.embedded() {
        let inner = structural(code.piece(piece));
        let moved = inner.iter().map(|fold| moved(source, piece, fold));
        found.extend(moved.filter(|fold| fold.last_line > fold.first_line));
    }
    found
}

/// The fold of an embedded piece, on the lines of the file.
fn moved(source: &Source, piece: &Embedded, fold: &Fold) -> Fold {
    let line = |number: u32| {
        let span = piece.source.lines().span(piece.source.text(), number - 1);
        let blank = piece.source.slice(span).len() - piece.source.slice(span).trim_start().len();
        source.line(piece.outer(span.start + blank as u32))
    };
    Fold {
        first_line: line(fold.first_line),
        last_line: line(fold.last_line),
        span: piece.outer_span(fold.span),
        ..*fold
    }
}

fn kind_of(tree: &Tree, id: NodeId) -> Option<FoldKind> {
    match tree.role(id) {
        Role::Type => Some(FoldKind::Type),
        Role::Callable => Some(FoldKind::Callable),
        Role::Block if id.0 != 0 => match tree.role(tree.node(id).parent) {
            Role::Callable => None,
            Role::Lambda => Some(FoldKind::Callable),
            _ => Some(FoldKind::Block),
        },
        // The parts of a unit.
        Role::Body if tree.role(tree.node(id).parent) == Role::File => Some(FoldKind::Section),
        Role::Body if !matches!(tree.role(tree.node(id).parent), Role::Type | Role::Rule) => Some(FoldKind::Block),
        Role::Branch if !has_block(tree, id) || begins_with_word(tree, id) => Some(FoldKind::Block),
        Role::Block | Role::Arm | Role::Rule => Some(FoldKind::Block),
        Role::Macro if !tree.node(id).is_leaf() => Some(FoldKind::Block),
        Role::Collection | Role::Arguments | Role::List | Role::String | Role::Form => Some(FoldKind::Literal),
        Role::Comment => Some(FoldKind::Comment),
        Role::Element => Some(FoldKind::Element),
        Role::Cell => Some(FoldKind::Cell),
        _ => None,
    }
}

/// Whether the parts of a branch fold by themselves.
fn has_block(tree: &Tree, id: NodeId) -> bool {
    tree.children(id).any(|child| matches!(tree.role(child), Role::Block | Role::Body | Role::Arm))
}

/// Whether a word opens the branch that another one closes.
fn begins_with_word(tree: &Tree, id: NodeId) -> bool {
    tree.children(id).next().is_some_and(|first| tree.role(first) == Role::Open)
}

/// Where a fold's first line is: types and callables are shown by their header, what is a block by indentation alone by
/// the line that announces it.
fn first_byte(code: Code<'_>, id: NodeId, kind: FoldKind) -> u32 {
    let tree = code.tree;
    let node = tree.node(id);
    match kind {
        FoldKind::Type | FoldKind::Callable => named_start(code, id),
        FoldKind::Block if tree.role(id) == Role::Block => {
            let first = tree.tokens().get(node.first_token as usize);
            let begins = first.is_some_and(|token| {
                let own = tree.node(token.node).parent == id;
                own
                    && (tree.node(token.node).end - token.start == 1 || tree.role(token.node) == Role::Open)
                    && tree.role(token.node) != Role::Name
            });
            let before = node.first_token.checked_sub(1).and_then(|before| tree.tokens().get(before as usize));
            match before.filter(|_| !begins && id.0 != 0) {
                Some(token) if tree.role(token.node) != Role::Comment => token.start,
                _ => node.start,
            }
        }
        _ => node.start,
    }
}

/// How far above a block the construct it belongs to is looked for.
const LEVELS_TO_CONSTRUCT: usize = 3;

/// What a block belongs to: the nearest branch around it.
fn construct_of(code: Code<'_>, id: NodeId) -> Option<Construct> {
    let tree = code.tree;
    let toolkit = code.toolkit();
    for holder in tree.ancestors(id).take(LEVELS_TO_CONSTRUCT) {
        let construct = toolkit.kind(tree.node(holder).kind).construct;
        if construct.is_some() {
            return construct;
        }
        if holder != id && matches!(tree.role(holder), Role::Block | Role::Callable | Role::Body | Role::Branch) {
            return None;
        }
    }
    None
}

/// Bytes of a short span.
const SHORT: u32 = 120;

/// How many closing marks behind a fold's end are looked through.
const CLOSERS_AT_MOST: usize = 32;

/// Adds a fold if it hides a line. What stands behind its end on the last line, other than closing marks, keeps that line open.
fn push(found: &mut Vec<Fold>, code: Code<'_>, kind: FoldKind, span: Span, token_end: u32) {
    let Code { source, tree, .. } = code;
    // A short span is looked through faster than its lines are looked up.
    if span.len() <= SHORT && !source.slice(span).as_bytes().contains(&b'\n') {
        return;
    }
    let (first_line, mut last_line) = source.line_range(span);
    if last_line == first_line {
        return;
    }
    let line_end = source.lines().span(source.text(), last_line - 1).end;
    let behind = tree.tokens()[(token_end as usize).min(tree.tokens().len())..].iter();
    let closing = |text: &str| text.chars().all(|c| matches!(c, ')' | ']' | '}' | ',' | ';' | '>' | '?'));
    let open = behind
        .take_while(|token| token.start < line_end)
        .take(CLOSERS_AT_MOST)
        .find(|token| !closing(source.slice(token.span())))
        .is_some_and(|token| tree.role(token.node) != Role::Comment);
    last_line -= u32::from(open);
    if last_line > first_line {
        found.push(Fold { kind, construct: None, first_line, last_line, depth: 0, span });
    }
}

/// Runs of imports and of line comments among a node's children.
fn runs(code: Code<'_>, id: NodeId, found: &mut Vec<Fold>) {
    let Code { source, tree, .. } = code;
    let mut run: Option<(FoldKind, NodeId, NodeId)> = None;
    let mut finish = |run: Option<(FoldKind, NodeId, NodeId)>| {
        if let Some((kind, first, last)) = run && first != last {
            let span = Span::new(tree.node(first).start, tree.node(last).end);
            push(found, code, kind, span, tree.node(last).token_end);
        }
    };
    for child in tree.children(id) {
        let kind = match tree.role(child) {
            Role::Import => FoldKind::Imports,
            Role::Comment if comments::is_line_comment(code, child) => FoldKind::Comment,
            _ if tree.node(child).is_empty() || source.slice(tree.node(child).span()) == ";" => continue,
            _ => {
                finish(run.take());
                continue;
            }
        };
        run = match run {
            Some((was, first, last)) if was == kind && continues(code, kind, last, child) => {
                Some((kind, first, child))
            }
            other => {
                finish(other);
                Some((kind, child, child))
            }
        };
    }
    finish(run);
}

/// Line comments run on while each stands alone on the next line; imports may have blank lines between them.
fn continues(code: Code<'_>, kind: FoldKind, last: NodeId, next: NodeId) -> bool {
    let Code { source, tree, .. } = code;
    let (start, end) = (tree.node(next).start, tree.node(last).end);
    kind == FoldKind::Imports || source.line(start) == source.line(end) + 1
}

/// Sets depths, and drops what would cross the fold around it.
fn nest(found: Vec<Fold>) -> Vec<Fold> {
    let mut open: Vec<u32> = Vec::new();
    let mut nested = Vec::with_capacity(found.len());
    for mut fold in found {
        while open.last().is_some_and(|last| *last < fold.first_line) {
            open.pop();
        }
        if open.last().is_some_and(|last| *last < fold.last_line) {
            continue;
        }
        fold.depth = open.len() as u32;
        open.push(fold.last_line);
        nested.push(fold);
    }
    nested
}
