//! Conditionals: their branches change places with the condition turned, one with two conditions becomes two, and two become one.

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use super::work::Work;
use super::draft::Piece;
use super::error::EditError;
use super::standing::{base, level, shifted};
use super::taken::Taken;

/// A conditional and its parts.
struct Conditional {
    node: NodeId,
    /// The condition, without brackets around it.
    condition: NodeId,
    /// What runs where it holds.
    body: NodeId,
    alternative: Option<NodeId>,
}

impl Conditional {
    fn of(code: Code<'_>, node: NodeId) -> Option<Conditional> {
        let tree = code.tree;
        if !code.toolkit().edits.conditionals.contains(&tree.kind_name(node)) {
            return None;
        }
        let condition = tree.child_named(node, "condition")?;
        let condition = match tree.role(condition) {
            Role::Parenthesized => tree.parts(condition).nth(1)?,
            _ => condition,
        };
        let body = tree.child_named(node, "consequence")?;
        Some(Conditional { node, condition, body, alternative: tree.child_named(node, "alternative") })
    }

    /// The closest one around a place.
    fn at(code: Code<'_>, at: Span) -> Result<Conditional, EditError> {
        let tree = code.tree;
        let start = Taken::at(code, at).map_or(tree.covering(at), |taken| tree.covering(taken.node_span(code)));
        let found = tree.ancestors(start).find_map(|id| Conditional::of(code, id));
        found.ok_or(EditError::NoPair { what: "conditional whose branches are known" })
    }
}

/// Swaps the branches of the conditional around a place.
pub(crate) fn turned(work: &mut Work<'_>) -> Result<(), EditError> {
    let code = work.code;
    let tree = code.tree;
    let conditional = Conditional::at(code, work.at)?;
    let unfit = |what: &str, fits| EditError::Unfit { what: what.to_owned(), fits };
    let other = conditional.alternative.ok_or(unfit("a conditional with one branch", "only two can be swapped"))?;
    let other = match tree.role(other) {
        Role::Block => other,
        _ => tree.parts(other).last().unwrap_or(other),
    };
    if tree.role(other) == Role::Branch {
        return Err(unfit("a chain of conditions", "only one with a plain `else` has two branches to swap"));
    }
    if tree.children(conditional.node).filter(|child| tree.role(*child) == Role::Arm).count() > 1 {
        return Err(unfit("a chain of conditions", "only one with a plain `else` has two branches to swap"));
    }
    turn(work, conditional.condition);
    let (left, right) = (tree.node(conditional.body).span(), tree.node(other).span());
    work.draft.replace(left, vec![Piece::Moved(right)]);
    work.draft.replace(right, vec![Piece::Moved(left)]);
    Ok(())
}

/// Turns a condition by the language's own operator.
fn turn(work: &mut Work<'_>, condition: NodeId) {
    let code = work.code;
    let tree = code.tree;
    let negation = code.toolkit().edits.negation;
    let span = tree.node(condition).span();
    work.allowance.brackets = true;
    let parts: Vec<NodeId> = tree.parts(condition).collect();
    let operator = parts.first().map(|first| tree.node(*first).span());
    if let (Some(operator), [_, operand]) = (operator, parts.as_slice())
        && code.source.slice(operator) == negation.trim()
    {
        work.allowance.gone.push(operator);
        let inner: Vec<NodeId> = tree.parts(*operand).collect();
        let held =
            inner.get(1).filter(|held| tree.role(*operand) == Role::Parenthesized && needs_brackets(code, **held));
        let kept = tree.node(held.copied().unwrap_or(*operand)).span();
        work.draft.cut(Span::new(span.start, kept.start));
        if kept.end < span.end {
            work.draft.cut(Span::new(kept.end, span.end));
        }
        return;
    }
    work.allowance.texts = Some(vec![negation.to_owned()]);
    let brackets = needs_brackets(code, condition);
    work.draft.put(span.start, &format!("{negation}{}", if brackets { "(" } else { "" }));
    if brackets {
        work.draft.put(span.end, ")");
    }
}

/// Whether an operator in front of a value would take hold of its first part only.
fn needs_brackets(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let whole = matches!(tree.role(id), Role::Parenthesized | Role::Call | Role::Link | Role::Name | Role::Literal | Role::String);
    !whole && !tree.node(id).is_leaf()
}

/// Splits the conditional around a place whose two conditions must both hold; tells whether there is one.
pub(crate) fn split(work: &mut Work<'_>) -> bool {
    let code = work.code;
    let tree = code.tree;
    let both = code.toolkit().edits.both;
    // Only the head is meant, not all that the conditional holds.
    let Ok(found) = Conditional::at(code, work.at) else { return false };
    let head = Span::new(tree.node(found.node).start, tree.node(found.body).start);
    let whole = tree.node(found.node).span().covers(work.at) && work.at.start == head.start;
    if !(head.covers(work.at) || whole) {
        return false;
    }
    let parts: Vec<NodeId> = tree.parts(found.condition).collect();
    let [left, operator, right] = parts.as_slice() else { return false };
    if code.source.slice(tree.node(*operator).span()) != both || found.alternative.is_some() {
        return false;
    }
    let node = tree.node(found.node).span();
    let condition = tree.node(found.condition).span();
    let Some(opening) = opening(code, found.body) else { return false };
    let before = code.source.slice(Span::new(node.start, condition.start)).to_owned();
    let behind = code.source.slice(Span::new(condition.end, opening)).to_owned();
    let (end, own) = (code.source.facts().line_end().text(), base(code, node.start));
    let inner = format!("{own}{}", level(code, work.style));
    let closing = if code.source.slice(node).ends_with('}') { "}" } else { "" };
    let (left, right) = (tree.node(*left).span(), tree.node(*right).span());
    work.allowance.gone.push(tree.node(*operator).span());
    work.allowance.remade.extend([node, condition, around(code, found.condition)]);
    work.allowance.texts = Some(vec![behind.clone(), before.clone(), closing.to_owned()]);
    work.draft.replace(Span::new(left.end, right.start), vec![Piece::New(format!("{behind}{end}{inner}{before}"))]);
    let rest = Span::new(right.end, node.end);
    let mut pieces = shifted(code, rest, (own, &inner), false);
    if !closing.is_empty() {
        pieces.push(Piece::New(format!("{end}{own}{closing}")));
    }
    work.draft.replace(rest, pieces);
    true
}

/// A condition with the brackets around it.
fn around(code: Code<'_>, condition: NodeId) -> Span {
    code.tree.node(code.tree.node(condition).parent).span()
}

/// Where what opens a block ends: its bracket, or the head in front of it.
fn opening(code: Code<'_>, body: NodeId) -> Option<u32> {
    let tree = code.tree;
    let node = tree.node(body);
    let token = |index: u32| tree.tokens().get(index as usize);
    let first = token(node.first_token)?;
    match code.source.slice(first.span()) {
        "{" => Some(first.end),
        _ => token(node.first_token.checked_sub(1)?).map(|before| before.end),
    }
}

/// Joins the conditional around a place with the one that is all it holds; tells whether there is one.
pub(crate) fn joined(work: &mut Work<'_>) -> bool {
    let code = work.code;
    let tree = code.tree;
    let both = code.toolkit().edits.both;
    let Ok(outer) = Conditional::at(code, work.at) else { return false };
    let items: Vec<NodeId> =
        tree.parts(outer.body).filter(|id| code.tree.language().is_named(tree.node(*id).kind)).collect();
    let held = items.first().copied().filter(|_| items.len() == 1);
    // A conditional may be a statement on its own, too.
    let held = held.map(|held| match tree.parts(held).collect::<Vec<_>>().as_slice() {
        [only] if Conditional::of(code, held).is_none() => *only,
        _ => held,
    });
    let Some(inner) = held.and_then(|held| Conditional::of(code, held)) else { return false };
    if outer.alternative.is_some() || inner.alternative.is_some() {
        return false;
    }
    let commented = tree.children(outer.body).any(|child| tree.role(child) == Role::Comment);
    let whole = tree.node(outer.node).span();
    let (first, second) = (tree.node(outer.condition).span(), tree.node(inner.condition).span());
    let (inner_end, outer_base) = (tree.node(inner.node).end, base(code, whole.start));
    let head = code.source.slice(Span::new(first.end, second.start));
    if commented || tree.node(inner.node).start < first.end || !second.is_empty() && head.is_empty() {
        return false;
    }
    let bracket = |work: &mut Work<'_>, node: NodeId| {
        let other = tree.parts(node).nth(1).map(|part| code.source.slice(tree.node(part).span()).to_owned());
        if needs_brackets(code, node) && other.as_deref() != Some(both) && work.bracketed {
            let span = tree.node(node).span();
            work.draft.replace(Span::new(span.start, span.start), vec![Piece::New("(".to_owned())]);
            return true;
        }
        false
    };
    work.allowance.brackets = true;
    let left = bracket(work, outer.condition);
    let right = bracket(work, inner.condition);
    let (close, open) = (if left { ")" } else { "" }, "");
    work.allowance.gone.extend([Span::new(first.end, second.start), Span::new(inner_end, whole.end)]);
    work.allowance.texts = Some(vec![both.to_owned()]);
    work.allowance.remade.extend([whole, tree.node(inner.node).span()]);
    work.allowance.remade.extend([around(code, outer.condition), around(code, inner.condition)]);
    work.draft.replace(Span::new(first.end, second.start), vec![Piece::New(format!("{close} {both} {open}"))]);
    let rest = Span::new(second.end, inner_end);
    let mut pieces = vec![Piece::New(if right { ")" } else { "" }.to_owned())];
    pieces.extend(shifted(code, rest, (base(code, tree.node(inner.node).start), outer_base), false));
    work.draft.replace(Span::new(second.end, whole.end), pieces);
    true
}
