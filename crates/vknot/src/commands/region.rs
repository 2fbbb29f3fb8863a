//! `region`: lists named regions, puts markers around lines, takes them away.

use std::io::Write;

use clap::Subcommand;
use serde_json::{json, Value};
use vknot_reshape::looks::{self, LoneMarker, Region, Regions};
use vknot_reshape::steps::Wish;
use vknot_syntax::Span;

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput, ReshapeArguments};
use crate::files::input::Input;
use crate::files::targets::targets;
use crate::output::{self, FAINT, HEAD, NAME};
use crate::output::json::SpanJson;
use crate::problem::{Outcome, Problem};
use super::job::Job;
use super::reshape;

/// List, add and remove named regions
///
/// A region is the lines between two marker comments. Its name can be used as a place.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    action: Action,
}

#[derive(Subcommand)]
enum Action {
    /// List the regions of files, and markers without a partner
    List(ListArguments),
    /// Put a region around whole items
    Add(AddArguments),
    /// Take a region's markers away; its lines stay
    Remove(RemoveArguments),
}

#[derive(clap::Args)]
struct ListArguments {
    /// Files and folders; `-` is standard input
    #[arg(required = true, value_name = "PATH")]
    paths: Vec<std::ffi::OsString>,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

#[derive(clap::Args)]
struct AddArguments {
    /// The region's name
    #[arg(long)]
    name: String,
    #[command(flatten)]
    reshape: ReshapeArguments,
}

#[derive(clap::Args)]
struct RemoveArguments {
    #[command(flatten)]
    reshape: ReshapeArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match &arguments.action {
        Action::List(list) => run_list(list, workspace),
        Action::Add(add) => {
            let job = Job::new("region", "region add", Wish::Name(add.name.clone()))?;
            reshape::run(&add.reshape, &job, workspace)
        }
        Action::Remove(remove) => {
            reshape::run(&remove.reshape, &Job::new("region", "region remove", Wish::Nothing)?, workspace)
        }
    }
}

fn run_list(arguments: &ListArguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.paths);
    let mut files = Vec::new();
    let mut out = output::stdout();
    for target in &targets {
        let input = match workspace.read(&target.file, &arguments.input) {
            Ok(input) => input,
            Err(problem) => {
                problems.push(problem);
                continue;
            }
        };
        let regions = looks::regions(input.code(), input.marks());
        problems.extend(regions.lone.iter().map(|lone| unpaired(&input, lone)));
        if regions.regions.is_empty() && !target.named {
            continue;
        }
        match arguments.output {
            LookOutput::Text => show(&mut out, &input, &regions)?,
            LookOutput::Json => files.push(document(&input, &regions)),
        }
    }
    if arguments.output == LookOutput::Json {
        output::json::print("vknot.regions/1", json!({ "files": files }))?;
    }
    output::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// A marker without a partner, with the other suspect.
fn unpaired(input: &Input, lone: &LoneMarker) -> Problem {
    let marker = input.source().slice(lone.span);
    let what = if lone.opens { "opens a region that is not closed" } else { "closes a region that was not opened" };
    let suspect = lone.suspect.map_or(String::new(), |suspect| {
        let line = input.source().line(suspect.start);
        format!("; or `{}` on line {line} is the one too many", input.source().slice(suspect))
    });
    input.problem_at(lone.span.start, format!("`{marker}` {what}{suspect}"))
}

fn show(out: &mut impl Write, input: &Input, regions: &Regions) -> std::io::Result<()> {
    let count = output::count(regions.regions.len(), "region");
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{count}{FAINT:#}", input.shown)?;
    for region in &regions.regions {
        let (first, last) = input.source().line_range(region.span());
        let indent = "  ".repeat(region.depth as usize);
        writeln!(out, "{FAINT}{:>11}{FAINT:#}  {indent}{NAME}{}{NAME:#}", format!("{first}-{last}"), shown_name(region))?;
    }
    Ok(())
}

fn shown_name(region: &Region) -> &str {
    if region.name.is_empty() { "(without a name)" } else { &region.name }
}

fn document(input: &Input, regions: &Regions) -> Value {
    let span = |span: Span| SpanJson::of(input.source(), span);
    let region = |region: &Region| {
        json!({
            "name": region.name,
            "depth": region.depth,
            "span": span(region.span()),
            "open": span(region.open),
            "close": span(region.close),
        })
    };
    let lone = |lone: &LoneMarker| {
        json!({ "marker": span(lone.span), "opens": lone.opens, "suspect": lone.suspect.map(span) })
    };
    json!({
        "file": input.shown,
        "regions": regions.regions.iter().map(region).collect::<Vec<_>>(),
        "unpaired": regions.lone.iter().map(lone).collect::<Vec<_>>(),
    })
}
