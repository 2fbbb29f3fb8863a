//! Reads plain files only: a pipe or a device would keep whoever reads it waiting, or never end.

use std::fs::File;
use std::io::{ErrorKind, Read};
use std::path::Path;

use vknot_syntax::MAX_BYTES;

/// The content of a plain file, or of the one a link leads to.
///
/// # Errors
/// With what is wrong with it.
pub fn read(path: &Path) -> Result<Vec<u8>, String> {
    read_if_there(path)?.ok_or_else(|| "there is no such file".to_owned())
}

/// The same; `None` when there is no such file. A link that leads nowhere is an error.
///
/// # Errors
/// With what is wrong with it.
pub fn read_if_there(path: &Path) -> Result<Option<Vec<u8>>, String> {
    let cannot = |error: std::io::Error| format!("cannot be read: {error}");
    let facts = match std::fs::metadata(path) {
        Ok(facts) => facts,
        Err(error) if error.kind() == ErrorKind::NotFound => {
            let link = std::fs::symlink_metadata(path).is_ok_and(|facts| facts.is_symlink());
            return if link { Err("is a link that leads nowhere".to_owned()) } else { Ok(None) };
        }
        Err(error) if error.kind() == ErrorKind::NotADirectory => return Ok(None),
        Err(error) => return Err(cannot(error)),
    };
    if facts.is_dir() {
        return Err("is a folder; name a file in it".to_owned());
    }
    if !facts.is_file() {
        return Err("is no plain file, but a pipe, a socket or a device; it is not read".to_owned());
    }
    let mut content = Vec::with_capacity(facts.len().min(MAX_BYTES) as usize);
    File::open(path).and_then(|file| file.take(MAX_BYTES + 1).read_to_end(&mut content)).map_err(cannot)?;
    Ok(Some(content))
}
