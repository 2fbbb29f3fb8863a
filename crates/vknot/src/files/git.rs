//! What a git repository says of files: which lines changed, and what is staged. Asks the `git` program.

use std::collections::BTreeMap;
use std::ffi::{OsStr, OsString};
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// Runs of changed lines of a file, each from its first to its last, from 1.
pub type Runs = Vec<(u32, u32)>;

/// What the changed lines are told against.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Against {
    /// Files as they are, against a revision.
    Revision(String),
    /// What is staged, against the last commit.
    Staged,
}

/// A repository, by the folder of its work tree.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Repository {
    root: PathBuf,
}

/// A staged file: its mode and its content's name.
struct Staged {
    mode: String,
    object: String,
}

impl Repository {
    /// The repository whose work tree holds a folder.
    ///
    /// # Errors
    /// When there is none, or git cannot be run.
    pub fn of(folder: &Path) -> Result<Repository, String> {
        let out = git(folder, &["rev-parse", "--show-toplevel"].map(OsStr::new), None)?;
        let text = out.strip_suffix(b"\n").unwrap_or(&out);
        Ok(Repository { root: path_of(text) })
    }

    /// For each changed file, by its path from the root, the lines that changed. Files that git does not know are changed from end to end, and so
    /// are all where there is no commit yet.
    ///
    /// # Errors
    /// When the revision is not known.
    pub fn changed(&self, against: &Against) -> Result<BTreeMap<PathBuf, Runs>, String> {
        let base = match against {
            Against::Revision(revision) => self.revision(revision)?,
            Against::Staged => self.revision("HEAD")?,
        };
        let mut diff: Vec<&OsStr> = [
            "diff", "--no-color", "--no-ext-diff", "--no-textconv", "--find-renames", "--unified=0",
            "--ignore-submodules",
            "--diff-filter=d", "--src-prefix=a/", "--dst-prefix=b/",
        ]
        .map(OsStr::new)
        .to_vec();
        if *against == Against::Staged {
            diff.push(OsStr::new("--cached"));
        }
        let ends = |more: &'static [&'static str]| {
            let base = [OsStr::new(base.as_str()), OsStr::new("--")];
            diff.iter().copied().chain(more.iter().map(OsStr::new)).chain(base).collect::<Vec<_>>()
        };
        let names = git(&self.root, &ends(&["--name-only", "-z"]), None)?;
        let patch = git(&self.root, &ends(&["--patch"]), None)?;
        // Both name the files in the same order, and names without quotes can be anything.
        let names = names.split(|byte| *byte == 0).filter(|name| !name.is_empty()).map(path_of);
        let mut changed: BTreeMap<PathBuf, Runs> = names.zip(runs_of(&patch)).collect();
        if *against != Against::Staged {
            let others = git(&self.root, &["ls-files", "--others", "--exclude-standard", "-z"].map(OsStr::new), None)?;
            let others = others.split(|byte| *byte == 0).filter(|name| !name.is_empty());
            changed.extend(others.map(|name| (path_of(name), vec![(1, u32::MAX)])));
        }
        Ok(changed)
    }

    /// A path from the root.
    pub fn relative<'p>(&self, path: &'p Path) -> Option<&'p Path> {
        path.strip_prefix(&self.root).ok()
    }

    /// What is staged of a file.
    ///
    /// # Errors
    /// When nothing is.
    pub fn staged(&self, path: &Path) -> Result<Vec<u8>, String> {
        let staged = self.entry(path)?;
        git(&self.root, &["cat-file", "blob", &staged.object].map(OsStr::new), None)
    }

    /// Puts another content in place of what is staged of a file; the file itself stays as it is.
    ///
    /// # Errors
    /// When something else is staged by now, or git refuses.
    pub fn stage(&self, path: &Path, old: &[u8], new: &[u8]) -> Result<(), String> {
        if self.staged(path)? != old {
            return Err("something else is staged by now; it was left as it is".to_owned());
        }
        let staged = self.entry(path)?;
        let object = git(&self.root, &["hash-object", "-w", "--no-filters", "--stdin"].map(OsStr::new), Some(new))?;
        let object = String::from_utf8_lossy(&object).trim().to_owned();
        let mut entry = format!("{} {object}\t", staged.mode).into_bytes();
        entry.extend_from_slice(path.as_os_str().as_encoded_bytes());
        entry.push(0);
        git(&self.root, &["update-index", "-z", "--index-info"].map(OsStr::new), Some(&entry)).map(drop)
    }

    fn entry(&self, path: &Path) -> Result<Staged, String> {
        let mut pattern = OsString::from(":(top,literal)");
        pattern.push(path);
        let list = ["ls-files", "--stage", "-z", "--"].map(OsStr::new).into_iter().chain([pattern.as_os_str()]);
        let out = git(&self.root, &list.collect::<Vec<_>>(), None)?;
        let text = String::from_utf8_lossy(&out);
        let mut words = text.split_whitespace();
        match (words.next(), words.next(), words.next()) {
            (Some(mode), Some(object), Some("0")) => Ok(Staged { mode: mode.to_owned(), object: object.to_owned() }),
            (Some(_), ..) => Err("has a conflict that is not resolved".to_owned()),
            _ => Err("is not staged".to_owned()),
        }
    }

    /// A revision that there is; nothing where there is no commit yet.
    fn revision(&self, name: &str) -> Result<String, String> {
        let commit = format!("{name}^{{tree}}");
        let verify = |name: &str| git(
            &self.root,
            &["rev-parse", "--verify", "--quiet", "--end-of-options", name].map(OsStr::new),
            None,
        );
        let found = match verify(&commit) {
            Ok(found) => found,
            Err(_) if name == "HEAD" =>
                git(&self.root, &["hash-object", "-t", "tree", "--stdin"].map(OsStr::new), Some(b""))?,
            Err(_) => return Err(format!("`{name}` is no revision of the repository {}", self.root.display())),
        };
        Ok(String::from_utf8_lossy(&found).trim().to_owned())
    }
}

/// The changed lines of the new side, file by file.
fn runs_of(patch: &[u8]) -> Vec<Runs> {
    let mut files: Vec<Runs> = Vec::new();
    // How many lines of the hunk at hand are still to come, which may look like anything.
    let mut rest = 0u32;
    for line in patch.split(|byte| *byte == b'\n') {
        if rest > 0 && matches!(line.first(), Some(b'+' | b'-')) {
            rest -= 1;
        } else if line.starts_with(b"diff --git ") {
            files.push(Runs::new());
        } else if let Some((removed, start, added)) = hunk(line) {
            rest = removed + added;
            if let Some(runs) = files.last_mut().filter(|_| added > 0) {
                runs.push((start, start + added - 1));
            }
        }
    }
    files
}

/// How many lines a hunk takes out, the first that it puts in, and how many: `@@ -9,2 +9 @@`.
fn hunk(line: &[u8]) -> Option<(u32, u32, u32)> {
    let text = std::str::from_utf8(line.strip_prefix(b"@@ -")?.split(|byte| *byte == b'@').next()?).ok()?;
    let (old, new) = text.trim().split_once(" +")?;
    let range = |text: &str| match text.split_once(',') {
        Some((start, count)) => Some((start.parse().ok()?, count.parse().ok()?)),
        None => Some((text.parse().ok()?, 1)),
    };
    let ((_, removed), (start, added)): ((u32, u32), (u32, u32)) = (range(old)?, range(new)?);
    Some((removed, start, added))
}

/// Runs git in a folder and gives what it prints.
fn git(folder: &Path, arguments: &[&OsStr], input: Option<&[u8]>) -> Result<Vec<u8>, String> {
    let mut command = Command::new("git");
    command.arg("-C").arg(folder).args(arguments);
    command.env("GIT_OPTIONAL_LOCKS", "0").stdout(Stdio::piped()).stderr(Stdio::piped());
    command.stdin(if input.is_some() { Stdio::piped() } else { Stdio::null() });
    let mut child = command.spawn().map_err(|error| format!("git cannot be run: {error}"))?;
    if let (Some(mut stdin), Some(input)) = (child.stdin.take(), input) {
        // Git may end before it has read all, and then says why.
        let _ = stdin.write_all(input);
    }
    let out = child.wait_with_output().map_err(|error| format!("git cannot be run: {error}"))?;
    match out.status.success() {
        true => Ok(out.stdout),
        false => {
            let said = String::from_utf8_lossy(&out.stderr);
            Err(said.lines().next().unwrap_or("git failed").trim_start_matches("fatal: ").to_owned())
        }
    }
}

/// A path as git prints it with `-z`.
#[cfg(unix)]
fn path_of(bytes: &[u8]) -> PathBuf {
    use std::os::unix::ffi::OsStrExt;
    PathBuf::from(OsStr::from_bytes(bytes))
}

#[cfg(not(unix))]
fn path_of(bytes: &[u8]) -> PathBuf {
    PathBuf::from(String::from_utf8_lossy(bytes).into_owned())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn changed_lines_are_those_of_the_new_side() {
        let patch = b"diff --git a/x b/x\nindex 1..2 100644\n--- a/x\n+++ b/x\n@@ -1,2 +1 @@ fn\n-@@ -7 +8 @@\n-diff --git a b\n+++ x\n@@ -5,0 +5,2 @@\n+a\n+b\n\\ No newline at end of file\ndiff --git a/y b/y\nBinary files a/y and b/y differ\ndiff --git a/z b/z\n@@ -3 +2,0 @@\n-c\n";
        assert_eq!(runs_of(patch), [vec![(1, 1), (5, 6)], vec![], vec![]]);
    }
}
