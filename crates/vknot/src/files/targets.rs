//! Which files a command's places name: single files, and all files of known languages below folders.

use std::collections::HashMap;
use std::ffi::OsString;
use std::path::{Path, PathBuf};

use vknot_syntax::Language;

use crate::place::{Place, Spot};
use crate::problem::Problem;
use super::git::{Repository, Runs};

/// One file to work on.
#[derive(Clone, Debug)]
pub struct Target {
    pub file: PathBuf,
    /// The parts of it that were named; empty for the whole.
    pub spots: Vec<Spot>,
    /// Whether it was named itself, as against found in a folder.
    pub named: bool,
    /// The lines that are meant, where only changed ones are.
    pub lines: Option<Runs>,
    /// Where its content is.
    pub content: Content,
}

/// Where the content of a file is.
#[derive(Clone, Debug)]
pub enum Content {
    /// In the file.
    Disk,
    /// Staged in a repository, under a path from its root.
    Index(Repository, PathBuf),
}

impl Target {
    /// One file, named itself.
    pub fn named(file: PathBuf) -> Target {
        Target::new(file, Vec::new(), true)
    }

    fn new(file: PathBuf, spots: Vec<Spot>, named: bool) -> Target {
        Target { file, spots, named, lines: None, content: Content::Disk }
    }
}

/// The targets in order: as named, and within a folder by path. A file named twice is one target, however it is spelled.
pub fn targets(places: &[OsString]) -> (Vec<Target>, Vec<Problem>) {
    let mut targets: Vec<Target> = Vec::new();
    let mut problems = Vec::new();
    let mut known: HashMap<PathBuf, usize> = HashMap::new();
    for text in places {
        let place = Place::parse(text);
        let spots = if place.spot == Spot::Whole { Vec::new() } else { vec![place.spot] };
        if spots.is_empty() && place.file.is_dir() {
            for file in files_below(&place.file, &mut problems) {
                add(Target::new(file, Vec::new(), false), &mut targets, &mut known);
            }
        } else {
            add(Target::new(place.file, spots, true), &mut targets, &mut known);
        }
    }
    (targets, problems)
}

/// Adds a target, or its spots to those of the same file.
fn add(target: Target, targets: &mut Vec<Target>, known: &mut HashMap<PathBuf, usize>) {
    let same = std::fs::canonicalize(&target.file).unwrap_or_else(|_| target.file.clone());
    match known.get(&same).and_then(|at| targets.get_mut(*at)) {
        Some(before) if before.spots.is_empty() || target.spots.is_empty() => {
            before.spots.clear();
            before.named |= target.named;
        }
        Some(before) => before.spots.extend(target.spots),
        None => {
            known.insert(same, targets.len());
            targets.push(target);
        }
    }
}

/// The files of known languages below a folder, by the rules of ignore files.
fn files_below(folder: &Path, problems: &mut Vec<Problem>) -> Vec<PathBuf> {
    let walker = ignore::WalkBuilder::new(folder).require_git(false).sort_by_file_path(Path::cmp).build();
    let mut files = Vec::new();
    for entry in walker {
        match entry {
            Ok(entry) => {
                let file = entry.file_type().is_some_and(|kind| kind.is_file());
                if file && Language::for_path(entry.path()).is_some() {
                    let path = entry.path();
                    files.push(path.strip_prefix(".").unwrap_or(path).to_path_buf());
                }
            }
            Err(error) => problems.push(Problem::new(folder.display().to_string(), error.to_string())),
        }
    }
    files
}
