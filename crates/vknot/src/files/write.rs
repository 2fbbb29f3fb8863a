//! Atomic replacement of a file: a temporary file in the same folder, flushed, then renamed over it.

use std::fs::File;
use std::io::Write;
use std::path::{Path, PathBuf};

/// Replaces the content of `path`. Mode and owner are kept; of a symlink the file it leads to is replaced.
///
/// At every instant the file is either the old or the new content.
///
/// # Errors
/// When the file is read-only, or its folder does not let a file be made in it.
pub fn replace(path: &Path, content: &[u8]) -> std::io::Result<()> {
    let path = std::fs::canonicalize(path)?;
    let facts = std::fs::metadata(&path)?;
    if facts.permissions().readonly() {
        let message = "the file is read-only; make it writable first";
        return Err(std::io::Error::new(std::io::ErrorKind::PermissionDenied, message));
    }
    let folder = path.parent().map_or_else(|| PathBuf::from("."), Path::to_path_buf);
    let mut temporary = tempfile::Builder::new().prefix(".vknot-").suffix(".tmp").tempfile_in(&folder)?;
    temporary.write_all(content)?;
    temporary.as_file().set_permissions(facts.permissions())?;
    keep_owner(temporary.as_file(), &facts)?;
    temporary.as_file().sync_all()?;
    temporary.persist(&path)?;
    sync_folder(&folder);
    Ok(())
}

#[cfg(unix)]
fn keep_owner(file: &File, facts: &std::fs::Metadata) -> std::io::Result<()> {
    use std::os::unix::fs::{fchown, MetadataExt};
    let own = file.metadata()?;
    if (own.uid(), own.gid()) == (facts.uid(), facts.gid()) {
        return Ok(());
    }
    fchown(file, Some(facts.uid()), Some(facts.gid()))
}

#[cfg(not(unix))]
fn keep_owner(_: &File, _: &std::fs::Metadata) -> std::io::Result<()> {
    Ok(())
}

/// Makes the rename itself last. Not every file system can; the content is safe either way.
fn sync_folder(folder: &Path) {
    if let Ok(folder) = File::open(folder) {
        let _ = folder.sync_all();
    }
}

#[cfg(all(test, unix))]
mod tests {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, symlink};

    use super::*;

    #[test]
    fn mode_and_symlink_are_kept() {
        let folder = tempfile::tempdir().unwrap();
        let (file, link) = (folder.path().join("gauge.sh"), folder.path().join("link"));
        std::fs::write(&file, "old").unwrap();
        std::fs::set_permissions(&file, std::fs::Permissions::from_mode(0o750)).unwrap();
        symlink(&file, &link).unwrap();
        replace(&link, b"new").unwrap();
        assert_eq!(std::fs::read_to_string(&file).unwrap(), "new");
        assert_eq!(std::fs::metadata(&file).unwrap().mode() & 0o777, 0o750);
        assert!(std::fs::symlink_metadata(&link).unwrap().is_symlink());
        assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 2, "nothing is left behind");
    }

    #[test]
    fn a_read_only_file_is_refused() {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("locked");
        std::fs::write(&file, "old").unwrap();
        std::fs::set_permissions(&file, std::fs::Permissions::from_mode(0o444)).unwrap();
        assert!(replace(&file, b"new").is_err());
        assert_eq!(std::fs::read_to_string(&file).unwrap(), "old");
    }
}
