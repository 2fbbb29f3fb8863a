//! Remembers which files were found as they should be, so that they are not read again: by their bytes, the step, the language, the style
//! and this very program.
//!
//! Records are the first 16 bytes of a SHA-256 hash (FIPS 180-4), in files by their first half byte, in the user's cache folder after the
//! XDG Base Directory Specification 0.8. They are only ever added, each in one write, so that runs beside each other do no harm; what is
//! broken or lost means no more than reading a file again. A file of records that grows too long loses its older half.

use std::collections::{HashMap, HashSet};
use std::fs::OpenOptions;
use std::io::Write;
use std::path::PathBuf;
use std::sync::{Mutex, PoisonError};

use sha2::{Digest, Sha256};
use vknot_style::{SETTINGS, Style};

/// What stands for a file that is as it should be.
pub type Record = [u8; 16];

/// Records in one file at most; there are 16 files.
const RECORDS_AT_MOST: usize = 32 * 1024;

/// The folder below that of the program, by the form of what is in it.
const FOLDER: &str = "clean-1";

/// The memory of one user.
pub struct Cache {
    folder: Option<PathBuf>,
    /// Tells this program from others that have its version.
    program: Vec<u8>,
    known: Mutex<HashMap<u8, HashSet<Record>>>,
    /// What was found in this run.
    found: Mutex<Vec<Record>>,
}

impl Cache {
    /// The memory in the user's cache folder; one that forgets everything if there is none, or it is not `wanted`.
    pub fn open(wanted: bool) -> Cache {
        Cache {
            folder: folder().filter(|_| wanted).map(|folder| folder.join(FOLDER)),
            program: program(),
            known: Mutex::default(),
            found: Mutex::default(),
        }
    }

    /// What stands for a file's bytes under a step and a style; `None` where nothing is remembered.
    pub fn record(&self, bytes: &[u8], step: &str, language: &str, style: &Style) -> Option<Record> {
        self.folder.as_ref()?;
        let mut hash = Sha256::new();
        let parts = [self.program.as_slice(), step.as_bytes(), language.as_bytes()];
        let values = SETTINGS.iter().map(|setting| style.word(setting.id).as_bytes());
        for part in parts.into_iter().chain(values).chain([bytes]) {
            // With its length, so that no part can pass for the end of another.
            hash.update((part.len() as u64).to_le_bytes());
            hash.update(part);
        }
        hash.finalize().first_chunk::<16>().copied()
    }

    /// Whether a file was found as it should be before.
    pub fn knows(&self, record: &Record) -> bool {
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        known.entry(record[0] >> 4).or_insert_with(|| self.read(record[0] >> 4)).contains(record)
    }

    /// A file was found as it should be.
    pub fn remember(&self, record: Record) {
        self.found.lock().unwrap_or_else(PoisonError::into_inner).push(record);
    }

    /// Writes down what was found in this run. What cannot be written is forgotten.
    pub fn keep(&self) {
        let Some(folder) = &self.folder else { return };
        let found = std::mem::take(&mut *self.found.lock().unwrap_or_else(PoisonError::into_inner));
        if found.is_empty() || std::fs::create_dir_all(folder).is_err() {
            return;
        }
        for shard in 0..16 {
            let own: Vec<u8> = found.iter().filter(|record| record[0] >> 4 == shard).flatten().copied().collect();
            if own.is_empty() {
                continue;
            }
            if let Some(path) = self.path(shard) {
                let file = OpenOptions::new().create(true).append(true).open(&path);
                let _ = file.and_then(|mut file| file.write_all(&own));
                shorten(&path);
            }
        }
    }

    fn path(&self, shard: u8) -> Option<PathBuf> {
        Some(self.folder.as_ref()?.join(format!("{shard:x}")))
    }

    fn read(&self, shard: u8) -> HashSet<Record> {
        let bytes = self.path(shard).and_then(|path| std::fs::read(path).ok()).unwrap_or_default();
        bytes.as_chunks::<16>().0.iter().copied().collect()
    }
}

/// Where the program keeps what it can find out again.
pub fn folder() -> Option<PathBuf> {
    let absolute = |name| std::env::var_os(name).map(PathBuf::from).filter(|path: &PathBuf| path.is_absolute());
    let folder = absolute("XDG_CACHE_HOME").or_else(|| Some(absolute("HOME")?.join(".cache")));
    folder.map(|folder| folder.join("vknot"))
}

/// Drops the older half of a file of records that is too long. A run beside this one may lose what it adds meanwhile.
fn shorten(path: &PathBuf) {
    let Ok(bytes) = std::fs::read(path) else { return };
    let (records, _) = bytes.as_chunks::<16>();
    if records.len() <= RECORDS_AT_MOST {
        return;
    }
    let newer: Vec<u8> = records[records.len() / 2..].concat();
    let folder = path.parent().unwrap_or(path);
    if let Ok(mut file) = tempfile::NamedTempFile::new_in(folder) && file.write_all(&newer).is_ok() {
        let _ = file.persist(path);
    }
}

/// What this program is: its version, and the file that it is, since a version may be built more than once.
pub fn program() -> Vec<u8> {
    let file = std::env::current_exe().and_then(std::fs::metadata).ok();
    let built = file.as_ref().and_then(|facts| facts.modified().ok());
    let built =
        built.and_then(|time| time.duration_since(std::time::UNIX_EPOCH).ok()).map_or(0, |time| time.as_nanos());
    let size = file.map_or(0, |facts| facts.len());
    format!("{} {size} {built}", env!("CARGO_PKG_VERSION")).into_bytes()
}

#[cfg(test)]
mod tests {
    use vknot_reshape::style_of;
    use vknot_syntax::Language;

    use super::*;

    fn cache(folder: &std::path::Path, program: &str) -> Cache {
        Cache {
            folder: Some(folder.to_path_buf()),
            program: program.as_bytes().to_vec(),
            known: Mutex::default(),
            found: Mutex::default(),
        }
    }

    #[test]
    fn each_thing_that_counts_makes_another_record() {
        let folder = tempfile::tempdir().unwrap();
        let language = style_of(Language::named("java").unwrap());
        let style = Style::defaults(language);
        let usual = |program: &str| cache(folder.path(), program).record(b"class A {}", "format", "java", &style);
        let of = cache(folder.path(), "1");
        let mut records = vec![
            usual("1"),
            usual("2"),
            of.record(b"class B {}", "format", "java", &style),
            of.record(b"class A {}", "indent", "java", &style),
            of.record(b"class A {}", "format", "csharp", &style),
            of.record(b"\xef\xbb\xbfclass A {}", "format", "java", &style),
        ];
        // Every setting counts.
        for setting in SETTINGS {
            let value =
                setting
                    .choices()
                    .into_iter()
                    .find(|value| value != style.word(setting.id))
                    .unwrap_or_else(|| if setting.key.contains("heads") { "a=1" } else { "tide" }.to_owned());
            let set = vknot_style::Override::new(setting.id, &value).unwrap();
            records.push(of.record(b"class A {}", "format", "java", &style.clone().overridden(&[set])));
        }
        let all: HashSet<Option<Record>> = records.iter().copied().collect();
        assert_eq!(all.len(), records.len());
        assert_eq!(usual("1"), records[0]);
    }

    #[test]
    fn records_are_kept_and_too_many_are_not() {
        let folder = tempfile::tempdir().unwrap();
        let record = |number: u32| {
            let mut record = [0u8; 16];
            record[4..8].copy_from_slice(&number.to_le_bytes());
            record
        };
        let first = cache(folder.path(), "1");
        (0..RECORDS_AT_MOST as u32 + 10).for_each(|number| first.remember(record(number)));
        first.keep();
        let second = cache(folder.path(), "1");
        assert!(second.knows(&record(RECORDS_AT_MOST as u32)) && !second.knows(&record(3)));
        // What is cut off in the middle of a record costs no more than that.
        std::fs::write(folder.path().join("0"), [0u8; 21]).unwrap();
        let third = cache(folder.path(), "1");
        assert!(third.knows(&record(0)) && !third.knows(&record(1)));
    }
}
