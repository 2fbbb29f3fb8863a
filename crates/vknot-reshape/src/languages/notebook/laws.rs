//! What makes a notebook's text JSON (RFC 8259), which its reader does not ask for.

use vknot_syntax::NodeId;

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "object", is_sound: members },
    Law::Sound { holder: "cell", is_sound: members },
    Law::Sound { holder: "array", is_sound: values },
    Law::Sound { holder: "member", is_sound: named_value },
    Law::Sound { holder: "literal", is_sound: is_literal },
    Law::Sound { holder: "notebook", is_sound: one_object },
];

/// Kinds of node that are a value.
const VALUES: [&str; 5] = ["object", "cell", "array", "string", "literal"];

/// The kinds of what a node holds.
fn kinds<'a>(code: Code<'a>, id: NodeId) -> Vec<&'a str> {
    code.tree.children(id).map(|child| code.tree.kind_name(child)).collect()
}

/// Whether items of some kinds stand between brackets, each with a comma in front but the first.
fn are_parted(kinds: &[&str], items: &[&str]) -> bool {
    let [_, inside @ .., _] = kinds else { return false };
    let sound = |(at, kind): (usize, &&str)| if at % 2 == 0 { items.contains(kind) } else { *kind == "," };
    inside.iter().enumerate().all(sound) && (inside.is_empty() || inside.len() % 2 == 1)
}

fn members(code: Code<'_>, id: NodeId) -> bool {
    are_parted(&kinds(code, id), &["member"])
}

fn values(code: Code<'_>, id: NodeId) -> bool {
    are_parted(&kinds(code, id), &VALUES)
}

fn named_value(code: Code<'_>, id: NodeId) -> bool {
    matches!(kinds(code, id).as_slice(), ["string", ":", value] if VALUES.contains(value))
}

fn is_literal(code: Code<'_>, id: NodeId) -> bool {
    let text = code.tree.text_of(code.source.text(), id);
    matches!(text, "true" | "false" | "null") || text.parse::<f64>().is_ok_and(f64::is_finite)
}

fn one_object(code: Code<'_>, id: NodeId) -> bool {
    kinds(code, id).as_slice() == ["object"]
}
