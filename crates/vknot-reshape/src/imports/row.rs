//! A block of imports put in order and written.

use std::cell::OnceCell;
use std::collections::HashMap;

use vknot_style::choices::{ImportMerge, WrapComma};
use vknot_syntax::Span;

use crate::receipt::{Act, Fate, Note, Receipt};
use crate::spec::imports::{Import, Name, Room};
use super::block::{Block, Entry};
use super::held::{Hold, Loads};
use super::names::NameOrder;
use super::order::{Order, Standing};
use super::organizing::{Merging, Organizing};
use super::places;
use super::words::one_line;

/// A block's new text, and where in it imports stand that were written anew.
pub(super) struct Text {
    pub text: String,
    pub rewritten: Vec<Span>,
}

/// Why imports in a form stay in their order.
const CANNOT_MOVE: &str =
    "imports stay as they are: a comment, or a text of several lines, would not fit where it would come to stand";

pub(super) struct Rower<'o, 'a> {
    organizing: &'o Organizing<'a>,
    order: Order,
    /// How names are sorted, if they are.
    names: Option<NameOrder>,
    merge: Merging,
    level: String,
    width: usize,
    /// What imports load, where that may hold them.
    loads: OnceCell<Option<Loads<'a>>>,
}

/// An import of which others from the same place become a part.
struct Host {
    at: usize,
    /// The last name of all from there so far.
    last: Option<Name>,
    /// Whether their names are in order.
    sorted: bool,
    /// Whether one that is left apart follows it.
    parted: bool,
}

/// An import with its place.
#[derive(Clone)]
struct Placed {
    entry: Entry,
    standing: Option<Standing>,
    /// Its place in the block as it was.
    index: usize,
    hold: Hold,
}

impl<'o, 'a> Rower<'o, 'a> {
    pub fn new(
        organizing: &'o Organizing<'a>,
        order: Order,
        names: Option<NameOrder>,
        merge: Merging,
        width: usize,
    ) -> Self {
        let acts = organizing.wanted.acts;
        let order = if acts.group { order } else { order.in_written_groups() };
        Rower {
            organizing,
            order,
            names: names.filter(|_| acts.sort),
            merge,
            level: organizing.level(),
            width,
            loads: OnceCell::new(),
        }
    }

    /// The block's new text; `None` when nothing is left of it.
    pub fn text(&mut self, block: &Block, entries: Vec<Entry>, receipt: &mut Receipt) -> Option<Text> {
        if entries.is_empty() {
            return None;
        }
        let mut placed: Vec<Placed> = Vec::new();
        let mut row: Vec<Placed> = Vec::new();
        let places: HashMap<_, _> = block.lines.iter().enumerate().map(|(index, line)| (line.node, index)).collect();
        let groups: Vec<usize> = block.lines
            .iter()
            .scan(0, |group, line| {
                *group += usize::from(line.blank > 0);
                Some(*group)
            })
            .collect();
        for entry in entries {
            let index = places.get(&entry.line.node).copied().unwrap_or_default();
            let group = entry.group.place(groups.get(index).copied().unwrap_or_default());
            let free = !entry.is_barrier();
            let standing = entry.import.as_ref().filter(|_| free);
            let standing = standing.map(|import| self.organizing.standing(import, group, entry.line.blank > 0));
            row.push(Placed { entry, standing, index, hold: Hold::Free });
            if !free {
                let barrier = row.pop();
                placed.extend(self.in_order(std::mem::take(&mut row), receipt));
                placed.extend(barrier);
            }
        }
        placed.extend(self.in_order(row, receipt));
        if !block.places.is_empty() {
            return Some(self.in_places(block, &placed, receipt));
        }
        self.hold_comments(block, &mut placed);
        self.tell_moves(&placed, receipt);
        Some(self.written(block, placed))
    }

    /// The text of a block whose imports are items of a form.
    fn in_places(&self, block: &Block, placed: &[Placed], receipt: &mut Receipt) -> Text {
        let code = self.organizing.code;
        let order: Vec<usize> = placed.iter().map(|placed| placed.index).collect();
        let text = places::text(code, block, &order).filter(|_| placed.len() == block.places.len());
        match &text {
            Some(_) => self.tell_moves(placed, receipt),
            None => receipt.notes.push(Note { span: block.span, text: CANNOT_MOVE.to_owned() }),
        }
        Text { text: text.unwrap_or_else(|| code.source.slice(block.span).to_owned()), rewritten: Vec::new() }
    }

    /// A row between two imports that nothing passes, put in order as far as what is loaded by it allows.
    fn in_order(&self, row: Vec<Placed>, receipt: &mut Receipt) -> Vec<Placed> {
        let mut told = Receipt::default();
        let made = self.made(row.clone(), &mut told);
        let is_same = |(made, own): (&Placed, &Placed)| made.index == own.index
            && made.entry.import == own.entry.import;
        let is_as_written = made.len() == row.len() && made.iter().zip(&row).all(is_same);
        // What the project's files load is asked only where something would change.
        let loads = || self.loads.get_or_init(|| Loads::of(self.organizing)).as_ref();
        let Some(loads) = (!is_as_written).then(loads).flatten() else {
            receipt.imports.append(&mut told.imports);
            return made;
        };
        let holds = loads.holds(row.iter().map(|placed| placed.entry.import.as_ref()));
        let mut parts = Vec::new();
        let mut part = Vec::new();
        for (placed, hold) in row.into_iter().zip(holds) {
            if hold != Hold::Free {
                let span = self.organizing.code.tree.node(placed.entry.line.node).span();
                let why = "modules of the project load each other in a circle".to_owned();
                receipt.imports.push(Fate::new(one_line(&placed.entry.written), span, Act::Held, why));
            }
            let held = Placed { hold, standing: placed.standing.filter(|_| hold != Hold::Stays), ..placed };
            if hold == Hold::Stays {
                parts.extend(self.made(std::mem::take(&mut part), receipt));
                parts.push(held);
            } else {
                part.push(held);
            }
        }
        parts.extend(self.made(part, receipt));
        parts
    }

    /// A row merged, its names sorted, sorted.
    fn made(&self, row: Vec<Placed>, receipt: &mut Receipt) -> Vec<Placed> {
        let mut row = self.split(self.merged(row, receipt));
        if let Some(names) = self.names {
            let free = row.iter_mut().filter(|placed| placed.hold == Hold::Free);
            let imports = free.filter_map(|placed| placed.entry.import.as_mut());
            imports.filter(|one| !one.fixed).for_each(|one| names.sort(&mut one.names, self.organizing.spec));
        }
        let standing = |placed: &Placed| {
            let (import, old) = (placed.entry.import.as_ref()?, placed.standing.as_ref()?);
            let new = self.organizing.standing(import, 0, old.is_apart());
            Some(new.in_group(old.written_group()))
        };
        row.iter_mut().for_each(|placed| placed.standing = standing(placed));
        self.tie(&mut row);
        if self.organizing.wanted.acts.sort {
            row.sort_by(|a, b| self.rank(a).cmp(&self.rank(b)));
        } else if self.organizing.wanted.acts.group {
            row.sort_by_key(|placed| placed.standing.as_ref().map(|standing| self.order.place(standing)));
        }
        row
    }

    /// Those that are tied stand no further in front than the one of them that was in front of them.
    fn tie(&self, row: &mut [Placed]) {
        let mut last: Option<Standing> = None;
        for placed in row.iter_mut().filter(|placed| placed.hold == Hold::Tied) {
            match (&last, &placed.standing) {
                (Some(before), Some(own)) if self.order.rank(own) < self.order.rank(before) => {
                    placed.standing = last.clone();
                }
                _ => last.clone_from(&placed.standing),
            }
        }
    }

    fn rank<'s>(&self, placed: &'s Placed) -> Option<super::order::Rank<'s>> {
        placed.standing.as_ref().map(|standing| self.order.rank(standing))
    }

    /// Whether an import is one of those to which this is done.
    fn is_to(&self, way: ImportMerge, import: &Import) -> bool {
        self.merge.of(self.organizing.spec, import) == way
    }

    fn merged(&self, row: Vec<Placed>, receipt: &mut Receipt) -> Vec<Placed> {
        let mut merged: Vec<Placed> = Vec::with_capacity(row.len());
        let mut hosts: HashMap<(usize, String), Host> = HashMap::new();
        for placed in row {
            let group = placed.standing.as_ref().filter(|_| self.order.written);
            let group = group.map_or(0, |standing| standing.written_group());
            let import = placed.entry.import.as_ref().filter(|_| placed.entry.is_plain() && placed.hold == Hold::Free);
            let keyed = import.and_then(|import| Some((import, (self.organizing.spec.merges)(import)?)));
            let Some((import, key)) = keyed else {
                merged.push(placed);
                continue;
            };
            let host = hosts.get_mut(&(group, key.clone()));
            match host.filter(|host| !self.is_parted(host, import)) {
                None if self.is_to(ImportMerge::Merge, import) => {
                    let sorted = self.goes_on(None, import);
                    let last = import.names.last().cloned();
                    hosts.insert((group, key), Host { at: merged.len(), last, sorted, parted: false });
                    merged.push(placed);
                }
                Some(host) if self.is_to(ImportMerge::Merge, import) => {
                    let span = self.organizing.code.tree.node(placed.entry.line.node).span();
                    if !placed.entry.written.is_empty() {
                        let why = "comes from the same place as another one".to_owned();
                        let import = one_line(&placed.entry.written);
                        receipt.imports.push(Fate::new(import, span, Act::Merged, why));
                    }
                    self.follow(host, import);
                    if let Some(own) = merged[host.at].entry.import.as_mut() {
                        own.names.extend(import.names.iter().cloned());
                    }
                }
                host => {
                    if let Some(host) = host {
                        self.follow(host, import);
                        host.parted = true;
                    }
                    merged.push(placed);
                }
            }
        }
        merged
    }

    /// Whether one that is left apart stands between two others where its name does, so that the three are in order as they are.
    fn is_parted(&self, host: &Host, import: &Import) -> bool {
        host.parted && host.sorted && self.goes_on(host.last.as_ref(), import)
    }

    /// Takes note of an import that follows a host.
    fn follow(&self, host: &mut Host, import: &Import) {
        host.sorted &= self.goes_on(host.last.as_ref(), import);
        host.last = import.names.last().cloned().or(host.last.take());
    }

    /// Whether the names of an import go on behind another one as names are sorted.
    fn goes_on(&self, last: Option<&Name>, import: &Import) -> bool {
        let names: Vec<Name> = last.into_iter().chain(&import.names).cloned().collect();
        self.names.is_some_and(|order| order.faults(&names, self.organizing.spec) == 0)
    }

    /// A comment in front of the first import of a group heads the group: an import that would bring its own there stands behind the next
    /// one that has none.
    fn hold_comments(&self, block: &Block, placed: &mut [Placed]) {
        let mut start = 0;
        while start < placed.len() {
            let together = |pair: &[Placed]| {
                let [before, now] = pair else { return false };
                before.standing.is_some() && now.standing.is_some() && self.blank(block, before, now) == 0
            };
            let end = start + 1 + placed[start..].windows(2).take_while(|pair| together(pair)).count();
            let group = &mut placed[start..end];
            if let Some(first) = group.iter().position(|placed| !placed.entry.line.commented) {
                group[..=first].rotate_right(1);
            }
            start = end;
        }
    }

    /// Every name in an import of its own.
    fn split(&self, row: Vec<Placed>) -> Vec<Placed> {
        let mut split = Vec::with_capacity(row.len());
        for placed in row {
            let import =
                placed.entry.import.as_ref().filter(|import| placed.entry.is_plain() && import.names.len() > 1);
            let import = import.filter(|import| self.is_to(ImportMerge::Split, import));
            let Some(import) = import.filter(|import| (self.organizing.spec.merges)(import).is_some()) else {
                split.push(placed);
                continue;
            };
            for (at, name) in import.names.iter().enumerate() {
                let alone = Import { names: vec![name.clone()], broken: false, ..import.clone() };
                let mut line = placed.entry.line.clone();
                line.blank = if at == 0 { line.blank } else { 0 };
                let entry = Entry { line, import: Some(alone), ..placed.entry.clone() };
                split.push(Placed { entry, ..placed.clone() });
            }
        }
        split
    }

    /// Says of each import in front of which another one stands now that stood behind it.
    fn tell_moves(&self, placed: &[Placed], receipt: &mut Receipt) {
        let mut highest = None;
        for placed in placed {
            if highest.is_some_and(|highest| placed.index < highest) && !placed.entry.written.is_empty() {
                let span = self.organizing.code.tree.node(placed.entry.line.node).span();
                let why = "stands in order".to_owned();
                receipt.imports.push(Fate::new(one_line(&placed.entry.written), span, Act::Moved, why));
            }
            highest = highest.max(Some(placed.index));
        }
    }

    fn written(&self, block: &Block, placed: Vec<Placed>) -> Text {
        let line_end = block.line_end;
        let mut text = String::new();
        let mut rewritten = Vec::new();
        let mut before: Option<&Placed> = None;
        for now in &placed {
            if let Some(before) = before {
                let blank = self.blank(block, before, now);
                (0..=blank).for_each(|_| text.push_str(line_end));
            }
            text.push_str(&now.entry.line.in_front(&block.indent, line_end));
            text.push_str(&block.indent);
            let start = text.len() as u32;
            let (import, is_new) = self.import(block, &now.entry);
            text.push_str(&import);
            if is_new {
                rewritten.push(Span::new(start, text.len() as u32));
            }
            if let Some(behind) = &now.entry.line.behind {
                text.push_str(behind);
            }
            before = Some(now);
        }
        // What is in front of a piece is no part of it.
        let margin = if block.span.start == 0 { self.organizing.margin } else { "" };
        let rewritten = rewritten.into_iter().map(|span| {
            let back = |at: u32| at.saturating_sub(margin.len() as u32);
            Span::new(back(span.start), back(span.end))
        });
        Text { rewritten: rewritten.collect(), text: text.split_off(margin.len().min(text.len())) }
    }

    /// How many blank lines stand between two imports: as many as their author had, if any belong there and the two were neighbours.
    fn blank(&self, block: &Block, before: &Placed, now: &Placed) -> u32 {
        let skipped = block.lines.get(before.index + 1..=now.index).unwrap_or_default();
        let was = skipped.iter().map(|line| line.blank).max().unwrap_or(0);
        let parts = match (&before.standing, &now.standing) {
            (Some(before), Some(now)) => self.order.parts(before, now),
            // Beside what nothing passes all stays as it is.
            _ => was > 0,
        };
        match (parts, now.index == before.index + 1) {
            (false, _) => 0,
            (true, true) => was.max(1),
            (true, false) => 1,
        }
    }

    /// Whether a broken list of names gets a comma behind the last: as its author had it in one, else unless no list has one.
    fn takes_comma(&self, written: &str) -> bool {
        let broken = written.rsplit_once('}').map(|(names, _)| names).filter(|names| names.contains('\n'));
        match broken {
            Some(names) => names.trim_end().ends_with(','),
            None => self.organizing.style.choice::<WrapComma>() != WrapComma::Remove,
        }
    }

    /// Whether an import of several names says in its order what it said, and nothing asks for more.
    fn is_as_read(&self, entry: &Entry, import: &Import) -> bool {
        let asked = self.organizing.style.choice::<ImportMerge>() != ImportMerge::AsFound;
        let read = || (self.organizing.spec.read)(self.organizing.code, entry.line.node);
        !asked
            && import.names.len() > 1
            && !entry.written.is_empty()
            && read().is_some_and(|read| self.organizing.held(read) == *import)
    }

    /// An import as it is to be, and whether that differs from how its author wrote it.
    fn import(&self, block: &Block, entry: &Entry) -> (String, bool) {
        let Some(import) = entry.import.as_ref().filter(|import| !import.fixed) else {
            return (entry.written.clone(), false);
        };
        let plain = (self.organizing.spec.write)(import, Room::ENDLESS);
        if bare(&plain) == bare(&entry.written) || self.is_as_read(entry, import) {
            return (entry.written.clone(), false);
        }
        let room = Room {
            width: self.width,
            column: block.indent.chars().count(),
            level: &self.level,
            indent: &block.indent,
            line_end: block.line_end,
            comma: self.takes_comma(&entry.written),
        };
        ((self.organizing.spec.write)(import, room), true)
    }
}

/// What of an import's text says something.
fn bare(text: &str) -> String {
    let mut bare = String::with_capacity(text.len());
    for c in text.chars().filter(|c| !c.is_whitespace() && !matches!(c, '(' | ')' | '\\')) {
        if c == '}' && bare.ends_with(',') {
            bare.pop();
        }
        bare.push(c);
    }
    bare.trim_end_matches(',').to_owned()
}
