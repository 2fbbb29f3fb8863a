//! A `use` tree taken apart into paths, and put together again.

use vknot_syntax::{NodeId, Role, Tree};

use crate::spec::Code;
use crate::spec::imports::{BETWEEN_SEGMENTS, FIRST_SEGMENT, LAST_SEGMENT, Name};

/// One thing that a `use` declaration brings in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Leaf {
    /// The segments of its path; the last may be `self` or `*`. A path that begins with `::` has an empty first one.
    pub path: Vec<String>,
    /// The name behind `as`.
    pub alias: Option<String>,
}

/// What a node of a `use` tree brings in. Deep trees are walked without recursion.
pub(super) fn leaves(code: Code<'_>, argument: NodeId) -> Vec<Leaf> {
    let Code { source, tree, .. } = code;
    let mut leaves = Vec::new();
    let mut waiting: Vec<(NodeId, Vec<String>)> = vec![(argument, Vec::new())];
    while let Some((id, before)) = waiting.pop() {
        let segments = |node: NodeId| {
            let mut path = before.clone();
            path.extend(path_segments(code, node));
            path
        };
        match tree.kind_name(id) {
            "scoped_use_list" => {
                // `::{a}` and `{a}` have no path in front.
                let path = tree.child_named(id, "path");
                let absolute = path.is_none() && source.slice(tree.node(id).span()).starts_with("::");
                let mut prefix = path.map_or_else(|| before.clone(), segments);
                if absolute {
                    prefix.push(String::new());
                }
                waiting.extend(tree.child_named(id, "list").map(|list| (list, prefix)));
            }
            "use_list" => {
                let items: Vec<NodeId> = tree.parts(id).filter(|part| is_named(tree, *part)).collect();
                waiting.extend(items.into_iter().rev().map(|item| (item, before.clone())));
            }
            "use_wildcard" => {
                let mut path =
                    tree.parts(id).find(|part| is_named(tree, *part)).map_or_else(|| before.clone(), segments);
                path.push("*".to_owned());
                leaves.push(Leaf { path, alias: None });
            }
            "use_as_clause" => {
                let path = tree.child_named(id, "path").map_or_else(|| before.clone(), segments);
                let alias = tree.child_named(id, "alias").map(|alias| tree.text_of(source.text(), alias).to_owned());
                leaves.push(Leaf { path, alias });
            }
            _ => leaves.push(Leaf { path: segments(id), alias: None }),
        }
    }
    leaves
}

fn is_named(tree: &Tree, id: NodeId) -> bool {
    tree.language().is_named(tree.node(id).kind) && tree.role(id) != Role::Comment
}

fn path_segments(code: Code<'_>, path: NodeId) -> Vec<String> {
    let Code { source, tree, .. } = code;
    let node = tree.node(path);
    let tokens = &tree.tokens()[node.first_token as usize..node.token_end as usize];
    let mut segments: Vec<String> = Vec::new();
    for (index, token) in tokens.iter().enumerate() {
        match source.slice(token.span()) {
            "::" if index == 0 => segments.push(String::new()),
            "::" => {}
            word => segments.push(word.to_owned()),
        }
    }
    segments
}

/// One thing that is brought in, as a path of its own.
pub(super) fn text(name: &Name) -> String {
    let alias = name.alias.as_ref().map(|alias| format!(" as {alias}")).unwrap_or_default();
    format!("{}{alias}", name.path)
}

/// What a path is sorted by: `self` first, globs last, segment by segment.
pub(super) fn key(path: &str) -> String {
    let mut key = String::with_capacity(path.len());
    for (at, segment) in path.split("::").enumerate() {
        key.extend((at > 0).then_some(BETWEEN_SEGMENTS));
        match segment {
            "self" => key.push(FIRST_SEGMENT),
            "*" => key.push(LAST_SEGMENT),
            segment => key.push_str(segment),
        }
    }
    key
}

/// A piece of the text that is being made.
enum Piece {
    Leaves(usize, usize, usize),
    Text(String),
}

/// The insides of a `use` declaration that brings in these leaves, which share `prefix`, in their order. Deep trees are written without
/// recursion.
pub(super) fn items(leaves: &[Leaf], prefix: usize) -> Vec<String> {
    let sorted: Vec<&Leaf> = leaves.iter().collect();
    runs(&sorted, 0, sorted.len(), prefix).into_iter().map(|(start, end)| item(&sorted, start, end, prefix)).collect()
}

/// Leaves that follow one another and share the segment behind `prefix`.
fn runs(sorted: &[&Leaf], start: usize, end: usize, prefix: usize) -> Vec<(usize, usize)> {
    let mut runs: Vec<(usize, usize)> = Vec::new();
    for at in start..end {
        let shares = |first: usize| {
            let longer = [first, at].iter().all(|leaf| sorted[*leaf].path.len() > prefix + 1);
            longer && sorted[first].path.get(prefix) == sorted[at].path.get(prefix)
        };
        match runs.last_mut().filter(|run| shares(run.0)) {
            Some(run) => run.1 = at + 1,
            None => runs.push((at, at + 1)),
        }
    }
    runs
}

/// One item of a list: a path, or a path with a list behind it.
fn item(sorted: &[&Leaf], start: usize, end: usize, prefix: usize) -> String {
    let mut text = String::new();
    let mut waiting = vec![Piece::Leaves(start, end, prefix)];
    while let Some(piece) = waiting.pop() {
        let (start, end, prefix) = match piece {
            Piece::Text(piece) => {
                text.push_str(&piece);
                continue;
            }
            Piece::Leaves(start, end, prefix) => (start, end, prefix),
        };
        let leaf = sorted[start];
        if end - start == 1 {
            text.push_str(&leaf.path.get(prefix..).unwrap_or_default().join("::"));
            leaf.alias.iter().for_each(|alias| text.extend([" as ", alias]));
            continue;
        }
        let shared = prefix + shared_from(&sorted[start..end], prefix);
        text.push_str(&leaf.path.get(prefix..shared).unwrap_or_default().join("::"));
        text.push_str("::{");
        waiting.push(Piece::Text("}".to_owned()));
        for (index, (start, end)) in runs(sorted, start, end, shared).into_iter().enumerate().rev() {
            waiting.push(Piece::Leaves(start, end, shared));
            waiting.extend((index > 0).then(|| Piece::Text(", ".to_owned())));
        }
    }
    text
}

/// How many segments behind `prefix` all leaves share, the last segment of each left out.
fn shared_from(leaves: &[&Leaf], prefix: usize) -> usize {
    let shortest = leaves.iter().map(|leaf| leaf.path.len()).min().unwrap_or(1).saturating_sub(1);
    let same = |at: &usize| leaves.iter().all(|leaf| leaf.path.get(*at) == leaves[0].path.get(*at));
    (prefix..shortest).take_while(same).count()
}

/// How many first segments all leaves share, the last segment of each left out.
pub(super) fn shared_prefix(leaves: &[Leaf]) -> usize {
    shared_from(&leaves.iter().collect::<Vec<_>>(), 0)
}
