//! `.editorconfig` files, after the EditorConfig specification 0.17: sections by glob, `root`, `unset`.

use std::path::{Path, PathBuf};

use crate::glob::Glob;
use crate::schema::{Key, Setting, SETTINGS};

/// Something in a file that could not be taken; the rest of the file still holds.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub struct Problem {
    /// Line, from 1.
    pub line: u32,
    /// What is wrong and what to do.
    pub message: String,
}

/// A parsed file.
#[derive(Clone, Debug)]
pub struct EditorConfig {
    folder: PathBuf,
    /// Whether the search for further files ends here.
    pub root: bool,
    sections: Vec<Section>,
    /// Whether nothing is known of what it says.
    unreadable: bool,
}

/// A section: a pattern, and what holds for the files that fit it.
#[derive(Clone, Debug)]
pub struct Section {
    /// The pattern as written.
    pub pattern: String,
    /// The line of the pattern, from 1.
    pub line: u32,
    /// Settings in the order of the file.
    pub entries: Vec<Entry>,
    /// Keys that are none of ours, with their lines.
    pub foreign: Vec<(String, u32)>,
    /// `None` where the pattern makes no sense: then it holds for no file.
    matcher: Option<Glob>,
    /// Lines that could not be taken.
    faults: Vec<u32>,
}

/// One line of a section.
#[derive(Clone, Debug)]
pub struct Entry {
    pub(crate) setting: usize,
    pub(crate) value: Option<String>,
    pub(crate) line: u32,
}

impl Entry {
    /// Which setting it sets.
    pub fn key(&self) -> Key {
        SETTINGS[self.setting].id
    }

    /// What to; `None` for `unset`.
    pub fn value(&self) -> Option<&str> {
        self.value.as_deref()
    }

    /// Its line, from 1.
    pub fn line(&self) -> u32 {
        self.line
    }
}

/// What our own keys begin with; any other unknown key belongs to some other program.
const OWN_PREFIX: &str = "vknot_";

impl EditorConfig {
    /// Parses the text of the file in `folder`. Lines that cannot be taken are left out and reported.
    pub fn parse(folder: &Path, text: &str) -> (Self, Vec<Problem>) {
        let mut config = Self { folder: folder.to_path_buf(), root: false, sections: Vec::new(), unreadable: false };
        let mut problems = Vec::new();
        for (index, line) in text.trim_start_matches('\u{feff}').lines().enumerate() {
            let number = index as u32 + 1;
            if let Err(message) = config.take_line(line.trim(), number) {
                problems.push(Problem { line: number, message });
                config.sections.last_mut().into_iter().for_each(|section| section.faults.push(number));
            }
        }
        (config, problems)
    }

    /// A file that is there and cannot be read.
    pub fn unreadable(folder: &Path) -> Self {
        Self { folder: folder.to_path_buf(), root: false, sections: Vec::new(), unreadable: true }
    }

    fn take_line(&mut self, line: &str, number: u32) -> Result<(), String> {
        if line.is_empty() || line.starts_with(['#', ';']) {
            return Ok(());
        }
        if let Some(rest) = line.strip_prefix('[') {
            let made = match rest.strip_suffix(']') {
                Some(glob) if !glob.is_empty() => {
                    Glob::new(glob)
                        .map_err(|error| format!("the pattern [{}…] cannot be read: {error}", beginning(glob)))
                }
                _ => Err(format!("`{}` is no [pattern]; what follows holds for no file", beginning(line))),
            };
            self.sections.push(Section {
                pattern: rest.strip_suffix(']').unwrap_or(rest).to_owned(),
                line: number,
                matcher: made.as_ref().ok().cloned(),
                entries: Vec::new(),
                foreign: Vec::new(),
                faults: Vec::new(),
            });
            return made.map(drop);
        }
        let Some((key, value)) = line.split_once('=') else {
            return Err(format!("`{line}` is neither [a pattern] nor key = value"));
        };
        let (key, value) = (key.trim().to_ascii_lowercase(), value.trim());
        let Some(section) = self.sections.last_mut() else {
            if key == "root" {
                self.root = value.eq_ignore_ascii_case("true");
            }
            return Ok(());
        };
        let Some(index) = Setting::index(&key) else {
            return match key.starts_with(OWN_PREFIX) {
                true => Err(unknown_key(&key)),
                false => {
                    section.foreign.push((key, number));
                    Ok(())
                }
            };
        };
        let value = if value.eq_ignore_ascii_case("unset") {
            None
        } else {
            Some(SETTINGS[index].check(value).map_err(|error| error.to_string())?)
        };
        section.entries.push(Entry { setting: index, value, line: number });
        Ok(())
    }

    /// Its sections, in order.
    pub fn sections(&self) -> &[Section] {
        &self.sections
    }

    /// The same without the entries on some lines.
    pub fn without(&self, lines: &[u32]) -> Self {
        let mut less = self.clone();
        less.sections.iter_mut().for_each(|section| section.entries.retain(|entry| !lines.contains(&entry.line)));
        less
    }

    /// The entries that hold for `path`, in the order of the file.
    pub(crate) fn entries_for(&self, path: &Path) -> impl Iterator<Item = &Entry> {
        self.sections_for(path).flat_map(|section| &section.entries)
    }

    /// The first line that could not be taken and would hold for `path`; 0 if the whole file could not be read.
    pub(crate) fn fault_for(&self, path: &Path) -> Option<u32> {
        let fault = self.sections_for(path).find_map(|section| section.faults.first().copied());
        fault.or(self.unreadable.then_some(0))
    }

    /// The sections that hold for `path`.
    pub fn sections_for(&self, path: &Path) -> impl Iterator<Item = &Section> {
        let below = path.strip_prefix(&self.folder).ok().map(|path| {
            let parts: Vec<_> = path.components().map(|part| part.as_os_str().to_string_lossy()).collect();
            parts.join("/")
        });
        self.sections.iter().filter(move |section| {
            below.as_ref().is_some_and(|path| section.matcher.as_ref().is_some_and(|matcher| matcher.is_match(path)))
        })
    }

    /// Where the file is.
    pub fn folder(&self) -> &Path {
        &self.folder
    }
}

/// What is shown of a text that may be long.
fn beginning(text: &str) -> String {
    text.chars().take(40).collect()
}

/// The message for a key of ours that does not exist.
pub(crate) fn unknown_key(key: &str) -> String {
    match Setting::nearest(key) {
        Some(nearest) => format!("there is no setting {key}; did you mean {nearest}?"),
        None => format!("there is no setting {key}"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn settings_below_a_bad_header_hold_for_no_file() {
        let text = "[*.java]\nindent_size = 2\n[*.rs\nindent_size = 3\n[]\nindent_size = 4\n";
        let (config, problems) = EditorConfig::parse(Path::new("/tide"), text);
        assert_eq!(problems.iter().map(|problem| problem.line).collect::<Vec<_>>(), [3, 5]);
        let values = |path| config.entries_for(Path::new(path)).map(|entry| entry.line).collect::<Vec<_>>();
        assert_eq!((values("/tide/A.java"), values("/tide/a.rs"), values("/elsewhere/A.java")), (vec![2], vec![], vec![]));
    }

    #[test]
    fn faults_are_known_by_the_files_they_govern() {
        let text = "[*.java]\nindent_size = many\n[*.rs]\nindent_size = 3\n";
        let (config, _) = EditorConfig::parse(Path::new("/tide"), text);
        assert_eq!(config.fault_for(Path::new("/tide/A.java")), Some(2));
        assert_eq!(config.fault_for(Path::new("/tide/a.rs")), None);
        assert_eq!(EditorConfig::unreadable(Path::new("/tide")).fault_for(Path::new("/tide/a.rs")), Some(0));
    }

    #[test]
    fn mistakes_are_reported_with_their_line() {
        let text = "root = true\n[*.java]\nindent_size = many\nvknot_brace_contrl = next\nother_tool = 1\n";
        let (config, problems) = EditorConfig::parse(Path::new("/"), text);
        assert!(config.root);
        let said: Vec<String> = problems.iter().map(|p| format!("{}: {p}", p.line)).collect();
        assert_eq!(
            said,
            [
                "3: indent_size does not take `many`; it takes 1 to 16 | tab | as-found",
                "4: there is no setting vknot_brace_contrl; did you mean vknot_brace_control?",
            ]
        );
    }
}
