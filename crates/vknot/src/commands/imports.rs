//! `imports`: sort, group and merge imports, and drop the dead ones.

use vknot_reshape::imports;

use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::reshape::{self, Job};

/// Sort, group and merge imports, and drop what is not needed
///
/// Java: unused and needless imports go; those named in doc comments count as used, and wildcards stay. Rust: `use`
/// trees are sorted and merged, never dropped.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let job = Job {
        name: "imports",
        covers: reshape::any_language,
        done: "",
        finding: "Imports are not in order, or not needed",
        reshape: &|input, style, only| Ok(imports::organize(&input.source, &input.tree, style, only)),
        prove: &imports::prove,
    };
    reshape::run(&arguments.reshape, &job)
}
