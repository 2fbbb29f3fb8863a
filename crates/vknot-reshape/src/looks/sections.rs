//! Sections: lines from a heading to the next one of the same or a higher level.

use std::collections::HashMap;

use vknot_syntax::{Embedded, NodeId, Role, Source, Span};

use crate::spec::Code;

use super::comments;
use super::marks::Marks;

/// A section.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Section {
    /// What its heading says.
    pub name: String,
    /// 1 is the highest.
    pub level: u32,
    /// The heading.
    pub heading: Span,
    /// From the heading to the end of its last line that is not blank.
    pub span: Span,
}

/// A piece of a file that can be run.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CodePart {
    /// Its language, or the word that names it; empty where nothing does.
    pub language: String,
    /// The code, as its language has it.
    pub text: String,
    /// The line of the file that it begins on, where its lines are lines of the file.
    pub line: Option<u32>,
}

/// The code in a span, in order: of prose and notebooks what fences and cells hold, and nothing else; of other languages all of it.
pub fn code_parts(code: Code<'_>, span: Span) -> Vec<CodePart> {
    let Code { source, tree, .. } = code;
    let own = tree.language().name();
    let is_prose = |piece: &Embedded| code.piece(piece).toolkit().has_headings;
    let part = |piece: &Embedded| CodePart {
        language: piece.tree.language().name().to_owned(),
        text: piece.source.text().to_owned(),
        line: (tree.role(piece.host) != Role::Cell).then(|| source.line(piece.outer(0))),
    };
    let pieces: HashMap<NodeId, &Embedded> = tree.embedded().iter().map(|piece| (piece.host, piece)).collect();
    let known = |id: NodeId| pieces.get(&id).copied();
    let inside = |id: &NodeId| span.covers(tree.node(*id).span());
    let nodes = (0..tree.nodes().len() as u32).map(NodeId).filter(inside);
    if code.toolkit().has_headings {
        return nodes.filter_map(|id| known(id).map(part).or_else(|| fence(code, id))).collect();
    }
    let cells = (0..tree.nodes().len() as u32).any(|id| tree.role(NodeId(id)) == Role::Cell);
    match cells {
        true => nodes.filter_map(known).filter(|piece| !is_prose(piece)).map(part).collect(),
        false => vec![CodePart { language: own.to_owned(), text: source.slice(span).to_owned(), line: Some(source.line(span.start)) }],
    }
}

/// A fence in prose whose language is not known, with the word behind its opening.
fn fence(code: Code<'_>, id: NodeId) -> Option<CodePart> {
    let Code { source, tree, .. } = code;
    let opening = tree.children(id).next().filter(|first| tree.role(*first) == Role::Open);
    let opening = opening.filter(|_| tree.role(id) == Role::Block)?;
    let line = source.lines().index_at(tree.node(opening).end);
    let behind = Span::new(tree.node(opening).end, source.lines().span(source.text(), line).end);
    let word = source.slice(behind).split_whitespace().next().unwrap_or("");
    let lines: Vec<NodeId> = tree
        .children(id)
        .filter(|child| tree.role(*child) == Role::Inert && tree.node(*child).start > behind.end)
        .collect();
    let first = lines.first().map(|line| source.line(tree.node(*line).start));
    let text = lines.into_iter().map(|line| format!("{}\n", tree.text_of(source.text(), line))).collect();
    Some(CodePart { language: word.to_lowercase(), text, line: first })
}

/// All sections in order. Headings are a language's own, and marker comments.
pub fn sections(code: Code<'_>, marks: &Marks) -> Vec<Section> {
    let Code { source, tree, .. } = code;
    let toolkit = code.toolkit();
    let mut headings = if toolkit.has_headings { own_headings(code) } else { Vec::new() };
    for piece in tree.embedded().iter().filter(|piece| tree.role(piece.host) == Role::Cell) {
        let inner = own_headings(code.piece(piece)).into_iter();
        headings.extend(inner.map(|(name, level, span)| (name, level, piece.outer_span(span))));
    }
    if toolkit.looks.sections && marks.sections.iter().any(|mark| source.text().contains(mark.as_str())) {
        headings.extend(marked_headings(code, marks));
    }
    headings.sort_by_key(|(_, _, span)| span.start);
    let mut sections = close(source, headings);
    for section in &mut sections {
        if let Some(end) = end_of_holder(code, section.heading) && end < section.span.end {
            section.span.end = end_before(source, end).max(section.heading.end);
        }
    }
    sections
}

/// Where the function ends that a heading stands in: a section goes no further.
fn end_of_holder(code: Code<'_>, heading: Span) -> Option<u32> {
    let tree = code.tree;
    let token = tree.tokens().get(tree.token_from(heading.start) as usize)?;
    let holder = tree.ancestors(token.node).find(|id| tree.role(*id) == Role::Callable)?;
    let closing = tree.children(holder).last().filter(|last| tree.role(*last) == Role::Close);
    Some(closing.map_or(tree.node(holder).end, |closing| tree.node(closing).start))
}

/// Ends each section where the next of its level or a higher one begins.
fn close(source: &Source, headings: Vec<(String, u32, Span)>) -> Vec<Section> {
    let mut found: Vec<Section> = Vec::with_capacity(headings.len());
    let mut open: Vec<usize> = Vec::new();
    for (name, level, heading) in headings {
        while let Some(last) = open.pop_if(|last| found[*last].level >= level) {
            found[last].span.end = end_before(source, heading.start);
        }
        open.push(found.len());
        found.push(Section { name, level, heading, span: Span::new(heading.start, heading.end) });
    }
    for last in open {
        found[last].span.end = end_before(source, source.span().end);
    }
    found
}

/// A name without the rulers drawn around it; a ruler alone names nothing.
fn without_ruler(name: &str) -> &str {
    let name = name.trim();
    let is_ruler = |c: char| matches!(c, '=' | '-' | '*' | '#' | '~' | '_' | '+' | '\u{2500}' | '\u{2550}');
    let drawn = |word: &str| word.chars().count() >= RULER_AT_LEAST && word.chars().all(is_ruler);
    let name = match name.split_once(char::is_whitespace) {
        Some((first, rest)) if drawn(first) => rest.trim_start(),
        _ => name,
    };
    match name.rsplit_once(char::is_whitespace) {
        Some((rest, last)) if drawn(last) => rest.trim_end(),
        _ if drawn(name) => "",
        _ => name,
    }
}

/// From how many marks on a ruler is one.
const RULER_AT_LEAST: usize = 3;

/// The end of the last line in front of `offset` that is not blank.
fn end_before(source: &Source, offset: u32) -> u32 {
    source.slice(Span::new(0, offset)).trim_end().len() as u32
}

fn own_headings(code: Code<'_>) -> Vec<(String, u32, Span)> {
    let Code { source, tree, .. } = code;
    let heading = |index: usize| {
        let id = NodeId(index as u32);
        let name = tree.name_span(id).map_or("", |span| source.slice(span).trim());
        (name.to_owned(), heading_level(code, id), tree.node(id).span())
    };
    let is_heading = |index: &usize| tree.role(NodeId(*index as u32)) == Role::Heading;
    (0..tree.nodes().len()).filter(is_heading).map(heading).collect()
}

/// The level of a heading of the language's own: by its marks in front, or by the line below it.
pub(super) fn heading_level(code: Code<'_>, id: NodeId) -> u32 {
    let Code { source, tree, .. } = code;
    let text = tree.text_of(source.text(), id);
    match text.bytes().take_while(|byte| *byte == b'#').count() as u32 {
        0 if text.trim_end().ends_with('-') => 2,
        0 => 1,
        marks => marks,
    }
}

/// Where the section of a heading ends, in a file whose headings are among the children of one node.
pub(super) fn end_of_section(code: Code<'_>, id: NodeId, level: u32) -> u32 {
    let Code { source, tree, .. } = code;
    let parent = tree.node(id).parent;
    let mut at = tree.node(id).next;
    while at < tree.node(parent).next {
        let next = NodeId(at);
        if tree.role(next) == Role::Heading && heading_level(code, next) <= level {
            return end_before(source, tree.node(next).start);
        }
        at = tree.node(next).next;
    }
    tree.node(parent).end
}

/// Line comments that begin with a section mark, such as `%% Tides` and `# %% Tides`; `%%%` is one level lower.
fn marked_headings(code: Code<'_>, marks: &Marks) -> Vec<(String, u32, Span)> {
    let Code { source, tree, .. } = code;
    let heading = |comment: comments::Comment| {
        if !comment.to_line_end || !source.begins_line(comment.span.start) {
            return None;
        }
        let text = source.slice(comment.span);
        let comment_mark = tree.language().spec().line_comments().find(|mark| text.starts_with(mark)).unwrap_or("");
        let bare = if comment_mark.is_empty() { text } else { text.trim_start_matches(comment_mark) };
        let headed = |mark: &String| {
            // Where the mark begins like any comment, it is not to be taken off first.
            let form = if text.starts_with(mark.as_str()) { text } else { bare.trim_start() };
            Some((form.strip_prefix(mark.as_str())?, mark.clone()))
        };
        let (rest, mark) = marks.sections.iter().find_map(headed)?;
        let last = mark.chars().last()?;
        let lower = rest.chars().take_while(|c| *c == last).count();
        let name = rest.trim_start_matches(last);
        // A line of marks is a drawing; a heading's mark is followed by a blank or by nothing.
        let named = name.is_empty() && lower == 0 || name.starts_with(char::is_whitespace);
        named.then(|| (without_ruler(name).to_owned(), 1 + lower as u32, comment.span))
    };
    comments(code).into_iter().filter_map(heading).collect()
}
