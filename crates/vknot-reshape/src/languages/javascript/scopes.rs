//! What names of JavaScript and TypeScript are bound to (ECMA-262, section 9.1): variables, parameters, functions, imports.

use vknot_syntax::{NodeId, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_says, no_keys};

pub(crate) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier", "type_identifier", "shorthand_property_identifier", "shorthand_property_identifier_pattern"],
    binding,
    inner: as_it_says,
    spaces,
    written,
    keyed: no_keys,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "arguments", "await", "break", "case", "catch", "class", "const", "continue", "debugger", "default", "delete", "do",
    "else",
    "enum", "eval", "export", "extends", "false", "finally", "for", "function", "if", "implements", "import", "in",
    "instanceof",
    "interface", "let", "new", "null", "package", "private", "protected", "public", "return", "static", "super",
    "switch",
    "this", "throw", "true", "try", "typeof", "undefined", "var", "void", "while", "with", "yield",
];

/// Values, types and what holds types are three spaces of names: classes are of the first two, enumerations, modules and imports of all.
fn spaces(code: Code<'_>, id: NodeId) -> u8 {
    const VALUES: u8 = 1;
    const TYPES: u8 = 2;
    const HOLDERS: u8 = 4;
    let tree = code.tree;
    let holder = tree.node(id).parent;
    match tree.kind_name(holder) {
        "interface_declaration" | "type_alias_declaration" | "type_parameter" | "infer_type" | "mapped_type_clause"
            if tree.language().field_name(tree.node(id).field) == "name" => TYPES,
        "infer_type" => TYPES,
        "class_declaration" | "abstract_class_declaration" | "class" => VALUES | TYPES,
        "enum_declaration"
        | "internal_module"
        | "module"
        | "import_clause"
        | "namespace_import"
        | "import_specifier"
        | "export_specifier" => VALUES | TYPES | HOLDERS,
        "nested_type_identifier" => HOLDERS,
        "nested_identifier" if is_in_type(code, holder) => HOLDERS,
        "nested_identifier" => VALUES | TYPES | HOLDERS,
        _ if tree.kind_name(id) == "type_identifier" => TYPES,
        _ => VALUES,
    }
}

/// Whether a name with points in it says where a type is held.
fn is_in_type(code: Code<'_>, name: NodeId) -> bool {
    let mut kinds = code.tree.ancestors(name).map(|id| code.tree.kind_name(id));
    kinds.find(|kind| *kind != "nested_identifier") == Some("nested_type_identifier")
}

/// Kinds of function, with their parameters.
fn is_function(kind: &str) -> bool {
    matches!(
        kind,
        "function_declaration"
            | "function_expression"
            | "generator_function"
            | "generator_function_declaration"
            | "arrow_function"
            | "method_definition"
            | "method_signature"
            | "function_signature"
            | "abstract_method_signature"
            | "call_signature"
            | "construct_signature"
            | "constructor_type"
            | "function_type"
    )
}

fn written(code: Code<'_>, id: NodeId, new: &str) -> String {
    let tree = code.tree;
    let own = code.source.slice(tree.node(id).span());
    let holder = tree.node(id).parent;
    let alias = tree.child_named(holder, "alias").is_some();
    match (tree.kind_name(id), tree.kind_name(holder)) {
        ("shorthand_property_identifier" | "shorthand_property_identifier_pattern", _) => format!("{own}: {new}"),
        (_, "import_specifier") if !alias => format!("{own} as {new}"),
        (_, "export_specifier") if !alias => format!("{new} as {own}"),
        _ => new.to_owned(),
    }
}

fn seen(code: Code<'_>, holder: NodeId) -> Binding {
    let node = code.tree.node(holder);
    let seen = if holder.0 == 0 { code.source.span() } else { node.span() };
    Binding::Declares { holder, seen }
}

/// The block, function, loop or file that a declaration is seen in.
fn block(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let holds = |above: &NodeId| {
        let kind = tree.kind_name(*above);
        let blocks = [
            "statement_block",
            "switch_body",
            "for_statement",
            "for_in_statement",
            "class_static_block",
            "internal_module",
            "module",
        ];
        above.0 == 0 || blocks.contains(&kind) || is_function(kind)
    };
    tree.ancestors(id).skip(1).find(holds).unwrap_or(NodeId(0))
}

/// The function or file that a `var` is seen in.
fn function(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let holds = |above: &NodeId| above.0 == 0
        || is_function(tree.kind_name(*above))
        || tree.kind_name(*above) == "class_static_block";
    tree.ancestors(id).skip(1).find(holds).unwrap_or(NodeId(0))
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field) {
        (
            "function_declaration"
                | "generator_function_declaration"
                | "class_declaration"
                | "abstract_class_declaration",
            "name",
        ) => {
            seen(code, block(code, holder))
        }
        (
            "function_signature"
                | "interface_declaration"
                | "type_alias_declaration"
                | "enum_declaration"
                | "internal_module"
                | "module",
            "name",
        ) => {
            // One name may have several declarations that are one thing.
            seen(code, block(code, holder))
        }
        ("function_expression" | "generator_function" | "class", "name") => seen(code, holder),
        ("import_clause" | "namespace_import", _) => seen(code, NodeId(0)),
        ("import_specifier", _) => match field == "alias" || tree.child_named(holder, "alias").is_none() {
            true => seen(code, NodeId(0)),
            false => Binding::Other,
        },
        ("export_specifier", _) => exported(code, id, holder, field),
        ("import_require_clause" | "import_alias", _) => Binding::Unknown,
        ("type_parameter", "name") | ("mapped_type_clause", "name") | ("infer_type", _) => type_parameter(code, holder),
        ("catch_clause", "parameter") => seen(code, holder),
        ("nested_type_identifier", "name") | ("nested_identifier", "property") | ("type_predicate", _) =>
            predicate(code, id, holder),
        ("asserts" | "this_type", _) => Binding::Uses { but: None },
        ("labeled_statement" | "break_statement" | "continue_statement", _) => Binding::Other,
        ("enum_assignment" | "enum_body", _) => Binding::Other,
        ("namespace_export" | "decorator", _) => Binding::Uses { but: None },
        _ => pattern(code, id),
    }
}

fn exported(code: Code<'_>, _: NodeId, holder: NodeId, field: &str) -> Binding {
    let tree = code.tree;
    let from = tree.ancestors(holder).skip(1).take(2).any(|above| tree.child_named(above, "source").is_some());
    if from || field == "alias" { Binding::Other } else { Binding::Uses { but: None } }
}

fn predicate(code: Code<'_>, id: NodeId, holder: NodeId) -> Binding {
    let first = code.tree.parts(holder).next() == Some(id);
    let name = code.tree.kind_name(holder) == "type_predicate";
    if first || name { Binding::Uses { but: None } } else { Binding::Other }
}

/// A type parameter is seen in what its list belongs to.
fn type_parameter(code: Code<'_>, parameter: NodeId) -> Binding {
    let tree = code.tree;
    let kinds = ["type_parameters", "type_parameter", "infer_type", "mapped_type_clause", "index_signature"];
    let outer = match tree.kind_name(parameter) {
        "infer_type" => tree.ancestors(parameter).find(|above| tree.kind_name(*above) == "conditional_type"),
        _ => tree.ancestors(parameter).skip(1).find(|above| !kinds.contains(&tree.kind_name(*above))),
    };
    outer.map_or(Binding::Unknown, |outer| seen(code, outer))
}

/// A name in a pattern is declared by what the pattern is in; anywhere else it is used.
fn pattern(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let mut inner = id;
    for above in tree.ancestors(id).skip(1) {
        let field = tree.language().field_name(tree.node(inner).field);
        match (tree.kind_name(above), field) {
            ("object_pattern" | "array_pattern" | "rest_pattern", _) => {}
            ("pair_pattern", "value") => {}
            ("assignment_pattern" | "object_assignment_pattern", "left") => {}
            ("required_parameter" | "optional_parameter", "pattern") => {}
            ("required_parameter" | "optional_parameter", "") if tree.kind_name(inner) == "rest_pattern" => {}
            ("formal_parameters", _) => return parameter(code, tree.node(above).parent),
            ("arrow_function", "parameter") => return seen(code, above),
            ("variable_declarator", "name") => return variable(code, id, tree.node(above).parent),
            ("for_in_statement", "left") => return looped(code, above, inner),
            ("catch_clause", "parameter") => return seen(code, above),
            _ => return Binding::Uses { but: None },
        }
        inner = above;
    }
    Binding::Uses { but: None }
}

fn parameter(code: Code<'_>, function: NodeId) -> Binding {
    if is_function(code.tree.kind_name(function)) { seen(code, function) } else { Binding::Unknown }
}

fn variable(code: Code<'_>, id: NodeId, declaration: NodeId) -> Binding {
    let tree = code.tree;
    match tree.kind_name(declaration) {
        "lexical_declaration" | "using_declaration" => seen(code, block(code, declaration)),
        "variable_declaration" => seen(code, function(code, id)),
        _ => Binding::Unknown,
    }
}

/// The variable of a loop over something: declared, or one that there is.
fn looped(code: Code<'_>, statement: NodeId, left: NodeId) -> Binding {
    let tree = code.tree;
    let before = Span::new(tree.node(statement).start, tree.node(left).start);
    let words = code.source.slice(before);
    let word = |wanted: &str| words.split(|c: char| !c.is_alphanumeric()).any(|word| word == wanted);
    match () {
        _ if word("var") => seen(code, function(code, left)),
        _ if word("let") || word("const") => seen(code, statement),
        _ => Binding::Uses { but: None },
    }
}
