//! The commands, one file each.

mod asking;
pub mod completions;
pub mod demo;
pub mod edit;
pub mod fold;
pub mod format;
pub mod imports;
pub mod indent;
pub mod job;
pub mod man;
pub mod outline;
pub mod pairs;
pub mod pin;
pub mod region;
pub mod reshape;
pub mod sections;
pub mod select;
pub mod signals;
pub mod style;
pub mod todos;
pub mod undo;
pub mod work;

use crate::arguments::InputArguments;
use crate::files::input::Input;
use crate::files::workspace::Workspace;
use crate::place::Place;
use crate::problem::Problem;

/// Reads the file of a place and finds the spot in it.
fn open_place(
    workspace: &Workspace,
    text: &std::ffi::OsStr,
    arguments: &InputArguments,
) -> Result<(Input, Place, vknot_syntax::Span), Problem> {
    let place = Place::parse(text);
    let input = workspace.read(&place.file, arguments)?;
    match place.spot.resolve(input.code(), input.marks()) {
        Ok(span) => Ok((input, place, span)),
        Err(message) => Err(Problem::new(text.display().to_string(), message)),
    }
}

/// A span as a place people can type again.
fn shown_span(input: &Input, span: vknot_syntax::Span) -> String {
    let (start, end) = (input.source().line_column(span.start), input.source().line_column(span.end));
    format!("{}:{}-{}:{}", start.line, start.column, end.line, end.column)
}
