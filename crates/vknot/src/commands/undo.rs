//! `undo`: take back what a run wrote.

use std::io::Write;

use crate::files::journal::{Entry, Journal, Run};
use crate::output::{self, FAINT, HEAD, NAME};
use crate::problem::{Outcome, Problem};

/// Take back what the last run wrote, file by file
///
/// A file that has changed since is left as it is. The last 50 runs are kept.
#[derive(clap::Args)]
pub struct Arguments {
    /// List the runs that can be taken back
    #[arg(long)]
    list: bool,
    /// Take back this run instead of the last one
    #[arg(long, value_name = "NUMBER", conflicts_with = "list")]
    run: Option<u32>,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let journal = Journal::open()?;
    let runs = journal.runs();
    if arguments.list {
        return list(&runs);
    }
    let wanted = |(run, entries): &&(Run, Vec<Entry>)| match arguments.run {
        Some(number) => run.number == number,
        None => !run.undone && !entries.is_empty(),
    };
    let Some((run, entries)) = runs.iter().rev().find(wanted) else {
        let message = match arguments.run {
            Some(number) => format!("there is no run {number}; `vknot undo --list` shows those there are"),
            None => "there is nothing to take back".to_owned(),
        };
        output::problems(&[Problem::new("undo", message)]);
        return Ok(Outcome::Failed);
    };
    let (restored, problems) = journal.undo(run, entries)?;
    output::problems(&problems);
    let mut out = anstream::stdout().lock();
    writeln!(out, "took back {NAME}vknot {}{NAME:#}: {} as before", run.command, output::count(restored, "file"))?;
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

fn list(runs: &[(Run, Vec<Entry>)]) -> anyhow::Result<Outcome> {
    let mut out = anstream::stdout().lock();
    if runs.is_empty() {
        writeln!(out, "no run has written anything yet")?;
    }
    for (run, entries) in runs.iter().rev() {
        let undone = if run.undone { "  taken back" } else { "" };
        let (time, files) = (utc(run.time), output::count(entries.len(), "file"));
        writeln!(
            out,
            "{HEAD}{:>4}{HEAD:#}  {FAINT}{time}{FAINT:#}  {files:<10}  {NAME}vknot {}{NAME:#}  {FAINT}in {}{undone}{FAINT:#}",
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
