//! Wildcards made single imports, and single imports a wildcard, where the style says so and all names of a package are known.

use std::collections::BTreeMap;

use vknot_style::Key;

use crate::receipt::{Act, Fate, Receipt, TokenChange};
use crate::spec::imports::{Form, Import, Uses};
use crate::spec::{Evidence, WildcardSpec};
use super::block::{Entry, Group};
use super::organizing::Organizing;
use super::words::one_line;

/// What becomes of wildcards.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Way {
    /// Each becomes an import for each name that is used.
    Expand,
    /// So many from one place become one.
    Collapse(usize),
}

/// Does it to the imports of a file.
pub(super) struct Wildcards<'o, 'a> {
    organizing: &'o Organizing<'a>,
    spec: &'static WildcardSpec,
    uses: Uses<'a>,
    way: Way,
    /// What has become part of a wildcard by now, in any block.
    before: Vec<Import>,
}

impl<'o, 'a> Wildcards<'o, 'a> {
    /// `None` where wildcards stay as they are.
    pub fn of(organizing: &'o Organizing<'a>) -> Option<Self> {
        let spec = organizing.spec.wildcards.filter(|_| organizing.wanted.acts.merge)?;
        let way = match organizing.style.number(Key::ImportWildcard) {
            Some(least) => Way::Collapse(least as usize),
            None if organizing.style.word(Key::ImportWildcard) == "expand" => Way::Expand,
            None => return None,
        };
        let uses = organizing.spec.uses?(organizing.code, &organizing.wants);
        Some(Wildcards { organizing, spec, uses, way, before: Vec::new() })
    }

    /// The entries of a block as they are then.
    pub fn applied(&mut self, entries: Vec<Entry>, receipt: &mut Receipt) -> Vec<Entry> {
        match self.way {
            Way::Expand => entries.into_iter().flat_map(|entry| self.expanded(entry, receipt)).collect(),
            Way::Collapse(least) => self.collapsed(entries, least, receipt),
        }
    }

    fn evidence(&self) -> Evidence<'_> {
        Evidence { code: self.organizing.code, uses: &self.uses, around: self.organizing.around }
    }

    fn expanded(&self, entry: Entry, receipt: &mut Receipt) -> Vec<Entry> {
        let wildcard = entry.import.as_ref().filter(|import| entry.is_plain() && is_wildcard(import));
        let Some(import) = wildcard.filter(|_| !entry.written.is_empty()) else { return vec![entry] };
        match (self.spec.expands)(&self.evidence(), import) {
            // Where nothing is used, it is not for this to say that it goes.
            Ok(imports) if imports.is_empty() => vec![entry],
            Ok(imports) => {
                self.tell(&entry, Act::Removed, "is written name by name", receipt);
                imports
                    .into_iter()
                    .enumerate()
                    .map(|(at, import)| self.added(&entry, import, at > 0, receipt))
                    .collect()
            }
            Err(why) => {
                self.fate(&entry, Act::Kept, &format!("is not written name by name: {why}"), receipt);
                vec![entry]
            }
        }
    }

    fn collapsed(&mut self, mut entries: Vec<Entry>, least: usize, receipt: &mut Receipt) -> Vec<Entry> {
        let mut by_source: BTreeMap<String, Vec<usize>> = BTreeMap::new();
        for (at, entry) in entries.iter().enumerate() {
            let import = entry.import.as_ref().filter(|import| {
                entry.is_plain() && import.form == Form::Plain && import.names.iter().all(|name| name.alias.is_none())
            });
            if let Some(import) = import.filter(|import| !import.names.is_empty()) {
                by_source.entry(import.source.clone()).or_default().push(at);
            }
        }
        let mut gone = vec![false; entries.len()];
        for of_source in by_source.into_values().filter(|of_source| of_source.len() >= least) {
            let imports: Vec<Import> = of_source.iter().filter_map(|at| entries.get(*at)?.import.clone()).collect();
            let Some(first) = of_source.first().and_then(|at| entries.get(*at)).cloned() else { continue };
            match (self.spec.collapses)(&self.evidence(), &self.before, &imports) {
                Ok(wildcard) => {
                    self.before.extend(imports.iter().cloned());
                    let there = imports.iter().position(is_wildcard).and_then(|at| of_source.get(at).copied());
                    for at in of_source.iter().copied().filter(|at| Some(*at) != there) {
                        gone[at] = true;
                        self.tell(&entries[at], Act::Removed, "comes with the wildcard", receipt);
                    }
                    if let (None, Some(at)) = (there, of_source.first()) {
                        entries[*at] = self.added(&first, wildcard, false, receipt);
                        gone[*at] = false;
                    }
                }
                Err(why) => self.fate(&first, Act::Kept, &format!("no wildcard takes its place: {why}"), receipt),
            }
        }
        entries.into_iter().zip(gone).filter(|(_, gone)| !gone).map(|(entry, _)| entry).collect()
    }

    /// An import that takes the place of another one.
    fn added(&self, entry: &Entry, import: Import, behind: bool, receipt: &mut Receipt) -> Entry {
        let node = self.organizing.code.tree.node(entry.line.node);
        for name in &import.names {
            let text = (self.organizing.spec.leaf)(&import, name);
            let why = "takes the place of others".to_owned();
            receipt.imports.push(Fate::new(text.clone(), node.span(), Act::Added, why));
            receipt.imported.push(TokenChange { text, offset: node.start, token: node.first_token });
        }
        let mut line = entry.line.clone();
        line.blank = if behind { 0 } else { line.blank };
        Entry { line, import: Some(import), written: String::new(), group: Group::Own }
    }

    fn tell(&self, entry: &Entry, act: Act, why: &str, receipt: &mut Receipt) {
        let node = self.organizing.code.tree.node(entry.line.node);
        self.fate(entry, act, why, receipt);
        for (import, name) in
            entry.import.iter().flat_map(|import| import.names.iter().map(move |name| (import, name)))
        {
            let text = (self.organizing.spec.leaf)(import, name);
            receipt.removed.push(TokenChange { text, offset: node.start, token: node.first_token });
        }
    }

    fn fate(&self, entry: &Entry, act: Act, why: &str, receipt: &mut Receipt) {
        let span = self.organizing.code.tree.node(entry.line.node).span();
        receipt.imports.push(Fate::new(one_line(&entry.written), span, act, why));
    }
}

fn is_wildcard(import: &Import) -> bool {
    import.names.iter().any(|name| name.path == "*" && name.bound.is_none())
}
