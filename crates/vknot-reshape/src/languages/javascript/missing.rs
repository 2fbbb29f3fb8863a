//! Names that a module of JavaScript or TypeScript uses and nothing in it declares or imports.

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use vknot_syntax::{NodeId, Role};

use crate::imports::imports_of;
use crate::imports::words::{facts, imported, is_declared, outside_imports, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Index, Name, Origin, Surroundings, Unbound};
use crate::spec::MissingSpec;
use super::exports::{DEFAULT, ENDING, INDEX, NODE, TYPES};
use super::modules::{module_at, path_to};
use super::reading::{is_import, read};

pub(super) const MISSING: MissingSpec = MissingSpec {
    names,
    known,
    fits: |origin, _, around| around.place().is_none_or(|place| module_at(&place) != origin.source),
    is_own: is_declared,
    is_sure: |_| false,
    import,
    shown: |origin| origin.source.clone(),
};

/// The names that are there without an import; made by `cargo xtask facts`.
static GLOBALS: &str = include_str!("facts/globals.txt");

/// What the modules of Node.js offer, a module a line; made by `cargo xtask facts`.
static MEMBERS: &str = include_str!("facts/members.txt");

fn is_global(name: &str) -> bool {
    static READY: OnceLock<HashSet<&str>> = OnceLock::new();
    READY.get_or_init(|| facts(GLOBALS).flat_map(|line| line.split(' ')).collect()).contains(name)
}

/// The modules of Node.js that offer a name.
fn built_in(name: &str) -> &'static [&'static str] {
    static READY: OnceLock<HashMap<&str, Vec<&str>>> = OnceLock::new();
    let members = READY.get_or_init(|| {
        let mut members: HashMap<&str, Vec<&str>> = HashMap::new();
        for (module, names) in facts(MEMBERS).filter_map(|line| line.split_once(' ')) {
            names.split(' ').for_each(|name| members.entry(name).or_default().push(module));
        }
        members
    });
    members.get(name).map_or(&[], Vec::as_slice)
}

/// Where names are bound: by kind of node, the field in which they are.
const BOUND_IN: [(&str, &str); 26] = [
    ("function_declaration", "name"),
    ("generator_function_declaration", "name"),
    ("function_expression", "name"),
    ("generator_function", "name"),
    ("function_signature", "name"),
    ("class_declaration", "name"),
    ("abstract_class_declaration", "name"),
    ("class", "name"),
    ("interface_declaration", "name"),
    ("type_alias_declaration", "name"),
    ("enum_declaration", "name"),
    ("internal_module", "name"),
    ("module", "name"),
    ("type_parameter", "name"),
    ("mapped_type_clause", "name"),
    ("index_signature", "name"),
    ("variable_declarator", "name"),
    ("required_parameter", "pattern"),
    ("required_parameter", "name"),
    ("optional_parameter", "pattern"),
    ("optional_parameter", "name"),
    ("arrow_function", "parameter"),
    ("catch_clause", "parameter"),
    ("for_in_statement", "left"),
    ("export_specifier", "alias"),
    ("namespace_export", "name"),
];

/// Nodes all names in which are bound, or belong to another module.
const BINDING: [&str; 5] = [
    "infer_type",
    "tuple_parameter",
    "optional_tuple_parameter",
    "meta_property",
    "jsx_namespace_name",
];

/// Kinds of token that are names.
const NAMES: [&str; 3] = ["identifier", "type_identifier", "shorthand_property_identifier"];

/// The names that are used, in order, each with where first. A name that is bound anywhere in the file counts as known everywhere.
fn names<'a>(code: Code<'a>, _: &dyn Surroundings) -> Vec<Unbound<'a>> {
    let tree = code.tree;
    if tree.has_error() || !is_module(code) {
        return Vec::new();
    }
    let known = imported(code, is_import, read);
    let bound = bound(code);
    let mut seen = HashSet::new();
    let mut names = Vec::new();
    for (token, before, text) in outside_imports(code, is_import) {
        let named = NAMES.contains(&tree.kind_name(token.node)) && !matches!(before, "." | "?.");
        let tag = || {
            let parent = tree.kind_name(tree.node(token.node).parent);
            parent.starts_with("jsx_") && parent.ends_with("_element") && text.starts_with(char::is_lowercase)
        };
        if !named || bound.contains(text) || known.contains(text) || is_global(text) || tag() {
            continue;
        }
        if seen.insert(text) {
            names.push(Unbound::at(text, token.start));
        }
    }
    names
}

/// Whether a file is a module: an import would make one of a script.
fn is_module(code: Code<'_>) -> bool {
    let tree = code.tree;
    let says = tree.children(tree.root()).any(|child| {
        matches!(tree.kind_name(child), "export_statement" | "import_statement")
    });
    let ending = code.source.path().extension().and_then(|ending| ending.to_str());
    says || matches!(ending, Some("mjs" | "mts"))
}

/// The names that a file binds anywhere.
fn bound<'a>(code: Code<'a>) -> HashSet<&'a str> {
    let Code { source, tree, .. } = code;
    let mut bound = HashSet::new();
    let mut take = |id: NodeId| {
        let leaves =
            tree.subtree(id).filter(|id| tree.role(*id) == Role::Name || tree.kind_name(*id).ends_with("identifier"));
        let leaves = leaves.chain(tree.subtree(id).filter(|id| tree.kind_name(*id).ends_with("_pattern")));
        bound.extend(leaves.filter(|id| tree.node(*id).is_leaf()).map(|id| tree.text_of(source.text(), id)));
    };
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        let kind = tree.kind_name(id);
        let from = || kind == "export_statement" && tree.child_named(id, "source").is_some();
        if BINDING.contains(&kind) || from() {
            take(id);
        }
        // Parameters of JavaScript have no node of their own.
        if kind == "formal_parameters" {
            let plain = |part: &NodeId| !matches!(tree.kind_name(*part), "required_parameter" | "optional_parameter");
            tree.parts(id).filter(plain).for_each(&mut take);
        }
        let fields = BOUND_IN.iter().filter(|(of, _)| *of == kind);
        fields.filter_map(|(_, field)| tree.child_named(id, field)).for_each(&mut take);
    }
    bound
}

fn known(name: &str, around: &dyn Surroundings) -> Vec<Origin> {
    let index = around.index();
    let takes = |what: &str| index.as_ref().is_some_and(|index| index.takes(what));
    let prefix = if takes(NODE) { NODE } else { "" };
    let plain = |source: String| Origin { source, path: name.to_owned(), alias: None };
    let mut known: Vec<Origin> = built_in(name).iter().map(|module| plain(format!("{prefix}{module}"))).collect();
    let Some(index) = &index else { return known };
    for home in index.homes_of(name).iter().filter(|home| !is_reached_by_alias(home, name, index)) {
        known.push(match home.strip_prefix(DEFAULT) {
            Some(module) => {
                Origin { source: module.to_owned(), path: "default".to_owned(), alias: Some(name.to_owned()) }
            }
            None => plain(home.clone()),
        });
    }
    known
}

/// Whether the project imports a name from one of its modules by a path of another kind: `@/tide/gauge` for `/src/tide/gauge`.
fn is_reached_by_alias(home: &str, name: &str, index: &Index) -> bool {
    let module = home.strip_prefix(DEFAULT).unwrap_or(home);
    index.usual(name).any(|(origin, _)| {
        let path = origin.source.strip_prefix(['@', '~', '#']).filter(|path| path.starts_with('/'));
        path.is_some_and(|path| module.ends_with(path))
    })
}

/// The import, written as the file, or the project, writes its imports.
fn import(origin: &Origin, around: &dyn Surroundings, code: Code<'_>) -> Import {
    let index = around.index();
    let takes = |what: &str| index.as_ref().is_some_and(|index| index.takes(what));
    let mut source = origin.source.clone();
    if let Some(place) = around.place().filter(|_| source.starts_with('/')) {
        let written = |ending: &&str| takes(&format!("{ENDING}{ending}")) && !takes(ENDING);
        let ending = [".js", ".ts", ".mjs", ".jsx", ".tsx"].into_iter().find(written);
        source = path_to(&origin.source, &place);
        if let Some(ending) = ending {
            let file = if takes(&format!("{INDEX}{}", origin.source)) { "/index" } else { "" };
            source = format!("{source}{file}{ending}");
        }
    }
    let bound = origin.alias.clone().unwrap_or_else(|| origin.path.clone());
    let types = takes(TYPES) && is_type_alone(code, &bound);
    let name = Name { path: origin.path.clone(), alias: origin.alias.clone(), bound: Some(bound) };
    Import {
        head: if types { "import type" } else { "import" }.to_owned(),
        form: if types { Form::Types } else { Form::Plain },
        source,
        names: vec![name],
        manner: manner(code),
        ..Import::default()
    }
}

/// Whether a name is used as a type alone.
fn is_type_alone(code: Code<'_>, name: &str) -> bool {
    let tree = code.tree;
    let mut uses = outside_imports(code, is_import).filter(|(_, _, text)| *text == name).peekable();
    uses.peek().is_some() && uses.all(|(token, ..)| tree.kind_name(token.node) == "type_identifier")
}

/// Quotes and the mark at the end: as the file's imports have them, else as it has most of its strings and statements.
fn manner(code: Code<'_>) -> String {
    let Code { source, tree, .. } = code;
    let written = imports_of(code, is_import).into_iter().filter_map(|id| read(code, id)).map(|import| import.manner);
    if let Some(manner) = written.into_iter().next() {
        let mark = if manner.ends_with(';') { ";" } else { "" };
        return format!("{}{mark}", manner.get(..1).unwrap_or("'"));
    }
    let strings = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.kind_name(*id) == "string");
    let (mut double, mut single) = (0, 0);
    for string in strings {
        let counted = if tree.text_of(source.text(), string).starts_with('"') { &mut double } else { &mut single };
        *counted += 1;
    }
    let ended = tree.children(tree.root()).any(|child| tokens_of(code, child).last() == Some(";"));
    format!("{}{}", if double > single { '"' } else { '\'' }, if ended { ";" } else { "" })
}
