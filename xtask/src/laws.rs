//! `laws`: tells where real code does not keep what edits hold code to: a law that well-formed code breaks is none.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::process::ExitCode;

use rayon::prelude::*;
use vknot_reshape::{default_style, laws_kept};
use vknot_reshape::steps::Document;
use vknot_syntax::Source;

use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to take files from
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// How many places to show for each law
    #[arg(long, default_value_t = 2)]
    show: usize,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let files = samples(&arguments.roots, arguments.language.as_deref());
    let mut found: BTreeMap<(&str, String), Vec<String>> = BTreeMap::new();
    for (language, law, place) in files.par_iter().flat_map_iter(broken).collect::<Vec<_>>() {
        found.entry((language, law)).or_default().push(place);
    }
    println!("{} files", files.len());
    for ((language, law), places) in &found {
        println!("{:>6} {language}: {law}", places.len());
        places.iter().take(arguments.show).for_each(|place| println!("         {place}"));
    }
    Ok(if found.is_empty() { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

/// The laws that a file does not keep, with the places; none where it has syntax errors.
fn broken(sample: &Sample) -> Vec<(&'static str, String, String)> {
    let source = Source::from_text(sample.source.path(), sample.source.text());
    let document = Document::new(source, sample.language, default_style(sample.language));
    if document.tree().has_error() {
        return Vec::new();
    }
    let place = |offset: u32| {
        let place = sample.source.line_column(offset);
        let line = sample.source.lines().text(sample.source.text(), place.line - 1).trim();
        let line: String = line.chars().take(80).collect();
        format!("{}:{}:{}: {line}", sample.source.path().display(), place.line, place.column)
    };
    laws_kept(document.code())
        .into_iter()
        .flat_map(|(law, offsets)| offsets.into_iter().map(move |offset| (law.clone(), offset)))
        .map(|(law, offset)| (sample.language.name(), law, place(offset)))
        .collect()
}
