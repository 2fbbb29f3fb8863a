//! Where sittings are written down: a folder of the user's with a record and a socket for each.

use std::os::unix::fs::{DirBuilderExt, MetadataExt};
use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime, UNIX_EPOCH};

use anyhow::{Context, bail};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};

const SCHEMA: &str = "vknot.sitting/1";

/// A sitting.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Record {
    pub schema: String,
    /// Its name, which it has in its project alone.
    pub name: String,
    /// The root of its project.
    pub root: PathBuf,
    /// The folder that its interpreter runs in.
    pub folder: PathBuf,
    /// The language it takes.
    pub language: String,
    /// Its interpreter, as the project or the user names it.
    pub interpreter: String,
    /// What is run, in words.
    pub command: Vec<String>,
    /// Seconds without a run after which it ends.
    pub idle: u64,
    /// When it began, in seconds since 1970.
    pub began: u64,
}

impl Record {
    /// A sitting that begins now.
    pub fn new(
        name: &str,
        root: &Path,
        language: &str,
        interpreter: &str,
        command: Vec<String>,
        idle: Duration,
    ) -> anyhow::Result<Record> {
        let began = SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default();
        Ok(Record {
            schema: SCHEMA.to_owned(),
            name: name.to_owned(),
            root: root.to_path_buf(),
            folder: std::env::current_dir().context("the folder one stands in is not to be found")?,
            language: language.to_owned(),
            interpreter: interpreter.to_owned(),
            command,
            idle: idle.as_secs(),
            began: began.as_secs(),
        })
    }

    /// Its files: the same name with different endings. A socket's path must be short, so the name is a digest.
    pub(super) fn file(&self, ending: &str) -> anyhow::Result<PathBuf> {
        Ok(folder()?.join(format!("{}.{ending}", key(&self.root, &self.name))))
    }

    /// Writes it down.
    ///
    /// # Errors
    /// When the folder or the file cannot be written.
    pub(super) fn write(&self) -> anyhow::Result<()> {
        let path = self.file("json")?;
        std::fs::write(&path, serde_json::to_vec(self)?).with_context(|| format!("cannot write {}", path.display()))
    }

    /// Takes its files away.
    pub fn remove(&self) {
        for ending in ["json", "sock", "code"] {
            if let Ok(path) = self.file(ending) {
                let _ = std::fs::remove_file(&path).or_else(|_| std::fs::remove_dir_all(&path));
            }
        }
    }
}

fn key(root: &Path, name: &str) -> String {
    let mut digest = Sha256::new();
    digest.update(root.as_os_str().as_encoded_bytes());
    digest.update([0]);
    digest.update(name.as_bytes());
    digest.finalize().iter().take(10).map(|byte| format!("{byte:02x}")).collect()
}

/// The folder of sittings, which only the user can look into.
///
/// # Errors
/// When it cannot be made, or is someone else's.
pub(super) fn folder() -> anyhow::Result<PathBuf> {
    let user = rustix::process::getuid().as_raw();
    let runtime = std::env::var_os("XDG_RUNTIME_DIR").map(PathBuf::from).filter(|path| path.is_absolute());
    let folder = match runtime {
        Some(runtime) => runtime.join("vknot"),
        None => std::env::temp_dir().join(format!("vknot-{user}")),
    };
    let made = std::fs::DirBuilder::new().mode(0o700).recursive(true).create(&folder);
    made.with_context(|| format!("cannot make {}", folder.display()))?;
    let facts = std::fs::symlink_metadata(&folder).with_context(|| format!("cannot look at {}", folder.display()))?;
    if !facts.is_dir() || facts.uid() != user || facts.mode() & 0o077 != 0 {
        bail!("{} is not a folder that only you can look into; take it away, or set XDG_RUNTIME_DIR", folder.display());
    }
    Ok(folder)
}

/// All sittings that are written down, by project and name.
///
/// # Errors
/// When the folder of sittings cannot be read.
pub fn all() -> anyhow::Result<Vec<Record>> {
    let folder = folder()?;
    let entries = std::fs::read_dir(&folder).with_context(|| format!("cannot read {}", folder.display()))?;
    let paths = entries.filter_map(Result::ok).map(|entry| entry.path());
    let records = paths.filter(|path| path.extension().is_some_and(|ending| ending == "json"));
    let mut found: Vec<Record> = records.filter_map(|path| read(&path)).collect();
    found.sort_by(|a, b| (&a.root, &a.name).cmp(&(&b.root, &b.name)));
    Ok(found)
}

/// The sitting of that name in a project, if it is written down.
///
/// # Errors
/// When the folder of sittings cannot be read.
pub fn named(root: &Path, name: &str) -> anyhow::Result<Option<Record>> {
    Ok(read(&folder()?.join(format!("{}.json", key(root, name)))))
}

fn read(path: &Path) -> Option<Record> {
    let record: Record = serde_json::from_slice(&std::fs::read(path).ok()?).ok()?;
    (record.schema == SCHEMA).then_some(record)
}
