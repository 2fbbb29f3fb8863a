//! What a C# compiler does not take though the grammar does (ECMA-334, chapters 14 to 16).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::{Law, conditions_balance, named_as_type};

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "compilation_unit", is_sound: types_only },
    Law::Sound { holder: "compilation_unit", is_sound: uses_first },
    Law::Sound { holder: "compilation_unit", is_sound: regions_close },
    Law::Sound { holder: "declaration_list", is_sound: fitting },
    Law::Sound { holder: "declaration_list", is_sound: uses_first },
    Law::Sound { holder: "local_function_statement", is_sound: unmodified },
    Law::Sound { holder: "try_statement", is_sound: has_handler },
    Law::Sound { holder: "attribute_list", is_sound: names_something },
    Law::Sound { holder: "parameter_list", is_sound: spread_last },
    Law::Sound { holder: "parameter_list", is_sound: extended_first },
    Law::Sound { holder: "accessor_list", is_sound: each_once },
    Law::Sound { holder: "array_creation_expression", is_sound: sized },
    Law::Sound { holder: "parenthesized_expression", is_sound: holds_value },
    Law::Sound { holder: "using_directive", is_sound: outside_blocks },
    Law::Filled { kinds: &["type_parameter"], field: "name" },
    Law::Names { kinds: &["identifier"], words: WORDS },
    Law::Sound { holder: "attribute_argument_list", is_sound: set_last },
    Law::Sound { holder: "parameter_list", is_sound: set_last },
    Law::Sound { holder: "class_declaration", is_sound: open_in_space },
    Law::Barred { kinds: &["initializer_expression"], holders: &["argument"] },
    Law::Sound { holder: "constructor_declaration", is_sound: named_as_type },
    Law::Sound { holder: "type_argument_list", is_sound: filled },
    Law::Sound { holder: "compilation_unit", is_sound: conditions_close },
    Law::Barred { kinds: &["local_declaration_statement", "local_function_statement"], holders: &FOR_ONE },
    Law::Within { kinds: &["return_statement"], holders: &[&["accessor_declaration"]], callables: true },
    Law::Within { kinds: &["continue_statement"], holders: &[LOOPS], callables: false },
    Law::Within { kinds: &["break_statement"], holders: &[LOOPS, SWITCHES], callables: false },
    Law::Barred { kinds: &["ref_expression"], holders: &["parenthesized_expression"] },
    Law::Sound { holder: "invocation_expression", is_sound: calls_no_type },
    Law::Sound { holder: "parenthesized_expression", is_sound: makes_whole },
    Law::Sound { holder: "local_declaration_statement", is_sound: constant_at_most },
    Law::Sound { holder: "field_declaration", is_sound: names_fields },
    Law::Sound { holder: "tuple_pattern", is_sound: several },
    Law::Sound { holder: "expression_statement", is_sound: acts },
    Law::Barred { kinds: &["array_type"], holders: &["base_list"] },
    Law::Sound { holder: "switch_body", is_sound: ends_with_act },
    Law::Sound { holder: "assignment_expression", is_sound: fills_what_is_made },
];

/// What is gone through again and again, and what bears a name that one can go to.
const LOOPS: &[&str] = &["do_statement", "for_statement", "foreach_statement", "while_statement"];

/// What holds one statement.
const FOR_ONE: [&str; 8] = [
    "do_statement", "fixed_statement", "for_statement", "foreach_statement", "if_statement", "lock_statement",
    "using_statement", "while_statement",
];

/// What else a `break` ends.
const SWITCHES: &[&str] = &["switch_statement"];

/// Words that are no names anywhere.
const WORDS: &[&str] = &[
    "break", "case", "catch", "class", "continue", "do", "else", "enum", "finally", "for", "foreach", "goto", "if",
    "in",
    "interface", "internal", "is", "lock", "namespace", "new", "null", "private", "protected", "public", "return",
    "struct",
    "switch", "throw", "try", "typeof", "using", "void", "while",
];

/// What types are declared with.
const TYPES: &[&str] = &[
    "class_declaration",
    "delegate_declaration",
    "enum_declaration",
    "interface_declaration",
    "record_declaration",
    "record_struct_declaration",
    "struct_declaration",
];

/// What stands in a type beside types.
const MEMBERS: &[&str] = &[
    "constructor_declaration",
    "conversion_operator_declaration",
    "destructor_declaration",
    "event_declaration",
    "event_field_declaration",
    "field_declaration",
    "indexer_declaration",
    "method_declaration",
    "operator_declaration",
    "property_declaration",
];

/// The kinds of what a node holds, under conditions, too.
fn kinds(code: Code<'_>, holder: NodeId) -> impl Iterator<Item = &'static str> {
    let tree = code.tree;
    let mut held: Vec<&'static str> = Vec::new();
    let mut next = vec![holder];
    while let Some(id) = next.pop() {
        let kind = tree.kind_name(id);
        if id == holder || matches!(kind, "preproc_if" | "preproc_elif" | "preproc_else") {
            let condition = tree.child_named(id, "condition").filter(|_| id != holder);
            let parts = tree.parts(id).filter(|part| tree.language().is_named(tree.node(*part).kind));
            let parts: Vec<NodeId> = parts.filter(|part| Some(*part) != condition).collect();
            next.extend(parts.into_iter().rev());
        } else if !kind.starts_with("preproc") && kind != "ERROR" {
            held.push(kind);
        }
    }
    held.into_iter()
}

/// Statements stand in methods, but for those of a program that has no other place for them.
fn types_only(code: Code<'_>, unit: NodeId) -> bool {
    kinds(code, unit).all(|kind| !kind.ends_with("_statement") && !MEMBERS.contains(&kind))
}

/// What is used is named before what is declared.
fn uses_first(code: Code<'_>, holder: NodeId) -> bool {
    let mut declared = false;
    kinds(code, holder).all(|kind| match kind {
        "using_directive" | "extern_alias_directive" => !declared,
        "file_scoped_namespace_declaration" | "attribute_list" | "shebang_directive" => true,
        _ => {
            declared = true;
            true
        }
    })
}

/// A namespace holds types, a type its members.
fn fitting(code: Code<'_>, list: NodeId) -> bool {
    let holder = code.tree.parent(list).map_or("", |holder| code.tree.kind_name(holder));
    let space = holder.ends_with("namespace_declaration");
    let outer = ["namespace_declaration", "using_directive", "extern_alias_directive"];
    kinds(code, list).all(|kind| {
        TYPES.contains(&kind) || if space { outer.contains(&kind) } else { MEMBERS.contains(&kind) }
    })
}

/// A function in a method is for that method alone.
fn unmodified(code: Code<'_>, function: NodeId) -> bool {
    modifiers(code, function).all(|word| matches!(word, "static" | "async" | "unsafe" | "extern"))
}

/// A variable of a block is seen nowhere else.
fn constant_at_most(code: Code<'_>, declaration: NodeId) -> bool {
    modifiers(code, declaration).all(|word| word == "const")
}

fn modifiers(code: Code<'_>, declaration: NodeId) -> impl Iterator<Item = &str> {
    let tree = code.tree;
    let modifiers = tree.parts(declaration).filter(move |part| tree.kind_name(*part) == "modifier");
    modifiers.map(move |part| code.text(part))
}

/// A value alone is no statement.
fn acts(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let value = tree.parts(statement).next();
    value.is_none_or(|value| match tree.kind_name(value) {
        "parenthesized_expression" => false,
        "prefix_unary_expression" => matches!(code.text(value).get(..2), Some("++" | "--")),
        _ => true,
    })
}

/// Behind the last label of a `switch` something is done.
fn ends_with_act(code: Code<'_>, body: NodeId) -> bool {
    let tree = code.tree;
    let last = tree.parts(body).filter(|part| tree.kind_name(*part) == "switch_section").last();
    last.is_none_or(|last| tree.parts(last).last().is_none_or(|part| code.text(part) != ":"))
}

/// What is taken apart has several parts.
fn several(code: Code<'_>, pattern: NodeId) -> bool {
    code.tree.parts(pattern).any(|part| code.text(part) == ",")
}

/// Only a variable of a block takes a value apart: a call between members looks like that.
fn names_fields(code: Code<'_>, field: NodeId) -> bool {
    let tree = code.tree;
    tree.subtree(field).all(|id| {
        tree.kind_name(id) != "tuple_pattern"
            || tree.parent(id).is_none_or(|holder| tree.kind_name(holder) != "variable_declarator")
    })
}

fn has_handler(code: Code<'_>, statement: NodeId) -> bool {
    kinds(code, statement).any(|kind| matches!(kind, "catch_clause" | "finally_clause"))
}

fn names_something(code: Code<'_>, list: NodeId) -> bool {
    kinds(code, list).any(|kind| kind == "attribute")
}

/// What takes any number of arguments is the last.
fn spread_last(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parts = tree.parts(list).map(|part| code.source.slice(tree.node(part).span()));
    let mut behind = parts.skip_while(|text| *text != "params");
    behind.all(|text| text != ",")
}

/// What has a value of its own follows what has none, but for what takes any number of arguments.
fn set_last(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let is_set = |part: NodeId| tree.parts(part).any(|part| code.text(part) == "=");
    let mut set = false;
    tree.parts(list).all(|part| match tree.kind_name(part) {
        "parameter" | "attribute_argument" => {
            let fits = !set || is_set(part);
            set |= is_set(part);
            fits
        }
        _ => true,
    })
}

/// A class that stands in no other one is seen by others.
fn open_in_space(code: Code<'_>, class: NodeId) -> bool {
    let tree = code.tree;
    let inner = tree.ancestors(class).skip(1).any(|id| TYPES.contains(&tree.kind_name(id)));
    inner || tree.parts(class).all(|part| !matches!(code.text(part), "private" | "protected"))
}

/// What a method is added to is its first parameter.
fn extended_first(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parameters = tree.parts(list).filter(|part| tree.kind_name(*part) == "parameter");
    let extends = |id: NodeId| tree.parts(id).any(|part| code.text(part) == "this");
    !parameters.skip(1).any(extends)
}

/// A property has accessors, none of them twice.
fn each_once(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let accessors = tree.parts(list).filter(|part| tree.kind_name(*part) == "accessor_declaration");
    let mut names: Vec<&str> =
        accessors.map(|id| tree.child_named(id, "name").map_or("", |name| code.text(name))).collect();
    let all = names.len();
    names.sort_unstable();
    names.dedup();
    all > 0 && names.len() == all
}

/// An array has a size, or what it is filled with.
fn sized(code: Code<'_>, array: NodeId) -> bool {
    let tree = code.tree;
    let filled = tree.parts(array).any(|part| tree.kind_name(part) == "initializer_expression");
    let ranks = tree.subtree(array).filter(|id| tree.kind_name(*id) == "array_rank_specifier");
    filled || ranks.into_iter().any(|rank| tree.parts(rank).any(|part| !matches!(code.text(part), "[" | "]" | ",")))
}

/// What an array is filled with is no value of its own.
fn holds_value(code: Code<'_>, brackets: NodeId) -> bool {
    code.tree.parts(brackets).all(|part| code.tree.kind_name(part) != "initializer_expression")
}

/// A name in brackets with brackets behind it is the type of a cast (ECMA-334, 12.9.7).
fn calls_no_type(code: Code<'_>, call: NodeId) -> bool {
    let tree = code.tree;
    let callee = tree.child_named(call, "function").filter(|callee| tree.role(*callee) == Role::Parenthesized);
    let named = |part| matches!(tree.kind_name(part), "identifier" | "generic_name" | "member_access_expression" | "qualified_name");
    !callee.is_some_and(|callee| tree.parts(callee).any(named))
}

/// What is made has a list of arguments or of what it holds, in the same brackets.
fn makes_whole(code: Code<'_>, brackets: NodeId) -> bool {
    let tree = code.tree;
    let bare = |made| ["arguments", "initializer"].iter().all(|field| tree.child_named(made, field).is_none());
    !tree.parts(brackets).any(|part| tree.kind_name(part) == "object_creation_expression" && bare(part))
}

/// What is used is named in a file or a namespace, under a condition, too.
fn outside_blocks(code: Code<'_>, import: NodeId) -> bool {
    let tree = code.tree;
    let holder = tree.ancestors(import)
        .map(|id| tree.kind_name(id))
        .find(|kind| *kind != "using_directive" && !kind.starts_with("preproc"));
    !matches!(holder, Some("block"))
}

/// Each mark that ends a region has one that begins it.
fn conditions_close(code: Code<'_>, _: NodeId) -> bool {
    let (source, tree) = (code.source, code.tree);
    let mut at = 0;
    let words = source.text().split_inclusive('\n').filter_map(|line| {
        let begins = at + (line.len() - line.trim_start().len()) as u32;
        at += line.len() as u32;
        let word = line.trim_start().strip_prefix('#')?;
        // Not in a text of several lines.
        let before = (tree.token_from(begins) as usize).checked_sub(1).and_then(|at| tree.tokens().get(at));
        let inside = before.is_some_and(
            |token| token.end > begins && matches!(tree.role(token.node), Role::String | Role::Comment),
        );
        (!inside).then(|| word.trim_start())
    });
    conditions_balance(words)
}

/// Types behind a name in angles are named, but for one that is itself asked for.
fn filled(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let named = tree.parts(list).any(|part| tree.language().is_named(tree.node(part).kind));
    named
        || tree.ancestors(list)
            .take(6)
            .any(|id| tree.kind_name(id) == "typeof_expression" || code.text(id).starts_with("nameof"))
}

fn regions_close(code: Code<'_>, unit: NodeId) -> bool {
    let tree = code.tree;
    let mut open = 0;
    let sound = tree.subtree(unit).all(|id| {
        open += match tree.kind_name(id) {
            "preproc_region" => 1,
            "preproc_endregion" => -1,
            _ => 0,
        };
        open >= 0
    });
    sound && open == 0
}

/// A list of values fills something that is made where it stands (12.8.16.3).
fn fills_what_is_made(code: Code<'_>, assignment: NodeId) -> bool {
    let tree = code.tree;
    let is_list = |id: NodeId| tree.kind_name(id) == "initializer_expression";
    !tree.child_named(assignment, "right").is_some_and(is_list) || tree.parent(assignment).is_some_and(is_list)
}
