//! `sections`: lists the sections of files, prints one, runs one.

use std::collections::BTreeSet;
use std::io::Write;
use std::path::Path;
use std::process::{Child, Command, Stdio};

use anyhow::Context;
use clap::Subcommand;
use serde_json::json;
use vknot_reshape::looks::{self, CodePart, Section};
use vknot_syntax::{Role, Span};

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::files::targets::targets;
use crate::output::{self, FAINT, HEAD, NAME};
use crate::output::json::SpanJson;
use crate::place::{Place, Spot};
use crate::problem::{Outcome, Problem};
use super::open_place;

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
    /// Feed sections to an interpreter
    Run(RunArguments),
}

#[derive(clap::Args)]
struct RunArguments {
    /// The sections, as FILE@NAME or FILE:LINE, run by one interpreter in this order
    #[arg(required = true, value_name = "PLACE")]
    places: Vec<std::ffi::OsString>,
    /// All sections up to this one, too
    #[arg(long)]
    through: bool,
    /// The command that gets the code on standard input [default: the project's interpreter for the language]
    #[arg(long, value_name = "COMMAND")]
    with: Option<String>,
    /// What the code can read on standard input, `-` for our own; the command then gets the code as a file, named behind its other words
    #[arg(long = "input", value_name = "FILE")]
    reads: Option<std::path::PathBuf>,
    #[command(flatten)]
    input: InputArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match &arguments.action {
        Some(Action::Run(run)) => run_section(workspace, run),
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

fn run_section(workspace: &Workspace, arguments: &RunArguments) -> anyhow::Result<Outcome> {
    let mut parts = Vec::new();
    for place in &arguments.places {
        match parts_of(workspace, arguments, place) {
            Ok(found) => parts.extend(found),
            Err(problem) => return Ok(failed(problem)),
        }
    }
    let place = Place::parse(&arguments.places[0]);
    let runs = parts.iter().find(|part| !part.text.trim().is_empty()).map(|part| part.language.as_str());
    let Some(language) = runs else {
        return Ok(failed(Problem::new(arguments.places[0].display().to_string(), "the section holds no code to run")));
    };
    let command = match interpreter(workspace, arguments, &place, language) {
        Ok(command) => command,
        Err(problem) => return Ok(failed(problem)),
    };
    let (run, left): (Vec<&CodePart>, Vec<&CodePart>) = parts.iter().partition(|part| part.language == language);
    if !left.is_empty() {
        let others: BTreeSet<&str> = left.iter().map(|part| shown_language(&part.language)).collect();
        let others = others.into_iter().collect::<Vec<_>>().join(", ");
        let (count, language) = (output::count(run.len(), "piece"), shown_language(language));
        writeln!(output::stderr(), "runs {NAME}{count} in {language}{NAME:#}; what is in {others} is left out")?;
    }
    let code: String = run.iter().map(|part| format!("{}\n", part.text.trim_end())).collect();
    match &arguments.reads {
        Some(reads) => feed_beside(command, &code, reads),
        None => feed(&command, &code),
    }
}

/// The code of one of the places.
fn parts_of(
    workspace: &Workspace,
    arguments: &RunArguments,
    place: &std::ffi::OsStr,
) -> Result<Vec<CodePart>, Problem> {
    let (input, place, _) = open_place(workspace, place, &arguments.input)?;
    if place.spot == Spot::Whole {
        return Err(Problem::new(&input.shown, "name the section to run, as FILE@NAME or FILE:LINE"));
    }
    let all = looks::sections(input.code(), input.marks());
    let section = find(&input, &all, &place.spot).map_err(|message| Problem::new(&input.shown, message))?;
    let start = if arguments.through { 0 } else { section.span.start };
    let parts = looks::code_parts(input.code(), Span::new(start, section.span.end));
    if parts.iter().all(|part| part.text.trim().is_empty()) {
        return Err(input.problem_at(section.span.start, "the section holds no code to run"));
    }
    Ok(parts)
}

fn shown_language(language: &str) -> &str {
    if language.is_empty() { "no language" } else { language }
}

fn failed(problem: Problem) -> Outcome {
    output::problems(&[problem]);
    Outcome::Failed
}

/// The command to run, in words.
fn interpreter(
    workspace: &Workspace,
    arguments: &RunArguments,
    place: &Place,
    language: &str,
) -> Result<Vec<String>, Problem> {
    let command = match &arguments.with {
        Some(command) => command.clone(),
        None => {
            let home = workspace.home(&place.file)?;
            home.project.interpreters.get(language).cloned().ok_or_else(|| {
                if language.is_empty() {
                    let message = "the code names no language; name an interpreter with --with";
                    return Problem::new(place.file.display().to_string(), message);
                }
                let message = format!("no interpreter is named for {language}; name one with --with, or in vknot.toml: [interpreters] {language} = \"COMMAND\"");
                Problem::new(place.file.display().to_string(), message)
            })?
        }
    };
    let problem = |message: &str| Problem::new(place.file.display().to_string(), message);
    let words =
        shlex::split(&command).ok_or_else(|| problem("the interpreter's command has a quote that is not closed"))?;
    if words.is_empty() { Err(problem("the interpreter's command is empty")) } else { Ok(words) }
}

/// Runs a command with the code in a file, and something else on its standard input.
fn feed_beside(mut command: Vec<String>, code: &str, reads: &Path) -> anyhow::Result<Outcome> {
    let mut file = tempfile::NamedTempFile::new().context("cannot write the code to a temporary file")?;
    file.write_all(code.as_bytes())?;
    file.flush()?;
    command.push(file.path().display().to_string());
    let stdin = match reads == Path::new("-") {
        true => Stdio::inherit(),
        false => match std::fs::File::open(reads) {
            Ok(file) => Stdio::from(file),
            Err(error) => {
                return Ok(failed(Problem::new(reads.display().to_string(), format!("cannot be read: {error}"))));
            }
        },
    };
    let mut child = started(&command, stdin)?;
    Ok(super::signals::outcome(child.wait()?))
}

/// Runs a command with the code on its standard input; its output goes where ours goes, and its end is ours.
fn feed(command: &[String], code: &str) -> anyhow::Result<Outcome> {
    let mut child = started(command, Stdio::piped())?;
    if let Some(mut input) = child.stdin.take() {
        // A program that ends without reading everything has done what it wanted.
        let _ = input.write_all(code.as_bytes());
    }
    let status = child.wait()?;
    Ok(super::signals::outcome(status))
}

/// Starts a command; what would end us ends it.
fn started(command: &[String], stdin: Stdio) -> anyhow::Result<Child> {
    let (program, rest) = command.split_first().context("no command")?;
    let child = Command::new(program)
        .args(rest)
        .stdin(stdin)
        .spawn()
        .with_context(|| format!("cannot run `{program}`; is it installed?"))?;
    super::signals::pass_on(child.id())?;
    Ok(child)
}
