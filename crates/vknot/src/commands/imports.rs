//! `imports`: sort, group and merge imports, and drop the dead ones.

use vknot_reshape::steps::Wish;

use crate::files::workspace::Workspace;
use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::job::Job;
use super::reshape;

/// Sort, group and merge imports, and drop what is not needed
///
/// Java: unused and needless imports go; those named in doc comments count as used, and wildcards stay. Rust: `use`
/// trees are sorted and merged, never dropped.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    reshape::run(&arguments.reshape, &Job::new("imports", "imports", Wish::Nothing)?, workspace)
}
