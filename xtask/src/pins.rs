//! `pins`: pins spans of real files, edits these by chance, and tells how often a span is found where it went.
//!
//! Lines are followed by number through every edit, so where a span is then is known: from the first of its lines that is left to the last.

use std::path::PathBuf;
use std::process::ExitCode;

use vknot_reshape::pins::{Anchor, Lines};

use crate::random::Random;
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to take files from
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// How many spans to pin
    #[arg(long, default_value_t = 600)]
    spans: usize,
    /// Where chance begins
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Show this many of those that went wrong
    #[arg(long, default_value_t = 0)]
    show: usize,
}

/// A line with the number it had in the file at first; lines that came in have none.
type Numbered = (Option<usize>, String);

/// How many more edits may be done, and one.
const EDITS_AT_MOST: usize = 3;
/// Lines of a pinned span.
const SPAN: (usize, usize) = (2, 14);
/// Shorter files tell little.
const LINES_AT_LEAST: usize = 40;

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let files: Vec<Sample> = samples(&arguments.roots, None)
        .into_iter()
        .filter(|sample| sample.source.lines().count() as usize >= LINES_AT_LEAST)
        .collect();
    anyhow::ensure!(!files.is_empty(), "no file there has {LINES_AT_LEAST} lines");
    let mut random = Random(arguments.seed);
    let (mut right, mut lost, mut wrong, mut gone) = (0, 0, 0, 0);
    let mut shown = 0;
    for _ in 0..arguments.spans {
        let sample = &files[random.below(files.len())];
        let mut lines: Vec<Numbered> =
            sample.source.text().lines().map(str::to_owned).enumerate().map(|(at, line)| (Some(at), line)).collect();
        let first = random.below(lines.len() - SPAN.1);
        let last = first + SPAN.0 + random.below(SPAN.1 - SPAN.0) - 1;
        if random.below(5) == 0 && last + FAR < lines.len() {
            // It has a twin from the first.
            let to = last + FAR + random.below(lines.len() - last - FAR);
            put_twin(&mut lines, (first, last), to, &mut random);
        }
        let before: String = lines.iter().map(|(_, line)| format!("{line}\n")).collect();
        let anchor = Anchor::of(&before, Lines { first: first as u32 + 1, last: last as u32 + 1 });
        let (first, last) = (anchor.first_line as usize - 1, anchor.first_line as usize + anchor.lines.len() - 2);
        let (edited, told) = edited(lines, (first, last), &mut random);
        let text: String = edited.iter().map(|(_, line)| format!("{line}\n")).collect();
        let own = |(number, _): &Numbered| number.is_some_and(|number| (first..=last).contains(&number));
        let truth = edited.iter().position(own).zip(edited.iter().rposition(own));
        let kept = edited.iter().filter(|line| own(line)).count() * 2 >= last + 1 - first;
        let found = anchor.find(&text).lines().map(|lines| (lines.first as usize - 1, lines.last as usize - 1));
        let outcome = match (truth, found) {
            (None, None) => &mut gone,
            (Some(truth), Some(found)) if truth == found => &mut right,
            (Some(_), None) if kept => &mut lost,
            // Of what is hardly there any more either may be said.
            (Some(_), None) => &mut gone,
            _ => &mut wrong,
        };
        let bad = truth.is_some() && found.is_none() && kept || found.is_some() && truth != found;
        *outcome += 1;
        if bad && shown < arguments.show {
            shown += 1;
            println!("{}:{}-{} {told}: is at {truth:?}, found {found:?}", sample.source.path().display(), first + 1, last + 1);
        }
    }
    println!("{right} found, {gone} rightly lost, {lost} wrongly lost, {wrong} wrong, of {}", arguments.spans);
    Ok(ExitCode::SUCCESS)
}

/// A file after some edits, and what they were: lines that come, go and change, near-twins of the span, its move, its end.
fn edited(mut lines: Vec<Numbered>, span: (usize, usize), random: &mut Random) -> (Vec<Numbered>, String) {
    let mut told = Vec::new();
    match random.below(10) {
        0..2 => told.push(with_twin(&mut lines, span, random)),
        2 => told.push(moved(&mut lines, span, random)),
        3 | 4 => told.push(deleted(&mut lines, span, random)),
        _ => told.push(touched(&mut lines, span, random)),
    }
    for _ in 0..random.below(EDITS_AT_MOST) {
        told.push(touched(&mut lines, span, random));
    }
    (lines, told.join(", "))
}

/// Where the span is now, or anywhere if it is gone.
fn place(lines: &[Numbered], span: (usize, usize), random: &mut Random) -> (usize, usize) {
    let own = |(number, _): &Numbered| number.is_some_and(|number| (span.0..=span.1).contains(&number));
    let at = random.below(lines.len());
    lines.iter().position(own).zip(lines.iter().rposition(own)).unwrap_or((at, at))
}

fn touched(lines: &mut Vec<Numbered>, span: (usize, usize), random: &mut Random) -> &'static str {
    let at = random.below(lines.len());
    match random.below(3) {
        0 => {
            let from = random.below(lines.len());
            let new: Vec<Numbered> =
                lines.iter().skip(from).take(1 + random.below(4)).map(|(_, line)| (None, line.clone())).collect();
            lines.splice(at..at, new);
            "lines came in"
        }
        1 => {
            lines.drain(at..(at + 1 + random.below(3)).min(lines.len() - 1).max(at));
            "lines went"
        }
        _ => {
            let (first, last) = place(lines, span, random);
            let near = first + random.below(last + 1 - first);
            renamed(lines, near, random);
            "a name changed"
        }
    }
}

fn with_twin(lines: &mut Vec<Numbered>, span: (usize, usize), random: &mut Random) -> &'static str {
    let (first, last) = place(lines, span, random);
    let to = [first, last + 1, random.below(first + 1)][random.below(3)];
    put_twin(lines, (first, last), to, random);
    "a twin came in"
}

fn put_twin(lines: &mut Vec<Numbered>, (first, last): (usize, usize), to: usize, random: &mut Random) {
    let twin: Vec<Numbered> = lines[first..=last].iter().map(|(_, line)| (None, line.clone())).collect();
    let count = twin.len();
    lines.splice(to..to, twin);
    // A twin is told by a name of its own; a line of marks alone has none.
    let named = (to..to + count).find(|at| lines[*at].1.chars().filter(|c| c.is_alphanumeric()).count() > 5);
    renamed_once(lines, named.unwrap_or(to), random);
}

fn moved(lines: &mut Vec<Numbered>, span: (usize, usize), random: &mut Random) -> &'static str {
    let (first, last) = place(lines, span, random);
    let own: Vec<Numbered> = lines.drain(first..=last).collect();
    let to = random.below(lines.len() + 1);
    lines.splice(to..to, own);
    "it was moved"
}

/// How many lines away a twin stands at least that is there from the first.
const FAR: usize = 20;

fn deleted(lines: &mut Vec<Numbered>, span: (usize, usize), random: &mut Random) -> &'static str {
    let (first, last) = place(lines, span, random);
    lines.drain(first..=last);
    "it was deleted"
}

fn renamed_once(lines: &mut [Numbered], at: usize, random: &mut Random) {
    let Some((_, line)) = lines.get_mut(at) else { return };
    if let Some(word) = word(line, random) {
        *line = line.replacen(&word, &format!("{word}Tide"), 1);
    }
}

fn word(line: &str, random: &mut Random) -> Option<String> {
    let words: Vec<&str> =
        line.split(|c: char| !(c.is_alphanumeric() || c == '_')).filter(|word| word.len() > 2).collect();
    (!words.is_empty()).then(|| words[random.below(words.len())].to_owned())
}

/// Changes one word of a line, everywhere in the file or there only.
fn renamed(lines: &mut [Numbered], at: usize, random: &mut Random) {
    let Some(word) = lines.get(at).and_then(|(_, line)| word(line, random)) else { return };
    if random.below(3) == 0 {
        let other = format!("{word}Tide");
        lines.iter_mut().for_each(|(_, line)| *line = line.replace(&word, &other));
    } else {
        renamed_once(lines, at, random);
    }
}
