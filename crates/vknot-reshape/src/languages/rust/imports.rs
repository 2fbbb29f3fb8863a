//! Rust's imports: `use` trees sorted, and merged where they share a module. Nothing is ever dropped but repetitions.

use vknot_style::Style;
use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::spec::{Code, ImportSpec};
use crate::edits::Edits;
use crate::imports::{Block, blocks, Line};
use crate::layout;
use crate::receipt::{Receipt, TokenChange};
use crate::reshape::Reshape;
use super::use_tree::{self, Leaf};

pub(super) const IMPORTS: ImportSpec = ImportSpec { organize, leaves };

/// One declaration, maybe merged from several.
struct Declaration {
    line: Line,
    visibility: String,
    leaves: Vec<Leaf>,
    /// Set where it has to stay as it is written.
    verbatim: Option<String>,
}

fn leaves(code: Code<'_>, import: NodeId) -> Vec<String> {
    let tree = code.tree;
    let dress = visibility(code, import);
    match tree.child_named(import, "argument").filter(|_| tree.kind_name(import) == "use_declaration") {
        Some(argument) => {
            let leaves = use_tree::leaves(code, argument);
            leaves.iter().map(|leaf| format!("{dress}use {};", leaf.text())).collect()
        }
        None => vec![dress + &words(code, import)],
    }
}

fn words(code: Code<'_>, id: NodeId) -> String {
    let Code { source, tree, .. } = code;
    let node = tree.node(id);
    let tokens = &tree.tokens()[node.first_token as usize..node.token_end as usize];
    let code = tokens.iter().filter(|token| tree.role(token.node) != Role::Comment);
    code.map(|token| source.slice(token.span())).collect::<Vec<_>>().join(" ")
}

fn visibility(code: Code<'_>, import: NodeId) -> String {
    let tree = code.tree;
    let found = tree.children(import).find(|child| tree.kind_name(*child) == "visibility_modifier");
    found.map_or_else(
        String::new,
        |id| words(code, id).replace("( ", "(").replace(" )", ")").replace("pub (", "pub(") + " ",
    )
}

fn organize(code: Code<'_>, style: &Style) -> Reshape {
    let source = code.source;
    let mut receipt = Receipt::default();
    let mut edits = Edits::default();
    for block in blocks(code, "use_declaration") {
        let text = organize_block(code, &block, &mut receipt);
        if text != source.slice(block.span) {
            edits.push(block.span, &text);
        }
    }
    Reshape { edits: laid_out(code, style, &edits), receipt, bom: None }
}

/// The edits with the declarations they touch laid out as a layout would.
fn laid_out(code: Code<'_>, style: &Style, edits: &Edits) -> Edits {
    if edits.is_empty() {
        return Edits::default();
    }
    let text = code.source.text();
    let source = Source::from_text(code.source.path(), edits.apply(text));
    let tree = Tree::read(&source, code.tree.language());
    let mut touched = edits.new_spans().peekable();
    let is_touched = |span: &Span| {
        while touched.next_if(|touched| touched.end < span.end).is_some() {}
        touched.peek().is_some_and(|touched| touched.covers(*span))
    };
    let imports = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.role(*id) == Role::Import);
    let spans: Vec<Span> = imports.map(|id| tree.node(id).span()).filter(is_touched).collect();
    edits.then(text, &layout::inside(code.other(&source, &tree), style, &spans))
}

fn organize_block(
    code: Code<'_>,
    block: &Block,
    receipt: &mut Receipt,
) -> String {
    let Code { tree, .. } = code;
    let line_end = block.line_end;
    let mut groups: Vec<Vec<Declaration>> = Vec::new();
    for line in &block.lines {
        let declaration = declaration(code, line.clone());
        match groups.last_mut().filter(|_| !line.apart) {
            Some(group) => group.push(declaration),
            None => groups.push(vec![declaration]),
        }
    }
    // Groups that an author set apart stay apart.
    let groups = groups.into_iter().map(|group| {
        let merged = merge(tree, group, receipt);
        let texts = merged.iter().map(|declaration| {
            declaration.line.dress(&declaration.text(), &block.indent, line_end)
        });
        texts.collect::<Vec<_>>().join(line_end)
    });
    groups.collect::<Vec<_>>().join(&line_end.repeat(2))
}

fn declaration(code: Code<'_>, line: Line) -> Declaration {
    let Code { source, tree, .. } = code;
    let id = line.node;
    let node = tree.node(id);
    let has_comment = (node.first_token..node.token_end).any(|token| tree.is_comment(token));
    let argument = tree.child_named(id, "argument");
    let leaves = argument.map(|argument| use_tree::leaves(code, argument)).unwrap_or_default();
    let verbatim = (has_comment || leaves.is_empty()).then(|| tree.text_of(source.text(), id).to_owned());
    Declaration { visibility: visibility(code, id), leaves, verbatim, line }
}

/// Merges declarations of one module, drops repetitions, and sorts.
fn merge(tree: &Tree, group: Vec<Declaration>, receipt: &mut Receipt) -> Vec<Declaration> {
    let mut merged: Vec<Declaration> = Vec::new();
    for declaration in group {
        let module = |declaration: &Declaration| {
            let shared = use_tree::shared_prefix(&declaration.leaves);
            declaration.leaves.first().map(|leaf| leaf.path[..shared].to_vec()).unwrap_or_default()
        };
        let plain = |declaration: &Declaration| !declaration.line.is_dressed() && declaration.verbatim.is_none();
        let own = module(&declaration);
        let host = merged.iter_mut().find(|host| {
            plain(host) && host.visibility == declaration.visibility && !own.is_empty() && module(host) == own
        });
        match host.filter(|_| plain(&declaration)) {
            Some(host) => host.leaves.extend(declaration.leaves),
            None => merged.push(declaration),
        }
    }
    for declaration in merged.iter_mut().filter(|declaration| declaration.verbatim.is_none()) {
        drop_repetitions(tree, declaration, receipt);
    }
    merged.sort_by(|a, b| match (first(a), first(b)) {
        (Some(a), Some(b)) => home(a).cmp(&home(b)).then_with(|| use_tree::compare(a, b)),
        (a, b) => a.is_some().cmp(&b.is_some()),
    });
    merged
}

fn first(declaration: &Declaration) -> Option<&Leaf> {
    declaration.leaves.iter().min_by(|a, b| use_tree::compare(a, b))
}

/// Other crates first, then this one, from afar to near.
fn home(leaf: &Leaf) -> u8 {
    match leaf.path.first().map(String::as_str) {
        Some("crate") => 1,
        Some("super") => 2,
        Some("self") => 3,
        _ => 0,
    }
}

fn drop_repetitions(tree: &Tree, declaration: &mut Declaration, receipt: &mut Receipt) {
    let mut kept: Vec<Leaf> = Vec::new();
    let mut seen = std::collections::HashSet::new();
    for leaf in std::mem::take(&mut declaration.leaves) {
        if seen.insert(leaf.text()) {
            kept.push(leaf);
            continue;
        }
        let node = tree.node(declaration.line.node);
        let text = format!("{}use {};", declaration.visibility, leaf.text());
        receipt.removed.push(TokenChange { text, offset: node.start, token: node.first_token });
    }
    declaration.leaves = kept;
}

impl Declaration {
    /// The declaration on one line.
    fn text(&self) -> String {
        if let Some(verbatim) = &self.verbatim {
            return verbatim.clone();
        }
        let shared = use_tree::shared_prefix(&self.leaves);
        let prefix = self.leaves[0].path[..shared].join("::");
        let mut items = use_tree::items(&self.leaves, shared);
        let separator = if shared > 0 { "::" } else { "" };
        let start = format!("{}use {prefix}{separator}", self.visibility);
        let lone_self = items.len() == 1 && items[0].split(' ').next() == Some("self") && shared > 0;
        match items.len() == 1 && !lone_self {
            true => format!("{start}{};", items.remove(0)),
            false => format!("{start}{{{}}};", items.join(", ")),
        }
    }
}
