//! What a file's own indentation is, told from its structure, so that the answer is the same after a layout as before.

use std::collections::BTreeMap;

use vknot_style::Indentation;
use vknot_syntax::{Role, Source, Tree};

/// The indentation most items have against the line that opened what holds them; `None` when no item tells.
pub fn indentation(source: &Source, tree: &Tree) -> Option<Indentation> {
    let (mut tabs, mut sizes) = (0u32, BTreeMap::<usize, u32>::new());
    for (index, node) in tree.nodes().iter().enumerate() {
        let role = tree.language().role(node.kind);
        if !matches!(role, Role::Block | Role::Body | Role::Collection) || node.is_empty() || node.has_error() {
            continue;
        }
        let id = vknot_syntax::NodeId(index as u32);
        let Some(first) = tree.parts(id).nth(1).filter(|item| begins_line(source, tree.node(*item).start)) else {
            continue;
        };
        let (outer, inner) = (blank_before(source, node.start), blank_before(source, tree.node(first).start));
        match inner.strip_prefix(outer) {
            Some(added) if added.starts_with('\t') => tabs += 1,
            Some(added) if !added.is_empty() => *sizes.entry(added.len()).or_default() += 1,
            _ => {}
        }
    }
    let most = sizes.into_iter().max_by_key(|(size, votes)| (*votes, std::cmp::Reverse(*size)));
    let (size, votes) = most.or((tabs > 0).then_some((0, 0)))?;
    let tabs = tabs > votes;
    let size = if tabs { 4 } else { size.min(16) as u32 };
    Some(Indentation { tabs, size, tab_width: size })
}

/// The white space at the start of the line that holds a byte.
fn blank_before(source: &Source, offset: u32) -> &str {
    let line = source.lines().start(source.lines().index_at(offset));
    let rest = source.text().get(line as usize..).unwrap_or("");
    &rest[..rest.len() - rest.trim_start_matches([' ', '\t']).len()]
}

fn begins_line(source: &Source, offset: u32) -> bool {
    let line = source.lines().index_at(offset);
    line > 0 && source.lines().start(line) + blank_before(source, offset).len() as u32 == offset
}
