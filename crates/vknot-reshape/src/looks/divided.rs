//! Pairs that divide a file: the directives around code that may be left out, with every branch, and the markers of regions. They may
//! cross brackets.

use vknot_syntax::{Role, Span};

use crate::spec::Code;
use crate::spec::indent::Conditional;

use super::marks::Marks;
use super::regions::regions;

/// A part of a file between two marks.
pub(super) struct Division {
    pub open: Span,
    pub close: Span,
    /// What it is, in words.
    pub construct: &'static str,
    /// The marks that part its branches.
    pub branches: Vec<Span>,
}

/// What divides a file, and directives without a partner.
pub(super) fn divided(code: Code<'_>, marks: &Marks) -> (Vec<Division>, Vec<Span>) {
    let (mut found, lone) = conditionals(code);
    let regions = regions(code, marks).regions.into_iter();
    found.extend(regions.map(|region| {
        Division { open: region.open, close: region.close, construct: "region", branches: Vec::new() }
    }));
    (found, lone)
}

/// Conditionals of a preprocessor.
fn conditionals(code: Code<'_>) -> (Vec<Division>, Vec<Span>) {
    let mut found = Vec::new();
    let mut lone = Vec::new();
    let mut open: Vec<(Span, Vec<Span>)> = Vec::new();
    for (span, part) in directives(code) {
        match (part, open.last_mut()) {
            (Conditional::Begin, _) => open.push((span, Vec::new())),
            (Conditional::Else, Some((_, branches))) => branches.push(span),
            (Conditional::End, Some(_)) => {
                let begun = open.pop();
                found.extend(begun.map(|(open, branches)| {
                    Division { open, close: span, construct: "conditional", branches }
                }));
            }
            (_, None) => lone.push(span),
        }
    }
    lone.extend(open.into_iter().map(|(span, _)| span));
    (found, lone)
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
