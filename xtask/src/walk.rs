//! Finds the files of known languages below some folders, ignore files aside.

use std::path::PathBuf;

use vknot_syntax::{Language, Source};

/// A file that could be read, with its language.
pub struct Sample {
    pub source: Source,
    pub language: &'static Language,
}

/// All readable files below `roots`, sorted by path; `language` narrows them to one.
pub fn samples(roots: &[PathBuf], language: Option<&str>) -> Vec<Sample> {
    let mut samples: Vec<Sample> = roots
        .iter()
        .flat_map(|root| ignore::WalkBuilder::new(root).standard_filters(false).build())
        .filter_map(|entry| {
            let path = entry.ok()?.into_path();
            if Language::for_path(&path).is_none() || !path.is_file() {
                return None;
            }
            let source = Source::from_bytes(&path, std::fs::read(&path).ok()?).ok()?;
            let found = Language::of_file(&path, source.text())
                .filter(|found| language.is_none_or(|name| name == found.name()))?;
            Some(Sample { source, language: found })
        })
        .collect();
    samples.sort_by(|a, b| a.source.path().cmp(b.source.path()));
    samples
}
