//! `edit`: structural edits on items.

mod across;
mod arguments;
mod doing;
mod operation;
mod script;
mod uses;

use std::path::PathBuf;

use vknot_reshape::steps::{Step, Wish};

use crate::files::targets::Target;
use crate::files::workspace::Workspace;
use crate::place::Place;
use crate::problem::{Outcome, Problem};
use super::job::Job;
use super::reshape;
use super::work::worked_on;
use arguments::ShownArguments;
use doing::{done, opened};
use operation::Operation;

/// Move, copy, wrap, open, split and join code by its structure
///
/// A place picks the smallest item there: an argument, a statement, a member, an element, a form. A range picks the items in it. Separators,
/// brackets, indentation, and the comments that belong to an item come right by themselves, and what would leave the code less valid
/// is refused. Where the item stands afterwards is printed, so that edits can follow one another.
#[derive(clap::Args)]
#[command(args_conflicts_with_subcommands = true, arg_required_else_help = true)]
pub struct Arguments {
    /// Do the edits in a file, one a line: each as it would stand behind `vknot edit`, with the same places, or `there` for where the last
    /// one's item stands now
    #[arg(long, value_name = "FILE", required = true)]
    script: Option<PathBuf>,
    #[command(flatten)]
    shown: ShownArguments,
    #[command(subcommand)]
    operation: Option<Operation>,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match (&arguments.operation, &arguments.script) {
        (Some(Operation::Occurrences(uses)), _) if uses.is_look() => uses::look(uses, workspace),
        (Some(operation), _) => one(operation, workspace),
        (None, Some(script)) => script::run(script, &arguments.shown, workspace),
        (None, None) => Ok(Outcome::Done),
    }
}

/// Does one edit.
fn one(operation: &Operation, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let common = operation.common();
    let (job, step) = (Job::new("edit", "edit", Wish::Nothing)?, Step::named("edit"));
    let arguments = common.shown.as_reshape(common.place.clone());
    let target = Target::named(Place::parse(&common.place).file);
    let worked = step.ok_or_else(|| Problem::new("edit", "there is no such step")).and_then(|step| {
        let edited = opened(&target.file, &common.shown, workspace)?;
        if let Some(elsewhere) = operation.elsewhere(&edited) {
            return across::across(operation, &elsewhere, step, edited, workspace);
        }
        let proven = done(operation, step, &edited, None)?;
        Ok(vec![worked_on(edited, proven, &target)])
    });
    let worked = match worked {
        Ok(worked) => worked.into_iter().map(Ok).collect(),
        Err(problem) => vec![Err(problem)],
    };
    reshape::run_many(&arguments, &job, workspace, worked)
}
