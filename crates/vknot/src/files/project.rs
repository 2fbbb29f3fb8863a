//! The project a file belongs to: its root, its `vknot.toml`, and the marks they give a file.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use vknot_reshape::looks::{Marks, NamedSpan};
use vknot_style::Project;
use vknot_syntax::Source;

use crate::problem::Problem;
use super::pins;

const FILE_NAME: &str = "vknot.toml";

/// What marks the root of a project; the nearest folder upwards that has one.
const ROOT_MARKS: [&str; 3] = [FILE_NAME, pins::FOLDER, ".git"];

/// The project's root and what its `vknot.toml` says.
#[derive(Clone, Debug)]
pub struct Home {
    pub root: PathBuf,
    pub project: Project,
}

impl Home {
    /// The project of a file or folder. Without a mark anywhere, its folder is the root.
    ///
    /// # Errors
    /// When the `vknot.toml` cannot be read.
    pub fn of(path: &Path) -> Result<Arc<Home>, Problem> {
        static KNOWN: Mutex<Option<HashMap<PathBuf, Arc<Home>>>> = Mutex::new(None);
        let path = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
        let folder = if path.is_dir() { path.as_path() } else { path.parent().unwrap_or(&path) };
        let root = folder.ancestors().find(|folder| ROOT_MARKS.iter().any(|mark| folder.join(mark).exists()));
        let root = root.unwrap_or(folder).to_path_buf();
        let mut known = KNOWN.lock().unwrap_or_else(PoisonError::into_inner);
        let known = known.get_or_insert_default();
        if let Some(home) = known.get(&root) {
            return Ok(Arc::clone(home));
        }
        let home = Arc::new(Home { project: read(&root.join(FILE_NAME))?, root: root.clone() });
        known.insert(root, Arc::clone(&home));
        Ok(home)
    }

    /// A file's path from the root, with `/` between its parts; `None` when it is elsewhere.
    pub fn relative(&self, path: &Path) -> Option<String> {
        let path = std::path::absolute(path).ok()?;
        let parts = path.strip_prefix(&self.root).ok()?.components();
        Some(parts.map(|part| part.as_os_str().to_string_lossy()).collect::<Vec<_>>().join("/"))
    }

    /// The marks of one of its files.
    ///
    /// # Errors
    /// When the pins cannot be read.
    pub fn marks(&self, path: &Path, source: &Source) -> Result<Marks, Problem> {
        let mut marks = Marks::default();
        marks.regions.extend(self.project.regions.markers.iter().cloned());
        marks.sections.extend(self.project.sections.markers.iter().cloned());
        marks.tags.extend(self.project.todos.tags.iter().cloned());
        if let Some(file) = self.relative(path) {
            let pins = pins::Pins::read(&self.root)?;
            let own = pins.list.iter().filter(|pin| pin.file == file);
            marks.pins = own.filter_map(|pin| {
                let lines = pin.anchor().find(source.text()).lines()?;
                Some(NamedSpan { name: pin.name.clone(), span: pins::span_of(source, lines) })
            })
            .collect();
        }
        Ok(marks)
    }
}

fn read(path: &Path) -> Result<Project, Problem> {
    let text = match std::fs::read_to_string(path) {
        Ok(text) => text,
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(Project::default()),
        Err(error) => return Err(Problem::new(path.display().to_string(), format!("cannot be read: {error}"))),
    };
    Project::parse(&text).map_err(|error| Problem::new(path.display().to_string(), error.message).at(error.line, 1))
}
