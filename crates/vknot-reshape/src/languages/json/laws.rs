//! What a reader of JSON does not take though ours does (RFC 8259): no value, several of them, and comments where the file has none yet.

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "document", is_sound: one_value },
    Law::Sound { holder: "document", is_sound: no_comments },
];

/// How files are named, or end, whose readers take comments: those of compilers, and by their ending.
const COMMENTED: [(&str, &str); 3] = [("", ".jsonc"), ("tsconfig", ".json"), ("jsconfig", ".json")];

fn one_value(code: Code<'_>, document: NodeId) -> bool {
    code.tree.parts(document).filter(|part| code.tree.role(*part) != Role::Comment).count() == 1
}

fn no_comments(code: Code<'_>, document: NodeId) -> bool {
    let name = code.source.path().file_name().and_then(|name| name.to_str()).unwrap_or("");
    let commented = COMMENTED.iter().any(|(begin, end)| name.starts_with(begin) && name.ends_with(end));
    commented || code.tree.subtree(document).all(|id| code.tree.role(id) != Role::Comment)
}
