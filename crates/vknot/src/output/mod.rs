//! What is printed: colours, diffs, JSON and SARIF.

pub mod code;
pub mod folded;
pub mod diff;
pub mod indentation;
pub mod json;
pub mod receipt;
pub mod sarif;
mod stream;

pub use stream::{flush, is_terminal, Paint, stderr, stdout};
#[cfg(test)]
pub use stream::plain;

use std::io::Write;

use anstyle::{AnsiColor, Effects, Style};

/// Line numbers, guides, and what is only there for orientation.
pub const FAINT: Paint = Paint(AnsiColor::BrightBlack.on_default());
/// Names.
pub const NAME: Paint = Paint(Style::new().effects(Effects::BOLD));
/// Kinds.
pub const KIND: Paint = Paint(AnsiColor::Cyan.on_default());
/// What is pointed at.
pub const MARK: Paint = Paint(AnsiColor::Yellow.on_default().effects(Effects::BOLD));
/// Headings and file names.
pub const HEAD: Paint = Paint(AnsiColor::Blue.on_default().effects(Effects::BOLD));
/// Strings in shown code.
pub const STRING: Paint = Paint(AnsiColor::Green.on_default());
/// Lines taken out, and errors.
pub const OUT: Paint = Paint(AnsiColor::Red.on_default());
/// What went wrong as a whole.
pub const ERROR: Paint = Paint(AnsiColor::Red.on_default().effects(Effects::BOLD));
/// No style.
pub const PLAIN: Paint = Paint(Style::new());
/// Lines put in.
pub const IN: Paint = Paint(AnsiColor::Green.on_default());

/// Prints an error line.
pub fn error(message: &str) {
    let _ = writeln!(stderr(), "{ERROR}error:{ERROR:#} {message}");
}

/// Prints what could not be done, one line each.
pub fn problems(problems: &[crate::problem::Problem]) {
    let mut err = stderr();
    for problem in problems {
        let _ = writeln!(err, "{OUT}{}{OUT:#}: {}", problem.place(), problem.message);
    }
}

/// `1 line`, `2 lines`.
pub fn count(number: usize, noun: &str) -> String {
    format!("{number} {noun}{}", if number == 1 { "" } else { "s" })
}

/// The columns of the terminal that standard output goes to; `None` where it goes elsewhere.
pub fn columns() -> Option<usize> {
    terminal_size::terminal_size_of(std::io::stdout()).map(|(width, _)| usize::from(width.0))
}
