//! Imports: sorted, grouped, merged, and where it is certain dropped. What a language does with them is in its folder;
//! here is what all share, and the proof.

mod block;

pub(crate) use block::{Block, blocks, Line};

use std::collections::BTreeMap;

use vknot_style::Style;
use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::languages::Toolkit;
use crate::proof::{Difference, Proven, read_result, Refusal};
use crate::receipt::{LeftAlone, Note, Reason, Receipt};
use crate::reshape::Reshape;

/// What a language's folder gives for imports.
pub(crate) struct ImportSpec {
    /// Puts the imports of a file in order.
    pub organize: fn(&Source, &Tree, &Style) -> Reshape,
    /// Everything that one import node brings in, each in a form that does not depend on layout, order or merging.
    pub leaves: fn(&Source, &Tree, NodeId) -> Vec<String>,
}

/// Puts the imports of a file in order. With `only`, those that the spans touch.
pub fn organize(source: &Source, tree: &Tree, style: &Style, only: Option<&[Span]>) -> Reshape {
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    let Some(spec) = Toolkit::of(tree.language()).imports else {
        let text = format!("{} has no imports", tree.language().spec().title);
        receipt.notes.push(Note { span: Span::new(0, 0), text });
        return Reshape { receipt, ..Reshape::default() };
    };
    let mut reshape = (spec.organize)(source, tree, style);
    if let Some(only) = only {
        let before = reshape.edits.len();
        reshape.edits = reshape.edits.filtered(|span, _| only.iter().any(|only| only.touches(span)));
        if reshape.edits.len() < before {
            let touched: Vec<Span> = reshape.edits.iter().map(|(span, _)| span).collect();
            reshape.receipt.removed.retain(|removed| {
                touched.iter().any(|span| span.covers(Span::new(removed.offset, removed.offset)))
            });
        }
    }
    reshape
}

/// Proves an import run: everything outside imports is the same, token by token; what is imported is the same apart from
/// what the receipt names; no comment is lost.
///
/// # Errors
/// With the first thing that differs.
pub fn prove(source: &Source, tree: &Tree, reshape: &Reshape) -> Result<Proven, Refusal> {
    let proven = read_result(source, tree, &reshape.edits)?;
    let refuse = |offset, import: String| Refusal { offset, reason: Difference::Import { import } };
    let mut left = leaves(source, tree);
    for removed in &reshape.receipt.removed {
        take_one(&mut left, &removed.text).map_err(|import| refuse(removed.offset, import))?;
    }
    for (import, count) in leaves(&proven.source, &proven.tree) {
        for _ in 0..count {
            take_one(&mut left, &import).map_err(|import| refuse(0, import))?;
        }
    }
    if let Some((import, _)) = left.into_iter().find(|(_, count)| *count > 0) {
        return Err(refuse(0, import));
    }
    same_outside(source, tree, &proven)?;
    Ok(proven)
}

fn take_one(leaves: &mut BTreeMap<String, usize>, import: &str) -> Result<(), String> {
    match leaves.get_mut(import) {
        Some(count) if *count > 0 => {
            *count -= 1;
            Ok(())
        }
        _ => Err(import.to_owned()),
    }
}

fn imports(tree: &Tree) -> impl Iterator<Item = NodeId> + '_ {
    (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.role(*id) == Role::Import)
}

fn leaves(source: &Source, tree: &Tree) -> BTreeMap<String, usize> {
    let mut counts = BTreeMap::new();
    if let Some(spec) = Toolkit::of(tree.language()).imports {
        for leaf in imports(tree).flat_map(|id| (spec.leaves)(source, tree, id)) {
            *counts.entry(leaf).or_default() += 1;
        }
    }
    counts
}

/// Compares the tokens outside imports in order. Comments may move with the imports they belong to, so they are compared
/// as a whole.
fn same_outside(source: &Source, tree: &Tree, new: &Proven) -> Result<(), Refusal> {
    let (old_code, mut old_comments) = outside(source, tree);
    let (new_code, mut new_comments) = outside(&new.source, &new.tree);
    let count = old_code.len().max(new_code.len());
    for index in 0..count {
        let (old, new) = (old_code.get(index), new_code.get(index));
        let text = |token: Option<&(u32, &str)>| token.map_or("", |token| token.1).to_owned();
        if old.map(|token| token.1) != new.map(|token| token.1) {
            let offset = old.map_or(source.span().end, |token| token.0);
            return Err(Refusal { offset, reason: Difference::Token { old: text(old), new: text(new) } });
        }
    }
    old_comments.sort_unstable();
    new_comments.sort_unstable();
    if old_comments != new_comments {
        let lost = old_comments.iter().find(|comment| !new_comments.contains(comment));
        let reason = Difference::Token { old: lost.unwrap_or(&"").to_string(), new: String::new() };
        return Err(Refusal { offset: 0, reason });
    }
    Ok(())
}

/// The tokens outside imports with their offsets, and all comments.
fn outside<'s>(source: &'s Source, tree: &Tree) -> (Vec<(u32, &'s str)>, Vec<&'s str>) {
    let (mut code, mut comments) = (Vec::new(), Vec::new());
    let mut ranges = imports(tree).map(|id| tree.node(id)).peekable();
    // Attributes of imports move with them; they are among the leaves.
    for (index, token) in tree.tokens().iter().enumerate() {
        let index = index as u32;
        while ranges.next_if(|node| node.token_end <= index).is_some() {}
        let inside = ranges.peek().is_some_and(|node| node.first_token <= index);
        let text = source.slice(token.span());
        match tree.role(token.node) {
            Role::Comment => comments.push(text),
            _ if inside || block::is_attached(tree, index) => {}
            _ => code.push((token.start, text)),
        }
    }
    (code, comments)
}
