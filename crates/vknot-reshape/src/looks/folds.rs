//! Runs of lines that can be shown as one.

use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use super::header_start;

/// What a fold hides.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum FoldKind {
    /// A run of imports.
    Imports,
    /// A comment of several lines, or a run of line comments.
    Comment,
    /// A type.
    Type,
    /// A function or method.
    Callable,
    /// Statements between braces, or a labelled group.
    Block,
    /// An array, object, argument list or string of several lines.
    Literal,
}

impl FoldKind {
    /// All kinds, in the order in which they are listed.
    pub const ALL: [FoldKind; 6] = [
        FoldKind::Imports,
        FoldKind::Comment,
        FoldKind::Type,
        FoldKind::Callable,
        FoldKind::Block,
        FoldKind::Literal,
    ];

    /// Its name in options and output.
    pub fn name(self) -> &'static str {
        match self {
            FoldKind::Imports => "imports",
            FoldKind::Comment => "comment",
            FoldKind::Type => "type",
            FoldKind::Callable => "callable",
            FoldKind::Block => "block",
            FoldKind::Literal => "literal",
        }
    }
}

/// A run of lines that can be shown as one: its first line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Fold {
    /// What it hides.
    pub kind: FoldKind,
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

/// All folds, by first line; of two that begin on one line the longer comes first. They nest and never cross.
pub fn folds(source: &Source, tree: &Tree) -> Vec<Fold> {
    let mut found = Vec::new();
    for index in 0..tree.nodes().len() as u32 {
        let id = NodeId(index);
        if let Some(kind) = kind_of(tree, id) {
            let start = match kind {
                FoldKind::Type | FoldKind::Callable => header_start(tree, id),
                _ => tree.node(id).start,
            };
            push(&mut found, source, tree, kind, Span::new(start, tree.node(id).end), tree.node(id).token_end);
        }
        if tree.role(id).is_sequence() {
            runs(source, tree, id, &mut found);
        }
    }
    found.sort_by_key(|fold| (fold.first_line, u32::MAX - fold.last_line, fold.kind));
    found.dedup_by_key(|fold| (fold.first_line, fold.last_line));
    nest(found)
}

fn kind_of(tree: &Tree, id: NodeId) -> Option<FoldKind> {
    match tree.role(id) {
        Role::Type => Some(FoldKind::Type),
        Role::Callable => Some(FoldKind::Callable),
        Role::Block if tree.role(tree.node(id).parent) != Role::Callable || id.0 == 0 => Some(FoldKind::Block),
        Role::Arm => Some(FoldKind::Block),
        Role::Macro if !tree.node(id).is_leaf() => Some(FoldKind::Block),
        Role::Collection | Role::Arguments | Role::List | Role::String => Some(FoldKind::Literal),
        Role::Comment => Some(FoldKind::Comment),
        _ => None,
    }
}

/// How many closing marks behind a fold's end are looked through.
const CLOSERS_AT_MOST: usize = 32;

/// Adds a fold if it hides a line. What stands behind its end on the last line, other than closing marks, keeps that line open.
fn push(found: &mut Vec<Fold>, source: &Source, tree: &Tree, kind: FoldKind, span: Span, token_end: u32) {
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
        found.push(Fold { kind, first_line, last_line, depth: 0, span });
    }
}

/// Runs of imports and of line comments among a node's children.
fn runs(source: &Source, tree: &Tree, id: NodeId, found: &mut Vec<Fold>) {
    let mut run: Option<(FoldKind, NodeId, NodeId)> = None;
    let mut finish = |run: Option<(FoldKind, NodeId, NodeId)>| {
        if let Some((kind, first, last)) = run && first != last {
            let span = Span::new(tree.node(first).start, tree.node(last).end);
            push(found, source, tree, kind, span, tree.node(last).token_end);
        }
    };
    for child in tree.children(id) {
        let kind = match tree.role(child) {
            Role::Import => FoldKind::Imports,
            Role::Comment if is_line_comment(source, tree, child) => FoldKind::Comment,
            _ if tree.node(child).is_empty() => continue,
            _ => {
                finish(run.take());
                continue;
            }
        };
        run = match run {
            Some((was, first, last)) if was == kind && continues(source, tree, kind, last, child) => {
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

fn is_line_comment(source: &Source, tree: &Tree, id: NodeId) -> bool {
    let prefix = tree.language().spec().line_comment;
    !prefix.is_empty() && tree.text_of(source.text(), id).starts_with(prefix)
}

/// Line comments run on while each stands alone on the next line; imports may have blank lines between them.
fn continues(source: &Source, tree: &Tree, kind: FoldKind, last: NodeId, next: NodeId) -> bool {
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
