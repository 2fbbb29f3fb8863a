//! What is printed: colours, diffs, JSON and SARIF.

pub mod code;
pub mod diff;
pub mod indentation;
pub mod json;
pub mod receipt;
pub mod sarif;

use std::io::Write;

use anstyle::{AnsiColor, Effects, Style};

/// Line numbers, guides, and what is only there for orientation.
pub const FAINT: Style = AnsiColor::BrightBlack.on_default();
/// Names.
pub const NAME: Style = Style::new().effects(Effects::BOLD);
/// Kinds.
pub const KIND: Style = AnsiColor::Cyan.on_default();
/// What is pointed at.
pub const MARK: Style = AnsiColor::Yellow.on_default().effects(Effects::BOLD);
/// Headings and file names.
pub const HEAD: Style = AnsiColor::Blue.on_default().effects(Effects::BOLD);
/// Strings in shown code.
pub const STRING: Style = AnsiColor::Green.on_default();
/// Lines taken out, and errors.
pub const OUT: Style = AnsiColor::Red.on_default();
/// Lines put in.
pub const IN: Style = AnsiColor::Green.on_default();

/// Prints an error line.
pub fn error(message: &str) {
    let bold = OUT.effects(Effects::BOLD);
    let _ = writeln!(anstream::stderr().lock(), "{bold}error:{bold:#} {message}");
}

/// Prints what could not be done, one line each.
pub fn problems(problems: &[crate::problem::Problem]) {
    let mut err = anstream::stderr().lock();
    for problem in problems {
        let _ = writeln!(err, "{OUT}{}{OUT:#}: {}", problem.place(), problem.message);
    }
}

/// `1 line`, `2 lines`.
pub fn count(number: usize, noun: &str) -> String {
    format!("{number} {noun}{}", if number == 1 { "" } else { "s" })
}
