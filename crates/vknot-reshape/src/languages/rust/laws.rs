//! What a Rust compiler does not take though the grammar does (The Rust Reference, chapters 6 and 8).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "source_file", is_sound: items_only },
    Law::Sound { holder: "declaration_list", is_sound: fitting_items },
    Law::Sound { holder: "block", is_sound: statements_end },
    Law::Sound { holder: "expression_statement", is_sound: ended },
    Law::Sound { holder: "parameters", is_sound: one_receiver },
    Law::Sound { holder: "function_type", is_sound: of_a_function },
    Law::Sound { holder: "field_initializer_list", is_sound: rest_last },
    Law::Sound { holder: "line_comment", is_sound: inner_first },
    Law::Sound { holder: "line_comment", is_sound: about_something },
    Law::Sound { holder: "block_comment", is_sound: about_something },
    Law::Sound { holder: "attribute_item", is_sound: about_something },
    Law::Sound { holder: "parameters", is_sound: parameters_only },
    Law::Within { kinds: &["return_expression"], holders: &[], callables: true },
    Law::Within {
        kinds: &["break_expression", "continue_expression"],
        holders: &[&["loop_expression", "while_expression", "for_expression"]],
        callables: false,
    },
    Law::Sound { holder: "type_arguments", is_sound: bound_where_declared },
    Law::Sound { holder: "block_comment", is_sound: closed },
    Law::Sound { holder: "use_list", is_sound: names_only },
    Law::Sound { holder: "struct_pattern", is_sound: one_rest },
    Law::Sound { holder: "tuple_struct_pattern", is_sound: one_rest },
    Law::Sound { holder: "binary_expression", is_sound: compared_once },
    Law::Sound { holder: "identifier", is_sound: no_mark },
    Law::Sound { holder: "type_parameters", is_sound: names_of_types },
];

/// Operators that do not follow one another without brackets.
const COMPARISONS: [&str; 6] = ["!=", "<", "<=", "==", ">", ">="];

/// What stands in a module.
const ITEMS: &[&str] = &[
    "attribute_item",
    "const_item",
    "enum_item",
    "extern_crate_declaration",
    "foreign_mod_item",
    "function_item",
    "impl_item",
    "inner_attribute_item",
    "macro_definition",
    "macro_invocation",
    "mod_item",
    "shebang",
    "static_item",
    "struct_item",
    "trait_item",
    "type_item",
    "union_item",
    "use_declaration",
];

/// What stands in an implementation or a trait.
const ASSOCIATED: &[&str] = &[
    "associated_type",
    "attribute_item",
    "const_item",
    "function_item",
    "function_signature_item",
    "inner_attribute_item",
    "macro_invocation",
    "type_item",
];

/// What stands among the declarations of another language.
const FOREIGN: &[&str] = &[
    "associated_type",
    "attribute_item",
    "function_signature_item",
    "inner_attribute_item",
    "macro_invocation",
    "static_item",
    "type_item",
];

fn items_only(code: Code<'_>, module: NodeId) -> bool {
    hold(code, module, ITEMS)
}

fn hold(code: Code<'_>, holder: NodeId, kinds: &[&str]) -> bool {
    let tree = code.tree;
    let invocation = |part: NodeId| {
        let inner = tree.parts(part).next().map_or("", |inner| tree.kind_name(inner));
        tree.kind_name(part) == "expression_statement" && inner == "macro_invocation"
    };
    let text = |part: NodeId| code.source.slice(tree.node(part).span());
    let named = tree.parts(holder).filter(|part| tree.language().is_named(tree.node(*part).kind));
    let named: Vec<NodeId> = named.filter(|part| tree.role(*part) != Role::Error).collect();
    // A macro between round or square brackets ends with `;`, and nothing else has one behind it.
    let mut open = false;
    named.iter().all(|part| {
        let ends = std::mem::replace(&mut open, false);
        match tree.kind_name(*part) {
            "empty_statement" => ends,
            "macro_invocation" => {
                open = !text(*part).ends_with('}');
                !ends && kinds.contains(&"macro_invocation")
            }
            kind => !ends && (kinds.contains(&kind) || invocation(*part)),
        }
    })
        && !open
}

/// What documents something, or is an attribute of it, stands in front of it.
fn about_something(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let node = tree.node(id);
    let text = code.source.slice(node.span());
    let documents = text.starts_with("///") && !text.starts_with("////")
        || text.starts_with("/**") && !text.starts_with("/***") && text != "/**/";
    if tree.role(id) == Role::Comment && !documents {
        return true;
    }
    let Some(holder) = tree.parent(id) else { return true };
    if matches!(tree.role(holder), Role::Macro | Role::Error) {
        return true;
    }
    // What a macro makes is not known here.
    if tree.ancestors(holder).any(|id| tree.role(id) == Role::Macro) {
        return true;
    }
    let behind = tree.parts(holder).skip_while(|part| *part <= id).find(|part| {
        !matches!(tree.role(*part), Role::Comment | Role::Annotation) && !tree.node(*part).is_empty()
    });
    behind.is_some_and(|part| {
        let kind = tree.kind_name(part);
        tree.language().is_named(tree.node(part).kind)
            && !matches!(kind, "where_clause" | "block" | "empty_statement" | "declaration_list" | "parameters")
    })
}

/// What documents a module stands in front of what is in it.
fn inner_first(code: Code<'_>, comment: NodeId) -> bool {
    let tree = code.tree;
    let inner = code.source.slice(tree.node(comment).span()).starts_with("//!");
    let Some(holder) = tree.parent(comment).filter(|_| inner) else { return true };
    tree.parts(holder).take_while(|part| *part < comment).all(|part| {
        !tree.language().is_named(tree.node(part).kind)
            || matches!(tree.kind_name(part), "inner_attribute_item" | "shebang")
    })
}

/// What fills in the other fields comes last, and no mark is behind it.
fn rest_last(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let mut parts = tree.parts(list).skip_while(|part| tree.kind_name(*part) != "base_field_initializer").skip(1);
    parts.all(|part| code.source.slice(tree.node(part).span()) == "}")
}

fn fitting_items(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    match tree.parent(list).map_or("", |holder| tree.kind_name(holder)) {
        "mod_item" => hold(code, list, ITEMS),
        "impl_item" | "trait_item" => hold(code, list, ASSOCIATED),
        "foreign_mod_item" => hold(code, list, FOREIGN),
        _ => true,
    }
}

/// Only the last expression of a block can do without `;`, unless it ends with a block itself.
fn statements_end(code: Code<'_>, block: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<NodeId> = tree
        .parts(block)
        .filter(|part| tree.language().is_named(tree.node(*part).kind) && tree.role(*part) != Role::Label)
        .collect();
    let Some((_, statements)) = parts.split_last() else { return true };
    statements.iter().all(|part| {
        let text = code.source.slice(tree.node(*part).span());
        // A block that makes a value is no statement.
        let value = tree.parts(*part).next().is_some_and(|inner| tree.kind_name(inner) == "async_block");
        text.ends_with(';') || text.ends_with('}') && !value || tree.role(*part) == Role::Annotation
    })
}

/// A statement that ends with a brace is one that may: not a value that is made.
fn ended(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let text = code.source.slice(tree.node(statement).span());
    let kind = tree.parts(statement).next().map_or("", |inner| tree.kind_name(inner));
    text.ends_with(';')
        || !matches!(kind, "struct_expression" | "call_expression" | "closure_expression" | "assignment_expression")
}

/// A method has one receiver, in front of its other parameters.
fn one_receiver(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let named = tree.parts(list).filter(|part| tree.language().is_named(tree.node(*part).kind));
    let kinds: Vec<&str> = named.map(|part| tree.kind_name(part)).filter(|kind| *kind != "attribute_item").collect();
    kinds.iter().skip(1).all(|kind| *kind != "self_parameter")
}

/// Types of arguments stand behind `fn`, or what is called as one.
fn of_a_function(code: Code<'_>, function: NodeId) -> bool {
    let text = code.source.slice(code.tree.node(function).span());
    let name = text.split('(').next().unwrap_or("").trim();
    let name = name.rsplit([':', ' ']).next().unwrap_or("");
    let tree = code.tree;
    let named = |list: NodeId| tree.parts(list).any(|part| tree.kind_name(part) == "parameter");
    if name != "fn"
        && !text.starts_with("unsafe")
        && tree.child_named(function, "parameters").is_some_and(named)
        && name.starts_with('F')
    {
        return false;
    }
    let called = name.trim_start_matches("Async");
    matches!(called, "fn" | "Fn" | "FnMut" | "FnOnce") || name.is_empty() || name.ends_with('>')
}

/// What a function takes has names; what is called as one, or points to one, takes types.
fn parameters_only(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let called = tree.parent(list).is_some_and(|holder| tree.kind_name(holder) == "function_type");
    let named = tree.parts(list).filter(|part| tree.language().is_named(tree.node(*part).kind));
    let kinds = ["attribute_item", "parameter", "self_parameter", "variadic_parameter"];
    let mut others = named.filter(|part| !kinds.contains(&tree.kind_name(*part)) && tree.role(*part) != Role::Error);
    called || others.next().is_none()
}

/// How long a lifetime is at least is said where it is declared.
fn bound_where_declared(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<NodeId> = tree.parts(list).collect();
    let bound = |pair: &[NodeId]| tree.kind_name(pair[0]) == "lifetime" && tree.kind_name(pair[1]) == "trait_bounds";
    !parts.windows(2).any(bound)
}

/// A comment ends, and so does each that begins in it.
fn closed(code: Code<'_>, comment: NodeId) -> bool {
    let (bytes, mut depth, mut at) = (code.text(comment).as_bytes(), 0u32, 0);
    while at < bytes.len() {
        match bytes.get(at..at + 2) {
            Some(b"/*") => (depth, at) = (depth + 1, at + 2),
            Some(b"*/") => (depth, at) = (depth.saturating_sub(1), at + 2),
            _ => at += 1,
        }
    }
    depth == 0
}

/// What says of a name that it may change is none; in macros it may be anything.
fn no_mark(code: Code<'_>, name: NodeId) -> bool {
    let in_macro = || code.tree.parent(name).is_some_and(|holder| code.tree.role(holder) == Role::Macro);
    !matches!(code.text(name), "mut" | "ref") || in_macro()
}

/// Types that are to be given have names of their own.
fn names_of_types(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let named = |part: NodeId| tree.child_named(part, "name").unwrap_or(part);
    tree.parts(list).all(|part| !matches!(code.text(named(part)), "self" | "Self" | "super" | "crate"))
}

/// What is imported has names.
fn names_only(code: Code<'_>, list: NodeId) -> bool {
    code.tree.parts(list).all(|part| code.text(part) != "_")
}

/// What a pattern leaves out it says once, and for fields with names at its end.
fn one_rest(code: Code<'_>, pattern: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<&str> = tree.parts(pattern).map(|part| code.text(part)).collect();
    let rest = parts.iter().position(|part| *part == "..");
    let named = tree.kind_name(pattern) == "struct_pattern";
    let mut behind = parts.iter().skip(rest.map_or(parts.len(), |rest| rest + 1));
    behind.all(|part| *part != ".." && (!named || *part == "}"))
}

/// What is compared is no comparison itself.
fn compared_once(code: Code<'_>, operation: NodeId) -> bool {
    let tree = code.tree;
    let compares = |id: NodeId| {
        let operator = tree.child_named(id, "operator");
        operator.is_some_and(|operator| COMPARISONS.contains(&tree.kind_name(operator)))
    };
    let left = tree.child_named(operation, "left").filter(|left| tree.kind_name(*left) == "binary_expression");
    !(compares(operation) && left.is_some_and(compares))
}
