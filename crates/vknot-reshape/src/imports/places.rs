//! Imports that are items of a form, such as `(require racket/list "gauge.rkt")`: they change places with each other, and the white space
//! between the places stays as it is.

use vknot_syntax::{NodeId, Role, Span};

use crate::items::{Item, Sequence};
use crate::keeps::keeps;
use crate::spec::Code;
use crate::spec::ImportSpec;
use super::block::{Block, Line};

/// The runs of imports in a form.
pub(super) fn blocks_in(code: Code<'_>, spec: &ImportSpec, holder: NodeId, blocks: &mut Vec<Block>) {
    let Code { source, tree, .. } = code;
    if tree.node(holder).has_error() {
        return;
    }
    let kept = keeps(code);
    let stays = |item: &Item| {
        let tokens = tree.node(item.first()).first_token..tree.node(item.last()).token_end;
        kept.iter().any(|kept| kept.tokens.start < tokens.end && tokens.start < kept.tokens.end)
    };
    let mut run: Vec<(Line, Span)> = Vec::new();
    let close = |run: &mut Vec<(Line, Span)>, blocks: &mut Vec<Block>| {
        let (lines, places): (Vec<Line>, Vec<Span>) = std::mem::take(run).into_iter().unzip();
        if let Some((first, last)) = places.first().zip(places.last()) {
            let span = Span::new(first.start, last.end);
            blocks.push(Block { holder, span, indent: String::new(), line_end: "\n", lines, places });
        }
    };
    for item in Sequence::of(code, holder).items {
        let fits = (spec.is_import)(code, item.node) && !stays(&item);
        if item.parted || !fits {
            close(&mut run, blocks);
        }
        if fits {
            let span = Span::new(tree.node(item.first()).start, tree.node(item.last()).end);
            let above = run.last().map(|(_, above)| source.line(span.start) - source.line(above.end));
            run.push((Line::of(code, &item, above.map_or(0, |lines| lines.saturating_sub(1))), span));
        }
    }
    close(&mut run, blocks);
}

/// The text of a block whose imports stand in another order, given by the places that they had; `None` where it cannot be written so.
pub(super) fn text(code: Code<'_>, block: &Block, order: &[usize]) -> Option<String> {
    let source = code.source;
    let mut text = String::new();
    let gaps = block.places.iter().skip(1).map(|next| next.start).chain([block.span.end]);
    for ((place, next), index) in block.places.iter().zip(gaps).zip(order) {
        let own = block.places.get(*index)?;
        let gap = Span::new(place.end, next);
        let behind = source.text().get(place.end as usize..)?;
        let ends_line = behind.trim_start_matches([' ', '\t', '\r']).starts_with('\n');
        // A comment above an import needs a line of its own.
        let leads = code.tree.is_comment(code.tree.token_from(own.start)) && !source.begins_line(place.start);
        if leads || ends_with_line_comment(code, *own) && !ends_line {
            return None;
        }
        text.push_str(&moved(code, *own, place.start)?);
        text.push_str(source.slice(gap));
    }
    Some(text)
}

/// Whether what stands at a place goes on to the end of its line.
fn ends_with_line_comment(code: Code<'_>, place: Span) -> bool {
    let last = code.tree.token_from(place.end).checked_sub(1);
    let token = last.and_then(|last| code.tree.tokens().get(last as usize));
    token.is_some_and(|token| code.tree.role(token.node) == Role::Comment)
}

/// How many characters stand in front of an offset on its line.
fn column(code: Code<'_>, offset: u32) -> usize {
    code.source.slice(Span::new(code.source.line_start(offset), offset)).chars().count()
}

/// What stands at a place, as it is to stand at an offset in another column; `None` where that would change a text.
fn moved(code: Code<'_>, place: Span, at: u32) -> Option<String> {
    let source = code.source;
    let text = source.slice(place);
    if !text.contains('\n') {
        return Some(text.to_owned());
    }
    let (was, to) = (column(code, place.start), column(code, at));
    if was == to {
        return Some(text.to_owned());
    }
    let (first, end) = (code.tree.token_from(place.start), code.tree.token_from(place.end));
    let tokens = code.tree.tokens().get(first as usize..end as usize)?;
    if text.contains('\t') || tokens.iter().any(|token| source.slice(token.span()).contains('\n')) {
        return None;
    }
    let mut lines = text.split('\n');
    let mut moved = lines.next()?.to_owned();
    for line in lines {
        let bare = line.trim_start_matches(' ');
        let blank = line.len() - bare.len() + to;
        moved.push('\n');
        moved.push_str(&" ".repeat(blank.saturating_sub(was)));
        moved.push_str(bare);
    }
    Some(moved)
}
