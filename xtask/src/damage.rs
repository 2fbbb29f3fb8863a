//! `damage`: takes a closing bracket out of sound files, or cuts them off, and tells how much of their outline is still there.
//!
//! Counted are the entries outside of the damage: those that end in front of it, and those that begin behind it. One is kept that has its name, its kind
//! and what holds it.

use std::collections::{BTreeMap, HashSet};
use std::path::PathBuf;
use std::process::ExitCode;

use rayon::prelude::*;
use vknot_reshape::looks::{self, OutlineEntry};
use vknot_reshape::steps::Document;
use vknot_syntax::{Role, Source, Span};

use crate::random::Random;
use crate::steps::document;
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders to take files from
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// How many files to damage in each language
    #[arg(long, default_value_t = 60)]
    files: usize,
    /// Where chance begins
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Name the places whose damage cost entries, this many in each language
    #[arg(long, default_value_t = 0)]
    show: usize,
}

/// Entries outside of the damage, and those of them that are kept: in front of it, behind it, and of a file that was cut off.
#[derive(Clone, Copy, Default)]
struct Kept {
    before: (usize, usize),
    behind: (usize, usize),
    cut: (usize, usize),
    /// Whether the first suspect is the bracket whose partner was taken out, and whether it is within [`NEAR`] lines of it or of the place.
    exact: (usize, usize),
    near: (usize, usize),
}

/// Lines within which a suspect still helps.
const NEAR: u32 = 5;

/// Files with fewer entries tell little.
const ENTRIES_AT_LEAST: usize = 5;
const BYTES_AT_MOST: usize = 200_000;

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let mut by_language: BTreeMap<&str, Vec<Sample>> = BTreeMap::new();
    for sample in samples(&arguments.roots, arguments.language.as_deref()) {
        by_language.entry(sample.language.name()).or_default().push(sample);
    }
    println!(
        "{:<12} {:>5}  {:>16}  {:>16}  {:>16}  {:>12}  {:>12}",
        "", "files", "before", "behind", "cut off", "suspect", "near"
    );
    for (language, samples) in by_language {
        let mut random = Random(arguments.seed);
        let mut order: Vec<(usize, &Sample)> =
            samples.iter().map(|sample| (random.below(usize::MAX), sample)).collect();
        order.sort_by_key(|(place, _)| *place);
        let seeds = order.iter().take(arguments.files * 6).collect::<Vec<_>>();
        let outcomes: Vec<(Kept, Vec<String>)> =
            seeds.par_iter().filter_map(|(seed, sample)| damaged(sample, Random(*seed as u64))).collect();
        let chosen = outcomes.into_iter().take(arguments.files).collect::<Vec<_>>();
        let sum = |part: fn(&Kept) -> (usize, usize)| {
            let (all, kept) = chosen.iter().fold((0, 0), |sum, (kept, _)| (sum.0 + part(kept).0, sum.1 + part(kept).1));
            format!("{kept}/{all} {:.1}%", 100.0 * kept as f64 / (all as f64).max(1.0))
        };
        println!(
            "{language:<12} {:>5}  {:>16}  {:>16}  {:>16}  {:>12}  {:>12}",
            chosen.len(),
            sum(|kept| kept.before),
            sum(|kept| kept.behind),
            sum(|kept| kept.cut),
            sum(|kept| kept.exact),
            sum(|kept| kept.near)
        );
        let lost = chosen.iter().flat_map(|(_, lost)| lost);
        lost.take(arguments.show).for_each(|lost| println!("    {lost}"));
    }
    Ok(ExitCode::SUCCESS)
}

/// Damages a file in both ways; `None` when it is not sound, or tells too little.
fn damaged(sample: &Sample, mut random: Random) -> Option<(Kept, Vec<String>)> {
    let text = sample.source.text();
    let sound = document(&sample.source, sample.language, &[]);
    if text.len() > BYTES_AT_MOST || sound.tree().has_error() {
        return None;
    }
    let entries = looks::outline(sound.code());
    if entries.len() < ENTRIES_AT_LEAST {
        return None;
    }
    let mut kept = Kept::default();
    let mut lost = Vec::new();
    let mut note = |how: &str, at: u32, before: usize, (all, after): (usize, usize)| {
        if before > 0 || after < all {
            let place = sample.source.position16(at);
            let (path, line, unit) = (sample.source.path().display(), place.line + 1, place.character + 1);
            lost.push(format!("{path}:{line}:{unit} {how}: {} lost", before + all - after));
        }
    };
    if let Some(at) = closer(&sound, &mut random) {
        let broken = format!("{}{}", &text[..at as usize], &text[at as usize + 1..]);
        let there = there(sample, broken);
        kept.before = count(&entries, &there, |entry| entry.span.end <= at, |start| start);
        kept.behind =
            count(&entries, &there, |entry| entry.span.start > at, |start| start - u32::from(start > at));
        (kept.exact, kept.near) = suspected(sample, &sound, at);
        if kept.exact.1 == 0 {
            note("suspect", at, 1, (0, 0));
        }
        note("without", at, kept.before.0 - kept.before.1, kept.behind);
    }
    let mut at = random.below(text.len());
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    let there = there(sample, text[..at].to_owned());
    kept.cut = count(&entries, &there, |entry| entry.span.end as usize <= at, |start| start);
    note("cut", at as u32, 0, kept.cut);
    Some((kept, lost))
}

/// Whether `pairs` suspects the bracket whose partner at `at` is taken out, and whether one near it.
fn suspected(sample: &Sample, sound: &Document, at: u32) -> ((usize, usize), (usize, usize)) {
    let text = sample.source.text();
    // Of several in a row it makes no difference which one is taken out.
    let is_like = |other: &u32| text.as_bytes().get(*other as usize) == text.as_bytes().get(at as usize);
    let first = (0..=at).rev().take_while(is_like).last().unwrap_or(at);
    let pairs = looks::pairs(sound.code(), &looks::Marks::default());
    let run = (first..).take_while(is_like);
    let opens: Vec<Span> = run.filter_map(|at| pairs.of(Span::new(at, at + 1))).map(|pair| pair.open).collect();
    if opens.is_empty() {
        return Default::default();
    }
    let source = Source::from_text(sample.source.path(), text[..at as usize].to_owned() + &text[at as usize + 1..]);
    let broken = document(&source, sample.language, &[]);
    let lone = looks::pairs(broken.code(), &looks::Marks::default()).unpaired.into_iter().next();
    let Some(suspect) = lone.map(|lone| lone.culprit.map_or(lone.span, |culprit| culprit.span)) else {
        return ((1, 0), (1, 0));
    };
    let line = source.line(suspect.start);
    let mut places = opens.iter().map(|open| open.start).chain([at]);
    let near = places.any(|place| source.line(place).abs_diff(line) <= NEAR);
    ((1, usize::from(opens.contains(&suspect))), (1, usize::from(near)))
}

/// A closing bracket by chance.
fn closer(document: &Document, random: &mut Random) -> Option<u32> {
    let (text, tree) = (document.source().text(), document.tree());
    let closes = |token: &&vknot_syntax::Token| {
        let inside = matches!(tree.role(token.node), Role::String | Role::Comment | Role::Inert);
        matches!(&text[token.start as usize..token.end as usize], ")" | "]" | "}") && !inside
    };
    let all: Vec<u32> = tree.tokens().iter().filter(closes).map(|token| token.start).collect();
    (!all.is_empty()).then(|| all[random.below(all.len())])
}

/// An entry as it is found again: where it begins, its name, its kind, and where what holds it begins, whose name may be damaged.
type Key = (u32, String, String, Option<u32>);

fn keys(entries: &[OutlineEntry]) -> impl Iterator<Item = Key> + '_ {
    entries.iter().map(|entry| {
        let holder = entry.parent.map(|parent| entries[parent].span.start);
        (entry.span.start, entry.name.clone(), entry.kind.clone(), holder)
    })
}

fn there(sample: &Sample, text: String) -> HashSet<Key> {
    let source = Source::from_text(sample.source.path(), text);
    keys(&looks::outline(document(&source, sample.language, &[]).code())).collect()
}

fn count(
    entries: &[OutlineEntry],
    there: &HashSet<Key>,
    outside: impl Fn(&OutlineEntry) -> bool,
    moved: impl Fn(u32) -> u32,
) -> (usize, usize) {
    let expected = entries.iter().zip(keys(entries)).filter(|(entry, _)| outside(entry));
    let kept: Vec<bool> = expected
        .map(|(_, (start, name, kind, holder))| there.contains(&(moved(start), name, kind, holder.map(&moved))))
        .collect();
    (kept.len(), kept.iter().filter(|kept| **kept).count())
}
