//! The pins of a project, in `.vknot/pins.json` at its root: sorted, and one thing a line, so that versions merge.

use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};
use vknot_reshape::pins::{Anchor, Lines};
use vknot_syntax::{Source, Span};

use crate::problem::Problem;
use super::write;

/// The folder at the root.
pub const FOLDER: &str = ".vknot";
const FILE: &str = "pins.json";
const SCHEMA: &str = "vknot.pins/1";

/// One pin.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[serde(rename_all = "camelCase")]
pub struct Pin {
    /// The file, from the root, with `/` between its parts.
    pub file: String,
    pub name: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
    pub first_line: u32,
    pub lines: Vec<String>,
    #[serde(default)]
    pub before: Vec<String>,
    #[serde(default)]
    pub after: Vec<String>,
}

impl Pin {
    /// A pin on lines of a text.
    pub fn new(file: String, name: String, note: Option<String>, text: &str, lines: Lines) -> Pin {
        let anchor = Anchor::of(text, lines);
        let Anchor { first_line, lines, before, after } = anchor;
        Pin { file, name, note, first_line, lines, before, after }
    }

    /// What it is found again by.
    pub fn anchor(&self) -> Anchor {
        Anchor {
            first_line: self.first_line,
            lines: self.lines.clone(),
            before: self.before.clone(),
            after: self.after.clone(),
        }
    }

    /// Puts it on lines of the file as that is now.
    pub fn renew(&mut self, text: &str, lines: Lines) {
        *self = Pin::new(std::mem::take(&mut self.file), std::mem::take(&mut self.name), self.note.take(), text, lines);
    }
}

/// The pins of a project.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Pins {
    schema: String,
    #[serde(rename = "pins")]
    pub list: Vec<Pin>,
}

fn path(root: &Path) -> PathBuf {
    root.join(FOLDER).join(FILE)
}

impl Pins {
    /// Reads the pins; a project without the file has none.
    ///
    /// # Errors
    /// When the file is there and makes no sense.
    pub fn read(root: &Path) -> Result<Pins, Problem> {
        let path = path(root);
        let text = match std::fs::read_to_string(&path) {
            Ok(text) => text,
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => {
                return Ok(Pins { schema: SCHEMA.to_owned(), list: Vec::new() });
            }
            Err(error) => return Err(Problem::new(path.display().to_string(), format!("cannot be read: {error}"))),
        };
        let pins: Result<Pins, _> = serde_json::from_str(&text);
        pins.map_err(|error| {
            let message = format!("is no list of pins: {error}; mend it, or delete it to start anew");
            Problem::new(path.display().to_string(), message).at(error.line() as u32, error.column() as u32)
        })
    }

    /// Writes the pins, sorted by file, line and name.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn write(&mut self, root: &Path) -> anyhow::Result<()> {
        self.list.sort_by(|a, b| (&a.file, a.first_line, &a.name).cmp(&(&b.file, b.first_line, &b.name)));
        let path = path(root);
        std::fs::create_dir_all(root.join(FOLDER))?;
        let mut text = serde_json::to_string_pretty(self)?;
        text.push('\n');
        match path.exists() {
            true => write::replace(&path, text.as_bytes())?,
            false => std::fs::write(&path, text)?,
        }
        Ok(())
    }
}

/// The bytes of lines, without the line end of the last.
pub fn span_of(source: &Source, lines: Lines) -> Span {
    let table = source.lines();
    let start = table.span(source.text(), lines.first.saturating_sub(1));
    Span::new(start.start, table.span(source.text(), lines.last.saturating_sub(1)).end.max(start.start))
}
