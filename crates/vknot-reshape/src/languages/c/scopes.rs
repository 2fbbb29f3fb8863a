//! What C names are bound to (ISO/IEC 9899, section 6.2.1): locals, parameters, labels, what is `static` in the file. Without types and
//! without what headers define, a name that a macro may take otherwise is not told.

use std::collections::HashMap;

use vknot_syntax::{NodeId, Span, is_word_character};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_is};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["word"],
    binding,
    inner,
    spaces,
    written: as_it_is,
    keyed,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "auto", "break", "case", "char", "const", "continue", "default", "do", "double", "else", "enum", "extern", "float",
    "for", "goto", "if", "inline", "int", "long", "register", "restrict", "return", "short", "signed", "sizeof", "static",
    "struct", "switch", "typedef", "union", "unsigned", "void", "volatile", "while",
];

/// Words that begin a statement or an expression, and no declaration.
const NO_TYPES: &[&str] = &[
    "break", "case", "continue", "default", "do", "else", "for", "goto", "if", "return", "sizeof", "switch", "while",
];

/// What stands in front of a type.
const QUALIFIERS: &[&str] =
    &["auto", "const", "extern", "inline", "register", "restrict", "static", "typedef", "volatile"];

/// Macros of the standard and of systems that take the name of a member.
const TAKE_MEMBERS: &[&str] = &["container_of", "offsetof"];

const NAMES: u8 = 1;
const LABELS: u8 = 2;

fn spaces(code: Code<'_>, id: NodeId) -> u8 {
    let label = code.tree.kind_name(code.tree.node(id).parent) == "label" && code.text_behind(id) == ":";
    if code.text_before(id) == "goto" || label && code.text_before(id) != "case" { LABELS } else { NAMES }
}

/// A parameter of a macro is its own; what else its body names is bound where it is used.
fn inner(code: Code<'_>, token: NodeId, span: Span, _: Binding) -> Binding {
    let (name, text) = (code.source.slice(span), code.text(token));
    let before = code.source.slice(Span::new(code.tree.node(token).start, span.start));
    let parameters = text.strip_prefix('(').and_then(|rest| rest.split(')').next()).unwrap_or("");
    let own = parameters.split(',').any(|parameter| parameter.trim() == name);
    let body = code.tree.kind_name(token) == "macro_body";
    if own || !body || before.trim_end().ends_with("->") { Binding::Other } else { Binding::Unknown }
}

/// The macros of a file whose arguments are expressions: nothing is made of them but values.
fn keyed(code: Code<'_>) -> HashMap<&str, bool> {
    let tree = code.tree;
    let macros = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.kind_name(*id) == "macro");
    let plain = macros.filter_map(|id| {
        let body = tree.parts(id).find(|part| tree.kind_name(*part) == "macro_body")?;
        let (_, made) = code.text(body).strip_prefix('(')?.split_once(')')?;
        let plain = !made.contains('#') && !made.contains('.') && !made.contains("->");
        Some((code.text(tree.child_named(id, "name")?), plain))
    });
    plain.filter(|(_, plain)| *plain).map(|(name, _)| (name, false)).collect()
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.node(id).parent;
    let field = tree.language().field_name(tree.node(id).field);
    match (tree.kind_name(holder), field, code.text_before(id)) {
        (_, _, "." | "->" | "struct" | "union" | "enum") => Binding::Other,
        (_, _, "goto") => Binding::Uses { but: None },
        ("label", _, before) if before != "case" && code.text_behind(id) == ":" => label(code, id),
        ("macro", ..) => Binding::Unknown,
        ("constant", "name", _) => open(code),
        ("initializer", ..) if code.text_behind(id) == ":" => Binding::Other,
        ("arguments", ..) => argument(code, id, holder),
        ("function" | "function_declaration" | "declaration", "name", _) => member(code, holder),
        // Parameters that are declared behind their list.
        ("function", ..) if is_behind_parameters(code, id, holder) => Binding::Unknown,
        ("parameters", ..) if is_listed_alone(code, holder) => Binding::Unknown,
        _ => match declared(code, id) {
            Binding::Uses { .. } if code.text(id).len() > 1 && is_capital(code.text(id)) => Binding::Unknown,
            binding => binding,
        },
    }
}

/// Whether a name is written as those of macros are: it may be one in all of the file.
fn is_capital(name: &str) -> bool {
    name.contains(char::is_alphabetic) && !name.contains(char::is_lowercase)
}

fn open(code: Code<'_>) -> Binding {
    Binding::Open { holder: NodeId(0), seen: code.source.span() }
}

/// What declares again in the same place does so in another branch of a conditional.
fn local(code: Code<'_>, id: NodeId, holder: NodeId) -> Binding {
    let from = code.tree.node(id).start;
    Binding::Redeclares { holder, seen: Span::new(from, code.tree.node(holder).end.max(from)) }
}

fn label(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let function = tree.ancestors(id).find(|above| tree.kind_name(*above) == "function");
    function.map_or(Binding::Unknown, |holder| Binding::Declares { holder, seen: tree.node(holder).span() })
}

/// An argument that is a name alone may be a member, where a macro takes it.
fn argument(code: Code<'_>, id: NodeId, arguments: NodeId) -> Binding {
    let tree = code.tree;
    let call = tree.node(arguments).parent;
    let Some(callee) = tree.parts(call).next() else { return Binding::Uses { but: None } };
    let name = code.text(callee);
    let lone = matches!(code.text_before(id), "(" | ",") && matches!(code.text_behind(id), ")" | ",");
    let block = tree.kind_name(tree.node(call).parent) == "macro_block";
    match lone && tree.kind_name(callee) == "word" && (is_capital(name) || block || TAKE_MEMBERS.contains(&name)) {
        true => Binding::Key { of: callee },
        false => Binding::Uses { but: None },
    }
}

fn is_in_struct(code: Code<'_>, declaration: NodeId) -> bool {
    code.tree.kind_name(code.tree.node(declaration).parent) == "body"
}

/// What stands outside of functions: known here alone where it is `static`.
fn member(code: Code<'_>, declaration: NodeId) -> Binding {
    const LOOKED_AT: usize = 8;
    let tree = code.tree;
    let inside = tree.ancestors(declaration).find(|above| tree.kind_name(*above) == "block");
    let mut words = tree.parts(declaration).take(LOOKED_AT).map(|part| tree.text_of(code.source.text(), part));
    match inside {
        _ if is_in_struct(code, declaration) => Binding::Other,
        Some(_) => Binding::Unknown,
        None if words.any(|word| word == "static") =>
            Binding::Declares { holder: NodeId(0), seen: code.source.span() },
        None => open(code),
    }
}

fn is_behind_parameters(code: Code<'_>, id: NodeId, function: NodeId) -> bool {
    let list = code.tree.child_named(function, "parameters");
    list.is_some_and(|list| code.tree.node(list).end <= code.tree.node(id).start)
}

/// Whether the parameters of a list are declared behind it.
fn is_listed_alone(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let next = tree.tokens().get(tree.node(list).token_end as usize);
    next.is_some_and(
        |next| tree.kind_name(next.node) == "word" && tree.node(next.node).parent == tree.node(list).parent,
    )
}

/// Where a name stands as what a declaration declares: the declaration, its part, and whether that reads like a product or a call.
fn declarator(code: Code<'_>, id: NodeId) -> Option<(NodeId, NodeId, bool)> {
    let tree = code.tree;
    let (mut inner, mut pointed, mut uncertain) = (id, false, false);
    for above in tree.ancestors(id).skip(1) {
        let first = tree.parts(above).next() == Some(inner);
        match tree.kind_name(above) {
            "access" | "assignment" if first => {}
            // `int f(int)` within a function declares what is elsewhere.
            "call" if first && (pointed || uncertain) => {}
            "unary_operation" if code.text_before(inner) == "*" => pointed = true,
            "group" if pointed && tree.kind_name(tree.node(above).parent) != "loop" => {}
            "uncertain" if !first => uncertain = true,
            "statement" | "declaration" | "parameter" | "parameters" | "struct" | "union" | "enum" | "group" =>
                return Some((above, inner, uncertain)),
            _ => return None,
        }
        inner = above;
    }
    None
}

/// Whether a statement begins with a type.
fn begins_with_type(code: Code<'_>, statement: NodeId, uncertain: bool) -> bool {
    let tree = code.tree;
    let mut parts = tree.parts(statement);
    let (Some(first), second) = (parts.next(), parts.next()) else { return false };
    let token = tree.tokens().get(tree.node(first).first_token as usize);
    let word = token.map_or("", |token| code.source.slice(token.span()));
    let kind = |id: NodeId| tree.kind_name(id);
    let typed = match kind(first) {
        "word" => second.is_some_and(|second| {
            code.text(second) == "*"
                || matches!(kind(second), "word" | "access" | "unary_operation" | "assignment" | "call")
        }),
        _ => uncertain || tree.subtree(first).take(4).any(|id| kind(id) == "uncertain"),
    };
    typed && !NO_TYPES.contains(&word)
}

/// A name in a declaration: what it declares, or a part of its type.
fn declared(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let used = Binding::Uses { but: None };
    let Some((declaration, part, uncertain)) = declarator(code, id) else { return used };
    let kind = tree.kind_name(declaration);
    let typed = match kind {
        "statement" | "parameter" => begins_with_type(code, declaration, uncertain),
        "group" => tree.parts(declaration).nth(1).is_some_and(|first| tree.kind_name(first) == "parameter"),
        "parameters" => uncertain,
        _ => true,
    };
    let first = tree.parts(declaration).next() == Some(part) && !uncertain;
    if !typed || first || !is_declarator(code, id, part, uncertain) {
        return used;
    }
    match kind {
        "statement" if text_of_first(code, declaration) == "extern" => used,
        "statement" => local(code, id, block(code, declaration)),
        "parameter" => parameter(code, id, tree.node(declaration).parent),
        "parameters" => parameter(code, id, declaration),
        "group" => parameter(code, id, declaration),
        _ => match tree.ancestors(declaration).find(|above| tree.kind_name(*above) == "block") {
            Some(block) if !is_in_struct(code, declaration) => local(code, id, block),
            _ => member(code, declaration),
        },
    }
}

fn text_of_first(code: Code<'_>, id: NodeId) -> &str {
    code.tree.parts(id).next().map_or("", |first| code.text(first))
}

/// Whether a name in a declaration is what is declared, by what stands in front of it and behind it.
fn is_declarator(code: Code<'_>, id: NodeId, part: NodeId, uncertain: bool) -> bool {
    let (before, behind) = (code.text_before(part), code.text_behind(id));
    let is_word = |text: &str| text.starts_with(is_word_character) && !NO_TYPES.contains(&text);
    let introduced = uncertain || matches!(before, "*" | "," | "}") || is_word(before);
    // `int level UNUSED`, but not `const level_t level`.
    let marked = is_word(behind) && (behind.starts_with("__") || !behind.contains(char::is_lowercase));
    let ended = matches!(behind, "=" | "," | ";" | ":" | "[" | "(" | ")");
    introduced && (ended || marked && !QUALIFIERS.contains(&before))
}

/// The block that a statement stands in.
fn block(code: Code<'_>, statement: NodeId) -> NodeId {
    let tree = code.tree;
    tree.ancestors(statement).find(|above| tree.kind_name(*above) == "block").unwrap_or(NodeId(0))
}

/// A parameter is local to the body of its function, and in what only tells of one to its list.
fn parameter(code: Code<'_>, id: NodeId, list: NodeId) -> Binding {
    let tree = code.tree;
    let above = tree.node(list).parent;
    match (tree.kind_name(list), tree.kind_name(above)) {
        ("parameters", "function") => match tree.child_named(above, "body") {
            Some(body) => local(code, id, body),
            None => Binding::Unknown,
        },
        ("group", "loop") => local(code, id, above),
        ("group", _) => Binding::Uses { but: None },
        _ => local(code, id, list),
    }
}
