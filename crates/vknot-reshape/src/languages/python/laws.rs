//! What CPython does not take though the grammar does (The Python Language Reference, sections 2.1.5, 6.3.4, 7.12, 8 and 8.7).

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

/// What ends a line that goes on.
const CONTINUATION: &str = "line_continuation";

pub(super) static LAWS: &[Law] = &[
    Law::Filled {
        kinds: &[
            "class_definition",
            "else_clause",
            "for_statement",
            "function_definition",
            "while_statement",
            "with_statement",
            "try_statement",
        ],
        field: "body",
    },
    Law::Filled { kinds: &["if_statement", "elif_clause", "case_clause"], field: "consequence" },
    Law::Sound { holder: "assert_statement", is_sound: one_message },
    Law::Sound { holder: "for_in_clause", is_sound: over_one },
    Law::Sound { holder: "except_clause", is_sound: has_block },
    Law::Sound { holder: "finally_clause", is_sound: has_block },
    Law::Sound { holder: "try_statement", is_sound: has_handler },
    Law::Sound { holder: "argument_list", is_sound: arguments_in_order },
    Law::Sound { holder: "parameters", is_sound: parameters_in_order },
    Law::Sound { holder: "lambda_parameters", is_sound: parameters_in_order },
    Law::Sound { holder: "argument_list", is_sound: named_once },
    Law::Sound { holder: "parameters", is_sound: named_once },
    Law::Sound { holder: "lambda_parameters", is_sound: named_once },
    Law::Sound { holder: "decorated_definition", is_sound: below_its_decorators },
    Law::Barred { kinds: &["comment"], holders: &["assignment", "augmented_assignment", "return_statement"] },
    Law::Barred {
        kinds: &["list_splat"],
        holders: &["return_statement", "assignment", "yield", "parenthesized_expression"],
    },
    Law::Sound { holder: "expression_statement", is_sound: stars_among_others },
    Law::Sound { holder: "tuple", is_sound: parts_something },
    Law::Sound { holder: CONTINUATION, is_sound: in_front_of_code },
    Law::Sound { holder: "function_definition", is_sound: said_first },
    Law::Sound { holder: "function_definition", is_sound: waits_if_it_may },
    Law::Within { kinds: &["return_statement", "yield", "await"], holders: &[], callables: true },
    Law::Within {
        kinds: &["break_statement", "continue_statement"],
        holders: &[&["for_statement", "while_statement"]],
        callables: false,
    },
    Law::Sound { holder: "module", is_sound: future_first },
    Law::Sound { holder: "block", is_sound: no_future },
    Law::Sound { holder: "module", is_sound: one_column },
    Law::Sound { holder: "block", is_sound: one_column },
];

fn has_block(code: Code<'_>, clause: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(clause).any(|part| tree.kind_name(part) == "block" && !tree.node(part).is_empty())
}

/// What is asserted has one message.
fn one_message(code: Code<'_>, statement: NodeId) -> bool {
    code.tree.parts(statement).filter(|part| code.tree.kind_name(*part) != CONTINUATION).count() <= 4
}

/// In a comprehension several things are run over only between brackets.
fn over_one(code: Code<'_>, clause: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(clause)
        .filter(|part| !tree.node(*part).is_empty())
        .all(|part| code.source.slice(tree.node(part).span()) != ",")
}

/// What is unpacked goes into a tuple.
fn stars_among_others(code: Code<'_>, statement: NodeId) -> bool {
    let mut parts = code.tree.parts(statement);
    let star = parts.next().is_some_and(|first| code.tree.kind_name(first) == "list_splat");
    !star || parts.next().is_some()
}

/// Brackets around one thing alone are none of a tuple.
fn parts_something(code: Code<'_>, tuple: NodeId) -> bool {
    let counts = |part: &NodeId| code.tree.kind_name(*part) != "comment";
    code.tree.parts(tuple).filter(counts).count() != 3
}

/// What goes on with the next line does so with code.
fn in_front_of_code(code: Code<'_>, mark: NodeId) -> bool {
    let next = code.tree.node(mark).token_end;
    (next as usize) >= code.tree.tokens().len() || !code.tree.is_comment(next)
}

/// What is said to be of the file, or of what is around, is not used before that is said; functions inside speak for themselves.
fn said_first(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let mut used = HashSet::new();
    own_nodes(code, function).all(|id| match tree.kind_name(id) {
        "global_statement" | "nonlocal_statement" => {
            let mut names = tree.parts(id).filter(|part| tree.kind_name(*part) == "identifier");
            names.all(|name| !used.contains(code.text(name)))
        }
        "identifier" => {
            used.insert(code.text(id));
            true
        }
        _ => true,
    })
}

/// Nothing is waited for in a function that does not say that it may.
fn waits_if_it_may(code: Code<'_>, function: NodeId) -> bool {
    let may = code.tree.parts(function).next().is_some_and(|first| code.text(first) == "async");
    may || own_nodes(code, function).all(|id| code.tree.kind_name(id) != "await")
}

/// The nodes in the body of a function, apart from those of what it holds that speaks for itself.
fn own_nodes(code: Code<'_>, function: NodeId) -> impl Iterator<Item = NodeId> {
    let tree = code.tree;
    let body = tree.child_named(function, "body");
    let end = body.map_or(0, |body| tree.node(body).next);
    let behind = move |id: NodeId| {
        let alone = ["function_definition", "lambda", "class_definition", "global_statement", "nonlocal_statement"];
        let next = if alone.contains(&tree.kind_name(id)) { tree.node(id).next } else { id.0 + 1 };
        (next < end).then_some(NodeId(next))
    };
    std::iter::successors(body, move |id| behind(*id))
}

fn has_handler(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(statement)
        .any(|part| matches!(tree.kind_name(part), "except_clause" | "except_group_clause" | "finally_clause"))
}

/// Positional arguments come first; nothing but keywords follows `**`.
fn arguments_in_order(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let mut reached = 0;
    let mut count = 0;
    let mut lone = false;
    let counts = |part: NodeId| {
        let named = tree.language().is_named(tree.node(part).kind) && tree.role(part) != Role::Comment;
        named && tree.kind_name(part) != CONTINUATION
    };
    let sound = tree.parts(list).filter(|part| counts(*part)).all(|part| {
        count += 1;
        let kind = tree.kind_name(part);
        lone |= kind == "generator_expression" && !code.text(part).starts_with('(');
        let (own, most) = match kind {
            "keyword_argument" => (1, 2),
            "dictionary_splat" => (2, 2),
            "list_splat" => (0, 1),
            _ => (0, 0),
        };
        let fits = reached <= most;
        reached = reached.max(own);
        fits
    });
    sound && !(lone && count > 1)
}

/// Parameters without a default do not follow those with one, some stand in front of `/`, `*` comes once, and nothing follows `**`.
fn parameters_in_order(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let (mut any, mut defaults, mut starred, mut slashed, mut closed) = (false, false, false, false, false);
    let named = |part: NodeId| !matches!(code.text(part), "," | "(" | ")") && tree.kind_name(part) != "comment";
    if tree.parts(list).filter(|part| named(*part)).last().is_some_and(|last| code.text(last) == "*") {
        return false;
    }
    tree.parts(list).filter(|part| !matches!(code.source.slice(tree.node(*part).span()), "," | "(" | ")")).all(|part| {
        let text = code.source.slice(tree.node(part).span());
        if closed {
            return false;
        }
        let any = std::mem::replace(&mut any, true);
        match tree.kind_name(part) {
            "tuple_pattern" | "parenthesized_expression" => false,
            "positional_separator" => any && !std::mem::replace(&mut slashed, true) && !starred,
            _ if text.starts_with("**") => {
                closed = true;
                true
            }
            _ if text.starts_with('*') => !std::mem::replace(&mut starred, true),
            "default_parameter" | "typed_default_parameter" => {
                defaults = true;
                true
            }
            _ => starred || !defaults,
        }
    })
}

/// No argument and no parameter is named twice.
fn named_once(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let name = |part: NodeId| match tree.kind_name(part) {
        "identifier" => (tree.kind_name(list) != "argument_list").then_some(part),
        "keyword_argument" | "default_parameter" | "typed_default_parameter" => tree.child_named(part, "name"),
        "typed_parameter" | "list_splat_pattern" | "dictionary_splat_pattern" => {
            tree.subtree(part).find(|id| tree.kind_name(*id) == "identifier")
        }
        _ => None,
    };
    let mut seen = HashSet::new();
    tree.parts(list).filter_map(name).all(|name| seen.insert(code.text(name)))
}

/// Imports from `__future__` stand in no block.
fn no_future(code: Code<'_>, block: NodeId) -> bool {
    code.tree.parts(block).all(|part| code.tree.kind_name(part) != "future_import_statement")
}

/// Statements of a block begin in one column.
fn one_column(code: Code<'_>, block: NodeId) -> bool {
    let source = code.source;
    let starts =
        code.tree.parts(block).map(|part| code.tree.node(part).start).filter(|start| source.begins_line(*start));
    let mut blanks = starts.map(|start| source.slice(source.line_blank(start)));
    let first = blanks.next();
    blanks.all(|blank| Some(blank) == first)
}

/// Imports from `__future__` come first, but for the text that documents the file.
fn future_first(code: Code<'_>, file: NodeId) -> bool {
    let tree = code.tree;
    let mut parts = tree.parts(file).enumerate();
    let text = |part: NodeId| tree.kind_name(part) == "expression_statement"
        && code.source.slice(tree.node(part).span()).ends_with(['"', '\'']);
    let mut open = true;
    parts.all(|(at, part)| {
        let future = tree.kind_name(part) == "future_import_statement";
        let fits = open || !future;
        open &= future || at == 0 && text(part);
        fits
    })
}

/// What is decorated begins where its decorators do.
fn below_its_decorators(code: Code<'_>, definition: NodeId) -> bool {
    let blank = |id: NodeId| code.source.line_blank(code.tree.node(id).start).of(code.source.text());
    let mut parts = code.tree.parts(definition);
    let first = parts.next().map(blank);
    parts.all(|part| Some(blank(part)) == first)
}
