//! The pins of a project, in `.vknot/pins.json` at its root: sorted, and one thing a line, so that versions merge.

use std::path::{Component, Path, PathBuf};

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use vknot_reshape::pins::{Anchor, Lines};
use vknot_syntax::{Source, Span};

use crate::problem::Problem;
use super::{plain, write};

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
    /// Whether other lines of the file were like these.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub twins: bool,
    /// What others wrote there.
    #[serde(flatten)]
    rest: Map<String, Value>,
}

impl Pin {
    /// A pin on lines of a text.
    pub fn new(file: String, name: String, note: Option<String>, text: &str, lines: Lines) -> Pin {
        let anchor = Anchor::of(text, lines);
        let Anchor { first_line, lines, before, after, twins } = anchor;
        Pin { file, name, note, first_line, lines, before, after, twins, rest: Map::new() }
    }

    /// What it is found again by.
    pub fn anchor(&self) -> Anchor {
        Anchor {
            first_line: self.first_line,
            lines: self.lines.clone(),
            before: self.before.clone(),
            after: self.after.clone(),
            twins: self.twins,
        }
    }

    /// Puts it on lines of the file as that is now.
    pub fn renew(&mut self, text: &str, lines: Lines) {
        let Anchor { first_line, lines, before, after, twins } = Anchor::of(text, lines);
        (self.first_line, self.lines, self.before, self.after) = (first_line, lines, before, after);
        self.twins = twins;
    }
}

/// The pins of a project.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Pins {
    schema: String,
    #[serde(rename = "pins")]
    pub list: Vec<Pin>,
    /// What others wrote there.
    #[serde(flatten)]
    rest: Map<String, Value>,
    /// What the file held when it was read; `None` if there was none.
    #[serde(skip)]
    found: Option<Vec<u8>>,
}

impl Pins {
    /// Reads the pins; a project without the file has none.
    ///
    /// # Errors
    /// When the file is there and makes no sense, is of a later version, or names files outside of the project.
    pub fn read(root: &Path) -> Result<Pins, Problem> {
        let path = root.join(FOLDER).join(FILE);
        let shown = path.display().to_string();
        let Some(found) = plain::read_if_there(&path).map_err(|message| Problem::new(&shown, message))? else {
            let schema = SCHEMA.to_owned();
            return Ok(Pins { schema, list: Vec::new(), rest: Map::new(), found: None });
        };
        let pins: Result<Pins, _> = serde_json::from_slice(&found);
        let pins = pins.map_err(|error| {
            let message = format!("is no list of pins: {error}; mend it, or delete it to start anew");
            Problem::new(&shown, message).at(error.line() as u32, error.column().max(1) as u32)
        })?;
        if pins.schema != SCHEMA {
            let message =
                format!("is of version `{}`, and this program knows `{SCHEMA}`; use a later one", pins.schema);
            return Err(Problem::new(&shown, message));
        }
        if let Some(pin) = pins.list.iter().find(|pin| !is_inside(&pin.file)) {
            let message =
                format!("the pin `{}` names `{}`, which is outside of the project; mend it", pin.name, pin.file);
            return Err(Problem::new(&shown, message));
        }
        Ok(Pins { found: Some(found), ..pins })
    }

    /// Reads the pins, changes them and writes them, while nobody else does.
    ///
    /// # Errors
    /// When they cannot be read or written, or the change is refused.
    pub fn change<T>(root: &Path, work: impl FnOnce(&mut Pins) -> Result<T, Problem>) -> Result<T, Problem> {
        let folder = root.join(FOLDER);
        let cannot = |error: &dyn std::fmt::Display| {
            Problem::new(folder.display().to_string(), format!("the pins cannot be written: {error}"))
        };
        std::fs::create_dir_all(&folder).map_err(|error| cannot(&error))?;
        // Locks the folder, so that no file is left beside the pins.
        let lock = std::fs::File::open(&folder).and_then(|lock| lock.lock().map(|()| lock));
        let _lock = lock.map_err(|error| cannot(&error))?;
        let mut pins = Pins::read(root)?;
        let done = work(&mut pins)?;
        pins.write(&folder.join(FILE)).map_err(|error| cannot(&error))?;
        Ok(done)
    }

    /// Writes the pins, sorted by file, line and name.
    fn write(&mut self, path: &Path) -> anyhow::Result<()> {
        self.list.sort_by(|a, b| (&a.file, a.first_line, &a.name).cmp(&(&b.file, b.first_line, &b.name)));
        let mut text = serde_json::to_string_pretty(self)?;
        text.push('\n');
        match &self.found {
            Some(found) if *found == text.as_bytes() => {}
            Some(found) => write::replace(path, found, text.as_bytes())?,
            None => write::create(path, text.as_bytes(), Some(0o644))?,
        }
        Ok(())
    }
}

/// Whether a file's path from the root stays below it, links aside.
fn is_inside(file: &str) -> bool {
    !file.is_empty() && Path::new(file).components().all(|part| matches!(part, Component::Normal(_)))
}

/// Where a pinned file is.
///
/// # Errors
/// When a link leads out of the project.
pub fn place_of(root: &Path, pin: &Pin) -> Result<PathBuf, Problem> {
    let path = root.join(&pin.file);
    let real = |path: &Path| std::fs::canonicalize(path);
    match (real(&path), real(root)) {
        (Ok(file), Ok(root)) if !file.starts_with(&root) => {
            let message = format!("the pin `{}` leads out of the project by a link; it is not followed", pin.name);
            Err(Problem::new(&pin.file, message))
        }
        _ => Ok(path),
    }
}

/// The bytes of lines, without the line end of the last.
pub fn span_of(source: &Source, lines: Lines) -> Span {
    let table = source.lines();
    let start = table.span(source.text(), lines.first.saturating_sub(1));
    Span::new(start.start, table.span(source.text(), lines.last.saturating_sub(1)).end.max(start.start))
}
