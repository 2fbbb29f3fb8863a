//! Where a word stands, whatever it is bound to.

use vknot_syntax::{Role, Span, is_word_character};

use crate::spec::Code;
use crate::spec::inner::{InnerCode, NESTED_AT_MOST};

/// The tokens that are a word, those in the code of strings and macros among them.
pub(super) fn words(code: Code<'_>, name: &str) -> Vec<Span> {
    words_within(code, name, NESTED_AT_MOST)
}

fn words_within(code: Code<'_>, name: &str, levels: usize) -> Vec<Span> {
    let tree = code.tree;
    let mut found = Vec::new();
    for token in tree.tokens() {
        let text = code.source.slice(token.span());
        let atom = matches!(tree.role(token.node), Role::Comment | Role::String);
        if !atom && text == name {
            found.push(token.span());
        } else if levels > 0 && text.contains(name) {
            let inside = (code.toolkit().looks.inside)(code.source, code.tree, token.node);
            let unread = if atom { None } else { unread(text, token.span()) };
            for inner in inside.into_iter().chain(unread) {
                let piece = inner.read(code.source, code.tree, token.node);
                let spans = words_within(code.piece(&piece), name, levels - 1);
                let outer = spans.into_iter().map(|span| piece.outer_span(span));
                found.extend(outer.filter(|span| inner.span.covers(*span) && span.len() as usize == name.len()));
            }
        }
    }
    found
}

/// What a token holds whose first line is a directive, and the others code that is not read with the rest.
fn unread(text: &str, span: Span) -> Option<InnerCode> {
    let line = text.find('\n')?;
    let (open, close) = (Span::new(span.start, span.start), Span::new(span.end, span.end));
    let span = Span::new(span.start + line as u32 + 1, span.end);
    Some(InnerCode { open, close, span, around: ("", ""), word: "" })
}

/// Where a word stands in a text.
pub(super) fn words_in(code: Code<'_>, within: Span, name: &str) -> Vec<Span> {
    let text = code.source.slice(within);
    let alone = |at: &usize| {
        !text[.. * at].ends_with(is_word_character) && !text[at + name.len()..].starts_with(is_word_character)
    };
    let found = text.match_indices(name).map(|(at, _)| at).filter(alone);
    found.map(|at| Span::new(within.start + at as u32, within.start + (at + name.len()) as u32)).collect()
}
