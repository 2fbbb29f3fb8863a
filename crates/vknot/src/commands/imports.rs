//! `imports`: sort, group and merge imports, and drop the dead ones.

use std::path::PathBuf;

use vknot_reshape::{Acts, Wanted};
use vknot_reshape::steps::Wish;

use crate::files::workspace::Workspace;
use crate::arguments::ReshapeArguments;
use crate::problem::Outcome;
use super::asking;
use super::job::Job;
use super::reshape;

/// Sort, group and merge imports, and drop what is not needed
///
/// Only what is known is done: an import goes if nothing in the file names what it brings in, as far as that can be told; what stays though
/// nothing is known to need it is named with what was not known. Order is as set, else as the file shows it, else as usual in its language.
/// Nothing passes an import that only runs something. Rust: `use` trees are sorted and merged, and nothing but repetitions is dropped.
#[derive(clap::Args)]
pub struct Arguments {
    /// Only some of what is done
    #[arg(long, value_enum, value_name = "ACT", value_delimiter = ',')]
    only: Vec<Act>,
    /// Import what is used and not imported, where it is certain from where; else say what it could be, or ask on a terminal
    #[arg(long)]
    missing: bool,
    /// With --missing: from where to import a name
    #[arg(long, value_name = "NAME=FROM", value_parser = choice, requires = "missing")]
    choose: Vec<(String, String)>,
    /// Say of each import what became of it, and why
    #[arg(long)]
    explain: bool,
    #[command(flatten)]
    reshape: ReshapeArguments,
}

/// What can be done to imports.
#[derive(Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
enum Act {
    /// Sort them, by what they import
    Sort,
    /// Put them in groups
    Group,
    /// Make one of those that import from the same place
    Merge,
    /// Drop those that nothing needs
    Prune,
}

fn choice(text: &str) -> Result<(String, String), String> {
    let (name, from) = text.split_once('=').ok_or_else(|| format!("`{text}` is not NAME=FROM"))?;
    Ok((name.trim().to_owned(), from.trim().to_owned()))
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let does = |act: Act| arguments.only.is_empty() || arguments.only.contains(&act);
    let acts =
        Acts { sort: does(Act::Sort), group: does(Act::Group), merge: does(Act::Merge), prune: does(Act::Prune) };
    workspace.name_folders(arguments.reshape.places.iter().map(PathBuf::from));
    let mut wanted = Wanted { acts, missing: arguments.missing, chosen: arguments.choose.clone() };
    if arguments.missing {
        let job = Job::new("imports", "imports", Wish::Imports(wanted.clone()))?;
        wanted.chosen.extend(asking::chosen(&arguments.reshape, &job, workspace)?);
    }
    let job = Job { explains: arguments.explain, ..Job::new("imports", "imports", Wish::Imports(wanted))? };
    reshape::run(&arguments.reshape, &job, workspace)
}
