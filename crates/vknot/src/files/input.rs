//! Reads one file, or standard input, into source and tree.

use std::io::Read;
use std::path::{Path, PathBuf};

use vknot_reshape::Code;
use vknot_reshape::looks::Marks;
use vknot_reshape::steps::Document;
use vknot_syntax::{Language, MAX_BYTES, ReadError, Source, Tree};

use crate::arguments::InputArguments;
use crate::problem::Problem;
use super::plain;

/// A file, read.
pub struct Input {
    /// How messages name it.
    pub shown: String,
    /// Where it is; `None` for standard input.
    pub path: Option<PathBuf>,
    /// What is in it.
    pub document: Document,
}

/// The text of a file, before it is a document.
pub struct Text {
    pub shown: String,
    /// The file, or what standard input stands for.
    pub path: PathBuf,
    pub source: Source,
    pub language: &'static Language,
}

/// What stands for standard input.
pub const STDIN: &str = "-";

/// Reads the text of `file`, where `-` is standard input.
///
/// # Errors
/// When there is no such file, it is not text, or the language asked for is not known.
pub fn text_of(file: &Path, arguments: &InputArguments) -> Result<Text, Problem> {
    let stdin = file == Path::new(STDIN);
    let path = if stdin { arguments.stands_for.clone().unwrap_or_default() } else { file.to_path_buf() };
    let shown = if stdin { shown_stdin(&path) } else { file.display().to_string() };
    let problem = |message: String| Problem::new(&shown, message);
    let bytes = if stdin { read_stdin() } else { read_file(&path) }.map_err(problem)?;
    text_in(shown, path, bytes, arguments)
}

/// The text of a file whose bytes are known.
///
/// # Errors
/// When it is not text, or the language asked for is not known.
pub fn text_in(shown: String, path: PathBuf, bytes: Vec<u8>, arguments: &InputArguments) -> Result<Text, Problem> {
    let problem = |message: String| Problem::new(&shown, message);
    let source = Source::from_bytes(&path, bytes).map_err(|error| unreadable(&shown, &error))?;
    let language = language(&path, source.text(), arguments).map_err(problem)?.unwrap_or(Language::plain());
    Ok(Text { shown, path, source, language })
}

impl Input {
    /// Its text.
    pub fn source(&self) -> &Source {
        self.document.source()
    }

    /// Its tree.
    pub fn tree(&self) -> &Tree {
        self.document.tree()
    }

    /// Text and tree together.
    pub fn code(&self) -> Code<'_> {
        self.document.code()
    }

    /// The project's marks, and the file's pins.
    pub fn marks(&self) -> &Marks {
        self.document.marks()
    }

    /// Whether the file has a language, as against being read by brackets and lines.
    pub fn has_language(&self) -> bool {
        self.document.language() != Language::plain()
    }

    /// The problem of a position of this file.
    pub fn problem_at(&self, offset: u32, message: impl Into<String>) -> Problem {
        let at = self.source().line_column(offset);
        Problem::new(&self.shown, message).at(at.line, at.column)
    }
}

fn shown_stdin(path: &Path) -> String {
    if path.as_os_str().is_empty() { "-".to_owned() } else { path.display().to_string() }
}

fn unreadable(shown: &str, error: &ReadError) -> Problem {
    let problem = Problem::new(shown, error.to_string());
    match error.line() {
        Some(line) => problem.at(line, 1),
        None => problem,
    }
}

/// The language asked for, else the one the file name or the first line stands for.
fn language(path: &Path, text: &str, arguments: &InputArguments) -> Result<Option<&'static Language>, String> {
    match &arguments.language {
        None => Ok(Language::of_file(path, text)),
        Some(name) => match Language::called(name) {
            Some(language) => Ok(Some(language)),
            None => {
                let known: Vec<&str> = Language::all().map(Language::name).collect();
                Err(format!("there is no language `{name}`; there are {}", known.join(", ")))
            }
        },
    }
}

fn read_stdin() -> Result<Vec<u8>, String> {
    let mut bytes = Vec::new();
    let result = std::io::stdin().lock().take(MAX_BYTES + 1).read_to_end(&mut bytes);
    result.map(|_| bytes).map_err(|error| format!("standard input cannot be read: {error}"))
}

/// A file's content. What is too large is read no further than to tell that.
fn read_file(path: &Path) -> Result<Vec<u8>, String> {
    let size = std::fs::metadata(path).map_or(0, |facts| facts.len());
    if size > MAX_BYTES {
        return Err(ReadError::TooLarge { size }.to_string());
    }
    plain::read(path)
}
