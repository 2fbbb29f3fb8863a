//! Finding the runs of imports in a file.

use std::collections::BTreeSet;

use vknot_syntax::{LineEnd, NodeId, Role, Span};

use crate::items::Sequence;
use crate::keeps::keeps;
use crate::spec::Code;
use crate::spec::ImportSpec;
use super::block::{Block, Line};
use super::places;

/// All runs of imports in a file, at any depth, and those imports that are in none since something unreadable, a comment or other code
/// shares their line.
pub(crate) fn blocks(code: Code<'_>, spec: &ImportSpec) -> (Vec<Block>, Vec<NodeId>) {
    let tree = code.tree;
    let imports = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| (spec.is_import)(code, *id));
    let holders: BTreeSet<NodeId> = imports.map(|id| tree.node(id).parent).collect();
    let (mut blocks, mut aside) = (Vec::new(), Vec::new());
    for holder in holders {
        match spec.in_forms {
            true => places::blocks_in(code, spec, holder, &mut blocks),
            false => blocks_in(code, spec, holder, &mut blocks, &mut aside),
        }
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
    let lines = taken.into_iter().map(|taken| taken.line).collect();
    blocks.push(Block { holder, span, indent, line_end, lines, places: Vec::new() });
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
