//! What Go names are bound to (The Go Programming Language Specification, "Declarations and scope").

use std::collections::HashMap;

use vknot_syntax::{NodeId, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_is, as_it_says, one_space};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier", "type_identifier", "package_identifier"],
    binding,
    inner: as_it_says,
    spaces: one_space,
    written: as_it_is,
    keyed,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "_", "break", "case", "chan", "const", "continue", "default", "defer", "else", "fallthrough", "for", "func", "go",
    "goto", "if", "import", "interface", "map", "package", "range", "return", "select", "struct", "switch", "type",
    "var",
];

/// Kinds of node that names are local to.
const BLOCKS: &[&str] = &[
    "block", "communication_case", "default_case", "expression_case", "expression_switch_statement", "for_statement",
    "if_statement", "source_file", "type_case", "type_switch_statement",
];

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field) {
        ("package_clause", _) | ("qualified_type", "name") => Binding::Other,
        ("import_spec", "name") => declared(code, NodeId(0), 0),
        ("function_declaration", "name") => declared(code, NodeId(0), 0),
        ("parameter_declaration" | "variadic_parameter_declaration", "name") => parameter(code, holder),
        ("type_parameter_declaration", "name") => {
            let list = tree.node(holder).parent;
            whole(code, tree.node(list).parent)
        }
        ("type_spec" | "type_alias", "name") => local(code, holder, tree.node(id).start),
        ("var_spec" | "const_spec", "name") => local(code, holder, tree.node(holder).end),
        ("type_elem", _) if is_of_receiver(code, holder) => match method(code, holder) {
            Some(method) => whole(code, method),
            None => Binding::Unknown,
        },
        ("expression_list", _) => listed(code, id, holder),
        ("literal_element", _) if is_key(code, holder) => key(code, holder),
        // A field without a name is called like its type.
        _ if is_embedded(code, id) => Binding::Unknown,
        _ => Binding::Uses { but: None },
    }
}

fn declared(code: Code<'_>, holder: NodeId, from: u32) -> Binding {
    let end = if holder.0 == 0 { code.source.span().end } else { code.tree.node(holder).end };
    Binding::Declares { holder, seen: Span::new(from.min(end), end) }
}

fn whole(code: Code<'_>, holder: NodeId) -> Binding {
    declared(code, holder, code.tree.node(holder).start)
}

/// The block that a declaration is local to.
fn block(code: Code<'_>, declaration: NodeId) -> NodeId {
    let tree = code.tree;
    tree.ancestors(declaration).skip(1).find(|id| BLOCKS.contains(&tree.kind_name(*id))).unwrap_or(NodeId(0))
}

/// What is declared in a block is seen from there on, and what the package declares everywhere.
fn local(code: Code<'_>, declaration: NodeId, from: u32) -> Binding {
    let holder = block(code, declaration);
    declared(code, holder, if holder.0 == 0 { 0 } else { from })
}

/// A parameter, result or receiver is local to the body; in the type of a function it is seen nowhere else.
fn parameter(code: Code<'_>, declaration: NodeId) -> Binding {
    let tree = code.tree;
    let list = tree.node(declaration).parent;
    match tree.child_named(tree.node(list).parent, "body") {
        Some(body) => whole(code, body),
        None => whole(code, declaration),
    }
}

/// In a list on the left of `:=`.
fn listed(code: Code<'_>, id: NodeId, list: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(list).parent;
    let node = tree.node(holder);
    let field = tree.language().field_name(tree.node(list).field);
    let declares = tree.parts(holder).any(|part| tree.kind_name(part) == ":=");
    match (tree.kind_name(holder), field) {
        ("short_var_declaration", "left") => {
            let holder = block(code, holder);
            Binding::Redeclares { holder, seen: Span::new(node.end, tree.node(holder).end.max(node.end)) }
        }
        ("range_clause" | "receive_statement", "left") if declares => local(code, holder, node.end),
        ("type_switch_statement", "alias") => {
            let value = tree.child_named(holder, "value").unwrap_or(id);
            declared(code, holder, tree.node(value).end)
        }
        _ => Binding::Uses { but: None },
    }
}

fn method(code: Code<'_>, id: NodeId) -> Option<NodeId> {
    code.tree.ancestors(id).find(|above| code.tree.kind_name(*above) == "method_declaration")
}

/// Whether an argument of a type is that of a receiver, `func (g *Gauge[T])`, where it declares a name.
fn is_of_receiver(code: Code<'_>, argument: NodeId) -> bool {
    let tree = code.tree;
    let list = tree.ancestors(argument).find(|above| tree.kind_name(*above) == "parameter_list");
    list.is_some_and(|list| tree.language().field_name(tree.node(list).field) == "receiver")
}

fn is_embedded(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let mut inner = id;
    for above in tree.ancestors(id).skip(1) {
        let field = tree.language().field_name(tree.node(inner).field);
        match (tree.kind_name(above), field) {
            ("generic_type", "type") | ("pointer_type", _) => inner = above,
            ("field_declaration", "type") => return tree.child_named(above, "name").is_none(),
            _ => return false,
        }
    }
    false
}

fn is_key(code: Code<'_>, element: NodeId) -> bool {
    code.tree.language().field_name(code.tree.node(element).field) == "key"
}

/// A key in a literal is a field of a structure, or a value, as the type of the literal says.
fn key(code: Code<'_>, element: NodeId) -> Binding {
    let tree = code.tree;
    let literal = tree.ancestors(element).find(|above| tree.kind_name(*above) == "literal_value");
    let Some(literal) = literal else { return Binding::Unknown };
    let is_name = |element: &NodeId| {
        tree.parts(*element).next().is_some_and(|inner| tree.kind_name(inner) == "identifier")
    };
    let keys = tree.parts(literal).filter_map(|part| tree.child_named(part, "key"));
    if !keys.into_iter().all(|key| is_name(&key)) {
        return Binding::Uses { but: None };
    }
    match type_of(code, literal) {
        Some(of) => match tree.kind_name(of) {
            "struct_type" => Binding::Other,
            "map_type" | "slice_type" | "array_type" | "implicit_length_array_type" => Binding::Uses { but: None },
            "type_identifier" => Binding::Key { of },
            _ => Binding::Perhaps,
        },
        None => Binding::Perhaps,
    }
}

/// The type of a literal: its own, or what the one around it is made of.
fn type_of(code: Code<'_>, literal: NodeId) -> Option<NodeId> {
    let tree = code.tree;
    let mut parts = Vec::new();
    for above in tree.ancestors(literal).skip(1) {
        match tree.kind_name(above) {
            "literal_element" => parts.push(if is_key(code, above) { "key" } else { "value" }),
            "keyed_element" | "literal_value" => {}
            "composite_literal" => {
                let mut found = plain(code, tree.child_named(above, "type")?)?;
                while let Some(part) = parts.pop() {
                    let inner = match tree.kind_name(found) {
                        "map_type" => tree.child_named(found, part)?,
                        _ => tree.child_named(found, "element")?,
                    };
                    found = plain(code, inner)?;
                }
                return Some(found);
            }
            _ => return None,
        }
    }
    None
}

/// A type without its arguments, and without `*`.
fn plain(code: Code<'_>, mut of: NodeId) -> Option<NodeId> {
    let tree = code.tree;
    loop {
        of = match tree.kind_name(of) {
            "generic_type" => tree.child_named(of, "type")?,
            "pointer_type" => tree.parts(of).last()?,
            _ => return Some(of),
        };
    }
}

/// The types that a file declares once, and whether the keys of their literals are fields.
fn keyed(code: Code<'_>) -> HashMap<&str, bool> {
    let tree = code.tree;
    let mut known = HashMap::new();
    for id in (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.kind_name(*id) == "type_spec") {
        let (Some(name), Some(of)) = (tree.child_named(id, "name"), tree.child_named(id, "type")) else { continue };
        let fields = match tree.kind_name(of) {
            "struct_type" => Some(true),
            "map_type" | "slice_type" | "array_type" => Some(false),
            _ => None,
        };
        let entry = known.entry(tree.text_of(code.source.text(), name));
        entry.and_modify(|known| *known = None).or_insert(fields);
    }
    known.into_iter().filter_map(|(name, fields)| Some((name, fields?))).collect()
}
