//! `corpus --strip-indent`: the indentation of well-kept files is taken away and set again. Told are the share of lines that come
//! back as their authors had them, and the share that comes out alike when a file is cut off somewhere.
//!
//! Stripped is every line that begins with a token; the lines inside a block comment lose what its first line lost, those that begin with `*`
//! all of it; lines inside other tokens of several lines are left. Every code base (a folder below a root) gets the settings that suit
//! it best, found by trying; a file that shows another manner by its lines goes by that.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use rayon::prelude::*;
use vknot_reshape::indent::{self, HeadVotes};
use vknot_reshape::{capabilities, style_of};
use vknot_reshape::steps::{Document, Proven, Request, Step, StepError};
use vknot_style::{Indentation, Origin, Override, Setting, Style};
use vknot_syntax::{NodeId, Source};

use crate::steps::{document, edits};
use crate::walk::Sample;

/// Every file keeps the width and the tabs or spaces it had, as it does where nothing sets them.
const AS_FOUND: &str = "width-as-found";

/// What holds in the language when nothing sets it.
const DEFAULT: &str = "";

/// What is tried, in order. A step may set several settings at once.
const CHOICES: &[&[&str]] = &[
    &[DEFAULT, "vknot_indent_page=nested", "vknot_indent_page=flush", "vknot_indent_page=flat"],
    &[DEFAULT, "vknot_indent_function=0", "vknot_indent_function=1"],
    &[
        AS_FOUND,
        "indent_size=4",
        "indent_size=2",
        "indent_size=3",
        "indent_size=8",
        "indent_style=tab tab_width=8 indent_size=tab",
        "indent_style=tab tab_width=4 indent_size=tab",
        "indent_style=tab tab_width=8 indent_size=4",
        "indent_style=tab tab_width=8 indent_size=2",
    ],
    &[DEFAULT, "vknot_indent_case=0", "vknot_indent_case=1", "vknot_indent_case=half"],
    &[DEFAULT, "vknot_align_list=none", "vknot_align_list=arguments", "vknot_align_list=all"],
    &[DEFAULT, "vknot_indent_brace=0", "vknot_indent_brace=1"],
    &[DEFAULT, "vknot_indent_access=type", "vknot_indent_access=half", "vknot_indent_access=member"],
    &[DEFAULT, "vknot_indent_namespace=0", "vknot_indent_namespace=1"],
    &[DEFAULT, "vknot_wrap_indent=1", "vknot_wrap_indent=2", "vknot_wrap_indent=half"],
    &[DEFAULT, "vknot_indent_case_brace=0", "vknot_indent_case_brace=1"],
    &[DEFAULT, "vknot_indent_case_else=1"],
    &[DEFAULT, "vknot_indent_bracket=1"],
    &[DEFAULT, "vknot_indent_condition=0"],
    &[DEFAULT, "vknot_indent_else_if=0", "vknot_indent_else_if=1"],
    &[DEFAULT, "vknot_wrap_literal=level", "vknot_wrap_literal=wrap"],
    &[DEFAULT, "vknot_align_operand=false", "vknot_align_operand=true"],
    &[DEFAULT, "vknot_indent_operand=0", "vknot_indent_operand=1", "vknot_indent_operand=2"],
    &[DEFAULT, "vknot_indent_label=out", "vknot_indent_label=margin", "vknot_indent_label=in"],
    &[DEFAULT, "vknot_indent_directive=margin", "vknot_indent_directive=code"],
    &[DEFAULT, "vknot_align_tabs=false", "vknot_align_tabs=true"],
];

/// Bytes of a code base that settings are tried on.
const TRIED: usize = 400_000;

/// Files above this size are generated more often than not.
const LARGEST: usize = 300_000;

/// How much is told of what went wrong.
#[derive(Clone, Copy)]
pub struct Shown {
    /// Refusals and reasons for each language.
    pub reasons: usize,
    /// Lines for each file.
    pub lines: usize,
}

/// One file, stripped.
struct Stripped<'s> {
    sample: &'s Sample,
    document: Document,
    /// The indentation it had.
    found: Option<Indentation>,
    /// How its forms are indented, by their heads.
    heads: String,
}

/// Lines that came back, and lines there were.
#[derive(Clone, Copy, Default)]
struct Share {
    same: usize,
    all: usize,
}

impl std::ops::AddAssign for Share {
    fn add_assign(&mut self, other: Share) {
        self.same += other.same;
        self.all += other.all;
    }
}

impl std::fmt::Display for Share {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(out, "{:6.2}% of {}", 100.0 * self.same as f64 / self.all.max(1) as f64, self.all)
    }
}

/// What became of a code base.
#[derive(Default)]
struct Tally {
    bytes: usize,
    restored: Share,
    /// The same if every file goes by the settings of its code base.
    by_base: Share,
    cut: Share,
    refused: Vec<String>,
    /// Files of which many lines come out otherwise when they are cut off, with how many.
    badly_cut: Vec<(usize, String)>,
    /// How often a line beginning with that kind of node, inside that kind, went so far wrong; with a place.
    reasons: BTreeMap<(String, i64), (usize, String)>,
    /// Lines that went wrong, as they were and as they came out.
    otherwise: String,
}

/// Runs over samples and prints what came out.
pub fn run(roots: &[PathBuf], samples: &[&Sample], set: &[Override], shown: Shown) {
    let mut bases: BTreeMap<(&str, String), Vec<&Sample>> = BTreeMap::new();
    for sample in samples
        .iter()
        .filter(|sample| sample.source.text().len() <= LARGEST && capabilities(sample.language).indentation)
    {
        bases.entry((sample.language.name(), base_of(roots, sample.source.path()))).or_default().push(*sample);
    }
    let mut totals: BTreeMap<&str, Tally> = BTreeMap::new();
    for ((language, base), samples) in bases {
        let heads = votes(&samples);
        let settings = suiting(&samples, set, &heads);
        let tally = judged(&samples, set, &settings, &heads, shown.lines);
        let chosen: Vec<&str> = settings.iter().flat_map(|setting| setting.split(' ')).collect();
        println!("{language:10} {:>7.2} MB  {}  {base}  {}", tally.bytes as f64 / 1e6, tally.restored, chosen.join(" "));
        let total = totals.entry(language).or_default();
        total.bytes += tally.bytes;
        total.restored += tally.restored;
        total.by_base += tally.by_base;
        total.cut += tally.cut;
        total.refused.extend(tally.refused);
        total.badly_cut.extend(tally.badly_cut);
        for (reason, (count, place)) in tally.reasons {
            let entry = total.reasons.entry(reason).or_insert((0, place));
            entry.0 += count;
        }
    }
    for (language, tally) in totals {
        println!("\n{language}: {:.1} MB, restored {} ({} with one style for each folder), cut off {}, refused {}", tally.bytes as f64 / 1e6, tally.restored, tally.by_base, tally.cut, tally.refused.len());
        tally.refused.iter().take(shown.reasons).for_each(|why| println!("  refused {why}"));
        let mut badly_cut = tally.badly_cut;
        badly_cut.sort_by_key(|(lines, _)| std::cmp::Reverse(*lines));
        badly_cut
            .iter()
            .take(shown.reasons / 4)
            .for_each(|(lines, file)| println!("  {lines:>6} lines otherwise when cut: {file}"));
        let mut reasons: Vec<_> = tally.reasons.into_iter().collect();
        reasons.sort_by_key(|(_, (count, _))| std::cmp::Reverse(*count));
        for ((reason, off), (count, place)) in reasons.into_iter().take(shown.reasons) {
            println!("  {count:>6} {off:>+4} {reason}  {place}");
        }
    }
}

/// Folders below a root that tell code bases apart: what a package brings along from others often has a style of its own.
const BASE_DEPTH: usize = 3;

/// The folder below a root that holds a file.
fn base_of(roots: &[PathBuf], path: &Path) -> String {
    let root = roots.iter().find(|root| path.starts_with(root));
    let rest = root.and_then(|root| path.strip_prefix(root).ok()).unwrap_or(path);
    let folder: PathBuf = rest.parent().unwrap_or(rest).components().take(BASE_DEPTH).collect();
    folder.display().to_string()
}

/// How most forms of some files are indented, by their heads.
fn votes(samples: &[&Sample]) -> HeadVotes {
    let mut votes = HeadVotes::default();
    samples.iter().for_each(|sample| votes.count(read(sample).code()));
    votes
}

fn read(sample: &Sample) -> Document {
    document(&sample.source, sample.language, &[])
}

fn run_in(document: &Document, style: &Style) -> Result<Proven, StepError> {
    let step = Step::named("indent").ok_or(StepError::Missing("a step to set lines"))?;
    step.run(&document.clone().with_style(style.clone()), &Request::default())
}

/// The text with its lines set in a style, proven or not.
fn set_in(document: &Document, style: &Style) -> String {
    let document = document.clone().with_style(style.clone());
    let edits = Step::named("indent").map(|step| edits(step, &document)).unwrap_or_default();
    edits.apply(document.source().text())
}

/// Strips a file. Its forms go by the way it has itself, where that tells, else by that of its code base.
fn strip<'s>(sample: &'s Sample, base_heads: &HeadVotes) -> Stripped<'s> {
    let whole = read(sample);
    let (text, found) = (indent::stripped(whole.code()), indent::found_indentation(whole.code()));
    let document = document(&Source::from_text(sample.source.path(), text), sample.language, &[]);
    let mut own = votes(&[sample]);
    own.count_others(base_heads);
    let heads = own.setting(whole.code());
    Stripped { sample, document, found, heads }
}

fn style(file: &Stripped<'_>, set: &[Override], settings: &[&str]) -> Style {
    let found = file.found.filter(|_| settings.contains(&AS_FOUND)).map(|found| match found.tabs {
        true => "indent_style=tab tab_width=8 indent_size=tab".to_owned(),
        false => format!("indent_style=space indent_size={}", found.size),
    });
    let heads = format!("vknot_indent_heads={}", file.heads).parse().ok();
    let (how, width): (Vec<&str>, Vec<&str>) = settings.iter().partition(|setting| setting.starts_with("vknot_"));
    let width = width.into_iter().chain(found.as_deref()).flat_map(|setting| setting.split(' '));
    let width = width.filter_map(|setting| setting.parse().ok()).chain(heads);
    let all: Vec<Override> = width.chain(set.iter().cloned()).collect();
    // The file itself may show another way of doing the rest.
    let pairs = how.iter().filter_map(|setting| setting.split_once('='));
    pairs.fold(Style::with(style_of(file.sample.language), &all), |style, (key, value)| match Setting::named(key) {
        Some(setting) if style.origin(setting.id) == Origin::Default => style.with_found(setting.id, value.to_owned()),
        _ => style,
    })
}

/// The settings with which most lines of some files of a code base come back.
fn suiting(samples: &[&Sample], set: &[Override], heads: &HeadVotes) -> Vec<&'static str> {
    let step = samples.iter().map(|sample| sample.source.text().len()).sum::<usize>() / TRIED + 1;
    let tried: Vec<Stripped<'_>> = samples.par_iter().step_by(step).map(|sample| strip(sample, heads)).collect();
    let same = |settings: &[&str]| -> usize {
        tried.par_iter().map(|file| restored(file, &style(file, set, settings)).0.same).sum()
    };
    let mut settings: Vec<&str> = CHOICES.iter().map(|choice| choice[0]).collect();
    let mut best = same(&settings);
    for _ in 0..2 {
        for (index, choice) in CHOICES.iter().enumerate() {
            for value in *choice {
                let before = std::mem::replace(&mut settings[index], value);
                let found = if before == *value { best } else { same(&settings) };
                if found > best {
                    best = found;
                } else {
                    settings[index] = before;
                }
            }
        }
    }
    settings.retain(|setting| *setting != DEFAULT);
    settings
}

/// Sets the indentation of a stripped file; the share of lines that are as they were, and the new text.
fn restored(file: &Stripped<'_>, style: &Style) -> (Share, String) {
    let text = set_in(&file.document, style);
    (alike(file.sample.source.text(), &text, usize::MAX), text)
}

/// The share of the lines that hold something that begin alike, up to a line.
fn alike(wanted: &str, found: &str, lines: usize) -> Share {
    let mut share = Share::default();
    for (wanted, found) in wanted.lines().zip(found.lines()).take(lines) {
        if !wanted.trim().is_empty() {
            share += Share { same: usize::from(blank(wanted) == blank(found)), all: 1 };
        }
    }
    share
}

fn blank(line: &str) -> &str {
    &line[..line.len() - line.trim_start_matches([' ', '\t']).len()]
}

fn judged(samples: &[&Sample], set: &[Override], settings: &[&str], heads: &HeadVotes, lines: usize) -> Tally {
    let judge = |sample: &&Sample| {
        let file = strip(sample, heads);
        let base_style = style(&file, set, settings);
        let style = indent::own_style(read(sample).code(), &base_style).fixed();
        let (share, text) = restored(&file, &style);
        let by_base = restored(&file, &base_style.fixed()).0;
        let mut tally = Tally { bytes: sample.source.text().len(), restored: share, by_base, ..Tally::default() };
        tally.cut = cut_off(&file, &style, &text);
        if tally.cut.same * 10 < tally.cut.all * 9 {
            let shown = sample.source.path().display();
            tally.badly_cut.push((tally.cut.all - tally.cut.same, format!("{shown}, {} lines", tally.cut.all)));
        }
        if let Err(StepError::Refused(refusal)) = run_in(&file.document, &style) {
            let line = file.document.source().line(refusal.offset);
            tally.refused.push(format!("{}:{line}: {}", sample.source.path().display(), refusal.reason));
        }
        explain(&file, &text, &mut tally);
        tally.otherwise = otherwise(&file, &text, lines);
        tally
    };
    let tallies: Vec<Tally> = samples.par_iter().map(judge).collect();
    let mut total = Tally::default();
    for tally in tallies {
        total.bytes += tally.bytes;
        total.restored += tally.restored;
        total.by_base += tally.by_base;
        total.cut += tally.cut;
        print!("{}", tally.otherwise);
        total.refused.extend(tally.refused);
        total.badly_cut.extend(tally.badly_cut);
        for (reason, (count, place)) in tally.reasons {
            total.reasons.entry(reason).or_insert((0, place)).0 += count;
        }
    }
    total
}

/// The first lines of a file that went wrong: as they were and as they came out, each run behind the line above it.
fn otherwise(file: &Stripped<'_>, text: &str, most: usize) -> String {
    let mut out = String::new();
    let (mut above, mut told) = (None, 0);
    for (index, (wanted, found)) in file.sample.source.text().lines().zip(text.lines()).enumerate() {
        if wanted.trim().is_empty() || blank(wanted) == blank(found) {
            above = Some(wanted);
        } else if told < most {
            if let Some(line) = above.take() {
                out += &format!("{}:{}\n  {line}\n", file.sample.source.path().display(), index + 1);
            }
            out += &format!("- {wanted}\n+ {found}\n");
            told += 1;
        }
    }
    out
}

/// Cuts a stripped file off at a byte that its length decides, and compares the lines before with what the whole file gave.
fn cut_off(file: &Stripped<'_>, style: &Style, whole: &str) -> Share {
    let text = file.document.source().text();
    let mut at = text.len() * (text.len() % 97 + 2) / 100;
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    let kept = text.get(..at).unwrap_or("");
    let source = Source::from_text(file.sample.source.path(), kept);
    let result = set_in(&document(&source, file.sample.language, &[]), style);
    alike(whole, &result, kept.matches('\n').count())
}

/// Counts the lines that went wrong by what they begin with and how far off they are.
fn explain(file: &Stripped<'_>, text: &str, tally: &mut Tally) {
    let (source, tree) = (file.document.source(), file.document.tree());
    let lines = file.sample.source.text().lines().zip(text.lines());
    let (mut above, mut off_above) = ("", 0);
    for (index, (wanted, found)) in lines.enumerate() {
        let before = above;
        above = if wanted.trim().is_empty() { above } else { wanted };
        let width = |line: &str| blank(line).chars().map(|c| if c == '\t' { 8 } else { 1 }).sum::<i64>();
        let off = width(found) - width(wanted);
        // A line that is as far off as the one above it follows from that.
        if wanted.trim().is_empty() || std::mem::replace(&mut off_above, off) == off || off == 0 {
            continue;
        }
        let line = source.lines().span(source.text(), index as u32);
        let token = tree.tokens().get(tree.token_from(line.start) as usize);
        let kind = token.map_or("inside".to_owned(), |token| {
            let mut id = token.node;
            while tree.node(tree.node(id).parent).start == token.start && id != NodeId(0) {
                id = tree.node(id).parent;
            }
            let names: Vec<&str> = tree.ancestors(id).take(3).map(|id| tree.kind_name(id)).collect();
            names.join(" < ")
        });
        let place = format!("{}:{}\n{before}\n{wanted}", file.sample.source.path().display(), index + 1);
        tally.reasons.entry((kind, off)).or_insert((0, place)).0 += 1;
    }
}
