//! `pairs`: partners of brackets, what they belong to, and brackets without a partner.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::looks::{self, Pair, Pairs, Unpaired};
use vknot_syntax::{Span, TokenId};

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
    place: String,
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

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let (input, place, span) = match open_place(&arguments.place, &arguments.input) {
        Ok(opened) => opened,
        Err(problem) => {
            output::problems(&[problem]);
            return Ok(Outcome::Failed);
        }
    };
    let pairs = looks::pairs(&input.source, &input.tree);
    if place.spot == Spot::Whole || arguments.unpaired {
        return all(arguments, &input, &pairs);
    }
    let token = bracket_at(&input, span);
    let lone = token.and_then(|token| pairs.unpaired.iter().find(|unpaired| unpaired.token == token));
    let pair = match (token, lone) {
        (Some(token), None) => pairs.of(token),
        (Some(_), Some(_)) => None,
        (None, _) => pairs.around(&input.tree, span),
    };
    match (pair, lone, arguments.output) {
        (None, Some(unpaired), LookOutput::Text) => {
            writeln!(anstream::stdout().lock(), "{}", unpaired_line(&input, unpaired))?;
            return Ok(Outcome::Failed);
        }
        (None, ..) => {
            output::problems(&[input.problem_at(span.start, "no pair of brackets is around this place")]);
            return Ok(Outcome::Failed);
        }
        (Some(pair), _, LookOutput::Json) => {
            output::json::print("vknot.pairs/1", document(&input, &pairs, &[*pair], &[]))?;
        }
        (Some(pair), _, LookOutput::Text) if arguments.inside || arguments.around => {
            let (inside, around) = pairs.spans(&input.tree, pair);
            let span = if arguments.inside { inside } else { around };
            let mut out = anstream::stdout().lock();
            writeln!(out, "{FAINT}{}:{}{FAINT:#}", input.shown, shown_span(&input, span))?;
            writeln!(out, "{}", input.source.slice(span))?;
        }
        (Some(pair), _, LookOutput::Text) => show(&input, &pairs, pair, token)?,
    }
    Ok(Outcome::Done)
}

/// The bracket at a place. A line alone asks for the last bracket on it, which is the one a person wonders about.
fn bracket_at(input: &Input, span: Span) -> Option<TokenId> {
    let is_bracket = |token: &TokenId| {
        let text = input.source.slice(input.tree.tokens()[*token as usize].span());
        matches!(text, "(" | ")" | "[" | "]" | "{" | "}" | "<" | ">" | "|")
    };
    if span.is_empty() {
        let tokens = input.tree.tokens();
        let starting = input.tree.token_from(span.start);
        let here = tokens.get(starting as usize).filter(|token| token.start == span.start).map(|_| starting);
        return here.filter(|token| is_bracket(token)).or_else(|| input.tree.token_at(span.start).filter(is_bracket));
    }
    let first = input.tree.token_from(span.start);
    let end = input.tree.token_from(span.end);
    (first..end).rev().find(is_bracket)
}

/// A pair with the construct it belongs to, and both its lines.
fn show(input: &Input, pairs: &Pairs, pair: &Pair, asked: Option<TokenId>) -> std::io::Result<()> {
    let mut out = anstream::stdout().lock();
    let token = |id: TokenId| input.tree.tokens()[id as usize].span();
    let (open, close) = (token(pair.open), token(pair.close));
    let at = |span: Span| {
        let at = input.source.line_column(span.start);
        format!("{}:{}", at.line, at.column)
    };
    let text = |span| input.source.slice(span);
    let construct = pairs.construct(&input.tree, pair);
    let kind = looks::kind_words(&input.tree, construct);
    let relation = match asked {
        Some(token) if token == pair.close => {
            format!("{MARK}{}{MARK:#} at {} closes {MARK}{}{MARK:#} at {}", text(close), at(close), text(open), at(open))
        }
        _ => format!("{MARK}{}{MARK:#} at {} is closed by {MARK}{}{MARK:#} at {}", text(open), at(open), text(close), at(close)),
    };
    writeln!(out, "{HEAD}{}{HEAD:#}  {relation}", input.shown)?;
    // What stands on a line that is shown anyway is not said twice.
    let header_line = input.source.line(looks::header_start(&input.tree, construct));
    let header = match header_line == input.source.line(open.start) {
        true => "",
        false => looks::header_line(&input.source, &input.tree, construct),
    };
    let line = format!("{FAINT}belongs to{FAINT:#}  {KIND}{kind}{KIND:#}  {header}");
    writeln!(out, "{}", line.trim_end())?;
    let view = CodeView::new(&input.source, &input.tree);
    let (first, last) = (input.source.line(open.start), input.source.line(close.start));
    writeln!(out, "{}", view.line(first, &[open, close]))?;
    if last > first + 1 {
        let hidden = output::count((last - first - 1) as usize, "line");
        writeln!(out, "{:>width$}  {FAINT}⋯ {hidden}{FAINT:#}", "", width = 3)?;
    }
    if last > first {
        writeln!(out, "{}", view.line(last, &[open, close]))?;
    }
    Ok(())
}

fn all(arguments: &Arguments, input: &Input, pairs: &Pairs) -> anyhow::Result<Outcome> {
    let shown: &[Pair] = if arguments.unpaired { &[] } else { &pairs.pairs };
    if arguments.output == LookOutput::Json {
        output::json::print("vknot.pairs/1", document(input, pairs, shown, &pairs.unpaired))?;
        return Ok(Outcome::Done);
    }
    let mut out = std::io::BufWriter::new(anstream::stdout().lock());
    let lone = pairs.unpaired.len();
    let counts = format!("{}, {lone} without a partner", output::count(pairs.pairs.len(), "pair"));
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{counts}{FAINT:#}", input.shown)?;
    for pair in shown {
        let (_, around) = pairs.spans(&input.tree, pair);
        let construct = pairs.construct(&input.tree, pair);
        let kind = looks::kind_words(&input.tree, construct);
        let brackets: String = [pair.open, pair.close]
            .iter()
            .map(|id| input.source.slice(input.tree.tokens()[*id as usize].span()))
            .collect();
        let indent = "  ".repeat(pair.depth.min(20) as usize);
        let range = shown_span(input, around);
        writeln!(out, "{FAINT}{range:>15}{FAINT:#}  {indent}{MARK}{brackets}{MARK:#} {KIND}{kind}{KIND:#}")?;
    }
    for unpaired in &pairs.unpaired {
        writeln!(out, "{}", unpaired_line(input, unpaired))?;
    }
    out.flush()?;
    Ok(Outcome::Done)
}

fn unpaired_line(input: &Input, unpaired: &Unpaired) -> String {
    let token = |id: TokenId| input.tree.tokens()[id as usize].span();
    let at = |span: Span| {
        let at = input.source.line_column(span.start);
        format!("{}:{}", at.line, at.column)
    };
    let span = token(unpaired.token);
    let bracket = input.source.slice(span);
    let mut line = format!("{}:{}: {OUT}{bracket}{OUT:#} has no partner", input.shown, at(span));
    if let Some(culprit) = unpaired.culprit {
        let suspect = token(culprit.token);
        let text = input.source.lines().text(input.source.text(), input.source.line(suspect.start) - 1).trim();
        let what = input.source.slice(suspect);
        line.push_str(&format!(
            "; the mistake is likely at {MARK}{}{MARK:#}, where `{what}` stands in `{text}`: by their indentation line {} does not belong to it",
            at(suspect),
            culprit.line,
        ));
    }
    line
}

fn document(input: &Input, pairs: &Pairs, shown: &[Pair], unpaired: &[Unpaired]) -> Value {
    let token = |id: TokenId| SpanJson::of(&input.source, input.tree.tokens()[id as usize].span());
    let pair = |pair: &Pair| {
        let (inside, around) = pairs.spans(&input.tree, pair);
        let construct = pairs.construct(&input.tree, pair);
        json!({
            "open": token(pair.open),
            "close": token(pair.close),
            "depth": pair.depth,
            "inside": SpanJson::of(&input.source, inside),
            "around": SpanJson::of(&input.source, around),
            "construct": {
                "kind": looks::kind_words(&input.tree, construct),
                "firstLine": looks::header_line(&input.source, &input.tree, construct),
            },
        })
    };
    let lone = |unpaired: &Unpaired| {
        json!({
            "bracket": token(unpaired.token),
            "culprit": unpaired.culprit.map(|culprit| json!({ "bracket": token(culprit.token), "line": culprit.line })),
        })
    };
    json!({
        "file": input.shown,
        "pairs": shown.iter().map(pair).collect::<Vec<_>>(),
        "unpaired": unpaired.iter().map(lone).collect::<Vec<_>>(),
    })
}
