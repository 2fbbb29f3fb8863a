//! `indent`: set the indentation of lines by structure, shift them, convert it, or show it.

use vknot_reshape::indent::{self, Shift, Target};

use crate::arguments::ReshapeArguments;
use crate::output::indentation;
use crate::problem::Outcome;
use super::reshape::{self, Job};

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

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    if arguments.show {
        return indentation::show(&arguments.reshape);
    }
    let shift = match (arguments.inwards, arguments.outwards) {
        (Some(levels), _) => Some(Shift::In(levels)),
        (_, Some(levels)) => Some(Shift::Out(levels, arguments.force)),
        _ => None,
    };
    let target = match arguments.spaces {
        Some(columns) => Some(Target::Spaces((columns > 0).then_some(columns))),
        None => arguments.tabs.then_some(Target::Tabs),
    };
    let job = Job {
        name: "indent",
        covers: if shift.is_some() || target.is_some() { reshape::any_language } else { indent::covers },
        done: "indented",
        finding: "Lines are not indented by their structure",
        reshape: &|input, style, only| match (shift, target) {
            (Some(by), _) =>
                indent::shift(&input.source, &input.tree, style, only, by).map_err(|error| error.to_string()),
            (_, Some(target)) => Ok(indent::convert(&input.source, &input.tree, style, only, target)),
            _ => Ok(indent::set(&input.source, &input.tree, style, only)),
        },
        prove: &indent::prove,
    };
    reshape::run(&arguments.reshape, &job)
}
