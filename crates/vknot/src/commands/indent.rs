//! `indent`: set the indentation of lines by structure, shift them, convert it, or show it.

use vknot_reshape::indent::{Shift, Target};
use vknot_reshape::steps::Wish;

use crate::files::workspace::Workspace;
use crate::arguments::ReshapeArguments;
use crate::output::indentation;
use crate::problem::Outcome;
use super::job::Job;
use super::reshape;

/// Set the indentation of files, or of parts of them, by structure
///
/// Only white space at the start of lines changes. In code with syntax errors the lines whose structure is certain are set.
/// Where indentation is meaning, as in Python, levels get another size and lines stay in their blocks.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
    /// Shift the lines in by this many levels
    #[arg(long = "in", value_name = "LEVELS", group = "way", value_parser = clap::value_parser!(u32).range(1..=32))]
    inwards: Option<u32>,
    /// Shift the lines out by this many levels
    #[arg(long = "out", value_name = "LEVELS", group = "way", value_parser = clap::value_parser!(u32).range(1..=32))]
    outwards: Option<u32>,
    /// Let a shift out flatten lines against the margin
    #[arg(long, requires = "outwards")]
    force: bool,
    /// Turn the white space at the start of lines into tabs
    #[arg(long, group = "way")]
    tabs: bool,
    /// Turn it into spaces, this many for a tab
    #[arg(long, value_name = "COLUMNS", group = "way", num_args = 0..=1, default_missing_value = "0")]
    #[arg(value_parser = clap::value_parser!(u32).range(0..=16))]
    spaces: Option<u32>,
    /// Draw the indentation instead, and point out the lines that disagree with their nesting
    #[arg(long, group = "way", conflicts_with_all = ["write", "check"])]
    show: bool,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    if arguments.show {
        return indentation::show(&arguments.reshape, workspace);
    }
    let (step, wish) = match (arguments.inwards, arguments.outwards, arguments.spaces) {
        (Some(levels), _, _) => ("shift", Wish::Shift(Shift::In(levels))),
        (_, Some(levels), _) => ("shift", Wish::Shift(Shift::Out(levels, arguments.force))),
        (_, _, Some(columns)) => ("convert", Wish::Convert(Target::Spaces((columns > 0).then_some(columns)))),
        _ if arguments.tabs => ("convert", Wish::Convert(Target::Tabs)),
        _ => ("indent", Wish::Nothing),
    };
    reshape::run(&arguments.reshape, &Job::new("indent", step, wish)?, workspace)
}
