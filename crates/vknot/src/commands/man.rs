//! `man`: the manual, a page for each command.

use std::path::PathBuf;

use anyhow::Context;

use crate::problem::Outcome;

/// Write the manual pages into a folder, one for each command
#[derive(clap::Args)]
pub struct Arguments {
    /// The folder; it is made if it is not there
    #[arg(value_name = "DIR")]
    folder: PathBuf,
}

/// Writes the pages of the whole command line.
pub fn run(arguments: &Arguments, command_line: clap::Command) -> anyhow::Result<Outcome> {
    let folder = &arguments.folder;
    std::fs::create_dir_all(folder).with_context(|| format!("cannot make {}", folder.display()))?;
    clap_mangen::generate_to(command_line, folder).with_context(|| format!("cannot write to {}", folder.display()))?;
    Ok(Outcome::Done)
}
