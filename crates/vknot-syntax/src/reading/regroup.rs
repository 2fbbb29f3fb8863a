//! Nodes that a grammar makes too wide: it takes `a + f<T>(b).c` for a link of a call of `a + f`, and `await f<T>(b)` for a call of
//! `await f`. The tree is written anew, with them in the last part of what they begin with.

use crate::language::{Field, Kind};
use crate::reader::TooWide;
use crate::role::Role;
use crate::tree::{NodeId, Tree, TreeBuilder};

/// What is still to be written.
enum Task {
    Whole(NodeId, Field),
    Open(Kind, Field),
    Close,
}

/// The tree with such nodes where they belong; `None` where it has none.
pub(super) fn regrouped(text: &str, tree: &Tree, rule: &TooWide) -> Option<Tree> {
    let writer = Writer::new(tree, rule);
    writer.wide.contains(&true).then(|| writer.written(text))
}

struct Writer<'t> {
    tree: &'t Tree,
    /// Kinds that a node begins with which is too wide.
    first: Vec<Kind>,
    /// For each node whether it is too wide, or begins with one that is.
    wide: Vec<bool>,
}

impl<'t> Writer<'t> {
    fn new(tree: &'t Tree, rule: &TooWide) -> Self {
        let language = tree.language();
        let kinds = |names: &[&str]| -> Vec<Kind> { names.iter().filter_map(|name| language.kind(name)).collect() };
        let (own, links, with) = (language.kind(rule.kind), kinds(rule.links), language.kind(rule.with));
        let mut writer = Writer { tree, first: kinds(rule.first), wide: vec![false; tree.nodes().len()] };
        // Parts stand behind what holds them, so that they are known in front of it.
        for (at, node) in tree.nodes().iter().enumerate().rev() {
            let id = NodeId(at as u32);
            let (own, link) = (Some(node.kind) == own, links.contains(&node.kind));
            let Some(first) = tree.children(id).next().filter(|_| own || link) else { continue };
            let begins = own
                && writer.last_of(first).is_some()
                && tree.children(id).any(|part| Some(tree.node(part).kind) == with);
            writer.wide[at] = begins || link && writer.is_wide(first);
        }
        writer
    }

    fn is_wide(&self, id: NodeId) -> bool {
        self.wide.get(id.0 as usize).copied().unwrap_or(false)
    }

    /// The last part of a node of one of those kinds, if that is code.
    fn last_of(&self, id: NodeId) -> Option<NodeId> {
        let is_code = |last: &NodeId| self.tree.role(*last) != Role::Comment && !self.tree.node(*last).is_missing();
        self.tree.children(id).last().filter(|last| self.first.contains(&self.tree.node(id).kind) && is_code(last))
    }

    fn written(&self, text: &str) -> Tree {
        let tree = self.tree;
        let mut builder = TreeBuilder::new(text, tree.language());
        let mut tasks = vec![self.whole(NodeId(0))];
        while let Some(task) = tasks.pop() {
            let (id, field) = match task {
                Task::Open(kind, field) => {
                    builder.open(kind, field);
                    continue;
                }
                Task::Close => {
                    builder.close();
                    continue;
                }
                Task::Whole(id, field) => (id, field),
            };
            let node = tree.node(id);
            if node.is_missing() {
                builder.missing(node.kind, field);
            } else if node.is_leaf() {
                builder.leaf(node.kind, field, node.start, node.end);
            } else {
                let from = tasks.len();
                match self.is_wide(id) {
                    true => self.narrow(id, field, &mut tasks),
                    false => {
                        builder.open(node.kind, field);
                        tasks.extend(tree.children(id).map(|part| self.whole(part)));
                        tasks.push(Task::Close);
                    }
                }
                tasks[from..].reverse();
            }
        }
        builder.finish()
    }

    fn whole(&self, id: NodeId) -> Task {
        Task::Whole(id, self.tree.node(id).field)
    }

    /// What is written for a node that is too wide: what it begins with, and in the last part of that the node itself.
    fn narrow(&self, id: NodeId, field: Field, tasks: &mut Vec<Task>) {
        let tree = self.tree;
        // From the outermost link to the call, and on to what that is a call of.
        let begins = |id: &NodeId| tree.children(*id).next();
        let links: Vec<NodeId> = std::iter::successors(Some(id), begins).take_while(|id| self.is_wide(*id)).collect();
        let mut first = links.last().and_then(begins);
        let of_first = first.map_or(Field(0), |first| tree.node(first).field);
        let (mut closes, mut outer) = (0, field);
        while let Some((whole, last)) = first.and_then(|first| Some((first, self.last_of(first)?))) {
            tasks.push(Task::Open(tree.node(whole).kind, outer));
            tasks.extend(tree.children(whole).filter(|part| *part != last).map(|part| self.whole(part)));
            (closes, outer, first) = (closes + 1, tree.node(last).field, Some(last));
        }
        for (index, link) in links.iter().enumerate() {
            let field = if index == 0 { outer } else { tree.node(*link).field };
            tasks.push(Task::Open(tree.node(*link).kind, field));
        }
        tasks.extend(first.map(|first| Task::Whole(first, of_first)));
        for link in links.iter().rev() {
            tasks.extend(tree.children(*link).skip(1).map(|part| self.whole(part)));
            tasks.push(Task::Close);
        }
        tasks.extend((0..closes).map(|_| Task::Close));
    }
}
