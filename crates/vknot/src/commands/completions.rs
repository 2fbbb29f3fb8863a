//! `completions`: what a shell needs to complete our commands, options and values.

use std::io::Write;

use clap_complete::Shell;

use crate::output;
use crate::problem::Outcome;

/// Print a script that lets a shell complete commands, options and their values
///
/// Where it goes depends on the shell; for one session `source <(vknot completions bash)` does.
#[derive(clap::Args)]
pub struct Arguments {
    /// The shell
    #[arg(value_enum)]
    shell: Shell,
}

/// Writes the script for the whole command line.
pub fn run(arguments: &Arguments, mut command_line: clap::Command) -> anyhow::Result<Outcome> {
    let mut script = Vec::new();
    clap_complete::generate(arguments.shell, &mut command_line, "vknot", &mut script);
    output::stdout().write_all(&script)?;
    Ok(Outcome::Done)
}
