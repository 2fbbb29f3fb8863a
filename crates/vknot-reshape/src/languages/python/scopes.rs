//! What Python names are bound to (The Python Language Reference, section 4.2).

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, no_keys, one_space};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier"],
    binding,
    inner,
    spaces: one_space,
    written,
    keyed: no_keys,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "False", "None", "True", "and", "as", "assert", "async", "await", "break", "class", "continue", "def", "del",
    "elif",
    "else", "except", "finally", "for", "from", "global", "if", "import", "in", "is", "lambda", "nonlocal", "not", "or",
    "pass",
    "raise", "return", "try", "while", "with", "yield",
];

/// Kinds that names are local to.
const FUNCTIONS: &[&str] = &[
    "function_definition",
    "lambda",
    "list_comprehension",
    "set_comprehension",
    "dictionary_comprehension",
    "generator_expression",
];

/// What a string puts in is used where the string stands.
fn inner(code: Code<'_>, token: NodeId, _: Span, binding: Binding) -> Binding {
    match binding {
        Binding::Uses { .. } => used(code, token),
        other => other,
    }
}

fn written(code: Code<'_>, id: NodeId, new: &str) -> String {
    let tree = code.tree;
    let import = tree.ancestors(id).take(4).find(|above| tree.role(*above) == Role::Import);
    let aliased = tree.ancestors(id).take(3).any(|above| tree.kind_name(above) == "aliased_import");
    match import {
        Some(_) if !aliased => format!("{} as {new}", code.source.slice(tree.node(id).span())),
        _ => new.to_owned(),
    }
}

/// The function, class or file that a node stands in.
fn frame(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let frame = |above: &NodeId| {
        let kind = tree.kind_name(*above);
        FUNCTIONS.contains(&kind) || kind == "class_definition" || above.0 == 0
    };
    tree.ancestors(id).skip(1).find(frame).unwrap_or(NodeId(0))
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field) {
        ("attribute", "attribute") | ("keyword_argument", "name") => Binding::Other,
        ("global_statement" | "nonlocal_statement", _)
        | ("case_pattern", _)
        | ("type_parameter" | "type_alias_statement", _) => {
            Binding::Unknown
        }
        ("function_definition" | "class_definition", "name") => local(code, holder),
        ("parameters" | "lambda_parameters", _) => parameter(code, id, tree.node(holder).parent),
        ("default_parameter" | "typed_default_parameter", "name") => own_parameter(code, id, holder),
        ("typed_parameter", "") => own_parameter(code, id, holder),
        ("list_splat_pattern" | "dictionary_splat_pattern", _) => splat(code, id, holder),
        ("named_expression", "name") => Binding::Unknown,
        ("dotted_name", _) => dotted(code, holder),
        ("aliased_import", "alias") => local(code, holder),
        _ if is_target(code, id) => assigned(code, id),
        _ => used(code, id),
    }
}

/// Declared in what holds a node.
fn local(code: Code<'_>, id: NodeId) -> Binding {
    let holder = frame(code, id);
    // Members of a class are asked of its objects.
    let class = code.tree.kind_name(holder) == "class_definition";
    if class { Binding::Member { of: holder } } else { seen_in(code, holder) }
}

fn seen_in(code: Code<'_>, holder: NodeId) -> Binding {
    let node = code.tree.node(holder);
    let span = if holder.0 == 0 { code.source.span() } else { node.span() };
    Binding::Declares { holder, seen: span }
}

/// A parameter is a part of how the function is called, where some call names it.
fn parameter(code: Code<'_>, id: NodeId, function: NodeId) -> Binding {
    let tree = code.tree;
    let name = code.source.slice(tree.node(id).span());
    let keyword = tree.tokens().iter().any(|token| {
        tree.kind_name(tree.node(token.node).parent) == "keyword_argument"
            && tree.language().field_name(tree.node(token.node).field) == "name"
            && code.source.slice(token.span()) == name
    });
    if keyword { Binding::Unknown } else { seen_in(code, function) }
}

fn own_parameter(code: Code<'_>, id: NodeId, holder: NodeId) -> Binding {
    let tree = code.tree;
    let function = tree.ancestors(holder).skip(1).find(|above| FUNCTIONS.contains(&tree.kind_name(*above)));
    function.map_or(Binding::Unknown, |function| parameter(code, id, function))
}

/// `*names`: a parameter, or a target among others.
fn splat(code: Code<'_>, id: NodeId, holder: NodeId) -> Binding {
    let tree = code.tree;
    let above = tree.node(holder).parent;
    match tree.kind_name(above) {
        "parameters" | "lambda_parameters" => parameter(code, id, tree.node(above).parent),
        "typed_parameter" => own_parameter(code, id, above),
        _ => assigned(code, id),
    }
}

/// Names of imports: what comes in is declared, where it comes from is not.
fn dotted(code: Code<'_>, holder: NodeId) -> Binding {
    let tree = code.tree;
    let Some(import) = tree.ancestors(holder).take(3).find(|above| tree.role(*above) == Role::Import) else {
        return match tree.ancestors(holder).any(|above| tree.kind_name(above) == "case_pattern") {
            true => Binding::Unknown,
            false => Binding::Other,
        };
    };
    let from = tree.ancestors(holder).take_while(|above| *above != import).any(|above| {
        tree.language().field_name(tree.node(above).field) == "module_name"
    });
    let aliased = tree.kind_name(tree.node(holder).parent) == "aliased_import";
    let parts = tree.parts(holder).count();
    match () {
        _ if from || aliased => Binding::Other,
        // `import a.b` declares `a`, which cannot be called otherwise.
        _ if parts > 1 => Binding::Unknown,
        _ => local(code, import),
    }
}

/// Whether a name is given a value where it stands.
fn is_target(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let mut inner = id;
    for above in tree.ancestors(id).skip(1) {
        let field = tree.language().field_name(tree.node(inner).field);
        match tree.kind_name(above) {
            "pattern_list" | "tuple_pattern" | "list_pattern" | "list_splat_pattern" => inner = above,
            // Among targets tuples and lists may be read as values.
            "tuple" | "list" | "expression_list" | "parenthesized_expression" | "as_pattern_target" => inner = above,
            "assignment" | "augmented_assignment" | "for_statement" | "for_in_clause" => return field == "left",
            "as_pattern" => return field == "alias",
            "delete_statement" => return true,
            _ => return false,
        }
    }
    false
}

/// Given a value: declared in what it stands in, for a comprehension in that, and nowhere where a statement says that it is not.
fn assigned(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let clause = tree.ancestors(id).find(|above| {
        matches!(tree.kind_name(*above), "for_in_clause") || tree.role(*above) == Role::Statement
    });
    match clause.filter(|clause| tree.kind_name(*clause) == "for_in_clause") {
        Some(clause) => seen_in(code, tree.node(clause).parent),
        None => local(code, id),
    }
}

/// A use in a default or an annotation, and in what a comprehension goes over first, is of what is seen around that.
fn used(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let mut inner = id;
    for above in tree.ancestors(id).skip(1) {
        let kind = tree.kind_name(above);
        let field = tree.language().field_name(tree.node(inner).field);
        if FUNCTIONS.contains(&kind) {
            let outside = matches!(field, "parameters" | "return_type") || is_gone_over_first(code, id, inner);
            return if outside { around(code, above) } else { Binding::Uses { but: None } };
        }
        if kind == "class_definition" {
            // Its bases are told around it; what its body names may be a member.
            let of = above;
            return if field == "superclasses" { around(code, above) } else { Binding::InBody { of, but: None } };
        }
        inner = above;
    }
    Binding::Uses { but: None }
}

/// A use of what is seen around a function or class.
fn around(code: Code<'_>, holder: NodeId) -> Binding {
    let outer = frame(code, holder);
    match code.tree.kind_name(outer) == "class_definition" {
        true => Binding::InBody { of: outer, but: Some(holder) },
        false => Binding::Uses { but: Some(holder) },
    }
}

/// Whether a name is in what the first clause of a comprehension goes over.
fn is_gone_over_first(code: Code<'_>, id: NodeId, clause: NodeId) -> bool {
    let tree = code.tree;
    let holder = tree.node(clause).parent;
    let first = || tree.parts(holder).find(|part| tree.kind_name(*part) == "for_in_clause") == Some(clause);
    let right = || tree.child_named(clause, "right").map_or(0, |right| tree.node(right).start);
    tree.kind_name(clause) == "for_in_clause" && first() && right() <= tree.node(id).start
}
