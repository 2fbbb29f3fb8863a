//! What its author keeps on purpose, by comments: `vknot: keep` keeps the next item, or behind code on its line what that belongs to;
//! `vknot: keep from here` and `vknot: keep to here` what is between them; `vknot: keep file` all of it. Also files that say that a
//! program wrote them.

use std::ops::Range;

use vknot_syntax::{NodeId, Role, Span, Tree};

use crate::items::is_separator;
use crate::spec::Code;

/// What the comments begin with.
const MARK: &str = "vknot: keep";

/// A part of a file that stays as it is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Kept {
    /// Its tokens.
    pub tokens: Range<u32>,
    /// Its bytes, from the start of its first line, if nothing else stands there.
    pub span: Span,
}

/// What a comment keeps.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Wish {
    Item,
    From,
    To,
    File,
}

/// Whether a text can have kept parts at all, which most have not.
pub(crate) fn may_keep(text: &str) -> bool {
    text.contains(MARK)
}

/// The kept parts of one tree, apart from each other and in order; those of embedded code are not among them.
pub(crate) fn keeps(code: Code<'_>) -> Vec<Kept> {
    let Code { source, tree, .. } = code;
    let text = source.text();
    let mut kept: Vec<Kept> = Vec::new();
    if !may_keep(text) {
        return kept;
    }
    let count = tree.tokens().len() as u32;
    let mut open: Option<u32> = None;
    for comment in (0..count).filter(|token| tree.is_comment(*token)) {
        match wish_of(tree.tokens()[comment as usize].span().of(text)) {
            None => {}
            Some(Wish::File) => return vec![Kept { tokens: 0..count, span: source.span() }],
            Some(Wish::From) => open = open.or(Some(comment)),
            Some(Wish::To) => kept.extend(open.take().map(|first| part(code, first..comment + 1))),
            Some(Wish::Item) => kept.extend(item(code, comment).map(|tokens| part(code, tokens))),
        }
    }
    // What is not closed goes on to the end.
    kept.extend(open.map(|first| part(code, first..count)));
    kept.sort_by_key(|kept| kept.tokens.start);
    kept.dedup_by(|next, kept| {
        let meets = next.tokens.start < kept.tokens.end;
        if meets {
            kept.tokens.end = kept.tokens.end.max(next.tokens.end);
            kept.span.end = kept.span.end.max(next.span.end);
        }
        meets
    });
    kept
}

/// The kept parts of a file, those of embedded code too, in order and apart.
pub(crate) fn kept_spans(code: Code<'_>) -> Vec<Span> {
    if !may_keep(code.source.text()) {
        return Vec::new();
    }
    let mut spans: Vec<Span> = keeps(code).into_iter().map(|kept| kept.span).collect();
    for piece in code.tree.embedded() {
        spans.extend(kept_spans(code.piece(piece)).into_iter().map(|span| piece.outer_span(span)));
    }
    spans.sort_by_key(|span| (span.start, span.end));
    spans.dedup_by(|next, span| {
        let meets = next.start < span.end;
        span.end = if meets { span.end.max(next.end) } else { span.end };
        meets
    });
    spans
}

/// The first of some parts, in order and apart, that an edit would change.
pub(crate) fn reached(kept: &[Span], edit: Span) -> Option<Span> {
    let behind = kept.partition_point(|span| span.end <= edit.start);
    let reach = if edit.is_empty() { edit.start } else { edit.end };
    kept.get(behind).copied().filter(|span| span.start < reach)
}

/// What a comment asks for, if any of its lines begins with the mark.
fn wish_of(comment: &str) -> Option<Wish> {
    let rest = comment.lines().find_map(|line| {
        line.trim_start_matches(|c: char| !c.is_alphanumeric() && c != '"').strip_prefix(MARK)
    })?;
    if rest.starts_with(|c: char| c.is_alphanumeric() || c == '_' || c == '-') {
        return None;
    }
    let mut words = rest.split_whitespace().map(|word| word.trim_end_matches(|c: char| !c.is_alphanumeric()));
    let near = rest.starts_with([' ', '\t']);
    Some(match (words.next(), words.next()) {
        (Some("file"), _) if near => Wish::File,
        (Some("from"), Some("here")) if near => Wish::From,
        (Some("to"), Some("here")) if near => Wish::To,
        _ => Wish::Item,
    })
}

/// The tokens from a comment to the end of the item behind it, or from the item that it stands behind.
fn item(code: Code<'_>, comment: u32) -> Option<Range<u32>> {
    let Code { source, tree, .. } = code;
    let span = tree.tokens().get(comment as usize)?.span();
    let count = tree.tokens().len() as u32;
    let last_on_line = comment + 1 == count || tree.gap(source.text(), comment + 1).newlines > 0;
    if last_on_line && !source.begins_line(span.start) {
        return Some(item_before(tree, code, comment)?..comment + 1);
    }
    let mut next = comment + 1;
    let mut end = next;
    while let Some(first) = (next..count).find(|token| !tree.is_comment(*token)) {
        let node = outermost(tree, first, |tree, id| tree.node(id).first_token == first);
        end = tree.node(node).token_end;
        if tree.role(node) != Role::Annotation {
            break;
        }
        next = end;
    }
    let separates = |token: &u32| tree.tokens().get(*token as usize).is_some_and(|token| is_separator(code, token.node));
    end += u32::from(separates(&end) && tree.gap(source.text(), end).newlines == 0);
    (end > comment + 1).then_some(comment..end)
}

/// The first token of the item that a comment stands behind.
fn item_before(tree: &Tree, code: Code<'_>, comment: u32) -> Option<u32> {
    let separates = |token: &u32| tree.tokens().get(*token as usize).is_some_and(|token| is_separator(code, token.node));
    let before = (0..comment).rev().find(|token| !tree.is_comment(*token))?;
    let leaf = tree.tokens().get(before as usize)?.node;
    // A mark behind an item may be a part of it.
    let closes = separates(&before) && tree.parent(leaf).is_none_or(|parent| tree.node(parent).token_end != before + 1);
    let last = if closes { (0..before).rev().find(|token| !tree.is_comment(*token))? } else { before };
    let node = outermost(tree, last, |tree, id| tree.node(id).token_end == last + 1);
    Some(tree.node(node).first_token)
}

/// The outermost node around a token of which something holds, up to what holds items.
fn outermost(tree: &Tree, token: u32, holds: impl Fn(&Tree, NodeId) -> bool) -> NodeId {
    let mut node = tree.tokens().get(token as usize).map_or(tree.root(), |token| token.node);
    while let Some(parent) = tree.parent(node).filter(|parent| holds(tree, *parent) && !holds_items(tree, *parent)) {
        node = parent;
    }
    node
}

/// Whether a node holds items without brackets of its own.
fn holds_items(tree: &Tree, id: NodeId) -> bool {
    let role = tree.role(id);
    let Some(first) = tree.children(id).find(|child| !tree.node(*child).is_empty()) else { return false };
    let bracket = tree.language().bracket(tree.node(first).kind).is_some_and(|bracket| bracket.opens);
    let items = || tree.children(id).filter(|child| tree.role(*child).is_item() && tree.role(*child) != Role::Annotation);
    !bracket && (role == Role::File || role.is_sequence() || role == Role::Part && items().nth(1).is_some())
}

/// Tokens with what is in front of them on their first line, if nothing else is.
fn part(code: Code<'_>, tokens: Range<u32>) -> Kept {
    let Code { source, tree, .. } = code;
    let (first, behind) = (tree.gap_span(tokens.start), tree.gap_span(tokens.end));
    let line = source.line_start(first.end);
    let start = if line >= first.start || tokens.start == 0 { line.max(first.start) } else { first.end };
    Kept { span: Span::new(start, behind.start), tokens }
}

/// Lines at the top of a file in which a notice may stand.
const NOTICE_LINES: u32 = 40;

/// The comment at the top of a file that says that a program wrote it, by the notices that are usual.
pub(crate) fn generated(code: Code<'_>) -> Option<Span> {
    let Code { source, tree, .. } = code;
    let lead = || (0..tree.tokens().len() as u32).take_while(|token| tree.is_comment(*token));
    let spans = lead().map(|token| tree.tokens()[token as usize].span());
    let spans: Vec<Span> = spans.take_while(|span| source.line(span.start) <= NOTICE_LINES).collect();
    let said = spans.iter().map(|span| source.slice(*span).to_lowercase()).collect::<Vec<_>>();
    let marked = |text: &String| text.contains("@generated") || text.contains("<auto-generated");
    let by_program = |text: &String| text.contains("generated");
    let forbidden = said.iter().any(|text| HANDS_OFF.iter().any(|words| text.contains(words)));
    // Whether something is said anew, as against in the midst of a sentence.
    let mut anew = true;
    let told = |text: &String| marked(text) || forbidden && by_program(text) || says_by_what(text, &mut anew);
    let at = said.iter().position(told)?;
    spans.get(at).copied()
}

/// Whether a line of a comment begins `anew` and says that a program wrote the file.
fn says_by_what(comment: &str, anew: &mut bool) -> bool {
    comment.lines().any(|line| {
        let said = line.trim_start_matches(|c: char| c.is_ascii_punctuation() || c.is_whitespace());
        let said = ["warning: ", "note: ", "attention: "].iter().find_map(|word| said.strip_prefix(word)).unwrap_or(said);
        let file = ["this file ", "the file ", "file ", "this code ", "code "].iter().find_map(|file| said.strip_prefix(file));
        let verbs = ["is ", "was ", "has been "];
        let done = file.map(|file| verbs.iter().find_map(|verb| file.strip_prefix(verb)).unwrap_or(file)).unwrap_or(said);
        let begins = std::mem::replace(anew, said.is_empty() || said.ends_with(['.', ':']));
        let by_program = || BY_PROGRAM.iter().any(|words| done.starts_with(words));
        begins && (by_program() || LISTINGS.iter().any(|words| said.starts_with(words)))
    })
}

/// How such notices begin.
const BY_PROGRAM: [&str; 6] = [
    "automatically generated",
    "auto-generated by",
    "autogenerated by",
    "auto generated by",
    "generated automatically",
    "generated by ",
];

/// How those of the usual generators of readers do.
const LISTINGS: [&str; 2] = ["a lexical scanner generated by", "a bison parser, made by"];

/// What such notices ask for.
const HANDS_OFF: [&str; 7] = [
    "do not edit",
    "don't edit",
    "not be edited",
    "do not modify",
    "don't modify",
    "changes will be lost",
    "changes to this file will be",
];

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn comments_ask_in_words_of_their_own() {
        for (comment, wish) in [
            ("// vknot: keep", Some(Wish::Item)),
            ("/* vknot: keep, lined up by hand */", Some(Wish::Item)),
            ("/**\n * The table.\n * vknot: keep\n */", Some(Wish::Item)),
            ("# vknot: keep from here", Some(Wish::From)),
            ("<!-- vknot: keep to here -->", Some(Wish::To)),
            (";; vknot: keep file", Some(Wish::File)),
            ("// vknot: keep - file by file", Some(Wish::Item)),
            ("// see vknot: keep", None),
            ("// vknot: keeper", None),
            ("// vknot: keep-all", None),
        ] {
            assert_eq!(wish_of(comment), wish, "{comment}");
        }
    }

    #[test]
    fn an_edit_reaches_what_it_changes() {
        let kept = [Span::new(4, 8), Span::new(12, 14)];
        let reached = |start, end| reached(&kept, Span::new(start, end)).is_some();
        assert_eq!([(0, 4), (8, 12), (4, 4), (8, 8)].map(|(start, end)| reached(start, end)), [false; 4]);
        assert_eq!([(3, 5), (7, 9), (5, 5), (0, 20), (13, 13)].map(|(start, end)| reached(start, end)), [true; 5]);
    }
}
