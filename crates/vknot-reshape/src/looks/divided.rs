//! Pairs that divide a file: the directives around code that may be left out, with every branch, and the markers of regions. They may
//! cross brackets.

use vknot_syntax::{Role, Span};

use crate::spec::Code;
use crate::spec::indent::Conditional;

use super::marks::Marks;
use super::pairs::{Pair, Unpaired};
use super::regions::regions;

/// What divides a file, and directives without a partner.
pub(super) fn divided(code: Code<'_>, marks: &Marks) -> (Vec<Pair>, Vec<Unpaired>) {
    let (mut pairs, lone) = conditionals(code);
    pairs.extend(
        regions(code, marks).regions.iter().map(|region| pair(region.open, region.close, "region", Vec::new())),
    );
    (pairs, lone)
}

fn pair(open: Span, close: Span, construct: &'static str, branches: Vec<Span>) -> Pair {
    Pair { open, close, depth: 0, construct, header: open.start, branches }
}

/// Conditionals of a preprocessor.
fn conditionals(code: Code<'_>) -> (Vec<Pair>, Vec<Unpaired>) {
    let mut pairs = Vec::new();
    let mut lone = Vec::new();
    let mut open: Vec<(Span, Vec<Span>)> = Vec::new();
    for (span, part) in directives(code) {
        match (part, open.last_mut()) {
            (Conditional::Begin, _) => open.push((span, Vec::new())),
            (Conditional::Else, Some((_, branches))) => branches.push(span),
            (Conditional::End, Some(_)) => {
                let begun = open.pop();
                pairs.extend(begun.map(|(opening, branches)| pair(opening, span, "conditional", branches)));
            }
            (_, None) => lone.push(span),
        }
    }
    lone.extend(open.into_iter().map(|(span, _)| span));
    let lone = lone.into_iter().map(|span| Unpaired { span, culprit: None }).collect();
    (pairs, lone)
}

/// The directives of conditionals in order. Code that is left out may be one token with those that stand in it.
fn directives(code: Code<'_>) -> Vec<(Span, Conditional)> {
    let Code { source, tree, .. } = code;
    let table = &code.toolkit().indent;
    let mut found = Vec::new();
    if !table.has_directives {
        return found;
    }
    for token in tree.tokens().iter().filter(|token| !matches!(tree.role(token.node), Role::String)) {
        let text = source.slice(token.span());
        if !text.starts_with(['#', '{', '(']) {
            continue;
        }
        let mut start = token.start;
        let first = text.split_inclusive('\n').next().unwrap_or("");
        for line in if first.len() == text.len() || !text.starts_with('#') || is_joined(first) {
            vec![text]
        } else {
            text.split_inclusive('\n').collect()
        } {
            let blank = (line.len() - line.trim_start().len()) as u32;
            let span = Span::new(start + blank, start + line.trim_end().len().max(blank as usize) as u32);
            found.extend(table.spec.conditional(source.slice(span)).map(|part| (span, part)));
            start += line.len() as u32;
        }
    }
    found
}

/// Whether a line goes on with the next one.
fn is_joined(line: &str) -> bool {
    line.trim_end_matches(['\r', '\n']).ends_with('\\')
}
