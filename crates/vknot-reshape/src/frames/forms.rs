//! How the lines of S-expression forms stand: by the kind of their head.

use std::collections::BTreeMap;

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::forms::{FormSpec, HeadRule};

/// Rules of heads.
pub(crate) type HeadRules = BTreeMap<String, HeadRule>;

/// Reads `head=2, other=call`, the value of a setting.
pub(crate) fn heads(value: &str) -> HeadRules {
    let rule = |word: &str| match word {
        "call" => Some(HeadRule::Call),
        "data" => Some(HeadRule::Data),
        "clauses" => Some(HeadRule::Clauses),
        "inner" => Some(HeadRule::Inner),
        word => match word.strip_prefix("aligned-") {
            Some(count) => count.parse().ok().map(HeadRule::Aligned),
            None => word.parse().ok().map(HeadRule::Body),
        },
    };
    value
        .split([' ', ','])
        .filter_map(|pair| pair.rsplit_once('='))
        .filter_map(|(head, word)| Some((head.to_owned(), rule(word)?)))
        .collect()
}

/// The rule of a form, from its head. `position` counts the elements of its parent up to it.
pub(crate) fn rule_of(
    code: Code<'_>,
    form: NodeId,
    spec: &FormSpec,
    position: u32,
    own: &HeadRules,
) -> HeadRule {
    let Code { source, tree, .. } = code;
    let mut parts = tree.parts(form);
    let open = parts.next().map_or("", |open| tree.text_of(source.text(), open));
    let Some(head) = parts.next() else { return HeadRule::Data };
    let whole = head_text(code, head);
    if !is_head(code, head, spec) {
        return own.get(whole).copied().unwrap_or(HeadRule::Data);
    }
    let word = unqualified(spec, whole);
    let named_loop =
        spec.named_loops.contains(&word) && parts.next().is_some_and(|first| tree.role(first) == Role::Name);
    if named_loop {
        return HeadRule::Body(2);
    }
    if let Some(rule) = own.get(whole) {
        return *rule;
    }
    if spec.data.contains(&open) || is_data(code, form, spec, position) {
        return HeadRule::Data;
    }
    usual_rule(spec, word)
}

/// What a rule may be about: the text of a head, or the bracket it begins with.
pub(crate) fn head_text<'s>(code: Code<'s>, head: NodeId) -> &'s str {
    let Code { source, tree, .. } = code;
    let text = tree.text_of(source.text(), head);
    // A vector may have a type in front of it.
    let of_type = text.starts_with('^') && text.ends_with(']');
    if (of_type || text.starts_with('[')) && !tree.node(head).is_leaf() { "[" } else { text }
}

/// A head without what says where it is from.
fn unqualified<'h>(spec: &FormSpec, head: &'h str) -> &'h str {
    let qualified = head.rsplit_once('/').filter(|(_, word)| spec.qualified && !word.is_empty());
    qualified.map_or(head, |(_, word)| word)
}

/// What a language says about a head.
pub(crate) fn usual_rule(spec: &FormSpec, head: &str) -> HeadRule {
    let word = unqualified(spec, head);
    let named = spec.heads.iter().find(|(_, heads)| heads.contains(&word)).map(|(rule, _)| *rule);
    let by_prefix = || spec.prefixes.iter().find(|(prefix, _)| word.starts_with(prefix)).map(|(_, rule)| *rule);
    named.or_else(by_prefix).unwrap_or(HeadRule::Call)
}

/// Whether an element can be what a form calls.
fn is_head(code: Code<'_>, id: NodeId, spec: &FormSpec) -> bool {
    let Code { source, tree, .. } = code;
    let text = tree.text_of(source.text(), id);
    match tree.role(id) {
        Role::Name => true,
        Role::Literal | Role::Part => spec.called.iter().any(|mark| text.starts_with(mark)),
        _ => false,
    }
}

/// Whether a form is a clause or quoted: its first element is no head. `position` counts the elements of its parent up to it.
fn is_data(code: Code<'_>, form: NodeId, spec: &FormSpec, position: u32) -> bool {
    let Code { source, tree, .. } = code;
    let Some(parent) = tree.parent(form) else { return false };
    let mut parts = tree.parts(parent);
    let first = parts.next().map_or("", |first| tree.text_of(source.text(), first));
    if spec.quotes.contains(&first) {
        return true;
    }
    let Some(head) = parts.next().filter(|head| tree.role(*head) == Role::Name && *head != form) else { return false };
    let word = tree.text_of(source.text(), head);
    spec.clauses.iter().any(|(clauses, behind)| *clauses == word && position > behind + 2)
}
