//! `style trim`: a nested `.editorconfig` file drops what those above it say already.

use std::collections::BTreeSet;
use std::io::Write;
use std::path::{Path, PathBuf};

use anyhow::{bail, Context};
use vknot_style::{EditorConfig, Key};

use crate::files::styles::FILE_NAME;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT};
use crate::problem::Outcome;
use super::check::files_below;
use super::written::{put, text_of};

/// Drop from a nested .editorconfig file what those above it say already
///
/// A line goes if no file that is there has other settings without it. Sections that match no file stay as they are.
#[derive(clap::Args)]
pub struct Arguments {
    /// The file, or its folder
    #[arg(value_name = "FILE")]
    file: PathBuf,
    /// Write it
    #[arg(short, long, conflicts_with = "check")]
    write: bool,
    /// Write nothing; exit with 1 if there is something to drop
    #[arg(long)]
    check: bool,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let file = if arguments.file.is_dir() { arguments.file.join(FILE_NAME) } else { arguments.file.clone() };
    let file = std::path::absolute(&file).unwrap_or(file);
    let text = text_of(&file)?.with_context(|| format!("{} is not there", file.display()))?;
    let folder = file.parent().unwrap_or(Path::new("/"));
    let (config, problems) = EditorConfig::parse(folder, &text);
    if let Some(problem) = problems.first() {
        bail!("{}:{}: {}; mend that first", file.display(), problem.line, problem.message);
    }
    let above = match folder.parent().filter(|_| !config.root) {
        Some(above) => workspace.configs(above).as_ref().clone(),
        None => Vec::new(),
    };
    let dropped = needless(&config, &above, &files_below(folder));
    let new = without(&text, &config, &dropped);
    if arguments.check {
        let lines = dropped.iter().map(u32::to_string).collect::<Vec<_>>().join(", ");
        if !dropped.is_empty() {
            writeln!(output::stdout(), "{}: lines {lines} say what holds without them", file.display())?;
        }
        return Ok(if dropped.is_empty() { Outcome::Done } else { Outcome::Found });
    }
    if new != text {
        put(&file, Some(&text), &new, arguments.write)?;
    }
    let count = output::count(dropped.len(), "line");
    writeln!(output::stderr(), "{FAINT}{count} that say what holds without them{FAINT:#}")?;
    Ok(Outcome::Done)
}

/// The lines without which all files have the same settings.
fn needless(config: &EditorConfig, above: &[EditorConfig], files: &[PathBuf]) -> Vec<u32> {
    let files: Vec<PathBuf> = files.iter().filter_map(|file| std::path::absolute(file).ok()).collect();
    let mut dropped: Vec<u32> = Vec::new();
    for section in config.sections() {
        let matched: Vec<&PathBuf> =
            files.iter().filter(|file| config.sections_for(file).any(|own| std::ptr::eq(own, section))).collect();
        for entry in section.entries.iter().filter(|_| !matched.is_empty()) {
            let with: Vec<u32> = dropped.iter().copied().chain([entry.line()]).collect();
            let less = config.without(&with);
            let same = |file: &&PathBuf| {
                value(entry.key(), file, above, config) == value(entry.key(), file, above, &less)
            };
            if matched.iter().all(same) {
                dropped = with;
            }
        }
    }
    dropped
}

/// What a setting is for a file; `None` where nothing sets it.
fn value(key: Key, file: &Path, above: &[EditorConfig], own: &EditorConfig) -> Option<String> {
    let configs = above.iter().chain([own]);
    let sections = configs.flat_map(|config| config.sections_for(file).collect::<Vec<_>>());
    let mut entries = sections.flat_map(|section| &section.entries).filter(|entry| entry.key() == key);
    entries.next_back().and_then(|entry| entry.value().map(str::to_owned))
}

/// The text without some lines, and without sections that hold nothing then.
fn without(text: &str, config: &EditorConfig, dropped: &[u32]) -> String {
    let mut gone: BTreeSet<u32> = dropped.iter().copied().collect();
    for section in config.sections() {
        let mut entries = section.entries.iter().map(vknot_style::Entry::line);
        if !section.entries.is_empty() && section.foreign.is_empty() && entries.all(|line| gone.contains(&line)) {
            gone.insert(section.line);
        }
    }
    let mut kept = String::new();
    let mut blank = true;
    let lines = text.split_inclusive('\n').zip(1..);
    for (line, _) in lines.filter(|(_, number)| !gone.contains(number)) {
        let is_blank = line.trim().is_empty();
        // What stood between two lines that go leaves one blank line at most.
        if !(is_blank && blank) {
            kept.push_str(line);
        }
        blank = is_blank;
    }
    if gone.is_empty() { text.to_owned() } else { format!("{}\n", kept.trim_end()).trim_start_matches('\n').to_owned() }
}
