//! Edits that do not ask for structure: lines, rectangles of columns, and names.

use unicode_width::UnicodeWidthChar;
use vknot_syntax::Span;

use crate::frames::found::effective_indentation;
use super::work::Work;
use super::draft::Piece;
use super::error::EditError;
use super::wish::{Block, LineEdit};

pub(crate) fn lines(work: &mut Work<'_>, edit: &LineEdit) -> Result<(), EditError> {
    let source = work.code.source;
    let lines = source.lines();
    // A range that ends where a line begins has no part in that line.
    let end = if work.at.end > work.at.start && source.line_start(work.at.end) == work.at.end {
        work.at.end - 1
    } else {
        work.at.end
    };
    let (first, last) = (lines.index_at(work.at.start), lines.index_at(end));
    let text = |line: u32| lines.span(source.text(), line);
    let end = source.facts().line_end().text();
    let own = Span::new(text(first).start, text(last).end);
    work.allowance.free = true;
    work.allowance.texts = None;
    // The empty line behind the last line end is none.
    let count = lines.count();
    match edit {
        LineEdit::Up(0) | LineEdit::Down(0) => {}
        LineEdit::Up(by) => {
            let above = first.checked_sub(*by);
            let above = above.ok_or(EditError::TooFar { there: first as usize, wanted: *by as usize, way: "above" })?;
            exchange(work, Span::new(text(above).start, text(first - 1).end), own, false);
        }
        LineEdit::Down(by) => {
            let there = (count - 1).saturating_sub(last);
            if *by > there {
                return Err(EditError::TooFar { there: there as usize, wanted: *by as usize, way: "below" });
            }
            exchange(work, own, Span::new(text(last + 1).start, text(last + by).end), true);
        }
        LineEdit::Copy(times) => {
            let mut pieces = Vec::new();
            for _ in 0.. * times {
                pieces.push(Piece::New(end.to_owned()));
                pieces.push(Piece::Begin);
                pieces.push(Piece::New(source.slice(own).to_owned()));
                pieces.push(Piece::End);
            }
            work.draft.replace(Span::new(own.end, own.end), pieces);
        }
        LineEdit::Delete => {
            work.allowance.gone.push(own);
            let whole = match last + 1 < count {
                true => Span::new(own.start, lines.start(last + 1)),
                false if first > 0 => Span::new(text(first - 1).end, own.end),
                false => own,
            };
            work.draft.cut(whole);
        }
        LineEdit::BlankAbove => work.draft.put(own.start, end),
        LineEdit::BlankBelow => work.draft.put(own.end, end),
    }
    Ok(())
}

/// Two runs of lines, one directly above the other, change places.
fn exchange(work: &mut Work<'_>, above: Span, below: Span, first: bool) {
    let mut up = vec![Piece::Moved(below)];
    let mut down = vec![Piece::Moved(above)];
    let meant = if first { &mut down } else { &mut up };
    meant.insert(0, Piece::Begin);
    meant.push(Piece::End);
    work.draft.replace(above, up);
    work.draft.replace(below, down);
}

/// Where a column is on a line.
enum Spot {
    At(u32),
    /// The line ends so many columns in front of it.
    Behind(u32, u32),
    /// It is inside a character.
    Within,
}

/// What is displayed in a column of a line.
fn spot(text: &str, start: u32, column: u32, tab_width: u32) -> Spot {
    let mut reached = 0;
    for (at, c) in text.char_indices() {
        if reached == column {
            return Spot::At(start + at as u32);
        }
        if reached > column {
            return Spot::Within;
        }
        reached += match c {
            '\t' => tab_width - reached % tab_width.max(1),
            c => c.width().unwrap_or(0) as u32,
        };
    }
    let end = start + text.len() as u32;
    match reached {
        _ if reached == column => Spot::At(end),
        _ if reached > column => Spot::Within,
        _ => Spot::Behind(end, column - reached),
    }
}

pub(crate) fn columns(work: &mut Work<'_>, block: &Block) -> Result<(), EditError> {
    let source = work.code.source;
    let lines = source.lines();
    let tab_width = effective_indentation(work.code, work.style).tab_width.max(1);
    work.allowance.free = true;
    work.allowance.texts = None;
    let (first, last) = block.lines;
    let find = |line: u32, column: u32| {
        let span = lines.span(source.text(), line);
        match spot(source.slice(span), span.start, column, tab_width) {
            Spot::Within => Err(EditError::Within { line: line + 1, column: column + 1 }),
            Spot::Behind(_, _) if !block.fill && block.text.is_some() && column == block.columns.0 => {
                Err(EditError::Short { line: line + 1, column: column + 1 })
            }
            found => Ok(found),
        }
    };
    let mut taken = Vec::new();
    for line in first..=last.min(lines.count().saturating_sub(1)) {
        let (start, missing) = match find(line, block.columns.0)? {
            Spot::At(at) => (at, 0),
            Spot::Behind(end, missing) => (end, missing),
            Spot::Within => continue,
        };
        let end = match find(line, block.columns.1)? {
            Spot::At(at) | Spot::Behind(at, _) => at,
            Spot::Within => start,
        };
        let span = Span::new(start, end.max(start));
        let width = block.columns.1 - block.columns.0;
        taken.push(padded(source.slice(span), width, tab_width));
        let text = block.text.as_deref().unwrap_or("");
        let fill = if text.is_empty() { String::new() } else { " ".repeat(missing as usize) };
        work.allowance.gone.push(span);
        work.draft.replace(span, vec![Piece::New(fill), Piece::Begin, Piece::New(text.to_owned()), Piece::End]);
    }
    let Some((line, column)) = block.to else { return Ok(()) };
    for (at, text) in taken.iter().enumerate() {
        let line = line + at as u32;
        if line >= lines.count() {
            return Err(EditError::TooFar { there: at, wanted: taken.len(), way: "below" });
        }
        let span = lines.span(source.text(), line);
        let (at, fill) = match spot(source.slice(span), span.start, column, tab_width) {
            Spot::At(at) => (at, 0),
            Spot::Behind(_, _) if !block.fill => return Err(EditError::Short { line: line + 1, column: column + 1 }),
            Spot::Behind(end, missing) => (end, missing),
            Spot::Within => return Err(EditError::Within { line: line + 1, column: column + 1 }),
        };
        // Nothing but blanks would trail the line.
        let text = if at == span.end { text.trim_end() } else { text };
        let fill = " ".repeat(if text.is_empty() { 0 } else { fill as usize });
        work.draft.replace(Span::new(at, at), vec![Piece::New(format!("{fill}{text}"))]);
    }
    Ok(())
}

/// A text as wide as its rectangle.
fn padded(text: &str, width: u32, tab_width: u32) -> String {
    let own = text.chars().fold(0, |reached, c| match c {
        '\t' => reached + tab_width - reached % tab_width,
        c => reached + c.width().unwrap_or(0) as u32,
    });
    format!("{text}{}", " ".repeat(width.saturating_sub(own) as usize))
}

pub(crate) fn replaced(work: &mut Work<'_>, texts: &[(Span, String)]) {
    work.allowance.texts = Some(texts.iter().map(|(_, text)| text.clone()).collect());
    let code = work.code;
    for (span, text) in texts {
        // A name can be a part of a token, as in a comment.
        let token = code.tree.token_at(span.start).and_then(|token| code.tree.tokens().get(token as usize));
        match token.map(|token| token.span()).filter(|token| token != span && token.covers(*span)) {
            Some(token) => {
                work.allowance.gone.push(token);
                work.allowance.texts = None;
            }
            None => work.allowance.gone.push(*span),
        }
        work.draft.replace(*span, vec![Piece::Begin, Piece::New(text.clone()), Piece::End]);
    }
}
