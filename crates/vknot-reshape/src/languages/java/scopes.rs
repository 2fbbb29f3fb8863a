//! What Java names are bound to (The Java Language Specification, chapter 6): locals, parameters and private fields.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_is, as_it_says, no_keys};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier"],
    binding,
    inner: as_it_says,
    spaces,
    written: as_it_is,
    keyed: no_keys,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "abstract", "assert", "boolean", "break", "byte", "case", "catch", "char", "class", "const", "continue", "default",
    "do",
    "double", "else", "enum", "extends", "final", "finally", "float", "for", "goto", "if", "implements", "import",
    "instanceof",
    "int", "interface", "long", "native", "new", "null", "package", "private", "protected", "public", "return", "short",
    "static", "super", "switch", "synchronized", "this", "throw", "throws", "transient", "true", "false", "try", "void",
    "volatile", "while", "var", "yield", "record", "_",
];

/// Fields are also known by `this`, which no local is.
fn spaces(code: Code<'_>, id: NodeId) -> u8 {
    const NAMES: u8 = 1;
    const FIELDS: u8 = 2;
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let declaration = tree.kind_name(tree.node(holder).parent);
    match tree.kind_name(holder) {
        "variable_declarator" if declaration == "field_declaration" => NAMES | FIELDS,
        "field_access" if tree.language().field_name(tree.node(id).field) == "field" => FIELDS,
        _ => NAMES,
    }
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field) {
        ("variable_declarator", "name") => variable(code, id, tree.node(holder).parent),
        ("formal_parameter" | "catch_formal_parameter", "name") => within(code, id, tree.node(holder).parent),
        ("inferred_parameters", _) => within(code, id, holder),
        ("lambda_expression", "parameters") => declares(code, holder, tree.node(holder).start),
        ("resource", "name") => {
            let statement = tree.ancestors(holder).find(|id| tree.role(*id) == Role::Branch).unwrap_or(holder);
            declares(code, statement, tree.node(id).start)
        }
        ("enhanced_for_statement", "name") => declares(code, holder, tree.node(id).start),
        ("field_access", "field") => this_field(code, holder),
        ("method_invocation", "name") | ("element_value_pair", "key") => Binding::Other,
        ("labeled_statement" | "break_statement" | "continue_statement", _) => Binding::Other,
        (
            "scoped_identifier" | "import_declaration" | "package_declaration" | "annotation" | "marker_annotation",
            _,
        ) => {
            scoped(code, id)
        }
        ("method_reference", _) if tree.parts(holder).next() != Some(id) => Binding::Other,
        ("instanceof_expression", "name") | ("type_pattern" | "record_pattern_component", _) => Binding::Unknown,
        (kind, "name") if kind.ends_with("_declaration") || kind == "enum_constant" => Binding::Other,
        ("variable_declarator", _) if tree.kind_name(tree.node(holder).parent) == "spread_parameter" => Binding::Other,
        _ => Binding::Uses { but: None },
    }
}

fn declares(code: Code<'_>, holder: NodeId, from: u32) -> Binding {
    Binding::Declares { holder, seen: Span::new(from, code.tree.node(holder).end) }
}

/// A parameter is seen in what its list belongs to.
fn within(code: Code<'_>, _: NodeId, list: NodeId) -> Binding {
    let holder = match code.tree.kind_name(list) {
        "catch_clause" => list,
        _ => code.tree.node(list).parent,
    };
    declares(code, holder, code.tree.node(holder).start)
}

fn variable(code: Code<'_>, id: NodeId, declaration: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(declaration).parent;
    match tree.kind_name(declaration) {
        "local_variable_declaration" => declares(code, holder, tree.node(id).start),
        "spread_parameter" => {
            let method = tree.node(holder).parent;
            declares(code, method, tree.node(method).start)
        }
        "field_declaration" => {
            let text = code.source.slice(Span::new(tree.node(declaration).start, tree.node(id).start));
            let private = text.split_whitespace().any(|word| word == "private");
            let seen = tree.node(holder).span();
            if private { Binding::Private { holder, seen } } else { Binding::Open { holder, seen } }
        }
        _ => Binding::Unknown,
    }
}

fn this_field(code: Code<'_>, access: NodeId) -> Binding {
    let tree = code.tree;
    let this = tree.parts(access).next().is_some_and(|object| code.source.slice(tree.node(object).span()) == "this");
    if this { Binding::Uses { but: None } } else { Binding::Asked }
}

/// The first part of a name of several may be a variable.
fn scoped(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let import =
        tree.ancestors(id).any(|above| matches!(tree.role(above), Role::Import | Role::Package | Role::Annotation));
    let holder = tree.node(id).parent;
    if import || tree.parts(holder).next() != Some(id) { Binding::Other } else { Binding::Uses { but: None } }
}
