//! Indentation drawn: dots for spaces, arrows for tabs, guides at levels.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::indent::{self, ShownLine};
use vknot_syntax::Span;

use crate::arguments::{ReshapeArguments, ReshapeOutput};
use crate::files::input::Input;
use crate::files::workspace::Workspace;
use crate::files::targets::{Target, targets};
use crate::problem::{Outcome, Problem};
use super::{count, FAINT, HEAD, MARK, NAME};

/// Shows the indentation of everything named.
pub fn show(arguments: &ReshapeArguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.places);
    let as_json = match arguments.output {
        None | Some(ReshapeOutput::Text) => false,
        Some(ReshapeOutput::Json) => true,
        Some(_) => {
            super::problems(&[Problem::new("--output", "indentation is shown as text or json")]);
            return Ok(Outcome::Failed);
        }
    };
    let (mut documents, mut disagreeing) = (Vec::new(), 0);
    for target in &targets {
        match lines_of(target, arguments, workspace) {
            Ok((input, lines)) if as_json => documents.push(document(&input, &lines)),
            Ok((input, lines)) => {
                disagreeing += lines.iter().filter(|line| line.disagrees()).count();
                draw(&input, &lines, targets.len() > 1)?;
            }
            Err(problem) => problems.push(problem),
        }
    }
    problems.extend(workspace.take_problems());
    if as_json {
        super::json::print("vknot.indentation/1", json!({ "files": documents }))?;
    } else if disagreeing > 0 {
        let verb = if disagreeing == 1 { "disagrees" } else { "disagree" };
        let lines = count(disagreeing, "line");
        let legend = "in front of each the columns it has and those it should have; `vknot indent` sets them";
        writeln!(super::stderr(), "{NAME}{lines} {verb} with the nesting{NAME:#}: {legend}")?;
    }
    super::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

fn lines_of(
    target: &Target,
    arguments: &ReshapeArguments,
    workspace: &Workspace,
) -> Result<(Input, Vec<ShownLine>), Problem> {
    let input = workspace.read(&target.file, &arguments.input)?;
    let spans: Result<Vec<Span>, String> =
        target.spots.iter().map(|spot| spot.resolve(input.code(), input.marks())).collect();
    let spans = spans.map_err(|message| Problem::new(&input.shown, message))?;
    let only = (!spans.is_empty()).then_some(spans.as_slice());
    let style = workspace.style(input.source().path(), input.document.language(), &arguments.set);
    let lines = indent::show(input.code(), &style, only);
    Ok((input, lines))
}

fn document(input: &Input, lines: &[ShownLine]) -> Value {
    let line = |line: &ShownLine| {
        json!({
            "line": line.line,
            "indentation": line.blank.of(input.source().text()),
            "columns": line.columns,
            "wantedColumns": line.wanted,
            "otherCharacters": line.foreign,
        })
    };
    json!({ "file": input.shown, "lines": lines.iter().map(line).collect::<Vec<_>>() })
}

/// Characters of what is said about a line.
const NOTE: usize = 6;

fn draw(input: &Input, lines: &[ShownLine], named: bool) -> std::io::Result<()> {
    let mut out = super::stdout();
    if named {
        writeln!(out, "{HEAD}{}{HEAD:#}", input.shown)?;
    }
    let digits = lines.last().map_or(1, |line| line.line.to_string().len());
    for (index, line) in lines.iter().enumerate() {
        let text = input.source().lines().text(input.source().text(), line.line - 1);
        let rest = text.trim_start_matches([' ', '\t']);
        let guides = match rest.is_empty() {
            true => guides_through(lines, index),
            false => drawn(line, line.blank.of(input.source().text())),
        };
        let note = match line.wanted {
            Some(wanted) => format!("{}→{wanted}", line.columns),
            None if line.foreign && line.blank.of(input.source().text()).contains('\t') => "tabs".to_owned(),
            None if line.foreign => "spaces".to_owned(),
            None => String::new(),
        };
        writeln!(out, "{FAINT}{:>digits$}{FAINT:#} {MARK}{note:>NOTE$}{MARK:#} {FAINT}{guides}{FAINT:#}{rest}", line.line)?;
    }
    Ok(())
}

/// White space, one character for each column, with a guide where a level begins.
fn drawn(line: &ShownLine, blank: &str) -> String {
    let mut drawn = String::new();
    let mut column = 0;
    for character in blank.chars() {
        let guide = column % line.size.max(1) == 0;
        if character == '\t' {
            let width = line.tab_width - column % line.tab_width.max(1);
            drawn.push(if guide { '├' } else { '─' });
            (1..width).for_each(|at| drawn.push(if at + 1 == width { '→' } else { '─' }));
            column += width;
        } else {
            drawn.push(if guide { '│' } else { '·' });
            column += 1;
        }
    }
    drawn
}

/// The guides that go on through a blank line: those that the lines on both sides have.
fn guides_through(lines: &[ShownLine], index: usize) -> String {
    let nearest = |line: Option<&ShownLine>| line.map_or(0, |line| line.columns);
    let filled = |line: &&ShownLine| line.columns > 0 || line.blank.is_empty();
    let columns =
        nearest(lines[..index].iter().rev().find(filled)).min(nearest(lines[index + 1..].iter().find(filled)));
    let size = lines[index].size.max(1);
    (0..columns).map(|column| if column % size == 0 { '│' } else { ' ' }).collect::<String>().trim_end().to_owned()
}
