//! `fuzz`: damages samples at random and checks tree, looks and indentation of what comes out, for as long as asked.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::{Duration, Instant};

use anyhow::Context;
use vknot_reshape::looks;
use vknot_reshape::steps::{Document, Request};
use vknot_syntax::{Language, Source};

use crate::random::Random;
use crate::steps::{document, edits, step};
use crate::walk::samples;

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders with samples
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Languages to read them in, one after another
    #[arg(long, required = true, value_delimiter = ',')]
    language: Vec<String>,
    /// How long, for each language
    #[arg(long, default_value_t = 60)]
    seconds: u64,
    /// Where the random numbers begin
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// A file that each text is written to before it is tried: one that is never done with stays there
    #[arg(long)]
    keep: Option<PathBuf>,
}

/// Reading a byte may take this long, and a text this long at least.
const NANOSECONDS_A_BYTE: u64 = 20_000;
const AT_LEAST: Duration = Duration::from_millis(400);

/// Samples are cut to this many bytes, so that many can be tried.
const LENGTH_AT_MOST: usize = 6_000;

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let mut findings = 0;
    for name in &arguments.language {
        // Any text is plain text.
        let plain = (name == Language::plain().name()).then_some(Language::plain());
        let language = plain.or(Language::named(name)).with_context(|| format!("there is no language `{name}`"))?;
        let texts: Vec<String> = samples(&arguments.roots, plain.is_none().then_some(name.as_str()))
            .into_iter()
            .map(|sample| sample.source.text().to_owned())
            .collect();
        anyhow::ensure!(!texts.is_empty(), "no sample is in {name}");
        findings += fuzz(language, &texts, arguments)?;
    }
    Ok(if findings == 0 { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

fn fuzz(language: &'static Language, texts: &[String], arguments: &Arguments) -> anyhow::Result<usize> {
    let mut random = Random(arguments.seed);
    let end = Instant::now() + Duration::from_secs(arguments.seconds);
    let (mut count, mut findings) = (0u64, 0);
    while Instant::now() < end {
        let text = damaged(texts, &mut random);
        if let Some(file) = &arguments.keep {
            std::fs::write(file, &text)?;
        }
        let (mut result, mut took) = judged(&text, language);
        let limit = AT_LEAST.max(Duration::from_nanos(NANOSECONDS_A_BYTE * text.len() as u64));
        // On a busy machine anything may take long once.
        for _ in 0..2 {
            if took > limit {
                (result, took) = judged(&text, language);
            }
        }
        let slow = took > limit;
        count += 1;
        let finding = match result {
            Err(_) => Some("panic".to_owned()),
            Ok(Err(what)) => Some(what),
            Ok(Ok(())) if slow => Some(format!("took {took:?}")),
            Ok(Ok(())) => None,
        };
        if let Some(what) = finding {
            findings += 1;
            println!("{}: {what}\n{text:?}", language.name());
        }
        if findings >= 5 {
            break;
        }
    }
    println!("{}: {count} texts, {findings} findings", language.name());
    Ok(findings)
}

/// Reads and checks one text; the outer error is a panic.
fn judged(text: &str, language: &'static Language) -> (std::thread::Result<Result<(), String>>, Duration) {
    let start = Instant::now();
    let result = catch_unwind(AssertUnwindSafe(|| {
        let source = Source::from_text("sample", text);
        let document = document(&source, language, &[]);
        looks::check(document.code())?;
        indentation(&document)
    }));
    (result, start.elapsed())
}

/// Sets the indentation: that must be proven, and leave nothing to do for another run.
fn indentation(document: &Document) -> Result<(), String> {
    let step = step("indent").map_err(|error| error.to_string())?;
    let request = Request { generated: true, ..Request::default() };
    let proven = step.run(document, &request).map_err(|error| format!("indentation: {error}"))?;
    match edits(step, proven.document()).iter().next() {
        Some((span, _)) => Err(format!("line {} is set otherwise again", proven.document().source().line(span.start))),
        None => Ok(()),
    }
}

/// A piece of a sample with a few bytes changed, doubled, moved or taken out, and pieces of others put in.
fn damaged(texts: &[String], random: &mut Random) -> String {
    let mut text = piece(texts, random, LENGTH_AT_MOST).to_owned();
    for _ in 0..random.below(12) {
        let at = boundary(&text, random.below(text.len() + 1));
        let end = boundary(&text, (at + random.below(40)).min(text.len()));
        match random.below(6) {
            0 => text.replace_range(at..end, ""),
            1 => text.insert_str(at, MARKS[random.below(MARKS.len())]),
            2 => text.insert_str(at, piece(texts, random, 60)),
            3 => text.truncate(at),
            4 => {
                let copy = text[at..end].to_owned();
                text.insert_str(boundary(&text, random.below(text.len() + 1)), &copy);
            }
            _ => text.replace_range(at..end, &MARKS[random.below(MARKS.len())].repeat(random.below(30) + 1)),
        }
    }
    // Several of them at the start would be taken off one by one.
    text.trim_start_matches('\u{feff}').to_owned()
}

/// What is put in: marks that open and close something in one language or another.
const MARKS: [&str; 40] = [
    "(", ")", "[", "]", "{", "}", "<", ">", "\"", "'", "`", "\\", "/*", "*/", "//", "#", "%{", "%}", "--", "<!--",
    "-->", "begin ", " end ", "if ", " else ",
    "\n", "\r\n", "\t", "  ", "\u{feff}", "é", "#|", "|#", "#;", "${", "#{", "```\n", "\n> ", "\n- ", "</x>",
];

fn piece<'t>(texts: &'t [String], random: &mut Random, length: usize) -> &'t str {
    let text = &texts[random.below(texts.len())];
    let start = boundary(text, if random.below(3) == 0 { 0 } else { random.below(text.len() + 1) });
    let end = boundary(text, (start + random.below(length) + 1).min(text.len()));
    &text[start..end]
}

/// The next place at or behind `at` where a character begins.
fn boundary(text: &str, at: usize) -> usize {
    (at..=text.len()).find(|at| text.is_char_boundary(*at)).unwrap_or(text.len())
}
