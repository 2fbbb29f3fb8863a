//! What a reader of Racket does not take though ours, which holds any text, does (The Racket Reference, on its reader).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "form", is_sound: dots_stand_between },
    Law::Sound { holder: "vector", is_sound: pairs_or_plain },
    Law::Sound { holder: "quoted", is_sound: has_datum },
    Law::Sound { holder: "skipped", is_sound: has_datum },
    Law::Sound { holder: "directive", is_sound: comes_first },
];

/// What a form holds: its brackets, comments and what is skipped left out.
pub(crate) fn data<'c>(code: Code<'c>, form: NodeId) -> impl Iterator<Item = NodeId> + 'c {
    let tree = code.tree;
    let counts = move |part: &NodeId| {
        let bracket = tree.language().bracket(tree.node(*part).kind).is_some();
        !bracket && tree.role(*part) != Role::Comment && tree.kind_name(*part) != "skipped"
    };
    tree.parts(form).filter(counts)
}

/// Where the dots of a form stand among what it holds, and how much that is.
fn dots(code: Code<'_>, form: NodeId) -> (Vec<usize>, usize) {
    let held: Vec<NodeId> = data(code, form).collect();
    let is_dot = |(at, part): (usize, &NodeId)| (code.text(*part) == ".").then_some(at);
    (held.iter().enumerate().filter_map(is_dot).collect(), held.len())
}

/// A dot has something in front of it, and one thing behind it.
pub(crate) fn one_dot(code: Code<'_>, form: NodeId) -> bool {
    match dots(code, form) {
        (dots, _) if dots.is_empty() => true,
        (dots, count) => dots.len() == 1 && dots[0] > 0 && dots[0] + 2 == count,
    }
}

/// The same; or two dots have one thing between them, which comes first.
fn dots_stand_between(code: Code<'_>, form: NodeId) -> bool {
    match dots(code, form) {
        (dots, count) if dots.len() == 2 => dots[0] > 0 && dots[0] + 2 == dots[1] && dots[1] + 1 < count,
        _ => one_dot(code, form),
    }
}

/// No dot stands in a vector; a table holds pairs.
fn pairs_or_plain(code: Code<'_>, vector: NodeId) -> bool {
    match code.text(vector).starts_with("#hash") {
        true => data(code, vector).all(|part| dots(code, part).0.len() == 1),
        false => no_dot(code, vector),
    }
}

/// What says which language a file is in stands in front of all but comments.
fn comes_first(code: Code<'_>, directive: NodeId) -> bool {
    let tree = code.tree;
    let first = || tree.parts(tree.root()).find(|part| tree.role(*part) != Role::Comment);
    !code.text(directive).starts_with("#lang") || first() == Some(directive)
}

pub(crate) fn no_dot(code: Code<'_>, vector: NodeId) -> bool {
    dots(code, vector).0.is_empty()
}

/// A prefix has something behind it; what tells something of another has that, too.
pub(crate) fn has_datum(code: Code<'_>, prefixed: NodeId) -> bool {
    let skips = code.tree.kind_name(prefixed) == "skipped";
    if skips {
        return code.tree.parts(prefixed).filter(|part| code.tree.role(*part) != Role::Comment).count() > 1;
    }
    let mut held = data(code, prefixed);
    let tells = held.next().is_some_and(|prefix| matches!(code.text(prefix), "^" | "#^"));
    held.count() > usize::from(tells)
}
