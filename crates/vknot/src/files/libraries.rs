//! The archives of compiled libraries that a `vknot.toml` names, and what is in them.

use std::io::{Cursor, Read};
use std::path::{Path, PathBuf};

use vknot_reshape::{Declared, LibrarySpec};

/// The most bytes of one entry that are read.
const ENTRY: u64 = 16 * 1024 * 1024;

/// The archives that are named, or are in folders that are, from a root.
///
/// # Errors
/// With the first name of something that is not there.
pub fn archives(root: &Path, named: &[String], ending: &str) -> Result<Vec<PathBuf>, String> {
    let mut archives = Vec::new();
    for name in named {
        let path = root.join(name);
        if path.is_dir() {
            let inside = std::fs::read_dir(&path).map_err(|error| format!("`{name}` cannot be read: {error}"))?;
            let paths = inside.filter_map(Result::ok).map(|entry| entry.path());
            archives.extend(paths.filter(|path| path.extension().is_some_and(|own| own == ending)));
        } else if path.is_file() {
            archives.push(path);
        } else {
            return Err(format!("names `{name}` among libraries, and there is no such file or folder"));
        }
    }
    archives.sort_unstable();
    archives.dedup();
    Ok(archives)
}

/// What an archive offers; nothing where it is none.
pub fn declared(archive: &[u8], spec: &LibrarySpec) -> Declared {
    let mut declared = Declared { library: true, ..Declared::default() };
    let Ok(mut archive) = zip::ZipArchive::new(Cursor::new(archive)) else { return declared };
    for index in 0..archive.len() {
        let Ok(entry) = archive.by_index(index) else { continue };
        let Ok(name) = entry.name().map(|name| name.into_owned()) else { continue };
        let mut content = Vec::new();
        if entry.take(ENTRY).read_to_end(&mut content).is_ok() {
            declared.places.extend((spec.offers)(&name, &content));
        }
    }
    declared
}
