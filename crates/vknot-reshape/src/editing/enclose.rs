//! Pairs that come around what is taken hold of, and go from around it.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use super::work::Work;
use super::draft::Piece;
use super::error::EditError;
use super::row::{Row, ends_line};
use super::standing::{base, level, shifted};
use super::taken::Taken;
use super::transfer::are_vertical;

/// What comes around a text.
struct Template {
    before: String,
    behind: String,
    /// Whether the text comes to stand on lines of its own, where it does so now.
    apart: bool,
}

impl Template {
    fn of(template: &str) -> Result<Template, EditError> {
        let text = template.trim();
        let pair = |before: &str, behind: &str, apart| {
            Ok(Template { before: before.to_owned(), behind: behind.to_owned(), apart })
        };
        match text {
            "(" | "()" => return pair("(", ")", false),
            "[" | "[]" => return pair("[", "]", false),
            "{" | "{}" => return pair("{", "}", true),
            _ => {}
        }
        if let Some((before, behind)) = hole(text) {
            return pair(before, behind, opens_lines(before, behind));
        }
        let tag = text.strip_prefix('<').and_then(|rest| rest.strip_suffix('>')).filter(|rest| !rest.ends_with('/'));
        if let Some(name) = tag.and_then(|tag| tag.split_whitespace().next()).filter(|name| !name.starts_with('/')) {
            return pair(text, &format!("</{name}>"), true);
        }
        Err(EditError::Template { template: template.to_owned() })
    }
}

/// What stands in front of the one hole of a template, and behind it.
fn hole(text: &str) -> Option<(&str, &str)> {
    let word = |c: char| c.is_alphanumeric() || c == '_';
    let lone = |at: &usize| !text[.. * at].ends_with(word) && !text[at + 1..].starts_with(word);
    let mut holes = text.match_indices('_').map(|(at, _)| at).filter(lone);
    let at = holes.next()?;
    holes.next().is_none().then(|| (&text[..at], &text[at + 1..]))
}

/// Whether what stands in a hole has lines of its own: blanks are around it, and it is in a block.
fn opens_lines(before: &str, behind: &str) -> bool {
    let spaced = before.ends_with(' ') && (behind.starts_with(' ') || behind.is_empty());
    let head = before.trim_end();
    let words = head.ends_with(char::is_alphabetic) && behind.trim_start().starts_with(char::is_alphabetic);
    spaced && (head.ends_with(['{', ':', '>']) || words)
}

pub(crate) fn wrapped(work: &mut Work<'_>, template: &str) -> Result<(), EditError> {
    let code = work.code;
    let template = Template::of(template)?;
    let taken = Taken::at(code, work.at)?;
    if code.tree.role(code.tree.covering(taken.node_span(code))) == Role::Comment {
        return Err(EditError::Remark);
    }
    let named = |id: NodeId| {
        let span = code.tree.node(id).span();
        let holder = code.tree.ancestors(id).find(|holder| code.tree.node(*holder).span() != span);
        holder.is_some_and(|holder| code.tree.role(holder).is_item() && code.tree.name_span(holder) == Some(span))
    };
    if let Taken::Node(id) = &taken
        && (matches!(code.tree.role(*id), Role::Arguments | Role::Block | Role::Body | Role::Label) || named(*id))
    {
        return Err(EditError::Unfit {
            what: crate::looks::kind_words(code, *id).to_owned(),
            fits: "a value, a statement or what stands among others can be wrapped",
        });
    }
    if let Taken::Items(row, range) = &taken {
        row.passes(code, Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].end()))?;
    }
    let high = match &taken {
        Taken::Items(row, range) => template.apart && row.separator.is_none() && are_vertical(code, row, range),
        Taken::Node(_) => false,
    };
    work.allowance.texts = Some(vec![template.before.clone(), template.behind.clone()]);
    work.allowance.whole = true;
    let span = match &taken {
        Taken::Items(row, range) if high =>
            Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].end()),
        _ => value_span(code, &taken, &template),
    };
    let own = base(code, span.start);
    let mut pieces = vec![Piece::Begin];
    if high {
        let (end, inner) = (code.source.facts().line_end().text(), format!("{own}{}", level(code, work.style)));
        pieces.push(Piece::New(format!("{}{end}{inner}", template.before.trim_end())));
        pieces.extend(shifted(code, span, (own, &inner), false));
        if !template.behind.trim().is_empty() {
            pieces.push(Piece::New(format!("{end}{own}{}", template.behind.trim_start())));
        }
    } else {
        let body = vec![Piece::Old(span)];
        pieces.push(Piece::New(template.before.clone()));
        pieces.extend(if work.bracketed { bracketed(code, span, body) } else { body });
        pieces.push(Piece::New(template.behind.clone()));
        work.allowance.brackets = work.bracketed;
    }
    pieces.push(Piece::End);
    work.draft.replace(span, pieces);
    Ok(())
}

/// What a template for values comes around: a statement's value, without the mark at its end.
fn value_span(code: Code<'_>, taken: &Taken, template: &Template) -> Span {
    let span = match taken {
        Taken::Items(row, range) => Span::new(
            code.tree.node(row.entries[range.start].node).start,
            row.entries[range.end - 1].body.end,
        ),
        Taken::Node(_) => taken.span(code),
    };
    let ends = template.behind.trim_end().ends_with([';', '}']);
    match code.source.slice(span).strip_suffix(';') {
        Some(value) if !ends => Span::new(span.start, span.start + value.trim_end().len() as u32),
        _ => span,
    }
}

/// Pieces in brackets, where they are of an operator with its operands.
pub(crate) fn bracketed(code: Code<'_>, span: Span, mut pieces: Vec<Piece>) -> Vec<Piece> {
    let tree = code.tree;
    let node = tree.ancestors(tree.covering(span)).take_while(|id| tree.node(*id).span() == span).last();
    let needs = node.is_some_and(|id| {
        !matches!(tree.role(id), Role::Parenthesized | Role::Call | Role::Name | Role::Literal | Role::String)
            && !tree.node(id).is_leaf()
    });
    if needs {
        pieces.insert(0, Piece::New("(".to_owned()));
        pieces.push(Piece::New(")".to_owned()));
    }
    pieces
}

/// A pair with what it holds.
struct Around {
    /// From its first byte to its last.
    whole: Span,
    /// What it holds, without white space at its ends.
    inner: Span,
}

pub(crate) fn unwrapped(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let around = closest(code, work.at)?;
    let lost = [Span::new(around.whole.start, around.inner.start), Span::new(around.inner.end, around.whole.end)];
    keep_comments(code, &lost)?;
    let held = code.tree.ancestors(code.tree.covering(around.inner)).find_map(|id| Row::of(code, id));
    let count = held.map_or(1, |row| row.entries.iter().filter(|entry| around.inner.covers(entry.body)).count());
    stand_in_list(code, around.whole, count)?;
    work.allowance.gone.extend(lost);
    replace(work, &around);
    Ok(())
}

/// That several items of a list that lose their brackets come to stand in another list: but for round ones, which need not be there.
fn stand_in_list(code: Code<'_>, whole: Span, count: usize) -> Result<(), EditError> {
    let tree = code.tree;
    let node = tree.ancestors(tree.covering(whole)).take_while(|id| tree.node(*id).span() == whole).last();
    let parted = !code.toolkit().edits.listed.is_empty();
    let Some(id) = node.filter(|_| count > 1 && parted) else { return Ok(()) };
    let call = tree.role(id) == Role::Call;
    let listed = matches!(tree.role(id), Role::Call | Role::Collection | Role::List | Role::Arguments);
    let round = !call && code.source.slice(whole).starts_with('(');
    let row = tree.parent(id).and_then(|holder| Row::of(code, holder));
    let stands = row.is_some_and(|row| row.separator.is_some() && row.entries.iter().any(|entry| entry.node == id));
    if listed && !round && !stands { Err(EditError::Several { count }) } else { Ok(()) }
}

/// Puts what a pair holds in its place.
fn replace(work: &mut Work<'_>, around: &Around) {
    let code = work.code;
    let Around { whole, inner } = around;
    let mut pieces = vec![Piece::Begin];
    let body = match code.source.begins_line(inner.start) && code.source.begins_line(whole.start) {
        true => shifted(code, *inner, (base(code, inner.start), base(code, whole.start)), false),
        false => vec![Piece::Old(*inner)],
    };
    pieces.extend(if work.bracketed { bracketed(code, *inner, body) } else { body });
    pieces.push(Piece::End);
    work.allowance.brackets |= work.bracketed;
    work.allowance.whole = true;
    // A comment to the end of a line must not take in what follows.
    work.draft.replace(*whole, pieces);
}

/// That no comment is among what goes.
fn keep_comments(code: Code<'_>, lost: &[Span]) -> Result<(), EditError> {
    let tree = code.tree;
    let tokens = tree.tokens().iter().enumerate();
    let comment = tokens.filter(|(at, _)| tree.is_comment(*at as u32)).map(|(_, token)| token.span()).find(|comment| {
        lost.iter().any(|span| span.covers(*comment))
    });
    match comment {
        None => Ok(()),
        Some(span) => {
            let text = code.source.slice(span).lines().next().unwrap_or("").to_owned();
            Err(EditError::LosesComment { comment: text })
        }
    }
}

/// The closest pair around a place.
fn closest(code: Code<'_>, at: Span) -> Result<Around, EditError> {
    let tree = code.tree;
    let start = match Taken::at(code, at) {
        Ok(Taken::Node(id)) => exact(code, tree.node(id).span()).unwrap_or(id),
        Ok(taken) => {
            // A pair that is meant itself is the closest one.
            let span = taken.node_span(code);
            let own = (!at.is_empty()).then(|| exact(code, span)).flatten();
            own.unwrap_or(taken.holder(code))
        }
        Err(_) => tree.covering(at),
    };
    for id in tree.ancestors(start) {
        match tree.role(id) {
            role if is_pair(code, id) && (PAIRS.contains(&role) || is_around_one(code, id)) => {
                let inside = inside(code, id).ok_or(EditError::NoPair { what: "pair" })?;
                return Ok(Around { whole: tree.node(id).span(), inner: trimmed(code, inside) });
            }
            Role::Arguments => {
                let call = tree.node(id).parent;
                let Some(inside) = inside(code, id).filter(|_| tree.node(call).end == tree.node(id).end) else {
                    continue;
                };
                return Ok(Around { whole: tree.node(call).span(), inner: trimmed(code, inside) });
            }
            Role::Block => return block(code, id),
            Role::Body if tree.role(tree.node(id).parent) == Role::Rule => return block(code, id),
            Role::Body | Role::Lambda | Role::Callable | Role::Type => {
                return Err(EditError::Loses { what: first_line(code, tree.node(id).span()) });
            }
            _ => {}
        }
    }
    Err(EditError::NoPair { what: "pair" })
}

/// What stands in brackets or tags that can go from around it.
const PAIRS: [Role; 4] = [Role::Parenthesized, Role::Collection, Role::Element, Role::Form];

/// Whether a node is nothing but brackets around one thing, as a type or a pattern may be: not the parameters of what is called.
fn is_around_one(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let holder = tree.parent(id).map_or(Role::Part, |holder| tree.role(holder));
    let inner = tree.children(id).filter(|child| !tree.node(*child).is_empty() && tree.role(*child) != Role::Comment);
    let plain = matches!(tree.role(id), Role::List | Role::Part);
    plain && inner.count() == 3 && !matches!(holder, Role::Callable | Role::Lambda | Role::Call | Role::Type)
}

/// The pair that a span is meant to be: between its ends, or with a head in front of it.
fn exact(code: Code<'_>, span: Span) -> Option<NodeId> {
    let tree = code.tree;
    let same = |id: &NodeId| tree.node(*id).span() == span;
    let outer = tree.ancestors(tree.covering(span)).take_while(same).last()?;
    tree.subtree(outer).take_while(|id| id.0 < outer.0 + SPINE).find(|id| {
        let node = tree.node(*id);
        let ends = node.end == span.end || code.source.slice(Span::new(node.end, span.end)) == ";";
        let rule = tree.role(tree.node(*id).parent) == Role::Rule;
        let body = tree.role(*id) == Role::Body;
        let whole = same(id) && is_pair(code, *id) && !body;
        // A block without brackets is no pair by itself, but with the head in front of it.
        let headed = node.start > span.start
            && (matches!(tree.role(*id), Role::Block | Role::Arguments)
                || body
                && rule);
        whole || ends && headed
    })
}

/// How many nodes of an item are looked at for the pair that it ends with.
const SPINE: u32 = 4_000;

/// Whether a node begins and ends with brackets or tags of its own.
fn is_pair(code: Code<'_>, id: NodeId) -> bool {
    inside(code, id).is_some()
}

/// What is between the brackets or tags of a node.
fn inside(code: Code<'_>, id: NodeId) -> Option<Span> {
    let tree = code.tree;
    let language = tree.language();
    let mut children = tree.children(id).filter(|child| !tree.node(*child).is_empty());
    let (first, last) = (children.next()?, children.last()?);
    let bracket = |id: NodeId| language.bracket(tree.node(id).kind);
    let brackets = matches!((bracket(first), bracket(last)), (Some(open), Some(close)) if open.opens && !close.opens);
    let tags = tree.role(first) == Role::Open && tree.role(last) == Role::Close;
    (brackets || tags).then(|| Span::new(tree.node(first).end, tree.node(last).start))
}

fn trimmed(code: Code<'_>, span: Span) -> Span {
    let text = code.source.slice(span);
    let start = span.start + (text.len() - text.trim_start().len()) as u32;
    match text.trim() {
        "" => Span::new(span.start, span.start),
        inner => Span::new(start, start + inner.len() as u32),
    }
}

/// The first line of a text, cut to what a message can hold.
fn first_line(code: Code<'_>, span: Span) -> String {
    let line = code.source.slice(span).lines().next().unwrap_or("").trim_end();
    match line.char_indices().nth(60) {
        Some((end, _)) => format!("{}…", &line[..end]),
        None => line.to_owned(),
    }
}

/// A block with the head that it belongs to, where nothing else does.
fn block(code: Code<'_>, id: NodeId) -> Result<Around, EditError> {
    let tree = code.tree;
    let row = Row::of(code, id);
    let items = row.as_ref().and_then(|row| {
        Some(Span::new(row.entries.first()?.body.start, row.entries.last()?.end()))
    });
    let within = inside(code, id).map(|inside| trimmed(code, inside));
    let inner = within.or(items).ok_or(EditError::NoPair { what: "block with something in it" })?;
    let head = tree.node(id).parent;
    let lone = matches!(tree.role(head), Role::Block | Role::File | Role::Body);
    if lone {
        return Ok(Around { whole: tree.node(id).span(), inner });
    }
    let loses = |span: Span| Err(EditError::Loses { what: first_line(code, span) });
    if !matches!(tree.role(head), Role::Branch | Role::Statement | Role::Rule) {
        return loses(tree.node(head).span());
    }
    // Another block, an arm, or anything behind the block is more than a head.
    let more = tree.children(head).find(|child| {
        let own = tree.node(*child);
        let closes = tree.role(*child) == Role::Close || own.is_leaf() && code.source.slice(own.span()) == ";";
        *child != id
            && !own.is_empty()
            && tree.role(*child) != Role::Comment
            && (own.start >= tree.node(id).end && !closes || matches!(tree.role(*child), Role::Block | Role::Arm))
    });
    match more {
        Some(more) => loses(tree.node(more).span()),
        None => Ok(Around { whole: tree.node(head).span(), inner }),
    }
}

pub(crate) fn lifted(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let tree = code.tree;
    let taken = Taken::at(code, work.at)?;
    let inner = match &taken {
        Taken::Items(row, range) => Span::new(row.entries[range.start].body.start, row.entries[range.end - 1].body.end),
        Taken::Node(_) => taken.span(code),
    };
    let holder = taken.holder(code);
    if tree.role(holder) == Role::Body {
        return Err(EditError::Member { what: first_line(code, tree.node(tree.node(holder).parent).span()) });
    }
    let skipped = |id: &NodeId| {
        let role = tree.role(*id);
        let plain = matches!(role, Role::Arguments | Role::List | Role::Block | Role::Body | Role::Open | Role::Part);
        let arm = role == Role::Arm && tree.parent(*id).is_some_and(|above| tree.role(above) == Role::Branch);
        plain || arm || tree.node(*id).span() == inner || id.0 == 0
    };
    let mark = |id: NodeId| tree.node(id).is_leaf() && !tree.language().is_named(tree.node(id).kind);
    let within = |id: NodeId| matches!(tree.role(id), Role::Attribute | Role::Open | Role::Close);
    let own = tree.covering(inner);
    if mark(own) || tree.ancestors(taken.holder(code)).chain([own]).any(within) {
        return Err(EditError::NoPair { what: "item" });
    }
    let mut found = tree.ancestors(taken.holder(code)).filter(|id| !skipped(id));
    let outer = found.nth(work.further as usize).ok_or(EditError::NoPair { what: "item" })?;
    let whole = tree.node(outer).span();
    if let Taken::Items(row, range) = &taken && row.separator.is_some() && range.len() > 1 {
        let holder = tree.parent(outer).and_then(|holder| Row::of(code, holder));
        if holder.is_none_or(|holder| holder.separator != row.separator) {
            return Err(EditError::Several { count: range.len() });
        }
    }
    let lost = [Span::new(whole.start, inner.start), Span::new(inner.end, whole.end)];
    work.allowance.gone.extend(lost);
    let trails = !ends_line(code, whole.end) && code.source.slice(inner).contains("//");
    if trails && tree.is_comment(tree.token_from(inner.end).saturating_sub(1)) {
        return Err(EditError::Swallows);
    }
    replace(work, &Around { whole, inner });
    Ok(())
}
