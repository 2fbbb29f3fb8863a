//! Names that a Python module uses and nothing in it binds.

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{facts, is_declared, is_name, outside_imports};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Name, Origin, Surroundings, Unbound};
use crate::spec::MissingSpec;
use super::imports::{is_import, is_keyword, is_package, is_standard, module_of, RELATIVE};

pub(super) const MISSING: MissingSpec = MissingSpec {
    names,
    known,
    fits: |origin, _, around| around.place().is_none_or(|place| module_of(&place) != origin.source),
    is_own: is_declared,
    is_sure: |origin| origin.source.is_empty() && is_standard(&origin.path),
    import,
    shown: |origin| match origin.source.as_str() {
        "" => origin.path.clone(),
        source => format!("{source}.{}", origin.path),
    },
};

/// What modules of the standard library offer, a module a line, `builtins` being there without an import; made by `cargo xtask facts`.
static MEMBERS: &str = include_str!("facts/members.txt");

/// For each name the modules that offer it.
fn members() -> &'static HashMap<&'static str, Vec<&'static str>> {
    static READY: OnceLock<HashMap<&str, Vec<&str>>> = OnceLock::new();
    READY.get_or_init(|| {
        let mut members: HashMap<&str, Vec<&str>> = HashMap::new();
        for (module, names) in facts(MEMBERS)
            .filter_map(|line| line.split_once(' '))
        {
            names.split(' ').for_each(|name| members.entry(name).or_default().push(module));
        }
        members
    })
}

/// Nodes all names in which are bound there.
const BINDING: [&str; 9] = [
    "as_pattern_target", "case_pattern", "global_statement", "nonlocal_statement", "import_statement",
    "import_from_statement",
    "type_parameter", "delete_statement", "lambda_parameters",
];

/// Nodes of which one part binds names: by kind, the field.
const BOUND_IN: [(&str, &str); 8] = [
    ("assignment", "left"),
    ("augmented_assignment", "left"),
    ("named_expression", "name"),
    ("for_statement", "left"),
    ("for_in_clause", "left"),
    ("function_definition", "name"),
    ("class_definition", "name"),
    ("type_alias_statement", "left"),
];

/// The names that are used, in order, each with where first. A name that is bound anywhere in the file counts as known everywhere.
fn names<'a>(code: Code<'a>, _: &dyn Surroundings) -> Vec<Unbound<'a>> {
    let tree = code.tree;
    let Some(bound) = bound(code) else { return Vec::new() };
    let mut seen = HashSet::new();
    let mut names = Vec::new();
    for (token, before, text) in outside_imports(code, is_import) {
        let name = tree.kind_name(token.node) == "identifier" && tree.role(token.node) != Role::Comment;
        let builtin = || members().get(text).is_some_and(|modules| modules.contains(&"builtins"));
        if !name || !is_name(text) || before == "." || is_keyword(code, token) || bound.contains(text) || builtin() {
            continue;
        }
        if seen.insert(text) {
            names.push(Unbound::at(text, token.start));
        }
    }
    names
}

/// The names that a module binds anywhere; `None` where it takes all that some other has.
fn bound<'a>(code: Code<'a>) -> Option<HashSet<&'a str>> {
    let Code { source, tree, .. } = code;
    let mut bound = HashSet::new();
    let mut take = |id: NodeId| {
        let leaves = tree.subtree(id).filter(|id| tree.kind_name(*id) == "identifier");
        bound.extend(leaves.map(|id| tree.text_of(source.text(), id)));
    };
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        let kind = tree.kind_name(id);
        if kind == "wildcard_import" {
            return None;
        }
        if BINDING.contains(&kind) {
            take(id);
        }
        if kind == "parameters" {
            // Types and values of parameters are uses.
            let own = |part: NodeId| tree.child_named(part, "name")
                .or_else(|| tree.parts(part).find(|id| tree.kind_name(*id) == "identifier"));
            tree.parts(id)
                .filter_map(|part| if tree.node(part).is_leaf() { Some(part) } else { own(part).or(Some(part)) })
                .for_each(&mut take);
            tree.parts(id).filter(|part| tree.kind_name(*part).contains("splat")).for_each(&mut take);
            tree.parts(id)
                .flat_map(|part| tree.parts(part))
                .filter(|part| tree.kind_name(*part).contains("splat"))
                .for_each(&mut take);
        }
        let parts = BOUND_IN.iter().filter(|(of, _)| *of == kind).filter_map(|(_, field)| tree.child_named(id, field));
        parts.for_each(&mut take);
        if kind == "except_clause" || kind == "except_group_clause" || kind == "with_item" {
            tree.parts(id).filter(|part| tree.kind_name(*part) == "as_pattern").for_each(&mut take);
        }
    }
    Some(bound)
}

fn known(name: &str, around: &dyn Surroundings) -> Vec<Origin> {
    let origin = |source: &str| Origin { source: source.to_owned(), path: name.to_owned(), alias: None };
    let mut known: Vec<Origin> = Vec::new();
    if is_standard(name) {
        known.push(origin(""));
    }
    known.extend(members().get(name).into_iter().flatten().map(|module| origin(module)));
    if let Some(index) = around.index() {
        known.extend(index.homes_of(name).iter().map(|module| origin(module)));
    }
    known
}

fn import(origin: &Origin, around: &dyn Surroundings, _: Code<'_>) -> Import {
    let bound = origin.alias.clone().or_else(|| Some(origin.path.clone()));
    let names = vec![Name { path: origin.path.clone(), alias: origin.alias.clone(), bound }];
    if origin.source.is_empty() {
        return Import { head: "import".to_owned(), names, ..Import::default() };
    }
    let source = relative(&origin.source, around).unwrap_or_else(|| origin.source.clone());
    Import { head: "from".to_owned(), source, names, form: Form::From, ..Import::default() }
}

/// A module as it is seen from the file, where the project has that habit.
fn relative(module: &str, around: &dyn Surroundings) -> Option<String> {
    let place = around.place()?;
    around
        .index()
        .filter(
            |index| index.takes(&format!("{RELATIVE}{}", module.split('.').next().unwrap_or("")))
                && index.has_package(module),
        )?;
    let own = module_of(&place);
    let mut own: Vec<&str> = own.split('.').collect();
    if !is_package(&place) {
        own.pop();
    }
    let parts: Vec<&str> = module.split('.').collect();
    let shared = own.iter().zip(&parts).take_while(|(a, b)| a == b).count();
    (shared > 0).then(|| format!("{}{}", ".".repeat(own.len() - shared + 1), parts[shared..].join(".")))
}
