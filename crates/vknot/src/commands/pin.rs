//! `pin`: names for spans that are kept beside the code and follow it.

use std::io::Write;
use std::path::Path;

use clap::Subcommand;
use serde_json::json;
use vknot_reshape::pins::{Found, Lines};

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::pins::{self, Pin, Pins};
use crate::files::plain;
use crate::output::{self, FAINT, HEAD, KIND, MARK, NAME};
use crate::place::{Place, Spot};
use crate::problem::{Outcome, Problem};
use super::open_place;

/// Name spans of code without touching it
///
/// Pins are kept in .vknot/pins.json at the project's root. A pin follows its lines through edits and says how sure it is; its
/// name can be used as a place.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    action: Action,
}

#[derive(Subcommand)]
enum Action {
    /// Pin the lines of a place
    Add(AddArguments),
    /// List pins and where they are now
    List(ListArguments),
    /// Remove a pin, or those inside some lines
    Remove(NameArguments),
    /// Put a pin on other lines
    Move(MoveArguments),
}

#[derive(clap::Args)]
struct AddArguments {
    /// The lines, as a place in a file
    #[arg(value_name = "PLACE")]
    place: std::ffi::OsString,
    /// The pin's name
    #[arg(long)]
    name: String,
    /// What to remember about it
    #[arg(long)]
    note: Option<String>,
    #[command(flatten)]
    input: InputArguments,
}

#[derive(clap::Args)]
struct ListArguments {
    /// Files and folders whose pins are listed
    #[arg(value_name = "PATH", default_value = ".")]
    paths: Vec<std::ffi::OsString>,
    /// Remember where the pins are now
    #[arg(long)]
    refresh: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
}

#[derive(clap::Args)]
struct NameArguments {
    /// The pin's name, or a place in a file
    name: String,
    /// A file or folder of the project
    #[arg(long, value_name = "PATH", default_value = ".")]
    project: String,
}

#[derive(clap::Args)]
struct MoveArguments {
    /// The pin's name
    name: String,
    /// The new lines, as a place in a file
    #[arg(value_name = "PLACE")]
    place: std::ffi::OsString,
    #[command(flatten)]
    input: InputArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let done = match &arguments.action {
        Action::Add(add) => run_add(workspace, add),
        Action::List(list) => return run_list(workspace, list),
        Action::Remove(name) => run_remove(workspace, name),
        Action::Move(to) => run_move(workspace, to),
    };
    match done {
        Ok(said) => {
            writeln!(output::stdout(), "{said}")?;
            Ok(Outcome::Done)
        }
        Err(problem) => {
            output::problems(&[problem]);
            Ok(Outcome::Failed)
        }
    }
}

/// The lines of a place in a file on disk, with what is needed to remember them.
struct Spotted {
    root: std::path::PathBuf,
    file: String,
    text: String,
    lines: Lines,
}

fn spot(workspace: &Workspace, place: &std::ffi::OsStr, input: &InputArguments) -> Result<Spotted, Problem> {
    let (input, _, span) = open_place(workspace, place, input)?;
    let path = input.path.clone().ok_or_else(|| Problem::new("-", "standard input cannot be pinned; name a file"))?;
    let home = workspace.home(&path)?;
    let file = home.relative(&path).ok_or_else(|| Problem::new(&input.shown, "is outside of the project"))?;
    let (first, last) = input.source().line_range(span);
    if input.source().slice(span).trim().is_empty() {
        return Err(input.problem_at(span.start, "there is nothing on these lines to pin"));
    }
    Ok(Spotted { root: home.root.clone(), file, text: input.source().text().to_owned(), lines: Lines { first, last } })
}

fn run_add(workspace: &Workspace, arguments: &AddArguments) -> Result<String, Problem> {
    let Spotted { root, file, text, lines } = spot(workspace, &arguments.place, &arguments.input)?;
    let name = &arguments.name;
    Pins::change(&root, |pins| {
        if let Some(taken) = pins.list.iter().find(|pin| pin.name == *name) {
            let message =
                format!("a pin is named `{name}` already, in {}; choose another name, or move it", taken.file);
            return Err(Problem::new(arguments.place.display().to_string(), message));
        }
        pins.list.push(Pin::new(file.clone(), name.clone(), arguments.note.clone(), &text, lines));
        Ok(())
    })?;
    Ok(format!("pinned {file}:{}-{} as {NAME}{name}{NAME:#}", lines.first, lines.last))
}

fn run_move(workspace: &Workspace, arguments: &MoveArguments) -> Result<String, Problem> {
    let Spotted { root, file, text, lines } = spot(workspace, &arguments.place, &arguments.input)?;
    Pins::change(&root, |pins| {
        let names = names(pins);
        let pin = pins.list.iter_mut().find(|pin| pin.name == arguments.name);
        let pin = pin.ok_or_else(|| unknown(&arguments.name, &names))?;
        pin.file.clone_from(&file);
        pin.renew(&text, lines);
        Ok(())
    })?;
    Ok(format!("{NAME}{}{NAME:#} is at {file}:{}-{} now", arguments.name, lines.first, lines.last))
}

fn run_remove(workspace: &Workspace, arguments: &NameArguments) -> Result<String, Problem> {
    let home = workspace.home(Path::new(&arguments.project))?;
    let is_place = Place::parse(std::ffi::OsStr::new(&arguments.name)).spot != Spot::Whole;
    let named = home.pins.list.iter().any(|pin| pin.name == arguments.name);
    if is_place && !named {
        return remove_inside(workspace, std::ffi::OsStr::new(&arguments.name));
    }
    let pin = Pins::change(&home.root, |pins| {
        let at = pins.list.iter().position(|pin| pin.name == arguments.name);
        Ok(pins.list.remove(at.ok_or_else(|| unknown(&arguments.name, &names(pins)))?))
    })?;
    Ok(format!("removed {NAME}{}{NAME:#} from {}", pin.name, pin.file))
}

/// Removes the pins that lie inside a place, or around it where it is inside a line.
fn remove_inside(workspace: &Workspace, place: &std::ffi::OsStr) -> Result<String, Problem> {
    let Spotted { root, file, text, lines } = spot(workspace, place, &InputArguments::default())?;
    let inside = |pin: &Pin| {
        let found = pin.anchor().find(&text).lines();
        pin.file == file
            && found.is_some_and(|found| {
                lines.first <= found.first && found.last <= lines.last
                    || lines.first == lines.last && (found.first..=found.last).contains(&lines.first)
            })
    };
    let removed = Pins::change(&root, |pins| {
        let (gone, kept): (Vec<Pin>, Vec<Pin>) = pins.list.drain(..).partition(inside);
        pins.list = kept;
        match gone.is_empty() {
            true => Err(Problem::new(
                place.display().to_string(),
                "no pin is there; `vknot pin list` shows where they are",
            )),
            false => Ok(gone),
        }
    })?;
    let names: Vec<&str> = removed.iter().map(|pin| pin.name.as_str()).collect();
    Ok(format!("removed {NAME}{}{NAME:#} from {file}", names.join(", ")))
}

fn names(pins: &Pins) -> String {
    let names: Vec<&str> = pins.list.iter().map(|pin| pin.name.as_str()).collect();
    if names.is_empty() { "there are none".to_owned() } else { format!("there are {}", names.join(", ")) }
}

fn unknown(name: &str, names: &str) -> Problem {
    Problem::new(name, format!("no pin has this name; {names}"))
}

fn run_list(workspace: &Workspace, arguments: &ListArguments) -> anyhow::Result<Outcome> {
    let mut problems = Vec::new();
    let mut entries = Vec::new();
    let mut roots: Vec<std::path::PathBuf> = Vec::new();
    for path in &arguments.paths {
        match listed(workspace, Path::new(path), arguments.refresh, &mut roots) {
            Ok(found) => entries.extend(found),
            Err(problem) => problems.push(problem),
        }
    }
    match arguments.output {
        LookOutput::Json => {
            let pins: Vec<_> = entries.iter().map(document).collect();
            output::json::print("vknot.pinned/1", json!({ "pins": pins }))?;
        }
        LookOutput::Text => show(&entries)?,
    }
    output::problems(&problems);
    let lost = entries.iter().any(|(_, found)| *found == Found::Lost);
    Ok(if problems.is_empty() && !lost { Outcome::Done } else { Outcome::Failed })
}

/// The pins below a path, with where they are now.
fn listed(
    workspace: &Workspace,
    path: &Path,
    refresh: bool,
    roots: &mut Vec<std::path::PathBuf>,
) -> Result<Vec<(Pin, Found)>, Problem> {
    let home = workspace.home(path)?;
    let below = home.relative(path).unwrap_or_default();
    let mut found = Vec::new();
    for pin in &home.pins.list {
        if below.is_empty() || pin.file == below || pin.file.starts_with(&format!("{below}/")) {
            found.push((pin.clone(), place(&home.root, pin)?.1));
        }
    }
    if refresh && !roots.contains(&home.root) {
        Pins::change(&home.root, |pins| {
            for pin in &mut pins.list {
                let (text, place) = place(&home.root, pin)?;
                if let Some(lines) = place.lines() {
                    pin.renew(&text, lines);
                }
            }
            Ok(())
        })?;
        roots.push(home.root.clone());
        workspace.refresh();
    }
    Ok(found)
}

/// The text of a pinned file, and where in it the pin is now.
fn place(root: &Path, pin: &Pin) -> Result<(String, Found), Problem> {
    let text = plain::read(&pins::place_of(root, pin)?).unwrap_or_default();
    let text = String::from_utf8(text).unwrap_or_default();
    let text = text.strip_prefix('\u{feff}').map(str::to_owned).unwrap_or(text);
    let found = pin.anchor().find(&text);
    Ok((text, found))
}

fn show(entries: &[(Pin, Found)]) -> std::io::Result<()> {
    let mut out = output::stdout();
    let mut file = "";
    for (pin, found) in entries {
        if pin.file != file {
            writeln!(out, "{HEAD}{}{HEAD:#}", pin.file)?;
            file = &pin.file;
        }
        let note = pin.note.as_ref().map_or(String::new(), |note| format!("  {note}"));
        match found.lines() {
            Some(Lines { first, last }) => {
                let from = pin.first_line;
                let was = if *found == (Found::Moved(Lines { first, last })) {
                    format!(" {FAINT}from {from}{FAINT:#}")
                } else {
                    String::new()
                };
                writeln!(out, "{FAINT}{:>11}{FAINT:#}  {KIND}{}{KIND:#} {NAME}{}{NAME:#}{was}{note}", format!("{first}-{last}"), found.name(), pin.name)?;
            }
            None => {
                writeln!(out, "{:>11}  {MARK}lost{MARK:#} {NAME}{}{NAME:#}{note}; last known from line {}:", "", pin.name, pin.first_line)?;
                for line in pin.lines.iter().take(LAST_KNOWN) {
                    writeln!(out, "{:>13}{FAINT}{line}{FAINT:#}", "")?;
                }
                if pin.lines.len() > LAST_KNOWN {
                    writeln!(out, "{:>13}{FAINT}⋯ {}{FAINT:#}", "", output::count(pin.lines.len() - LAST_KNOWN, "line"))?;
                }
            }
        }
    }
    writeln!(out, "{FAINT}{}{FAINT:#}", output::count(entries.len(), "pin"))
}

/// How many lines of a lost pin are shown.
const LAST_KNOWN: usize = 5;

fn document((pin, found): &(Pin, Found)) -> serde_json::Value {
    json!({
        "name": pin.name,
        "file": pin.file,
        "note": pin.note,
        "state": found.name(),
        "firstLine": found.lines().map(|lines| lines.first),
        "lastLine": found.lines().map(|lines| lines.last),
        "lastKnown": { "firstLine": pin.first_line, "lines": pin.lines },
    })
}
