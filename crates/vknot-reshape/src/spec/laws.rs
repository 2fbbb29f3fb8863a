//! What a compiler does not take though its grammar, as it is read here, does: an import in a block, a block with nothing in it.
//!
//! Edits that move code are held to it, as they are to the grammar.

use std::collections::HashMap;

use vknot_syntax::{Kind, NodeId, Role};

use super::Code;
pub(crate) use super::toolkit::Law;

impl Law {
    fn holders(&self) -> Vec<&'static str> {
        match self {
            Law::Holds { holder, .. } | Law::Order { holder, .. } | Law::Sound { holder, .. } => vec![holder],
            Law::Filled { kinds, .. }
            | Law::Names { kinds, .. }
            | Law::Parted { kinds, .. }
            | Law::Barred { kinds, .. }
            | Law::Within { kinds, .. } => kinds.to_vec(),
        }
    }

    /// Where a node does not keep it.
    fn breaches(&self, code: Code<'_>, id: NodeId) -> Vec<u32> {
        let tree = code.tree;
        let start = |id: NodeId| tree.node(id).start;
        let named = || {
            tree.parts(id)
                .filter(|part| tree.language().is_named(tree.node(*part).kind) && tree.role(*part) != Role::Error)
        };
        match self {
            // Once for a holder: a piece of a file that breaks it anyway can be edited, too.
            Law::Holds { kinds, roles, .. } => named()
                .filter(|part| !kinds.contains(&tree.kind_name(*part)) && !roles.contains(&tree.role(*part)))
                .map(start)
                .take(1)
                .collect(),
            Law::Order { ranks, .. } => {
                let rank = |part: NodeId| {
                    ranks.iter().position(|kinds| kinds.contains(&tree.kind_name(part))).unwrap_or(ranks.len())
                };
                let mut reached = 0;
                named()
                    .filter(|part| {
                        let own = rank(*part);
                        let behind = own < reached;
                        reached = reached.max(own);
                        behind
                    })
                    .map(start)
                    .collect()
            }
            Law::Filled { field, .. } => {
                let filled = tree.child_named(id, field).is_some_and(|held| !tree.node(held).is_empty());
                (!filled).then(|| start(id)).into_iter().collect()
            }
            Law::Names { words, .. } => {
                let word = code.source.slice(tree.node(id).span());
                words.contains(&word).then(|| start(id)).into_iter().collect()
            }
            Law::Parted { marks, last, .. } => bare_marks(code, id, marks, *last),
            Law::Within { holders, callables, .. } => {
                (!is_within(code, id, holders, *callables)).then(|| start(id)).into_iter().collect()
            }
            Law::Barred { holders, .. } => {
                let barred = tree.parent(id).is_some_and(|holder| holders.contains(&tree.kind_name(holder)));
                barred.then(|| start(id)).into_iter().collect()
            }
            Law::Sound { is_sound, .. } => (!is_sound(code, id)).then(|| start(id)).into_iter().collect(),
        }
    }
}

/// Whether what makes values of a type is called as that is.
pub(crate) fn named_as_type(code: Code<'_>, constructor: NodeId) -> bool {
    let tree = code.tree;
    let name = |id: NodeId| tree.name_span(id).map(|span| code.source.slice(span));
    let holder = tree.ancestors(constructor).skip(1).find(|id| tree.role(*id) == Role::Type);
    holder.is_none_or(|holder| name(holder) == name(constructor))
}

/// Whether conditions of a preprocessor are whole: every `endif` and `else` has its `if`. The words are those behind the `#`.
pub(crate) fn conditions_balance<'t>(mut words: impl Iterator<Item = &'t str>) -> bool {
    let mut open: Vec<bool> = Vec::new();
    let sound = words.all(|word| match word {
        _ if word.starts_with("if") => {
            open.push(false);
            true
        }
        _ if word.starts_with("endif") => open.pop().is_some(),
        _ if word.starts_with("elif") => open.last() == Some(&false),
        _ if word.starts_with("else") => open.last_mut().is_some_and(|last| !std::mem::replace(last, true)),
        _ => true,
    });
    sound && open.is_empty()
}

/// Whether a node stands in a holder, before anything that it cannot reach out of.
fn is_within(code: Code<'_>, id: NodeId, holders: &[&[&str]], callables: bool) -> bool {
    let tree = code.tree;
    for above in tree.ancestors(id).skip(1) {
        match tree.role(above) {
            _ if holders.iter().any(|kinds| kinds.contains(&tree.kind_name(above))) => return true,
            Role::Callable | Role::Lambda => return callables,
            Role::Type => return false,
            _ => {}
        }
    }
    false
}

/// The marks that part nothing.
fn bare_marks(code: Code<'_>, list: NodeId, marks: &[&str], last: bool) -> Vec<u32> {
    let tree = code.tree;
    let closes = |id: NodeId| tree.language().bracket(tree.node(id).kind).is_some_and(|bracket| !bracket.opens);
    let opens = |id: NodeId| tree.language().bracket(tree.node(id).kind).is_some_and(|bracket| bracket.opens);
    let mark = |id: NodeId| marks.contains(&code.text(id));
    let mut found = Vec::new();
    let mut before: Option<NodeId> = None;
    for part in tree.parts(list) {
        let parted = before.is_some_and(mark);
        let bare = mark(part) && (parted || before.is_none_or(opens));
        if bare || closes(part) && parted && !last {
            found.push(tree.node(part).start);
        }
        before = Some(part);
    }
    found
}

/// The laws of a file's language, each with the byte offsets where the file does not keep it. Well-formed code keeps all of them: a law that
/// it does not keep would only be in the way of edits.
pub fn laws_kept(code: Code<'_>) -> Vec<(String, Vec<u32>)> {
    let name = |law: &Law| match law {
        Law::Holds { holder, .. } => format!("{holder} holds"),
        Law::Order { holder, .. } => format!("order in {holder}"),
        Law::Filled { kinds, field } => format!("{field} of {}", kinds.join(", ")),
        Law::Names { kinds, .. } => format!("names in {}", kinds.join(", ")),
        Law::Parted { kinds, .. } => format!("marks in {}", kinds.join(", ")),
        Law::Within { kinds, .. } => format!("place of {}", kinds.join(", ")),
        Law::Barred { kinds, .. } => format!("holders of {}", kinds.join(", ")),
        Law::Sound { holder, .. } => holder.to_string(),
    };
    let laws = code.toolkit().edits.laws;
    laws.iter().enumerate().map(|(at, law)| format!("{}. {}", at + 1, name(law))).zip(breaches(code)).collect()
}

/// Where a text does not keep the laws of its language: for each law, in their order.
pub(crate) fn breaches(code: Code<'_>) -> Vec<Vec<u32>> {
    let laws = code.toolkit().edits.laws;
    let language = code.tree.language();
    let mut by_kind: HashMap<Kind, Vec<usize>> = HashMap::new();
    for (number, law) in laws.iter().enumerate() {
        for kind in law.holders().into_iter().filter_map(|name| language.kind(name)) {
            by_kind.entry(kind).or_default().push(number);
        }
    }
    let mut found = vec![Vec::new(); laws.len()];
    for (at, node) in code.tree.nodes().iter().enumerate().filter(|_| !laws.is_empty()) {
        for number in by_kind.get(&node.kind).into_iter().flatten() {
            found[*number].extend(laws[*number].breaches(code, NodeId(at as u32)));
        }
    }
    found
}
