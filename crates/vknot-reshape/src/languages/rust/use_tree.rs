//! A `use` tree taken apart into paths, and put together again.

use std::cmp::Ordering;

use vknot_syntax::{NodeId, Role, Tree};

use crate::spec::Code;

/// One thing that a `use` declaration brings in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Leaf {
    /// The segments of its path; the last may be `self` or `*`. A path that begins with `::` has an empty first one.
    pub path: Vec<String>,
    /// The name behind `as`.
    pub alias: Option<String>,
}

impl Leaf {
    /// The leaf as one path.
    pub fn text(&self) -> String {
        let alias = self.alias.as_ref().map(|alias| format!(" as {alias}")).unwrap_or_default();
        format!("{}{alias}", self.path.join("::"))
    }
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

/// `self` first, then by letters, capitals counting only between equals; globs last.
pub(super) fn compare(a: &Leaf, b: &Leaf) -> Ordering {
    let rank = |segment: &str| match segment {
        "self" => 0,
        "*" => 2,
        _ => 1,
    };
    let key = |leaf: &Leaf| -> Vec<(u8, String, String)> {
        leaf.path.iter().map(|segment| (rank(segment), segment.to_lowercase(), segment.clone())).collect()
    };
    key(a).cmp(&key(b)).then_with(|| a.alias.cmp(&b.alias))
}

/// The inside of a `use` declaration that brings in these leaves, which share `prefix`, each list sorted.
pub(super) fn items(leaves: &[Leaf], prefix: usize) -> Vec<String> {
    let mut sorted: Vec<&Leaf> = leaves.iter().collect();
    sorted.sort_by(|a, b| compare(a, b));
    let mut out = Vec::new();
    let mut at = 0;
    while let Some(leaf) = sorted.get(at) {
        let rest = leaf.path.get(prefix..).unwrap_or(&[]);
        let same_head = |other: &&&Leaf| other.path.get(prefix) == rest.first() && other.path.len() > prefix + 1;
        let run = sorted[at..].iter().take_while(same_head).count();
        if rest.len() < 2 || run < 2 {
            let short = Leaf { path: rest.to_vec(), alias: leaf.alias.clone() };
            out.push(short.text());
            at += 1;
            continue;
        }
        let group: Vec<Leaf> = sorted[at..at + run].iter().map(|leaf| (*leaf).clone()).collect();
        let shared = shared_prefix(&group);
        let head = group[0].path[prefix..shared].join("::");
        out.push(format!("{head}::{{{}}}", items(&group, shared).join(", ")));
        at += run;
    }
    out
}

/// How many first segments all leaves share, the last segment of each left out.
pub(super) fn shared_prefix(leaves: &[Leaf]) -> usize {
    let Some(first) = leaves.first() else { return 0 };
    let shortest = leaves.iter().map(|leaf| leaf.path.len()).min().unwrap_or(1) - 1;
    (0..shortest).take_while(|at| leaves.iter().all(|leaf| leaf.path[*at] == first.path[*at])).count()
}
