//! What is split and joined otherwise than lists: strings, and declarations of several names.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use super::work::Work;
use super::conditions;
use super::draft::Piece;
use super::error::EditError;
use super::row::Row;
use super::standing::base;
use super::taken::Taken;

/// Splits what is closest to the place, if it is no list; tells whether it did.
pub(crate) fn split(work: &mut Work<'_>) -> Result<bool, EditError> {
    let code = work.code;
    if let Some(string) = string_at(code, work.at) {
        split_string(work, string)?;
        return Ok(true);
    }
    if conditions::split(work) {
        return Ok(true);
    }
    match declaration(code, work.at) {
        Some(row) => {
            split_declaration(work, &row);
            Ok(true)
        }
        None => Ok(false),
    }
}

/// Joins what is closest to the place, if it is no list; tells whether it did.
pub(crate) fn joined(work: &mut Work<'_>) -> Result<bool, EditError> {
    let code = work.code;
    if let Some((left, right)) = strings_at(code, work.at) {
        join_strings(work, left, right)?;
        return Ok(true);
    }
    if conditions::joined(work) {
        return Ok(true);
    }
    let Ok(Taken::Items(row, range)) = Taken::at(code, work.at) else { return Ok(false) };
    let declares = |index: usize| {
        let node = code.tree.node(row.entries.get(index)?.node);
        let kinds = code.toolkit().edits.declarations;
        kinds.contains(&code.tree.language().kind_name(node.kind)).then_some(row.entries.get(index)?.node)
    };
    let second = if range.len() > 1 { range.end - 1 } else { range.start + 1 };
    match (declares(range.start), declares(second)) {
        (Some(first), Some(second)) if range.len() < 3 => join_declarations(work, first, second),
        _ => Ok(false),
    }
}

/// The string that a position is inside of.
fn string_at(code: Code<'_>, at: Span) -> Option<NodeId> {
    let tree = code.tree;
    let token = tree.tokens().get(tree.token_at(at.start)? as usize)?;
    let inside = token.start < at.start && at.start < token.end && at.is_empty();
    (inside && tree.role(token.node) == Role::String && code.toolkit().edits.strings.is_some()).then_some(token.node)
}

/// The mark at both ends of a plain string.
fn quote(text: &str) -> Option<char> {
    let mark = text.chars().next().filter(|mark| matches!(mark, '"' | '\''))?;
    let inner = text.strip_prefix(mark)?.strip_suffix(mark)?;
    (!inner.starts_with(mark) && !text.contains('\n')).then_some(mark)
}

fn split_string(work: &mut Work<'_>, string: NodeId) -> Result<(), EditError> {
    let code = work.code;
    let span = code.tree.node(string).span();
    let text = code.source.slice(span);
    let unfit = |fits| EditError::Unfit { what: "a string that is not plain".to_owned(), fits };
    let mark = quote(text).ok_or(unfit("only one between two like quotes on one line can be split"))?;
    let at = (work.at.start - span.start) as usize;
    let (left, right) = text.split_at_checked(at).ok_or(EditError::Nothing)?;
    // What a backslash begins may go on for up to ten characters.
    let near = left.rfind('\\').is_some_and(|slash| {
        let behind = &left[slash + 1..];
        behind.is_empty() || behind.len() < 10 && behind.chars().all(|c| c.is_ascii_hexdigit() || "{xuUN".contains(c))
    });
    if near {
        return Err(unfit("name a place that is not inside or right behind what a backslash begins"));
    }
    let operator = match code.toolkit().edits.strings {
        Some("") => String::new(),
        Some(operator) => format!("{operator} "),
        None => return Err(unfit("this language has no operator that puts strings together")),
    };
    let (left, right) = (format!("{left}{mark}"), format!("{operator}{mark}{right}"));
    work.allowance.gone.push(span);
    work.allowance.texts = Some(vec![left.clone(), right.clone()]);
    work.draft.replace(span, vec![Piece::New(format!("{left} {right}"))]);
    Ok(())
}

/// Two strings that an operator, or nothing, puts together at a place.
fn strings_at(code: Code<'_>, at: Span) -> Option<(NodeId, NodeId)> {
    let tree = code.tree;
    let operator = code.toolkit().edits.strings?;
    let token = |index: u32| tree.tokens().get(index as usize);
    let is_string = |index: u32| token(index).is_some_and(|token| tree.role(token.node) == Role::String);
    let start = tree.token_at(at.start).unwrap_or_else(|| tree.token_from(at.start));
    // From the first string, from the operator, or from the second one.
    let step = if operator.is_empty() { 1 } else { 2 };
    let fits = |first: u32| {
        let between = step == 1 || token(first + 1).is_some_and(|token| code.source.slice(token.span()) == operator);
        is_string(first) && is_string(first + step) && between
    };
    let first = [start, start.checked_sub(1)?].into_iter().find(|first| fits(*first))?;
    Some((token(first)?.node, token(first + step)?.node))
}

fn join_strings(work: &mut Work<'_>, left: NodeId, right: NodeId) -> Result<(), EditError> {
    let code = work.code;
    let (left, right) = (code.tree.node(left).span(), code.tree.node(right).span());
    let (first, second) = (code.source.slice(left), code.source.slice(right));
    let fits = "both must be plain, between the same quotes";
    let unfit = || EditError::Unfit { what: "two strings of different kinds".to_owned(), fits };
    let mark = quote(first).filter(|mark| quote(second) == Some(*mark)).ok_or_else(unfit)?;
    let text = format!(
        "{}{}",
        first.strip_suffix(mark).unwrap_or(first),
        second.strip_prefix(mark).unwrap_or(second),
    );
    // Digits would go on what a backslash begins.
    let tail = first.rfind('\\').is_some_and(|slash| first.len() - slash < 10);
    if tail && second.trim_start_matches(mark).starts_with(|c: char| c.is_ascii_hexdigit()) {
        return Err(EditError::Unfit { what: "a string that ends with an escape".to_owned(), fits: "it would go on" });
    }
    let whole = Span::new(left.start, right.end);
    let between = code.source.slice(Span::new(left.end, right.start));
    if between.contains("//") || between.contains("/*") || between.contains('#') {
        return Err(EditError::LosesComment { comment: between.trim().to_owned() });
    }
    work.allowance.gone.push(whole);
    work.allowance.texts = Some(vec![text.clone()]);
    work.draft.replace(whole, vec![Piece::New(text)]);
    Ok(())
}

/// The declaration of several names around a place.
fn declaration(code: Code<'_>, at: Span) -> Option<Row> {
    let tree = code.tree;
    let kinds = code.toolkit().edits.declarations;
    let taken = Taken::at(code, at).ok()?;
    let inner = tree.covering(taken.node_span(code));
    let near = tree.ancestors(inner).take_while(|id| !tree.role(*id).is_sequence());
    let found = near.into_iter().find(|id| kinds.contains(&tree.kind_name(*id)))?;
    let high = tree.parent(found).is_some_and(|holder| {
        matches!(tree.role(holder), Role::Block | Role::Body | Role::File | Role::Arm)
    });
    Row::of(code, found).filter(|row| high && row.entries.len() > 1)
}

/// What stands in front of the names of a declaration.
fn head(code: Code<'_>, declaration: NodeId, first: u32) -> Span {
    Span::new(code.tree.node(declaration).start, first)
}

fn split_declaration(work: &mut Work<'_>, row: &Row) {
    let code = work.code;
    let head = code.source.slice(head(code, row.holder, row.entries[0].body.start)).to_owned();
    let whole = code.tree.node(row.holder).span();
    let mark = if code.source.slice(whole).ends_with(';') { ";" } else { "" };
    let end = code.source.facts().line_end().text();
    let own = base(code, whole.start);
    work.allowance.separators = true;
    work.allowance.remade.push(whole);
    work.allowance.texts = Some(vec![head.clone(); row.entries.len() - 1]);
    for pair in row.entries.windows(2) {
        let apart = format!("{mark}{end}{own}{head}");
        work.draft.replace(Span::new(pair[0].body.end, pair[1].body.start), vec![Piece::New(apart)]);
    }
}

/// The names of a declaration: from the first to the last.
fn names(code: Code<'_>, declaration: NodeId) -> Option<Span> {
    let tree = code.tree;
    if let Some(row) = Row::of(code, declaration).filter(|row| !row.entries.is_empty()) {
        return Some(Span::new(row.entries[0].body.start, row.entries.last()?.body.end));
    }
    let name = tree.parts(declaration).filter(|part| tree.kind_name(*part) == "variable_declarator").last()?;
    Some(tree.node(name).span())
}

fn join_declarations(work: &mut Work<'_>, first: NodeId, second: NodeId) -> Result<bool, EditError> {
    let code = work.code;
    let (Some(left), Some(right)) = (names(code, first), names(code, second)) else { return Ok(false) };
    let heads = [head(code, first, left.start), head(code, second, right.start)];
    let words = |span: Span| code.source.slice(span).split_whitespace().collect::<Vec<_>>();
    if words(heads[0]) != words(heads[1]) {
        return Err(EditError::Unfit {
            what: "two declarations with different heads".to_owned(),
            fits: "both must begin alike",
        });
    }
    let between = Span::new(left.end, heads[1].start);
    let text = code.source.slice(between).trim();
    if !matches!(text, "" | ";") {
        return Err(EditError::LosesComment { comment: text.trim_start_matches(';').trim().to_owned() });
    }
    work.allowance.separators = true;
    work.allowance.gone.push(heads[1]);
    work.allowance.remade.extend([code.tree.node(first).span(), code.tree.node(second).span()]);
    work.draft.replace(Span::new(left.end, right.start), vec![Piece::New(", ".to_owned())]);
    Ok(true)
}
