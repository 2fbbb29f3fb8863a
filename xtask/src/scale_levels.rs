//! `corpus --strip-indent` where indentation is meaning and cannot be taken away: levels are scaled there and back, and must come
//! out the same to the byte.

use std::collections::BTreeMap;

use rayon::prelude::*;
use vknot_reshape::indent::{self, Target};
use vknot_reshape::steps::Wish;
use vknot_style::Override;
use vknot_syntax::Source;

use crate::steps::{document, proven, step};
use crate::walk::Sample;

/// What is tried: a name, the settings that bring a file into shape, those that lead away from it and those that lead back.
const TRIPS: &[(&str, &str, &str, &str)] = &[
    ("as found -> 2 -> as found", "", "indent_style=space indent_size=2", ""),
    (
        "2 -> 4 -> 2",
        "indent_style=space indent_size=2",
        "indent_style=space indent_size=4",
        "indent_style=space indent_size=2",
    ),
    (
        "tabs -> 4 spaces -> tabs",
        "indent_style=tab tab_width=8",
        "indent_style=space indent_size=4",
        "indent_style=tab tab_width=8",
    ),
];

/// Runs over samples and prints how many came back.
pub fn run(samples: &[&Sample], show: usize) {
    let mut by_language: BTreeMap<&str, Vec<&Sample>> = BTreeMap::new();
    samples.iter().for_each(|sample| by_language.entry(sample.language.name()).or_default().push(sample));
    for (language, samples) in by_language {
        let bytes: usize = samples.iter().map(|sample| sample.source.text().len()).sum();
        println!("\n{language}: {} files, {:.1} MB", samples.len(), bytes as f64 / 1e6);
        for trip in TRIPS {
            report(trip.0, &samples, show, &|sample| round_trip(sample, trip));
        }
        report("convert to tabs -> spaces -> tabs", &samples, show, &converted);
    }
}

fn report(name: &str, samples: &[&Sample], show: usize, trip: &(dyn Fn(&Sample) -> Option<bool> + Sync)) {
    let results: Vec<(&Sample, Option<bool>)> = samples.par_iter().map(|sample| (*sample, trip(sample))).collect();
    let count = |wanted: Option<bool>| results.iter().filter(|(_, result)| *result == wanted).count();
    println!("  {name}: {} came back, {} did not, {} refused", count(Some(true)), count(Some(false)), count(None));
    let bad = results.iter().filter(|(_, result)| *result != Some(true)).take(show);
    bad.for_each(|(sample, _)| println!("    {}", sample.source.path().display()));
}

/// The proven result of setting a text; `None` when it is refused.
fn set(sample: &Sample, text: &str, settings: &str) -> Option<String> {
    let overrides: Vec<Override> = settings.split(' ').filter_map(|setting| setting.parse().ok()).collect();
    let source = Source::from_text(sample.source.path(), text);
    proven(step("indent").ok()?, &document(&source, sample.language, &overrides), Wish::Nothing)
}

fn round_trip(sample: &Sample, (_, shape, there, back): &(&str, &str, &str, &str)) -> Option<bool> {
    let shaped = set(sample, sample.source.text(), shape)?;
    let away = set(sample, &shaped, there)?;
    // Where the file's own indentation is to come back, it has to be named.
    let found = indent::found_indentation(document(&sample.source, sample.language, &[]).code());
    let own = found.map(|found| match found.tabs {
        true => format!("indent_style=tab tab_width={}", found.tab_width),
        false => format!("indent_style=space indent_size={}", found.size),
    });
    let back = if back.is_empty() { own.unwrap_or_default() } else { (*back).to_owned() };
    Some(set(sample, &away, &back)? == shaped)
}

fn converted(sample: &Sample) -> Option<bool> {
    let convert = |text: &str, target| {
        let source = Source::from_text(sample.source.path(), text);
        proven(step("convert").ok()?, &document(&source, sample.language, &[]), Wish::Convert(target))
    };
    let tabs = convert(sample.source.text(), Target::Tabs)?;
    Some(convert(&convert(&tabs, Target::Spaces(Some(4)))?, Target::Tabs)? == tabs)
}
