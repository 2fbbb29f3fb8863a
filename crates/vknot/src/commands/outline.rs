//! `outline`: the structure, as a tree with spans.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::looks::{self, OutlineEntry};
use vknot_syntax::{Role, Span};

use crate::files::workspace::Workspace;
use crate::arguments::{InputArguments, LookOutput};
use crate::files::input::Input;
use crate::files::targets::targets;
use crate::output::{self, FAINT, HEAD, KIND, NAME};
use crate::output::json::SpanJson;
use crate::place::Spot;
use crate::problem::{Outcome, Problem};

/// Show the structure of files as a tree
#[derive(clap::Args)]
pub struct Arguments {
    /// Files, folders, and places in files, for the items there; `-` is standard input
    #[arg(required = true, value_name = "PLACE")]
    paths: Vec<std::ffi::OsString>,
    /// Levels to show
    #[arg(long, value_name = "N")]
    depth: Option<u32>,
    /// How to print it
    #[arg(long, value_enum, default_value_t = LookOutput::Text, value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.paths);
    let mut files = Vec::new();
    let mut out = output::stdout();
    for target in &targets {
        let input = match workspace.read(&target.file, &arguments.input) {
            Ok(input) => input,
            Err(problem) => {
                problems.push(problem);
                continue;
            }
        };
        let mut entries = match at_spots(&input, looks::outline(input.code()), &target.spots) {
            Ok(entries) => entries,
            Err(message) => {
                problems.push(Problem::new(input.shown.clone(), message));
                continue;
            }
        };
        if let Some(depth) = arguments.depth {
            entries.retain(|entry| entry.depth < depth);
        }
        match arguments.output {
            LookOutput::Text => show(&mut out, &input, &entries)?,
            LookOutput::Json => files.push(document(&input, &entries)),
        }
    }
    if arguments.output == LookOutput::Json {
        output::json::print("vknot.outline/1", json!({ "files": files }))?;
    }
    output::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// The entries at some spots: the innermost item around each with what is in it, or all items in a range that is in none.
fn at_spots(input: &Input, entries: Vec<OutlineEntry>, spots: &[Spot]) -> Result<Vec<OutlineEntry>, String> {
    if spots.is_empty() {
        return Ok(entries);
    }
    let mut kept = vec![false; entries.len()];
    for spot in spots {
        let span = trimmed(input, spot.resolve(input.code(), input.marks())?);
        let around = entries.iter().rposition(|entry| entry.span.covers(span));
        // Items that begin on a line are there, though the line holds but their beginning.
        let beginning = |entry: &OutlineEntry| {
            let whole_lines = matches!(spot, Spot::Line(_) | Spot::Lines(..));
            whole_lines && span.start <= entry.span.start && entry.span.start < span.end
        };
        for (index, entry) in entries.iter().enumerate() {
            kept[index] |= span.covers(entry.span) || beginning(entry);
        }
        if !kept.iter().any(|kept| *kept) && let Some(around) = around {
            kept[around] = true;
        }
    }
    // What is inside an item that is there is there, too.
    for index in 0..entries.len() {
        kept[index] |= entries[index].parent.is_some_and(|parent| kept[parent]);
    }
    if !kept.iter().any(|kept| *kept) {
        return Err("no item is there; `vknot outline FILE` shows them all".to_owned());
    }
    let top = entries.iter().zip(&kept).filter(|(_, kept)| **kept).map(|(entry, _)| entry.depth).min().unwrap_or(0);
    let there = entries.into_iter().zip(kept).filter(|(_, kept)| *kept);
    Ok(there.map(|(entry, _)| OutlineEntry { depth: entry.depth - top, ..entry }).collect())
}

/// A span without the blanks at its edges.
fn trimmed(input: &Input, span: Span) -> Span {
    let text = input.source().slice(span);
    let start = span.start + (text.len() - text.trim_start().len()) as u32;
    Span::new(start.min(span.end), (start + text.trim().len() as u32).min(span.end))
}

fn show(out: &mut impl Write, input: &Input, entries: &[OutlineEntry]) -> std::io::Result<()> {
    let lines = output::count(input.source().lines().count() as usize, "line");
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}, {lines}{FAINT:#}", input.shown, input.tree().language().spec().title)?;
    if entries.is_empty() {
        writeln!(out, "  {FAINT}nothing in it has a name{FAINT:#}")?;
    }
    let ranges: Vec<String> = entries.iter().map(|entry| line_range(input, entry)).collect();
    let width = ranges.iter().map(String::len).max().unwrap_or(0);
    let guides = guides(entries);
    for ((entry, range), guide) in entries.iter().zip(&ranges).zip(&guides) {
        let label = match entry.role {
            Role::Type => format!("{NAME}{}{NAME:#}", entry.label),
            _ => entry.label.clone(),
        };
        let kind = &entry.kind;
        writeln!(out, "{FAINT}{range:>width$}  {guide}{FAINT:#}{KIND}{kind}{KIND:#} {label}")?;
    }
    Ok(())
}

fn line_range(input: &Input, entry: &OutlineEntry) -> String {
    match input.source().line_range(entry.span) {
        (first, last) if first == last => first.to_string(),
        (first, last) => format!("{first}-{last}"),
    }
}

/// The lines that lead to each entry. Whether an entry is the last of its siblings is known only from behind.
fn guides(entries: &[OutlineEntry]) -> Vec<String> {
    let mut open: Vec<bool> = Vec::new();
    let mut guides = vec![String::new(); entries.len()];
    for (index, entry) in entries.iter().enumerate().rev() {
        let depth = entry.depth as usize;
        open.resize(open.len().max(depth + 1), false);
        // Beyond this depth a guide would be wider than any terminal.
        let shown = depth.min(40);
        let mut guide = String::new();
        for (level, more) in open.iter().enumerate().take(shown + 1).skip(1) {
            let own = level == depth;
            guide.push_str(match (own, *more) {
                (true, true) => "├─ ",
                (true, false) => "└─ ",
                (false, true) => "│  ",
                (false, false) => "   ",
            });
        }
        guides[index] = guide;
        open[depth] = true;
        open.truncate(depth + 1);
    }
    guides
}

fn document(input: &Input, entries: &[OutlineEntry]) -> Value {
    let entry = |entry: &OutlineEntry| {
        json!({
            "name": entry.name,
            "label": entry.label,
            "kind": entry.kind,
            "depth": entry.depth,
            "parent": entry.parent,
            "span": SpanJson::of(input.source(), entry.span),
        })
    };
    json!({
        "file": input.shown,
        "language": input.tree().language().name(),
        "entries": entries.iter().map(entry).collect::<Vec<_>>(),
    })
}
