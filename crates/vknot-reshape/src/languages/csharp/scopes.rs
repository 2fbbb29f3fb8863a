//! What C# names are bound to (C# language specification, section 7.7): locals, parameters, private members, aliases.

use vknot_syntax::{NodeId, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_says, no_keys};

pub(super) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["identifier", "implicit_parameter"],
    binding,
    inner: as_it_says,
    spaces,
    written,
    keyed: no_keys,
    reserved: RESERVED,
};

const RESERVED: &[&str] = &[
    "_", "abstract", "as", "base", "bool", "break", "byte", "case", "catch", "char", "checked", "class", "const",
    "continue",
    "decimal", "default", "delegate", "do", "double", "else", "enum", "event", "explicit", "extern", "false", "finally",
    "fixed", "float", "for", "foreach", "goto", "if", "implicit", "in", "int", "interface", "internal", "is", "lock",
    "long",
    "namespace", "new", "null", "object", "operator", "out", "override", "params", "private", "protected", "public",
    "readonly", "ref", "return", "sbyte", "sealed", "short", "sizeof", "stackalloc", "static", "string", "struct",
    "switch",
    "this", "throw", "true", "try", "typeof", "uint", "ulong", "unchecked", "unsafe", "ushort", "using", "value", "var",
    "virtual", "void", "volatile", "while",
];

const VALUES: u8 = 1;
/// What is known by `this`, which no local is.
const MEMBERS: u8 = 2;
const TYPES: u8 = 4;

/// Kinds of type, with members.
const OWNERS: &[&str] = &[
    "class_declaration", "enum_declaration", "interface_declaration", "record_declaration", "struct_declaration",
];

/// Kinds of node that hold what is declared in the expressions inside.
const HOLDERS: &[&str] = &[
    "anonymous_method_expression", "arrow_expression_clause", "block", "catch_clause", "compilation_unit",
    "constructor_declaration", "declaration_list", "do_statement", "fixed_statement", "for_statement",
    "foreach_statement",
    "from_clause", "group_clause", "join_clause", "lambda_expression", "let_clause", "lock_statement",
    "order_by_clause",
    "select_clause", "switch_body", "switch_expression_arm", "switch_section", "using_statement", "where_clause",
    "while_statement",
];

fn spaces(code: Code<'_>, id: NodeId) -> u8 {
    let tree = code.tree;
    let id = whole_name(code, id);
    let holder = tree.node(id).parent;
    match (tree.kind_name(holder), field(code, id)) {
        ("type_parameter", "name") => TYPES,
        (kind, "name") if OWNERS.contains(&kind) || matches!(kind, "using_directive" | "delegate_declaration") =>
            VALUES | TYPES,
        ("variable_declarator", "name") if is_member(code, tree.node(tree.node(holder).parent).parent) =>
            VALUES | MEMBERS,
        ("member_access_expression" | "member_binding_expression", "name") => MEMBERS,
        ("subpattern" | "with_initializer", _) if code.text_behind(id) == ":" || code.text_behind(id) == "=" => MEMBERS,
        ("assignment_expression", "left") if is_initializer(code, tree.node(holder).parent) => MEMBERS,
        ("qualified_name", _) | (_, "alias") => TYPES,
        (_, "type" | "returns") => TYPES,
        ("as_expression", "right") => TYPES,
        (
            "attribute"
                | "base_list"
                | "type_argument_list"
                | "type_parameter_constraint"
                | "type_parameter_constraints_clause",
            _,
        ) => TYPES,
        (kind, "name") if kind.ends_with("_declaration") => VALUES | MEMBERS,
        (_, "name") => VALUES,
        _ => VALUES | TYPES,
    }
}

fn field(code: Code<'_>, id: NodeId) -> &'static str {
    code.tree.language().field_name(code.tree.node(id).field)
}

/// A name with its arguments of types, if it has some.
fn whole_name(code: Code<'_>, id: NodeId) -> NodeId {
    let holder = code.tree.node(id).parent;
    if code.tree.kind_name(holder) == "generic_name" { holder } else { id }
}

/// A field of an anonymous object that is called like what it is given.
fn written(code: Code<'_>, id: NodeId, new: &str) -> String {
    let own = code.text(id);
    let holder = code.tree.kind_name(code.tree.node(id).parent) == "anonymous_object_creation_expression";
    if holder && code.text_behind(id) != "=" && code.text_before(id) != "=" {
        format!("{own} = {new}")
    } else {
        new.to_owned()
    }
}

fn binding(code: Code<'_>, name: NodeId) -> Binding {
    let tree = code.tree;
    let id = whole_name(code, name);
    let holder = tree.node(id).parent;
    match (tree.kind_name(holder), field(code, id)) {
        ("using_directive", "name") => match is_under(code, holder, "global") {
            true => Binding::Unknown,
            false => seen_in(code, tree.node(holder).parent),
        },
        ("namespace_declaration" | "file_scoped_namespace_declaration" | "extern_alias_directive", _)
        | ("constructor_declaration" | "destructor_declaration", "name")
        | ("enum_member_declaration" | "tuple_element" | "labeled_statement" | "goto_statement", _)
        | ("qualified_name" | "alias_qualified_name", "name") => Binding::Other,
        ("member_access_expression", "name") => asked(code, holder),
        ("member_binding_expression", "name") | ("attribute_argument" | "argument", "name") => Binding::Asked,
        ("subpattern" | "with_initializer", _) if code.text_behind(id) == ":" || code.text_behind(id) == "=" =>
            Binding::Asked,
        ("anonymous_object_creation_expression", _) if code.text_behind(id) == "=" => Binding::Other,
        ("assignment_expression", "left") if is_initializer(code, tree.node(holder).parent) => Binding::Asked,
        ("type_parameter", "name") => type_parameter(code, tree.node(tree.node(holder).parent).parent),
        ("parameter", "name") => parameter(code, tree.node(tree.node(holder).parent).parent),
        ("parameter_list" | "bracketed_parameter_list", "name") => parameter(code, tree.node(holder).parent),
        ("lambda_expression", "parameters") => seen_in(code, holder),
        ("catch_declaration", "name") => seen_in(code, tree.node(holder).parent),
        ("variable_declarator" | "tuple_pattern", "name") => variable(code, holder),
        ("foreach_statement", "left") => seen_in(code, holder),
        (
            "declaration_pattern" | "recursive_pattern" | "var_pattern" | "list_pattern" | "declaration_expression",
            "name",
        )
        | ("parenthesized_variable_designation", _) => expression_variable(code, holder),
        ("local_function_statement", "name") => seen_in(code, block(code, holder)),
        ("from_clause", "name") => queried(code, holder, tree.node(holder).end),
        ("let_clause", _) if code.text_before(id) == "let" => queried(code, holder, tree.node(holder).end),
        ("join_clause", _) if code.text_behind(id) == "in" => joined(code, holder),
        ("join_into_clause", _) => queried(code, holder, tree.node(holder).end),
        ("query_expression", _) if code.text_before(id) == "into" => queried(code, holder, tree.node(id).start),
        (kind, "name") if kind.ends_with("_declaration") => member(code, holder),
        _ => Binding::Uses { but: None },
    }
}

fn seen_in(code: Code<'_>, holder: NodeId) -> Binding {
    let seen = if holder.0 == 0 { code.source.span() } else { code.tree.node(holder).span() };
    Binding::Declares { holder, seen }
}

fn is_under(code: Code<'_>, declaration: NodeId, word: &str) -> bool {
    let mut parts = code.tree.parts(declaration);
    parts.any(|part| matches!(code.tree.kind_name(part), "modifier" | "global") && code.text(part) == word)
}

/// What is asked of `this` is a member of what is here; of anything else it may be.
fn asked(code: Code<'_>, access: NodeId) -> Binding {
    let this = code.tree.parts(access).next().is_some_and(|object| code.tree.kind_name(object) == "this");
    if this { Binding::Uses { but: None } } else { Binding::Asked }
}

/// Whether what is assigned in a node are members of an object that is made.
fn is_initializer(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let mut above = tree.ancestors(id).skip_while(|above| {
        matches!(tree.kind_name(*above), "initializer_expression" | "assignment_expression")
    });
    let made = above.next().map_or("", |above| tree.kind_name(above));
    tree.kind_name(id) == "initializer_expression"
        && matches!(made, "object_creation_expression" | "implicit_object_creation_expression")
}

fn is_member(code: Code<'_>, declaration: NodeId) -> bool {
    matches!(code.tree.kind_name(declaration), "field_declaration" | "event_field_declaration")
}

/// The parts of a type that is in several places have the same parameters.
fn type_parameter(code: Code<'_>, owner: NodeId) -> Binding {
    if is_under(code, owner, "partial") { Binding::Unknown } else { seen_in(code, owner) }
}

/// A parameter is a part of how something is called, where some call names it; that of a type may be a member.
fn parameter(code: Code<'_>, owner: NodeId) -> Binding {
    let span = code.tree.node(owner).span();
    match OWNERS.contains(&code.tree.kind_name(owner)) {
        true => Binding::Open { holder: owner, seen: span },
        false => Binding::Private { holder: owner, seen: span },
    }
}

/// The block that what a statement declares is local to.
fn block(code: Code<'_>, id: NodeId) -> NodeId {
    let tree = code.tree;
    let blocks = ["block", "compilation_unit", "switch_body"];
    tree.ancestors(id).find(|above| blocks.contains(&tree.kind_name(*above))).unwrap_or(NodeId(0))
}

fn variable(code: Code<'_>, declarator: NodeId) -> Binding {
    let tree = code.tree;
    let statement = tree.ancestors(declarator).find(|above| {
        !matches!(tree.kind_name(*above), "variable_declarator" | "variable_declaration" | "tuple_pattern")
    });
    let Some(statement) = statement else { return Binding::Unknown };
    match tree.kind_name(statement) {
        "local_declaration_statement" => seen_in(code, block(code, statement)),
        "for_statement" | "using_statement" | "fixed_statement" | "foreach_statement" => seen_in(code, statement),
        _ if is_member(code, statement) => member(code, statement),
        _ => expression_variable(code, declarator),
    }
}

/// A variable that an expression declares is local to what holds its statement, or to that where it stands alone behind a head.
fn expression_variable(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    let alone = |above: NodeId| {
        let around = tree.kind_name(tree.node(above).parent);
        tree.kind_name(above).ends_with("_statement")
            && !matches!(around, "block" | "switch_section" | "global_statement")
    };
    let holder = tree.ancestors(id).skip(1).find(|above| {
        let kind = tree.kind_name(*above);
        HOLDERS.contains(&kind) || alone(*above)
    });
    holder.map_or(Binding::Unknown, |holder| seen_in(code, holder))
}

/// A variable of a query is seen from some place on.
fn queried(code: Code<'_>, clause: NodeId, from: u32) -> Binding {
    let tree = code.tree;
    let query = tree.ancestors(clause).find(|above| tree.kind_name(*above) == "query_expression");
    let seen = |query: NodeId| Span::new(from, tree.node(query).end.max(from));
    query.map_or(Binding::Unknown, |holder| Binding::Declares { holder, seen: seen(holder) })
}

fn joined(code: Code<'_>, clause: NodeId) -> Binding {
    let tree = code.tree;
    let on = tree.parts(clause).find(|part| tree.kind_name(*part) == "on");
    queried(code, clause, on.map_or(tree.node(clause).end, |on| tree.node(on).start))
}

/// A member is known here alone where it is private, in a type that is all here, and nothing but its name says what it is for.
fn member(code: Code<'_>, declaration: NodeId) -> Binding {
    let tree = code.tree;
    let owner = tree.ancestors(declaration).skip(1).find(|above| OWNERS.contains(&tree.kind_name(*above)));
    let holder = tree.node(declaration).parent;
    let seen = if holder.0 == 0 { code.source.span() } else { tree.node(holder).span() };
    let kind = |part: NodeId| tree.kind_name(part);
    let words = || tree.parts(declaration).filter(|part| kind(*part) == "modifier").map(|part| code.text(part));
    if tree.parts(declaration).any(|part| kind(part) == "explicit_interface_specifier") {
        return Binding::Other;
    }
    let open = |word: &str| matches!(word, "public" | "protected" | "internal" | "extern" | "partial" | "override");
    let bound = tree.parts(declaration).any(|part| kind(part) == "attribute_list");
    let named = tree.child_named(declaration, "name").map_or("", |name| code.text(name));
    let is_type = OWNERS.contains(&kind(declaration)) || kind(declaration) == "delegate_declaration";
    // What has a base may have other methods of that name.
    let heir = |owner| tree.parts(owner).any(|part| kind(part) == "base_list")
        && kind(declaration) == "method_declaration";
    let shared =
        owner.is_none_or(
            |owner| kind(owner) == "interface_declaration" || is_under(code, owner, "partial") || heir(owner),
        );
    match words().any(open) || bound || is_type || shared || named == "Main" {
        true => Binding::Open { holder, seen },
        false => Binding::Private { holder, seen },
    }
}
