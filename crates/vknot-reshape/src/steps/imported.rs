//! What a file imports, and what belongs to its imports.

use std::collections::BTreeMap;

use vknot_syntax::{NodeId, Role};

use crate::items::{Item, Sequence};
use crate::receipt::Receipt;
use crate::spec::Code;
use super::refusal::{Difference, Refusal, shortened};

/// Runs of tokens, in order and apart.
#[derive(Default)]
pub(super) struct Extents {
    runs: Vec<(u32, u32)>,
    /// For each run how many tokens the runs in front of it hold.
    before: Vec<u32>,
}

impl Extents {
    /// Sorts runs, and makes one of those that overlap or touch.
    pub fn of(mut runs: Vec<(u32, u32)>) -> Extents {
        runs.sort_unstable();
        let mut joined: Vec<(u32, u32)> = Vec::with_capacity(runs.len());
        for (start, end) in runs {
            match joined.last_mut().filter(|last| start <= last.1) {
                Some(last) => last.1 = last.1.max(end),
                None => joined.push((start, end)),
            }
        }
        let mut before = Vec::with_capacity(joined.len());
        joined.iter().fold(0, |held, (start, end)| {
            before.push(held);
            held + end - start
        });
        Extents { runs: joined, before }
    }

    fn run(&self, token: u32) -> Option<(u32, u32)> {
        let behind = self.runs.partition_point(|(start, _)| *start <= token);
        self.runs.get(behind.checked_sub(1)?).copied().filter(|(_, end)| token < *end)
    }

    /// Whether a token is in one.
    pub fn holds(&self, token: u32) -> bool {
        !self.runs.is_empty() && self.run(token).is_some()
    }

    /// The token itself, or the one behind the run it is in.
    pub fn behind(&self, token: u32) -> u32 {
        if self.runs.is_empty() { token } else { self.run(token).map_or(token, |(_, end)| end) }
    }

    /// How many tokens stand in front of a token, those in runs aside.
    fn outside_before(&self, token: u32) -> u32 {
        let Some(last) = self.runs.partition_point(|(start, _)| *start < token).checked_sub(1) else { return token };
        let (start, end) = self.runs[last];
        token - self.before[last] - (end.min(token) - start)
    }
}

/// The imports of a text.
pub(super) struct Imports<'a> {
    code: Code<'a>,
    items: Vec<Item>,
}

impl<'a> Imports<'a> {
    /// All imports, each with what belongs to it.
    pub fn of(code: Code<'a>) -> Imports<'a> {
        let tree = code.tree;
        let is_import = |id: &NodeId| tree.role(*id) == Role::Import;
        let mut holders: Vec<NodeId> =
            (0..tree.nodes().len() as u32).map(NodeId).filter(is_import).map(|id| tree.node(id).parent).collect();
        holders.sort_unstable();
        holders.dedup();
        let items = holders.into_iter().flat_map(|holder| Sequence::of(code, holder).items);
        Imports { code, items: items.filter(|item| is_import(&item.node)).collect() }
    }

    /// The tokens of the imports and of what goes with them.
    pub fn extents(&self) -> Extents {
        let node = |id: NodeId| self.code.tree.node(id);
        let run = |item: &Item| (node(item.first()).first_token, node(item.last()).token_end);
        Extents::of(self.items.iter().map(run).collect())
    }

    /// What each import brings in.
    fn leaves(&self, item: &Item) -> Vec<String> {
        self.code.toolkit().imports.map_or_else(Vec::new, |spec| (spec.leaves)(self.code, item.node))
    }

    fn first_token(&self, item: &Item) -> u32 {
        self.code.tree.node(item.node).first_token
    }

    /// The comments and annotations that go with an import, whatever the white space in them.
    fn dress(&self, item: &Item) -> Vec<String> {
        let Code { source, tree, .. } = self.code;
        let text = |id: &NodeId| {
            let node = tree.node(*id);
            let tokens = tree.tokens().get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
            let lines = tokens.iter().flat_map(|token| source.slice(token.span()).lines().map(str::trim));
            lines.collect::<Vec<_>>().join("\n")
        };
        item.leads.iter().chain(&item.trails).map(text).collect()
    }
}

/// What is counted: something that is imported, or a comment of an import, between which tokens that are no imports.
type Counts = BTreeMap<(u32, bool, String), i64>;

/// Compares what two texts import: the same, less what the receipt says was taken out, and nothing has passed a token that belongs to no
/// import. Comments are with the import they were with.
pub(super) fn same_imports(old: &Imports<'_>, new: &Imports<'_>, receipt: &Receipt) -> Result<(), Refusal> {
    let mut counts = Counts::new();
    count(old, 1, &mut counts);
    count(new, -1, &mut counts);
    let extents = old.extents();
    for removed in receipt.removed.iter().filter(|removed| extents.holds(removed.token)) {
        let import = old.items.iter().find(|item| old.first_token(item) == removed.token);
        let known = import.is_some_and(|import| old.leaves(import).contains(&removed.text));
        if !known {
            return Err(Refusal::at(removed.offset, Difference::Receipt { text: shortened(&removed.text) }));
        }
        let key = (extents.outside_before(removed.token), false, removed.text.clone());
        *counts.entry(key).or_default() -= 1;
    }
    match counts.into_iter().find(|(_, count)| *count != 0) {
        None => Ok(()),
        Some(((_, true, comment), _)) => Err(Refusal::at(0, Difference::Comment { comment: shortened(&comment) })),
        Some(((_, false, import), _)) => Err(Refusal::at(0, Difference::Import { import })),
    }
}

fn count(imports: &Imports<'_>, by: i64, counts: &mut Counts) {
    let extents = imports.extents();
    for item in &imports.items {
        let before = extents.outside_before(imports.first_token(item));
        let leaves = imports.leaves(item);
        let mut owner = leaves.clone();
        owner.sort_unstable();
        owner.dedup();
        for comment in imports.dress(item) {
            let owned = format!("{comment}\n{}", owner.join("\n"));
            *counts.entry((before, true, owned)).or_default() += by;
        }
        for leaf in leaves {
            *counts.entry((before, false, leaf)).or_default() += by;
        }
    }
}
