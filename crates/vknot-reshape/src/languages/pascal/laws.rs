//! What an Object Pascal compiler does not take though the reader does, which holds any text (ISO 10206, and the dialects' manuals on units).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Parted { kinds: &["arguments", "group"], marks: &[","], last: false },
    Law::Parted { kinds: &["parameters", "uses"], marks: &[",", ";"], last: false },
    Law::Sound { holder: "unit", is_sound: ends_with_point },
    Law::Sound { holder: "unit", is_sound: headed },
    Law::Sound { holder: "unit", is_sound: declares },
    Law::Sound { holder: "part", is_sound: declares },
    Law::Sound { holder: "value", is_sound: no_act },
    Law::Sound { holder: "members", is_sound: no_acts },
    Law::Sound { holder: "block", is_sound: acts },
    Law::Sound { holder: "parameters", is_sound: named },
    Law::Sound { holder: "arguments", is_sound: values },
    Law::Sound { holder: "parenthesized", is_sound: values },
    Law::Sound { holder: "uses", is_sound: names_only },
    Law::Sound { holder: "statement", is_sound: one_act },
    Law::Sound { holder: "unit", is_sound: in_parts },
    Law::Sound { holder: "part", is_sound: uses_first },
    Law::Sound { holder: "part", is_sound: made },
    Law::Sound { holder: "part", is_sound: worded },
    Law::Sound { holder: "unit", is_sound: worded },
    Law::Sound { holder: "class", is_sound: bare },
    Law::Sound { holder: "value", is_sound: bare },
    Law::Sound { holder: "field", is_sound: bare },
    Law::Sound { holder: "members", is_sound: fields_first },
    Law::Sound { holder: "parenthesized", is_sound: unformatted },
    Law::Sound { holder: "declarations", is_sound: typed },
];

/// The word that a node begins with, in small letters.
fn word_of(code: Code<'_>, node: NodeId) -> String {
    let token = code.tree.tokens().get(code.tree.node(node).first_token as usize);
    token.map_or("", |token| code.source.slice(token.span())).to_ascii_lowercase()
}

/// What a file is stands at its top, and a unit has an interface and then an implementation; nothing has two main blocks.
fn in_parts(code: Code<'_>, unit: NodeId) -> bool {
    let parts = code.tree.parts(unit).filter(|id| code.tree.kind_name(*id) != "directive");
    let words: Vec<String> = parts.map(|part| word_of(code, part)).collect();
    let places = |word: &str| -> Vec<usize> {
        words.iter().enumerate().filter(|(_, own)| *own == word).map(|(at, _)| at).collect()
    };
    let (interfaces, implementations) = (places("interface"), places("implementation"));
    let parted = interfaces == [1] && implementations == [2];
    ["unit", "program", "library"].iter().flat_map(|word| places(word)).all(|at| at == 0)
        && (words.first().is_none_or(|word| word != "unit") || parted)
        && places("begin").len() <= 1
}

/// What is used stands at the front of a part.
fn uses_first(code: Code<'_>, part: NodeId) -> bool {
    let mut behind = code.tree.parts(part).skip(1).filter(|id| code.tree.kind_name(*id) != "directive");
    let first = behind.next();
    first.is_none() || behind.all(|id| code.tree.role(id) != Role::Import)
}

/// A routine of an implementation is made there, unless it says where else.
fn made(code: Code<'_>, part: NodeId) -> bool {
    let elsewhere = |id: NodeId| {
        let mut words = code.tree.parts(id).map(|word| code.text(word).to_ascii_lowercase());
        words.any(|word| matches!(word.as_str(), "forward" | "external" | "="))
    };
    let header = |id: &NodeId| code.tree.kind_name(*id) == "routine_header";
    word_of(code, part) != "implementation" || code.tree.parts(part).filter(header).all(elsewhere)
}

/// No bracket is around what is declared.
fn bare(code: Code<'_>, declared: NodeId) -> bool {
    let mut head = code.tree.parts(declared).take_while(|part| !matches!(code.text(*part), ":" | "="));
    head.all(|part| code.tree.role(part) != Role::Parenthesized)
}

/// What is declared stands behind the word that says what it is.
fn worded(code: Code<'_>, part: NodeId) -> bool {
    code.tree.parts(part).all(|part| !matches!(code.tree.role(part), Role::Member | Role::Type))
}

/// Fields stand in front of routines, up to the next word that says who sees them.
fn fields_first(code: Code<'_>, members: NodeId) -> bool {
    let mut routines = false;
    code.tree.parts(members).all(|part| match (code.tree.role(part), code.tree.kind_name(part)) {
        (Role::Label, _) | (_, "declarations") => {
            routines = false;
            true
        }
        (Role::Callable, _) | (_, "property") => {
            routines = true;
            true
        }
        (_, "field") => !routines || matches!(word_of(code, part).as_str(), "class" | "var"),
        _ => true,
    })
}

fn ends_with_point(code: Code<'_>, unit: NodeId) -> bool {
    let named = code.tree.parts(unit).next().is_some_and(|first| code.tree.role(first) == Role::Package);
    let parts: Vec<NodeId> = code.tree.parts(unit).collect();
    let ends = |part: &NodeId| code.text(*part).trim_end_matches('.').trim_end().to_ascii_lowercase().ends_with("end");
    !named
        || parts.last().is_none_or(|last| code.text(*last).ends_with('.'))
            && parts.iter().rev().take(2).any(ends)
}

/// How wide something is written is said where it is handed over.
fn unformatted(code: Code<'_>, group: NodeId) -> bool {
    let tree = code.tree;
    let formatted = |id: NodeId| {
        let parts: Vec<&str> = tree.parts(id).map(|part| code.text(part)).collect();
        let counts = |text: &str| text.starts_with(|c: char| c.is_ascii_digit());
        tree.role(id) == Role::Operator && parts.windows(2).any(|pair| pair[0] == ":" && counts(pair[1]))
    };
    tree.parts(group).any(|part| code.text(part) == ";") || !tree.parts(group).any(formatted)
}

/// Words that say how what a variable of a type for routines is called.
const CONVENTIONS: &[&str] = &["cdecl", "pascal", "register", "safecall", "stdcall"];

/// A variable has a type.
fn typed(code: Code<'_>, part: NodeId) -> bool {
    let tree = code.tree;
    let name = |id: NodeId| tree.role(id) == Role::Name && !CONVENTIONS.contains(&code.text(id))
        || code.text(id) == ";";
    let named = |id: NodeId| tree.parts(id).all(name);
    word_of(code, part) != "var"
        || tree.parts(part).filter(|part| tree.kind_name(*part) == "value").all(|value| !named(value))
}

/// What has an interface begins with its name.
fn headed(code: Code<'_>, unit: NodeId) -> bool {
    let begins = |part: NodeId, word: &str| code.text(part).to_ascii_lowercase().starts_with(word);
    let interface = code.tree.parts(unit).any(|part| begins(part, "interface"));
    !interface || code.tree.parts(unit).next().is_some_and(|part| begins(part, "unit"))
}

/// Outside of blocks nothing is done.
fn declares(code: Code<'_>, part: NodeId) -> bool {
    code.tree.parts(part).all(|part| !matches!(code.tree.role(part), Role::Statement | Role::Branch))
        || code.tree
            .parts(part)
            .any(
                |part| matches!(code.text(part).to_ascii_lowercase().as_str(), "begin" | "initialization" | "finalization"),
            )
}

/// Words that something is done with.
fn is_act(word: &str) -> bool {
    matches!(word.to_ascii_lowercase().as_str(), "if" | "for" | "while" | "case" | "try" | "repeat" | "with")
}

fn no_act(code: Code<'_>, value: NodeId) -> bool {
    code.tree.parts(value).next().is_none_or(|first| !is_act(code.text(first)))
}

fn no_acts(code: Code<'_>, members: NodeId) -> bool {
    // Records have parts that depend on a case.
    code.tree.parts(members).all(|part| {
        let word = code.text(part);
        word.eq_ignore_ascii_case("case") || !is_act(word)
    })
}

/// In blocks no routines are made, and nothing is used.
fn acts(code: Code<'_>, block: NodeId) -> bool {
    code.tree.parts(block).all(|part| {
        let first = code.tree.parts(part).next().map_or("", |first| code.text(first)).to_ascii_lowercase();
        !matches!(first.as_str(), "procedure" | "function" | "uses" | "constructor" | "destructor")
    })
}

/// Parameters are names with types: a word that says how stands at the front.
fn named(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<NodeId> = tree.parts(list).collect();
    let word = |id: NodeId| tree.kind_name(id) == "keyword" || code.text(id).eq_ignore_ascii_case("out");
    let wrong = |pair: &[NodeId]| match code.text(pair[0]) {
        "," => word(pair[1]),
        "(" | ";" => !(word(pair[1]) || tree.role(pair[1]) == Role::Name || code.text(pair[1]).starts_with(['[', ')'])),
        _ => false,
    };
    let (mut typed, mut given) = (false, false);
    let wrongly_parted = parts.iter().skip(1).any(|part| match code.text(*part) {
        "," => typed,
        "(" => !typed && !given,
        mark => {
            typed = mark == ":" || typed && mark != ";";
            given = mark == "=" || given && mark != ";";
            false
        }
    });
    !wrongly_parted
        && !parts.windows(2).any(wrong)
        && !parts.iter().any(|part| tree.role(*part) == Role::Parenthesized || tree.kind_name(*part) == "group")
}

/// Between brackets stand values.
fn values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(list).all(|part| {
        let word = word_of(code, part);
        !matches!(tree.role(part), Role::Statement | Role::Branch | Role::Block)
            && tree.role(part) != Role::Assignment
            && !matches!(word.as_str(), "if" | "for" | "while" | "begin" | "case" | "try" | "repeat")
    })
}

fn names_only(code: Code<'_>, uses: NodeId) -> bool {
    code.tree.parts(uses).all(|part| !code.text(part).starts_with(['(', '[']))
}

/// A statement does one thing.
fn one_act(code: Code<'_>, statement: NodeId) -> bool {
    code.text(statement).ends_with(':') || code.tree.parts(statement).all(|part| code.text(part) != ",")
}
