//! What an import of C# says.

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{has_comment, is_name, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Name};

pub(super) fn is_import(code: Code<'_>, id: NodeId) -> bool {
    // What stands under a condition stays as it is.
    let tree = code.tree;
    tree.role(id) == Role::Import && matches!(tree.role(tree.node(id).parent), Role::File | Role::Body)
}

pub(super) fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let tree = code.tree;
    if tree.kind_name(id) != "using_directive" {
        return None;
    }
    let words: Vec<&str> = tokens_of(code, id).filter(|word| *word != ";").collect();
    let heads = words.iter().take_while(|word| matches!(**word, "global" | "using" | "static" | "unsafe")).count();
    let (head, rest) = words.split_at(heads);
    let equals = rest.iter().position(|word| *word == "=");
    let (alias, path) = match equals {
        Some(at) => (Some(rest[..at].concat()), &rest[at + 1..]),
        None => (None, rest),
    };
    let global = head.contains(&"global");
    let form = match (global, head.contains(&"static"), &alias) {
        (true, ..) => Form::First,
        (_, true, _) => Form::Static,
        (_, _, Some(_)) => Form::Alias,
        _ => Form::Plain,
    };
    let plain = |path: &[&str]| path.iter().all(|word| is_name(word) || matches!(*word, "." | "::"));
    let source = path.concat();
    // What else a type can be made of is left as it is written.
    let fixed = has_comment(code, id) || !plain(path) || source.is_empty();
    let name = Name { path: source.clone(), bound: alias.clone(), alias };
    Some(Import { head: head.join(" "), source, names: vec![name], form, fixed, ..Import::default() })
}
