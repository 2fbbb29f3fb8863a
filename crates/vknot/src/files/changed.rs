//! Narrows targets down to what changed in their repositories.

use std::collections::{BTreeMap, HashMap};
use std::path::{Path, PathBuf};

use crate::problem::Problem;
use super::git::{Against, Repository, Runs};
use super::input::STDIN;
use super::targets::{Content, Target};

/// What is known of the repositories that files are in.
struct Known<'a> {
    against: &'a Against,
    /// By folder.
    repositories: HashMap<PathBuf, Result<Repository, String>>,
    changed: BTreeMap<Repository, Result<BTreeMap<PathBuf, Runs>, String>>,
}

/// The targets in which lines changed, each with those lines. What cannot be told is a problem, once for each folder that was named.
pub fn narrowed(targets: Vec<Target>, against: &Against) -> (Vec<Target>, Vec<Problem>) {
    let mut known = Known { against, repositories: HashMap::new(), changed: BTreeMap::new() };
    let (mut narrowed, mut problems) = (Vec::new(), Vec::new());
    for target in targets {
        let shown = target.file.display().to_string();
        match known.narrow(target) {
            Ok(target) => narrowed.extend(target),
            Err(message) => {
                // One word about each reason is enough.
                let known = problems.iter().any(|problem: &Problem| problem.message == message);
                problems.extend((!known).then(|| Problem::new(shown, message)));
            }
        }
    }
    (narrowed, problems)
}

impl Known<'_> {
    fn narrow(&mut self, target: Target) -> Result<Option<Target>, String> {
        if target.file == Path::new(STDIN) {
            return Err("standard input has no changed lines; name files or folders".to_owned());
        }
        if !target.spots.is_empty() {
            return Err("name whole files where only changed lines count".to_owned());
        }
        // What is staged may be gone from the work tree, or stand behind a link.
        let path = std::path::absolute(&target.file).unwrap_or_else(|_| target.file.clone());
        let folder = path.parent().and_then(|folder| std::fs::canonicalize(folder).ok()).unwrap_or_default();
        let repository = self.repositories.entry(folder.clone()).or_insert_with(|| Repository::of(&folder)).clone()?;
        let name = path.file_name().map(|name| folder.join(name)).unwrap_or(path);
        let Some(relative) = repository.relative(&name).map(Path::to_path_buf) else { return Ok(None) };
        let changed = self.changed.entry(repository.clone()).or_insert_with(|| repository.changed(self.against));
        let runs = changed.as_ref().map_err(Clone::clone)?.get(&relative).filter(|runs| !runs.is_empty());
        Ok(runs.map(|runs| Target {
            lines: Some(runs.clone()),
            content: match self.against {
                Against::Staged => Content::Index(repository, relative),
                Against::Revision(_) => Content::Disk,
            },
            ..target
        }))
    }
}
