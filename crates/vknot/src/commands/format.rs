//! `format`: lay out files in their style.

use vknot_reshape::{layout, proof};

use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::reshape::{self, Job};

/// Lay out files, or parts of them, in their style
///
/// Shows a diff and a receipt, and writes nothing without --write. Only white space changes, and tokens that the receipt
/// names. A place in a file lays out only the lines it touches.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let job = Job {
        name: "format",
        covers: layout::covers,
        done: "laid out",
        finding: "The file is not laid out in its style",
        reshape: &|input, style, only| Ok(layout::format(&input.source, &input.tree, style, only)),
        prove: &proof::prove_layout,
    };
    reshape::run(&arguments.reshape, &job)
}
