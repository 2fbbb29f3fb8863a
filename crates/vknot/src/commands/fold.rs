//! `fold`: the file with folds shown closed, or a list of its folds.

use std::io::Write;

use clap::builder::PossibleValue;
use clap::ValueEnum;
use serde_json::{json, Value};
use vknot_reshape::looks::{self, Construct, Fold, FoldKind};
use vknot_syntax::Span;

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::output::{self, FAINT, HEAD, KIND};
use crate::output::folded;
use crate::place::Spot;
use crate::problem::{Outcome, Problem};
use super::open_place;

/// Show a file with folds closed
///
/// Without a choice of kinds or depth everything but types is closed, so that the members of types can be seen. A place
/// closes the innermost fold there; with --around everything else is closed.
#[derive(clap::Args)]
pub struct Arguments {
    /// A file, or a place in one; `-` is standard input
    #[arg(value_name = "PLACE")]
    place: std::ffi::OsString,
    /// Kinds to close
    #[arg(long, value_name = "KIND", value_delimiter = ',')]
    only: Vec<Kind>,
    /// Kinds to leave open
    #[arg(long, value_name = "KIND", value_delimiter = ',', conflicts_with = "only")]
    except: Vec<Kind>,
    /// Close folds that are in this many others
    #[arg(long, value_name = "N")]
    depth: Option<u32>,
    /// Close everything but what the place is in
    #[arg(long)]
    around: bool,
    /// Show what the fold at the place hides; the folds inside stay closed
    #[arg(long, conflicts_with_all = ["around", "list"])]
    peek: bool,
    /// List the folds instead
    #[arg(long)]
    list: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

/// What may be named after `--only` and `--except`: a kind, or what a block belongs to.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Kind {
    Fold(FoldKind),
    Of(Construct),
}

impl Kind {
    fn fits(self, fold: &Fold) -> bool {
        match self {
            Kind::Fold(kind) => fold.kind == kind,
            Kind::Of(construct) => fold.construct == Some(construct),
        }
    }
}

impl ValueEnum for Kind {
    fn value_variants<'a>() -> &'a [Self] {
        const COUNT: usize = FoldKind::ALL.len();
        const KINDS: [Kind; COUNT + 2] = {
            let mut kinds = [Kind::Of(Construct::Conditional); COUNT + 2];
            let mut index = 0;
            while index < COUNT {
                kinds[index] = Kind::Fold(FoldKind::ALL[index].0);
                index += 1;
            }
            kinds[COUNT + 1] = Kind::Of(Construct::Loop);
            kinds
        };
        &KINDS
    }

    fn to_possible_value(&self) -> Option<PossibleValue> {
        Some(PossibleValue::new(match self {
            Kind::Fold(kind) => kind.name(),
            Kind::Of(construct) => construct.name(),
        }))
    }
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (input, place, span) = match open_place(workspace, &arguments.place, &arguments.input) {
        Ok(opened) => opened,
        Err(problem) => {
            output::problems(&[problem]);
            return Ok(Outcome::Failed);
        }
    };
    let all = looks::folds_with(input.code(), input.marks());
    let lines = input.source().line_range(span);
    // What is said about an item in front of it stands for the item.
    let item = |line: u32| looks::item_line(input.code(), line).unwrap_or(line);
    let at = (place.spot != Spot::Whole).then(|| (item(lines.0), item(lines.1)));
    if arguments.peek {
        return peek(arguments, &input, all, at);
    }
    let plain = at.is_none() && arguments.only.is_empty() && arguments.depth.is_none() && !arguments.list;
    let seen = if plain { holding_what_is_seen(&all) } else { vec![false; all.len()] };
    let fits = |(fold, seen): &(&Fold, &bool)| fits_choice(arguments, fold) && !**seen;
    let chosen: Vec<Fold> = all.iter().zip(&seen).filter(fits).map(|(fold, _)| *fold).collect();
    let closed: Vec<Fold> = match at {
        Some(lines) if arguments.around => {
            chosen.into_iter().filter(|fold| !(fold.holds(lines.0) || fold.holds(lines.1))).collect()
        }
        Some(lines) => {
            // A heading stands for its section, not for the cell that it is in.
            let sections = looks::sections(input.code(), input.marks());
            let heads = sections.iter().any(|section| section.heading.covers(Span::new(span.start, span.start)));
            let holds = |fold: &&Fold| fold.holds(lines.0) && fold.holds(lines.1);
            let section = chosen.iter().rfind(|fold| heads && fold.kind == FoldKind::Section && holds(fold));
            section.or(chosen.iter().rfind(holds)).copied().into_iter().collect()
        }
        None => chosen,
    };
    if at.is_some() && closed.is_empty() && !arguments.around {
        let message = format!("no fold of that kind holds line {}; --list shows the folds there are", lines.0);
        output::problems(&[input.problem_at(span.start, message)]);
        return Ok(Outcome::Failed);
    }
    match (arguments.output, arguments.list) {
        (LookOutput::Json, _) => output::json::print("vknot.folds/1", document(&input, &closed))?,
        (LookOutput::Text, true) => list(&input, &closed)?,
        (LookOutput::Text, false) => folded::show(&input, &closed)?,
    }
    Ok(Outcome::Done)
}

fn fits_choice(arguments: &Arguments, fold: &Fold) -> bool {
    let placed = crate::place::Place::parse(&arguments.place).spot != Spot::Whole;
    let chosen = match (arguments.only.is_empty(), arguments.except.is_empty()) {
        (false, _) => arguments.only.iter().any(|kind| kind.fits(fold)),
        (true, false) if arguments.except.iter().any(|kind| kind.fits(fold)) => false,
        (true, _) => {
            !STAYS_OPEN.contains(&fold.kind)
                || arguments.depth.is_some()
                || arguments.list
                || placed && !arguments.around
        }
    };
    chosen && arguments.depth.is_none_or(|depth| fold.depth >= depth)
}

/// What stays open unless asked for: what holds other things that a person wants to see.
const STAYS_OPEN: [FoldKind; 6] = [
    FoldKind::Type,
    FoldKind::Region,
    FoldKind::Section,
    FoldKind::Element,
    FoldKind::Cell,
    FoldKind::Pin,
];

/// For each fold whether it would hide what a person wants to see: a pin, or a type in what is no function.
fn holding_what_is_seen(all: &[Fold]) -> Vec<bool> {
    let (mut pins, mut types) = (vec![false; all.len()], vec![false; all.len()]);
    let mut open: Vec<usize> = Vec::new();
    for (index, fold) in all.iter().enumerate() {
        while open.pop_if(|holder| all[*holder].last_line < fold.first_line).is_some() {}
        let held = match fold.kind {
            FoldKind::Pin => Some(&mut pins),
            FoldKind::Type => Some(&mut types),
            _ => None,
        };
        // What holds one that was told already was told with it.
        if let Some(held) = held {
            for holder in open.iter().rev() {
                if std::mem::replace(&mut held[*holder], true) {
                    break;
                }
            }
        }
        open.push(index);
    }
    let is_seen = |(index, fold): (usize, &Fold)| pins[index] || types[index] && fold.kind == FoldKind::Block;
    all.iter().enumerate().map(is_seen).collect()
}

/// Shows the lines of one fold, with the folds inside closed.
fn peek(arguments: &Arguments, input: &Input, all: Vec<Fold>, at: Option<(u32, u32)>) -> anyhow::Result<Outcome> {
    let Some((from, to)) = at else {
        output::problems(&[Problem::new(&input.shown, "name the place to peek at, as FILE:LINE or FILE@NAME")]);
        return Ok(Outcome::Failed);
    };
    let fits = |fold: &Fold| arguments.only.is_empty() || arguments.only.iter().any(|kind| kind.fits(fold));
    let Some(opened) = all.iter().rfind(|fold| fits(fold) && fold.holds(from) && fold.holds(to)).copied() else {
        let message = format!("no fold holds line {from}; --list shows the folds there are");
        output::problems(&[Problem::new(&input.shown, message)]);
        return Ok(Outcome::Failed);
    };
    let inside = |fold: &Fold| {
        opened.holds(fold.first_line)
            && opened.holds(fold.last_line)
            && (fold.first_line, fold.last_line) != (opened.first_line, opened.last_line)
    };
    let closed: Vec<Fold> = all.into_iter().filter(inside).collect();
    match arguments.output {
        LookOutput::Json => output::json::print("vknot.folds/1", document(input, &closed))?,
        LookOutput::Text => {
            let (first, last) = (opened.first_line, opened.last_line);
            let kind = opened.kind.name();
            writeln!(output::stdout(), "{HEAD}{}{HEAD:#}  {FAINT}{first}-{last}{FAINT:#} {KIND}{kind}{KIND:#}", input.shown)?;
            folded::show_lines(input, &closed, (first, last))?;
        }
    }
    Ok(Outcome::Done)
}

fn list(input: &Input, folds: &[Fold]) -> std::io::Result<()> {
    let mut out = output::stdout();
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}{FAINT:#}", input.shown, output::count(folds.len(), "fold"))?;
    for fold in folds {
        let range = format!("{}-{}", fold.first_line, fold.last_line);
        let text = input.source().lines().text(input.source().text(), fold.first_line - 1).trim();
        let indent = "  ".repeat(fold.depth.min(30) as usize);
        let kind = fold.kind.name();
        writeln!(out, "{FAINT}{range:>11}{FAINT:#}  {KIND}{kind:<8}{KIND:#} {indent}{text}")?;
    }
    Ok(())
}

/// Folding ranges of the Language Server Protocol 3.17 (lines from 0) with fields of ours beside them.
fn document(input: &Input, folds: &[Fold]) -> Value {
    let fold = |fold: &Fold| {
        let kind = match fold.kind {
            FoldKind::Imports => Some("imports"),
            FoldKind::Comment => Some("comment"),
            FoldKind::Region => Some("region"),
            _ => None,
        };
        let text = input.source().lines().text(input.source().text(), fold.first_line - 1);
        json!({
            "startLine": fold.first_line - 1,
            "endLine": fold.last_line - 1,
            "kind": kind,
            "collapsedText": text.trim(),
            "foldKind": fold.kind.name(),
            "construct": fold.construct.map(Construct::name),
            "depth": fold.depth,
            "hiddenLines": fold.hidden(),
        })
    };
    json!({ "file": input.shown, "folds": folds.iter().map(fold).collect::<Vec<_>>() })
}
