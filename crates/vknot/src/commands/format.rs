//! `format`: lay out files in their style.

use vknot_reshape::steps::Wish;

use crate::files::workspace::Workspace;
use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::job::Job;
use super::reshape;

/// Lay out files, or parts of them, in their style
///
/// Shows a diff and a receipt, and writes nothing without --write. Only white space changes, and tokens that the receipt
/// names. A place in a file lays out only the lines it touches.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    reshape::run(&arguments.reshape, &Job::new("format", "format", Wish::Nothing)?, workspace)
}
