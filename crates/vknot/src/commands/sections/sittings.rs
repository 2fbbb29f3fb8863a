//! `sections sittings`: lists interpreters that are kept, and ends them.

use std::io::Write;

use serde_json::json;

use crate::arguments::LookOutput;
use crate::files::journal::project_here;
use crate::output::{self, FAINT, HEAD, KIND, NAME};
use crate::problem::{Outcome, Problem};
use crate::sittings::{self, Record, State};

/// List the interpreters that are kept in this project, or end one
#[derive(clap::Args)]
pub struct Arguments {
    /// End the one of this name, whatever runs in it
    #[arg(long, value_name = "NAME")]
    end: Option<String>,
    /// Those of all projects
    #[arg(long, conflicts_with = "end")]
    all: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let root = project_here();
    let mut records = sittings::all()?;
    records.retain(|record| arguments.all || record.root == root);
    if let Some(name) = &arguments.end {
        return end(records.into_iter().find(|record| record.name == *name), name, &root);
    }
    let mut there: Vec<(Record, State)> = Vec::new();
    for record in records {
        if let Some(state) = sittings::state(&record)? {
            there.push((record, state));
        }
    }
    match arguments.output {
        LookOutput::Text => show(&there)?,
        LookOutput::Json => {
            let sittings: Vec<_> = there.iter().map(document).collect();
            output::json::print("vknot.sittings/1", json!({ "sittings": sittings }))?;
        }
    }
    Ok(Outcome::Done)
}

fn end(record: Option<Record>, name: &str, root: &std::path::Path) -> anyhow::Result<Outcome> {
    if let Some(record) = record && sittings::end(&record)? {
        writeln!(output::stdout(), "the sitting {NAME}{name}{NAME:#} has ended")?;
        return Ok(Outcome::Done);
    }
    let message =
        format!("no sitting of that name is in {}; `vknot sections sittings --all` shows all", root.display());
    output::problems(&[Problem::new(name, message)]);
    Ok(Outcome::Failed)
}

/// Seconds as people say them.
fn time(seconds: u64) -> String {
    match seconds {
        0..=119 => output::count(seconds as usize, "second"),
        120..=7199 => output::count((seconds / 60) as usize, "minute"),
        _ => output::count((seconds / 3600) as usize, "hour"),
    }
}

fn show(there: &[(Record, State)]) -> std::io::Result<()> {
    let mut out = output::stdout();
    if there.is_empty() {
        return writeln!(out, "no sittings");
    }
    let width = |of: fn(&Record) -> &str| there.iter().map(|(record, _)| of(record).len()).max().unwrap_or(0);
    let (names, languages) = (width(|record| &record.name), width(|record| &record.language));
    let mut root = None;
    for (record, state) in there {
        if root != Some(&record.root) {
            writeln!(out, "{HEAD}{}{HEAD:#}", record.root.display())?;
            root = Some(&record.root);
        }
        let runs = output::count(state.runs as usize, "run");
        let left = record.idle.saturating_sub(state.idle);
        let doing = match state.busy {
            true => "runs something now".to_owned(),
            false => format!("idle for {}, ends in {}", time(state.idle), time(left)),
        };
        let (name, language, interpreter) = (&record.name, &record.language, &record.interpreter);
        let line = format!("{NAME}{name:<names$}{NAME:#}  {KIND}{language:<languages$}{KIND:#}  {interpreter}");
        writeln!(out, "  {line}  {FAINT}{runs}, {doing}{FAINT:#}")?;
    }
    Ok(())
}

fn document((record, state): &(Record, State)) -> serde_json::Value {
    json!({
        "name": record.name,
        "project": record.root,
        "folder": record.folder,
        "language": record.language,
        "interpreter": record.interpreter,
        "began": record.began,
        "busy": state.busy,
        "runs": state.runs,
        "idleSeconds": state.idle,
        "endsInSeconds": if state.busy { None } else { Some(record.idle.saturating_sub(state.idle)) },
    })
}

/// Becomes the keeper of an interpreter. Whoever started it waits for a line: `ready`, or what is wrong.
pub fn keep() -> anyhow::Result<Outcome> {
    let record: Record = serde_json::from_reader(std::io::stdin())?;
    let say = |line: &str| drop(writeln!(std::io::stdout(), "{line}").and_then(|()| std::io::stdout().flush()));
    if let Err(error) = sittings::keep(&record, || say("ready")) {
        record.remove();
        say(&format!("{error:#}").replace('\n', " "));
    }
    Ok(Outcome::Done)
}
