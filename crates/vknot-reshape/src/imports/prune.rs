//! Which imports stay: duplicates go, and those that nothing needs as far as that is known.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Span};

use crate::receipt::{Act, Fate, Note, Receipt, TokenChange};
use crate::spec::imports::{Import, Name, Uses, Verdict};
use crate::spec::Evidence;
use super::block::{Block, Entry};
use super::organizing::Organizing;
use super::words::has_comment;

pub(super) struct Pruner<'o, 'a> {
    organizing: &'o Organizing<'a>,
    uses: Option<Uses<'a>>,
    /// What was imported before, by what holds it.
    seen: HashSet<(NodeId, String)>,
    doubted: bool,
}

impl<'o, 'a> Pruner<'o, 'a> {
    pub fn new(organizing: &'o Organizing<'a>, blocks: &[(Block, Vec<Entry>)]) -> Self {
        let some = blocks.iter().any(|(_, entries)| !entries.is_empty());
        let uses = organizing.spec.uses.filter(|_| some && organizing.wanted.acts.prune);
        let uses = uses.map(|uses| uses(organizing.code, &organizing.wants));
        Pruner { organizing, uses, seen: HashSet::new(), doubted: false }
    }

    /// The entries of a block without what goes.
    pub fn kept(&mut self, block: &Block, entries: Vec<Entry>, receipt: &mut Receipt) -> Vec<Entry> {
        if !self.organizing.wanted.acts.prune {
            return entries;
        }
        entries.into_iter().filter_map(|entry| self.entry(block.holder, entry, receipt)).collect()
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
            let fate = |act: Act, why: String| Fate { import: text.clone(), span, act, why };
            match self.verdict(holder, &import, name) {
                Verdict::Dead(why) if stays => {
                    receipt.imports.push(fate(Act::Kept, format!("{why}, but is kept because of its comment")));
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
        let Some(uses) = &self.uses else { return Verdict::Needed };
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
        let doubt = self.uses.and_then(|uses| uses.doubt);
        if let Some(why) = doubt.filter(|_| self.doubted || changed) {
            let text = format!("{why}, so no import was taken for unused");
            receipt.notes.push(Note { span: Span::new(0, 0), text });
        }
    }
}
