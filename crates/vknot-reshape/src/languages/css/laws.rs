//! What a browser, or what makes its sheets, passes over though the reader takes it (CSS Syntax Module Level 3, chapter 5).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::Law;

/// What holds for plain sheets.
pub(crate) static LAWS: &[Law] = &[
    Law::Parted { kinds: PARTED, marks: &[","], last: false },
    Law::Sound { holder: "declaration", is_sound: named_value },
    Law::Sound { holder: "body", is_sound: rules_only },
    Law::Sound { holder: "sheet", is_sound: rules_only },
    Law::Sound { holder: "sheet", is_sound: no_declarations },
    Law::Sound { holder: "rule", is_sound: selects },
    Law::Sound { holder: "rule", is_sound: calls_behind_colons },
    Law::Sound { holder: "group", is_sound: one_test },
    Law::Sound { holder: "arguments", is_sound: one_test },
    Law::Sound { holder: "at_rule", is_sound: tests_in_brackets },
    Law::Sound { holder: "arguments", is_sound: some_values },
    Law::Sound { holder: "group", is_sound: something },
    Law::Sound { holder: "declaration", is_sound: no_bare_pairs },
    Law::Sound { holder: "statement", is_sound: no_call },
];

/// What holds where sheets are made of others, too.
pub(crate) static OF_ALL: &[Law] = &[
    Law::Parted { kinds: PARTED, marks: &[","], last: true },
    Law::Sound { holder: "declaration", is_sound: named_value },
    Law::Sound { holder: "body", is_sound: rules_only },
    Law::Sound { holder: "sheet", is_sound: rules_only },
    Law::Sound { holder: "sheet", is_sound: no_declarations },
    Law::Sound { holder: "rule", is_sound: selects },
    Law::Sound { holder: "group", is_sound: one_test },
    Law::Sound { holder: "at_rule", is_sound: tests_in_brackets },
    Law::Sound { holder: "variable", is_sound: no_bare_pairs },
    Law::Sound { holder: "arguments", is_sound: no_statements },
    Law::Sound { holder: "group", is_sound: no_statements },
    Law::Sound { holder: "declaration", is_sound: no_bare_pairs },
    Law::Sound { holder: "statement", is_sound: begun_as_one },
    Law::Sound { holder: "interpolation", is_sound: one_name },
    Law::Sound { holder: "arguments", is_sound: no_mixins },
    Law::Sound { holder: "group", is_sound: no_mixins },
    Law::Sound { holder: "import", is_sound: from_somewhere },
];

const PARTED: &[&str] = &["arguments", "group", "selectors", "value"];

/// A declaration is a name, a colon and a value.
fn named_value(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let first = tree.parts(declaration).next();
    let named = first.is_some_and(
        |first| tree.child_named(declaration, "name") == Some(first)
            || code.text(first).contains(['{', '@', '$', '*']),
    );
    let custom = first.is_some_and(|first| code.text(first).starts_with("--"));
    let called = first.is_some_and(|first| code.text(first).starts_with(['.', '#']));
    let made = code.text(declaration).split(':').next().is_some_and(|head| head.contains('{'));
    let value = tree.child_named(declaration, "value").is_some_and(|value| tree.parts(value).next().is_some());
    let several =
        tree.parts(declaration).map(|part| code.text(part)).take_while(|text| *text != ":").any(|text| text == ",");
    !several && (called || custom || (named || made) && value)
}

/// Between braces stand rules, declarations and what begins with `@`: no lone words, and no commas.
fn rules_only(code: Code<'_>, body: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(body).all(|part| match tree.kind_name(part) {
        "statement" => {
            let text = code.text(part);
            let plain = !text.contains(['@', '.', '#', '&', '$', '(']);
            let bodied = tree.parts(part).last().is_some_and(|last| tree.role(last) == Role::Body);
            !plain && !text.starts_with(['(', '$']) && (bodied || text.ends_with(';'))
        }
        _ => code.text(part) != ",",
    })
}

fn no_declarations(code: Code<'_>, sheet: NodeId) -> bool {
    code.tree.parts(sheet).all(|part| code.tree.kind_name(part) != "declaration")
}

/// A rule says what it is for, and no number does.
fn selects(code: Code<'_>, rule: NodeId) -> bool {
    let tree = code.tree;
    let Some(name) = tree.child_named(rule, "name") else { return false };
    let mut tokens = tree.tokens().iter().skip(tree.node(name).first_token as usize);
    let first = tokens.next().map_or("", |token| code.source.slice(token.span()));
    let steps = code.text(name).trim_end().ends_with('%');
    !tree.node(name).is_empty()
        && (steps || !first.starts_with(|c: char| c.is_ascii_digit() || matches!(c, '(' | '"' | '{')))
}

/// In what a rule is for only what stands behind a colon is called.
fn calls_behind_colons(code: Code<'_>, rule: NodeId) -> bool {
    let tree = code.tree;
    let Some(name) = tree.child_named(rule, "name") else { return true };
    tree.subtree(name).filter(|id| tree.role(*id) == Role::Call).all(|call| code.text_before(call) == ":")
}

/// In brackets nothing ends as a declaration does, and no name is left without its value.
fn one_test(code: Code<'_>, group: NodeId) -> bool {
    let parts: Vec<&str> = code.tree.parts(group).map(|part| code.text(part)).collect();
    let ends = parts.len() >= 3
        && (parts[parts.len() - 2] == ":"
            || parts[1] == ":" && parts[2].starts_with(|c: char| c.is_ascii_digit()));
    let whole = code.text(group);
    let braces = whole.match_indices('{').any(|(at, _)| !whole[..at].ends_with(['#', '@']));
    let square = parts.first() == Some(&"[") && parts.len() < 3;
    !ends && !braces && !square && !parts.contains(&";")
}

/// What is asked of a medium stands in brackets.
fn tests_in_brackets(code: Code<'_>, rule: NodeId) -> bool {
    let tree = code.tree;
    let Some(head) = tree.child_named(rule, "name") else { return true };
    let mut tokens = tree.tokens()
        .get(tree.node(head).first_token as usize..tree.node(head).token_end as usize)
        .unwrap_or_default()
        .iter();
    let mut texts = tokens.by_ref().map(|token| code.source.slice(token.span()));
    if !matches!(texts.next(), Some("@media" | "@supports" | "@container")) {
        return true;
    }
    let mut depth = 0;
    texts.all(|text| {
        depth += i32::from(text.ends_with('(')) - i32::from(text == ")");
        let parted = depth == 1 && text == ",";
        let bare = text == ":" || text.starts_with(|c: char| c.is_ascii_digit());
        if depth > 0 { !parted } else { !bare }
    })
}

/// A key stands in brackets with what it leads to; a word in front of a colon may say in whose words a filter is told.
fn no_bare_pairs(code: Code<'_>, holder: NodeId) -> bool {
    let tree = code.tree;
    let Some(value) = tree.child_named(holder, "value") else { return true };
    // Nor is a name alone a variable.
    if tree.kind_name(holder) == "variable" && tree.parts(holder).all(|part| code.text(part) != ":") {
        return false;
    }
    let mut shares =
        std::iter::once(value).chain(tree.parts(value).filter(|part| tree.kind_name(*part) == "value_part"));
    shares.all(|share| {
        let mut before = "";
        tree.parts(share).all(|part| {
            let bare = code.text(part) == ":" && !before.eq_ignore_ascii_case("progid");
            before = code.text(part);
            !bare
        })
    })
}

/// What begins a statement is no argument.
fn no_statements(code: Code<'_>, list: NodeId) -> bool {
    !code.tree.parts(list).any(|part| STATEMENTS.contains(&code.text(part)))
}

/// The words that begin statements in what sheets are made of.
const STATEMENTS: &[&str] = &[
    "@content", "@each", "@else", "@extend", "@for", "@forward", "@function", "@if",
    "@import", "@include", "@media", "@mixin", "@return", "@supports", "@use", "@while",
];

/// Brackets in plain sheets hold something.
fn something(code: Code<'_>, group: NodeId) -> bool {
    let parts: Vec<&str> = code.tree.parts(group).map(|part| code.text(part)).collect();
    match parts.first() {
        Some(&"(") => parts.len() > 2,
        Some(&"[") => !parts.contains(&","),
        _ => true,
    }
}

/// What is called in plain sheets is called with something.
fn some_values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let value = tree.ancestors(list).any(|id| tree.kind_name(id) == "value");
    !value || tree.parts(list).count() > 2
}

/// Only what begins with `@` is a statement of a plain sheet.
fn no_call(code: Code<'_>, statement: NodeId) -> bool {
    code.text(statement).starts_with(['@', ';'])
}

/// A statement begins with the word for it, or calls something, and no other begins in it.
fn begun_as_one(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let text = code.text(statement);
    let head = tree.child_named(statement, "head").or(tree.parts(statement).next());
    let first = head.and_then(|head| tree.parts(head).next().or(Some(head)));
    let calls = first.is_some_and(|first| tree.role(first) == Role::Call);
    let node = tree.node(statement);
    let tokens = tree.tokens().get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
    let others = tokens.iter().skip(1).any(|token| STATEMENTS.contains(&code.source.slice(token.span())));
    (calls || text.starts_with(['@', '.', '#', '&', ';']) && !text.starts_with("#{")) && !others
}

/// A name alone is put in between the brackets of Less.
fn one_name(code: Code<'_>, held: NodeId) -> bool {
    let tree = code.tree;
    let mut parts = tree.parts(held);
    let named = parts.next().is_some_and(|open| code.text(open) == "@{");
    !named || parts.next().is_none_or(|name| tree.role(name) != Role::Call) && parts.count() <= 1
}

/// What is put in as a whole is no value; between braces rules may be handed over.
fn no_mixins(code: Code<'_>, list: NodeId) -> bool {
    let mixin = |text: &str| text.strip_prefix('.')
        .is_some_and(|name| name.starts_with(|c: char| c.is_ascii_alphabetic()));
    let tree = code.tree;
    let rules = tree.parts(list).any(|part| code.text(part).starts_with('{'));
    rules || !tree.parts(list).any(|part| tree.role(part) == Role::Call && mixin(code.text(part)))
}

fn from_somewhere(code: Code<'_>, import: NodeId) -> bool {
    code.text(import).trim_end_matches(';').contains([' ', '"', '\'', '('])
}
