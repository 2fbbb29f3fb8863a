//! What the files of a folder show of their style, for those among them that show too little. It is read when it is first asked for.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use vknot_reshape::steps::Document;
use vknot_reshape::styling::{Beside, Told, in_force};
use vknot_style::Key;
use vknot_syntax::{Language, Source};

use super::project::Home;

/// How many files are looked at, and how long one may be.
const FILES_AT_MOST: usize = 9;
const BYTES_AT_MOST: u64 = 128 * 1024;
/// Where a folder has fewer, those around it are looked at, too, as far as the project goes.
const FILES_ENOUGH: usize = 3;
/// How many folders outwards.
const FOLDERS_AT_MOST: usize = 3;

/// The values that the files of a language around a folder agree on; `told` gives what one of them shows, which may be of another folder.
pub fn shown(
    folder: &Path,
    language: &'static Language,
    told: impl Fn(&Path, bool) -> Arc<Told>,
) -> Vec<(Key, String)> {
    let mut beside = Beside::default();
    for file in files(folder, language) {
        beside.count(&told(&file, file.parent() != Some(folder)));
    }
    let values = beside.values();
    // What is usual holds anyway.
    let nothing = Document::new(Source::from_text("", String::new()), language, vknot_reshape::default_style(language));
    let usual = in_force(&nothing);
    match values.iter().all(|(key, value)| usual.word(*key) == value) {
        true => Vec::new(),
        false => values,
    }
}

/// Some files of the folder, and where those are few, of the folders around it.
fn files(folder: &Path, language: &'static Language) -> Vec<PathBuf> {
    let root = Home::marked_above(folder);
    let inside = |around: &&Path| *around == folder || root.as_ref().is_some_and(|root| around.starts_with(root));
    let mut found = Vec::new();
    for (depth, around) in folder.ancestors().take(FOLDERS_AT_MOST + 1).take_while(inside).enumerate() {
        found = below(around, depth + 1, language);
        if found.len() >= FILES_ENOUGH {
            break;
        }
    }
    found
}

fn below(folder: &Path, depth: usize, language: &'static Language) -> Vec<PathBuf> {
    let walker = ignore::WalkBuilder::new(folder)
        .require_git(false)
        .max_depth(Some(depth))
        .max_filesize(Some(BYTES_AT_MOST))
        .sort_by_file_path(Path::cmp)
        .build();
    let all: Vec<PathBuf> = walker
        .filter_map(Result::ok)
        .filter(|entry| entry.file_type().is_some_and(|kind| kind.is_file()))
        .map(ignore::DirEntry::into_path)
        .filter(|path| may_be(path, language))
        .collect();
    spread(all, FILES_AT_MOST)
}

/// As many as `most`, as far from each other as they can be: neighbours by name are often of one hand, or copies of each other.
fn spread<T>(all: Vec<T>, most: usize) -> Vec<T> {
    let count = all.len();
    let begins_share = |at: usize| count <= most || (at * most).div_ceil(count) < ((at + 1) * most).div_ceil(count);
    all.into_iter().enumerate().filter(|(at, _)| begins_share(*at)).map(|(_, one)| one).collect()
}

/// Whether a file of that ending may be in the language; its text tells.
fn may_be(path: &Path, language: &'static Language) -> bool {
    let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or("");
    language.spec().extensions.contains(&ending)
}
