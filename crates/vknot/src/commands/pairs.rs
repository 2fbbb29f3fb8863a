//! `pairs`: partners of brackets, what they belong to, and brackets without a partner.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::looks::{self, Pair, Pairs, Unpaired};
use vknot_syntax::Span;

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::output::{self, FAINT, HEAD, KIND, MARK, OUT};
use crate::output::code::CodeView;
use crate::output::json::SpanJson;
use crate::place::Spot;
use crate::problem::Outcome;
use super::{open_place, shown_span};

/// Find the partner of a bracket and what the two belong to
///
/// At a bracket, its partner; elsewhere, the innermost pair around the place. A file alone lists all pairs, and what has no
/// partner with the likeliest place of the mistake.
#[derive(clap::Args)]
pub struct Arguments {
    /// A file, or a place in one; `-` is standard input
    #[arg(value_name = "PLACE")]
    place: std::ffi::OsString,
    /// Print the span between the brackets, and its text
    #[arg(long)]
    inside: bool,
    /// Print the span with the brackets, and its text
    #[arg(long, conflicts_with = "inside")]
    around: bool,
    /// Only what has no partner
    #[arg(long)]
    unpaired: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (input, place, span) = match open_place(workspace, &arguments.place, &arguments.input) {
        Ok(opened) => opened,
        Err(problem) => {
            output::problems(&[problem]);
            return Ok(Outcome::Failed);
        }
    };
    let pairs = looks::pairs(input.code(), input.marks());
    if place.spot == Spot::Whole || arguments.unpaired {
        return all(arguments, &input, &pairs);
    }
    let mark = mark_at(&pairs, span);
    let lone = mark.and_then(|mark| pairs.unpaired.iter().find(|unpaired| unpaired.span == mark));
    let pair = match (mark, lone) {
        (Some(mark), None) => pairs.of(mark),
        (Some(_), Some(_)) => None,
        (None, _) => pairs.around(span),
    };
    match (pair, lone, arguments.output) {
        (None, Some(unpaired), LookOutput::Text) => {
            writeln!(output::stdout(), "{}", unpaired_line(&input, unpaired))?;
            return Ok(Outcome::Failed);
        }
        (None, ..) => {
            output::problems(&[input.problem_at(span.start, "no pair is around this place")]);
            return Ok(Outcome::Failed);
        }
        (Some(pair), _, LookOutput::Json) => {
            output::json::print("vknot.pairs/1", document(&input, std::slice::from_ref(pair), &[]))?;
        }
        (Some(pair), _, LookOutput::Text) if arguments.inside || arguments.around => {
            let span = if arguments.inside { pair.inside() } else { pair.around() };
            let mut out = output::stdout();
            writeln!(out, "{FAINT}{}:{}{FAINT:#}", input.shown, shown_span(&input, span))?;
            writeln!(out, "{}", input.source().slice(span))?;
        }
        (Some(pair), _, LookOutput::Text) => show(&input, pair, mark)?,
    }
    Ok(Outcome::Done)
}

/// The mark at a place. A line alone asks for the last mark on it, which is the one a person wonders about.
fn mark_at(pairs: &Pairs, span: Span) -> Option<Span> {
    if span.is_empty() {
        let begins = pairs.marks().find(|mark| mark.start == span.start);
        return begins.or_else(
            || pairs
                .marks()
                .filter(|mark| mark.start < span.start && span.start <= mark.end)
                .min_by_key(|mark| mark.len()),
        );
    }
    pairs.marks().filter(|mark| span.start <= mark.start && mark.start < span.end).max_by_key(|mark| mark.start)
}

/// What a mark says: its first line, and that there is more.
fn mark_text(input: &Input, mark: Span) -> String {
    let text = input.source().slice(mark);
    match text.lines().next() {
        Some(first) if first.len() < text.len() => format!("{} …", first.trim_end()),
        _ => text.to_owned(),
    }
}

/// A pair with the construct it belongs to, and both its lines.
fn show(input: &Input, pair: &Pair, asked: Option<Span>) -> std::io::Result<()> {
    let mut out = output::stdout();
    let (open, close) = (pair.open, pair.close);
    let at = |span: Span| {
        let at = input.source().line_column(span.start);
        format!("{}:{}", at.line, at.column)
    };
    let text = |span| mark_text(input, span);
    let relation = match asked {
        Some(mark) if pair.branches.contains(&mark) => format!(
            "{MARK}{}{MARK:#} at {} is a branch of {MARK}{}{MARK:#} at {}",
            text(mark), at(mark), text(open), at(open),
        ),
        Some(mark) if mark == close => {
            format!("{MARK}{}{MARK:#} at {} closes {MARK}{}{MARK:#} at {}", text(close), at(close), text(open), at(open))
        }
        _ => format!("{MARK}{}{MARK:#} at {} is closed by {MARK}{}{MARK:#} at {}", text(open), at(open), text(close), at(close)),
    };
    writeln!(out, "{HEAD}{}{HEAD:#}  {relation}", input.shown)?;
    // What stands on a line that is shown anyway is not said twice.
    let header_line = input.source().line(pair.header);
    let header = match header_line == input.source().line(open.start) {
        true => "",
        false => input.source().lines().text(input.source().text(), header_line - 1).trim(),
    };
    let line = format!("{FAINT}belongs to{FAINT:#}  {KIND}{}{KIND:#}  {header}", pair.construct);
    writeln!(out, "{}", line.trim_end())?;
    let view = CodeView::new(input.source(), input.tree());
    let marks: Vec<Span> = pair.marks().collect();
    let mut shown = 0;
    for line in marks.iter().map(|mark| input.source().line(mark.start)) {
        if shown > 0 && line > shown + 1 {
            let hidden = output::count((line - shown - 1) as usize, "line");
            writeln!(out, "{:>width$}  {FAINT}⋯ {hidden}{FAINT:#}", "", width = 3)?;
        }
        if line > shown {
            writeln!(out, "{}", view.line(line, &marks))?;
            shown = line;
        }
    }
    Ok(())
}

fn all(arguments: &Arguments, input: &Input, pairs: &Pairs) -> anyhow::Result<Outcome> {
    let shown: &[Pair] = if arguments.unpaired { &[] } else { &pairs.pairs };
    if arguments.output == LookOutput::Json {
        output::json::print("vknot.pairs/1", document(input, shown, &pairs.unpaired))?;
        return Ok(Outcome::Done);
    }
    let mut out = std::io::BufWriter::new(output::stdout());
    let lone = pairs.unpaired.len();
    let counts = format!("{}, {lone} without a partner", output::count(pairs.pairs.len(), "pair"));
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{counts}{FAINT:#}", input.shown)?;
    for pair in shown {
        let brackets = format!("{}{}", mark_text(input, pair.open), mark_text(input, pair.close));
        let indent = "  ".repeat(pair.depth.min(20) as usize);
        let range = shown_span(input, pair.around());
        let kind = &pair.construct;
        writeln!(out, "{FAINT}{range:>15}{FAINT:#}  {indent}{MARK}{brackets}{MARK:#} {KIND}{kind}{KIND:#}")?;
    }
    for unpaired in &pairs.unpaired {
        writeln!(out, "{}", unpaired_line(input, unpaired))?;
    }
    out.flush()?;
    Ok(Outcome::Done)
}

fn unpaired_line(input: &Input, unpaired: &Unpaired) -> String {
    let at = |span: Span| {
        let at = input.source().line_column(span.start);
        format!("{}:{}", at.line, at.column)
    };
    let mark = mark_text(input, unpaired.span);
    let mut line = format!("{}:{}: {OUT}{mark}{OUT:#} has no partner", input.shown, at(unpaired.span));
    if let Some(culprit) = unpaired.culprit {
        let text =
            input.source().lines().text(input.source().text(), input.source().line(culprit.span.start) - 1).trim();
        let what = mark_text(input, culprit.span);
        let from = culprit.line;
        line.push_str(&match culprit.span == unpaired.span {
            true if from == input.source().line(culprit.span.start) =>
                format!(" in `{text}`; it is missing on that line"),
            true => format!(" in `{text}`; what stands from line {MARK}{from}{MARK:#} on does not belong to it"),
            false => format!(
                "; the mistake is likely at {MARK}{}{MARK:#}, where `{what}` stands in `{text}`: by their indentation line {from} does not belong to it",
                at(culprit.span),
            ),
        });
    }
    line
}

fn document(input: &Input, shown: &[Pair], unpaired: &[Unpaired]) -> Value {
    let span = |span: Span| SpanJson::of(input.source(), span);
    let pair = |pair: &Pair| {
        let header = input.source().line(pair.header);
        json!({
            "open": span(pair.open),
            "close": span(pair.close),
            "depth": pair.depth,
            "inside": span(pair.inside()),
            "around": span(pair.around()),
            "branches": pair.branches.iter().map(|branch| span(*branch)).collect::<Vec<_>>(),
            "construct": {
                "kind": pair.construct,
                "firstLine": input.source().lines().text(input.source().text(), header - 1).trim(),
            },
        })
    };
    let lone = |unpaired: &Unpaired| {
        json!({
            "bracket": span(unpaired.span),
            "culprit": unpaired.culprit.map(|culprit| json!({ "bracket": span(culprit.span), "line": culprit.line })),
        })
    };
    json!({
        "file": input.shown,
        "pairs": shown.iter().map(pair).collect::<Vec<_>>(),
        "unpaired": unpaired.iter().map(lone).collect::<Vec<_>>(),
    })
}
