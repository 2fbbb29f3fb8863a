//! `ratios`: what each step costs, as a multiple of parsing alone, measured in one run on one thread.

use std::path::PathBuf;
use std::process::{Command, ExitCode, Stdio};
use std::time::{Duration, Instant};

use vknot_reshape::{capabilities, Code, looks};
use vknot_reshape::steps::{Request, Step};
use vknot_syntax::{Language, Source, Span, Tree};

use crate::steps::{document, edits, step};
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to run over
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// How often each step is measured; the fastest run counts
    #[arg(long, default_value_t = 5)]
    runs: usize,
    /// Measure looks and indentation instead, each as a multiple of reading the file
    #[arg(long)]
    looks: bool,
    /// Megabytes to take of each language
    #[arg(long, default_value_t = 4)]
    megabytes: usize,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let all = samples(&arguments.roots, arguments.language.as_deref());
    if arguments.looks {
        return Ok(run_looks(&all, arguments, step("indent")?));
    }
    println!("{:<8} {:>6} {:>9} {:>9} {:>7} {:>7} {:>7} {:>7} {:>9} {:>7}", "", "MB", "parse", "+flatten", "folds", "outline", "imports", "check", "format", "10x");
    for language in Language::all() {
        let chosen = take(
            all.iter()
                .filter(|sample| sample.language == language && !Tree::read(&sample.source, language).has_error()),
            arguments.megabytes,
        );
        if !chosen.is_empty() && capabilities(language).layout {
            report(language, &chosen, arguments.runs, step("format")?);
        }
    }
    start_up()?;
    Ok(ExitCode::SUCCESS)
}

/// The cost of each look and of indentation, reading included.
fn run_looks(all: &[Sample], arguments: &Arguments, indent: &Step) -> ExitCode {
    println!("{:<12} {:>6} {:>9} {:>7} {:>7} {:>7} {:>7} {:>7} {:>7} {:>7}", "", "MB", "read MB/s", "outline", "folds", "pairs", "ladder", "todos", "indent", "proven");
    for language in Language::all() {
        let chosen = take(all.iter().filter(|sample| sample.language == language), arguments.megabytes);
        if chosen.is_empty() {
            continue;
        }
        let marks = looks::Marks::default();
        let read = |source: &Source| Tree::read(source, language);
        let times = interleaved(arguments.runs, &chosen, [
            &mut |source: &Source| drop(read(source)),
            &mut |source| drop(looks::outline(Code::of(source, &read(source)))),
            &mut |source| drop(looks::folds(Code::of(source, &read(source)))),
            &mut |source| drop(looks::pairs(Code::of(source, &read(source)), &marks)),
            &mut |source| {
                let middle = source.lines().start(source.lines().count() / 2);
                drop(looks::ladder(Code::of(source, &read(source)), Span::new(middle, middle)));
            },
            &mut |source| drop(looks::todos(Code::of(source, &read(source)), &marks)),
            &mut |source| drop(edits(indent, &document(source, language, &[]))),
            &mut |source| drop(indent.run(&document(source, language, &[]), &Request::default())),
        ]);
        let megabytes = chosen.iter().map(|source| source.text().len()).sum::<usize>() as f64 / 1e6;
        let base = times[0].as_secs_f64();
        let ratios: String = times[1..].iter().map(|time| format!(" {:>7.2}", time.as_secs_f64() / base)).collect();
        println!("{:<12} {megabytes:>6.1} {:>9.1}{ratios}", language.name(), megabytes / base);
    }
    ExitCode::SUCCESS
}

fn take<'s>(samples: impl Iterator<Item = &'s Sample>, megabytes: usize) -> Vec<&'s Source> {
    let mut bytes = 0;
    let within = |sample: &&Sample| {
        let length = sample.source.text().len();
        let fits = length < 1_000_000 && bytes + length <= megabytes * 1_000_000;
        bytes += if fits { length } else { 0 };
        fits
    };
    samples.filter(within).map(|sample| &sample.source).collect()
}

fn report(language: &'static Language, sources: &[&Source], runs: usize, format_step: &Step) {
    let read = |source: &Source| Tree::read(source, language);
    let done = |step: &Step| -> Vec<Source> {
        let text = |source: &&Source| edits(step, &document(source, language, &[])).apply(source.text());
        sources.iter().map(|source| Source::from_text(source.path(), text(source))).collect()
    };
    let clean = done(format_step);
    let clean_refs: Vec<&Source> = clean.iter().collect();
    let mut parser = tree_sitter::Parser::new();
    if let Some(grammar) = language.grammar() {
        let _ = parser.set_language(grammar);
    }
    // A damaged copy needs work in nearly every line.
    let damaged: Vec<Source> =
        sources.iter().map(|source| Source::from_text(source.path(), damage(source.text()))).collect();
    let damaged: Vec<&Source> = damaged.iter().filter(|source| !read(source).has_error()).collect();
    let mut parser = parser;
    let mut parse = |source: &Source| drop(parser.parse(source.text(), None));
    let read_only = &mut |source: &Source| drop(read(source));
    let [parse_time, flatten, folds, outline] = interleaved(runs, sources, [
        &mut parse,
        read_only,
        &mut |source| drop(looks::folds(Code::of(source, &read(source)))),
        &mut |source| drop(looks::outline(Code::of(source, &read(source)))),
    ]);
    let imports = capabilities(language).imports.then(|| {
        let step = step("imports");
        let ordered = step.as_ref().map(|step| done(step)).unwrap_or_default();
        let ordered: Vec<&Source> = ordered.iter().collect();
        interleaved(runs, &ordered, [
            &mut parse,
            &mut |source| drop(step.as_ref().map(|step| edits(step, &document(source, language, &[])))),
        ])
    });
    let [clean_parse, check] = interleaved(runs, &clean_refs, [
        &mut parse,
        &mut |source| drop(edits(format_step, &document(source, language, &[]))),
    ]);
    let [damaged_parse, format] = interleaved(runs, &damaged, [
        &mut parse,
        &mut |source| drop(format_step.run(&document(source, language, &[]), &Request::default())),
    ]);
    let ratio = |time: Duration, base: Duration| time.as_secs_f64() / base.as_secs_f64();
    let megabytes = sources.iter().map(|source| source.text().len()).sum::<usize>() as f64 / 1e6;
    println!(
        "{:<8} {megabytes:>6.1} {:>6.1} MB/s {:>6.2} {:>9.2} {:>7.2} {:>7} {:>7.2} {:>9.2} {:>7.2}",
        language.name(),
        megabytes / parse_time.as_secs_f64(),
        ratio(flatten, parse_time) - 1.0,
        ratio(folds, parse_time),
        ratio(outline, parse_time),
        imports.map_or("-".to_owned(), |[parse, imports]| format!("{:.2}", ratio(imports, parse))),
        ratio(check, clean_parse),
        ratio(format, damaged_parse),
        growth(language, sources, runs, format_step),
    );
}

/// Runs the steps in turn on each source and adds up each step's fastest times, so that a change in the machine's speed
/// meets all steps alike.
fn interleaved<const STEPS: usize>(
    runs: usize,
    sources: &[&Source],
    mut steps: [&mut dyn FnMut(&Source); STEPS],
) -> [Duration; STEPS] {
    let mut totals = [Duration::ZERO; STEPS];
    for source in sources {
        let mut best = [Duration::MAX; STEPS];
        for _ in 0..runs.max(1) {
            for (step, best) in steps.iter_mut().zip(&mut best) {
                let start = Instant::now();
                step(source);
                *best = start.elapsed().min(*best);
            }
        }
        totals.iter_mut().zip(best).for_each(|(total, best)| *total += best);
    }
    totals
}

fn fastest(runs: usize, mut step: impl FnMut()) -> Duration {
    let once = |_| {
        let start = Instant::now();
        step();
        start.elapsed()
    };
    (0..runs.max(1)).map(once).min().unwrap_or_default()
}

/// The text with the white space at the start of every line doubled: work for nearly every line, the same code.
fn damage(text: &str) -> String {
    let lines = text.split_inclusive('\n').map(|line| {
        let blank = &line[..line.len() - line.trim_start_matches(' ').len()];
        format!("{blank}{line}")
    });
    lines.collect()
}

/// How much longer ten copies of a text take than one.
fn growth(language: &'static Language, sources: &[&Source], runs: usize, format_step: &Step) -> f64 {
    let Some(sample) = sources.iter().max_by_key(|source| source.text().len()) else { return 0.0 };
    let text = sample.text();
    let ten = match language.name() {
        "json" => format!("[{}]", [text; 10].join(",\n")),
        _ => text.repeat(10),
    };
    let [once, tenfold] = [text, &ten].map(|text| Source::from_text(sample.path(), text));
    let step = |source: &Source| drop(edits(format_step, &document(source, language, &[])));
    let mut times = [Duration::MAX; 2];
    for _ in 0..runs.max(1) {
        for (source, best) in [&once, &tenfold].into_iter().zip(&mut times) {
            *best = fastest(1, || step(source)).min(*best);
        }
    }
    times[1].as_secs_f64() / times[0].as_secs_f64()
}

/// The program's start-up against that of `true`, both as whole processes.
fn start_up() -> anyhow::Result<()> {
    let folder = tempfile::tempdir()?;
    let file = folder.path().join("gauge.json");
    std::fs::write(&file, "{ \"level\": 3 }\n")?;
    let program = std::env::current_exe()?.with_file_name("vknot");
    let time = |program: &std::path::Path, arguments: &[&std::ffi::OsStr]| -> anyhow::Result<Duration> {
        let mut times = Vec::new();
        for _ in 0..60 {
            let start = Instant::now();
            Command::new(program).args(arguments).stdout(Stdio::null()).stderr(Stdio::null()).status()?;
            times.push(start.elapsed());
        }
        times.sort_unstable();
        Ok(times[times.len() / 2])
    };
    let bare = time(std::path::Path::new("true"), &[])?;
    let own = time(&program, &["format".as_ref(), "--check".as_ref(), file.as_os_str()])?;
    println!("start-up: {:.2} ms, `true` {:.2} ms (medians of 60)", own.as_secs_f64() * 1e3, bare.as_secs_f64() * 1e3);
    Ok(())
}
