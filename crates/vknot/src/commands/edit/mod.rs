//! `edit`: structural edits on items.

mod operation;
mod script;
mod uses;

use std::ffi::OsString;
use std::path::PathBuf;

use vknot_reshape::steps::{Chain, Proven, Request, Step, StepError, Wish};
use vknot_reshape::looks;
use vknot_style::Override;
use vknot_syntax::Span;

use crate::arguments::{InputArguments, ReshapeArguments, ReshapeOutput};
use crate::files::input::Input;
use crate::files::targets::Target;
use crate::files::workspace::Workspace;
use crate::output;
use crate::place::{Place, Spot};
use crate::problem::{Outcome, Problem};
use super::job::Job;
use super::reshape;
use super::work::worked_on;
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

/// How an edit is shown or written.
#[derive(clap::Args, Clone, Default)]
pub struct ShownArguments {
    /// Write the result to the file
    #[arg(short, long, conflicts_with = "check")]
    write: bool,
    /// Write nothing; exit with 1 if there is something to do
    #[arg(long)]
    check: bool,
    /// How to show what changes [default: diff; text for standard input]
    #[arg(long, value_enum, value_name = "FORM")]
    output: Option<ReshapeOutput>,
    /// A setting that beats the files
    #[arg(long = "set", value_name = "KEY=VALUE")]
    set: Vec<Override>,
    #[command(flatten)]
    input: InputArguments,
}

/// What all edits take.
#[derive(clap::Args, Clone)]
pub struct PlaceArguments {
    /// What is taken hold of; `-` is standard input
    #[arg(value_name = "PLACE")]
    place: OsString,
    /// Take hold of this rung of the ladder at the place, as `vknot select` counts them
    #[arg(long, value_name = "N")]
    rung: Option<usize>,
    #[command(flatten)]
    shown: ShownArguments,
}

impl ShownArguments {
    /// The same, as all reshapes take it.
    fn as_reshape(&self, place: OsString) -> ReshapeArguments {
        ReshapeArguments {
            places: vec![place],
            write: self.write,
            check: self.check,
            output: self.output,
            changed: false,
            since: "HEAD".to_owned(),
            staged: false,
            no_cache: true,
            generated: false,
            set: self.set.clone(),
            input: self.input.clone(),
        }
    }
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
        let input = workspace.read(&target.file, &common.shown.input)?;
        let style = workspace.style(input.source().path(), input.document.language(), &common.shown.set);
        let document = input.document.clone().with_style(style);
        let edited = Input { document, ..input };
        let proven = done(operation, step, &edited, None)?;
        Ok(worked_on(edited, proven, &target))
    });
    reshape::run_one(&arguments, &job, workspace, worked)
}

/// Does an edit to a document, and proves it.
fn done(operation: &Operation, step: &Step, input: &Input, there: Option<Span>) -> Result<Proven, Problem> {
    let at = meant(operation, input, there)?;
    let edit = operation.edit(input, at)?;
    let only = [at];
    let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
    step.run(&input.document, &request).map_err(|error| problem(input, at, error))
}

/// The span of a place, or of a rung there.
fn meant(operation: &Operation, input: &Input, there: Option<Span>) -> Result<Span, Problem> {
    let common = operation.common();
    let place = Place::parse(&common.place);
    if matches!(operation, Operation::Columns(_)) {
        return Ok(input.source().span());
    }
    let span = spot_span(&place.spot, input, there, common.place.to_str() == Some(THERE))?;
    let Some(rung) = common.rung else { return Ok(span) };
    let ladder = looks::ladder(input.code(), span);
    let count = ladder.len();
    let found = ladder.into_iter().nth(rung);
    found.map(|rung| rung.span).ok_or_else(|| {
        input.problem_at(span.start, format!("there is no rung {rung}; the ladder here has {count}, from 0"))
    })
}

/// What stands for the place of what the last edit of a script was about.
const THERE: &str = "there";

fn spot_span(spot: &Spot, input: &Input, there: Option<Span>, is_there: bool) -> Result<Span, Problem> {
    if is_there {
        let none = || Problem::new(&input.shown, "no edit came before, so that nothing is `there`");
        return there.ok_or_else(none);
    }
    let span = spot.resolve(input.code(), input.marks()).map_err(|message| Problem::new(&input.shown, message))?;
    Ok(span)
}

/// Why an edit was not done.
fn problem(input: &Input, at: Span, error: StepError) -> Problem {
    match error {
        StepError::Refused(refusal) => {
            let message = format!("this edit would break the code: {}; nothing was changed", refusal.reason);
            input.problem_at(if refusal.offset == 0 { at.start } else { refusal.offset }, message)
        }
        error => input.problem_at(at.start, error.to_string()),
    }
}

/// A run of edits on one document.
fn chained(chain: Chain) -> Result<Proven, StepError> {
    chain.finish_edits()
}

/// Prints a problem as the outcome of a look.
fn fail(problem: Problem) -> anyhow::Result<Outcome> {
    output::problems(&[problem]);
    Ok(Outcome::Failed)
}
