//! `undo`: take back what a run wrote.

use std::io::Write;

use crate::files::journal::{Entry, is_of_project, Journal, project_here, Run, State};
use crate::output::{self, FAINT, HEAD, NAME};
use crate::problem::{Outcome, Problem};

/// Take back what the last run in this project wrote, file by file
///
/// A file that has changed since is left as it is, and one that is gone comes back. The last 50 runs are kept, of all projects together.
#[derive(clap::Args)]
pub struct Arguments {
    /// List the runs of this project
    #[arg(long)]
    list: bool,
    /// List the runs of all projects
    #[arg(long)]
    all: bool,
    /// Take back this run, of whatever project, instead of the last one here
    #[arg(long, value_name = "NUMBER", conflicts_with_all = ["list", "all"])]
    run: Option<u32>,
    /// Do again what was taken back last
    #[arg(long, conflicts_with_all = ["list", "all", "run"])]
    redo: bool,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let journal = Journal::open()?;
    let root = project_here();
    let mut runs = journal.runs();
    if arguments.run.is_none() && !arguments.all {
        runs.retain(|(run, entries)| is_of_project(run, entries, &root));
    }
    if arguments.list || arguments.all {
        return list(&runs, arguments.all);
    }
    let wanted = |(run, _): &&(Run, Vec<Entry>)| match arguments.run {
        Some(number) => run.number == number,
        None if arguments.redo => run.state != State::TakenBack && is_undoing(run, &runs),
        None => run.state != State::TakenBack && run.undoes.is_none(),
    };
    let Some((run, entries)) = runs.iter().rev().find(wanted) else {
        let message = match arguments.run {
            Some(number) => format!("there is no run {number}; `vknot undo --all` shows those there are"),
            None if arguments.redo => format!("nothing was taken back in {}", root.display()),
            None =>
                format!("there is nothing to take back in {}; `vknot undo --all` shows other projects", root.display()),
        };
        output::problems(&[Problem::new("undo", message)]);
        return Ok(Outcome::Failed);
    };
    let taken = journal.undo(run, entries);
    if let Some((undone, _)) = runs.iter().find(|(other, _)| arguments.redo && Some(other.number) == run.undoes) {
        journal.set_state(undone, State::Done)?;
    }
    let problem = |(path, why): &(std::path::PathBuf, String)| Problem::new(path.display().to_string(), why.clone());
    output::problems(&taken.left.iter().map(problem).collect::<Vec<_>>());
    let remark = |remark: &String| Problem::new("journal", remark.clone());
    output::problems(&taken.remarks.iter().map(remark).collect::<Vec<_>>());
    let (verb, state) = if arguments.redo { ("did again", "written again") } else { ("took back", "as before") };
    let (command, folder) = (&run.command, run.folder.display());
    let restored = output::count(taken.restored, "file");
    let mut out = output::stdout();
    write!(out, "{verb} {NAME}vknot {command}{NAME:#} of {folder}: {restored} {state}")?;
    if !taken.left.is_empty() {
        let left = output::count(taken.left.len(), "file");
        let again = if arguments.redo { "" } else { "; what is in their way gone, `vknot undo` goes on with it" };
        write!(out, ", {left} not{again}")?;
    }
    writeln!(out)?;
    Ok(if taken.left.is_empty() && taken.remarks.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// Whether a run took back one that was no such run itself.
fn is_undoing(run: &Run, runs: &[(Run, Vec<Entry>)]) -> bool {
    let undone = runs.iter().find(|(other, _)| Some(other.number) == run.undoes);
    undone.is_some_and(|(undone, _)| undone.undoes.is_none())
}

fn list(runs: &[(Run, Vec<Entry>)], all: bool) -> anyhow::Result<Outcome> {
    let mut out = output::stdout();
    let mut shown = runs.iter().rev().filter(|(run, _)| run.undoes.is_none()).peekable();
    if shown.peek().is_none() {
        let here = if all { "" } else { " in this project; `vknot undo --all` shows other projects" };
        writeln!(out, "no run has written anything yet{here}")?;
    }
    for (run, entries) in shown {
        let state = match run.state {
            State::Done => "",
            State::PartlyTakenBack => "  partly taken back",
            State::TakenBack => "  taken back",
        };
        let (time, files) = (utc(run.time), output::count(entries.len(), "file"));
        writeln!(
            out,
            "{HEAD}{:>4}{HEAD:#}  {FAINT}{time}{FAINT:#}  {files:<10}  {NAME}vknot {}{NAME:#}  {FAINT}in {}{state}{FAINT:#}",
            run.number,
            run.command,
            run.folder.display(),
        )?;
    }
    Ok(Outcome::Done)
}

/// Seconds since 1970 as a date and time in UTC; days are counted in eras of 400 years that begin in March.
fn utc(seconds: u64) -> String {
    let (days, rest) = (seconds / 86_400, seconds % 86_400);
    let shifted = days + 719_468;
    let era = shifted / 146_097;
    let day_of_era = shifted % 146_097;
    let year_of_era = (day_of_era - day_of_era / 1_460 + day_of_era / 36_524 - day_of_era / 146_096) / 365;
    let day_of_year = day_of_era - (365 * year_of_era + year_of_era / 4 - year_of_era / 100);
    let month_index = (5 * day_of_year + 2) / 153;
    let day = day_of_year - (153 * month_index + 2) / 5 + 1;
    let month = if month_index < 10 { month_index + 3 } else { month_index - 9 };
    let year = year_of_era + era * 400 + u64::from(month <= 2);
    format!("{year}-{month:02}-{day:02} {:02}:{:02}:{:02} UTC", rest / 3600, rest % 3600 / 60, rest % 60)
}

#[cfg(test)]
mod tests {
    #[test]
    fn times_are_shown_as_dates() {
        assert_eq!(super::utc(0), "1970-01-01 00:00:00 UTC");
        assert_eq!(super::utc(951_827_696), "2000-02-29 12:34:56 UTC");
        assert_eq!(super::utc(1_767_225_599), "2025-12-31 23:59:59 UTC");
    }
}
