//! `indent`: set the indentation of lines by structure.

use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::reshape::{self, Job};

/// Set the indentation of files, or of parts of them, by structure
///
/// Only white space at the start of lines changes. Works on code with syntax errors, too: there brackets tell how deep a
/// line is.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let job = Job {
        name: "indent",
        lays_out: false,
        finding: "Lines are not indented by their structure",
        reshape: &|input, style, only| Ok(vknot_reshape::indent::set(&input.source, &input.tree, style, only)),
        prove: &vknot_reshape::indent::prove,
    };
    reshape::run(&arguments.reshape, &job)
}
