//! Which files a command's places name: single files, and all files of known languages below folders.

use std::path::Path;

use vknot_syntax::Language;

use crate::place::{Place, Spot};
use crate::problem::Problem;

/// One file to work on.
#[derive(Clone, Debug)]
pub struct Target {
    pub file: String,
    /// The parts of it that were named; empty for the whole.
    pub spots: Vec<Spot>,
    /// Whether it was named itself, as against found in a folder.
    pub named: bool,
}

/// The targets in order: as named, and within a folder by path. A file named twice is one target.
pub fn targets(places: &[String]) -> (Vec<Target>, Vec<Problem>) {
    let mut targets: Vec<Target> = Vec::new();
    let mut problems = Vec::new();
    for text in places {
        let place = Place::parse(text);
        if place.spot == Spot::Whole && Path::new(&place.file).is_dir() {
            walk(&place.file, &mut targets, &mut problems);
            continue;
        }
        let spots = if place.spot == Spot::Whole { Vec::new() } else { vec![place.spot] };
        match targets.iter_mut().find(|target| target.named && target.file == place.file) {
            Some(target) if target.spots.is_empty() || spots.is_empty() => target.spots.clear(),
            Some(target) => target.spots.extend(spots),
            None => targets.push(Target { file: place.file, spots, named: true }),
        }
    }
    let mut seen = std::collections::HashSet::new();
    targets.retain(|target| seen.insert(target.file.clone()));
    (targets, problems)
}

/// Adds the files of known languages below a folder, by the rules of ignore files.
fn walk(folder: &str, targets: &mut Vec<Target>, problems: &mut Vec<Problem>) {
    let walker = ignore::WalkBuilder::new(folder).require_git(false).sort_by_file_path(Path::cmp).build();
    for entry in walker {
        match entry {
            Ok(entry) => {
                let file = entry.file_type().is_some_and(|kind| kind.is_file());
                if file && Language::for_path(entry.path()).is_some() {
                    let path = entry.path();
                    let file = path.strip_prefix(".").unwrap_or(path).display().to_string();
                    targets.push(Target { file, spots: Vec::new(), named: false });
                }
            }
            Err(error) => problems.push(Problem::new(folder, error.to_string())),
        }
    }
}
