//! `round-trip`: lays files out in styles chosen at random and learns the style back from what came out.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::process::ExitCode;

use anyhow::Context;
use rayon::prelude::*;
use vknot_reshape::Alone;
use vknot_reshape::steps::{Document, Request, Step};
use vknot_reshape::style_of;
use vknot_reshape::styling::{Costs, Folders, Learnt, Trial, learn};
use vknot_style::{Key, Override};
use vknot_syntax::{Language, Source};

use crate::random::Random;
use crate::steps::document;
use crate::walk::samples;

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders with files
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// The language
    #[arg(long)]
    language: String,
    /// How many styles
    #[arg(long, default_value_t = 200)]
    styles: u64,
    /// The first of them
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Kilobytes of files that are laid out
    #[arg(long, default_value_t = 30)]
    kilobytes: usize,
}

/// What became of a setting that the files were laid out with.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum Fate {
    /// It was learnt.
    Back,
    /// Another value makes nearly the same of the files.
    NoTrace,
    /// It was not learnt, but the files stay as they are without it.
    Shown,
    /// Neither, though it left a trace.
    Lost,
}

/// Lines that other values must change at least for one to have left a trace.
const TRACE: u64 = 10;

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let language = Language::named(&arguments.language)
        .with_context(|| format!("there is no language `{}`", arguments.language))?;
    let files = chosen(arguments, language);
    let mut fates: BTreeMap<Fate, usize> = BTreeMap::new();
    for seed in arguments.seed..arguments.seed + arguments.styles {
        for (set, fate) in round(&files, language, seed) {
            *fates.entry(fate).or_default() += 1;
            if fate == Fate::Lost {
                println!("style {seed}: {} = {} did not come back", set.key().setting().key, set.value());
            }
        }
    }
    let count = |fate: Fate| fates.get(&fate).copied().unwrap_or(0);
    println!(
        "{} styles on {} files of {}: {} settings came back, {} are shown by files, {} left no trace, {} lost",
        arguments.styles,
        files.len(),
        language.name(),
        count(Fate::Back),
        count(Fate::Shown),
        count(Fate::NoTrace),
        count(Fate::Lost),
    );
    Ok(if count(Fate::Lost) == 0 { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

/// Files of middle length that can be read, up to the size that is wanted.
fn chosen(arguments: &Arguments, language: &'static Language) -> Vec<Document> {
    let mut room = arguments.kilobytes * 1024;
    let mut files = Vec::new();
    for sample in samples(&arguments.roots, Some(language.name())) {
        let size = sample.source.text().len();
        let document = document(&sample.source, language, &[]);
        if (1000..8000).contains(&size) && size <= room && !document.tree().has_error() {
            room -= size;
            files.push(document);
        }
    }
    files
}

/// One style: chosen, laid out, learnt, compared.
fn round(files: &[Document], language: &'static Language, seed: u64) -> Vec<(Override, Fate)> {
    let mut questions = Trial::Layout.questions(language, files);
    questions.retain(|(key, _)| !matches!(key, Key::IndentHeads));
    let chosen = style(&questions, seed);
    let laid_out: Vec<Document> = files.par_iter().map(|file| settled(file, &chosen)).collect();
    let evaluate = |set: &[Override]| -> Costs {
        let cost = |file: &Document| Trial::Layout.cost(file, &file.style().clone().overridden(set), &Alone);
        laid_out.par_iter().map(cost).collect()
    };
    let learnt: Learnt = learn(
        style_of(language),
        questions.clone(),
        (&evaluate, &|_| Costs::new()),
        &Folders::default(),
        &mut |_, _| {},
    );
    let settings = learnt.settings();
    let usual = style_of(language);
    if total(&learnt.after) > 0 {
        println!("style {seed}: {} lines are otherwise in the style that was learnt", total(&learnt.after));
    }
    let stays = total(&learnt.after) < TRACE;
    let fate = |set: &Override| {
        let told = settings.iter().find(|told| told.key() == set.key()).map(Override::value);
        if told.unwrap_or(usual.default_of(set.key())) == set.value() {
            return Fate::Back;
        }
        let others = questions.iter().filter(|(key, _)| *key == set.key()).flat_map(|(_, values)| values);
        let other = |value: &String| {
            let other = Override::new(set.key(), value).ok().filter(|other| other != set)?;
            let style: Vec<Override> =
                chosen.iter().filter(|own| own.key() != set.key()).cloned().chain([other]).collect();
            Some(total(&evaluate(&style)))
        };
        let least = others.filter(|value| !matches!(value.as_str(), "as-found" | "keep")).filter_map(other).min();
        match least {
            None => Fate::NoTrace,
            Some(least) if least < TRACE => Fate::NoTrace,
            _ if stays => Fate::Shown,
            _ => Fate::Lost,
        }
    };
    chosen.iter().map(|set| (set.clone(), fate(set))).collect()
}

fn total(costs: &Costs) -> u64 {
    costs.iter().copied().map(u64::from).sum()
}

/// About half of the settings, each with one of the values that say something.
fn style(questions: &[(Key, Vec<String>)], seed: u64) -> Vec<Override> {
    let mut random = Random(seed);
    let value = |(key, values): &(Key, Vec<String>)| {
        let values: Vec<&String> =
            values.iter().filter(|value| !matches!(value.as_str(), "as-found" | "keep")).collect();
        let wanted = random.below(2) == 0 && !values.is_empty();
        Override::new(*key, values.get(random.below(values.len()))?).ok().filter(|_| wanted)
    };
    questions.iter().filter_map(value).collect()
}

/// A file laid out in a style, and left with no style of its own.
fn settled(file: &Document, set: &[Override]) -> Document {
    let language = file.language();
    let document = file.clone().with_style(file.style().clone().overridden(set));
    let step = ["format", "indent"].into_iter().filter_map(Step::named).find(|step| (step.covers)(language));
    let text = step.and_then(|step| Some(step.run(&document, &Request::default()).ok()?.text().to_owned()));
    let text = text.unwrap_or_else(|| file.source().text().to_owned());
    Document::new(Source::from_text(file.source().path(), text), language, file.style().clone())
}
