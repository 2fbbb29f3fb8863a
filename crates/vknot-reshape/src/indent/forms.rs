//! How the lines of S-expression forms stand: by the kind of their head.

use vknot_syntax::{NodeId, Role, Source, Tree};

/// How a form's lines stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum HeadRule {
    /// So many arguments make the head of it; what follows is a body, a little further in.
    Body(u32),
    /// Arguments stand under the first one; where that is not on the first line, under the head.
    Call,
    /// Like a call; where no argument is on the first line, they stand as a body does.
    Clauses,
    /// Everything stands under the first element.
    Data,
}

/// What a language of forms says about them.
#[derive(Debug)]
pub(crate) struct FormSpec {
    /// Heads with a rule of their own.
    pub heads: &'static [(HeadRule, &'static [&'static str])],
    /// Beginnings of heads with a rule of their own, tried in order where no head fits.
    pub prefixes: &'static [(&'static str, HeadRule)],
    /// Brackets around data.
    pub data: &'static [&'static str],
    /// Heads that hold clauses: a form in them is data, behind so many arguments.
    pub clauses: &'static [&'static str],
    /// Columns of a body against the bracket that opens its form.
    pub body: u32,
    /// Columns of an argument that belongs to the head against that bracket.
    pub argument: u32,
}

/// Reads `head=2 other=call`, the value of a setting.
pub(super) fn heads(value: &str) -> Vec<(String, HeadRule)> {
    let rule = |word: &str| match word {
        "call" => Some(HeadRule::Call),
        "data" => Some(HeadRule::Data),
        "clauses" => Some(HeadRule::Clauses),
        count => count.parse().ok().map(HeadRule::Body),
    };
    value.split_whitespace().filter_map(|pair| pair.rsplit_once('=')).filter_map(|(head, word)| Some((head.to_owned(), rule(word)?))).collect()
}

/// The rule of a form, from its head.
pub(super) fn rule_of(
    source: &Source,
    tree: &Tree,
    form: NodeId,
    spec: &FormSpec,
    own: &[(String, HeadRule)],
) -> HeadRule {
    let mut parts = tree.parts(form);
    let open = parts.next().map_or("", |open| tree.text_of(source.text(), open));
    let Some(head) = parts.next().filter(|head| tree.role(*head) == Role::Name) else { return HeadRule::Data };
    let word = tree.text_of(source.text(), head);
    if let Some((_, rule)) = own.iter().find(|(name, _)| name == word) {
        return *rule;
    }
    if spec.data.contains(&open) || is_data(source, tree, form, spec) {
        return HeadRule::Data;
    }
    let named = spec.heads.iter().find(|(_, heads)| heads.contains(&word)).map(|(rule, _)| *rule);
    let by_prefix = || spec.prefixes.iter().find(|(prefix, _)| word.starts_with(prefix)).map(|(_, rule)| *rule);
    let rule = named.or_else(by_prefix).unwrap_or(HeadRule::Call);
    let named_loop = word == "let" && parts.next().is_some_and(|first| tree.role(first) == Role::Name);
    if named_loop { HeadRule::Body(2) } else { rule }
}

/// Whether a form is a clause or quoted: its first element is no head.
fn is_data(source: &Source, tree: &Tree, form: NodeId, spec: &FormSpec) -> bool {
    let Some(parent) = tree.parent(form) else { return false };
    let mut parts = tree.parts(parent);
    let first = parts.next().map_or("", |first| tree.text_of(source.text(), first));
    if first == "'" {
        return true;
    }
    let Some(head) = parts.next().filter(|head| tree.role(*head) == Role::Name && *head != form) else { return false };
    spec.clauses.contains(&tree.text_of(source.text(), head))
}
