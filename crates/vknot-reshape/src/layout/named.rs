//! Ways that go by name: many leave a space behind some callables and not behind others, inside the brackets of `if` and not inside those
//! of calls, round what is assigned in statements and not in the heads of loops, or open the braces of classes otherwise than those of
//! enumerations. A name that goes one way keeps to it, and however often it occurs, it does not speak for others.

use std::collections::HashMap;
use std::hash::Hash;

use vknot_style::Key;
use vknot_syntax::{NodeId, Role};

use super::manner::{ENOUGH, MANY, Named};
use super::planner::Planner;

/// Within how many levels of an expression it is looked for what holds it.
const LEVELS_AT_MOST: usize = 16;

/// What the braces of all kinds of types are called by where they are spaced alike.
const OF_TYPES: &str = "type";

/// Whether a setting is of the spaces round operators that go by the statements they are in.
fn is_of_operators(key: Key) -> bool {
    matches!(key, Key::SpaceAssignment | Key::SpaceComparison | Key::SpaceLogical)
}

/// The places of one name.
#[derive(Default)]
struct Places {
    /// How many show the first way of a setting, and how many the second.
    shown: [u32; 2],
    gaps: Vec<u32>,
}

/// Puts the places together that are called alike.
fn grouped<'n, N: Eq + Hash>(
    named: impl Iterator<Item = &'n Named>,
    name: impl Fn(&'n Named) -> N,
) -> HashMap<N, Places> {
    let mut groups: HashMap<N, Places> = HashMap::new();
    for place in named {
        let places = groups.entry(name(place)).or_default();
        place.shows.iter().for_each(|second| places.shown[usize::from(*second)] += 1);
        places.gaps.push(place.gap);
    }
    groups
}

impl Planner<'_> {
    /// Whether a setting goes by names in this language.
    pub fn goes_by_name(&self, key: Key) -> bool {
        match key {
            Key::SpaceArguments | Key::SpaceParenthesis | Key::SpaceBlock => true,
            Key::SpaceAssignment | Key::SpaceBrace | Key::SpaceComparison | Key::SpaceLogical => true,
            Key::BraceType => !self.table.spec.types_as_callables,
            Key::BraceLambda => self.table.spec.classes_without_names,
            _ => false,
        }
    }

    /// What a gap is called by: the callable or keyword in front of its bracket, what opens a block, the kind of type, or of what an
    /// operator is in.
    fn name_at(&self, gap: u32, key: Key) -> &str {
        let word = |token: Option<u32>| {
            let text = token.map_or("", |token| self.token_text(token));
            if text.starts_with(|c: char| c.is_alphanumeric() || c == '_') { text } else { "(" }
        };
        match key {
            Key::BraceLambda | Key::BraceType => self.holder_at(gap, 2).map_or("", |holder| self.name(holder)),
            Key::SpaceParenthesis if self.token_text(gap) == ")" => {
                word(self.opening_of(gap).and_then(|open| open.checked_sub(1)))
            }
            Key::SpaceParenthesis => word(gap.checked_sub(2)),
            Key::SpaceBlock if self.token_text(gap) == "{" => match self.holder_at(gap, 2) {
                Some(id) if self.role(id) == Role::Type => OF_TYPES,
                holder => holder.map_or("", |id| self.name(id)),
            },
            Key::SpaceBlock => self.token_text(gap),
            Key::SpaceBrace => {
                let brace = if self.token_text(gap) == "}" { Some(gap) } else { gap.checked_sub(1) };
                brace.and_then(|brace| self.holder_at(brace, 1)).map_or("", |holder| self.name(holder))
            }
            Key::SpaceAssignment | Key::SpaceComparison | Key::SpaceLogical =>
                self.item_at(gap).map_or("", |id| self.word_of_item(id)),
            _ => gap.checked_sub(1).map_or("", |name| self.token_text(name)),
        }
    }

    /// What holds a token, so many levels further out.
    fn holder_at(&self, token: u32, levels: usize) -> Option<NodeId> {
        self.tree.ancestors(self.tree.tokens().get(token as usize)?.node).nth(levels)
    }

    /// The statement, branch or declaration that a token is in.
    fn item_at(&self, token: u32) -> Option<NodeId> {
        let item = |id: &NodeId| self.role(*id).is_item();
        self.tree.ancestors(self.tree.tokens().get(token as usize)?.node).take(LEVELS_AT_MOST).find(item)
    }

    /// The word that a branch begins with, since loops of several words may be of one kind, else the kind.
    fn word_of_item(&self, id: NodeId) -> &str {
        if self.role(id) == Role::Branch { self.token_text(self.first(id)) } else { self.name(id) }
    }

    /// The round bracket that a token closes, in what holds both.
    fn opening_of(&self, close: u32) -> Option<u32> {
        let parts = self.tree.children(self.holder_at(close, 1)?).take_while(|part| self.first(*part) < close);
        // What is inside may begin with a bracket of its own.
        let brackets = parts.filter(|part| self.tree.children(*part).next().is_none());
        brackets.map(|part| self.first(part)).filter(|first| self.token_text(*first) == "(").last()
    }

    /// The kind of what a round bracket is of: calls, casts, conditions, parameters.
    fn kind_at(&self, gap: u32) -> &str {
        let bracket = if self.token_text(gap) == ")" { Some(gap) } else { gap.checked_sub(1) };
        bracket.and_then(|bracket| self.holder_at(bracket, 1)).map_or("", |holder| self.name(holder))
    }

    /// Finds out which kinds of brackets go one way, for those whose names do not tell.
    fn count_kinds(&mut self, named: &[Named]) {
        let brackets = named.iter().filter(|named| named.key == Key::SpaceParenthesis);
        let told: Vec<Places> = grouped(brackets, |named| self.kind_at(named.gap)).into_values().collect();
        // What is of a kind in a well-kept file goes as it is, be it little.
        let enough = if self.meant.is_some() { 1 } else { MANY };
        for Places { shown, gaps } in told {
            if let Some(second) = self.manner.agreed(shown, enough) {
                let own = gaps.into_iter().map(|gap| ((gap, Key::SpaceParenthesis), second));
                self.manner.own.extend(own);
            }
        }
    }

    /// Finds out which names go one way.
    pub fn count_names(&mut self) {
        let named = std::mem::take(&mut self.manner.named);
        self.count_kinds(&named);
        // What is declared does not go as what calls it does.
        let kind = |gap: u32, key: Key| if key == Key::SpaceParenthesis { self.kind_at(gap) } else { "" };
        let names = grouped(named.iter(), |Named { gap, key, .. }| (*key, kind(*gap, *key), self.name_at(*gap, *key)));
        // A callable may have that name, too.
        let of_types = |key: Key, name: &str| key == Key::SpaceBlock && name == OF_TYPES;
        let told: Vec<_> =
            names.into_iter().map(|((key, _, name), places)| (key, of_types(key, name), places)).collect();
        for (key, types, places) in told {
            // The few types of a well-kept file go as they are, named or not, and the few values that somebody put spaces in, as do the
            // operators of the few statements of a kind.
            let braces = matches!(key, Key::BraceLambda | Key::BraceType);
            let few = types || braces || is_of_operators(key) || key == Key::SpaceBrace && places.shown[0] == 0;
            let enough = if few && self.meant.is_some() { 1 } else { ENOUGH };
            let way = match types {
                true => self.manner.agreed(places.shown, enough),
                false => self.manner.vote_for_name(key, places.shown, enough),
            };
            if let Some(second) = way {
                self.manner.own.extend(places.gaps.into_iter().map(|gap| ((gap, key), second)));
            }
        }
        self.keep_operators(&named);
    }

    /// In a well-kept file spaces round operators stay as they are where it does not go one way, and round what compares values that are
    /// put together: to them it stands as it does for its reader.
    fn keep_operators(&mut self, named: &[Named]) {
        if self.meant.is_none() {
            return;
        }
        let operators = named.iter().filter(|place| is_of_operators(place.key));
        let open: Vec<(u32, Key, bool)> = operators
            .filter_map(|Named { gap, key, shows }| Some((*gap, *key, (*shows)?)))
            .filter(|(gap, key, second)| {
                let undecided = !self.manner.own.contains_key(&(*gap, *key)) && !self.manner.shows(*key);
                undecided || *second && *key == Key::SpaceComparison && self.compares_operations(*gap)
            })
            .collect();
        self.manner.own.extend(open.into_iter().map(|(gap, key, second)| ((gap, key), second)));
    }

    /// Whether the operator on one side of a gap has an operation on either of its own.
    fn compares_operations(&self, gap: u32) -> bool {
        let is_operator = |id: &NodeId| self.role(*id) == Role::Operator;
        let held = [Some(gap), gap.checked_sub(1)].into_iter().flatten().filter_map(|token| self.holder_at(token, 1));
        held.filter(is_operator).any(|id| self.tree.parts(id).any(|part| is_operator(&part)))
    }

    /// Which way the name at a gap goes, if it goes one and nothing is set.
    pub fn own_way(&self, gap: u32, key: Key) -> Option<bool> {
        self.manner.own.get(&(gap, key)).filter(|_| self.style.word(key) == "as-found").copied()
    }
}
