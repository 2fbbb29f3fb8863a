//! What names of Scheme and Racket are bound to (R7RS, sections 3.1, 4 and 5; The Racket Reference, "Syntactic Forms"): what the forms of
//! the language bind. A form that is not known may bind what stands in it as those do: a name that does is not told.

use std::collections::HashMap;
use std::sync::LazyLock;

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use crate::spec::scopes::{Binding, ScopeSpec, as_it_says, one_space};
use super::procedures::PROCEDURES;

pub(crate) static SCOPES: ScopeSpec = ScopeSpec {
    names: &["symbol"],
    binding,
    inner: as_it_says,
    spaces: one_space,
    written,
    keyed,
    reserved: &["."],
};

/// What a form binds.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Rule {
    /// Nothing: all that is in it are expressions and definitions.
    Plain,
    /// The parameters that stand behind its head.
    Parameters,
    /// The same, where the first is what the form is called inside.
    Named,
    /// In each clause its first element.
    Cases,
    /// What is behind its head, outside of it, and parameters inside.
    Defines,
    /// All in the list behind its head, outside of it.
    DefinesAll,
    /// The first element of each clause of a list, in the body alone.
    Let,
    /// The same, in the clauses behind, too.
    Sequential,
    /// The same, in all clauses.
    Recursive,
    /// The same, and the third element of a clause sees it.
    Do,
    /// The first element of each clause, which goes over something.
    For,
    /// The same, each within the ones before it.
    ForSequential,
    /// What is collected, then what is gone over.
    Fold,
    /// The same, each within the ones before it.
    FoldSequential,
    /// The list behind its head, in what is behind the next element.
    Receives,
    /// The name in front of its clauses, in those.
    Guards,
    /// The name behind its head.
    Continues,
    /// Nothing: its elements are clauses.
    Clauses,
    /// Nothing, but clauses begin with what is no code.
    Choices,
    /// In clauses behind the first element, whatever their patterns name.
    Patterns,
    /// A type: its name, and what is made of that.
    Type,
    /// It is written as it stands.
    Quotes,
    /// What is made of it is not known.
    Template,
}

/// What the forms of both languages bind, by head.
const RULES: &[(Rule, &[&str])] = &[
    (
        Rule::Plain,
        &[
            "and", "assert", "begin", "begin0", "cons-stream", "delay", "delay-force", "fluid-let", "if", "or",
            "parameterize", "set!", "set!-values", "time", "unless", "when", "with-handlers", "with-handlers*",
            "module+", "#%app", "set-box!", "provide", "define-library",
        ],
    ),
    (Rule::Parameters, &["lambda", "λ"]),
    (Rule::Named, &["named-lambda", "rec"]),
    (Rule::Cases, &["case-lambda"]),
    (Rule::Defines, &["define", "define-integrable", "define-inline"]),
    (Rule::DefinesAll, &["define-values"]),
    (Rule::Let, &["let", "let-values"]),
    (Rule::Sequential, &["let*", "let*-values", "and-let*"]),
    (Rule::Recursive, &["letrec", "letrec*", "letrec-values"]),
    (Rule::Do, &["do"]),
    (
        Rule::For,
        &[
            "for", "for/list", "for/vector", "for/hash", "for/hasheq", "for/and", "for/or", "for/sum", "for/product",
            "for/first", "for/last", "for/set", "for/lists",
        ],
    ),
    (
        Rule::ForSequential,
        &[
            "for*",
            "for*/list",
            "for*/vector",
            "for*/hash",
            "for*/and",
            "for*/or",
            "for*/sum",
            "for*/first",
            "for*/last",
        ],
    ),
    (Rule::Fold, &["for/fold", "for/foldr"]),
    (Rule::FoldSequential, &["for*/fold"]),
    (Rule::Receives, &["receive"]),
    (Rule::Guards, &["guard"]),
    (Rule::Continues, &["let/cc", "let/ec"]),
    (Rule::Clauses, &["cond"]),
    (Rule::Choices, &["case"]),
    (Rule::Patterns, &["match"]),
    (Rule::Type, &["struct", "define-struct", "define-record-type"]),
    (Rule::Quotes, &["quote"]),
    (
        Rule::Template,
        &[
            "cond-expand", "er-macro-transformer", "module", "module*", "quasiquote", "quasisyntax",
            "rsc-macro-transformer",
            "sc-macro-transformer", "syntax", "syntax-case", "syntax-parse", "syntax-rules", "unit", "class", "class*",
        ],
    ),
];

/// How heads begin and end that are not known, and likely bind something.
const LIKELY: (&[&str], &[&str]) = (
    &["begin-for-", "case-", "define", "do-", "for/", "for*", "let", "match", "struct", "syntax-", "with-"],
    &["-case", "-lambda", "-let", "-let*", "-loop"],
);

/// The rules of all heads that are known, and that procedures have none.
static KNOWN: LazyLock<HashMap<&str, Option<Rule>>> = LazyLock::new(|| {
    let procedures = PROCEDURES.iter().map(|name| (*name, None));
    let heads = RULES.iter().flat_map(|(rule, heads)| heads.iter().map(|head| (*head, Some(*rule))));
    procedures.chain(heads).collect()
});

fn rule(head: &str) -> Option<Rule> {
    let likely = || LIKELY.0.iter().any(|begin| head.starts_with(begin))
        || LIKELY.1.iter().any(|end| head.ends_with(end));
    KNOWN.get(head).copied().unwrap_or_else(|| likely().then_some(Rule::Template))
}

/// An element of a form, its head the first.
fn element(code: Code<'_>, form: NodeId, at: usize) -> Option<NodeId> {
    let tree = code.tree;
    let element = tree.parts(form).filter(|part| tree.kind_name(*part) != "skipped").nth(at + 1);
    element.filter(|part| !matches!(tree.kind_name(*part), ")" | "]" | "}"))
}

fn is_form(code: Code<'_>, id: NodeId) -> bool {
    matches!(first_text(code, id), "(" | "[" | "{")
}

/// The head of a form, where that is a name.
fn head(code: Code<'_>, form: NodeId) -> Option<&str> {
    let first = element(code, form, 0).filter(|first| code.tree.kind_name(*first) == "symbol")?;
    Some(code.text(first))
}

/// The functions that a file defines, and those of the languages: what stands in a call of them is used.
fn keyed(code: Code<'_>) -> HashMap<&str, bool> {
    let tree = code.tree;
    let mut known: HashMap<&str, bool> = PROCEDURES.iter().map(|name| (*name, false)).collect();
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        let name = match head(code, id) {
            Some("define") => element(code, id, 1).and_then(|list| head(code, list)),
            Some("let") => element(code, id, 1).filter(|name| !is_form(code, *name)).map(|name| code.text(name)),
            _ => None,
        };
        known.extend(name.map(|name| (name, false)));
    }
    known
}

/// What a module gives to others keeps its name there.
fn written(code: Code<'_>, id: NodeId, new: &str) -> String {
    let own = code.text(id);
    let provided = head(code, code.tree.node(id).parent) == Some("provide") && code.tree.language().name() == "racket";
    if provided { format!("(rename-out [{new} {own}])") } else { new.to_owned() }
}

fn binding(code: Code<'_>, id: NodeId) -> Binding {
    let tree = code.tree;
    // The nodes from the name up to below the form that is looked at.
    let mut path = vec![id];
    let mut found: Option<Binding> = None;
    let mut quoted = 0;
    for above in tree.ancestors(id).skip(1) {
        match tree.kind_name(above) {
            "quoted" => match (first_text(code, above), quoted) {
                ("," | ",@" | "#," | "#,@", _) => quoted -= 1,
                ("`" | "#`", level) if level < 0 => quoted += 1,
                ("'" | "`", 0) => return Binding::Other,
                ("'" | "#'", level) if level < 0 => {}
                _ => return Binding::Perhaps,
            },
            "skipped" | "vector" => return Binding::Perhaps,
            _ if tree.role(above) == Role::Import && head(code, above) != Some("provide") => return open(code),
            _ => {}
        }
        let rule = head(code, above).and_then(rule);
        match rule {
            Some(Rule::Quotes) if quoted == 0 => return Binding::Other,
            Some(Rule::Template) => return Binding::Perhaps,
            // The head itself is bound elsewhere.
            Some(_) if element(code, above, 0) == path.last().copied() => {
                found.get_or_insert(Binding::Uses { but: None });
            }
            Some(rule) if found.is_none() => {
                found = Some(match bound(code, above, rule, &path) {
                    Place::Bound(binding) => binding,
                    Place::Used(levels) => {
                        let inner = path.len().saturating_sub(levels);
                        in_calls(code, path.get(..inner).unwrap_or(&path)).unwrap_or(Binding::Uses { but: None })
                    }
                });
            }
            _ => {}
        }
        path.push(above);
    }
    found.or_else(|| in_calls(code, &path)).unwrap_or(Binding::Uses { but: None })
}

fn first_text(code: Code<'_>, id: NodeId) -> &str {
    code.tree.parts(id).next().map_or("", |first| code.text(first))
}

/// What a name within forms that are not known does, where they may bind it.
fn in_calls(code: Code<'_>, path: &[NodeId]) -> Option<Binding> {
    let tree = code.tree;
    let id = *path.first()?;
    for (form, call) in path.iter().skip(1).zip(path.iter().skip(2)).filter(|(form, _)| is_form(code, **form)) {
        let Some(callee) = element(code, *call, 0).filter(|callee| callee != form && is_form(code, *call)) else {
            continue
        };
        let list = element(code, *form, 0).is_some_and(|first| is_form(code, first));
        let clause = first_text(code, *form) == "[";
        // `(each (x list) (f x))`: the form behind the head holds what comes again.
        let listed = element(code, *call, 1) == Some(*form) || code.text_before(*form).starts_with("#:");
        let call_of_its_own =
            head(code, *form).is_some_and(|head| head != code.text(id) && KNOWN.get(head) == Some(&None));
        let second = listed
            && !call_of_its_own
            && tree.node(id).parent == *form
            && comes_again(code, id, *form, *call);
        if list || clause || second {
            return Some(
                if tree.kind_name(callee) == "symbol" { Binding::Key { of: callee } } else { Binding::Perhaps },
            );
        }
    }
    None
}

/// Whether a name stands in a form behind one of its parts, too, as far as that is looked at.
fn comes_again(code: Code<'_>, id: NodeId, part: NodeId, form: NodeId) -> bool {
    const LOOKED_AT: usize = 400;
    let tree = code.tree;
    let (from, end) = (tree.node(part).token_end as usize, tree.node(form).token_end as usize);
    let behind = tree.tokens().get(from..end).unwrap_or(&[]);
    behind.len() > LOOKED_AT || behind.iter().any(|token| code.source.slice(token.span()) == code.text(id))
}

/// What a form does with a name in it.
enum Place {
    Bound(Binding),
    /// It is used; so many of the nodes around it, from the outermost on, are parts of the form.
    Used(usize),
}

fn open(code: Code<'_>) -> Binding {
    Binding::Open { holder: NodeId(0), seen: code.source.span() }
}

fn seen(code: Code<'_>, holder: NodeId, from: u32) -> Place {
    let end = code.tree.node(holder).end;
    Place::Bound(Binding::Declares { holder, seen: Span::new(from.min(end), end) })
}

/// What a form that is known does with a name; the path to it ends with an element of the form.
fn bound(code: Code<'_>, form: NodeId, rule: Rule, path: &[NodeId]) -> Place {
    let Some(top) = path.last().copied() else { return Place::Used(0) };
    let is = |at: usize| element(code, form, at) == Some(top);
    let end_of = |at: usize| element(code, form, at).map_or(0, |element| code.tree.node(element).end);
    match rule {
        Rule::Plain | Rule::Quotes | Rule::Template => Place::Used(0),
        Rule::Parameters if is(1) => parameter(code, form, path, 0),
        Rule::Named if is(1) => parameter(code, form, path, 0),
        Rule::Continues if is(1) => seen(code, form, end_of(1)),
        Rule::Cases => match path.len().checked_sub(2).and_then(|at| path.get(at)) {
            Some(inner) if element(code, top, 0) == Some(*inner) => {
                let within = path.get(..path.len() - 1).unwrap_or(path);
                parameter(code, top, within, 0)
            }
            _ => Place::Used(1),
        },
        Rule::Defines if is(1) => defined(code, form, path),
        Rule::DefinesAll if is(1) => Place::Bound(local(code, form)),
        Rule::Let | Rule::Sequential | Rule::Recursive | Rule::Do => clauses(code, form, rule, path),
        Rule::For | Rule::ForSequential | Rule::Fold | Rule::FoldSequential => gone_over(code, form, rule, path),
        Rule::Receives if is(1) => parameter(code, form, path, end_of(2)),
        Rule::Guards if is(1) => match element(code, top, 0) == path.first().copied() {
            true => seen(code, top, code.tree.node(top).start),
            false => Place::Used(1),
        },
        Rule::Clauses => Place::Used(1),
        Rule::Choices if is(1) => Place::Used(0),
        Rule::Choices => match begins(code, path) {
            true => Place::Bound(Binding::Other),
            false => Place::Used(1),
        },
        Rule::Patterns if is(1) => Place::Used(0),
        Rule::Patterns => match begins(code, path) {
            true => Place::Bound(Binding::Perhaps),
            false => Place::Used(1),
        },
        Rule::Type => match path.len() {
            1 => Place::Bound(open(code)),
            _ if is(1) => Place::Bound(open(code)),
            2 | 3 => Place::Bound(Binding::Perhaps),
            _ => Place::Used(0),
        },
        _ => Place::Used(0),
    }
}

/// Whether a path goes through the first element of a clause.
fn begins(code: Code<'_>, path: &[NodeId]) -> bool {
    let [.., inner, clause] = path else { return false };
    element(code, *clause, 0) == Some(*inner)
}

/// A name in a list of parameters, or in place of one: of a parameter, or in what it is where nothing is given.
fn parameter(code: Code<'_>, holder: NodeId, path: &[NodeId], from: u32) -> Place {
    let start = |id: NodeId| code.tree.node(id).start.max(from);
    match path {
        [id] | [id, _] => seen(code, holder, start(*id)),
        // What it is where nothing is given does not see it.
        [id, clause, _] if element(code, *clause, 0) == Some(*id) => seen(code, holder, code.tree.node(*clause).end),
        _ => Place::Used(2),
    }
}

/// A name behind the head of a definition: what is defined, or a parameter.
fn defined(code: Code<'_>, form: NodeId, path: &[NodeId]) -> Place {
    let mut path = path;
    while let [.., inner, list] = path {
        if element(code, *list, 0) != Some(*inner) || !is_form(code, *list) {
            return parameter(code, form, path, 0);
        }
        path = path.get(..path.len() - 1).unwrap_or(&[]);
    }
    Place::Bound(local(code, form))
}

/// What is defined in a body is seen in all of it.
fn local(code: Code<'_>, definition: NodeId) -> Binding {
    let tree = code.tree;
    let holder = tree.ancestors(definition).skip(1).find(|above| {
        is_form(code, *above) && !matches!(head(code, *above), Some("begin" | "define-library"))
    });
    let Some(holder) = holder else { return Binding::Declares { holder: NodeId(0), seen: code.source.span() } };
    // Behind what the form itself binds.
    let behind = match head(code, holder).and_then(rule) {
        Some(Rule::Parameters | Rule::Named | Rule::Defines | Rule::Continues) => 2,
        Some(Rule::Let | Rule::Sequential | Rule::Recursive) => if named(code, holder) { 3 } else { 2 },
        Some(Rule::Do | Rule::For | Rule::ForSequential | Rule::Plain) => 2,
        Some(Rule::Fold | Rule::FoldSequential | Rule::Receives) => 3,
        // What a clause begins with does not see it.
        _ => 1,
    };
    let from = element(code, holder, behind).map_or(0, |first| tree.node(first).start);
    let end = tree.node(holder).end;
    Binding::Declares { holder, seen: Span::new(from.clamp(tree.node(holder).start, end), end) }
}

/// Whether a `let` has a name.
fn named(code: Code<'_>, form: NodeId) -> bool {
    element(code, form, 1).is_some_and(|first| code.tree.kind_name(first) == "symbol")
}

/// A name in a form that binds the first element of each clause in a list.
fn clauses(code: Code<'_>, form: NodeId, rule: Rule, path: &[NodeId]) -> Place {
    let Some(top) = path.last().copied() else { return Place::Used(0) };
    let named = usize::from(named(code, form));
    let Some(list) = element(code, form, 1 + named) else { return Place::Used(0) };
    let end = code.tree.node(list).end;
    if named == 1 && path.len() == 1 && element(code, form, 1) == Some(top) {
        return seen(code, form, end);
    }
    if top != list {
        return Place::Used(if rule == Rule::Do { 1 } else { 0 });
    }
    let [.., clause, _] = path else { return Place::Used(0) };
    let from = match rule {
        Rule::Sequential => code.tree.node(*clause).end,
        Rule::Recursive => code.tree.node(list).start,
        Rule::Do => element(code, *clause, 1).map_or(end, |first| code.tree.node(first).end),
        _ => end,
    };
    match path {
        _ if is_named_by(code, path) => seen(code, form, from),
        [.., inner, clause, _] if rule == Rule::Do && element(code, *clause, 1) == Some(*inner) =>
            Place::Bound(Binding::Uses { but: Some(form) }),
        _ => Place::Used(2),
    }
}

/// Whether a name is the first element of a clause in a list, or one of several there.
fn is_named_by(code: Code<'_>, path: &[NodeId]) -> bool {
    match path {
        [_, _] => true,
        [id, clause, _] => element(code, *clause, 0) == Some(*id),
        [_, names, clause, _] => element(code, *clause, 0) == Some(*names),
        _ => false,
    }
}

/// A name in a form that goes over something.
fn gone_over(code: Code<'_>, form: NodeId, rule: Rule, path: &[NodeId]) -> Place {
    const OPTIONS: usize = 6;
    let Some(top) = path.last().copied() else { return Place::Used(0) };
    let lists: Vec<NodeId> =
        (1..OPTIONS).map_while(|at| element(code, form, at)).filter(|part| is_form(code, *part)).take(2).collect();
    let fold = matches!(rule, Rule::Fold | Rule::FoldSequential);
    let (collected, list) = match (fold, lists.as_slice()) {
        (true, [collected, list]) => (Some(*collected), *list),
        (false, [list, ..]) => (None, *list),
        _ => return Place::Used(0),
    };
    let [.., clause, _] = path else { return Place::Used(0) };
    let end = |id: NodeId| code.tree.node(id).end;
    match () {
        _ if Some(top) == collected && is_named_by(code, path) => seen(code, form, end(top)),
        _ if Some(top) == collected => Place::Used(2),
        _ if top != list => Place::Used(0),
        // `#:when ready`
        _ if code.text_before(*clause).starts_with("#:") => Place::Used(1),
        _ if is_named_by(code, path) => seen(code, form, end(*clause)),
        _ if matches!(rule, Rule::For | Rule::Fold) && !has_keyword(code, list) =>
            Place::Bound(Binding::Uses { but: Some(form) }),
        _ => Place::Used(2),
    }
}

/// Whether something in a list of clauses parts the ones before it from the ones behind it.
fn has_keyword(code: Code<'_>, list: NodeId) -> bool {
    const LOOKED_AT: usize = 64;
    let tree = code.tree;
    tree.parts(list).take(LOOKED_AT).any(|part| code.text(part).starts_with("#:"))
}
