//! `style relevant`: the settings that would change a piece of code, found by trying every value of every setting on it.

use std::ffi::OsString;
use std::io::{IsTerminal, Write};

use anyhow::bail;
use indicatif::ProgressBar;
use rayon::prelude::*;
use serde_json::{json, Value};
use unicode_width::{UnicodeWidthChar, UnicodeWidthStr};
use vknot_reshape::styling::{Piece, Trial, values};
use vknot_style::{Key, Override, Setting, SETTINGS};
use vknot_syntax::{Language, Source};

use crate::arguments::{InputArguments, LookOutput};
use crate::commands::open_place;
use crate::files::workspace::Workspace;
use crate::output::{self, columns, diff, FAINT, HEAD, IN, KIND, MARK, NAME, PLAIN};
use crate::problem::Outcome;
use super::{setting, shown_origin};

/// Find the settings that would change a piece of code
///
/// Every value of every setting is tried on it. Shown are those that make a difference, with the lines each would change. With --key,
/// what each value of one setting makes of the code.
#[derive(clap::Args)]
pub struct Arguments {
    /// A file, or a place in it
    #[arg(value_name = "PLACE")]
    place: OsString,
    /// Show what each value of this setting makes of the code
    #[arg(long, value_name = "KEY")]
    key: Option<String>,
    /// With --key: side by side, not one below the other
    #[arg(long, requires = "key")]
    beside: bool,
    /// How to print it
    #[arg(long, value_enum, default_value = "text", value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

/// What a value makes of a piece.
struct Effect {
    value: String,
    lines: usize,
    text: String,
}

/// A setting with the values that make a difference.
struct Relevant {
    setting: &'static Setting,
    now: String,
    /// What its current value makes of the piece.
    usual: String,
    effects: Vec<Effect>,
}

impl Relevant {
    /// The value that holds, and what it makes of the piece.
    fn now(&self) -> Effect {
        Effect { value: self.now.clone(), lines: 0, text: self.usual.clone() }
    }
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let keys = match &arguments.key {
        None => Ok(SETTINGS.iter().map(|setting| setting.id).collect::<Vec<Key>>()),
        Some(key) => setting(key).map(|setting| vec![setting.id]),
    };
    let opened = keys.and_then(|keys| Ok((keys, open_place(workspace, &arguments.place, &arguments.input)?)));
    let (keys, (input, _, span)) = match opened {
        Ok(opened) => opened,
        Err(problem) => {
            output::problems(&[problem]);
            return Ok(Outcome::Failed);
        }
    };
    if !input.has_language() {
        bail!("the language of {} is not known; name one with --language", input.shown);
    }
    let style = workspace.style(input.source().path(), input.document.language(), &[]);
    let document = input.document.clone().with_style(style);
    let piece = Piece::of(&document, span);
    let relevant = tried(&piece, document.language(), &keys);
    match (arguments.output, &arguments.key) {
        (LookOutput::Json, _) => output::json::print("vknot.style.relevant/1", json_of(&piece, &relevant))?,
        (LookOutput::Text, None) => print(&piece, &relevant)?,
        (LookOutput::Text, Some(_)) => match relevant.first() {
            Some(relevant) if arguments.beside => print_beside(relevant)?,
            Some(relevant) => print_below(relevant)?,
            None => writeln!(output::stdout(), "{FAINT}no value of it makes a difference here{FAINT:#}")?,
        },
    }
    Ok(Outcome::Done)
}

/// Tries all values of some settings.
fn tried(piece: &Piece, language: &'static Language, keys: &[Key]) -> Vec<Relevant> {
    let usual = Trial::ALL.map(|trial| (trial, piece.made(trial, piece.style())));
    let usual_of = |key: Key| usual.iter().find(|(trial, _)| Trial::of(key) == Some(*trial));
    let trials: Vec<(Key, String)> =
        keys.iter().flat_map(|key| values(*key, language).into_iter().map(|value| (*key, value))).collect();
    let bar = if std::io::stderr().is_terminal() {
        ProgressBar::new(trials.len() as u64)
    } else {
        ProgressBar::hidden()
    };
    let effect = |(key, value): &(Key, String)| {
        bar.inc(1);
        let set = Override::new(*key, value).ok().filter(|_| value != "as-found" && piece.style().word(*key) != value)?;
        let (trial, usual) = usual_of(*key)?;
        let text = piece.made(*trial, &piece.style().clone().overridden(&[set]));
        let old = Source::from_text("piece", usual.as_str());
        let (gone, come) = diff::changed_lines(&diff::changes(&old, &diff::between(&old, &text)));
        (text != *usual).then(|| (*key, Effect { value: value.clone(), lines: gone.max(come), text }))
    };
    let effects: Vec<(Key, Effect)> = trials.par_iter().filter_map(effect).collect();
    bar.finish_and_clear();
    let mut relevant: Vec<Relevant> = Vec::new();
    for (key, effect) in effects {
        match relevant.last_mut().filter(|last| last.setting.id == key) {
            Some(last) => last.effects.push(effect),
            None => relevant.push(Relevant {
                setting: key.setting(),
                now: piece.style().word(key).to_owned(),
                usual: usual_of(key).map_or(String::new(), |(_, usual)| usual.clone()),
                effects: vec![effect],
            }),
        }
    }
    relevant
}

fn print(piece: &Piece, relevant: &[Relevant]) -> std::io::Result<()> {
    let mut out = output::stdout();
    if relevant.is_empty() {
        return writeln!(out, "{FAINT}no setting makes a difference here{FAINT:#}");
    }
    for own in relevant {
        let origin = match piece.style().origin(own.setting.id) {
            // What the file shows was fixed before anything was tried.
            vknot_style::Origin::CommandLine => "found in the file".to_owned(),
            origin => shown_origin(&origin),
        };
        writeln!(out, "{NAME}{} = {}{NAME:#}  {FAINT}{origin}{FAINT:#}", own.setting.key, own.now)?;
        for effect in &own.effects {
            let lines = output::count(effect.lines, "line");
            writeln!(out, "    {KIND}{:<10}{KIND:#}  {lines}", effect.value)?;
        }
    }
    let count = output::count(relevant.len(), "setting");
    writeln!(output::stderr(), "{FAINT}{count} would change it; --key KEY shows what each value makes of it{FAINT:#}")
}

/// The lines of a text that another does not have, for marking.
fn marks(usual: &str, text: &str) -> Vec<bool> {
    let new = Source::from_text("piece", text);
    let mut marks = vec![false; text.lines().count()];
    for (span, _) in diff::between(&new, usual).iter() {
        let (first, last) = (new.lines().index_at(span.start), new.lines().index_at(span.end.max(span.start + 1) - 1));
        (first..=last)
            .filter(|_| !span.is_empty())
            .for_each(|line| marks.get_mut(line as usize).into_iter().for_each(|mark| *mark = true));
    }
    marks
}

fn print_below(relevant: &Relevant) -> std::io::Result<()> {
    let mut out = output::stdout();
    let now = relevant.now();
    for effect in std::iter::once(&now).chain(&relevant.effects) {
        let remark = if effect.lines == 0 { "as it is".to_owned() } else { output::count(effect.lines, "line") };
        writeln!(out, "{HEAD}{} = {}{HEAD:#}  {FAINT}{remark}{FAINT:#}", relevant.setting.key, effect.value)?;
        for (line, mark) in effect.text.lines().zip(marks(&relevant.usual, &effect.text)) {
            let paint = if mark { IN } else { PLAIN };
            writeln!(out, "{MARK}{}{MARK:#} {paint}{line}{paint:#}", if mark { "│" } else { " " })?;
        }
        writeln!(out)?;
    }
    Ok(())
}

/// The columns of a terminal, where output goes elsewhere.
const COLUMNS: usize = 120;

fn print_beside(relevant: &Relevant) -> std::io::Result<()> {
    let mut out = output::stdout();
    let now = relevant.now();
    let shown: Vec<&Effect> = std::iter::once(&now).chain(&relevant.effects).collect();
    let widest = shown.iter().flat_map(|effect| effect.text.lines()).map(UnicodeWidthStr::width).max();
    let room = columns().unwrap_or(COLUMNS) / shown.len().max(1);
    let width = widest.unwrap_or(0).max(20).min(room.saturating_sub(3).max(20));
    writeln!(out, "{NAME}{}{NAME:#}", relevant.setting.key)?;
    let heads = shown.iter().map(|effect| format!("{HEAD}{}{HEAD:#}", fitted(&effect.value, width)));
    writeln!(out, "{}", heads.collect::<Vec<_>>().join(" │ "))?;
    let texts: Vec<(Vec<&str>, Vec<bool>)> =
        shown.iter().map(|effect| (effect.text.lines().collect(), marks(&relevant.usual, &effect.text))).collect();
    let count = texts.iter().map(|(lines, _)| lines.len()).max().unwrap_or(0);
    for at in 0..count {
        let cells = texts.iter().map(|(lines, marks)| {
            let paint = if marks.get(at).copied().unwrap_or(false) { IN } else { PLAIN };
            format!("{paint}{}{paint:#}", fitted(lines.get(at).copied().unwrap_or(""), width))
        });
        writeln!(out, "{}", cells.collect::<Vec<_>>().join(" │ ").trim_end())?;
    }
    Ok(())
}

/// A line in so many columns: filled with blanks, or cut.
fn fitted(line: &str, width: usize) -> String {
    let mut cut = String::new();
    let mut used = 0;
    let is_whole = line.width() <= width;
    for c in line.chars() {
        let columns = c.width().unwrap_or(1);
        if used + columns + usize::from(!is_whole) > width {
            cut.push('…');
            used += 1;
            break;
        }
        used += columns;
        cut.push(c);
    }
    cut + &" ".repeat(width - used)
}

fn json_of(piece: &Piece, relevant: &[Relevant]) -> Value {
    let settings: Vec<Value> = relevant
        .iter()
        .map(|own| {
            let values: Vec<Value> = own.effects
                .iter()
                .map(|effect| json!({ "value": effect.value, "lines": effect.lines, "text": effect.text }))
                .collect();
            json!({ "key": own.setting.key, "now": piece.style().word(own.setting.id), "values": values })
        })
        .collect();
    json!({ "text": piece.made(Trial::Layout, piece.style()), "settings": settings })
}
