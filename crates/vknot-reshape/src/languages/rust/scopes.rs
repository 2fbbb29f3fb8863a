//! What Rust names are bound to (The Rust Reference, "Scopes"): variables and parameters.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, no_keys, one_space};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier", "shorthand_field_identifier"],
    binding,
    inner,
    spaces: one_space,
    written,
    keyed: no_keys,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "Self", "abstract", "as", "async", "await", "become", "box", "break", "const", "continue", "crate", "do", "dyn",
    "else",
    "enum", "extern", "false", "final", "fn", "for", "gen", "if", "impl", "in", "let", "loop", "macro", "match", "mod",
    "move",
    "mut", "override", "priv", "pub", "ref", "return", "self", "static", "struct", "super", "trait", "true", "try",
    "type",
    "typeof", "unsafe", "unsized", "use", "virtual", "where", "while", "yield", "_",
];

fn written(code: Code<'_>, id: NodeId, new: &str) -> String {
    let tree = code.tree;
    let short = tree.kind_name(id) == "shorthand_field_identifier"
        || tree.kind_name(tree.node(id).parent) == "shorthand_field_initializer";
    if short { format!("{}: {new}", code.source.slice(tree.node(id).span())) } else { new.to_owned() }
}

/// What a text to be formatted puts in, and what says how to show it, are variables: `{level:>width$}`.
fn inner(_: Code<'_>, _: NodeId, _: Span, _: Binding) -> Binding {
    Binding::Uses { but: None }
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field) {
        ("token_tree", _) => in_tokens(code, id),
        (
            "macro_definition" | "macro_rule" | "token_tree_pattern" | "token_repetition" | "token_repetition_pattern",
            _,
        ) => Binding::Other,
        ("scoped_identifier" | "scoped_type_identifier", _) => Binding::Other,
        ("use_declaration" | "use_list" | "use_as_clause" | "scoped_use_list" | "use_wildcard", _) => Binding::Other,
        ("macro_invocation", "macro") | ("attribute", _) | ("label" | "lifetime", _) => Binding::Other,
        ("const_item" | "static_item", "name") => Binding::Unknown,
        (kind, "name")
            if kind.ends_with("_item")
            || matches!(kind, "enum_variant" | "extern_crate_declaration" | "const_parameter") =>
        {
            Binding::Other
        }
        ("tuple_struct_pattern" | "struct_pattern", "type") => Binding::Other,
        ("range_pattern", _) => Binding::Other,
        _ => pattern(code, id),
    }
}

/// In the arguments of a macro a name is one, unless it stands like a member, a key or a path.
fn in_tokens(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let token = tree.node(id).first_token;
    let text = |token: Option<u32>| {
        token.and_then(|token| tree.tokens().get(token as usize)).map_or("", |token| code.source.slice(token.span()))
    };
    let (before, behind) = (text(token.checked_sub(1)), text(Some(token + 1)));
    match (before, behind) {
        ("." | "::" | "'" | "#" | "$", _) | (_, "::" | "!") => Binding::Other,
        // A key, or a name given to what is formatted: or else a pattern.
        (_, ":" | "=" | "=>" | "@") | ("let" | "mut" | "ref" | "|" | "fn" | "for", _) | (_, "|" | "in") =>
            Binding::Unknown,
        _ => Binding::Uses { but: None },
    }
}

/// A name in a pattern is declared by what the pattern is in; anywhere else it is used.
fn pattern(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let name = code.source.slice(tree.node(id).span());
    let capital = name.starts_with(|c: char| c.is_uppercase());
    let mut inner = id;
    for above in tree.ancestors(id).skip(1) {
        let field = tree.language().field_name(tree.node(inner).field);
        let found = match (tree.kind_name(above), field) {
            (
                "tuple_pattern"
                    | "slice_pattern"
                    | "ref_pattern"
                    | "mut_pattern"
                    | "reference_pattern"
                    | "captured_pattern"
                | "or_pattern"
                    | "tuple_struct_pattern"
                    | "struct_pattern"
                    | "field_pattern",
                _,
            ) => {
                inner = above;
                continue;
            }
            ("let_declaration", "pattern") => Some((block_of(code, above), tree.node(above).end, None)),
            ("parameter", "pattern") => parameter(code, above),
            ("closure_parameters", _) => {
                let closure = tree.node(above).parent;
                Some((closure, tree.node(closure).start, None))
            }
            ("for_expression", "pattern") => {
                let body = tree.child_named(above, "body").map_or(tree.node(above).end, |body| tree.node(body).start);
                Some((above, body, None))
            }
            ("match_pattern", _) => {
                let arm = tree.node(above).parent;
                // A guard stands behind the pattern, in the same node.
                let guard = tree.language().field_name(tree.node(inner).field) == "condition";
                if guard { None } else { Some((arm, tree.node(arm).start, None)) }
            }
            ("let_condition", "pattern") => condition(code, above),
            _ => None,
        };
        return match found {
            Some(_) if is_conditional(code, above) => Binding::Unknown,
            Some((holder, from, until)) if !capital => {
                let end = until.unwrap_or(tree.node(holder).end);
                Binding::Declares { holder, seen: Span::new(from.min(end), end) }
            }
            Some(_) => Binding::Unknown,
            None => Binding::Uses { but: None },
        };
    }
    Binding::Uses { but: None }
}

/// Whether a declaration is there under a condition, so that another one may be the one that holds.
fn is_conditional(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let mut first = tree.node(declaration).first_token;
    let attribute = |token: u32| {
        let before = (0..token).rev().find(|before| !tree.is_comment(*before))?;
        let node = tree.tokens().get(before as usize)?.node;
        tree.ancestors(node).take(2).find(|id| tree.kind_name(*id) == "attribute_item")
    };
    while let Some(id) = attribute(first) {
        if code.text(id).starts_with("#[cfg") {
            return true;
        }
        first = tree.node(id).first_token;
    }
    false
}

type Seen = Option<(NodeId, u32, Option<u32>)>;

fn block_of(code: Code<'_>, declaration: NodeId) -> NodeId {
    code.tree.node(declaration).parent
}

fn parameter(code: Code<'_>, parameter: NodeId) -> Seen {
    let tree = code.tree;
    let list = tree.node(parameter).parent;
    let function = tree.node(list).parent;
    let known = matches!(tree.role(function), Role::Callable | Role::Lambda);
    known.then(|| (function, tree.node(function).start, None))
}

/// What `let` in a condition declares is seen in the rest of the condition and in what runs where it holds.
fn condition(code: Code<'_>, condition: NodeId) -> Seen {
    let tree = code.tree;
    let holder = tree.ancestors(condition).skip(1).find(|above| tree.kind_name(*above) != "let_chain")?;
    let body = match tree.kind_name(holder) {
        "if_expression" => tree.child_named(holder, "consequence")?,
        "while_expression" => tree.child_named(holder, "body")?,
        _ => return None,
    };
    Some((holder, tree.node(condition).end, Some(tree.node(body).end)))
}
