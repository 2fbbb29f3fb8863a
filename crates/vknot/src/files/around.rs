//! What is known around a file: its project, and what the other files of that declare.

use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use vknot_reshape::{Index, project_file, Surroundings};
use vknot_syntax::Language;

use super::plain;
use super::workspace::Workspace;

/// What is known around a file.
pub struct Around<'w> {
    workspace: &'w Workspace,
    path: PathBuf,
    language: &'static Language,
    /// The root of the project, and what the project calls itself.
    project: OnceLock<(PathBuf, Option<String>)>,
}

impl<'w> Around<'w> {
    pub fn of(workspace: &'w Workspace, path: &Path, language: &'static Language) -> Around<'w> {
        let path = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
        Around { workspace, path, language, project: OnceLock::new() }
    }

    /// The nearest folder upwards that holds the file by which the language tells a project, else the root that is marked, else the
    /// folder that was named.
    fn project(&self) -> &(PathBuf, Option<String>) {
        self.project.get_or_init(|| {
            let folder = self.path.parent().unwrap_or(&self.path);
            let told = project_file(self.language).and_then(|(file, name)| {
                folder.ancestors().find_map(|folder| {
                    let text = plain::read_if_there(&folder.join(file)).ok()??;
                    Some((folder.to_path_buf(), name(&String::from_utf8_lossy(&text))))
                })
            });
            match told {
                Some((folder, Some(name))) => (folder, Some(name)),
                told => {
                    let root = self.workspace.root_around(folder);
                    // A part of a project that has such a file of its own is still a part.
                    let part = told.map(|(part, _)| part).filter(|part| root.starts_with(part));
                    (part.unwrap_or(root), None)
                }
            }
        })
    }
}

impl Surroundings for Around<'_> {
    fn index(&self) -> Option<Arc<Index>> {
        project_file(self.language)?;
        let root = &self.project().0;
        let neighbours = self.workspace.neighbours(root, self.language);
        Some(neighbours.index(root, self.language, &self.workspace.archives(&self.path, self.language)))
    }

    fn place(&self) -> Option<String> {
        let parts = self.path.strip_prefix(&self.project().0).ok()?.components();
        Some(parts.map(|part| part.as_os_str().to_string_lossy()).collect::<Vec<_>>().join("/"))
    }

    fn name(&self) -> Option<String> {
        self.project().1.clone()
    }
}
