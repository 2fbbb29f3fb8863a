//! `edits`: does edits by chance on real files, and tells how many are refused and why, and whether the reverse gives the same bytes back.
//!
//! With `--keep` every result is written to a folder, for a parser of its language to look at.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use rayon::prelude::*;
use vknot_reshape::default_style;
use vknot_reshape::editing::{Edit, EditError, End, Form, LineEdit, Part, Reach, To, Toggle};
use vknot_reshape::steps::{Document, Proven, Request, Step, StepError, Wish};
use vknot_syntax::Span;

use crate::random::Random;
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to take files from
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// How many edits
    #[arg(long, default_value_t = 2000)]
    edits: usize,
    /// Where chance begins
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Leave out files that have more bytes
    #[arg(long, default_value_t = 60_000)]
    most: u32,
    /// Only edits of this name
    #[arg(long)]
    only: Option<String>,
    /// Show this many of those that went wrong, or were refused by the proof
    #[arg(long, default_value_t = 0)]
    show: usize,
    /// Write the results to this folder, each beside a list of what they came of
    #[arg(long, value_name = "FOLDER")]
    keep: Option<PathBuf>,
}

/// What came of an edit.
struct Tried {
    name: &'static str,
    outcome: Outcome,
    /// Where, and which edit.
    told: String,
    /// The file it was done to, and what came out.
    result: Option<(PathBuf, String)>,
}

enum Outcome {
    Nothing,
    Refused(String),
    /// The proof did not pass what the edit made.
    Unproven(String),
    Done,
    /// The reverse gives the same bytes.
    Back,
    /// It does not.
    NotBack(String),
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let mut files = samples(&arguments.roots, arguments.language.as_deref());
    files.retain(|sample| sample.source.span().end <= arguments.most && sample.source.span().end > 0);
    anyhow::ensure!(!files.is_empty(), "no file of that language is there");
    let step = Step::named("edit").ok_or_else(|| anyhow::anyhow!("there is no such step"))?;
    let tried: Vec<Tried> = (0..arguments.edits)
        .into_par_iter()
        .map(|number| {
            let mut random = Random(arguments.seed.wrapping_mul(1_000_003).wrapping_add(number as u64));
            let sample = &files[random.below(files.len())];
            attempt(sample, step, arguments.only.as_deref(), &mut random)
        })
        .collect();
    report(arguments, &tried)?;
    if let Some(folder) = &arguments.keep {
        keep(folder, &tried)?;
    }
    let wrong = tried.iter().any(|tried| matches!(tried.outcome, Outcome::NotBack(_)));
    Ok(if wrong { ExitCode::FAILURE } else { ExitCode::SUCCESS })
}

fn document(sample: &Sample, text: &str) -> Document {
    let source = vknot_syntax::Source::from_text(sample.source.path(), text);
    Document::new(source, sample.language, default_style(sample.language))
}

fn attempt(sample: &Sample, step: &Step, only: Option<&str>, random: &mut Random) -> Tried {
    let document = document(sample, sample.source.text());
    let tokens = document.tree().tokens();
    let token = |random: &mut Random| {
        let span = tokens.get(random.below(tokens.len())).map_or(Span::new(0, 0), |token| token.span());
        Span::new(span.start, span.start)
    };
    let at = token(random);
    let other = token(random);
    let (name, edit) = loop {
        let (name, edit) = chosen(random, other, sample);
        if only.is_none_or(|only| only == name) {
            break(name, edit);
        }
    };
    let at = match (name, random.below(4)) {
        ("swap" | "wrap" | "lift", 0) => {
            let ladder = vknot_reshape::looks::ladder(document.code(), at);
            ladder.get(random.below(ladder.len().min(3))).map_or(at, |rung| rung.span)
        }
        _ => at,
    };
    let place = sample.source.line_column(at.start);
    let told = format!("{}:{}:{} {edit:?}", sample.source.path().display(), place.line, place.column);
    let (outcome, result) = match done(&document, step, at, &edit) {
        Err(StepError::Refused(refusal)) => (
            Outcome::Unproven(format!("{:?}", kind(&format!("{:?}", refusal.reason)))),
            None,
        ),
        Err(StepError::Edit(error)) => (Outcome::Refused(kind_of(&error)), None),
        Err(error) => (Outcome::Refused(error.to_string()), None),
        Ok(proven) if proven.is_empty() => (Outcome::Nothing, None),
        Ok(proven) => {
            let result = (sample.source.path().to_path_buf(), proven.text().to_owned());
            (reversed(sample, step, &proven, at, &edit), Some(result))
        }
    };
    Tried { name, outcome, told, result }
}

fn kind(text: &str) -> String {
    text.split([' ', '{', '(']).next().unwrap_or("").to_owned()
}

fn kind_of(error: &EditError) -> String {
    kind(&format!("{error:?}"))
}

fn done(document: &Document, step: &Step, at: Span, edit: &Edit) -> Result<Proven, StepError> {
    let only = [at];
    step.run(document, &Request { only: Some(&only), wish: Wish::Edit(edit.clone()), ..Request::default() })
}

/// An edit by chance.
fn chosen(random: &mut Random, other: Span, sample: &Sample) -> (&'static str, Edit) {
    let count = 1 + random.below(3) as u32;
    let end = if random.below(2) == 0 { End::First } else { End::Last };
    let call = "log(_)";
    let templates: &[&str] = match sample.language.spec().extensions.first().copied().unwrap_or("") {
        "html" => &["<b>", "<section class=\"tide\">"],
        "py" | "gd" => &["(", call, "if ready: _"],
        "rkt" | "scm" | "clj" => &["(", "[", "(log _)"],
        "json" => &["["],
        "pas" => &["(", call, "if Ready then begin _ end;"],
        "m" => &["(", call, "if ready _ end"],
        "css" | "scss" | "less" => &["calc(_)", "@media print { _ }", ".tide { _ }"],
        _ => &["(", call, "if (ready) { _ }"],
    };
    match random.below(17) {
        0 => ("move up", Edit::Move(To::Up(count))),
        1 => ("move down", Edit::Move(To::Down(count))),
        2 => ("move before", Edit::Move(To::Before(other))),
        3 => ("move after", Edit::Move(To::After(other))),
        4 => ("copy", Edit::Copy(To::Down(1), count)),
        5 => ("delete", Edit::Delete),
        6 => ("swap", Edit::Swap(if random.below(2) == 0 { To::Up(count) } else { To::Down(count) })),
        7 => ("swap with", Edit::Swap(To::Before(other))),
        8 => ("wrap", Edit::Wrap(templates[random.below(templates.len())].to_owned())),
        9 => ("unwrap", Edit::Unwrap),
        10 => ("lift", Edit::Lift),
        11 => ("pull", Edit::Pull(end, Reach::Count(1))),
        12 => ("push", Edit::Push(end, Reach::Count(1))),
        13 => match random.below(4) {
            0 => ("split pair", Edit::Split(Part::Pair)),
            1 => ("join pair", Edit::Join(Part::Pair)),
            2 => ("join", Edit::Join(Part::Closest)),
            _ => ("split", Edit::Split(Part::Closest)),
        },
        14 => ("comment", Edit::Comment(Toggle::On, if random.below(3) == 0 { Form::Block } else { Form::Usual })),
        15 => ("turn", Edit::Turn),
        _ => match random.below(4) {
            0 => ("lines up", Edit::Lines(LineEdit::Up(count))),
            1 => ("lines down", Edit::Lines(LineEdit::Down(count))),
            2 => ("lines copy", Edit::Lines(LineEdit::Copy(count))),
            _ => ("lines delete", Edit::Lines(LineEdit::Delete)),
        },
    }
}

/// What takes an edit back, where something exactly does.
fn reverse(edit: &Edit) -> Option<Edit> {
    Some(match edit {
        Edit::Move(To::Up(count)) => Edit::Move(To::Down(*count)),
        Edit::Move(To::Down(count)) => Edit::Move(To::Up(*count)),
        Edit::Swap(To::Up(count)) => Edit::Swap(To::Down(*count)),
        Edit::Swap(To::Down(count)) => Edit::Swap(To::Up(*count)),
        Edit::Pull(end, reach) => Edit::Push(*end, *reach),
        Edit::Push(end, reach) => Edit::Pull(*end, *reach),
        Edit::Comment(Toggle::On, form) => Edit::Comment(Toggle::Off, *form),
        Edit::Turn => Edit::Turn,
        Edit::Lines(LineEdit::Up(count)) => Edit::Lines(LineEdit::Down(*count)),
        Edit::Lines(LineEdit::Down(count)) => Edit::Lines(LineEdit::Up(*count)),
        // A head in a form stays where its brackets go.
        Edit::Wrap(template) if template.starts_with("(log") => return None,
        Edit::Wrap(_) => Edit::Unwrap,
        _ => return None,
    })
}

fn reversed(sample: &Sample, step: &Step, proven: &Proven, at: Span, edit: &Edit) -> Outcome {
    let Some(back) = reverse(edit) else { return Outcome::Done };
    let place = proven.receipt().place().unwrap_or(at);
    let place = match edit {
        // From inside what was wrapped.
        Edit::Wrap(_) => place,
        // From where the brackets are.
        Edit::Push(..) | Edit::Pull(..) => Span::new(proven.edits().moved(at.start), proven.edits().moved(at.start)),
        _ => place,
    };
    // What stood at the place went elsewhere itself: nothing tells where the brackets are.
    let gone = proven.edits().iter().any(|(span, _)| span.start <= at.start && at.start < span.end);
    if gone && matches!(edit, Edit::Push(..) | Edit::Pull(..)) {
        return Outcome::Done;
    }
    let current = document(sample, proven.text());
    match done(&current, step, place, &back) {
        Ok(back) if back.text() == sample.source.text() => Outcome::Back,
        Ok(back) => Outcome::NotBack(format!("other bytes\n{}", differences(sample.source.text(), back.text()))),
        Err(error) => Outcome::NotBack(format!("{} {error}", kind(&format!("{error:?}")))),
    }
}

/// Where what came back is otherwise, each line with its white space.
fn differences(old: &str, new: &str) -> String {
    let diff = similar::TextDiff::from_lines(old, new);
    let changed = diff.iter_all_changes().filter(|change| change.tag() != similar::ChangeTag::Equal);
    changed.map(|change| format!("    {} {:?}\n", change.tag(), change.value())).take(8).collect()
}

fn report(arguments: &Arguments, tried: &[Tried]) -> anyhow::Result<()> {
    let mut names: BTreeMap<&str, [usize; 6]> = BTreeMap::new();
    let mut reasons: BTreeMap<String, usize> = BTreeMap::new();
    for one in tried {
        let counts = names.entry(one.name).or_default();
        let (column, reason) = match &one.outcome {
            Outcome::Done => (0, None),
            Outcome::Back => (1, None),
            Outcome::NotBack(why) => (2, Some(format!("not back: {}", kind(why)))),
            Outcome::Refused(why) => (3, Some(why.clone())),
            Outcome::Unproven(why) => (4, Some(format!("proof: {why}"))),
            Outcome::Nothing => (5, None),
        };
        counts[column] += 1;
        *reasons.entry(reason.unwrap_or_default()).or_default() += usize::from((2..5).contains(&column));
    }
    println!("{:<14} {:>6} {:>6} {:>8} {:>8} {:>8} {:>8}", "edit", "done", "back", "not back", "refused", "unproven", "nothing");
    for (name, [done, back, not, refused, unproven, nothing]) in &names {
        println!("{name:<14} {done:>6} {back:>6} {not:>8} {refused:>8} {unproven:>8} {nothing:>8}");
    }
    let mut reasons: Vec<(&String, &usize)> = reasons.iter().filter(|(reason, _)| !reason.is_empty()).collect();
    reasons.sort_by_key(|(_, count)| std::cmp::Reverse(**count));
    for (reason, count) in reasons {
        println!("  {count:>6} {reason}");
    }
    let wrong = |one: &&Tried| matches!(one.outcome, Outcome::NotBack(_) | Outcome::Unproven(_));
    for one in tried.iter().filter(wrong).take(arguments.show) {
        let why = match &one.outcome {
            Outcome::NotBack(why) => format!("not back: {why}"),
            Outcome::Unproven(why) => format!("unproven: {why}"),
            _ => String::new(),
        };
        println!("{}: {why}", one.told);
    }
    Ok(())
}

/// Writes the results, and a list of what each came of.
fn keep(folder: &Path, tried: &[Tried]) -> anyhow::Result<()> {
    std::fs::create_dir_all(folder)?;
    let mut list = String::new();
    for (number, one) in tried.iter().enumerate() {
        let Some((path, text)) = &one.result else { continue };
        let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or("txt");
        let name = format!("{number}.{ending}");
        std::fs::write(folder.join(&name), text)?;
        list.push_str(&format!("{name}\t{}\t{}\t{}\n", path.display(), one.name, one.told));
    }
    std::fs::write(folder.join("list.txt"), list)?;
    Ok(())
}
