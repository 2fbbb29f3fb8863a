//! `demo`: a short guided tour of the program on its sample project.

use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::Command;

use anyhow::{bail, Context};

use crate::demo::{FILES, TOUR};
use crate::output::{self, count, FAINT, HEAD, KIND, MARK, NAME};
use crate::problem::Outcome;

/// Take a short tour on a sample project
///
/// Copies the sample to a temporary folder, runs each command on it for real, and ends with what changed.
#[derive(clap::Args)]
pub struct Arguments {
    /// Work in this new or empty folder and leave it
    #[arg(long, value_name = "DIR")]
    keep: Option<PathBuf>,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let temporary = tempfile::tempdir().context("cannot make a temporary folder")?;
    let folder = match &arguments.keep {
        Some(folder) => folder.clone(),
        None => temporary.path().join("tidewatch"),
    };
    copy_sample(&folder)?;
    let state = temporary.path().join("state");
    let mut out = output::stdout();
    writeln!(out, "{HEAD}Valid Knot{HEAD:#}: a tour on the code of a small network of tide stations")?;
    writeln!(out, "{FAINT}{} in {}{FAINT:#}", count(FILES.len(), "file"), folder.display())?;
    let color = anstream::AutoStream::choice(&std::io::stdout()) != anstream::ColorChoice::Never;
    for (number, step) in TOUR.iter().enumerate() {
        writeln!(out, "\n{MARK}{:>2}{MARK:#}  {NAME}{}{NAME:#}", number + 1, step.wish)?;
        writeln!(out, "    {KIND}$ vknot {}{KIND:#}\n", step.command)?;
        let shown = output_of(step.command, &folder, &state, color)?;
        let lines: Vec<&str> = shown.lines().collect();
        for line in lines.iter().take(step.lines) {
            writeln!(out, "    {line}")?;
        }
        if lines.len() > step.lines {
            writeln!(out, "    {FAINT}⋯ {} more{FAINT:#}", count(lines.len() - step.lines, "line"))?;
        }
        out.flush()?;
    }
    writeln!(out, "\n{HEAD}What changed, all in all{HEAD:#}")?;
    for (path, before) in FILES {
        let after = std::fs::read_to_string(folder.join(path)).unwrap_or_default();
        if after != *before {
            let (was, is) = (before.lines().count(), after.lines().count());
            writeln!(out, "    {path:<20} {is:>3} lines, {was:>3} before")?;
        }
    }
    match &arguments.keep {
        Some(folder) => writeln!(out, "\nThe folder {} is yours to play with.", folder.display())?,
        None => writeln!(out, "\n{FAINT}`vknot demo --keep DIR` leaves you the folder to play with.{FAINT:#}")?,
    }
    Ok(Outcome::Done)
}

fn copy_sample(folder: &Path) -> anyhow::Result<()> {
    let taken = std::fs::read_dir(folder).is_ok_and(|mut entries| entries.next().is_some());
    if taken {
        bail!("{} is not empty; name a new folder", folder.display());
    }
    for (path, text) in FILES {
        let path = folder.join(path);
        if let Some(parent) = path.parent() {
            std::fs::create_dir_all(parent).with_context(|| format!("cannot make {}", parent.display()))?;
        }
        std::fs::write(&path, text).with_context(|| format!("cannot write {}", path.display()))?;
    }
    Ok(())
}

/// What a command prints, both streams, as a person would see it. Its journal is kept apart from the user's.
fn output_of(command: &str, folder: &Path, state: &Path, color: bool) -> anyhow::Result<String> {
    let program = std::env::current_exe().context("cannot find this program")?;
    let output = Command::new(program)
        .args(command.split(' '))
        .current_dir(folder)
        .env("XDG_STATE_HOME", state)
        .env(if color { "CLICOLOR_FORCE" } else { "NO_COLOR" }, "1")
        .output()
        .with_context(|| format!("cannot run vknot {command}"))?;
    let mut shown = String::from_utf8_lossy(&output.stdout).into_owned();
    shown.push_str(&String::from_utf8_lossy(&output.stderr));
    Ok(shown)
}
