//! All languages, made ready when first asked for.

use std::sync::OnceLock;

use crate::language::{Language, LanguageSpec};
use crate::languages::{Entry, LANGUAGES, plain};
use crate::reader::{Reader, Reading};

impl Language {
    /// All languages, sorted by name.
    pub fn all() -> impl Iterator<Item = &'static Language> {
        (0..LANGUAGES.len()).filter_map(Self::at)
    }

    /// The language of that name.
    pub fn named(name: &str) -> Option<&'static Language> {
        LANGUAGES.iter().position(|entry| entry.spec.name == name).and_then(Self::at)
    }

    /// The language of that name, or one that goes by it elsewhere: an alias or a file name ending.
    pub fn called(name: &str) -> Option<&'static Language> {
        let name = name.to_ascii_lowercase();
        let fits = |Entry { spec, .. }: &Entry| spec.aliases.contains(&&*name) || spec.extensions.contains(&&*name);
        Self::named(&name).or_else(|| LANGUAGES.iter().position(fits).and_then(Self::at))
    }

    /// The reader by brackets and lines, for files of no known language.
    pub fn plain() -> &'static Language {
        static PLAIN: OnceLock<Language> = OnceLock::new();
        PLAIN.get_or_init(|| build(&Entry { spec: &plain::SPEC, reading: &plain::READING }, LANGUAGES.len()))
    }

    pub(crate) fn at(index: usize) -> Option<&'static Language> {
        static READY: [OnceLock<Language>; LANGUAGES.len()] = [const { OnceLock::new() }; LANGUAGES.len()];
        Some(READY.get(index)?.get_or_init(|| build(&LANGUAGES[index], index)))
    }

    /// How it is recognised and read.
    pub fn reading(&self) -> &'static Reading {
        LANGUAGES.get(self.index()).map_or(&plain::READING, |entry| entry.reading)
    }
}

fn build(entry: &Entry, index: usize) -> Language {
    let spec: &'static LanguageSpec = entry.spec;
    match entry.reading.reader {
        Reader::Grammar(load) => Language::build(spec, Some(load()), &[], index),
        Reader::Own { kinds, .. } => Language::build(spec, None, kinds, index),
    }
}

#[cfg(test)]
mod tests {
    use std::path::Path;

    use super::*;
    use crate::language::Field;

    #[test]
    fn the_registry_is_sorted_and_its_tables_name_real_kinds() {
        let names: Vec<&str> = LANGUAGES.iter().map(|entry| entry.spec.name).collect();
        assert!(names.is_sorted(), "{names:?}");
        for language in Language::all() {
            for kind in language.spec().roles.iter().copied().flatten().flat_map(|(_, kinds)| *kinds) {
                assert!(language.kind(kind).is_some(), "{}: no kind {kind}", language.name());
            }
            for (kind, path) in language.spec().names {
                assert!(language.kind(kind).is_some(), "{}: no kind {kind}", language.name());
                for field in *path {
                    assert_ne!(language.field(field), Field(0), "{}: no field {field}", language.name());
                }
            }
        }
    }

    #[test]
    fn files_are_recognised_by_name() {
        for (path, name) in [("a/Gauge.java", "java"), ("lib.RS", "rust"), ("x.json", "json")] {
            assert_eq!(Language::for_path(Path::new(path)).map(Language::name), Some(name), "{path}");
        }
        assert!(Language::for_path(Path::new("notes.txt")).is_none());
    }
}
