//! The files that a style is told from, language by language.

use std::collections::BTreeMap;
use std::path::PathBuf;

use vknot_syntax::Language;

use crate::files::targets::Target;

/// The files of one language.
pub struct Sources {
    pub language: &'static Language,
    pub files: Vec<PathBuf>,
}

impl Sources {
    /// The files of each language that a name tells, by the languages' names.
    pub fn of(targets: Vec<Target>) -> Vec<Sources> {
        let mut by_language: BTreeMap<&'static str, Sources> = BTreeMap::new();
        for target in targets {
            if let Some(language) = Language::for_path(&target.file) {
                let own = by_language.entry(language.name()).or_insert_with(|| Sources { language, files: Vec::new() });
                own.files.push(target.file);
            }
        }
        by_language.into_values().collect()
    }

    /// The endings of their names.
    pub fn endings(&self) -> Vec<String> {
        let ending = |file: &PathBuf| Some(file.extension()?.to_string_lossy().into_owned());
        let mut endings: Vec<String> = self.files.iter().filter_map(ending).collect();
        endings.sort();
        endings.dedup();
        endings
    }
}
