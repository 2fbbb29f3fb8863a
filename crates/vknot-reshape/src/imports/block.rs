//! Runs of imports with what belongs to each.

use std::collections::BTreeSet;

use vknot_syntax::{LineEnd, NodeId, Role, Span};

use crate::items::{Item, Sequence};
use crate::keeps::keeps;
use crate::spec::Code;
use crate::spec::imports::Import;
use crate::spec::ImportSpec;

/// One import with what moves along with it.
#[derive(Clone, Debug)]
pub(crate) struct Line {
    pub node: NodeId,
    /// Comments and attributes on the lines above, as written.
    pub above: Vec<String>,
    /// The comments behind it on its line, with the white space in front.
    pub behind: Option<String>,
    /// How many blank lines were in front of it.
    pub blank: u32,
}

impl Line {
    fn of(code: Code<'_>, item: &Item, blank: u32) -> Line {
        let text = |id: &NodeId| code.tree.text_of(code.source.text(), *id).to_owned();
        let last =
            item.separator.filter(|mark| item.trails.first().is_none_or(|trail| mark < trail)).unwrap_or(item.node);
        let behind = item.trails.last().map(|trail| {
            Span::new(code.tree.node(last).end, code.tree.node(*trail).end)
        });
        Line {
            node: item.node,
            above: item.leads.iter().map(text).collect(),
            behind: behind.map(|span| code.source.slice(span).to_owned()),
            blank,
        }
    }

    /// Whether something moves along with it, so that it can be neither merged nor dropped.
    pub fn is_dressed(&self) -> bool {
        !self.above.is_empty() || self.behind.is_some()
    }

    /// What moves along and stands in front of it.
    pub fn in_front(&self, indent: &str, line_end: &str) -> String {
        self.above.iter().map(|above| format!("{indent}{above}{line_end}")).collect()
    }
}

/// An import with what goes along with it.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    pub line: Line,
    /// `None` where it is not known what it says.
    pub import: Option<Import>,
    /// As its author wrote it.
    pub written: String,
}

impl Entry {
    pub fn is_barrier(&self) -> bool {
        self.import.as_ref().is_none_or(|import| import.barrier)
    }

    /// Whether it can be put together with others.
    pub fn is_plain(&self) -> bool {
        !self.line.is_dressed() && self.import.as_ref().is_some_and(|import| !import.fixed && !import.barrier)
    }
}

/// Imports that follow one another with nothing between them but what belongs to each.
#[derive(Clone, Debug)]
pub(crate) struct Block {
    /// What holds them.
    pub holder: NodeId,
    /// From the start of the first line's first piece to the end of the last.
    pub span: Span,
    /// The white space in front of the first.
    pub indent: String,
    /// How its first line ends.
    pub line_end: &'static str,
    pub lines: Vec<Line>,
}

/// All runs of imports in a file, at any depth, and those imports that are in none since something unreadable, a comment or other code
/// shares their line.
pub(crate) fn blocks(code: Code<'_>, spec: &ImportSpec) -> (Vec<Block>, Vec<NodeId>) {
    let tree = code.tree;
    let imports = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| (spec.is_import)(code, *id));
    let holders: BTreeSet<NodeId> = imports.map(|id| tree.node(id).parent).collect();
    let (mut blocks, mut aside) = (Vec::new(), Vec::new());
    for holder in holders {
        blocks_in(code, spec, holder, &mut blocks, &mut aside);
    }
    // Those of an inner holder may stand in front of others of an outer one.
    blocks.sort_by_key(|block| block.span.start);
    (blocks, aside)
}

/// An item of a block that is not closed yet.
struct Taken {
    line: Line,
    start: u32,
    end: u32,
}

fn blocks_in(code: Code<'_>, spec: &ImportSpec, holder: NodeId, blocks: &mut Vec<Block>, aside: &mut Vec<NodeId>) {
    let Code { source, tree, .. } = code;
    let mut open: Vec<Taken> = Vec::new();
    // Inside something that cannot be read, nothing is certain.
    if tree.role(holder) != Role::File && tree.node(holder).has_error() {
        return;
    }
    let kept = keeps(code);
    for item in Sequence::of(code, holder).items {
        let start = tree.node(item.first()).start;
        let end = tree.node(item.last()).end;
        let is_import = (spec.is_import)(code, item.node);
        let tokens = tree.node(item.first()).first_token..tree.node(item.last()).token_end;
        let stays = kept.iter().any(|kept| kept.tokens.start < tokens.end && tokens.start < kept.tokens.end);
        let alone = source.begins_line(start) && source.begins_line(tree.node(item.node).start);
        let follows = || {
            let last = open.last().filter(|last| last.line.behind.is_none() && item.leads.is_empty());
            last.is_some_and(|last| source.line(last.end) == source.line(start))
        };
        // A comma behind an import is none of its own.
        let comma = item.separator.is_some_and(|mark| tree.text_of(source.text(), mark) != ";");
        let fits = is_import && !stays && !comma && !tree.node(item.node).has_error() && (alone || follows());
        if item.parted || !fits {
            close(code, holder, std::mem::take(&mut open), blocks, aside);
        }
        if fits {
            let below = open.last().map_or(0, |last| source.line(start) - source.line(last.end));
            open.push(Taken { line: Line::of(code, &item, below.saturating_sub(1)), start, end });
        } else if is_import && !stays {
            aside.push(item.node);
        }
    }
    close(code, holder, open, blocks, aside);
}

/// Makes a block of what was taken, less what shares its last line with something else.
fn close(code: Code<'_>, holder: NodeId, mut taken: Vec<Taken>, blocks: &mut Vec<Block>, aside: &mut Vec<NodeId>) {
    let source = code.source;
    let ends_line = |end: u32| {
        let rest = source.text().get(end as usize..).unwrap_or("");
        rest.lines().next().unwrap_or("").trim().is_empty()
    };
    let last_end = taken.last().map(|last| last.end);
    if let Some(end) = last_end.filter(|end| !ends_line(*end)) {
        let line = source.line(end);
        let shared = taken.partition_point(|taken| source.line(taken.end) < line);
        aside.extend(taken.drain(shared..).map(|taken| taken.line.node));
    }
    let (Some(first), Some(last)) = (taken.first(), taken.last()) else { return };
    let span = Span::new(source.line_start(first.start), last.end);
    let indent = source.slice(Span::new(span.start, first.start)).to_owned();
    let line_end = line_end(code, last.end);
    blocks.push(Block { holder, span, indent, line_end, lines: taken.into_iter().map(|taken| taken.line).collect() });
}

/// How the line ends that holds an offset.
fn line_end(code: Code<'_>, offset: u32) -> &'static str {
    let rest = code.source.text().get(offset as usize..).unwrap_or("");
    match rest.find('\n') {
        Some(end) if rest[..end].ends_with('\r') => LineEnd::CrLf.text(),
        Some(_) => LineEnd::Lf.text(),
        None => code.source.facts().line_end().text(),
    }
}
