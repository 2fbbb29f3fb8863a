//! Rust's imports: `use` trees, sorted, and merged where they share a module. Nothing is ever dropped but repetitions: a trait may be used
//! where nothing names it.

use vknot_style::choices::ImportMerge;
use vknot_syntax::{NodeId, Role, Tree};

use crate::imports::words::{has_comment, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{BETWEEN_SEGMENTS, Home, Import, LIST_SEGMENT, Name};
use crate::spec::{IMPORTS_OF_MOST, ImportSpec};
use super::use_tree::{self, Leaf};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write: |import, _| write(import),
    leaf: |import, name| format!("{}use {};", import.head, use_tree::text(name)),
    key,
    key_of_list: |import| {
        let several = import.names.len() > 1 && !import.source.is_empty();
        several.then(|| format!("{}{BETWEEN_SEGMENTS}{LIST_SEGMENT}", use_tree::key(&import.source)))
    },
    cased: false,
    kinds_apart: true,
    name_key: |name| use_tree::key(&name.path),
    merges: |import| (!import.source.is_empty()).then(|| format!("{}{}", import.head, import.source)),
    // What comes from a whole crate.
    left_apart: |import| !import.source.contains("::"),
    merge: ImportMerge::Keep,
    home: |import, _| home(import),
    orders: &[
        &["written", "other", "own", "near"],
        &["written"],
        &["written", "near", "own", "other"],
        &["written", "own", "near", "other"],
        &["written", "near", "other"],
    ],
    project: ("Cargo.toml", |_| None),
    ..IMPORTS_OF_MOST
};

fn is_import(code: Code<'_>, id: NodeId) -> bool {
    code.tree.role(id) == Role::Import
}

/// A `use` declaration. What brings in macros for all that follows is a barrier.
fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let tree = code.tree;
    let argument = tree.child_named(id, "argument").filter(|_| tree.kind_name(id) == "use_declaration")?;
    let leaves = use_tree::leaves(code, argument);
    let shared = use_tree::shared_prefix(&leaves);
    let source = leaves.first().map(|leaf| leaf.path[..shared].join("::")).unwrap_or_default();
    let names: Vec<Name> = leaves
        .into_iter()
        .map(|leaf| Name {
            bound: leaf.alias.clone().or_else(|| leaf.path.last().cloned()),
            path: leaf.path.join("::"),
            alias: leaf.alias,
        })
        .collect();
    let fixed = names.is_empty() || has_comment(code, id);
    Some(Import { head: visibility(code, id), source, names, fixed, ..Import::default() })
}

fn visibility(code: Code<'_>, import: NodeId) -> String {
    let tree: &Tree = code.tree;
    let found = tree.children(import).find(|child| tree.kind_name(*child) == "visibility_modifier");
    let Some(found) = found else { return String::new() };
    let words: Vec<&str> = tokens_of(code, found).collect();
    words.join(" ").replace("( ", "(").replace(" )", ")").replace("pub (", "pub(") + " "
}

fn leaves(import: &Import) -> Vec<Leaf> {
    let leaf = |name: &Name| Leaf {
        path: name.path.split("::").map(str::to_owned).collect(),
        alias: name.alias.clone(),
    };
    import.names.iter().map(leaf).collect()
}

/// What comes first of all that is brought in.
fn key(import: &Import) -> String {
    let aliased = |name: &Name| format!("{}{BETWEEN_SEGMENTS}{}", use_tree::key(&name.path), name.alias.as_deref().unwrap_or(""));
    import.names.iter().map(aliased).min_by_key(|key| key.to_lowercase()).unwrap_or_default()
}

/// Other crates, this one, and what is near.
fn home(import: &Import) -> Home {
    let first = import.names.first().map_or("", |name| name.path.split("::").next().unwrap_or(""));
    match first {
        "crate" => Home::Own,
        "super" | "self" => Home::Near,
        "std" | "core" | "alloc" => Home::Standard,
        _ => Home::Other,
    }
}

/// The declaration on one line.
fn write(import: &Import) -> String {
    let leaves = leaves(import);
    let shared = use_tree::shared_prefix(&leaves);
    let prefix = leaves.first().map(|leaf| leaf.path[..shared].join("::")).unwrap_or_default();
    let mut items = use_tree::items(&leaves, shared);
    let separator = if shared > 0 { "::" } else { "" };
    let start = format!("{}use {prefix}{separator}", import.head);
    let lone_self = items.len() == 1 && items[0].split(' ').next() == Some("self") && shared > 0;
    match items.len() == 1 && !lone_self {
        true => format!("{start}{};", items.remove(0)),
        false => format!("{start}{{{}}};", items.join(", ")),
    }
}
