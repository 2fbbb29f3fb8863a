//! Which imports stay: duplicates go, and those that nothing needs as far as that is known.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Span};

use crate::receipt::{Act, Fate, Note, Receipt, TokenChange};
use crate::spec::imports::{Import, Name, Uses, Verdict};
use crate::spec::Evidence;
use super::block::{Block, Entry};
use super::organizing::Organizing;
use super::words::has_comment;

/// Why something stays that nothing needs.
const FOR_ITS_COMMENT: &str = ", but is kept because of its comment";

pub(super) struct Pruner<'o, 'a> {
    organizing: &'o Organizing<'a>,
    /// What the file uses on its own.
    own: Option<Uses<'a>>,
    /// What was imported before, by what holds it.
    seen: HashSet<(NodeId, String)>,
    doubted: bool,
}

impl<'o, 'a> Pruner<'o, 'a> {
    pub fn new(organizing: &'o Organizing<'a>, blocks: &[(Block, Vec<Entry>)]) -> Self {
        let some = blocks.iter().any(|(_, entries)| !entries.is_empty());
        let uses = organizing.spec.uses.filter(|_| some && organizing.wanted.acts.prune);
        // What is used beside the file holds its own, too.
        let own = uses.filter(|_| organizing.beside.is_none()).map(|uses| uses(organizing.code, &organizing.wants));
        Pruner { organizing, own, seen: HashSet::new(), doubted: false }
    }

    fn uses(&self) -> Option<&Uses<'a>> {
        self.organizing.beside.or(self.own.as_ref())
    }

    /// The entries of a block without what goes.
    pub fn kept(&mut self, block: &Block, entries: Vec<Entry>, receipt: &mut Receipt) -> Vec<Entry> {
        if !self.organizing.wanted.acts.prune {
            return entries;
        }
        let first = entries.first().cloned();
        let fates = receipt.imports.len();
        let mut kept: Vec<Entry> =
            entries.into_iter().filter_map(|entry| self.entry(block.holder, entry, receipt)).collect();
        // What comes to be the first would lose its comment to what heads them all, and with it what it is kept for.
        let promoted = kept.first().zip(first).filter(|(next, first)| next.line.node != first.line.node);
        if let Some((next, first)) = promoted && self.is_needless(next, &receipt.imports[fates..]) {
            self.restore(&first, receipt, fates);
            kept.insert(0, first);
        }
        kept
    }

    /// Whether nothing needs any part of an import that is kept for its comment.
    fn is_needless(&self, entry: &Entry, fates: &[Fate]) -> bool {
        let span = self.organizing.code.tree.node(entry.line.node).span();
        let names = entry.import.as_ref().map_or(0, |import| import.names.len());
        !entry.line.above.is_empty()
            && names > 0
            && fates.iter().filter(|fate| fate.span == span && fate.why.ends_with(FOR_ITS_COMMENT)).count() == names
    }

    /// Takes back that an import goes.
    fn restore(&self, entry: &Entry, receipt: &mut Receipt, fates: usize) {
        let node = self.organizing.code.tree.node(entry.line.node);
        receipt.removed.retain(|change| change.token != node.first_token);
        let own =
            receipt.imports.iter_mut().skip(fates).filter(|fate| fate.span == node.span() && fate.act == Act::Removed);
        for fate in own {
            fate.act = Act::Kept;
            fate.why += ", but is kept in front of the comment of the next one";
        }
    }

    fn entry(&mut self, holder: NodeId, mut entry: Entry, receipt: &mut Receipt) -> Option<Entry> {
        if entry.written.is_empty() {
            return Some(entry);
        }
        let Some(import) = entry.import.take() else { return Some(entry) };
        let span = self.organizing.code.tree.node(entry.line.node).span();
        // What is left as it is written goes whole or not at all.
        let whole = import.names.len() > 1 && import.fixed;
        let stays = entry.line.is_dressed() || whole || has_comment(self.organizing.code, entry.line.node);
        let mut kept = Vec::with_capacity(import.names.len());
        for name in &import.names {
            let text = (self.organizing.spec.leaf)(&import, name);
            let fate = |act: Act, why: String| Fate::new(text.clone(), span, act, why);
            match self.verdict(holder, &import, name) {
                Verdict::Dead(why) if stays => {
                    receipt.imports.push(fate(Act::Kept, why.to_owned() + FOR_ITS_COMMENT));
                }
                Verdict::Dead(why) => {
                    receipt.imports.push(fate(Act::Removed, why.to_owned()));
                    self.remove(&entry, text, receipt);
                    continue;
                }
                Verdict::Unknown(why) => receipt.imports.push(fate(Act::Kept, why)),
                Verdict::Needed => {}
            }
            kept.push(name.clone());
        }
        let goes = kept.is_empty() && !import.names.is_empty();
        entry.import = Some(Import { names: kept, ..import });
        (!goes).then_some(entry)
    }

    fn verdict(&mut self, holder: NodeId, import: &Import, name: &Name) -> Verdict {
        let key = (holder, (self.organizing.spec.leaf)(import, name));
        if !import.barrier && !self.seen.insert(key) {
            return Verdict::Dead("is imported twice");
        }
        let Some(uses) = self.uses() else { return Verdict::Needed };
        let evidence = Evidence { code: self.organizing.code, uses, around: self.organizing.around };
        match (self.organizing.spec.judge)(&evidence, import, name, &self.organizing.wants) {
            Verdict::Dead("is not used") if uses.doubt.is_some() => {
                self.doubted = true;
                Verdict::Needed
            }
            verdict => verdict,
        }
    }

    fn remove(&mut self, entry: &Entry, text: String, receipt: &mut Receipt) {
        let node = self.organizing.code.tree.node(entry.line.node);
        receipt.removed.push(TokenChange { text, offset: node.start, token: node.first_token });
    }

    /// Says why nothing was taken for unused, where that was so.
    pub fn finish(self, receipt: &mut Receipt, changed: bool) {
        let doubt = self.uses().and_then(|uses| uses.doubt);
        if let Some(why) = doubt.filter(|_| self.doubted || changed) {
            let text = format!("{why}, so no import was taken for unused");
            receipt.notes.push(Note { span: Span::new(0, 0), text });
        }
    }
}
