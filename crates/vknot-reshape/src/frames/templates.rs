//! Blocks of templates in pages (`{% if high %} ... {% endif %}`), whose lines may stand a level further in.

use std::collections::HashMap;

use vknot_syntax::{Node, TokenId};

use super::place::{Place, Spot};
use super::stack::{Frame, Frames};
use super::written::DEEP;
use crate::spec::Code;

/// What a mark is to a block.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Part {
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
    /// Those of a text, given the kind of node that marks are.
    pub(super) fn of(code: Code<'_>, kind: &str) -> Self {
        let mut templates = Self::default();
        let Some(kind) = code.tree.language().kind(kind).filter(|_| !kind.is_empty()) else { return templates };
        let mut open: Vec<(TokenId, &str)> = Vec::new();
        for (index, token) in code.tree.tokens().iter().enumerate() {
            if code.tree.node(token.node).kind != kind {
                continue;
            }
            let token_id = index as TokenId;
            match said(code.source.slice(token.span())) {
                Some((Part::Begin, name)) => open.push((token_id, name)),
                Some((Part::Middle, _)) => drop(templates.0.insert(token_id, Part::Middle)),
                Some((Part::End, name)) => {
                    let begin = open.iter().rposition(|(_, open)| *open == name);
                    if let Some((token, _)) = begin.and_then(|begin| open.drain(begin..).next()) {
                        templates.0.extend([(token, Part::Begin), (token_id, Part::End)]);
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

impl Frames<'_> {
    /// Counts the blocks that are open in what the innermost frame holds.
    pub(super) fn count_template(&mut self, token: TokenId) {
        let Some(part) = self.templates.0.get(&token).copied() else { return };
        let mark = self.tree.tokens().get(token as usize).map(|token| token.node);
        let holds = |frame: &&mut Frame| Some(frame.node) != mark && (part != Part::End || frame.written.templates > 0);
        if let Some(holder) = self.stack.iter_mut().rev().take(DEEP).find(holds) {
            let open = &mut holder.written.templates;
            *open = match part {
                Part::Begin => open.saturating_add(1),
                Part::Middle => *open,
                Part::End => open.saturating_sub(1),
            };
        }
    }

    /// Whether a line stands further in than its place by as many levels as there are blocks open around it, or fewer.
    pub(super) fn stands_in_template(&self, node: &Node, spot: &Spot, candidate: u32) -> bool {
        let size = self.options.size.max(1);
        let further = |from: Place, levels: u32| {
            let further = candidate.checked_sub(from.columns());
            further.is_some_and(|further| further <= levels * size && further % size == 0)
        };
        // What parts or ends a block may stand in an element that nothing ends.
        let parts = self.templates.0.get(&node.first_token).is_some_and(|part| *part != Part::Begin);
        let mut holders = self.stack.iter().rev().take(DEEP);
        match parts {
            true => holders.any(|frame| {
                let open = frame.written.templates;
                open > 0 && further(frame.anchor, open)
            }),
            false => !spot.closes && further(spot.place, self.top().written.templates),
        }
    }
}
