//! The `vknot` program: reads arguments, runs one command, gives an exit code.

mod arguments;
mod command_line;
mod commands;
mod demo;
mod files;
mod output;
mod place;
mod problem;
#[cfg(unix)]
mod sittings;

use std::process::ExitCode;

use clap::{CommandFactory, Parser};

use crate::files::workspace::Workspace;
use crate::command_line::{Arguments, Command};
use crate::problem::Outcome;

fn main() -> ExitCode {
    let arguments = Arguments::parse_from(std::env::args_os().map(place::shield));
    arguments.color.apply();
    let workspace = Workspace::default();
    let result = match &arguments.command {
        Command::Outline(command) => commands::outline::run(command, &workspace),
        Command::Fold(command) => commands::fold::run(command, &workspace),
        Command::Pairs(command) => commands::pairs::run(command, &workspace),
        Command::Select(command) => commands::select::run(command, &workspace),
        Command::Todos(command) => commands::todos::run(command, &workspace),
        Command::Sections(command) => commands::sections::run(command, &workspace),
        Command::Region(command) => commands::region::run(command, &workspace),
        Command::Pin(command) => commands::pin::run(command, &workspace),
        Command::Indent(command) => commands::indent::run(command, &workspace),
        Command::Format(command) => commands::format::run(command, &workspace),
        Command::Imports(command) => commands::imports::run(command, &workspace),
        Command::Edit(command) => commands::edit::run(command, &workspace),
        Command::Style(command) => commands::style::run(command, &workspace),
        Command::Undo(command) => commands::undo::run(command),
        Command::Demo(command) => commands::demo::run(command),
        Command::Completions(command) => commands::completions::run(command, Arguments::command()),
        Command::Man(command) => commands::man::run(command, Arguments::command()),
    };
    let problems = workspace.take_problems();
    output::problems(&problems);
    let result = result.map(|outcome| if problems.is_empty() { outcome } else { outcome.with_problems() });
    match result.and_then(|outcome| Ok(output::flush().map(|()| outcome)?)) {
        Ok(outcome) => outcome.exit_code(),
        Err(error) => {
            output::error(&format!("{error:#}"));
            Outcome::Failed.exit_code()
        }
    }
}
