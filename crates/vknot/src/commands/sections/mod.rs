//! `sections`: lists the sections of files, prints one, runs some, and lists the sittings they were run in.

mod run;
#[cfg(unix)]
mod sittings;

use std::io::Write;

use clap::Subcommand;
use serde_json::json;
use vknot_reshape::looks::{self, Section};
use vknot_syntax::{Role, Span};

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::files::targets::targets;
use crate::output::{self, FAINT, HEAD, NAME};
use crate::output::json::SpanJson;
use crate::place::Spot;
use crate::problem::{Outcome, Problem};

/// List sections, print one, or run some
///
/// A section goes from its heading to the next of the same or a higher level. A file alone lists its sections; FILE@NAME prints
/// that one.
#[derive(clap::Args)]
#[command(args_conflicts_with_subcommands = true)]
pub struct Arguments {
    #[command(subcommand)]
    action: Option<Action>,
    #[command(flatten)]
    list: ListArguments,
}

#[derive(clap::Args)]
struct ListArguments {
    /// Files, folders, and sections as FILE@NAME or FILE:LINE; `-` is standard input
    #[arg(required = true, value_name = "PLACE")]
    places: Vec<std::ffi::OsString>,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

#[derive(Subcommand)]
enum Action {
    Run(run::Arguments),
    #[cfg(unix)]
    Sittings(sittings::Arguments),
    /// Keep an interpreter; what it is comes on standard input
    #[cfg(unix)]
    #[command(hide = true)]
    Keep,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match &arguments.action {
        Some(Action::Run(arguments)) => run::run(arguments, workspace),
        #[cfg(unix)]
        Some(Action::Sittings(arguments)) => sittings::run(arguments),
        #[cfg(unix)]
        Some(Action::Keep) => sittings::keep(),
        None => list(workspace, &arguments.list),
    }
}

fn list(workspace: &Workspace, arguments: &ListArguments) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.places);
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
        let all = looks::sections(input.code(), input.marks());
        if target.spots.is_empty() && (target.named || !all.is_empty()) {
            match arguments.output {
                LookOutput::Text => show(&mut out, &input, &all)?,
                LookOutput::Json => files.push(document(&input, &all)),
            }
        }
        for spot in &target.spots {
            match find(&input, &all, spot) {
                Ok(section) if arguments.output == LookOutput::Json =>
                    files.push(document(&input, std::slice::from_ref(section))),
                Ok(section) => writeln!(output::stdout(), "{}", text_of(&input, section))?,
                Err(message) => problems.push(Problem::new(&input.shown, message)),
            }
        }
    }
    if arguments.output == LookOutput::Json {
        output::json::print("vknot.sections/1", json!({ "files": files }))?;
    }
    output::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// The text of a section; of a notebook's what its cells hold.
fn text_of(input: &Input, section: &Section) -> String {
    let tree = input.tree();
    let cells: Vec<String> = tree
        .embedded()
        .iter()
        .filter(|piece| tree.role(piece.host) == Role::Cell && piece.span().touches(section.span))
        .map(|piece| {
            let end = piece.source.span().end;
            let from = piece.inner(section.span.start).unwrap_or(0);
            let to = piece.inner(section.span.end).unwrap_or(end).max(from);
            piece.source.slice(Span::new(from, to)).trim_end().to_owned()
        })
        .collect();
    if cells.is_empty() { input.source().slice(section.span).to_owned() } else { cells.join("\n\n") }
}

/// The section of that name, or the innermost that holds the place.
fn find<'s>(input: &Input, all: &'s [Section], spot: &Spot) -> Result<&'s Section, String> {
    if let Spot::Name(name) = spot {
        let named: Vec<&Section> = all.iter().filter(|section| section.name == *name).collect();
        if let [only] = named.as_slice() {
            return Ok(only);
        }
        if named.len() > 1 {
            let lines: Vec<String> =
                named.iter().map(|section| input.source().line(section.span.start).to_string()).collect();
            return Err(
                format!("{} sections are named `{name}`, at lines {}; give a line", named.len(), lines.join(", ")),
            );
        }
    }
    let span = spot.resolve(input.code(), input.marks())?;
    let held = all.iter().rfind(|section| section.span.covers(Span::new(span.start, span.start)));
    held.ok_or_else(|| "no section is there; `vknot sections FILE` lists those there are".to_owned())
}

fn show(out: &mut impl Write, input: &Input, sections: &[Section]) -> std::io::Result<()> {
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}{FAINT:#}", input.shown, output::count(sections.len(), "section"))?;
    for section in sections {
        let (first, last) = input.source().line_range(section.span);
        let indent = "  ".repeat(section.level.saturating_sub(1) as usize);
        let name = if section.name.is_empty() { "(without a name)" } else { &section.name };
        writeln!(out, "{FAINT}{:>11}{FAINT:#}  {indent}{NAME}{name}{NAME:#}", format!("{first}-{last}"))?;
    }
    Ok(())
}

fn document(input: &Input, sections: &[Section]) -> serde_json::Value {
    let section = |section: &Section| {
        json!({ "name": section.name, "level": section.level, "span": SpanJson::of(input.source(), section.span) })
    };
    json!({ "file": input.shown, "sections": sections.iter().map(section).collect::<Vec<_>>() })
}
