//! What is known of the projects that files belong to: settings, `vknot.toml`, pins. Each is read once, until it is asked to look again.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

use vknot_reshape::library_spec;
use vknot_reshape::looks::Marks;
use vknot_reshape::steps::Document;
use vknot_reshape::styling::{Told, is_generated};
use vknot_style::{EditorConfig, Key, Override, Style};
use vknot_syntax::{Language, Source};

use crate::arguments::InputArguments;
use crate::problem::Problem;
use super::beside;
use super::input::{Input, STDIN, Text, text_in, text_of};
use super::libraries;
use super::neighbours::Neighbours;
use super::project::Home;
use super::styles::Styles;

/// What the files of a folder show of their style, once it was asked for.
type Shown = OnceLock<Vec<(Key, String)>>;

/// What a file shows to those beside it, or to those of other folders (`true`), read as a language.
type Tellers = HashMap<(PathBuf, &'static str, bool), Arc<OnceLock<Arc<Told>>>>;

/// The projects at work.
#[derive(Default)]
pub struct Workspace {
    styles: Styles,
    homes: Mutex<HashMap<PathBuf, Arc<Home>>>,
    /// For each folder the root of its project.
    roots: Mutex<HashMap<PathBuf, PathBuf>>,
    problems: Mutex<Vec<Problem>>,
    /// Folders that were named, which pass for projects where nothing marks one.
    named: Mutex<Vec<PathBuf>>,
    neighbours: Mutex<HashMap<(PathBuf, &'static str), Arc<Neighbours>>>,
    /// For each folder and language what the files there show of their style.
    beside: Mutex<HashMap<(PathBuf, &'static str), Arc<Shown>>>,
    /// Folders with few files of their own ask the same ones around them.
    tellers: Mutex<Tellers>,
}

impl Workspace {
    /// Forgets what was read, so that it is read again when it is next asked for.
    pub fn refresh(&self) {
        self.styles.refresh();
        self.homes.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.roots.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.neighbours.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.beside.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.tellers.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Folders that were named pass for projects where nothing marks one.
    pub fn name_folders(&self, folders: impl IntoIterator<Item = PathBuf>) {
        let folders = folders.into_iter().filter_map(|folder| std::path::absolute(folder).ok());
        self.named.lock().unwrap_or_else(PoisonError::into_inner).extend(folders.filter(|folder| folder.is_dir()));
    }

    /// The root of the project that a folder is in: what is marked as one, else what was named, else the current folder, else itself.
    pub fn root_around(&self, folder: &Path) -> PathBuf {
        if let Some(marked) = Home::marked_above(folder) {
            return marked;
        }
        let named = self.named.lock().unwrap_or_else(PoisonError::into_inner);
        let above = named.iter().filter(|named| folder.starts_with(named)).min_by_key(|named| named.as_os_str().len());
        let here = || std::env::current_dir().ok().filter(|here| folder.starts_with(here));
        above.cloned().or_else(here).unwrap_or_else(|| folder.to_path_buf())
    }

    /// What is known of the files of a language in a project.
    pub fn neighbours(&self, root: &Path, language: &'static Language) -> Arc<Neighbours> {
        let mut neighbours = self.neighbours.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(neighbours.entry((root.to_path_buf(), language.name())).or_default())
    }

    /// The project of a file or folder. Without a mark anywhere, its folder is the root.
    ///
    /// # Errors
    /// When its `vknot.toml` or its pins cannot be read.
    pub fn home(&self, path: &Path) -> Result<Arc<Home>, Problem> {
        let path = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
        let folder = if path.is_dir() { path.as_path() } else { path.parent().unwrap_or(&path) };
        let root = self.roots
            .lock()
            .unwrap_or_else(PoisonError::into_inner)
            .entry(folder.to_path_buf())
            .or_insert_with(|| Home::root_of(folder))
            .clone();
        let mut homes = self.homes.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(home) = homes.get(&root) {
            return Ok(Arc::clone(home));
        }
        let home = Arc::new(Home::read(&root)?);
        homes.insert(root, Arc::clone(&home));
        Ok(home)
    }

    /// The marks of a file. What is wrong with its project is said once, and then it has none.
    fn marks(&self, path: &Path, source: &Source) -> Marks {
        match self.home(path) {
            Ok(home) => home.marks(path, source),
            Err(problem) => {
                self.note(problem);
                Marks::default()
            }
        }
    }

    /// The archives of libraries that the project of a file names for a language. What is wrong with them is said once.
    pub fn archives(&self, path: &Path, language: &'static Language) -> Vec<PathBuf> {
        let (Some(spec), Ok(home)) = (library_spec(language), self.home(path)) else { return Vec::new() };
        let named = home.project.libraries.get(language.name()).map_or(&[][..], Vec::as_slice);
        libraries::archives(&home.root, named, spec.ending).unwrap_or_else(|why| {
            self.note(Problem::new(home.settings_file().display().to_string(), why));
            Vec::new()
        })
    }

    /// Keeps a problem that was not met before.
    fn note(&self, problem: Problem) {
        let mut problems = self.problems.lock().unwrap_or_else(PoisonError::into_inner);
        if !problems.contains(&problem) {
            problems.push(problem);
        }
    }

    /// The style of a file. A relative path starts from the current folder.
    pub fn style(&self, path: &Path, language: &'static Language, overrides: &[Override]) -> Style {
        self.styles.of(path, language, overrides)
    }

    /// A style with what the files beside show of settings that nothing sets; `None` where they show nothing that makes a difference.
    pub fn style_beside(&self, style: &Style, path: &Path, language: &'static Language) -> Option<Style> {
        let path = std::path::absolute(path).ok()?;
        let folder = path.parent().filter(|folder| folder.is_dir())?.to_path_buf();
        let mut known = self.beside.lock().unwrap_or_else(PoisonError::into_inner);
        let shown = Arc::clone(known.entry((folder.clone(), language.name())).or_default());
        drop(known);
        let told = |file: &Path, elsewhere| self.told(file, language, elsewhere);
        let shown = shown.get_or_init(|| beside::shown(&folder, language, told));
        let mut open = shown.iter().filter(|(key, value)| style.is_open(*key) && style.word(*key) != value).peekable();
        open.peek()?;
        Some(open.fold(style.clone(), |style, (key, value)| style.with_beside(*key, value.clone())))
    }

    /// What a file shows to others; nothing where it is none of the language's, cannot be read or was written by a program.
    fn told(&self, file: &Path, language: &'static Language, elsewhere: bool) -> Arc<Told> {
        let mut tellers = self.tellers.lock().unwrap_or_else(PoisonError::into_inner);
        let told = Arc::clone(tellers.entry((file.to_path_buf(), language.name(), elsewhere)).or_default());
        drop(tellers);
        let read = || {
            let document = self.read(file, &InputArguments::default()).ok()?.document;
            let counts = document.language() == language && !is_generated(&document);
            let style = self.style(file, document.language(), &[]);
            counts.then(|| Told::of(&document.with_style(style), elsewhere))
        };
        Arc::clone(told.get_or_init(|| Arc::new(read().unwrap_or_default())))
    }

    /// The `.editorconfig` files that hold for what is in a folder, the farthest first.
    pub fn configs(&self, folder: &Path) -> Arc<Vec<EditorConfig>> {
        self.styles.configs(&std::path::absolute(folder).unwrap_or_else(|_| folder.to_path_buf()))
    }

    /// What was wrong in the settings and projects read so far.
    pub fn take_problems(&self) -> Vec<Problem> {
        let mut problems = self.styles.take_problems();
        problems.append(&mut self.problems.lock().unwrap_or_else(PoisonError::into_inner));
        problems
    }

    /// Reads `file`, where `-` is standard input.
    ///
    /// # Errors
    /// When there is no such file, it is not text, or the language asked for is not known.
    pub fn read(&self, file: &Path, arguments: &InputArguments) -> Result<Input, Problem> {
        let text = text_of(file, arguments)?;
        Ok(self.input(text, file != Path::new(STDIN)))
    }

    /// Reads a file whose bytes are known.
    ///
    /// # Errors
    /// When it is not text, or the language asked for is not known.
    pub fn read_bytes(&self, file: &Path, bytes: Vec<u8>, arguments: &InputArguments) -> Result<Input, Problem> {
        let text = text_in(file.display().to_string(), file.to_path_buf(), bytes, arguments)?;
        Ok(self.input(text, true))
    }

    fn input(&self, text: Text, is_file: bool) -> Input {
        let (source, path) = (text.source, text.path);
        let marks = match path.as_os_str().is_empty() {
            true => Marks::default(),
            false => self.marks(&path, &source),
        };
        let style = vknot_reshape::default_style(text.language);
        let document = Document::new(source, text.language, style).with_marks(marks);
        Input { shown: text.shown, path: is_file.then_some(path), document }
    }
}
