//! `corpus`: every file is formatted in memory, proven, and formatted again.

use std::collections::BTreeMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::{Duration, Instant};

use rayon::prelude::*;
use vknot_reshape::{layout, proof};
use vknot_style::{Override, Style};
use vknot_syntax::{Source, Tree};

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
    /// How many bad files to name for each language
    #[arg(long, default_value_t = 20)]
    show: usize,
}

/// What became of one file.
#[derive(Default)]
struct Outcome {
    bytes: usize,
    errors: bool,
    changed: bool,
    refused: Option<String>,
    unstable: Option<String>,
    panicked: bool,
    took: Duration,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let samples = samples(&arguments.roots, arguments.language.as_deref());
    let outcomes: Vec<(&Sample, Outcome)> =
        samples.par_iter().map(|sample| (sample, judge(sample, &arguments.set))).collect();
    let mut by_language: BTreeMap<&str, Vec<&(&Sample, Outcome)>> = BTreeMap::new();
    for pair in &outcomes {
        by_language.entry(pair.0.language.name()).or_default().push(pair);
    }
    let mut bad = false;
    for (language, pairs) in by_language {
        bad |= report(language, &pairs, arguments.show);
    }
    Ok(if bad { ExitCode::FAILURE } else { ExitCode::SUCCESS })
}

fn judge(sample: &Sample, set: &[Override]) -> Outcome {
    let start = Instant::now();
    let mut outcome = catch_unwind(AssertUnwindSafe(|| judge_unguarded(sample, set))).unwrap_or(Outcome {
        panicked: true,
        ..Outcome::default()
    });
    outcome.took = start.elapsed();
    outcome.bytes = sample.source.text().len();
    outcome
}

fn judge_unguarded(sample: &Sample, set: &[Override]) -> Outcome {
    let style = Style::with(sample.language.name(), set);
    let source = &sample.source;
    let tree = Tree::read(source, sample.language);
    let mut outcome = Outcome { errors: tree.has_error(), ..Outcome::default() };
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

/// Where a second run would still change something.
fn second_run(source: &Source, tree: &Tree, style: &Style) -> Option<String> {
    let again = layout::format(source, tree, style, None);
    let (span, new) = again.edits.iter().next()?;
    let line = source.line(span.start);
    Some(
        format!("line {line} of the result: {:?} becomes {new:?}: {}", source.slice(span), source.lines().text(source.text(), line - 1)),
    )
}

fn report(language: &str, pairs: &[&(&Sample, Outcome)], show: usize) -> bool {
    let count = |test: fn(&Outcome) -> bool| pairs.iter().filter(|pair| test(&pair.1)).count();
    let bytes: usize = pairs.iter().map(|pair| pair.1.bytes).sum();
    let (refused, unstable) = (count(|o| o.refused.is_some()), count(|o| o.unstable.is_some()));
    let panicked = count(|o| o.panicked);
    let slowest = pairs.iter().max_by_key(|pair| pair.1.took);
    println!("{language}: {} files, {:.1} MB", pairs.len(), bytes as f64 / 1e6);
    println!("  with syntax errors  {}", count(|o| o.errors));
    println!("  changed             {}", count(|o| o.changed));
    println!("  refused             {refused}");
    println!("  unstable            {unstable}");
    println!("  panics              {panicked}");
    if let Some((sample, outcome)) = slowest {
        let speed = outcome.bytes as f64 / 1e6 / outcome.took.as_secs_f64();
        println!("  slowest             {:?} at {speed:.1} MB/s: {}", outcome.took, sample.source.path().display());
    }
    let bad = pairs.iter().filter_map(|(sample, outcome)| {
        let path = sample.source.path().display();
        let refused = outcome.refused.as_ref().map(|why| format!("  refused  {path}:{why}"));
        let unstable = outcome.unstable.as_ref().map(|why| format!("  unstable {path}: {why}"));
        refused.or(unstable).or(outcome.panicked.then(|| format!("  panic    {path}")))
    });
    bad.take(show).for_each(|line| println!("{line}"));
    refused + unstable + panicked > 0
}
