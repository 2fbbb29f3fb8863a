//! Which uses of a name are of one thing, by the binding rules of a language.

use std::collections::{HashMap, HashSet};

use vknot_syntax::{NodeId, Role, Span};

use crate::spec::Code;
use crate::spec::inner::NESTED_AT_MOST;
use crate::spec::scopes::{Binding, ScopeSpec};
use super::words::words_in;

/// A place where a name stands.
#[derive(Clone, Copy)]
struct Named {
    spaces: u8,
    span: Span,
    binding: Binding,
}

/// How many steps may be gone from names outwards before a file is too much to tell: a name is told by word then.
const OUTWARDS: usize = 5_000_000;

/// The same of steps from uses to what may declare them.
const STEPS: usize = 20_000_000;

/// All places where a name stands, each with what it does there, those in the code of strings among them; `None` where they are too many, too deep inside.
fn places(code: Code<'_>, spec: &ScopeSpec, name: &str) -> Option<Vec<Named>> {
    let tree = code.tree;
    let mut places = Vec::new();
    let mut steps = 0;
    let mut keyed: Option<HashMap<&str, bool>> = None;
    for token in tree.tokens() {
        let role = tree.role(token.node);
        let text = code.source.slice(token.span());
        if role == Role::String && text.contains(name) {
            for (span, binding) in inside(code, spec, token.node, name, NESTED_AT_MOST) {
                places.push(Named { spaces: 1, span, binding: (spec.inner)(code, token.node, span, binding) });
            }
        } else if text == name && spec.names.contains(&tree.kind_name(token.node)) {
            steps += tree.ancestors(token.node).take(OUTWARDS - steps).count();
            if steps >= OUTWARDS {
                return None;
            }
            let binding = match (spec.binding)(code, token.node) {
                Binding::Key { of } => {
                    let keyed = keyed.get_or_insert_with(|| (spec.keyed)(code));
                    match keyed.get(tree.text_of(code.source.text(), of)) {
                        Some(true) => Binding::Other,
                        Some(false) => Binding::Uses { but: None },
                        None => Binding::Perhaps,
                    }
                }
                binding => binding,
            };
            places.push(Named { spaces: (spec.spaces)(code, token.node), span: token.span(), binding });
        } else if role != Role::Comment && text.contains(name) && text.contains('\n') {
            // What the reader left out may use it.
            let unread = words_in(code, token.span(), name).into_iter();
            places.extend(unread.map(|span| Named { spaces: u8::MAX, span, binding: Binding::Unknown }));
        }
    }
    settle_redeclared(&mut places);
    settle_private(&mut places);
    Some(places)
}

/// Makes what is declared again a use of what it is declared as already.
fn settle_redeclared(places: &mut [Named]) {
    let mut holders = HashSet::new();
    for place in places {
        match place.binding {
            Binding::Declares { holder, .. } => _ = holders.insert(holder),
            Binding::Redeclares { holder, seen } => {
                let first = holders.insert(holder);
                place.binding = if first { Binding::Declares { holder, seen } } else { Binding::Uses { but: None } };
            }
            _ => {}
        }
    }
}

/// Makes what is private open where something may ask for it, else known.
fn settle_private(places: &mut [Named]) {
    let asked = |spaces, place: &Named| if place.binding == Binding::Asked { spaces | place.spaces } else { spaces };
    let asked = places.iter().fold(0, asked);
    for place in places {
        place.binding = match place.binding {
            Binding::Private { holder, seen } if asked & place.spaces == 0 => Binding::Declares { holder, seen },
            Binding::Private { holder, seen } => Binding::Open { holder, seen },
            Binding::Asked => Binding::Other,
            other => other,
        };
    }
}

/// The same, where what is used in bodies by name alone is told from their members.
fn settled(code: Code<'_>, spec: &ScopeSpec, name: &str) -> Option<Vec<Named>> {
    let mut places = places(code, spec, name)?;
    settle_members(&mut places);
    Some(places)
}

/// Where a body that uses one name alone has a member of the other name, for which that would be taken.
fn taken_for_member(uses: &[Span], own: &[Named], others: &[Named]) -> Option<Span> {
    let used: HashSet<Span> = uses.iter().copied().collect();
    let body = |place: &Named| match place.binding {
        Binding::InBody { of, .. } if used.contains(&place.span) => Some(of),
        _ => None,
    };
    let bodies: HashSet<NodeId> = own.iter().filter_map(body).collect();
    let member = |other: &&Named| matches!(other.binding, Binding::Member { of } if bodies.contains(&of));
    others.iter().find(member).map(|other| other.span)
}

/// Tells what is used in bodies by name alone from their members: which of the two it is where there is such a member, is not known.
fn settle_members(places: &mut [Named]) {
    let owner = |place: &Named| if let Binding::Member { of } = place.binding { Some(of) } else { None };
    let owners: HashSet<NodeId> = places.iter().filter_map(owner).collect();
    for place in places {
        place.binding = match place.binding {
            Binding::Member { .. } => Binding::Other,
            Binding::InBody { of, .. } if owners.contains(&of) => Binding::Unknown,
            Binding::InBody { but, .. } => Binding::Uses { but },
            other => other,
        };
    }
}

/// Where a name stands in the code inside a token, and what it does there.
fn inside(code: Code<'_>, spec: &ScopeSpec, token: NodeId, name: &str, levels: usize) -> Vec<(Span, Binding)> {
    let mut found = Vec::new();
    for inner in (code.toolkit().looks.inside)(code.source, code.tree, token) {
        if levels == 0 || !code.source.slice(inner.span).contains(name) {
            continue;
        }
        let piece = inner.read(code.source, code.tree, token);
        let within = code.piece(&piece);
        let broken = within.tree.has_error();
        for own in within.tree.tokens() {
            let text = within.source.slice(own.span());
            let named = text == name && spec.names.contains(&within.tree.kind_name(own.node));
            let places = if named {
                vec![(own.span(), (spec.binding)(within, own.node))]
            } else if within.tree.role(own.node) == Role::String && text.contains(name) {
                inside(within, spec, own.node, name, levels - 1)
            } else {
                Vec::new()
            };
            let outer = places.into_iter().map(|(span, binding)| (piece.outer_span(span), binding));
            found.extend(outer.filter(|(span, _)| inner.span.covers(*span) && span.len() as usize == name.len()).map(
                |(span, binding)| match binding {
                    // What is in there by its nodes says nothing of those out here.
                    Binding::Uses { .. } if !broken => (span, Binding::Uses { but: None }),
                    Binding::Other | Binding::Asked => (span, binding),
                    // It may be declared in there.
                    _ => (span, Binding::Unknown),
                },
            ));
        }
    }
    found
}

/// What a name at a place is bound to, of what declares it: that, and where it is seen.
fn bound(place: &Named, declaring: &[Named]) -> Option<(NodeId, Span)> {
    let but = match place.binding {
        Binding::Declares { holder, seen } | Binding::Open { holder, seen } => return Some((holder, seen)),
        Binding::Uses { but } => but,
        Binding::Perhaps => None,
        _ => return None,
    };
    let seen = declaring.iter().filter_map(|other| match other.binding {
        Binding::Declares { holder, seen } | Binding::Open { holder, seen }
            if Some(holder) != but && other.spaces & place.spaces != 0 =>
        {
            Some((holder, seen))
        }
        _ => None,
    });
    let here = seen.filter(|(_, seen)| seen.start <= place.span.start && place.span.start < seen.end);
    here.max_by_key(|(holder, seen)| (*holder, seen.start))
}

/// Where the name at a place is declared, and all its uses, that place among them; `None` where that is not known.
pub(crate) fn uses(code: Code<'_>, named: Span) -> Option<(Span, Vec<Span>)> {
    let spec = code.toolkit().edits.scopes?;
    let name = code.source.slice(named);
    let all = settled(code, spec, name)?;
    if code.tree.has_error() || all.iter().any(|place| place.binding == Binding::Unknown) {
        return None;
    }
    let own = all.iter().find(|place| place.span == named)?;
    let declares = |place: &&Named| matches!(place.binding, Binding::Declares { .. } | Binding::Open { .. });
    let declaring: Vec<Named> = all.iter().filter(declares).copied().collect();
    if declaring.len().saturating_mul(all.len()) > STEPS {
        return None;
    }
    let binding = bound(own, &declaring)?;
    let same: Vec<&Named> = all.iter().filter(|place| bound(place, &declaring) == Some(binding)).collect();
    if same.iter().any(|place| matches!(place.binding, Binding::Perhaps | Binding::Open { .. })) {
        return None;
    }
    let declared = same.iter().find(|place| matches!(place.binding, Binding::Declares { .. }))?.span;
    Some((declared, same.into_iter().map(|place| place.span).collect()))
}

/// A name that would be taken for another one if some uses were called otherwise.
pub(crate) fn clash(code: Code<'_>, declared: Span, uses: &[Span], new: &str) -> Option<Span> {
    let spec = code.toolkit().edits.scopes?;
    let name = code.source.slice(declared);
    // What is too much to tell could be anything.
    let (Some(own), Some(mut others)) = (places(code, spec, name), places(code, spec, new)) else {
        return Some(declared);
    };
    if let Some(member) = taken_for_member(uses, &own, &others) {
        return Some(member);
    }
    settle_members(&mut others);
    let declaration = own.iter().find(|place| place.span == declared)?;
    let Binding::Declares { holder, seen } = declaration.binding else { return None };
    if spec.reserved.contains(&new) {
        return Some(declared);
    }
    for other in &others {
        match other.binding {
            // It would be taken for what is called otherwise.
            Binding::Uses { .. } | Binding::Perhaps
                if seen.start <= other.span.start && other.span.start < seen.end =>
            {
                let further_in = bound(other, &others).is_some_and(|(inner, _)| inner > holder);
                if !further_in {
                    return Some(other.span);
                }
            }
            // Some use would be taken for it.
            Binding::Declares { holder: inner, seen: inner_seen }
            | Binding::Open { holder: inner, seen: inner_seen } => {
                let same = inner == holder;
                let captured = uses.iter().any(|span| inner_seen.start <= span.start && span.start < inner_seen.end);
                if same || captured && inner >= holder {
                    return Some(other.span);
                }
            }
            Binding::Unknown => return Some(other.span),
            _ => {}
        }
    }
    None
}

/// What is written in each place where another name comes in.
pub(crate) fn written(code: Code<'_>, uses: &[Span], new: &str) -> Vec<(Span, String)> {
    let spec = code.toolkit().edits.scopes;
    let text = |span: &Span| {
        let token = code.tree.token_at(span.start).and_then(|token| code.tree.tokens().get(token as usize));
        let token = token.filter(|token| token.span() == *span).or_else(|| {
            code.tree.tokens().get(code.tree.token_from(span.start) as usize).filter(|token| token.span() == *span)
        });
        match (spec, token) {
            (Some(spec), Some(token)) => (spec.written)(code, token.node, new),
            _ => new.to_owned(),
        }
    };
    uses.iter().map(|span| (*span, text(span))).collect()
}
