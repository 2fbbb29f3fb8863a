//! `select`: the ladder at a place, one rung of it, growing and shrinking.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::editing::{self, About};
use vknot_reshape::looks::{self, Rung};
use vknot_syntax::{Role, Span};

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::output::{self, FAINT, HEAD, KIND, MARK};
use crate::output::json::SpanJson;
use crate::place::{parse_spot, Spot};
use crate::problem::Outcome;
use super::{open_place, shown_span};

/// Select by syntax, from the word at a place outwards
///
/// Without an option the whole ladder is shown: every selection a person might want around the place, from the
/// inside out. Rung 0 is the innermost.
#[derive(clap::Args)]
pub struct Arguments {
    /// A place in a file; `-` is standard input
    #[arg(value_name = "PLACE")]
    place: std::ffi::OsString,
    /// Print the text of one rung
    #[arg(long, value_name = "N", conflicts_with_all = ["grow", "shrink"])]
    rung: Option<usize>,
    /// Print the innermost rung of a kind that is larger than the given range: `statement`, `method`, `type`, `element`,
    /// or any other word the ladder shows
    #[arg(long, value_name = "KIND", conflicts_with_all = ["rung", "grow", "shrink"])]
    up_to: Option<String>,
    /// Print the smallest rung larger than the given range
    #[arg(long, conflicts_with = "shrink")]
    grow: bool,
    /// Print the largest rung smaller than the given range
    #[arg(long)]
    shrink: bool,
    /// Where growing began, for shrinking back to it: a position, or a range [default: the start of the range]
    #[arg(long, value_name = "SPOT", requires = "shrink")]
    from: Option<String>,
    #[command(flatten)]
    about: AboutArguments,
    /// Print the span instead of the text
    #[arg(long)]
    span: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

/// Where to from the item at the place.
#[derive(clap::Args)]
#[group(multiple = false, conflicts_with_all = ["rung", "up_to", "grow", "shrink"])]
struct Ways {
    /// Print the item so many behind the one at the place
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    next: Option<u32>,
    /// Print the item so many in front of it
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    previous: Option<u32>,
    /// Print the first item beside it
    #[arg(long)]
    first: bool,
    /// Print the last item beside it
    #[arg(long)]
    last: bool,
    /// Print the item that holds it, so many times
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    parent: Option<u32>,
    /// Print the first item in it, so many times
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    child: Option<u32>,
}

/// Getting about among items.
#[derive(clap::Args)]
struct AboutArguments {
    #[command(flatten)]
    ways: Ways,
    /// Print all from the one at the place as far as that
    #[arg(long, requires = "Ways")]
    extend: bool,
}

impl Ways {
    fn about(&self) -> Option<About> {
        match (self.next, self.previous, self.parent, self.child) {
            (Some(count), ..) => Some(About::Next(count)),
            (_, Some(count), ..) => Some(About::Previous(count)),
            (_, _, Some(times), _) => Some(About::Parent(times)),
            (.., Some(times)) => Some(About::Child(times)),
            _ if self.first => Some(About::First),
            _ if self.last => Some(About::Last),
            _ => None,
        }
    }
}

/// The item that one gets to from the one at a place.
fn reached(input: &Input, span: Span, about: About, extend: bool) -> Result<Rung, String> {
    let found = editing::about(input.code(), span, about, extend).map_err(|error| error.to_string())?;
    Ok(Rung { kind: "item".to_owned(), span: found, head: found.start, role: Role::Part })
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (input, place, mut span) = match open_place(workspace, &arguments.place, &arguments.input) {
        Ok(opened) => opened,
        Err(problem) => return fail(problem),
    };
    if matches!(place.spot, Spot::Line(_)) {
        // A line alone means where its text begins.
        let text = input.source().slice(span);
        let start = span.start + (text.len() - text.trim_start().len()) as u32;
        span = Span::new(start, start);
    }
    let picked = match (arguments.rung, arguments.grow, arguments.shrink) {
        _ if let Some(about) = arguments.about.ways.about() => reached(&input, span, about, arguments.about.extend),
        _ if let Some(kind) = &arguments.up_to => up_to(&input, span, kind),
        (Some(rung), ..) => {
            let ladder = looks::ladder(input.code(), span);
            let count = ladder.len();
            ladder
                .into_iter()
                .nth(rung)
                .ok_or_else(|| format!("there is no rung {rung}; the ladder here has {count}, from 0"))
        }
        (_, true, _) => {
            let larger = |rung: &Rung| rung.span.covers(span) && rung.span.len() > span.len();
            let ladder = looks::ladder(input.code(), span);
            ladder.into_iter().find(larger).ok_or_else(|| "this is the whole file already".to_owned())
        }
        (_, _, true) => shrunk(arguments, &input, span),
        _ => return whole(arguments, &input, span),
    };
    match picked {
        Ok(rung) => one(arguments, &input, &rung),
        Err(message) => fail(input.problem_at(span.start, message)),
    }
}

fn fail(problem: crate::problem::Problem) -> anyhow::Result<Outcome> {
    output::problems(&[problem]);
    Ok(Outcome::Failed)
}

/// The innermost rung around a range that is called by a word.
fn up_to(input: &Input, range: Span, kind: &str) -> Result<Rung, String> {
    let larger = |rung: &&Rung| rung.span.covers(range) && rung.span.len() > range.len();
    let ladder = looks::ladder(input.code(), range);
    let found = ladder.iter().filter(larger).find(|rung| rung.is_called(kind)).cloned();
    found.ok_or_else(|| {
        let mut kinds: Vec<&str> = ladder.iter().filter(larger).map(|rung| rung.kind.as_str()).collect();
        kinds.dedup();
        match kinds.is_empty() {
            true => "this is the whole file already".to_owned(),
            false => format!("nothing around this is called `{kind}`; there is {}", kinds.join(", ")),
        }
    })
}

/// The largest rung inside the range on the ladder of the starting place; that place itself if there is none between.
fn shrunk(arguments: &Arguments, input: &Input, range: Span) -> Result<Rung, String> {
    let start = match &arguments.from {
        None => Span::new(range.start, range.start),
        Some(text) => match parse_spot(text) {
            Some(spot @ (Spot::Position(_) | Spot::Range(..))) => spot.resolve(input.code(), input.marks())?,
            _ => return Err(format!("`{text}` is neither LINE:COL nor LINE:COL-LINE:COL")),
        },
    };
    if !range.covers(start) {
        return Err("the starting place is not in the range".to_owned());
    }
    let smaller = |rung: &Rung| range.covers(rung.span)
        && rung.span.len() < range.len()
        && rung.span.len() > start.len();
    let ladder = looks::ladder(input.code(), start);
    let began = Rung { kind: "selection".to_owned(), span: start, head: start.start, role: Role::Part };
    let began = Some(began).filter(|began| !start.is_empty() && began.span.len() < range.len());
    let found = ladder.into_iter().rev().find(smaller).or(began);
    found.ok_or_else(|| "there is nothing smaller to select here".to_owned())
}

fn one(arguments: &Arguments, input: &Input, rung: &Rung) -> anyhow::Result<Outcome> {
    match (arguments.output, arguments.span) {
        (LookOutput::Json, _) => output::json::print("vknot.rung/1", rung_document(input, rung))?,
        (_, true) => writeln!(output::stdout(), "{}:{}", input.shown, shown_span(input, rung.span))?,
        (_, false) => writeln!(output::stdout(), "{}", input.source().slice(rung.span))?,
    }
    Ok(Outcome::Done)
}

fn whole(arguments: &Arguments, input: &Input, span: Span) -> anyhow::Result<Outcome> {
    let ladder = looks::ladder(input.code(), span);
    if arguments.output == LookOutput::Json {
        let rungs: Vec<Value> = ladder.iter().map(|rung| rung_document(input, rung)).collect();
        output::json::print("vknot.ladder/1", json!({ "file": input.shown, "rungs": rungs }))?;
        return Ok(Outcome::Done);
    }
    let mut out = output::stdout();
    let at = input.source().line_column(span.start);
    writeln!(out, "{HEAD}{}:{}:{}{HEAD:#}", input.shown, at.line, at.column)?;
    let spans: Vec<String> = ladder.iter().map(|rung| shown_span(input, rung.span)).collect();
    let width = spans.iter().map(String::len).max().unwrap_or(0);
    let kinds = ladder.iter().map(|rung| rung.kind.len()).max().unwrap_or(0);
    for (number, (rung, span)) in ladder.iter().zip(&spans).enumerate() {
        let text = input.source().slice(rung.span);
        // What an item is says its head, not the comment or annotation in front of it.
        let first = input.source().slice(Span::new(rung.head, rung.span.end)).lines().next().unwrap_or("").trim_end();
        let more = text.trim_end().lines().count().saturating_sub(1);
        let first = shortened(first);
        let more = match more {
            0 => String::new(),
            _ => format!(" {MARK}⋯ {}{MARK:#}", output::count(more, "line")),
        };
        let kind = &rung.kind;
        writeln!(out, "{number:>3}  {KIND}{kind:<kinds$}{KIND:#}  {FAINT}{span:<width$}{FAINT:#}  {first}{more}")?;
    }
    Ok(Outcome::Done)
}

fn shortened(line: &str) -> String {
    match line.char_indices().nth(76) {
        Some((cut, _)) => format!("{}…", &line[..cut]),
        None => line.to_owned(),
    }
}

fn rung_document(input: &Input, rung: &Rung) -> Value {
    let text = input.source().slice(Span::new(rung.head, rung.span.end));
    json!({
        "kind": rung.kind,
        "span": SpanJson::of(input.source(), rung.span),
        "firstLine": text.lines().next().unwrap_or(""),
    })
}
