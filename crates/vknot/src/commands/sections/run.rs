//! `sections run`: feeds sections to an interpreter.

use std::collections::BTreeSet;
use std::io::Write;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

use anyhow::Context;
use vknot_reshape::looks::{self, CodePart};
use vknot_syntax::Span;

use crate::arguments::InputArguments;
use crate::commands::{open_place, signals};
use crate::files::workspace::Workspace;
use crate::output::{self, NAME};
use crate::place::{Place, Spot};
use crate::problem::{Outcome, Problem};
use super::find;

/// Feed sections to an interpreter
///
/// With `--keep` the interpreter stays, and what one section leaves is there for the next one: a sitting. It ends when its code ends it,
/// by `sections sittings --end NAME`, or after an hour without a run.
#[derive(clap::Args)]
pub struct Arguments {
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
    /// Run them in the sitting of this name, which begins if there is none in this project
    #[arg(long, value_name = "NAME", conflicts_with = "reads", value_parser = clap::builder::NonEmptyStringValueParser::new())]
    keep: Option<String>,
    /// How long without a run before a sitting that begins ends by itself, as in `90s`, `30m`, `2h`
    #[arg(long, value_name = "TIME", requires = "keep", default_value = "1h", value_parser = duration)]
    idle: Duration,
    #[command(flatten)]
    input: InputArguments,
}

/// A time in seconds, minutes or hours.
fn duration(text: &str) -> Result<Duration, String> {
    let units = [('s', 1), ('m', 60), ('h', 3600)];
    let read = units.iter().find_map(|(unit, seconds)| Some((text.strip_suffix(*unit)?.parse::<u64>().ok()?, seconds)));
    let seconds = read.and_then(|(number, seconds)| number.checked_mul(*seconds)).filter(|seconds| *seconds > 0);
    seconds
        .map(Duration::from_secs)
        .ok_or_else(|| "a time is a number with `s`, `m` or `h` behind it, as in `30m`".to_owned())
}

/// Code of a file.
struct Part {
    /// The file, as people call it.
    file: String,
    code: CodePart,
}

/// Code of one file that is to run in one go.
struct Batch {
    file: String,
    code: String,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let mut parts: Vec<Part> = Vec::new();
    for place in &arguments.places {
        match parts_of(workspace, arguments, place) {
            Ok(found) => parts.extend(found),
            Err(problem) => return Ok(failed(problem)),
        }
    }
    let place = Place::parse(&arguments.places[0]);
    let runs = parts.iter().find(|part| !part.code.text.trim().is_empty()).map(|part| part.code.language.as_str());
    let Some(language) = runs else {
        return Ok(failed(Problem::new(arguments.places[0].display().to_string(), "the section holds no code to run")));
    };
    let (run, left): (Vec<&Part>, Vec<&Part>) = parts.iter().partition(|part| part.code.language == language);
    if !left.is_empty() {
        let others: BTreeSet<&str> = left.iter().map(|part| shown_language(&part.code.language)).collect();
        let others = others.into_iter().collect::<Vec<_>>().join(", ");
        let (count, language) = (output::count(run.len(), "piece"), shown_language(language));
        writeln!(output::stderr(), "runs {NAME}{count} in {language}{NAME:#}; what is in {others} is left out")?;
    }
    if let Some(name) = &arguments.keep {
        return in_sitting(workspace, arguments, &place, (name, language), &run);
    }
    let command = match interpreter(workspace, arguments, &place, language)
        .and_then(|command| words(&place, &command))
    {
        Ok(command) => command,
        Err(problem) => return Ok(failed(problem)),
    };
    let code: String = batches(&run).into_iter().map(|batch| batch.code).collect();
    match &arguments.reads {
        Some(reads) => feed_beside(command, &code, reads),
        None => feed(&command, &code),
    }
}

/// The code in one text for each run of parts that come one behind the other in a file. Blank lines stand for what is between, so that
/// an interpreter that counts lines counts those of the file.
fn batches(parts: &[&Part]) -> Vec<Batch> {
    let mut batches: Vec<Batch> = Vec::new();
    let mut lines = 0;
    for part in parts {
        let line = part.code.line.unwrap_or(lines + 1);
        if batches.last().is_none_or(|batch| batch.file != part.file || line <= lines) {
            batches.push(Batch { file: part.file.clone(), code: String::new() });
            lines = 0;
        }
        if let Some(batch) = batches.last_mut() {
            let blank = line.saturating_sub(lines + 1);
            let text = part.code.text.trim_end();
            batch.code.extend(std::iter::repeat_n('\n', blank as usize));
            batch.code.push_str(text);
            batch.code.push('\n');
            lines += blank + text.matches('\n').count() as u32 + 1;
        }
    }
    batches
}

/// Runs the code in the sitting of that name.
#[cfg(unix)]
fn in_sitting(
    workspace: &Workspace,
    arguments: &Arguments,
    place: &Place,
    (name, language): (&str, &str),
    parts: &[&Part],
) -> anyhow::Result<Outcome> {
    use crate::sittings::{self, Asked, Ended, Piece, Record};
    let home = match workspace.home(&place.file) {
        Ok(home) => home,
        Err(problem) => return Ok(failed(problem)),
    };
    let own = home.project.sittings.get(language).filter(|_| arguments.with.is_none()).cloned();
    let named = match own.clone().map_or_else(|| interpreter(workspace, arguments, place, language), Ok) {
        Ok(command) => command,
        Err(problem) => return Ok(failed(problem)),
    };
    let mut command = match words(place, &named) {
        Ok(command) => command,
        Err(problem) => return Ok(failed(problem)),
    };
    if own.is_none() {
        let Some(driver) = sittings::driver(language) else {
            let known = sittings::languages().collect::<Vec<_>>().join(", ");
            let message = format!("no sitting is known for {language}, only for {known}; name a driver in vknot.toml: [sittings] {language} = \"COMMAND\"");
            return Ok(failed(Problem::new(place.file.display().to_string(), message)));
        };
        // That the code comes on standard input is what a lone dash says.
        command.pop_if(|last| last == "-");
        command.extend([driver.option.to_owned(), driver.program.to_owned()]);
    }
    let record = Record::new(name, &home.root, language, &named, command, arguments.idle)?;
    let asked = Asked { record: &record, insists: arguments.with.is_some() };
    for Batch { file, code } in batches(parts) {
        match sittings::run(&asked, Piece { name: file, code })? {
            Ended::Code(0) => {}
            Ended::Code(status) => return Ok(Outcome::Exit(status)),
            Ended::Sitting(status) => {
                writeln!(output::stderr(), "the interpreter has ended, and the sitting {NAME}{name}{NAME:#} with it")?;
                return Ok(Outcome::Exit(status));
            }
        }
    }
    Ok(Outcome::Exit(0))
}

#[cfg(not(unix))]
fn in_sitting(
    _: &Workspace,
    _: &Arguments,
    place: &Place,
    _: (&str, &str),
    _: &[&Part],
) -> anyhow::Result<Outcome> {
    Ok(failed(Problem::new(place.file.display().to_string(), "sittings need a system with Unix sockets")))
}

/// The code of one of the places.
fn parts_of(
    workspace: &Workspace,
    arguments: &Arguments,
    place: &std::ffi::OsStr,
) -> Result<Vec<Part>, Problem> {
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
    Ok(parts.into_iter().map(|code| Part { file: input.shown.clone(), code }).collect())
}

fn shown_language(language: &str) -> &str {
    if language.is_empty() { "no language" } else { language }
}

fn failed(problem: Problem) -> Outcome {
    output::problems(&[problem]);
    Outcome::Failed
}

/// The command to run.
fn interpreter(
    workspace: &Workspace,
    arguments: &Arguments,
    place: &Place,
    language: &str,
) -> Result<String, Problem> {
    match &arguments.with {
        Some(command) => Ok(command.clone()),
        None => {
            let home = workspace.home(&place.file)?;
            home.project.interpreters.get(language).cloned().ok_or_else(|| {
                if language.is_empty() {
                    let message = "the code names no language; name an interpreter with --with";
                    return Problem::new(place.file.display().to_string(), message);
                }
                let message = format!("no interpreter is named for {language}; name one with --with, or in vknot.toml: [interpreters] {language} = \"COMMAND\"");
                Problem::new(place.file.display().to_string(), message)
            })
        }
    }
}

/// A command in words.
fn words(place: &Place, command: &str) -> Result<Vec<String>, Problem> {
    let problem = |message: &str| Problem::new(place.file.display().to_string(), message);
    let words =
        shlex::split(command).ok_or_else(|| problem("the interpreter's command has a quote that is not closed"))?;
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
    Ok(signals::outcome(child.wait()?))
}

/// Runs a command with the code on its standard input; its output goes where ours goes, and its end is ours.
fn feed(command: &[String], code: &str) -> anyhow::Result<Outcome> {
    let mut child = started(command, Stdio::piped())?;
    if let Some(mut input) = child.stdin.take() {
        // A program that ends without reading everything has done what it wanted.
        let _ = input.write_all(code.as_bytes());
    }
    let status = child.wait()?;
    Ok(signals::outcome(status))
}

/// Starts a command; what would end us ends it.
fn started(command: &[String], stdin: Stdio) -> anyhow::Result<Child> {
    let (program, rest) = command.split_first().context("no command")?;
    let child = Command::new(program)
        .args(rest)
        .stdin(stdin)
        .spawn()
        .with_context(|| format!("cannot run `{program}`; is it installed?"))?;
    signals::pass_on(child.id())?;
    Ok(child)
}
