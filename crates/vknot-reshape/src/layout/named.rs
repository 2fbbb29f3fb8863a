//! Ways that go by name: many leave a space behind some callables and not behind others, inside the brackets of `if` and not inside those
//! of calls, round what is assigned in statements and not in the heads of loops, or open the braces of classes otherwise than those of
//! enumerations. A name that goes one way keeps to it, and however often it occurs, it does not speak for others.

use std::collections::HashMap;

use vknot_style::Key;
use vknot_syntax::NodeId;

use super::manner::{ENOUGH, Named};
use super::planner::Planner;

/// Within how many levels of an expression it is looked for what holds it.
const LEVELS_AT_MOST: usize = 16;

/// The places of one name.
#[derive(Default)]
struct Places {
    /// How many show the first way of a setting, and how many the second.
    shown: [u32; 2],
    gaps: Vec<u32>,
}

impl Planner<'_> {
    /// Whether a setting goes by names in this language.
    pub fn goes_by_name(&self, key: Key) -> bool {
        match key {
            Key::SpaceArguments | Key::SpaceParenthesis | Key::SpaceBlock => true,
            Key::SpaceAssignment | Key::SpaceComparison | Key::SpaceLogical => true,
            Key::BraceType => !self.table.spec.types_as_callables,
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
            Key::BraceType => self.holder_at(gap, 2).map_or("", |holder| self.name(holder)),
            Key::SpaceParenthesis if self.token_text(gap) == ")" => {
                word(self.opening_of(gap).and_then(|open| open.checked_sub(1)))
            }
            Key::SpaceParenthesis => word(gap.checked_sub(2)),
            Key::SpaceBlock if self.token_text(gap) == "{" => self.holder_at(gap, 2).map_or("", |id| self.name(id)),
            Key::SpaceBlock => self.token_text(gap),
            Key::SpaceAssignment | Key::SpaceComparison | Key::SpaceLogical =>
                self.item_at(gap).map_or("", |id| self.name(id)),
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

    /// The round bracket that a token closes, in what holds both.
    fn opening_of(&self, close: u32) -> Option<u32> {
        let parts = self.tree.children(self.holder_at(close, 1)?).map(|part| self.first(part));
        parts.take_while(|first| *first < close).filter(|first| self.token_text(*first) == "(").last()
    }

    /// Finds out which names go one way.
    pub fn count_names(&mut self) {
        let named = std::mem::take(&mut self.manner.named);
        let mut names: HashMap<(Key, &str), Places> = HashMap::new();
        for Named { gap, key, shows } in &named {
            let places = names.entry((*key, self.name_at(*gap, *key))).or_default();
            shows.iter().for_each(|second| places.shown[usize::from(*second)] += 1);
            places.gaps.push(*gap);
        }
        let told: Vec<_> = names.into_iter().map(|((key, _), places)| (key, places)).collect();
        for (key, places) in told {
            // The few types of a well-kept file go as they are.
            let enough = if key == Key::BraceType && self.meant.is_some() { 1 } else { ENOUGH };
            if let Some(second) = self.manner.vote_for_name(key, places.shown, enough) {
                self.manner.own.extend(places.gaps.into_iter().map(|gap| ((gap, key), second)));
            }
        }
    }

    /// Which way the name at a gap goes, if it goes one and nothing is set.
    pub fn own_way(&self, gap: u32, key: Key) -> Option<bool> {
        self.manner.own.get(&(gap, key)).filter(|_| self.style.word(key) == "as-found").copied()
    }
}
