//! How many blank lines in a row a file keeps between what stands beside each other.

use vknot_style::{Key, Style};
use vknot_syntax::{NodeId, Role};

use crate::spec::Code;

/// How many places must show that more than one blank line is meant, or that one is the rule.
const ENOUGH: u32 = 3;

/// One in how many of all places must show it.
const COMMON: u32 = 3;

/// The most blank lines that a setting allows.
const MOST: usize = 9;

/// How many are kept: as set, else as the file shows, else as the files beside it do, else one.
pub(super) fn most(code: Code<'_>, style: &Style) -> u8 {
    let beside = || style.beside(Key::BlankMost).and_then(|lines| lines.parse().ok());
    let open = || shown(code).or_else(beside).unwrap_or(1);
    style.number(Key::BlankMost).map_or_else(open, |lines| lines as u8)
}

/// How many places show it in a file, however many do not.
const MANY: u32 = 10;

/// The number that a third of the places with blank lines have, or many of them, if enough tell: between the items of files and namespaces, or
/// between the members of types, which may stand closer, as statements do. `None` where too few places tell.
pub(super) fn shown(code: Code<'_>) -> Option<u8> {
    let (tree, text, table) = (code.tree, code.source.text(), &code.toolkit().indent);
    let mut places = [Places::default(); 2];
    for holder in (0..tree.nodes().len() as u32).map(NodeId) {
        let of_type = match tree.role(holder) {
            Role::File => false,
            Role::Body => !tree.parent(holder).is_some_and(|parent| table.kind(tree.node(parent).kind).namespace),
            _ => continue,
        };
        // Brackets and separators stand beside nothing.
        let stands = |id: &NodeId| !matches!(tree.text_of(text, *id), "{" | "}" | ";" | ",");
        for item in tree.children(holder).filter(stands).skip(1) {
            let newlines = tree.gap(text, tree.node(item).first_token).newlines;
            places[usize::from(of_type)].count(newlines as usize);
        }
    }
    places.iter().filter_map(Places::shown).max()
}

/// On how many places there are at least so many blank lines.
#[derive(Clone, Copy, Default)]
struct Places([u32; MOST + 1]);

impl Places {
    fn count(&mut self, newlines: usize) {
        self.0.iter_mut().take(newlines).skip(1).for_each(|places| *places += 1);
    }

    fn shown(&self) -> Option<u8> {
        let all = self.0[1];
        let meant = |lines: &usize| {
            let places = self.0[*lines];
            places >= MANY || places >= ENOUGH && places * COMMON >= all
        };
        (all >= ENOUGH).then(|| (1..=MOST).rev().find(meant).unwrap_or(1) as u8)
    }
}
