//! Atomic replacement of a file: a temporary file in the same folder, flushed, then put in its place, unless the file is no longer what
//! it was when it was read. Mode, owner, access lists and extended attributes are kept.

use std::fs::{File, Metadata};
use std::io::{Error, ErrorKind, Read, Write};
use std::path::{Path, PathBuf};

use tempfile::NamedTempFile;

/// What the names of temporary files begin and end with.
const TEMPORARY: (&str, &str) = (".vknot-", ".tmp");

/// Why a file was not replaced.
#[derive(Debug, thiserror::Error)]
pub enum WriteError {
    /// It no longer holds what it held.
    #[error("was changed by someone else meanwhile; it is left as it is")]
    Changed,
    /// Something that the new file could not have as well.
    #[error("{0}; it is left as it is")]
    Kept(String),
    /// The file system says no.
    #[error("cannot be written: {0}")]
    Io(#[from] Error),
}

/// Replaces the content of `path` if it still is `old`. Of a symlink the file it leads to is replaced.
///
/// At every instant the file is either the old or the new content, and what another program saves meanwhile stays.
///
/// # Errors
/// When the file has changed, is read-only, no plain file or has several names, when its access cannot be kept, or its folder does not let
/// a file be made in it.
pub fn replace(path: &Path, old: &[u8], new: &[u8]) -> Result<(), WriteError> {
    let path = std::fs::canonicalize(path)?;
    let facts = std::fs::symlink_metadata(&path)?;
    may_be_replaced(&facts)?;
    if read_up_to(&path, old.len())? != old {
        return Err(WriteError::Changed);
    }
    let folder = path.parent().map_or_else(|| PathBuf::from("."), Path::to_path_buf);
    let mut temporary = tempfile::Builder::new().prefix(TEMPORARY.0).suffix(TEMPORARY.1).tempfile_in(&folder)?;
    temporary.write_all(new)?;
    access::keep(temporary.as_file(), &path, &facts)?;
    temporary.as_file().sync_all()?;
    swap(temporary, &path, old, new)?;
    sync_folder(&folder);
    Ok(())
}

/// Makes a file that is not there yet, with its folders.
///
/// # Errors
/// When it is there, or cannot be made.
pub fn create(path: &Path, content: &[u8], mode: Option<u32>) -> Result<(), WriteError> {
    let folder = path.parent().map_or_else(|| PathBuf::from("."), Path::to_path_buf);
    std::fs::create_dir_all(&folder)?;
    let mut temporary = tempfile::Builder::new().prefix(TEMPORARY.0).suffix(TEMPORARY.1).tempfile_in(&folder)?;
    temporary.write_all(content)?;
    access::set_mode(temporary.as_file(), mode)?;
    temporary.as_file().sync_all()?;
    temporary.persist_noclobber(path).map_err(|error| match error.error.kind() {
        ErrorKind::AlreadyExists => WriteError::Changed,
        _ => WriteError::Io(error.error),
    })?;
    sync_folder(&folder);
    Ok(())
}

/// Removes temporary files that a run which was killed left in a folder: those older than an hour. Gives how many.
pub fn sweep(folder: &Path) -> usize {
    const HOUR: std::time::Duration = std::time::Duration::from_secs(3600);
    let Ok(entries) = std::fs::read_dir(folder) else { return 0 };
    let left_over = |entry: &std::fs::DirEntry| {
        let name = entry.file_name();
        let ours = name.to_str().is_some_and(|name| name.starts_with(TEMPORARY.0) && name.ends_with(TEMPORARY.1));
        let old = || entry.metadata().and_then(|facts| facts.modified()).is_ok_and(|time| {
            time.elapsed().is_ok_and(|age| age > HOUR)
        });
        ours && entry.file_type().is_ok_and(|kind| kind.is_file()) && old()
    };
    let remove = |entry: std::fs::DirEntry| std::fs::remove_file(entry.path()).is_ok();
    entries.flatten().filter(left_over).map(remove).filter(|removed| *removed).count()
}

fn may_be_replaced(facts: &Metadata) -> Result<(), WriteError> {
    if !facts.is_file() {
        return Err(WriteError::Kept("is no plain file".to_owned()));
    }
    if facts.permissions().readonly() {
        let message = "the file is read-only; make it writable first";
        return Err(WriteError::Io(Error::new(ErrorKind::PermissionDenied, message)));
    }
    let names = access::names(facts);
    if names > 1 {
        let message = format!("has {names} names (hard links), which a new file would part");
        return Err(WriteError::Kept(message));
    }
    Ok(())
}

/// The content of a file, or a little more than so many bytes of it.
fn read_up_to(path: &Path, length: usize) -> Result<Vec<u8>, Error> {
    let mut content = Vec::with_capacity(length + 1);
    File::open(path)?.take(length as u64 + 1).read_to_end(&mut content)?;
    Ok(content)
}

/// Puts the temporary file in the place of `path`, and looks at what was there: what someone else saved between the last look and this
/// one goes back.
fn swap(temporary: NamedTempFile, path: &Path, old: &[u8], new: &[u8]) -> Result<(), WriteError> {
    if !access::exchange(temporary.path(), path)? {
        // The file system cannot exchange files; the last look is all there is.
        if read_up_to(path, old.len())? != old {
            return Err(WriteError::Changed);
        }
        return temporary.persist(path).map(|_| ()).map_err(|error| WriteError::Io(error.error));
    }
    let mut theirs = std::fs::read(temporary.path())?;
    if theirs == old {
        return Ok(());
    }
    // What they saved goes back in place of what was put there last. If something else was there by then, someone saved once more,
    // and that goes back in its turn.
    let mut put = new.to_vec();
    loop {
        access::exchange(temporary.path(), path)?;
        let found = std::fs::read(temporary.path())?;
        if found == put {
            return Err(WriteError::Changed);
        }
        put = std::mem::replace(&mut theirs, found);
    }
}

/// Makes the rename itself last. Not every file system can; the content is safe either way.
fn sync_folder(folder: &Path) {
    if let Ok(folder) = File::open(folder) {
        let _ = folder.sync_all();
    }
}

/// Who may do what with a file.
#[cfg(unix)]
mod access {
    use std::fs::{File, Metadata, Permissions};
    use std::io::{Error, ErrorKind};
    use std::os::unix::fs::{fchown, MetadataExt, PermissionsExt};
    use std::path::Path;

    use super::WriteError;

    /// How many names a file has.
    pub fn names(facts: &Metadata) -> u64 {
        facts.nlink()
    }

    /// Gives a file the owner, mode and attributes of the one at `path`: the owner first, since a change of owner takes bits of the mode
    /// away.
    pub fn keep(file: &File, path: &Path, facts: &Metadata) -> Result<(), WriteError> {
        let own = file.metadata()?;
        if (own.uid(), own.gid()) != (facts.uid(), facts.gid()) {
            fchown(file, Some(facts.uid()), Some(facts.gid()))
                .map_err(|_| WriteError::Kept("belongs to someone else, which a new file could not".to_owned()))?;
        }
        set_mode(file, Some(facts.mode()))?;
        attributes::keep(file, path)
    }

    pub fn set_mode(file: &File, mode: Option<u32>) -> Result<(), Error> {
        mode.map_or(Ok(()), |mode| file.set_permissions(Permissions::from_mode(mode & 0o7777)))
    }

    /// Exchanges two files in one step; `false` if the file system does not know how.
    #[cfg(target_os = "linux")]
    pub fn exchange(one: &Path, other: &Path) -> Result<bool, Error> {
        use rustix::fs::{CWD, renameat_with, RenameFlags};
        match renameat_with(CWD, one, CWD, other, RenameFlags::EXCHANGE).map_err(Error::from) {
            Ok(()) => Ok(true),
            Err(error) if matches!(error.kind(), ErrorKind::InvalidInput | ErrorKind::Unsupported) => Ok(false),
            Err(error) => Err(error),
        }
    }

    #[cfg(not(target_os = "linux"))]
    pub fn exchange(_: &Path, _: &Path) -> Result<bool, Error> {
        Ok(false)
    }

    #[cfg(target_os = "linux")]
    mod attributes {
        use std::fs::File;
        use std::path::Path;

        use rustix::fs::{fsetxattr, getxattr, listxattr, XattrFlags};
        use rustix::io::Errno;

        use super::WriteError;

        /// Attributes that the system sets by itself.
        const BY_SYSTEM: &str = "security.selinux";

        /// Copies extended attributes, of which access lists are one.
        pub fn keep(file: &File, path: &Path) -> Result<(), WriteError> {
            let names = match sized(|room| listxattr(path, room)) {
                Ok(names) => names,
                Err(Errno::NOTSUP) => return Ok(()),
                Err(error) => return Err(WriteError::Io(error.into())),
            };
            for name in names.split(|byte| *byte == 0).filter(|name| !name.is_empty()) {
                let shown = String::from_utf8_lossy(name);
                let copied = sized(|room| getxattr(path, name, room))
                    .and_then(|value| fsetxattr(file, name, &value, XattrFlags::empty()));
                if copied.is_err() && shown != BY_SYSTEM {
                    return Err(WriteError::Kept(format!("has the attribute {shown}, which a new file could not have")));
                }
            }
            Ok(())
        }

        /// Asks with ever more room.
        fn sized(mut ask: impl FnMut(&mut [u8]) -> Result<usize, Errno>) -> Result<Vec<u8>, Errno> {
            let mut room = vec![0; 4096];
            loop {
                match ask(&mut room) {
                    Ok(length) => {
                        room.truncate(length);
                        return Ok(room);
                    }
                    Err(Errno::RANGE) => room.resize(room.len() * 4, 0),
                    Err(error) => return Err(error),
                }
            }
        }
    }

    #[cfg(not(target_os = "linux"))]
    mod attributes {
        pub fn keep(_: &std::fs::File, _: &std::path::Path) -> Result<(), super::WriteError> {
            Ok(())
        }
    }
}

#[cfg(not(unix))]
mod access {
    use std::fs::{File, Metadata};
    use std::io::Error;
    use std::path::Path;

    pub fn names(_: &Metadata) -> u64 {
        1
    }

    pub fn keep(_: &File, _: &Path, _: &Metadata) -> Result<(), super::WriteError> {
        Ok(())
    }

    pub fn set_mode(_: &File, _: Option<u32>) -> Result<(), Error> {
        Ok(())
    }

    pub fn exchange(_: &Path, _: &Path) -> Result<bool, Error> {
        Ok(false)
    }
}

#[cfg(test)]
#[cfg(unix)]
mod tests {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, symlink};

    use super::*;

    fn folder_with(name: &str, mode: u32) -> (tempfile::TempDir, PathBuf) {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join(name);
        std::fs::write(&file, "old").unwrap();
        std::fs::set_permissions(&file, std::fs::Permissions::from_mode(mode)).unwrap();
        (folder, file)
    }

    fn text(file: &Path) -> String {
        std::fs::read_to_string(file).unwrap()
    }

    #[test]
    fn mode_and_symlink_are_kept() {
        let (folder, file) = folder_with("gauge.sh", 0o4750);
        let link = folder.path().join("link");
        symlink(&file, &link).unwrap();
        replace(&link, b"old", b"new").unwrap();
        assert_eq!(text(&file), "new");
        assert_eq!(std::fs::metadata(&file).unwrap().mode() & 0o7777, 0o4750);
        assert!(std::fs::symlink_metadata(&link).unwrap().is_symlink());
        assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 2, "nothing is left behind");
    }

    #[test]
    fn what_a_new_file_could_not_be_is_left() {
        let (folder, file) = folder_with("locked", 0o444);
        assert!(replace(&file, b"old", b"new").is_err());
        let (_other, linked) = folder_with("linked", 0o644);
        std::fs::hard_link(&linked, folder.path().join("second")).unwrap();
        let error = replace(&linked, b"old", b"new").unwrap_err().to_string();
        assert_eq!(error, "has 2 names (hard links), which a new file would part; it is left as it is");
        assert_eq!((text(&file), text(&linked)), ("old".to_owned(), "old".to_owned()));
    }

    #[test]
    fn what_someone_else_saved_stays() {
        let (folder, file) = folder_with("gauge.sh", 0o644);
        std::fs::write(&file, "their").unwrap();
        assert!(matches!(replace(&file, b"old", b"new"), Err(WriteError::Changed)));
        // Saved after the last look.
        let temporary = NamedTempFile::new_in(folder.path()).unwrap();
        std::fs::write(temporary.path(), "new").unwrap();
        assert!(matches!(swap(temporary, &file, b"old", b"new"), Err(WriteError::Changed)));
        assert_eq!(text(&file), "their");
        assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 1, "nothing is left behind");
    }

    #[cfg(target_os = "linux")]
    #[test]
    fn extended_attributes_are_kept() {
        use rustix::fs::{getxattr, setxattr, XattrFlags};
        let (_folder, file) = folder_with("gauge.sh", 0o644);
        if setxattr(&file, "user.station", b"north", XattrFlags::empty()).is_err() {
            return eprintln!("skipped: the file system has no extended attributes");
        }
        replace(&file, b"old", b"new").unwrap();
        let mut value = [0; 5];
        getxattr(&file, "user.station", &mut value).unwrap();
        assert_eq!(&value, b"north");
    }

    #[test]
    fn left_over_files_are_swept_when_they_are_old() {
        let (folder, file) = folder_with(".vknot-abc.tmp", 0o600);
        assert_eq!(sweep(folder.path()), 0);
        let long_ago = std::time::SystemTime::now() - std::time::Duration::from_secs(7200);
        File::options().write(true).open(&file).unwrap().set_modified(long_ago).unwrap();
        assert_eq!(sweep(folder.path()), 1);
        assert!(!file.exists());
    }
}
