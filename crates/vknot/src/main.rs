//! The `vknot` program: reads arguments, runs one command, gives an exit code.

mod arguments;
mod commands;
mod demo;
mod files;
mod output;
mod place;
mod problem;

use std::process::ExitCode;

use clap::Parser;

use crate::arguments::{Arguments, Command};
use crate::problem::Outcome;

fn main() -> ExitCode {
    let arguments = Arguments::parse_from(std::env::args_os().map(place::shield));
    arguments.color.apply();
    let result = match &arguments.command {
        Command::Outline(command) => commands::outline::run(command),
        Command::Fold(command) => commands::fold::run(command),
        Command::Pairs(command) => commands::pairs::run(command),
        Command::Select(command) => commands::select::run(command),
        Command::Todos(command) => commands::todos::run(command),
        Command::Sections(command) => commands::sections::run(command),
        Command::Region(command) => commands::region::run(command),
        Command::Pin(command) => commands::pin::run(command),
        Command::Indent(command) => commands::indent::run(command),
        Command::Format(command) => commands::format::run(command),
        Command::Imports(command) => commands::imports::run(command),
        Command::Undo(command) => commands::undo::run(command),
        Command::Demo(command) => commands::demo::run(command),
    };
    match result {
        Ok(outcome) => outcome.exit_code(),
        Err(error) if problem::is_broken_pipe(&error) => ExitCode::SUCCESS,
        Err(error) => {
            output::error(&format!("{error:#}"));
            Outcome::Failed.exit_code()
        }
    }
}
