//! The project a file belongs to: its root, its `vknot.toml`, and the marks they give a file.

use std::path::{Path, PathBuf};

use vknot_reshape::looks::{Marks, NamedSpan};
use vknot_style::Project;
use vknot_syntax::Source;

use crate::problem::Problem;
use super::pins::{self, Pins};
use super::plain;

const FILE_NAME: &str = "vknot.toml";

/// What marks the root of a project; the nearest folder upwards that has one.
const ROOT_MARKS: [&str; 3] = [FILE_NAME, pins::FOLDER, ".git"];

/// The project's root, what its `vknot.toml` says, and its pins.
#[derive(Clone, Debug)]
pub struct Home {
    pub root: PathBuf,
    pub project: Project,
    pub pins: Pins,
}

impl Home {
    /// The nearest folder upwards that is marked as a root, else the folder itself.
    pub fn root_of(folder: &Path) -> PathBuf {
        Self::marked_above(folder).unwrap_or_else(|| folder.to_path_buf())
    }

    /// The nearest folder upwards that is marked as a root.
    pub fn marked_above(folder: &Path) -> Option<PathBuf> {
        let marked = |folder: &&Path| ROOT_MARKS.iter().any(|mark| folder.join(mark).exists());
        folder.ancestors().find(marked).map(Path::to_path_buf)
    }

    /// Reads what a root holds.
    ///
    /// # Errors
    /// When its `vknot.toml` or its pins cannot be read.
    pub fn read(root: &Path) -> Result<Home, Problem> {
        Ok(Home { project: read(&root.join(FILE_NAME))?, pins: Pins::read(root)?, root: root.to_path_buf() })
    }

    /// The file that says what the project adds.
    pub fn settings_file(&self) -> PathBuf {
        self.root.join(FILE_NAME)
    }

    /// A file's path from the root, with `/` between its parts; `None` when it is elsewhere.
    pub fn relative(&self, path: &Path) -> Option<String> {
        let path = std::path::absolute(path).ok()?;
        let parts = path.strip_prefix(&self.root).ok()?.components();
        Some(parts.map(|part| part.as_os_str().to_string_lossy()).collect::<Vec<_>>().join("/"))
    }

    /// The marks of one of its files.
    pub fn marks(&self, path: &Path, source: &Source) -> Marks {
        let mut marks = Marks::default();
        marks.regions.extend(self.project.regions.markers.iter().cloned());
        marks.sections.extend(self.project.sections.markers.iter().cloned());
        marks.tags.extend(self.project.todos.tags.iter().cloned());
        if let Some(file) = self.relative(path) {
            for pin in self.pins.list.iter().filter(|pin| pin.file == file) {
                let name = pin.name.clone();
                match pin.anchor().find(source.text()).lines() {
                    Some(lines) => marks.pins.push(NamedSpan { name, span: pins::span_of(source, lines) }),
                    None => marks.lost_pins.push(name),
                }
            }
        }
        marks
    }
}

fn read(path: &Path) -> Result<Project, Problem> {
    let problem = |message: String| Problem::new(path.display().to_string(), message);
    let Some(text) = plain::read_if_there(path).map_err(problem)? else { return Ok(Project::default()) };
    let text = String::from_utf8(text).map_err(|_| problem("is not UTF-8".to_owned()))?;
    Project::parse(&text).map_err(|error| problem(error.message).at(error.line, 1))
}
