//! The journal: what each run wrote over, so that it can be taken back.
//!
//! A run is a folder `NUMBER` in the journal folder with `run.json` (when, where, what), `entries.jsonl` (one line for each file)
//! and `before` (the old contents, one after another). Contents and entries are on disk before any file is touched.

use std::fs::{File, OpenOptions};
use std::io::{Read, Seek, SeekFrom, Write};
use std::path::{Path, PathBuf};
use std::time::{SystemTime, UNIX_EPOCH};

use anyhow::{bail, Context};
use serde::{Deserialize, Serialize};

use crate::problem::Problem;
use super::write::replace;

/// How many runs are kept, and how many bytes of old contents.
const RUNS_AT_MOST: usize = 50;
const BYTES_AT_MOST: u64 = 512 * 1024 * 1024;

/// The facts of a run.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Run {
    /// Its number; later runs have higher ones.
    #[serde(skip)]
    pub number: u32,
    /// Seconds since 1970.
    pub time: u64,
    /// The command, as typed.
    pub command: String,
    /// The folder it ran in.
    pub folder: PathBuf,
    /// Whether it was taken back.
    #[serde(default)]
    pub undone: bool,
}

/// One file of a run.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Entry {
    pub path: PathBuf,
    /// Where its old content is in `before`.
    start: u64,
    length: u64,
    old: Fingerprint,
    new: Fingerprint,
}

/// Tells contents apart: length and a 64-bit FNV-1a hash.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Fingerprint {
    length: u64,
    hash: u64,
}

impl Fingerprint {
    pub fn of(content: &[u8]) -> Self {
        let hash = content.iter().fold(0xcbf2_9ce4_8422_2325_u64, |hash, byte| {
            (hash ^ u64::from(*byte)).wrapping_mul(0x0000_0100_0000_01b3)
        });
        Self { length: content.len() as u64, hash }
    }
}

/// The journal folder of this user.
pub struct Journal {
    folder: PathBuf,
}

/// A run that is being written.
pub struct Recording {
    folder: PathBuf,
    before: File,
    entries: File,
    length: u64,
}

/// A file's change, ready to be written.
pub struct Change<'c> {
    pub path: &'c Path,
    pub old: &'c [u8],
    pub new: &'c [u8],
}

impl Journal {
    /// The journal in the user's state folder, after the XDG Base Directory Specification 0.8.
    ///
    /// # Errors
    /// When neither `XDG_STATE_HOME` nor `HOME` is set.
    pub fn open() -> anyhow::Result<Journal> {
        let absolute = |name| std::env::var_os(name).map(PathBuf::from).filter(|path: &PathBuf| path.is_absolute());
        let state = absolute("XDG_STATE_HOME").or_else(|| Some(absolute("HOME")?.join(".local/state")));
        let Some(state) = state else { bail!("there is no folder for the journal; set XDG_STATE_HOME or HOME") };
        Ok(Journal { folder: state.join("vknot").join("runs") })
    }

    /// Begins a run, and drops the oldest ones if there are too many.
    pub fn begin(&self) -> anyhow::Result<Recording> {
        std::fs::create_dir_all(&self.folder).with_context(|| format!("cannot make {}", self.folder.display()))?;
        self.trim();
        let mut number = self.numbers().last().copied().unwrap_or(0) + 1;
        // Another run may take the number first.
        let folder = loop {
            let folder = self.folder.join(format!("{number:06}"));
            match std::fs::create_dir(&folder) {
                Ok(()) => break folder,
                Err(error) if error.kind() == std::io::ErrorKind::AlreadyExists => number += 1,
                Err(error) => return Err(error).with_context(|| format!("cannot make {}", folder.display())),
            }
        };
        let run = Run {
            number,
            time: SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |time| time.as_secs()),
            command: std::env::args().skip(1).collect::<Vec<_>>().join(" "),
            folder: std::env::current_dir().unwrap_or_default(),
            undone: false,
        };
        std::fs::write(folder.join("run.json"), serde_json::to_vec(&run)?)?;
        let append = |name: &str| OpenOptions::new().create(true).append(true).open(folder.join(name));
        Ok(Recording { before: append("before")?, entries: append("entries.jsonl")?, folder, length: 0 })
    }

    /// All runs with their entries, the oldest first.
    pub fn runs(&self) -> Vec<(Run, Vec<Entry>)> {
        self.numbers().into_iter().filter_map(|number| self.read(number)).collect()
    }

    /// Takes a run back, file by file. Gives how many files were restored; a file that changed since is left as it is and
    /// reported.
    pub fn undo(&self, run: &Run, entries: &[Entry]) -> anyhow::Result<(usize, Vec<Problem>)> {
        let folder = self.folder.join(format!("{:06}", run.number));
        let mut before = File::open(folder.join("before")).context("the journal has lost the old contents")?;
        let (mut restored, mut problems) = (0, Vec::new());
        for entry in entries {
            match restore(&mut before, entry) {
                Ok(true) => restored += 1,
                Ok(false) => {}
                Err(message) => problems.push(Problem::new(entry.path.display().to_string(), message)),
            }
        }
        let done = Run { undone: true, ..run.clone() };
        replace(&folder.join("run.json"), &serde_json::to_vec(&done)?)?;
        Ok((restored, problems))
    }

    fn numbers(&self) -> Vec<u32> {
        let entries = std::fs::read_dir(&self.folder).into_iter().flatten().flatten();
        let mut numbers: Vec<u32> = entries.filter_map(|entry| entry.file_name().to_str()?.parse().ok()).collect();
        numbers.sort_unstable();
        numbers
    }

    fn read(&self, number: u32) -> Option<(Run, Vec<Entry>)> {
        let folder = self.folder.join(format!("{number:06}"));
        let mut run: Run = serde_json::from_slice(&std::fs::read(folder.join("run.json")).ok()?).ok()?;
        run.number = number;
        let lines = std::fs::read_to_string(folder.join("entries.jsonl")).unwrap_or_default();
        // A run that was killed may have left half a line; the file it stood for was not touched yet.
        let entries = lines.lines().filter_map(|line| serde_json::from_str(line).ok()).collect();
        Some((run, entries))
    }

    fn trim(&self) {
        let mut bytes = 0;
        for (kept, number) in self.numbers().into_iter().rev().enumerate() {
            let folder = self.folder.join(format!("{number:06}"));
            bytes += std::fs::metadata(folder.join("before")).map_or(0, |facts| facts.len());
            if kept + 1 >= RUNS_AT_MOST || bytes > BYTES_AT_MOST {
                let _ = std::fs::remove_dir_all(folder);
            }
        }
    }
}

impl Recording {
    /// Puts the old contents of some files on disk, with what they are about to become.
    pub fn record(&mut self, changes: &[Change<'_>]) -> anyhow::Result<()> {
        let mut lines = Vec::new();
        for change in changes {
            self.before.write_all(change.old)?;
            let length = change.old.len() as u64;
            let entry = Entry {
                path: std::fs::canonicalize(change.path).unwrap_or_else(|_| change.path.to_path_buf()),
                start: self.length,
                length,
                old: Fingerprint::of(change.old),
                new: Fingerprint::of(change.new),
            };
            self.length += length;
            serde_json::to_writer(&mut lines, &entry)?;
            lines.push(b'\n');
        }
        self.before.sync_all()?;
        self.entries.write_all(&lines)?;
        self.entries.sync_all()?;
        Ok(())
    }

    /// Drops a run in which nothing was recorded.
    pub fn finish(self) {
        if self.length == 0 {
            let _ = std::fs::remove_dir_all(&self.folder);
        }
    }
}

/// Puts one file back. `false` means that it already was as before.
fn restore(before: &mut File, entry: &Entry) -> Result<bool, String> {
    let current = std::fs::read(&entry.path).map_err(|error| format!("cannot be read: {error}"))?;
    let current = Fingerprint::of(&current);
    if current == entry.old {
        return Ok(false);
    }
    if current != entry.new {
        return Err("has changed since; it is left as it is".to_owned());
    }
    let lost = |error: std::io::Error| format!("the journal cannot be read: {error}");
    before.seek(SeekFrom::Start(entry.start)).map_err(lost)?;
    let mut old = Vec::new();
    before.take(entry.length).read_to_end(&mut old).map_err(lost)?;
    if Fingerprint::of(&old) != entry.old {
        return Err("the journal's copy is damaged; the file is left as it is".to_owned());
    }
    replace(&entry.path, &old).map_err(|error| format!("cannot be written: {error}")).map(|()| true)
}
