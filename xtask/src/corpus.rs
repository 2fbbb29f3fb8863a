//! `corpus`: every file is read, its looks are checked, and every step of the table that finds something to do by itself is done, proven,
//! and done again. What one step leaves, the others must leave, too.

use std::collections::BTreeMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::{Duration, Instant};

use rayon::prelude::*;
use vknot_reshape::{capabilities, looks, Reason};
use vknot_reshape::steps::{Document, prove_by_tree, Request, Step, StepError};
use vknot_style::{Override, SETTINGS};
use vknot_syntax::{Language, Source, Span, Tree};

use crate::random::Random;
use crate::scale_levels;
use crate::steps::{document, edits, step};
use crate::strip_indent::{self, Shown};
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to run over
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// Settings, as KEY=VALUE
    #[arg(long = "set")]
    set: Vec<Override>,
    /// Run as often again, each time with other settings chosen at random
    #[arg(long, default_value_t = 0, value_name = "TIMES")]
    random: u64,
    /// Take the indentation away and tell how much of it comes back
    #[arg(long)]
    strip_indent: bool,
    /// With `--strip-indent`: print the lines that come out otherwise, this many for each file
    #[arg(long, default_value_t = 0)]
    lines: usize,
    /// Only read and look
    #[arg(long)]
    looks: bool,
    /// Name the files with the most unreadable bytes, this many for each language
    #[arg(long, default_value_t = 0)]
    errors: usize,
    /// How many bad files to name for each language
    #[arg(long, default_value_t = 20)]
    show: usize,
}

/// What became of one file.
#[derive(Default)]
struct Outcome {
    bytes: usize,
    errors: bool,
    /// Bytes of code, and those inside pieces read as errors.
    unreadable: usize,
    first_error: String,
    read_in: Duration,
    /// The steps that found something to do.
    changed: Vec<&'static str>,
    /// What went wrong, by kind, and where.
    bad: Vec<(&'static str, String)>,
    took: Duration,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let samples = samples(&arguments.roots, arguments.language.as_deref());
    if arguments.strip_indent {
        let (scaled, set): (Vec<&Sample>, Vec<&Sample>) =
            samples.iter().partition(|sample| capabilities(sample.language).levels);
        strip_indent::run(&arguments.roots, &set, &arguments.set, Shown {
            reasons: arguments.show,
            lines: arguments.lines,
        });
        scale_levels::run(&scaled, arguments.show);
        return Ok(ExitCode::SUCCESS);
    }
    let mut bad = run_with(&samples, arguments, &arguments.set);
    for seed in 1..=arguments.random {
        let mut set = arguments.set.clone();
        let chosen = chosen_at_random(seed);
        let shown: Vec<String> =
            chosen.iter().map(|set| format!("{}={}", set.key().setting().key, set.value())).collect();
        println!("\nrandom settings {seed}: {}", shown.join(" "));
        set.extend(chosen);
        bad |= run_with(&samples, arguments, &set);
    }
    Ok(if bad { ExitCode::FAILURE } else { ExitCode::SUCCESS })
}

/// A value for every setting, most often the default.
fn chosen_at_random(seed: u64) -> Vec<Override> {
    let mut random = Random(seed);
    let mut chosen = Vec::new();
    for setting in SETTINGS {
        let choices = setting.choices();
        if choices.is_empty() || random.below(2) == 0 {
            continue;
        }
        // Of many numbers some at the ends and some between.
        let value = &choices[random.below(choices.len())];
        chosen.extend(format!("{}={value}", setting.key).parse());
    }
    chosen
}

fn run_with(samples: &[Sample], arguments: &Arguments, set: &[Override]) -> bool {
    let outcomes: Vec<(&Sample, Outcome)> =
        samples.par_iter().map(|sample| (sample, judge(sample, arguments, set))).collect();
    let mut by_language: BTreeMap<&str, Vec<&(&Sample, Outcome)>> = BTreeMap::new();
    for pair in &outcomes {
        by_language.entry(pair.0.language.name()).or_default().push(pair);
    }
    let mut bad = false;
    for (language, pairs) in by_language {
        bad |= report(language, &pairs, (arguments.show, arguments.errors));
    }
    bad
}

fn judge(sample: &Sample, arguments: &Arguments, set: &[Override]) -> Outcome {
    let start = Instant::now();
    let judged = catch_unwind(AssertUnwindSafe(|| judge_unguarded(sample, arguments, set)));
    let mut outcome = judged.unwrap_or(Outcome { bad: vec![("panic", String::new())], ..Outcome::default() });
    outcome.took = start.elapsed();
    outcome.bytes = sample.source.text().len();
    outcome
}

fn judge_unguarded(sample: &Sample, arguments: &Arguments, set: &[Override]) -> Outcome {
    let document = document(&sample.source, sample.language, set);
    let start = Instant::now();
    let tree = document.tree();
    let (unreadable, first_error) = unreadable(&sample.source, tree);
    let mut outcome = Outcome {
        read_in: start.elapsed(),
        errors: tree.has_error() || tree.gave_up(),
        unreadable,
        first_error,
        ..Outcome::default()
    };
    if let Err(why) = looks::check(document.code()) {
        outcome.bad.push(("looks wrong", why));
    }
    if !arguments.looks {
        for name in ["format", "imports", "indent"] {
            judge_step(name, &document, &mut outcome);
        }
        judge_together(&document, &mut outcome);
    }
    outcome
}

/// Does a step; gives the result when it is proven, and done for good.
fn judge_step(name: &str, document: &Document, outcome: &mut Outcome) -> Option<Document> {
    let step = covering(name, document.language())?;
    let reshape = step.reshape(document, &Request::default()).ok()?;
    if reshape.receipt.left_alone.iter().any(|left| left.reason == Reason::Unsettled) {
        outcome.bad.push(("unsettled", name.to_owned()));
    }
    if reshape.is_empty() {
        return Some(document.clone());
    }
    outcome.changed.push(step.name);
    // How broken code is read may depend on where its lines stand; the step's own proof goes by its lexemes then.
    let whole = !document.tree().has_error();
    if whole && !reshape.edits.is_empty() && let Err(refusal) = prove_by_tree(document, &reshape, step.contract) {
        let line = document.source().line(refusal.offset);
        outcome.bad.push(("refused", format!("{name}, line {line}: {}", refusal.reason)));
        return None;
    }
    match step.run(document, &Request { generated: true, ..Request::default() }) {
        Ok(proven) => {
            outcome.bad.extend(left_to_do(step, proven.document()).map(|why| ("unstable", format!("{name}, {why}"))));
            Some(proven.into_document())
        }
        Err(StepError::Refused(refusal)) => {
            outcome.bad.push(("refused", format!("{name}: {}", refusal.reason)));
            None
        }
        Err(error) => {
            outcome.bad.push(("failed", format!("{name}: {error}")));
            None
        }
    }
}

/// What a layout leaves, indentation must leave, and so must a layout what imports in order leave.
fn judge_together(document: &Document, outcome: &mut Outcome) {
    let mut ignored = Outcome::default();
    let Some(formatted) = judge_step("format", document, &mut ignored) else { return };
    if let Some(indent) = covering("indent", document.language()) {
        let why = left_to_do(indent, &formatted);
        outcome.bad.extend(why.map(|why| ("indent after format", why)));
    }
    if covering("imports", document.language()).is_some()
        && let Some(sorted) = judge_step("imports", &formatted, &mut ignored)
        && let Some(format) = covering("format", document.language())
    {
        let why = left_to_do(format, &sorted);
        outcome.bad.extend(why.map(|why| ("format after imports", why)));
    }
}

fn covering(name: &str, language: &'static Language) -> Option<&'static Step> {
    step(name).ok().filter(|step| (step.covers)(language))
}

/// Where a step would still change something.
fn left_to_do(step: &Step, document: &Document) -> Option<String> {
    let again = edits(step, document);
    let (span, new) = again.iter().next()?;
    let source = document.source();
    let line = source.line(span.start);
    let (old, whole) = (source.slice(span), source.lines().text(source.text(), line - 1));
    Some(format!("line {line} of the result: {old:?} becomes {new:?}: {whole}"))
}

/// How many bytes are inside pieces read as errors, and the line and text of the first.
fn unreadable(source: &Source, tree: &Tree) -> (usize, String) {
    if tree.gave_up() {
        return (source.text().len(), "gave up".to_owned());
    }
    let spans: Vec<Span> = tree.errors().map(|id| tree.node(id).span()).collect();
    let first = spans.first().map_or(String::new(), |span| {
        let line = source.line(span.start);
        format!("{line}: {} ({})", source.lines().text(source.text(), line - 1).trim(), source.slice(*span).lines().next().unwrap_or(""))
    });
    (spans.iter().map(|span| span.len() as usize).sum(), first)
}

fn percent(part: usize, whole: usize) -> f64 {
    100.0 * part as f64 / whole.max(1) as f64
}

/// What may go wrong.
const KINDS: [&str; 8] = [
    "looks wrong",
    "refused",
    "unsettled",
    "unstable",
    "indent after format",
    "format after imports",
    "failed",
    "panic",
];

fn report(language: &str, pairs: &[&(&Sample, Outcome)], (show, listed): (usize, usize)) -> bool {
    let bytes: usize = pairs.iter().map(|pair| pair.1.bytes).sum();
    println!("{language}: {} files, {:.1} MB", pairs.len(), bytes as f64 / 1e6);
    let errors = pairs.iter().filter(|pair| pair.1.errors).count();
    let unreadable: usize = pairs.iter().map(|pair| pair.1.unreadable).sum();
    let reading: Duration = pairs.iter().map(|pair| pair.1.read_in).sum();
    println!("  read at               {:.1} MB/s", bytes as f64 / 1e6 / reading.as_secs_f64());
    println!("  without any error     {:.2}% of files", 100.0 - percent(errors, pairs.len()));
    println!("  unreadable            {:.3}% of bytes", percent(unreadable, bytes));
    for name in ["format", "imports", "indent"] {
        let changed = pairs.iter().filter(|pair| pair.1.changed.contains(&name)).count();
        println!("  changed by {name:<10} {changed}");
    }
    for kind in KINDS {
        let count = pairs.iter().filter(|pair| pair.1.bad.iter().any(|(other, _)| *other == kind)).count();
        println!("  {kind:<21} {count}");
    }
    if let Some((sample, outcome)) = pairs.iter().max_by_key(|pair| pair.1.took) {
        let speed = outcome.bytes as f64 / 1e6 / outcome.took.as_secs_f64();
        println!("  slowest               {:?} at {speed:.1} MB/s: {}", outcome.took, sample.source.path().display());
    }
    let mut worst: Vec<&&(&Sample, Outcome)> = pairs.iter().filter(|pair| pair.1.errors).collect();
    worst.sort_by_key(|pair| std::cmp::Reverse(pair.1.unreadable));
    for (sample, outcome) in worst.into_iter().take(listed) {
        println!("  {:>8} {}:{}", outcome.unreadable, sample.source.path().display(), outcome.first_error);
    }
    let bad = pairs.iter().flat_map(|(sample, outcome)| outcome.bad.iter().map(|bad| (sample.source.path(), bad)));
    bad.take(show).for_each(|(path, (kind, why))| println!("  {kind}: {}: {why}", path.display()));
    pairs.iter().any(|pair| !pair.1.bad.is_empty())
}
