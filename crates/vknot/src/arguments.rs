//! What several commands take.

use std::path::PathBuf;

use clap::ValueEnum;
use vknot_style::Override;

use crate::files::git::Against;

#[derive(Clone, Copy, ValueEnum)]
pub enum Color {
    /// On a terminal, unless NO_COLOR is set
    Auto,
    Always,
    Never,
}

impl Color {
    pub fn apply(self) {
        let choice = match self {
            Color::Auto => return,
            Color::Always => anstream::ColorChoice::Always,
            Color::Never => anstream::ColorChoice::Never,
        };
        choice.write_global();
    }
}

/// Which files, and as what.
#[derive(clap::Args, Clone, Default)]
pub struct InputArguments {
    /// The file that standard input stands for
    #[arg(long = "as", value_name = "NAME")]
    pub stands_for: Option<PathBuf>,
    /// The language, where the file name does not tell
    #[arg(long, value_name = "NAME")]
    pub language: Option<String>,
}

/// How a look is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum LookOutput {
    Text,
    Json,
}

/// How a reshape is shown.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum ReshapeOutput {
    /// A unified diff
    Diff,
    /// The whole new text
    Text,
    /// Edits as the Language Server Protocol has them, and the receipt
    Json,
    /// SARIF 2.1.0, for code-scanning services
    Sarif,
}

impl ReshapeArguments {
    /// What changed lines are told against, if only those are meant.
    pub fn against(&self) -> Option<Against> {
        match (self.staged, self.changed) {
            (true, _) => Some(Against::Staged),
            (_, true) => Some(Against::Revision(self.since.clone())),
            _ => None,
        }
    }
}

/// What all reshapes take.
#[derive(clap::Args)]
pub struct ReshapeArguments {
    /// Files, folders, and places in files; `-` is standard input
    #[arg(required_unless_present_any = ["changed", "staged"], value_name = "PLACE")]
    pub places: Vec<std::ffi::OsString>,
    /// Write the result to the files
    #[arg(short, long, conflicts_with = "check")]
    pub write: bool,
    /// Write nothing; exit with 1 if there is something to do
    #[arg(long)]
    pub check: bool,
    /// How to show what changes [default: diff; text for standard input]
    #[arg(long, value_enum, value_name = "FORM")]
    pub output: Option<ReshapeOutput>,
    /// Only lines that changed since the last commit, as git has it; without a place, below the current folder
    #[arg(long, conflicts_with = "staged")]
    pub changed: bool,
    /// With --changed: since this revision
    #[arg(long, value_name = "REVISION", requires = "changed", default_value = "HEAD", hide_default_value = true)]
    pub since: String,
    /// Only lines that are staged; what --write makes of them is staged, and the files stay as they are
    #[arg(long)]
    pub staged: bool,
    /// Read all files, also those found as they should be before
    #[arg(long)]
    pub no_cache: bool,
    /// Also files that say at their top that a program wrote them
    #[arg(long)]
    pub generated: bool,
    /// A setting that beats the files
    #[arg(long = "set", value_name = "KEY=VALUE")]
    pub set: Vec<Override>,
    #[command(flatten)]
    pub input: InputArguments,
}
