//! `unchanged`: how many lines of well-kept code a step leaves as they are, project by project.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::process::ExitCode;

use rayon::prelude::*;
use vknot_reshape::steps::Step;
use vknot_reshape::styling::touched_lines;
use vknot_style::Override;

use crate::steps::{document, edits, step};
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Projects: a folder each
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// The step
    #[arg(long, default_value = "format")]
    step: String,
    /// Settings, as KEY=VALUE
    #[arg(long = "set")]
    set: Vec<Override>,
    /// Name the files with the most changed lines, this many for each project
    #[arg(long, default_value_t = 0)]
    show: usize,
}

/// Lines of a file, and those that a step changes.
struct Counted<'s> {
    sample: &'s Sample,
    lines: usize,
    changed: usize,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let step = step(&arguments.step)?;
    println!("{:<36} {:<12} {:>6} {:>9} {:>8} {:>9}", "project", "language", "files", "lines", "changed", "unchanged");
    for root in &arguments.roots {
        let found = samples(std::slice::from_ref(root), arguments.language.as_deref());
        let counted: Vec<Counted<'_>> =
            found
                .par_iter()
                .filter(|sample| (step.covers)(sample.language))
                .map(|sample| count(sample, step, &arguments.set))
                .collect();
        let mut by_language: BTreeMap<&str, Vec<Counted<'_>>> = BTreeMap::new();
        for file in counted {
            by_language.entry(file.sample.language.name()).or_default().push(file);
        }
        let name = root.file_name().unwrap_or_default().to_string_lossy().into_owned();
        for (language, files) in &mut by_language {
            report(&name, language, files, arguments.show);
        }
    }
    Ok(ExitCode::SUCCESS)
}

fn count<'s>(sample: &'s Sample, step: &Step, set: &[Override]) -> Counted<'s> {
    let source = &sample.source;
    let changed = touched_lines(source, &edits(step, &document(source, sample.language, set))) as usize;
    Counted { sample, lines: source.text().lines().count(), changed }
}

fn report(project: &str, language: &str, files: &mut [Counted<'_>], show: usize) {
    let (lines, changed) = files.iter().fold((0, 0), |sum, file| (sum.0 + file.lines, sum.1 + file.changed));
    let unchanged = 100.0 - 100.0 * changed as f64 / lines.max(1) as f64;
    println!("{project:<36} {language:<12} {:>6} {lines:>9} {changed:>8} {unchanged:>8.2}%", files.len());
    files.sort_by_key(|file| std::cmp::Reverse(file.changed));
    for file in files.iter().take(show) {
        println!("    {:>6} of {:>6}  {}", file.changed, file.lines, file.sample.source.path().display());
    }
}
