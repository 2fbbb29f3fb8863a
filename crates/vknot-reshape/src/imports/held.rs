//! Imports that keep their order: those that come back to the file itself, and those that come into a circle of the project's modules at
//! different places.

use std::collections::HashSet;
use std::sync::Arc;

use crate::spec::imports::{Import, Index, Name};
use crate::spec::loading::Loaded;
use crate::spec::LoadSpec;
use super::organizing::Organizing;

/// What is known of the project that a file's imports load modules of.
pub(super) struct Loads<'a> {
    spec: &'static LoadSpec,
    place: String,
    index: Arc<Index>,
    /// The names that the file uses when it is run, where others load nothing.
    values: Option<HashSet<&'a str>>,
}

/// Whether an import may change places with others.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Hold {
    /// With all others.
    Free,
    /// With all but those that are tied, too.
    Tied,
    /// What it loads needs this file, as far as that has come.
    Stays,
}

impl<'a> Loads<'a> {
    /// `None` where modules load nothing in an order, or nothing is known of the project.
    pub fn of(organizing: &Organizing<'a>) -> Option<Loads<'a>> {
        let spec = organizing.spec.loads?;
        let place = organizing.around.place()?;
        let index = organizing.around.index()?;
        Some(Loads { spec, place, index, values: (spec.values)(organizing.code) })
    }

    /// What holds each of some imports, which stand in a row.
    pub fn holds<'i>(&self, imports: impl Iterator<Item = Option<&'i Import>>) -> Vec<Hold> {
        let imports: Vec<Option<&Import>> = imports.collect();
        let loaded: Vec<Option<Loaded>> =
            imports.iter().map(|import| import.map(|import| self.loaded(import))).collect();
        let hold = |at: usize| match &loaded[at] {
            None => Hold::Free,
            Some(own) if own.comes_back() => Hold::Stays,
            Some(own) => {
                let others =
                    loaded.iter().enumerate().filter(|(other, _)| *other != at).filter_map(|(_, one)| one.as_ref());
                if self.clashes_inside(imports[at], own) || others.into_iter().any(|other| own.clashes(other)) {
                    Hold::Tied
                } else {
                    Hold::Free
                }
            }
        };
        (0..loaded.len()).map(hold).collect()
    }

    fn loaded(&self, import: &Import) -> Loaded {
        if !import.is_run(self.values.as_ref()) {
            return Loaded::default();
        }
        let module = (self.spec.module)(&self.place);
        self.index.loaded(&module, &(self.spec.loads)(import, &self.place))
    }

    /// Whether it matters in which order an import has its names.
    fn clashes_inside(&self, import: Option<&Import>, whole: &Loaded) -> bool {
        let Some(import) = import.filter(|import| import.names.len() > 1 && whole.meets_circles()) else {
            return false
        };
        let alone = |name: &Name| self.loaded(&Import { names: vec![name.clone()], ..import.clone() });
        let each: Vec<Loaded> = import.names.iter().map(alone).collect();
        each.iter().enumerate().any(|(at, own)| each[at + 1..].iter().any(|other| own.clashes(other)))
    }
}
