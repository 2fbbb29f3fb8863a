//! What a module of JavaScript or TypeScript offers to others of its project, and what it takes from them.

use vknot_syntax::NodeId;

use crate::imports::imports_of;
use crate::spec::Code;
use crate::spec::imports::{Declared, Form, Origin};
use super::loading::loads_of;
use super::modules::{bare, ENDINGS, module_at, module_from};
use super::reading::{is_import, read};

/// In front of a module of which the default is meant.
pub(super) const DEFAULT: &str = "default ";
/// For a module that is the index of its folder.
pub(super) const INDEX: &str = "index ";
/// For an ending that imports of the project's modules have.
pub(super) const ENDING: &str = "ending ";
/// That types are imported as such.
pub(super) const TYPES: &str = "types";
/// That modules of Node.js are named with `node:`.
pub(super) const NODE: &str = "node:";

/// Declarations of one name.
const NAMED: [&str; 11] = [
    "function_declaration", "generator_function_declaration", "class_declaration", "abstract_class_declaration",
    "interface_declaration", "type_alias_declaration", "enum_declaration", "internal_module", "module",
    "function_signature", "class",
];

/// What a file at a place of its project offers and takes.
pub(super) fn declares(code: Code<'_>, place: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let package = module_at(place);
    let mut declared = Declared { package: package.clone(), ..Declared::default() };
    if bare(place).rsplit('/').next() == Some("index") {
        declared.taken.push(format!("{INDEX}{package}"));
    }
    let text = |id: NodeId| tree.text_of(source.text(), id);
    for export in tree.children(tree.root()).filter(|child| tree.kind_name(*child) == "export_statement") {
        let is_default = tree.parts(export).any(|part| text(part) == "default");
        if tree.child_named(export, "source").is_some() {
            continue;
        }
        let own = tree.child_named(export, "declaration").or_else(|| tree.child_named(export, "value"));
        match own {
            _ if is_default => {
                let named = own.and_then(|own| name_of(code, own));
                let file = package.rsplit('/').next().unwrap_or("").to_owned();
                declared.names.push("default".to_owned());
                declared.places.push((format!("{DEFAULT}{package}"), named.unwrap_or(file)));
            }
            Some(own) => declared.names.extend(names_of(code, own)),
            None => {
                let clause = tree.parts(export).filter(|part| tree.kind_name(*part) == "export_clause");
                let specifiers = clause.flat_map(|clause| tree.parts(clause));
                let name = |part: NodeId| tree.child_named(part, "alias").or_else(|| tree.child_named(part, "name"));
                declared.names.extend(specifiers.filter_map(name).map(|name| text(name).to_owned()));
            }
        }
    }
    takes(code, place, &mut declared);
    declared.loads = loads_of(code, place);
    declared
}

/// The name of a declaration, or of a value that is one.
fn name_of(code: Code<'_>, id: NodeId) -> Option<String> {
    let Code { source, tree, .. } = code;
    let name = if tree.kind_name(id) == "identifier" { Some(id) } else { tree.child_named(id, "name") };
    name.filter(|name| tree.node(*name).is_leaf()).map(|name| tree.text_of(source.text(), name).to_owned())
}

/// The names that a declaration offers.
fn names_of(code: Code<'_>, id: NodeId) -> Vec<String> {
    let tree = code.tree;
    match tree.kind_name(id) {
        kind if NAMED.contains(&kind) => name_of(code, id).into_iter().collect(),
        "lexical_declaration" | "variable_declaration" => {
            let declarators = tree.parts(id).filter(|part| tree.kind_name(*part) == "variable_declarator");
            declarators.filter_map(|declarator| name_of(code, declarator)).collect()
        }
        "ambient_declaration" => tree.parts(id).flat_map(|part| names_of(code, part)).collect(),
        _ => Vec::new(),
    }
}

/// What a file imports, each with the name it has there, and how it writes that.
fn takes(code: Code<'_>, place: &str, declared: &mut Declared) {
    for import in imports_of(code, is_import).into_iter().filter_map(|id| read(code, id)) {
        if import.form == Form::Types {
            declared.taken.push(TYPES.to_owned());
        }
        if import.source.starts_with(NODE) {
            declared.taken.push(NODE.to_owned());
        }
        let source = if import.source.starts_with('.') {
            let ending = ENDINGS.iter().find(|ending| import.source.ends_with(**ending)).copied().unwrap_or("");
            declared.taken.push(format!("{ENDING}{ending}"));
            module_from(place, &import.source)
        } else {
            import.source.clone()
        };
        for name in &import.names {
            let Some(bound) = &name.bound else { continue };
            let path = name.path.rsplit(' ').next().unwrap_or(&name.path).to_owned();
            let origin = Origin { source: source.clone(), path, alias: name.alias.clone() };
            declared.imports.push((bound.clone(), origin));
        }
    }
}
