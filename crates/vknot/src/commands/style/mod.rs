//! `style`: which settings there are and hold, what they do, and which suit a code base.

mod check;
mod explain;
mod learn;
mod preview;
mod relevant;
mod show;
mod sources;
mod start;
mod trim;
mod written;

use std::path::Path;

use vknot_style::{Origin, Setting};

use crate::files::workspace::Workspace;
use crate::problem::{Outcome, Problem};

/// Show, explain, try and learn settings
#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(clap::Subcommand)]
enum Command {
    Show(show::Arguments),
    Explain(explain::Arguments),
    Preview(preview::Arguments),
    Relevant(relevant::Arguments),
    Learn(learn::Arguments),
    Start(start::Arguments),
    Trim(trim::Arguments),
    Check(check::Arguments),
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match &arguments.command {
        Command::Show(arguments) => show::run(arguments, workspace),
        Command::Explain(arguments) => explain::run(arguments),
        Command::Preview(arguments) => preview::run(arguments, workspace),
        Command::Relevant(arguments) => relevant::run(arguments, workspace),
        Command::Learn(arguments) => learn::run(arguments, workspace),
        Command::Start(arguments) => start::run(arguments, workspace),
        Command::Trim(arguments) => trim::run(arguments, workspace),
        Command::Check(arguments) => check::run(arguments),
    }
}

/// Families of settings in the order in which they are shown, with what each is about.
const FAMILIES: [(&str, &str); 11] = [
    ("file", "the file as a whole"),
    ("indent", "how far lines stand in"),
    ("align", "what lines up"),
    ("blank", "blank lines"),
    ("brace", "where braces open, and which there must be"),
    ("break", "which line breaks stay"),
    ("comment", "how comments are written"),
    ("import", "the order of imports, and what becomes of them"),
    ("space", "spaces on a line"),
    ("token", "tokens that may be written in more than one way"),
    ("wrap", "how long lines break"),
];

/// The setting of a key as typed.
fn setting(key: &str) -> Result<&'static Setting, Problem> {
    let near = || Setting::nearest(key).map_or(String::new(), |near| format!("; did you mean {near}?"));
    Setting::named(&key.to_ascii_lowercase()).ok_or_else(|| Problem::new(key, format!("is no setting{}", near())))
}

/// Where a value came from, for people. Paths are as seen from the current folder.
fn shown_origin(origin: &Origin) -> String {
    match origin {
        Origin::Default => "usual".to_owned(),
        Origin::Found => "found in the file".to_owned(),
        Origin::Beside => "found in the files beside it".to_owned(),
        Origin::CommandLine => "--set".to_owned(),
        Origin::File(path, line) => format!("{}:{line}", shown_path(path)),
    }
}

fn shown_path(path: &Path) -> String {
    let here = std::env::current_dir().ok();
    let inside = here.as_deref().and_then(|here| path.strip_prefix(here).ok()).unwrap_or(path);
    inside.strip_prefix(".").unwrap_or(inside).display().to_string()
}

#[cfg(test)]
mod tests {
    #[test]
    fn every_setting_is_in_a_family_that_is_shown() {
        let known = |family: &str| super::FAMILIES.iter().any(|(own, _)| *own == family);
        assert!(vknot_style::SETTINGS.iter().all(|setting| known(setting.family())));
    }
}
