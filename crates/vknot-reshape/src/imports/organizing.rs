//! What there is to go by when imports are put in order, and what a file shows of its author's ways.

use std::cell::LazyCell;
use std::collections::HashMap;

use vknot_style::{Key, Style};
use vknot_style::choices::{Choice, ImportMerge, ImportNames};

use crate::frames::found::effective_indentation;
use crate::spec::Code;
use crate::spec::imports::{Import, Surroundings, Uses, Wants};
use crate::spec::ImportSpec;
use super::block::{self, Block, Entry, Group};
use super::names::NameOrder;
use super::order::{self, Order, Standing};

/// What is done to imports.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Acts {
    /// They are sorted.
    pub sort: bool,
    /// They are put in groups.
    pub group: bool,
    /// Those from one place become one.
    pub merge: bool,
    /// Those that nothing needs go.
    pub prune: bool,
}

impl Default for Acts {
    fn default() -> Self {
        Acts { sort: true, group: true, merge: true, prune: true }
    }
}

/// What is wanted of imports.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Wanted {
    /// What is done.
    pub acts: Acts,
    /// Whether what is used and not imported is imported, where it is certain from where.
    pub missing: bool,
    /// Names, each with from where it is to be imported.
    pub chosen: Vec<(String, String)>,
}

/// Whether imports are merged or split.
#[derive(Clone, Copy, Debug)]
pub(super) struct Merging {
    most: ImportMerge,
    /// Those that people often leave apart.
    apart: ImportMerge,
}

impl Merging {
    fn all(way: ImportMerge) -> Merging {
        Merging { most: way, apart: way }
    }

    /// For one import.
    pub fn of(self, spec: &ImportSpec, import: &Import) -> ImportMerge {
        if (spec.left_apart)(import) { self.apart } else { self.most }
    }
}

/// All imports of some blocks of which it is known what they say.
fn imports_of(blocks: &[(Block, Vec<Entry>)]) -> impl Iterator<Item = &Import> {
    blocks.iter().flat_map(|(_, entries)| entries).filter_map(|entry| entry.import.as_ref())
}

/// What there is to go by.
pub(crate) struct Organizing<'a> {
    pub code: Code<'a>,
    pub spec: &'static ImportSpec,
    pub style: &'a Style,
    pub wanted: &'a Wanted,
    pub wants: Wants,
    pub around: &'a dyn Surroundings,
    /// What is used beside the file, where that counts as used in it: in the other cells of a notebook.
    pub beside: Option<&'a Uses<'a>>,
    /// What is in front of the first line, where the text is a piece of a file.
    pub margin: &'a str,
}

impl Organizing<'_> {
    /// A block with its imports taken apart.
    pub fn entries(&self, block: Block) -> (Block, Vec<Entry>) {
        let text = self.code.source.text();
        let entry = |line: &block::Line| Entry {
            import: (self.spec.read)(self.code, line.node).map(|import| self.held(import)),
            written: self.code.tree.text_of(text, line.node).to_owned(),
            line: line.clone(),
            group: Group::Own,
        };
        let entries = block.lines.iter().map(entry).collect();
        (block, entries)
    }

    /// An import that nothing passes where it does not count as one.
    pub fn held(&self, import: Import) -> Import {
        Import { barrier: import.barrier || import.required && !self.wants.required, ..import }
    }

    /// The order that the file shows, or that it gets.
    pub fn order(&self, blocks: &[(Block, Vec<Entry>)]) -> Order {
        order::order(self.spec, self.style, &self.rows(blocks))
    }

    /// What the file shows of its order.
    pub fn told(&self, blocks: &[(Block, Vec<Entry>)]) -> Vec<(Key, String)> {
        let mut told = order::told(self.spec, self.style, &self.rows(blocks));
        let merge = self.shown_merge(blocks, false).filter(|_| self.style.language().covers(Key::ImportMerge));
        told.extend(merge.map(|merge| (Key::ImportMerge, merge.word().to_owned())));
        told
    }

    /// What stands between two imports that nothing passes, one row each.
    fn rows(&self, blocks: &[(Block, Vec<Entry>)]) -> Vec<Vec<Standing>> {
        let mut rows: Vec<Vec<Standing>> = Vec::new();
        for (_, entries) in blocks {
            let mut row = Vec::new();
            let mut group = 0;
            for entry in entries {
                group += usize::from(entry.line.blank > 0);
                match &entry.import {
                    Some(import) if !import.barrier => row.push(self.standing(import, group, entry.line.blank > 0)),
                    _ => rows.push(std::mem::take(&mut row)),
                }
            }
            rows.push(row);
        }
        rows.retain(|row| !row.is_empty());
        rows
    }

    pub fn standing(&self, import: &Import, group: usize, apart: bool) -> Standing {
        let around = order::asks_home(self.spec, self.style).then_some(self.around);
        Standing::of(self.spec, import, around, &self.wants.own, group, apart)
    }

    /// How names inside imports are sorted, if they are.
    pub fn names(&self, blocks: &[(Block, Vec<Entry>)]) -> Option<NameOrder> {
        let imports = || imports_of(blocks);
        let pairs: usize = imports().map(|import| import.names.len().saturating_sub(1)).sum();
        let orders = NameOrder::all(self.spec).into_iter();
        let faults = |order: NameOrder| imports().map(|import| order.faults(&import.names, self.spec)).sum::<usize>();
        let (faults, best) = orders.map(|order| (faults(order), order)).min_by_key(|(faults, _)| *faults)?;
        match self.style.choice() {
            ImportNames::Keep => None,
            ImportNames::Sort => Some(best),
            ImportNames::AsFound => (faults * 5 <= pairs).then_some(best),
        }
    }

    /// Whether imports are merged or split: as set, else as the file shows, else as those beside it do, else as most people have it:
    /// what is a jumble is merged. Those that people often leave apart are told by themselves.
    pub fn merge(&self, blocks: &[(Block, Vec<Entry>)]) -> Merging {
        match self.style.choice() {
            _ if !self.wanted.acts.merge => Merging::all(ImportMerge::Keep),
            // Where none can be made one with others, nothing needs to be told.
            ImportMerge::AsFound if !imports_of(blocks).any(|import| (self.spec.merges)(import).is_some()) => {
                Merging::all(self.spec.merge)
            }
            ImportMerge::AsFound => {
                let beside = || {
                    let word = self.style.beside(Key::ImportMerge)?;
                    ImportMerge::WORDS.iter().find(|(own, _)| *own == word).map(|(_, way)| *way)
                };
                // A jumble shows nothing that is meant.
                let in_order = LazyCell::new(|| order::is_in_order(self.spec, self.style, &self.rows(blocks)));
                let usual = |way: ImportMerge| if *in_order { way } else { ImportMerge::Merge };
                let most = self.shown_merge(blocks, false).or_else(beside).unwrap_or_else(|| usual(self.spec.merge));
                let apart = self.shown_merge(blocks, true).unwrap_or_else(|| usual(ImportMerge::Keep));
                Merging { most, apart }
            }
            set => Merging::all(set),
        }
    }

    /// Whether a file shows that its author makes one of imports that could be, be they such as people often leave apart or others. Imports
    /// of several names speak for it, those that could be part of another one against it.
    fn shown_merge(&self, blocks: &[(Block, Vec<Entry>)], left_apart: bool) -> Option<ImportMerge> {
        let (mut lists, mut apart) = (0, 0);
        for (_, entries) in blocks {
            // Whether the first from a place is one of those.
            let mut seen: HashMap<String, bool> = HashMap::new();
            let imports = entries.iter().filter(|entry| entry.is_plain()).filter_map(|entry| entry.import.as_ref());
            for import in imports {
                let Some(key) = (self.spec.merges)(import) else { continue };
                let own = (self.spec.left_apart)(import);
                let first = seen.get(&key).copied();
                lists += usize::from(own == left_apart && import.names.len() > 1);
                apart += usize::from(first.is_some_and(|first| (own || first) == left_apart));
                seen.entry(key).or_insert(own);
            }
        }
        match () {
            () if lists > 0 && apart * 4 <= lists => Some(ImportMerge::Merge),
            () if apart > lists => Some(ImportMerge::Keep),
            () => None,
        }
    }

    /// Columns of a line, for what is written without a layout: as set, else as many as all imports of the file keep to.
    pub fn width(&self, blocks: &[(Block, Vec<Entry>)]) -> usize {
        const USUAL: [usize; 4] = [79, 88, 100, 120];
        if let Some(width) = self.style.number(Key::MaxLineLength) {
            return width as usize;
        }
        if self.style.word(Key::MaxLineLength) == "off" {
            return usize::MAX;
        }
        let lines = blocks.iter().flat_map(|(block, _)| self.code.source.slice(block.span).lines());
        let longest = lines.map(|line| line.chars().count()).max().unwrap_or(0);
        USUAL.into_iter().find(|width| longest <= *width).unwrap_or(100)
    }

    /// One level of indentation.
    pub fn level(&self) -> String {
        let indentation = effective_indentation(self.code, self.style);
        if indentation.tabs { "\t".to_owned() } else { " ".repeat(indentation.size as usize) }
    }
}
