//! `.editorconfig` files that are made or changed: shown as a diff, or written.

use std::io::Write;
use std::path::Path;

use anyhow::Context;
use vknot_style::{Override, SETTINGS, Setting};
use vknot_syntax::Source;

use crate::files::journal::{Change, Journal};
use crate::files::{plain, write};
use crate::output::{self, diff, FAINT};
use super::shown_path;

/// The text of a file; `None` if it is not there.
///
/// # Errors
/// When it cannot be read, or is not UTF-8.
pub fn text_of(path: &Path) -> anyhow::Result<Option<String>> {
    let bytes = plain::read_if_there(path).map_err(|message| anyhow::anyhow!("{}: {message}", path.display()))?;
    bytes.map(String::from_utf8).transpose().with_context(|| format!("{} is not UTF-8", path.display()))
}

/// Shows what becomes of a file, or writes it. What is changed can be taken back.
///
/// # Errors
/// When it cannot be written.
pub fn put(path: &Path, old: Option<&str>, new: &str, to_disk: bool) -> anyhow::Result<()> {
    let shown = shown_path(path);
    if !to_disk {
        let source = Source::from_text(path, old.unwrap_or(""));
        let changes = diff::changes(&source, &diff::between(&source, new));
        return Ok(write!(output::stdout(), "{}", diff::unified(&shown, &source, &changes, false))?);
    }
    match old {
        None => write::create(path, new.as_bytes(), None)?,
        Some(old) => {
            let mut recording = Journal::open()?.begin()?;
            recording.record(&[Change { path, old: old.as_bytes(), new: new.as_bytes() }])?;
            let written = write::replace(path, old.as_bytes(), new.as_bytes());
            if written.is_err() {
                recording.skip(path)?;
            }
            recording.finish();
            written?;
        }
    }
    let undo = if old.is_some() { "; `vknot undo` takes it back" } else { "" };
    Ok(writeln!(output::stderr(), "wrote {shown}{FAINT}{undo}{FAINT:#}")?)
}

/// A section with some settings, by family.
pub fn section(pattern: &str, set: &[Override]) -> String {
    let line = |setting: &Setting| {
        let own = set.iter().find(|set| set.key() == setting.id)?;
        Some(format!("{} = {}\n", setting.key, own.value()))
    };
    format!("[{pattern}]\n{}", SETTINGS.iter().filter_map(line).collect::<String>())
}

/// A pattern for files with some endings, below a folder if one is named.
pub fn pattern(folder: &str, endings: &[String]) -> String {
    let files = match endings {
        [only] => format!("*.{only}"),
        several => format!("*.{{{}}}", several.join(",")),
    };
    let escaped = |folder: &str| -> String {
        folder.chars().flat_map(|c| if "[]{}*?,!\\".contains(c) { vec!['\\', c] } else { vec![c] }).collect()
    };
    if folder.is_empty() { files } else { format!("/{}/*{files}", escaped(folder)) }
}
