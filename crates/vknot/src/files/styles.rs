//! Finds the `.editorconfig` files that hold for a file; each is read once.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use vknot_style::{EditorConfig, Override, Style};
use vknot_syntax::Language;

use crate::problem::Problem;
use super::plain;

pub const FILE_NAME: &str = ".editorconfig";

/// Styles by folder.
#[derive(Default)]
pub struct Styles {
    /// For each folder its file and those above, the farthest first.
    folders: Mutex<HashMap<PathBuf, Arc<Vec<EditorConfig>>>>,
    problems: Mutex<Vec<Problem>>,
}

impl Styles {
    /// Forgets what was read.
    pub fn refresh(&self) {
        self.folders.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// The style of a file. A relative path starts from the current folder.
    pub fn of(&self, path: &Path, language: &'static Language, overrides: &[Override]) -> Style {
        let path = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
        let configs = path.parent().map(|folder| self.configs(folder)).unwrap_or_default();
        Style::resolve(&configs, overrides, &path, vknot_reshape::style_of(language))
    }

    /// What was wrong in the files read so far.
    pub fn take_problems(&self) -> Vec<Problem> {
        std::mem::take(&mut *self.problems.lock().unwrap_or_else(PoisonError::into_inner))
    }

    /// The files that hold for what is in a folder, the farthest first.
    pub fn configs(&self, folder: &Path) -> Arc<Vec<EditorConfig>> {
        let known = |path: &Path| self.folders.lock().unwrap_or_else(PoisonError::into_inner).get(path).cloned();
        if let Some(configs) = known(folder) {
            return configs;
        }
        let own = self.read(folder);
        let mut configs = match (&own, folder.parent()) {
            (Some(own), _) if own.root => Vec::new(),
            (_, Some(above)) => self.configs(above).as_ref().clone(),
            (_, None) => Vec::new(),
        };
        configs.extend(own);
        let configs = Arc::new(configs);
        self.folders.lock().unwrap_or_else(PoisonError::into_inner).insert(folder.to_path_buf(), Arc::clone(&configs));
        configs
    }

    fn read(&self, folder: &Path) -> Option<EditorConfig> {
        let path = folder.join(FILE_NAME);
        let text = plain::read_if_there(&path).map(|text| text.map(String::from_utf8)).transpose()?;
        let shown = path.display().to_string();
        let (config, problems) = match text {
            Ok(Ok(text)) => {
                let (config, found) = EditorConfig::parse(folder, &text);
                let problem = |found: vknot_style::Problem| Problem::new(&shown, found.message).at(found.line, 1);
                (config, found.into_iter().map(problem).collect())
            }
            Ok(Err(_)) => (EditorConfig::unreadable(folder), vec![Problem::new(&shown, "is not UTF-8")]),
            Err(message) => (EditorConfig::unreadable(folder), vec![Problem::new(&shown, message)]),
        };
        let mut all = self.problems.lock().unwrap_or_else(PoisonError::into_inner);
        for problem in problems {
            if !all.contains(&problem) {
                all.push(problem);
            }
        }
        Some(config)
    }
}
