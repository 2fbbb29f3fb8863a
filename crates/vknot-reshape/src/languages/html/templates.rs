//! Marks of templates in pages: what each says of the block it begins, parts or ends.

use crate::spec::indent::{TemplatePart as Part, TemplateSpec};

pub(super) const TEMPLATES: TemplateSpec = TemplateSpec { kind: "template", said };

/// Words that part a block.
const MIDDLE: [&str; 9] = ["case", "catch", "else", "elif", "elseif", "elsif", "empty", "rescue", "when"];

/// Words behind which a block ends at `end`, in the languages that have one word for all ends.
const BLOCKS: [&str; 7] = ["begin", "case", "for", "if", "unless", "until", "while"];

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
