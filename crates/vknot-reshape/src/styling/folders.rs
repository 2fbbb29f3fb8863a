//! The folders of a code base, for habits that not all of it shares.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

/// Files, and the folders below the root that hold them.
#[derive(Clone, Debug, Default)]
pub struct Folders {
    files: Vec<PathBuf>,
    /// Each behind the one that holds it.
    folders: Vec<PathBuf>,
}

impl Folders {
    /// The folders of files, whose paths are seen from the root; the root itself is none of them.
    pub fn of(files: Vec<PathBuf>) -> Folders {
        let holders = files.iter().flat_map(|file| file.ancestors().skip(1));
        let folders: BTreeSet<&Path> = holders.filter(|folder| !folder.as_os_str().is_empty()).collect();
        Folders { folders: folders.into_iter().map(Path::to_path_buf).collect(), files }
    }

    /// Each folder.
    pub fn iter(&self) -> impl Iterator<Item = &Path> {
        self.folders.iter().map(PathBuf::as_path)
    }

    /// Whether a folder holds a file, by the file's number.
    pub fn holds(&self, folder: &Path, file: usize) -> bool {
        self.files.get(file).is_some_and(|file| file.starts_with(folder))
    }
}
