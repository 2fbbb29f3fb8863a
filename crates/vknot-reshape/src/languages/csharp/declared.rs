//! What a file of C# declares for the others of its project.

use vknot_syntax::{NodeId, Role};

use crate::imports::words::tokens_of;
use crate::spec::Code;
use crate::spec::imports::Declared;
use super::reading::read;

/// In front of a namespace that a file brings in for the whole project.
pub(super) const GLOBAL: &str = "global ";
/// In front of the name of a type that stands inside of another one of the project.
pub(super) const INNER: &str = "inner ";
/// In front of a name that some type of the project has for a member.
pub(super) const MEMBER: &str = "member ";

/// The namespaces of a file are one each; a name is given with its namespace in front where there are several.
pub(super) fn declares(code: Code<'_>, _: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let mut declared = Declared::default();
    let namespace = |id: NodeId| namespace_of(code, id);
    let file_scoped =
        tree.children(tree.root()).find(|id| tree.kind_name(*id).starts_with("file_scoped")).and_then(namespace);
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        let around = || {
            let mut outer: Vec<String> = tree.ancestors(id).skip(1).filter_map(namespace).collect();
            outer.reverse();
            if outer.is_empty() { file_scoped.clone().unwrap_or_default() } else { outer.join(".") }
        };
        if tree.role(id) == Role::Type && namespace(id).is_none() || tree.kind_name(id) == "delegate_declaration" {
            let nested = tree.ancestors(id).skip(1).any(|id| tree.role(id) == Role::Type && namespace(id).is_none());
            let name = tree.name_span(id).filter(|_| !nested).map(|span| source.slice(span));
            declared.places.extend(name.map(|name| (around(), name.to_owned())));
        }
        if is_inner(code, id) {
            let kind = if tree.role(id) == Role::Type { INNER } else { MEMBER };
            declared.taken.extend(tree.name_span(id).map(|span| format!("{kind}{}", source.slice(span))));
        }
        if let Some(import) = read(code, id).filter(|import| import.head.starts_with("global")) {
            declared.taken.push(format!("{GLOBAL}{}", import.source));
        }
        if tree.kind_name(id) == "parameter" && tokens_of(code, id).next() == Some("this") {
            let method = tree.ancestors(id).find(|id| tree.kind_name(*id) == "method_declaration");
            let name = method.and_then(|method| tree.name_span(method)).map(|span| source.slice(span));
            declared.places.extend(name.map(|name| (around(), format!(".{name}"))));
        }
    }
    declared
}

/// The name of a namespace that a node declares.
pub(super) fn namespace_of(code: Code<'_>, id: NodeId) -> Option<String> {
    let tree = code.tree;
    let is_one = matches!(tree.kind_name(id), "namespace_declaration" | "file_scoped_namespace_declaration");
    let name = tree.child_named(id, "name").filter(|_| is_one)?;
    Some(tokens_of(code, name).collect())
}

/// Whether a node declares something that others have by taking it over from the type around: a member, or a type inside another one.
fn is_inner(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let is_type = |id: NodeId| tree.role(id) == Role::Type && namespace_of(code, id).is_none();
    let declares =
        matches!(tree.role(id), Role::Type | Role::Member | Role::Callable)
            || tree.kind_name(id)
            == "variable_declarator";
    let local = || tree.ancestors(id).skip(1).any(|id| matches!(tree.role(id), Role::Block | Role::Callable));
    declares && tree.ancestors(id).skip(1).any(is_type) && !local()
}
