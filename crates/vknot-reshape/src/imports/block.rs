//! A run of imports with the comments and attributes that belong to each.

use vknot_syntax::{NodeId, Role, Source, Span, Tree};

/// One import with what moves along with it.
#[derive(Clone, Debug)]
pub(crate) struct Line {
    pub node: NodeId,
    /// Comments and attributes on the lines above, as written.
    pub above: Vec<String>,
    /// The comment behind it on its line.
    pub behind: Option<String>,
    /// Whether a blank line was in front of it.
    pub apart: bool,
}

impl Line {
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

/// Imports that follow one another with nothing but comments and attributes between them.
#[derive(Clone, Debug)]
pub(crate) struct Block {
    /// From the start of the first line's first piece to the end of the last.
    pub span: Span,
    /// The white space in front of the first.
    pub indent: String,
    pub lines: Vec<Line>,
}

/// All runs of imports of one kind in a file, at any depth. Runs that hold something unreadable are left out.
pub(crate) fn blocks(source: &Source, tree: &Tree, kind: &str) -> Vec<Block> {
    let holders = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| {
        let role = tree.role(*id);
        role.is_sequence() && tree.children(*id).any(|child| tree.kind_name(child) == kind)
    });
    holders.flat_map(|holder| blocks_in(source, tree, holder, kind)).collect()
}

fn blocks_in(source: &Source, tree: &Tree, holder: NodeId, kind: &str) -> Vec<Block> {
    let mut blocks: Vec<Block> = Vec::new();
    let mut open: Option<Block> = None;
    let mut above: Vec<NodeId> = Vec::new();
    for child in tree.children(holder) {
        let node = tree.node(child);
        let is_import = tree.kind_name(child) == kind && !node.has_error();
        let alone = begins_line(source, node.start);
        match tree.role(child) {
            Role::Comment if !alone => {
                // Behind an import it belongs to that.
                let own = open.as_mut().filter(|block| {
                    above.is_empty() && source.line(block.span.end) == source.line(node.start)
                });
                match (own, tree.text_of(source.text(), child).contains('\n')) {
                    (Some(block), false) => {
                        let text = tree.text_of(source.text(), child).to_owned();
                        block.span.end = node.end;
                        block.lines
                            .iter_mut()
                            .next_back()
                            .into_iter()
                            .for_each(|line| line.behind = Some(text.clone()));
                    }
                    _ => close(&mut open, &mut blocks),
                }
            }
            Role::Comment | Role::Annotation if alone => above.push(child),
            _ if is_import && (alone || node.first_token == 0) => {
                add(source, tree, &mut open, &mut blocks, child, &above);
                above.clear();
            }
            _ => {
                close(&mut open, &mut blocks);
                above.clear();
            }
        }
    }
    close(&mut open, &mut blocks);
    blocks
}

fn close(open: &mut Option<Block>, blocks: &mut Vec<Block>) {
    blocks.extend(open.take());
}

fn add(
    source: &Source,
    tree: &Tree,
    open: &mut Option<Block>,
    blocks: &mut Vec<Block>,
    import: NodeId,
    above: &[NodeId],
) {
    let text = source.text();
    // Only what touches the import from above belongs to it.
    let mut attached = Vec::new();
    let mut reached = tree.node(import).start;
    for id in above.iter().rev() {
        let node = tree.node(*id);
        if source.line(reached) > source.line(node.end) + 1 || tree.text_of(text, *id).contains('\n') {
            break;
        }
        reached = node.start;
        attached.push(tree.text_of(text, *id).to_owned());
    }
    attached.reverse();
    let detached = attached.len() < above.len();
    if detached {
        // A comment that stands by itself parts the imports above it from those below.
        close(open, blocks);
    }
    let before = open.as_ref().map(|block| source.line(block.span.end));
    let apart = before.is_some_and(|line| source.line(reached) > line + 1);
    let line = Line { node: import, above: attached, behind: None, apart };
    let end = tree.node(import).end;
    match open {
        Some(block) => {
            block.span.end = end;
            block.lines.push(line);
        }
        None => {
            let start = source.lines().start(source.lines().index_at(reached));
            let indent = Span::new(start, reached).of(text).to_owned();
            *open = Some(Block { span: Span::new(start, end), indent, lines: vec![line] });
        }
    }
}

fn begins_line(source: &Source, offset: u32) -> bool {
    let start = source.lines().start(source.lines().index_at(offset));
    Span::new(start, offset).of(source.text()).trim().is_empty()
}

/// Whether a token is part of an attribute directly in front of an import.
pub(crate) fn is_attached(tree: &Tree, token: u32) -> bool {
    let Some(token) = tree.tokens().get(token as usize) else { return false };
    // Attributes are shallow, so looking a few steps up is enough.
    let annotation = tree.ancestors(token.node).take(12).find(|id| tree.role(*id) == Role::Annotation);
    let Some(annotation) = annotation else { return false };
    let mut next = tree.node(annotation).next;
    while let Some(node) = tree.nodes().get(next as usize) {
        match tree.language().role(node.kind) {
            Role::Comment | Role::Annotation => next = node.next,
            role => return role == Role::Import && node.parent == tree.node(annotation).parent,
        }
    }
    false
}
