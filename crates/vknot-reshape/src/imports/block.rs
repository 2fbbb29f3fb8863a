//! Runs of imports with what belongs to each.

use vknot_syntax::{LineEnd, NodeId, Span};

use crate::items::{Item, Sequence};
use crate::keeps::keeps;
use crate::spec::Code;

/// One import with what moves along with it.
#[derive(Clone, Debug)]
pub(crate) struct Line {
    pub node: NodeId,
    /// Comments and attributes on the lines above, as written.
    pub above: Vec<String>,
    /// The comments behind it on its line.
    pub behind: Option<String>,
    /// Whether a blank line was in front of it.
    pub apart: bool,
}

impl Line {
    fn of(code: Code<'_>, item: &Item, apart: bool) -> Line {
        let text = |id: &NodeId| code.tree.text_of(code.source.text(), *id).to_owned();
        let behind: Vec<String> = item.trails.iter().map(text).collect();
        Line {
            node: item.node,
            above: item.leads.iter().map(text).collect(),
            behind: (!behind.is_empty()).then(|| behind.join(" ")),
            apart,
        }
    }

    /// Whether something moves along with it, so that it can be neither merged nor dropped.
    pub fn is_dressed(&self) -> bool {
        !self.above.is_empty() || self.behind.is_some()
    }

    /// The lines of the import as it will be written, with what moves along.
    pub fn dress(&self, import: &str, indent: &str, line_end: &str) -> String {
        let mut lines: Vec<String> = self.above.iter().map(|above| format!("{indent}{above}")).collect();
        let behind = self.behind.as_ref().map(|comment| format!(" {comment}")).unwrap_or_default();
        lines.push(format!("{indent}{import}{behind}"));
        lines.join(line_end)
    }
}

/// Imports that follow one another with nothing between them but what belongs to each.
#[derive(Clone, Debug)]
pub(crate) struct Block {
    /// From the start of the first line's first piece to the end of the last.
    pub span: Span,
    /// The white space in front of the first.
    pub indent: String,
    /// How its first line ends.
    pub line_end: &'static str,
    pub lines: Vec<Line>,
}

/// All runs of imports of one kind in a file, at any depth. Runs that hold something unreadable are left out.
pub(crate) fn blocks(code: Code<'_>, kind: &str) -> Vec<Block> {
    let tree = code.tree;
    let holders = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| {
        let role = tree.role(*id);
        role.is_sequence() && tree.children(*id).any(|child| tree.kind_name(child) == kind)
    });
    let mut blocks: Vec<Block> = holders.flat_map(|holder| blocks_in(code, holder, kind)).collect();
    // Those of an inner holder may stand in front of others of an outer one.
    blocks.sort_by_key(|block| block.span.start);
    blocks
}

fn blocks_in(code: Code<'_>, holder: NodeId, kind: &str) -> Vec<Block> {
    let Code { source, tree, .. } = code;
    let mut blocks: Vec<Block> = Vec::new();
    let mut open: Option<Block> = None;
    let kept = keeps(code);
    for item in Sequence::of(code, holder).items {
        let start = tree.node(item.first()).start;
        let end = tree.node(item.last()).end;
        let sound = tree.kind_name(item.node) == kind && !tree.node(item.node).has_error();
        let tokens = tree.node(item.first()).first_token..tree.node(item.last()).token_end;
        let stays = kept.iter().any(|kept| kept.tokens.start < tokens.end && tokens.start < kept.tokens.end);
        let sound = sound && !stays;
        let alone = source.begins_line(start) && source.begins_line(tree.node(item.node).start);
        if item.parted || !sound || !alone {
            blocks.extend(open.take());
        }
        if !sound || !alone {
            continue;
        }
        let block = open.get_or_insert_with(|| {
            let span = Span::new(source.line_start(start), end);
            let indent = source.slice(Span::new(span.start, start)).to_owned();
            Block { span, indent, line_end: line_end(code, end), lines: Vec::new() }
        });
        let apart = !block.lines.is_empty() && source.line(start) > source.line(block.span.end) + 1;
        block.lines.push(Line::of(code, &item, apart));
        block.span.end = end;
    }
    blocks.extend(open);
    blocks
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
