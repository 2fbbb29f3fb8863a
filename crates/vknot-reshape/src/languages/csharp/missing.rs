//! Types that a C# file names and that nothing in it declares or brings in.

use std::collections::{HashMap, HashSet};

use vknot_syntax::{NodeId, Role};

use crate::imports::imports_of;
use crate::imports::words::{is_declared, outside_imports, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Index, Name, Origin, Surroundings, Unbound};
use crate::spec::MissingSpec;
use super::declared::{namespace_of, GLOBAL, INNER, MEMBER};
use super::facts;
use super::reading::{is_import, read};

pub(super) const MISSING: MissingSpec = MissingSpec {
    names,
    known,
    fits: |origin, unbound, _| {
        let used = |how: &str| unbound.members.contains(&how);
        // All attributes of the library end so.
        let is_named = match used(ATTRIBUTE) {
            true => origin.path != unbound.name || !facts::has_namespace(&origin.source),
            false => origin.path == unbound.name,
        };
        let has_parameters = match origin.source.as_str() {
            // The same names, with parameters and without.
            "System.Collections" => !used(GENERIC),
            "System.Collections.Generic" => used(GENERIC) || NOT_GENERIC.contains(&unbound.name),
            _ => true,
        };
        is_named && has_parameters
    },
    is_own: is_declared,
    is_sure: |origin| CORE.contains(&origin.source.as_str()),
    import: |origin, _, _| Import {
        head: "using".to_owned(),
        source: origin.source.clone(),
        names: vec![Name { path: origin.source.clone(), ..Name::default() }],
        form: Form::Plain,
        ..Import::default()
    },
    shown: |origin| origin.source.clone(),
};

/// Namespaces whose types other libraries hardly name theirs after.
const CORE: [&str; 18] = [
    "System", "System.Collections", "System.Collections.Concurrent", "System.Collections.Generic",
    "System.Globalization",
    "System.IO", "System.Linq", "System.Net", "System.Net.Sockets", "System.Reflection", "System.Reflection.Emit",
    "System.Runtime.CompilerServices", "System.Runtime.InteropServices", "System.Security.Cryptography", "System.Text",
    "System.Text.RegularExpressions", "System.Threading", "System.Threading.Tasks",
];

/// Types of the namespace of generic collections that have no parameters.
const NOT_GENERIC: [&str; 4] = [
    "CollectionExtensions",
    "KeyNotFoundException",
    "KeyValuePair",
    "ReferenceEqualityComparer",
];

/// How a name is used: as an attribute, with parameters.
const ATTRIBUTE: &str = "[";
const GENERIC: &str = "<";

/// Names of types that the language has itself.
const WORDS: [&str; 8] = ["_", "dynamic", "managed", "nint", "notnull", "nuint", "unmanaged", "var"];

/// Extension methods of `System.Linq` that hardly anything has for methods of its own.
const QUERIES: [&str; 20] = [
    "Aggregate", "Any", "Cast", "Distinct", "FirstOrDefault", "GroupBy", "LastOrDefault", "OfType", "OrderBy",
    "OrderByDescending", "Select", "SelectMany", "SingleOrDefault", "SkipWhile", "TakeWhile", "ThenBy",
    "ThenByDescending",
    "ToDictionary", "ToList", "Where",
];

/// Where types are named: by kind of node, the part; no part where all its names are of types.
const TYPED: [(&str, &str); 35] = [
    ("array_type", "type"),
    ("as_expression", "right"),
    ("attribute", "name"),
    ("base_list", ""),
    ("cast_expression", "type"),
    ("catch_declaration", "type"),
    ("conversion_operator_declaration", "type"),
    ("declaration_expression", "type"),
    ("declaration_pattern", "type"),
    ("default_expression", "type"),
    ("delegate_declaration", "type"),
    ("event_declaration", "type"),
    ("explicit_interface_specifier", ""),
    ("foreach_statement", "type"),
    ("indexer_declaration", "type"),
    ("is_expression", "right"),
    ("is_pattern_expression", "type"),
    ("local_function_statement", "type"),
    ("method_declaration", "returns"),
    ("nullable_type", ""),
    ("object_creation_expression", "type"),
    ("operator_declaration", "type"),
    ("parameter", "type"),
    ("pointer_type", "type"),
    ("primary_constructor_base_type", "type"),
    ("property_declaration", "type"),
    ("recursive_pattern", "type"),
    ("ref_type", "type"),
    ("sizeof_expression", "type"),
    ("tuple_element", "type"),
    ("type_argument_list", ""),
    ("type_parameter_constraint", "type"),
    ("type_pattern", "type"),
    ("typeof_expression", "type"),
    ("variable_declaration", "type"),
];

/// How a name may stand for a type.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Use {
    Type,
    /// What something is asked of; or a namespace, or a member.
    Asked,
    /// A method that may come with a namespace.
    Query,
}

fn names<'a>(code: Code<'a>, around: &dyn Surroundings) -> Vec<Unbound<'a>> {
    let Code { source, tree, .. } = code;
    if tree.has_error() {
        return Vec::new();
    }
    let index = around.index();
    let known = Known::of(code, index.as_deref());
    let mut names: Vec<Unbound<'a>> = Vec::new();
    let mut places: HashMap<&str, usize> = HashMap::new();
    for (token, before, text) in outside_imports(code, is_import) {
        if tree.kind_name(token.node) != "identifier" || before == "::" || WORDS.contains(&text) {
            continue;
        }
        let Some(used) = used_as(code, token.node, text) else { continue };
        // Methods are told with the dot in front of them.
        let dotted = token.start.checked_sub(1).and_then(|dot| source.text().get(dot as usize..token.end as usize));
        let name = match used {
            Use::Query => dotted.filter(|dotted| dotted.starts_with('.')).unwrap_or(text),
            Use::Type | Use::Asked => text,
        };
        if known.has(code, token.node, name, used) {
            continue;
        }
        let doubt = known.open
            || match used {
                Use::Type => false,
                Use::Asked => inherits(code, token.node, index.as_deref()),
                Use::Query => true,
            };
        // What is asked of something that nothing knows is a namespace, or a member of what is taken over.
        if used == Use::Asked && self::known(name, around).is_empty() {
            continue;
        }
        let at = *places.entry(name).or_insert_with(|| {
            names.push(Unbound { doubt: true, ..Unbound::at(name, token.end - name.len() as u32) });
            names.len() - 1
        });
        // A name that is certain once is so everywhere.
        names[at].doubt &= doubt;
        names[at].members.extend(manner(code, token.node));
    }
    // One method tells of the namespace.
    let first = names.iter().find(|unbound| unbound.name.starts_with('.')).map(|unbound| unbound.offset);
    names.retain(|unbound| !unbound.name.starts_with('.') || Some(unbound.offset) == first);
    names
}

/// Whether a name is used as an attribute, or with parameters.
fn manner(code: Code<'_>, name: NodeId) -> Option<&'static str> {
    let tree = code.tree;
    match tree.kind_name(tree.node(name).parent) {
        "attribute" => Some(ATTRIBUTE),
        "generic_name" => Some(GENERIC),
        _ => None,
    }
}

/// The namespaces that have a type of a name, or an attribute that may be written so.
fn known(name: &str, around: &dyn Surroundings) -> Vec<Origin> {
    let index = around.index();
    let mut origins = Vec::new();
    for name in ["", "Attribute"].map(|end| format!("{name}{end}")) {
        let own = index.iter().flat_map(|index| index.homes_of(&name)).filter(|home| !home.is_empty());
        // Others that have methods of the same names are asked for far less often.
        let meant = |home: &&str| !name.starts_with('.') || *home == "System.Linq";
        let homes = own.cloned().chain(facts::homes_of(&name).filter(meant).map(str::to_owned));
        origins.extend(homes.map(|source| Origin { source, path: name.clone(), alias: None }));
    }
    origins
}

/// What a name may stand for; `None` where it is certain that it is no type.
fn used_as(code: Code<'_>, name: NodeId, text: &str) -> Option<Use> {
    let tree = code.tree;
    let outer = |id: NodeId| tree.node(id).parent;
    let first = |parent: NodeId| tree.parts(parent).next();
    let mut at = name;
    // What has parameters, and the first part of a longer name, stand where the whole does.
    while matches!(tree.kind_name(outer(at)), "generic_name" | "qualified_name") && first(outer(at)) == Some(at) {
        at = outer(at);
    }
    let (qualified, parent) = (tree.kind_name(at) == "qualified_name", outer(at));
    let kind = tree.kind_name(parent);
    let is_part = |part: &str| part.is_empty() || tree.child_named(parent, part) == Some(at);
    if TYPED.iter().any(|(of, part)| *of == kind && is_part(part)) {
        return Some(if qualified { Use::Asked } else { Use::Type });
    }
    // A constant, or a type: `a is B`.
    if kind == "constant_pattern" && text.starts_with(char::is_uppercase) {
        return Some(Use::Asked);
    }
    let asked = kind == "member_access_expression";
    if asked && tree.child_named(parent, "expression") == Some(at) {
        return text.starts_with(char::is_uppercase).then_some(Use::Asked);
    }
    let called = || tree.kind_name(outer(parent)) == "invocation_expression";
    (asked && called() && QUERIES.contains(&text)).then_some(Use::Query)
}

/// Whether a type around takes members from another one that is no interface and not of the project.
fn inherits(code: Code<'_>, name: NodeId, index: Option<&Index>) -> bool {
    let Code { source, tree, .. } = code;
    let is_interface = |text: &str| {
        let mut letters = text.chars();
        letters.next() == Some('I') && letters.next().is_some_and(char::is_uppercase)
    };
    let types = tree.ancestors(name).filter(|id| tree.role(*id) == Role::Type);
    let bases = types.flat_map(|id| tree.parts(id)).filter(|part| tree.kind_name(*part) == "base_list");
    bases.into_iter().any(|bases| {
        let mut named = tree.parts(bases).filter(|part| tree.role(*part) == Role::Name || !tree.node(*part).is_leaf());
        named.any(|base| {
            let base = tree.text_of(source.text(), base).split('<').next().unwrap_or("");
            let base = base.trim().rsplit('.').next().unwrap_or("");
            !is_interface(base) && index.is_none_or(|index| index.homes_of(base).is_empty())
        })
    })
}

/// What is known in a file without a further import.
struct Known<'a> {
    /// Types that it declares, parameters of those, other names for them.
    types: HashSet<&'a str>,
    /// Anything that it declares.
    names: HashSet<&'a str>,
    /// The namespaces that are brought in, and those that the file is in.
    namespaces: HashSet<String>,
    /// Whether something is brought in of which it is not known what it offers.
    open: bool,
    index: Option<&'a Index>,
}

impl<'a> Known<'a> {
    fn of(code: Code<'a>, index: Option<&'a Index>) -> Known<'a> {
        let Code { source, tree, .. } = code;
        let (mut types, mut names, mut namespaces) = (HashSet::new(), HashSet::new(), HashSet::new());
        for id in (0..tree.nodes().len() as u32).map(NodeId) {
            let named = tree.child_named(id, "name").or_else(|| tree.child_named(id, "left"));
            let Some(name) = named.filter(|name| tree.kind_name(*name) == "identifier") else { continue };
            let name = tree.text_of(source.text(), name);
            let kind = tree.kind_name(id);
            if tree.role(id) == Role::Type || matches!(kind, "delegate_declaration" | "type_parameter") {
                types.insert(name);
            }
            if !matches!(kind, "attribute" | "member_access_expression" | "qualified_name") {
                names.insert(name);
            }
        }
        for id in (0..tree.nodes().len() as u32).map(NodeId) {
            let Some(space) = namespace_of(code, id) else { continue };
            let ends = space.match_indices('.').map(|(at, _)| at).chain([space.len()]);
            namespaces.extend(ends.map(|end| space[..end].to_owned()));
        }
        let mut known = Known { types, names, namespaces, open: false, index };
        for id in imports_of(code, is_import) {
            let Some(import) = read(code, id) else { continue };
            if let Some(alias) = tokens_of(code, id).skip_while(|word| *word != "using").nth(1) {
                known.types.insert(alias);
            }
            let own = index.is_some_and(|index| index.names_in(&import.source).is_some());
            let told = facts::offered(&import.source).is_some() || own;
            // A type of the library has no types in it that are used without its name.
            let outer = import.source.rsplit_once('.').map_or("", |(outer, _)| outer);
            known.open |= match import.form {
                Form::Alias => false,
                Form::Static => facts::offered(outer).is_none(),
                _ => !told,
            };
            known.namespaces.insert(import.source);
        }
        known
    }

    fn has(&self, code: Code<'_>, node: NodeId, name: &str, used: Use) -> bool {
        let generic = manner(code, node) == Some(GENERIC);
        let brought = |name: &str| {
            let global = |home: &str| self.index.is_some_and(|index| index.takes(&format!("{GLOBAL}{home}")));
            let is_here = |home: &str| {
                let fits = home != "System.Collections" || !generic;
                home.is_empty() || fits && self.namespaces.contains(home) || global(home)
            };
            let own = self.index.map_or(&[][..], |index| index.homes_of(name));
            facts::homes_of(name).any(is_here) || own.iter().any(|home| is_here(home))
        };
        let taken = |kind: &str| self.index.is_some_and(
            |index| index.takes(&format!("{kind}{}", name.trim_start_matches('.'))),
        );
        let space = || {
            let within = self.namespaces.iter().map(|outer| format!("{outer}.{name}"));
            let is_space = |space: &str| {
                self.index.is_some_and(|index| index.has_package(space)) || facts::has_namespace(space)
            };
            is_space(name) || within.into_iter().any(|space| is_space(&space))
        };
        let attribute = || manner(code, node) == Some(ATTRIBUTE) && brought(&format!("{name}Attribute"));
        self.types.contains(name)
            || brought(name)
            || attribute()
            || match used {
                Use::Type => taken(INNER),
                Use::Query => taken(MEMBER),
                Use::Asked => self.names.contains(name) || taken(MEMBER) || taken(INNER) || space(),
            }
    }
}
