//! `corpus`: every file is read, its looks are checked, and where its layout is known it is formatted in memory, proven, and
//! formatted again.

use std::collections::BTreeMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::{Duration, Instant};

use rayon::prelude::*;
use vknot_reshape::{indent, layout, looks, proof};
use vknot_style::{Override, Style};
use vknot_syntax::{Source, Span, Tree};

use crate::scale_levels;
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
    wrong: Option<String>,
    read_in: Duration,
    changed: bool,
    refused: Option<String>,
    unstable: Option<String>,
    panicked: bool,
    took: Duration,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let samples = samples(&arguments.roots, arguments.language.as_deref());
    if arguments.strip_indent {
        let (scaled, set): (Vec<&Sample>, Vec<&Sample>) =
            samples.iter().partition(|sample| indent::is_meaning(sample.language));
        strip_indent::run(&arguments.roots, &set, &arguments.set, Shown {
            reasons: arguments.show,
            lines: arguments.lines,
        });
        scale_levels::run(&scaled, arguments.show);
        return Ok(ExitCode::SUCCESS);
    }
    let outcomes: Vec<(&Sample, Outcome)> =
        samples.par_iter().map(|sample| (sample, judge(sample, arguments))).collect();
    let mut by_language: BTreeMap<&str, Vec<&(&Sample, Outcome)>> = BTreeMap::new();
    for pair in &outcomes {
        by_language.entry(pair.0.language.name()).or_default().push(pair);
    }
    let mut bad = false;
    for (language, pairs) in by_language {
        bad |= report(language, &pairs, (arguments.show, arguments.errors));
    }
    Ok(if bad { ExitCode::FAILURE } else { ExitCode::SUCCESS })
}

fn judge(sample: &Sample, arguments: &Arguments) -> Outcome {
    let start = Instant::now();
    let mut outcome = catch_unwind(AssertUnwindSafe(|| judge_unguarded(sample, arguments))).unwrap_or(Outcome {
        panicked: true,
        ..Outcome::default()
    });
    outcome.took = start.elapsed();
    outcome.bytes = sample.source.text().len();
    outcome
}

fn judge_unguarded(sample: &Sample, arguments: &Arguments) -> Outcome {
    let style = Style::with(sample.language.name(), &arguments.set);
    let source = &sample.source;
    let start = Instant::now();
    let tree = Tree::read(source, sample.language);
    let (unreadable, first_error) = unreadable(source, &tree);
    let mut outcome = Outcome {
        read_in: start.elapsed(),
        errors: tree.has_error() || tree.gave_up(),
        unreadable,
        first_error,
        wrong: looks::check(source, &tree).err(),
        ..Outcome::default()
    };
    if arguments.looks || !layout::covers(sample.language) {
        return outcome;
    }
    let reshape = layout::format(source, &tree, &style, None);
    if reshape.is_empty() {
        return outcome;
    }
    outcome.changed = true;
    match proof::prove_layout(source, &tree, &reshape) {
        Err(refusal) => outcome.refused = Some(format!("{}: {}", source.line(refusal.offset), refusal.reason)),
        Ok(proven) => outcome.unstable = second_run(&proven.source, &proven.tree, &style),
    }
    outcome
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

/// Where a second run would still change something.
fn second_run(source: &Source, tree: &Tree, style: &Style) -> Option<String> {
    let again = layout::format(source, tree, style, None);
    let (span, new) = again.edits.iter().next()?;
    let line = source.line(span.start);
    Some(
        format!("line {line} of the result: {:?} becomes {new:?}: {}", source.slice(span), source.lines().text(source.text(), line - 1)),
    )
}

fn percent(part: usize, whole: usize) -> f64 {
    100.0 * part as f64 / whole.max(1) as f64
}

fn report(language: &str, pairs: &[&(&Sample, Outcome)], (show, listed): (usize, usize)) -> bool {
    let count = |test: fn(&Outcome) -> bool| pairs.iter().filter(|pair| test(&pair.1)).count();
    let bytes: usize = pairs.iter().map(|pair| pair.1.bytes).sum();
    let (refused, unstable) = (count(|o| o.refused.is_some()), count(|o| o.unstable.is_some()));
    let panicked = count(|o| o.panicked);
    let slowest = pairs.iter().max_by_key(|pair| pair.1.took);
    println!("{language}: {} files, {:.1} MB", pairs.len(), bytes as f64 / 1e6);
    let errors = count(|o| o.errors);
    let unreadable: usize = pairs.iter().map(|pair| pair.1.unreadable).sum();
    let reading: Duration = pairs.iter().map(|pair| pair.1.read_in).sum();
    println!("  read at             {:.1} MB/s", bytes as f64 / 1e6 / reading.as_secs_f64());
    println!("  without any error   {:.2}% of files", 100.0 - percent(errors, pairs.len()));
    println!("  unreadable          {:.3}% of bytes", percent(unreadable, bytes));
    println!("  looks wrong         {}", count(|o| o.wrong.is_some()));
    println!("  changed             {}", count(|o| o.changed));
    println!("  refused             {refused}");
    println!("  unstable            {unstable}");
    println!("  panics              {panicked}");
    if let Some((sample, outcome)) = slowest {
        let speed = outcome.bytes as f64 / 1e6 / outcome.took.as_secs_f64();
        println!("  slowest             {:?} at {speed:.1} MB/s: {}", outcome.took, sample.source.path().display());
    }
    let mut worst: Vec<&&(&Sample, Outcome)> = pairs.iter().filter(|pair| pair.1.errors).collect();
    worst.sort_by_key(|pair| std::cmp::Reverse(pair.1.unreadable));
    for (sample, outcome) in worst.into_iter().take(listed) {
        println!("  {:>8} {}:{}", outcome.unreadable, sample.source.path().display(), outcome.first_error);
    }
    let bad = pairs.iter().filter_map(|(sample, outcome)| {
        let path = sample.source.path().display();
        let refused = outcome.refused.as_ref().map(|why| format!("  refused  {path}:{why}"));
        let unstable = outcome.unstable.as_ref().map(|why| format!("  unstable {path}: {why}"));
        let wrong = outcome.wrong.as_ref().map(|why| format!("  wrong    {path}: {why}"));
        refused.or(unstable).or(wrong).or(outcome.panicked.then(|| format!("  panic    {path}")))
    });
    bad.take(show).for_each(|line| println!("{line}"));
    refused + unstable + panicked + count(|o| o.wrong.is_some()) > 0
}
