//! Blocks of templates in pages (`{% if high %} ... {% endif %}`), whose lines may stand a level further in.

use std::collections::HashMap;

use vknot_syntax::TokenId;

use crate::spec::Code;

/// What a mark is to a block.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Part {
    Begin,
    Middle,
    End,
}

/// The marks of a page that begin, part and end blocks. What begins one and ends none is not among them.
#[derive(Default)]
pub(super) struct Templates(HashMap<TokenId, Part>);

/// Words that part a block.
const MIDDLE: [&str; 9] = ["case", "catch", "else", "elif", "elseif", "elsif", "empty", "rescue", "when"];

/// Words behind which a block ends at `end`, in the languages that have one word for all ends.
const BLOCKS: [&str; 7] = ["begin", "case", "for", "if", "unless", "until", "while"];

impl Templates {
    /// What a token is to a block.
    pub(super) fn part(&self, token: TokenId) -> Option<Part> {
        self.0.get(&token).copied()
    }

    /// Those of a text, given the kind of node that marks are.
    pub(super) fn of(code: Code<'_>, kind: &str) -> Self {
        let mut templates = Self::default();
        let Some(kind) = code.tree.language().kind(kind).filter(|_| !kind.is_empty()) else { return templates };
        let mut open: Vec<(TokenId, &str)> = Vec::new();
        // How many of a name are open: an end without a beginning must not look for one.
        let mut counts: HashMap<&str, usize> = HashMap::new();
        for (index, token) in code.tree.tokens().iter().enumerate() {
            if code.tree.node(token.node).kind != kind {
                continue;
            }
            let token_id = index as TokenId;
            match said(code.source.slice(token.span())) {
                Some((Part::Begin, name)) => {
                    open.push((token_id, name));
                    *counts.entry(name).or_default() += 1;
                }
                Some((Part::Middle, _)) => drop(templates.0.insert(token_id, Part::Middle)),
                Some((Part::End, name)) => {
                    let mut begins = counts.get(name).is_some_and(|count| *count > 0);
                    while begins && let Some((begin, passed)) = open.pop() {
                        counts.entry(passed).and_modify(|count| *count -= 1);
                        if passed == name {
                            templates.0.extend([(begin, Part::Begin), (token_id, Part::End)]);
                            begins = false;
                        }
                    }
                }
                None => {}
            }
        }
        templates
    }
}

/// What a mark says: whether it begins, parts or ends a block, and which. Blocks of code that have no names of their own share one.
fn said(mark: &str) -> Option<(Part, &str)> {
    let inner = |begin: &str, end: &str| Some(mark.strip_prefix(begin)?.trim_end_matches(end).trim_matches([
        '-', '~', '+', ' ',
    ]));
    if let Some(inner) = inner("{%", "%}") {
        let word = first_word(inner);
        return Some(match word.strip_prefix("end") {
            Some(name) if !name.is_empty() => (Part::End, name),
            _ if MIDDLE.contains(&word) => (Part::Middle, word),
            _ => (Part::Begin, word),
        });
    }
    if let Some(inner) = inner("{{", "}}") {
        let name = |rest: &'static str| inner.strip_prefix(rest).map(first_word);
        let middle = (first_word(inner) == "else").then_some((Part::Middle, "else"));
        let begin = name("#").or_else(|| name("^")).map(|name| (Part::Begin, name));
        return middle.or(begin).or_else(|| name("/").map(|name| (Part::End, name)));
    }
    let code = inner("<%", "%>").or_else(|| inner("<?php", "?>"))?.trim();
    let word = first_word(code);
    let begins = code.ends_with(['{', ':']) || code.ends_with(" do") || code.ends_with('|') && code.contains(" do ");
    match code.starts_with('}') || word.starts_with("end") {
        true if code.ends_with('{') => Some((Part::Middle, "")),
        true => Some((Part::End, "")),
        false if MIDDLE.contains(&word) => Some((Part::Middle, "")),
        false => (begins || BLOCKS.contains(&word)).then_some((Part::Begin, "")),
    }
}

fn first_word(text: &str) -> &str {
    let text = text.trim_start();
    &text[..text.find(|c: char| !(c.is_alphanumeric() || c == '_')).unwrap_or(text.len())]
}
