//! What a C or C++ compiler does not take though the reader does, which holds any text (ISO/IEC 9899 and 14882, their grammars).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(crate) static LAWS: &[Law] = &[
    Law::Parted { kinds: &["arguments", "parameters", "group", "template_arguments"], last: false },
    Law::Parted { kinds: &["initializer"], last: true },
    Law::Sound { holder: "unit", is_sound: conditions_close },
    Law::Sound { holder: "unit", is_sound: declares },
    Law::Sound { holder: "body", is_sound: declares },
    Law::Sound { holder: "statement", is_sound: ends },
    Law::Sound { holder: "declaration", is_sound: ends },
    Law::Sound { holder: "call", is_sound: calls_name },
    Law::Sound { holder: "arguments", is_sound: values },
    Law::Sound { holder: "parameters", is_sound: typed },
    Law::Sound { holder: "subscript", is_sound: counted },
    Law::Sound { holder: "conditional", is_sound: has_body },
    Law::Sound { holder: "loop", is_sound: has_body },
];

fn text<'a>(code: Code<'a>, id: NodeId) -> &'a str {
    code.source.slice(code.tree.node(id).span())
}

/// Every `#endif` and `#else` has its `#if`.
fn conditions_close(code: Code<'_>, file: NodeId) -> bool {
    let tree = code.tree;
    let mut open: Vec<bool> = Vec::new();
    let words = tree.subtree(file).filter(|id| tree.node(*id).is_leaf()).map(|id| text(code, id));
    let mut words = words.filter_map(|text| text.strip_prefix('#').map(str::trim_start));
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

/// What stands outside of functions begins as a declaration does.
fn declares(code: Code<'_>, holder: NodeId) -> bool {
    let mut parts = code.tree.parts(holder).filter(|part| code.tree.node(*part).token_end > code.tree.node(*part).first_token);
    let brackets = code.tree.role(holder) == Role::Body;
    parts.all(|part| {
        let text = text(code, part);
        let lone = brackets && matches!(text, "{" | "}");
        lone || !text.starts_with(|c: char| c.is_ascii_digit() || "({\"'.,&".contains(c))
    })
}

/// Statements end with a mark, or with a block.
fn ends(code: Code<'_>, statement: NodeId) -> bool {
    text(code, statement).ends_with([';', '}', ':']) || parted(code, statement)
}

/// Whether something is one of several between marks, or in brackets: in the head of a loop, or a lambda's.
fn parted(code: Code<'_>, id: NodeId) -> bool {
    let holder = code.tree.parent(id);
    holder.is_none_or(|holder| !matches!(code.tree.role(holder), Role::File | Role::Block | Role::Body | Role::Arm | Role::Branch))
}

/// What is called has a name that is no word of the language.
fn calls_name(code: Code<'_>, call: NodeId) -> bool {
    let callee = code.tree.parts(call).next().map_or("", |callee| text(code, callee));
    !matches!(callee, "if" | "for" | "while" | "switch" | "do" | "else" | "case" | "goto" | "break" | "continue")
}

/// Arguments are values: no designators, no statements, no words of the language alone.
fn values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(list).all(|part| {
        let kind = tree.kind_name(part);
        let text = text(code, part);
        !(kind == "statement" || kind == "assignment" && text.starts_with('.') || text.ends_with(';'))
    })
}

/// Parameters begin with a type.
fn typed(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let ends = |part: NodeId| tree.language().bracket(tree.node(part).kind).is_some();
    tree.parts(list).filter(|part| !ends(*part)).all(|part| {
        let text = text(code, part);
        !text.starts_with(['(', '"', '{']) && !text.ends_with(';')
    })
}

/// What is put into an array has a place in it.
fn counted(code: Code<'_>, subscript: NodeId) -> bool {
    let tree = code.tree;
    let empty = tree.parts(subscript).count() <= 2;
    let assigned = tree.ancestors(subscript).skip(1).find(|id| tree.role(*id) != Role::Link);
    !(empty && assigned.is_some_and(|id| tree.role(id) == Role::Assignment))
}

/// Behind a condition something is done.
fn has_body(code: Code<'_>, branch: NodeId) -> bool {
    text(code, branch).ends_with([';', '}']) || text(code, branch).contains('#')
}
