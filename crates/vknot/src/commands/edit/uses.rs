//! `edit occurrences`: every use of a name, and another name in its place.

use std::ffi::OsString;
use std::io::Write;

use serde_json::{Value, json};
use vknot_reshape::editing::{By, Edit, Occurrences, Sought, occurrences, renamed, replacement};
use vknot_syntax::Span;

use crate::arguments::ReshapeOutput;
use crate::files::input::Input;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT, HEAD};
use crate::output::json::SpanJson;
use crate::place::Place;
use crate::problem::{Outcome, Problem};
use super::arguments::{PlaceArguments, found};

/// List every use of the name at a place, or put another name in its place
///
/// Where the binding rules of the language are known, uses are told by scope, else by word within the file; which, is said. Another name is
/// refused where it would be taken for something else, or something else for it.
#[derive(clap::Args)]
pub struct Arguments {
    #[command(flatten)]
    pub common: PlaceArguments,
    /// Only those in a part of the file
    #[arg(long = "in", value_name = "SPOT")]
    within: Option<OsString>,
    /// At most so many
    #[arg(long, value_name = "N")]
    first: Option<usize>,
    /// Those in comments, too
    #[arg(long)]
    comments: bool,
    /// Those in strings, too
    #[arg(long)]
    strings: bool,
    /// Put this name in their place
    #[arg(long, value_name = "NEW")]
    replace: Option<String>,
}

impl Arguments {
    /// Whether nothing is to be put in their place.
    pub fn is_look(&self) -> bool {
        self.replace.is_none()
    }

    fn found(&self, input: &Input, at: Span) -> Result<Occurrences, Problem> {
        let within = self.within.as_ref().map(|spot| found(input, spot)).transpose()?;
        let sought = Sought { within, first: self.first, comments: self.comments, strings: self.strings };
        occurrences(input.code(), at, sought).map_err(|error| input.problem_at(at.start, error.to_string()))
    }

    /// The edit that puts another name in their place.
    pub fn edit(&self, input: &Input, at: Span) -> Result<Edit, Problem> {
        let found = self.found(input, at)?;
        let new = self.replace.clone().unwrap_or_default();
        renamed(input.code(), &found, &new).map_err(|error| input.problem_at(at.start, error.to_string()))?;
        Ok(replacement(input.code(), &found, &new))
    }
}

/// Lists the uses.
pub fn look(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let place = Place::parse(&arguments.common.place);
    let input = match workspace.read(&place.file, &arguments.common.shown.input) {
        Ok(input) => input,
        Err(problem) => return fail(problem),
    };
    let at = match place.spot.resolve(input.code(), input.marks()) {
        Ok(span) => span,
        Err(message) => return fail(Problem::new(&input.shown, message)),
    };
    let found = match arguments.found(&input, at) {
        Ok(found) => found,
        Err(problem) => return fail(problem),
    };
    let scope = matches!(found.by, By::Scope(_));
    if arguments.common.shown.output == Some(ReshapeOutput::Json) {
        let spans: Vec<Value> = found.spans.iter().map(|span| json!(SpanJson::of(input.source(), *span))).collect();
        let declared = match found.by {
            By::Scope(span) => Some(SpanJson::of(input.source(), span)),
            By::Word => None,
        };
        let by = if scope { "scope" } else { "word" };
        let document =
            json!({ "file": input.shown, "name": found.name, "by": by, "declared": declared, "uses": spans });
        output::json::print("vknot.occurrences/1", document)?;
        return Ok(Outcome::Done);
    }
    let mut out = output::stdout();
    let by = if scope { "by scope" } else { "by word" };
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}, {by}{FAINT:#}", found.name, output::count(found.spans.len(), "use"))?;
    for span in &found.spans {
        let at = input.source().line_column(span.start);
        let lines = input.source().lines().span(input.source().text(), at.line - 1);
        let line = shown(input.source().slice(lines), (span.start - lines.start) as usize);
        writeln!(out, "{FAINT}{}:{}:{}{FAINT:#}  {line}", input.shown, at.line, at.column)?;
    }
    Ok(Outcome::Done)
}

/// Bytes of a line that are shown whole, and how many of a longer one are shown in front of a use.
const LINE_AT_MOST: usize = 240;
const IN_FRONT: usize = 80;

/// A line around a place of it.
fn shown(line: &str, at: usize) -> String {
    if line.trim().len() <= LINE_AT_MOST {
        return line.trim().to_owned();
    }
    let start = (at.saturating_sub(IN_FRONT)..=at).find(|start| line.is_char_boundary(*start)).unwrap_or(0);
    let end = (start + LINE_AT_MOST).min(line.len());
    let end = (end..=line.len()).find(|end| line.is_char_boundary(*end)).unwrap_or(line.len());
    let (before, behind) = (if start > 0 { "…" } else { "" }, if end < line.len() { "…" } else { "" });
    format!("{before}{}{behind}", line.get(start..end).unwrap_or_default().trim())
}

/// Prints a problem as the outcome of a look.
fn fail(problem: Problem) -> anyhow::Result<Outcome> {
    output::problems(&[problem]);
    Ok(Outcome::Failed)
}
