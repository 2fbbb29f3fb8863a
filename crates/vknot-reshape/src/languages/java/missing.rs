//! Types that a Java file names and that nothing in it declares or imports.

use std::collections::HashSet;

use vknot_syntax::Role;

use crate::imports::words::{imported, is_declared, outside_imports};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Name, Origin, Surroundings, Unbound};
use crate::spec::{Evidence, MissingSpec};
use super::facts;
use super::reading::{is_import, package, read};

/// Packages whose types other libraries hardly name theirs after.
const CORE: [&str; 7] = ["java.io", "java.lang", "java.math", "java.nio", "java.text", "java.time", "java.util"];

pub(super) const MISSING: MissingSpec = MissingSpec {
    names,
    known: known_origins,
    fits: |_, _, _| true,
    is_own: is_declared,
    is_sure: |origin| {
        let core = |package: &str| origin.source == package || origin.source.starts_with(&format!("{package}."));
        CORE.iter().any(|package| core(package))
    },
    import,
    shown: |origin| format!("{}.{}", origin.source, origin.path),
};

/// The names of types that are used and not known: what is a type in the grammar's eyes, and what begins with a capital where something
/// is asked of it (`List.of`), or is an annotation.
pub(super) fn names<'a>(code: Code<'a>, around: &dyn Surroundings) -> Vec<Unbound<'a>> {
    let tree = code.tree;
    let known = known(code, around);
    let doubt = brings_in_unknown(code, around);
    let mut seen = HashSet::new();
    let mut names = Vec::new();
    for (token, before, text) in outside_imports(code, is_import) {
        let name = tree.role(token.node) == Role::Name || tree.kind_name(token.node) == "type_identifier";
        let capital = text.starts_with(char::is_uppercase);
        if !name || matches!(before, "." | "::") || known.contains(text) || !capital || !is_type(code, token) {
            continue;
        }
        if seen.insert(text) {
            names.push(Unbound { doubt, ..Unbound::at(text, token.start) });
        }
    }
    names
}

/// Whether a token stands where a type does.
fn is_type(code: Code<'_>, token: &vknot_syntax::Token) -> bool {
    let Code { source, tree, .. } = code;
    let node = token.node;
    let parent = tree.node(node).parent;
    let behind = source.text().get(token.end as usize..).unwrap_or("").trim_start();
    match tree.kind_name(node) {
        "type_identifier" => true,
        _ if matches!(tree.kind_name(parent), "marker_annotation" | "annotation") => true,
        // A constant or a field may begin with a capital, too, but has small letters only where it is a type.
        _ => behind.starts_with(['.', ':'])
            && source.slice(token.span()).contains(char::is_lowercase)
            && matches!(tree.kind_name(parent), "method_invocation" | "field_access" | "method_reference" | "scoped_identifier"),
    }
}

/// The names that are known in a file: what it declares anywhere, imports, has beside it, or has without an import.
fn known(code: Code<'_>, around: &dyn Surroundings) -> HashSet<String> {
    let mut known = imported(code, is_import, read);
    known.extend(declared_in(code));
    known.extend(facts::types_in("java.lang").into_iter().flatten().map(str::to_owned));
    let own = package(code);
    if let Some(index) = around.index() {
        known.extend(index.names_in(&own).unwrap_or_default().iter().cloned());
    }
    // What wildcards are known to bring in.
    for import in crate::imports::imports_of(code, is_import)
        .into_iter()
        .filter_map(|id| read(code, id))
    {
        if import.names.iter().any(|name| name.bound.is_none()) {
            known.extend(facts::types_in(&import.source).into_iter().flatten().map(str::to_owned));
            let index = around.index();
            let own = index.as_ref().and_then(|index| index.names_in(&import.source)).unwrap_or_default();
            known.extend(own.iter().cloned());
        }
    }
    known
}

/// Whether a wildcard brings in the types of a package of which it is not known which it has.
fn brings_in_unknown(code: Code<'_>, around: &dyn Surroundings) -> bool {
    let index = around.index();
    let imports = crate::imports::imports_of(code, is_import).into_iter().filter_map(|id| read(code, id));
    let mut wild = imports.filter(|import| {
        import.form == Form::Plain && import.names.iter().any(|name| name.bound.is_none())
    });
    wild.any(|import| {
        let own = index.as_ref().is_some_and(|index| index.names_in(&import.source).is_some());
        facts::types_in(&import.source).is_none() && !own
    })
}

/// What a file declares anywhere.
pub(super) fn declared_in(code: Code<'_>) -> HashSet<String> {
    let Code { source, tree, .. } = code;
    let mut known = HashSet::new();
    let declares = |id: &vknot_syntax::NodeId| {
        matches!(tree.role(*id), Role::Type | Role::Member | Role::Callable | Role::Assignment)
            || matches!(tree.kind_name(*id), "type_parameter" | "formal_parameter" | "variable_declarator" | "catch_formal_parameter")
    };
    for id in (0..tree.nodes().len() as u32).map(vknot_syntax::NodeId).filter(declares) {
        if tree.kind_name(id) == "type_parameter" {
            let names = tree.children(id).filter(|child| tree.node(*child).is_leaf());
            known.extend(names.take(1).map(|child| tree.text_of(source.text(), child).to_owned()));
        }
        known.extend(tree.name_span(id).map(|span| source.slice(span).to_owned()));
    }
    known
}

fn known_origins(name: &str, around: &dyn Surroundings) -> Vec<Origin> {
    let index = around.index();
    let own = index.iter().flat_map(|index| index.homes_of(name)).filter(|package| !package.is_empty()).cloned();
    let standard = facts::homes_of(name).into_iter().map(str::to_owned);
    own.chain(standard).map(|source| Origin { source, path: name.to_owned(), alias: None }).collect()
}

fn import(origin: &Origin, _: &dyn Surroundings, _: Code<'_>) -> Import {
    let names = vec![Name { path: origin.path.clone(), alias: None, bound: Some(origin.path.clone()) }];
    Import { head: "import".to_owned(), source: origin.source.clone(), names, form: Form::Plain, ..Import::default() }
}

/// Whether the file names a type that a wildcard might bring in.
pub(super) fn leaves_open(evidence: &Evidence<'_>) -> bool {
    *evidence.uses.strange.get_or_init(|| !names(evidence.code, evidence.around).is_empty())
}
