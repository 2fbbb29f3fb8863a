//! The journal: what each run wrote over, so that it can be taken back.
//!
//! A run is a folder `NUMBER` in the journal folder with `run.json` (when, where, what), `entries.jsonl` (one line for each file)
//! and `before` (the old contents, one after another). Contents and entries are on disk before any file is touched. Taking a run back is
//! a run, too, so that it can be done again. Nobody but the user may look into the journal.

use std::collections::HashSet;
use std::fs::{DirBuilder, File, OpenOptions};
use std::io::{Read, Seek, SeekFrom, Write};
use std::path::{Path, PathBuf};
use std::time::{SystemTime, UNIX_EPOCH};

use anyhow::{bail, Context};
use serde::{Deserialize, Serialize};

use super::project::Home;
use super::write::{self, WriteError};

/// How many runs are kept, and how many bytes of old contents.
const RUNS_AT_MOST: usize = 50;
const BYTES_AT_MOST: u64 = 512 * 1024 * 1024;

/// The facts of a run.
#[derive(Clone, Debug, Default, Serialize, Deserialize)]
pub struct Run {
    /// Its number; later runs have higher ones.
    #[serde(skip)]
    pub number: u32,
    /// Seconds since 1970.
    pub time: u64,
    /// The command, as typed.
    pub command: String,
    /// The folder it ran in.
    #[serde(with = "paths")]
    pub folder: PathBuf,
    #[serde(default)]
    pub state: State,
    /// The run that it took back.
    #[serde(default)]
    pub undoes: Option<u32>,
}

/// Whether a run was taken back.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "camelCase")]
pub enum State {
    #[default]
    Done,
    /// Some of its files could not be taken back.
    PartlyTakenBack,
    TakenBack,
}

/// One file of a run.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Entry {
    #[serde(with = "paths")]
    pub path: PathBuf,
    /// Where its old content is in `before`.
    start: u64,
    length: u64,
    old: Fingerprint,
    new: Fingerprint,
    /// Who might do what with it.
    #[serde(default)]
    mode: Option<u32>,
    /// Whether it was not written after all.
    #[serde(default)]
    skipped: bool,
}

/// Tells contents apart: length and a 64-bit FNV-1a hash.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Fingerprint {
    length: u64,
    hash: u64,
}

impl Fingerprint {
    /// What contents are sorted by, as good as at random.
    pub fn order(self) -> u64 {
        self.hash
    }

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
    /// Its number.
    pub number: u32,
    folder: PathBuf,
    before: File,
    entries: File,
    length: u64,
    files: usize,
}

/// A file's change, ready to be written.
pub struct Change<'c> {
    pub path: &'c Path,
    pub old: &'c [u8],
    pub new: &'c [u8],
}

/// What became of the files of a run that was taken back.
#[derive(Default)]
pub struct TakenBack {
    /// How many are as before.
    pub restored: usize,
    /// Those that are not, and why.
    pub left: Vec<(PathBuf, String)>,
    /// What the journal could not note.
    pub remarks: Vec<String>,
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
        let command = std::env::args_os().skip(1).map(|argument| argument.to_string_lossy().into_owned());
        self.record(command.collect::<Vec<_>>().join(" "), None)
    }

    fn record(&self, command: String, undoes: Option<u32>) -> anyhow::Result<Recording> {
        let cannot = || format!("the journal cannot be written in {}", self.folder.display());
        private::make_folder(&self.folder).with_context(cannot)?;
        self.trim();
        let mut number = self.numbers().last().copied().unwrap_or(0) + 1;
        // Another run may take the number first.
        let folder = loop {
            let folder = self.folder_of(number);
            match private::folders().create(&folder) {
                Ok(()) => break folder,
                Err(error) if error.kind() == std::io::ErrorKind::AlreadyExists => number += 1,
                Err(error) => return Err(error).with_context(cannot),
            }
        };
        let time = SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |time| time.as_secs());
        let here = std::env::current_dir().unwrap_or_default();
        let run = Run { number, time, command, folder: here, state: State::Done, undoes };
        private::files().write(true).open(folder.join("run.json"))?.write_all(&serde_json::to_vec(&run)?)?;
        let append = |name: &str| private::files().append(true).open(folder.join(name));
        let (before, entries) = (append("before")?, append("entries.jsonl")?);
        Ok(Recording { number, before, entries, folder, length: 0, files: 0 })
    }

    /// All runs with their entries, the oldest first.
    pub fn runs(&self) -> Vec<(Run, Vec<Entry>)> {
        self.numbers().into_iter().map(|number| self.read(number)).filter(|(_, entries)| !entries.is_empty()).collect()
    }

    /// Takes a run back, file by file. A file that changed since is left as it is, and one that is gone comes back.
    pub fn undo(&self, run: &Run, entries: &[Entry]) -> TakenBack {
        let before = File::open(self.folder_of(run.number).join("before"));
        let mut taken = TakenBack::default();
        let mut back = Vec::new();
        for entry in entries {
            match before.as_ref().map_err(|error| error.to_string()).and_then(|before| Restoring::of(before, entry)) {
                Ok(Some(restoring)) => back.push(restoring),
                Ok(None) => taken.restored += 1,
                Err(why) => taken.left.push((entry.path.clone(), why)),
            }
        }
        // On a full disk what was done can still be taken back, only not done again.
        if !back.is_empty() && let Err(error) = self.record_undo(run, &back) {
            taken.remarks.push(format!("it cannot be done again: {error:#}"));
        }
        for restoring in back {
            match restoring.write() {
                Ok(()) => taken.restored += 1,
                Err(error) => taken.left.push((restoring.entry.path.clone(), error.to_string())),
            }
        }
        let state = if taken.left.is_empty() { State::TakenBack } else { State::PartlyTakenBack };
        if let Err(error) = self.set_state(run, state) {
            taken.remarks.push(format!("the list of runs does not show it: {error:#}"));
        }
        taken
    }

    /// Records the taking back of a run, as a run.
    fn record_undo(&self, run: &Run, back: &[Restoring<'_>]) -> anyhow::Result<()> {
        let mut recording = self.record(run.command.clone(), Some(run.number))?;
        let present = back.iter().filter(|restoring| restoring.current.is_some());
        let recorded = recording.record(&present.map(Restoring::change).collect::<Vec<_>>());
        if recorded.is_err() {
            let _ = std::fs::remove_dir_all(&recording.folder);
            return recorded.context("the journal cannot be written");
        }
        recording.finish();
        Ok(())
    }

    /// Notes how a run stands.
    ///
    /// # Errors
    /// When the journal cannot be written.
    pub fn set_state(&self, run: &Run, state: State) -> anyhow::Result<()> {
        let path = self.folder_of(run.number).join("run.json");
        let text = serde_json::to_vec(&Run { state, ..run.clone() })?;
        let old = std::fs::read(&path).unwrap_or_default();
        let written = if path.exists() {
            write::replace(&path, &old, &text)
        } else {
            write::create(&path, &text, Some(0o600))
        };
        written.with_context(|| format!("the journal's {} cannot be written", path.display()))
    }

    fn folder_of(&self, number: u32) -> PathBuf {
        self.folder.join(format!("{number:06}"))
    }

    fn numbers(&self) -> Vec<u32> {
        let entries = std::fs::read_dir(&self.folder).into_iter().flatten().flatten();
        let mut numbers: Vec<u32> = entries.filter_map(|entry| entry.file_name().to_str()?.parse().ok()).collect();
        numbers.sort_unstable();
        numbers
    }

    fn read(&self, number: u32) -> (Run, Vec<Entry>) {
        let folder = self.folder_of(number);
        let facts = std::fs::read(folder.join("run.json")).unwrap_or_default();
        let run: Run = serde_json::from_slice(&facts).unwrap_or_default();
        let lines = std::fs::read(folder.join("entries.jsonl")).unwrap_or_default();
        // A run that was killed may have left half a line; the file it stood for was not touched yet.
        let lines = lines.split(|byte| *byte == b'\n');
        let mut entries: Vec<Entry> = lines.filter_map(|line| serde_json::from_slice(line).ok()).collect();
        let skipped: HashSet<PathBuf> = entries.extract_if(.., |entry| entry.skipped).map(|entry| entry.path).collect();
        entries.retain(|entry| !skipped.contains(&entry.path));
        (Run { number, ..run }, entries)
    }

    fn trim(&self) {
        let mut bytes = 0;
        for (kept, number) in self.numbers().into_iter().rev().enumerate() {
            let folder = self.folder_of(number);
            bytes += std::fs::metadata(folder.join("before")).map_or(0, |facts| facts.len());
            if kept + 1 >= RUNS_AT_MOST || bytes > BYTES_AT_MOST {
                let _ = std::fs::remove_dir_all(folder);
            }
        }
    }
}

/// Whether a run is one of a project: all its files are in it, or it ran there and some are.
pub fn is_of_project(run: &Run, entries: &[Entry], root: &Path) -> bool {
    let mut files = entries.iter().map(|entry| entry.path.starts_with(root));
    let here = std::fs::canonicalize(&run.folder).unwrap_or_else(|_| run.folder.clone()).starts_with(root);
    if here { files.any(|inside| inside) } else { files.all(|inside| inside) }
}

/// The root of the project one stands in.
pub fn project_here() -> PathBuf {
    let here = std::env::current_dir().and_then(std::fs::canonicalize).unwrap_or_default();
    Home::root_of(&here)
}

impl Recording {
    /// Puts the old contents of some files on disk, with what they are about to become.
    ///
    /// # Errors
    /// When the disk is full, or cannot be written; then none of these files is in the journal as a whole.
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
                mode: private::mode_of(change.path),
                skipped: false,
            };
            self.length += length;
            serde_json::to_writer(&mut lines, &entry)?;
            lines.push(b'\n');
        }
        self.before.sync_all()?;
        self.entries.write_all(&lines)?;
        self.entries.sync_all()?;
        self.files += changes.len();
        Ok(())
    }

    /// Notes that a file which was recorded was not written after all, so that there is nothing to take back of it.
    ///
    /// # Errors
    /// When the journal cannot be written.
    pub fn skip(&mut self, path: &Path) -> anyhow::Result<()> {
        let path = std::fs::canonicalize(path).unwrap_or_else(|_| path.to_path_buf());
        let nothing = Fingerprint::of(b"");
        let entry = Entry { path, start: 0, length: 0, old: nothing, new: nothing, mode: None, skipped: true };
        let mut line = serde_json::to_vec(&entry)?;
        line.push(b'\n');
        Ok(self.entries.write_all(&line)?)
    }

    /// How many files are in it.
    pub fn files(&self) -> usize {
        self.files
    }

    /// Drops a run in which nothing was recorded.
    pub fn finish(self) {
        if self.files == 0 {
            let _ = std::fs::remove_dir_all(&self.folder);
        }
    }
}

/// A file that goes back to what it was.
struct Restoring<'e> {
    entry: &'e Entry,
    /// What it holds now; `None` if it is gone.
    current: Option<Vec<u8>>,
    old: Vec<u8>,
}

impl<'e> Restoring<'e> {
    /// What is to be done with a file; `None` if it is as before.
    fn of(mut before: &File, entry: &'e Entry) -> Result<Option<Self>, String> {
        let current = match std::fs::symlink_metadata(&entry.path) {
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => None,
            Err(error) => return Err(format!("cannot be read: {error}")),
            Ok(facts) if !facts.is_file() => return Err("is no plain file any more; it is left as it is".to_owned()),
            Ok(_) => Some(std::fs::read(&entry.path).map_err(|error| format!("cannot be read: {error}"))?),
        };
        let is = current.as_deref().map(Fingerprint::of);
        if is == Some(entry.old) {
            return Ok(None);
        }
        if is.is_some_and(|is| is != entry.new) {
            return Err("has changed since; it is left as it is".to_owned());
        }
        let lost = |error: std::io::Error| format!("the journal cannot be read: {error}");
        before.seek(SeekFrom::Start(entry.start)).map_err(lost)?;
        let mut old = Vec::new();
        before.take(entry.length).read_to_end(&mut old).map_err(lost)?;
        if Fingerprint::of(&old) != entry.old {
            return Err("the journal's copy is damaged; the file is left as it is".to_owned());
        }
        Ok(Some(Self { entry, current, old }))
    }

    fn change(&self) -> Change<'_> {
        Change { path: &self.entry.path, old: self.current.as_deref().unwrap_or_default(), new: &self.old }
    }

    fn write(&self) -> Result<(), WriteError> {
        match &self.current {
            Some(current) => write::replace(&self.entry.path, current, &self.old),
            None => write::create(&self.entry.path, &self.old, self.entry.mode),
        }
    }
}

/// Folders and files that only their owner may look into.
mod private {
    use super::{DirBuilder, OpenOptions, Path};

    #[cfg(unix)]
    pub fn folders() -> DirBuilder {
        use std::os::unix::fs::DirBuilderExt;
        let mut builder = DirBuilder::new();
        builder.mode(0o700);
        builder
    }

    #[cfg(unix)]
    pub fn files() -> OpenOptions {
        use std::os::unix::fs::OpenOptionsExt;
        let mut options = OpenOptions::new();
        options.create(true).mode(0o600);
        options
    }

    #[cfg(unix)]
    pub fn mode_of(path: &Path) -> Option<u32> {
        use std::os::unix::fs::MetadataExt;
        std::fs::metadata(path).ok().map(|facts| facts.mode() & 0o7777)
    }

    /// Makes a folder with those around it, and closes it to others if it was open to them.
    #[cfg(unix)]
    pub fn make_folder(folder: &Path) -> std::io::Result<()> {
        use std::os::unix::fs::PermissionsExt;
        folders().recursive(true).create(folder)?;
        std::fs::set_permissions(folder, std::fs::Permissions::from_mode(0o700))
    }

    #[cfg(not(unix))]
    pub fn folders() -> DirBuilder {
        DirBuilder::new()
    }

    #[cfg(not(unix))]
    pub fn files() -> OpenOptions {
        let mut options = OpenOptions::new();
        options.create(true);
        options
    }

    #[cfg(not(unix))]
    pub fn mode_of(_: &Path) -> Option<u32> {
        None
    }

    #[cfg(not(unix))]
    pub fn make_folder(folder: &Path) -> std::io::Result<()> {
        std::fs::create_dir_all(folder)
    }
}

/// Paths as text, or as bytes where they are none.
mod paths {
    use std::path::{Path, PathBuf};

    use serde::{Deserialize, Deserializer, Serialize, Serializer};

    #[derive(Serialize, Deserialize)]
    #[serde(untagged)]
    enum Written {
        Text(String),
        Bytes(Vec<u8>),
    }

    pub fn serialize<S: Serializer>(path: &Path, serializer: S) -> Result<S::Ok, S::Error> {
        match path.to_str() {
            Some(text) => Written::Text(text.to_owned()),
            None => Written::Bytes(path.as_os_str().as_encoded_bytes().to_vec()),
        }
        .serialize(serializer)
    }

    pub fn deserialize<'de, D: Deserializer<'de>>(deserializer: D) -> Result<PathBuf, D::Error> {
        Ok(match Written::deserialize(deserializer)? {
            Written::Text(text) => PathBuf::from(text),
            Written::Bytes(bytes) => from_bytes(bytes),
        })
    }

    #[cfg(unix)]
    fn from_bytes(bytes: Vec<u8>) -> PathBuf {
        use std::os::unix::ffi::OsStringExt;
        std::ffi::OsString::from_vec(bytes).into()
    }

    #[cfg(not(unix))]
    fn from_bytes(bytes: Vec<u8>) -> PathBuf {
        String::from_utf8_lossy(&bytes).into_owned().into()
    }
}
