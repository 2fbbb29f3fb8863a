//! Code becomes a comment, and comments become code again, to the same bytes.

use vknot_syntax::Span;

use crate::spec::Code;
use super::work::Work;
use super::draft::Piece;
use super::error::EditError;
use super::row::{Row, ends_line};
use super::taken::{Taken, whole};
use super::wish::{Form, Toggle};

pub(crate) fn toggled(work: &mut Work<'_>, toggle: Toggle, form: Form) -> Result<(), EditError> {
    let code = work.code;
    let spec = code.tree.language().spec();
    let block = comment_at(code, work.at);
    let lines = lines_meant(code, work.at)?;
    let by_lines = !spec.line_comment.is_empty() && are_commented(code, lines);
    let is_comment = by_lines || block.is_some();
    let off = match (toggle, is_comment) {
        (Toggle::Off, false) => return Err(EditError::Already("there is no comment here that stands for code")),
        (Toggle::Off, true) => true,
        (Toggle::On, _) => false,
        (Toggle::Either, is) => is,
    };
    match off {
        true if by_lines => uncommented_lines(work, lines),
        true => uncommented_block(work, block.unwrap_or(lines)),
        false => commented(work, lines, form)?,
    }
    Ok(())
}

/// The block comment that a place is in or covers.
fn comment_at(code: Code<'_>, at: Span) -> Option<Span> {
    let tree = code.tree;
    let (open, close) = code.tree.language().spec().block_comment;
    let text = code.source.slice(at);
    let start = at.start + (text.len() - text.trim_start().len()) as u32;
    let token = tree.token_at(start).filter(|token| tree.is_comment(*token))?;
    let span = tree.tokens()[token as usize].span();
    let text = code.source.slice(span);
    let whole =
        !open.is_empty() && text.len() >= open.len() + close.len() && text.starts_with(open) && text.ends_with(close);
    let fits = at.is_empty() || at.end <= span.end || code.source.slice(Span::new(span.end, at.end)).trim().is_empty();
    (whole && fits).then_some(span)
}

/// What is meant: whole lines, or the items at a position.
fn lines_meant(code: Code<'_>, at: Span) -> Result<Span, EditError> {
    if !at.is_empty() || comment_at(code, at).is_some() {
        return Ok(if at.is_empty() { code.source.whole_lines(at) } else { at });
    }
    let token = code.tree.token_at(at.start).filter(|token| code.tree.is_comment(*token));
    if token.is_some() {
        return Ok(code.source.whole_lines(at));
    }
    let (row, range): (Row, _) = Taken::items(code, at)?;
    Ok(whole(&row, &range))
}

/// The lines of a span that hold something, each from its first character to its end.
fn held_lines(code: Code<'_>, span: Span) -> Vec<Span> {
    let source = code.source;
    let (first, last) = source.line_range(span);
    let lines = (first - 1..last).map(|line| source.lines().span(source.text(), line));
    let held = lines.filter(|line| !source.slice(*line).trim().is_empty());
    held.map(|line| Span::new(source.line_blank(line.start).end, line.end)).collect()
}

fn are_commented(code: Code<'_>, span: Span) -> bool {
    let mark = code.tree.language().spec().line_comment;
    let lines = held_lines(code, span);
    let comment = |line: &Span| {
        let token = code.tree.token_from(line.start);
        let own = code.tree.tokens().get(token as usize).is_some_and(|token| token.start == line.start);
        own && code.tree.is_comment(token) && code.source.slice(*line).starts_with(mark)
    };
    !lines.is_empty() && lines.iter().all(comment)
}

fn commented(work: &mut Work<'_>, span: Span, form: Form) -> Result<(), EditError> {
    let code = work.code;
    let spec = code.tree.language().spec();
    let lines = held_lines(code, span);
    let (Some(first), Some(last)) = (lines.first(), lines.last()) else { return Err(EditError::Nothing) };
    let whole = Span::new(first.start, last.end);
    // A part of a line can only be made a comment by marks around it.
    let part = !(span.start <= first.start && ends_line(code, span.end));
    let none = |form| EditError::NoComments { language: spec.title, form };
    let block = !spec.block_comment.0.is_empty();
    let line = !spec.line_comment.is_empty();
    match form {
        Form::Line if !line => Err(none("line")),
        Form::Block if !block => Err(none("block")),
        Form::Usual if !line && !block => Err(none("")),
        Form::Block => around(work, if part { span } else { whole }),
        Form::Usual if block && (part || !line) => around(work, if part { span } else { whole }),
        Form::Usual | Form::Line if part => Err(none("block")),
        _ => {
            by_lines(work, &lines);
            Ok(())
        }
    }
}

/// A mark in front of each line, all in one column.
fn by_lines(work: &mut Work<'_>, lines: &[Span]) {
    let code = work.code;
    let source = code.source;
    let mark = code.tree.language().spec().line_comment;
    let blank = |line: &Span| source.slice(source.line_blank(line.start));
    // As far in as all of them begin alike.
    let shared = lines.iter().map(blank).reduce(|shared, blank| {
        let same = shared.bytes().zip(blank.bytes()).take_while(|(a, b)| a == b).count();
        &shared[..same]
    });
    let shared = shared.map_or(0, str::len) as u32;
    let mut texts = Vec::new();
    for line in lines {
        let at = source.line_start(line.start) + shared;
        let own = Span::new(at, line.end);
        let text = format!("{mark} {}", source.slice(own));
        texts.push(text.clone());
        work.draft.replace(own, vec![Piece::Begin, Piece::New(text), Piece::End]);
        work.allowance.gone.push(own);
    }
    work.allowance.texts = Some(texts);
    work.allowance.comments = true;
}

fn around(work: &mut Work<'_>, span: Span) -> Result<(), EditError> {
    let code = work.code;
    let (open, close) = code.tree.language().spec().block_comment;
    let text = code.source.slice(span);
    if let Some(mark) = [close, open].into_iter().find(|mark| text.contains(mark)) {
        return Err(EditError::Nests { mark });
    }
    let text = format!("{open} {text} {close}");
    work.allowance.gone.push(span);
    work.allowance.texts = Some(vec![text.clone()]);
    work.allowance.comments = true;
    work.draft.replace(span, vec![Piece::Begin, Piece::New(text), Piece::End]);
    Ok(())
}

fn uncommented_lines(work: &mut Work<'_>, span: Span) {
    let code = work.code;
    let mark = code.tree.language().spec().line_comment;
    let mut texts = Vec::new();
    for line in held_lines(code, span) {
        let text = code.source.slice(line).strip_prefix(mark).unwrap_or("");
        let text = text.strip_prefix(' ').unwrap_or(text).to_owned();
        texts.push(text.clone());
        work.allowance.gone.push(line);
        work.draft.replace(line, vec![Piece::Begin, Piece::New(text), Piece::End]);
    }
    work.allowance.texts = Some(texts);
}

fn uncommented_block(work: &mut Work<'_>, span: Span) {
    let code = work.code;
    let (open, close) = code.tree.language().spec().block_comment;
    let text = code.source.slice(span);
    let text = text.strip_prefix(open).and_then(|text| text.strip_suffix(close)).unwrap_or(text);
    let text = text.strip_prefix(' ').unwrap_or(text);
    let text = text.strip_suffix(' ').unwrap_or(text).to_owned();
    work.allowance.gone.push(span);
    work.allowance.texts = Some(vec![text.clone()]);
    work.draft.replace(span, vec![Piece::Begin, Piece::New(text), Piece::End]);
}
