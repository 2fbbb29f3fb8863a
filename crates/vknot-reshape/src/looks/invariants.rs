//! What must hold of every look on every text, for tests and runs over real code.

use vknot_syntax::{NodeId, Source, Span};

use crate::spec::Code;

use super::marks::Marks;
use super::folds::Fold;
use super::folds::folds;
use super::ladder::ladder;
use super::outline::outline;
use super::pairs::pairs;

/// Checks tree and looks of one text: tokens and gaps give the text back, every token is in one place, folds nest and
/// stay inside, pairs are symmetric, ladders grow strictly up to the file.
///
/// # Errors
/// Says the first thing that does not hold.
pub fn check(code: Code<'_>) -> Result<(), String> {
    let source = code.source;
    check_tree(code)?;
    check_folds(source, &folds(code))?;
    check_pairs(code)?;
    check_ladders(code)?;
    let end = source.span().end;
    match outline(code).iter().find(|entry| entry.span.end > end) {
        Some(entry) => Err(format!("the outline's {} ends outside the file", entry.name)),
        None => Ok(()),
    }
}

fn check_tree(code: Code<'_>) -> Result<(), String> {
    let Code { source, tree, .. } = code;
    let mut reached = 0;
    for (index, token) in tree.tokens().iter().enumerate() {
        if token.start < reached || token.end <= token.start || !source.text().is_char_boundary(token.start as usize) {
            return Err(format!("token {index} at byte {} is out of order", token.start));
        }
        let gap = source.slice(tree.gap_span(index as u32));
        if !gap.chars().all(|c| c.is_whitespace() || c == '\\' || c.is_control() || c == '\u{feff}') {
            return Err(format!("the gap before byte {} holds {gap:?}", token.start));
        }
        reached = token.end;
    }
    for index in 0..tree.nodes().len() as u32 {
        let node = tree.node(NodeId(index));
        let parent = tree.node(node.parent);
        let inside = parent.token_end >= node.token_end && parent.first_token <= node.first_token;
        if !inside || node.next <= index || node.next > parent.next {
            return Err(format!("node {index} ({}) is not inside its parent", tree.kind_name(NodeId(index))));
        }
    }
    tree.embedded().iter().try_for_each(|piece| check_tree(code.piece(piece)))
}

fn check_folds(source: &Source, folds: &[Fold]) -> Result<(), String> {
    let mut open: Vec<u32> = Vec::new();
    for fold in folds {
        while open.last().is_some_and(|last| *last < fold.first_line) {
            open.pop();
        }
        let crosses = open.last().is_some_and(|last| *last < fold.last_line);
        if crosses || fold.last_line <= fold.first_line || fold.last_line > source.lines().count() {
            return Err(
                format!("the fold of lines {}-{} crosses another or the file's end", fold.first_line, fold.last_line),
            );
        }
        open.push(fold.last_line);
    }
    Ok(())
}

fn check_pairs(code: Code<'_>) -> Result<(), String> {
    let source = code.source;
    let pairs = pairs(code, &Marks::default());
    let end = source.span().end;
    let mut marks: Vec<Span> = pairs.marks().collect();
    marks.sort_unstable();
    for pair in &pairs.pairs {
        if pair.open.end > pair.close.start || pair.close.end > end || pair.header > end {
            return Err(format!("the pair at byte {} is not in order", pair.open.start));
        }
    }
    match marks.iter().zip(marks.iter().skip(1)).find(|(mark, next)| mark == next) {
        Some((mark, _)) => Err(format!("the mark at byte {} is in two pairs", mark.start)),
        None => Ok(()),
    }
}

/// How many places of a file have their ladder checked.
const LADDERS: usize = 40;

fn check_ladders(code: Code<'_>) -> Result<(), String> {
    let Code { source, tree, .. } = code;
    let step = (tree.tokens().len() / LADDERS).max(1);
    for token in tree.tokens().iter().step_by(step) {
        let at = Span::new(token.start, token.start);
        let ladder = ladder(code, at);
        let grows = |(inner, outer): (&super::Rung, &super::Rung)| {
            outer.span.covers(inner.span) && outer.span.len() > inner.span.len()
        };
        let whole = ladder.last().is_some_and(|last| last.span == source.span());
        if !whole || !ladder.iter().zip(ladder.iter().skip(1)).all(grows) {
            return Err(format!("the ladder at byte {} does not grow to the file", token.start));
        }
    }
    Ok(())
}
