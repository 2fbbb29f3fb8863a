//! Go's packages: what one is likely called, and what a file of a project declares.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role};

use crate::imports::imports_of;
use crate::imports::words::outside_imports;
use crate::spec::Code;
use crate::spec::imports::{Declared, Origin};
use super::reading::{is_import, read};

/// What a package is likely called that is imported by this path.
pub(super) fn likely(path: &str) -> Vec<&str> {
    let mut parts = path.rsplit('/');
    let last = parts.next().unwrap_or("");
    let is_version = last.strip_prefix('v').is_some_and(|number| number.parse::<u32>().is_ok());
    let last = if is_version { parts.next().unwrap_or("") } else { last };
    let bare = last.split_once(".v").map_or(last, |(name, _)| name);
    let mut likely =
        vec![last, bare, bare.trim_start_matches("go-"), bare.trim_end_matches("-go"), bare.trim_end_matches(".go")];
    likely.extend(bare.split(['-', '.', '_']));
    likely
}

/// By what the index knows the names that the files of a folder declare for each other.
pub(super) fn inside(folder: &str) -> String {
    format!("{folder}/.")
}

/// A folder, what its files say their package is called, what they declare, and what they import.
pub(super) fn declares(code: Code<'_>, place: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let text = |id: NodeId| tree.text_of(source.text(), id).to_owned();
    let folder = place.rsplit_once('/').map_or("", |(folder, _)| folder).to_owned();
    let clause = tree.children(tree.root()).find(|child| tree.role(*child) == Role::Package);
    let name = clause.and_then(|clause| tree.parts(clause).nth(1)).map(text);
    let places = declared_in(code).map(|id| (inside(&folder), text(id)));
    Declared {
        names: name.into_iter().collect(),
        places: places.collect(),
        imports: imported(code),
        package: folder,
        ..Declared::default()
    }
}

/// The names of what a file declares for its package.
fn declared_in<'a>(code: Code<'a>) -> impl Iterator<Item = NodeId> + 'a {
    const SPECS: [&str; 5] = ["const_spec", "function_declaration", "type_alias", "type_spec", "var_spec"];
    let tree = code.tree;
    let mut open: Vec<NodeId> = tree.children(tree.root()).collect();
    let mut names = Vec::new();
    while let Some(id) = open.pop() {
        match tree.kind_name(id) {
            "const_declaration" | "type_declaration" | "var_declaration" | "var_spec_list" =>
                open.extend(tree.parts(id)),
            kind if SPECS.contains(&kind) => names.extend(named(code, id)),
            _ => {}
        }
    }
    names.into_iter()
}

/// The names that a node declares: the first in it, and those behind commas.
pub(super) fn named(code: Code<'_>, id: NodeId) -> Vec<NodeId> {
    let tree = code.tree;
    let is_name = |part: &NodeId| matches!(tree.kind_name(*part), "identifier" | "type_identifier");
    let mut parts = tree.parts(id).skip_while(|part| !is_name(part));
    let mut names = Vec::from_iter(parts.next());
    while parts.next().is_some_and(|part| tree.kind_name(part) == ",") {
        names.extend(parts.next().filter(is_name));
    }
    names
}

/// What a file imports, by the name that each has there: one that nothing tells is the likeliest of those that are used.
fn imported(code: Code<'_>) -> Vec<(String, Origin)> {
    let asked = outside_imports(code, is_import).filter(|(_, _, text)| *text == ".");
    let used: HashSet<&str> = asked.map(|(_, before, _)| before).collect();
    let imports =
        imports_of(code, is_import).into_iter().filter_map(|id| read(code, id)).filter(|import| !import.barrier);
    let told = |import: crate::spec::imports::Import| {
        let name = import.names.into_iter().next()?;
        let guess = || likely(&import.source).into_iter().find(|name| used.contains(name)).map(str::to_owned);
        let bound = name.bound.or_else(guess)?;
        Some((bound.clone(), Origin { source: import.source.clone(), path: bound, alias: name.alias }))
    };
    imports.filter_map(told).collect()
}
