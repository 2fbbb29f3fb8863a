//! What the values of a setting make of its sample.

use std::sync::Arc;

use vknot_style::{Key, Override, Sample, Setting, Style, Values};
use vknot_syntax::{Language, Source};

use crate::registry::style_of;
use crate::spec::imports::{Index, Surroundings};
use crate::steps::{Document, Request, Step, StepError};

/// A sample, laid out and indented with some settings.
///
/// # Errors
/// When the result does not pass its proof.
pub fn sampled(sample: &Sample, set: &[Override]) -> Result<Document, StepError> {
    let language = Language::named(sample.language).unwrap_or(Language::plain());
    let along: Vec<Override> = sample.along.iter().filter_map(|set| set.parse().ok()).collect();
    let style = Style::with(style_of(language), &along).overridden(set);
    let mut document = Document::new(Source::from_text("sample", sample.text), language, style);
    for step in ["imports", "format", "indent"]
        .into_iter()
        .filter_map(Step::named)
        .filter(|step| (step.covers)(language))
    {
        document = step.run(&document, &Request { around: Some(&Shown), ..Request::default() })?.into_document();
    }
    Ok(document)
}

/// A sample stands for the file of a package that says what it offers, in a project of nothing else.
pub struct Shown;

impl Surroundings for Shown {
    fn index(&self) -> Option<Arc<Index>> {
        Some(Arc::default())
    }

    fn place(&self) -> Option<String> {
        Some("tide/__init__.py".to_owned())
    }

    fn name(&self) -> Option<String> {
        None
    }
}

/// What the values of a setting make of its sample: values that make what looks the same stand together, with what they
/// make.
pub fn made_of_sample(setting: &Setting) -> Vec<(Vec<String>, Document)> {
    let mut made: Vec<(Vec<String>, Document)> = Vec::new();
    let Some(sample) = setting.id.sample() else { return made };
    for value in shown_values(setting) {
        let set = Override::new(setting.id, &value).into_iter().collect::<Vec<_>>();
        let Ok(document) = sampled(sample, &set) else { continue };
        let looks_like = |other: &Document| other.source().text().lines().eq(document.source().text().lines());
        match made.iter_mut().find(|(_, other)| looks_like(other)) {
            Some((values, _)) => values.push(value),
            None => made.push((vec![value], document)),
        }
    }
    made
}

/// The values that a sample is shown with; of numbers without end some that differ.
fn shown_values(setting: &Setting) -> Vec<String> {
    let words = |words: &[&str]| words.iter().map(|word| (*word).to_owned()).collect();
    match (setting.id, setting.values) {
        (Key::IndentHeads, _) => words(&["with-gauge=1", "with-gauge=call"]),
        (Key::MaxLineLength, _) => words(&["60", "off"]),
        (Key::IndentSize, _) => words(&["2", "4"]),
        (Key::TabWidth, _) => words(&["2", "8"]),
        (Key::BlankMost, _) => words(&["as-found", "0", "1", "3"]),
        (Key::ImportGroups, _) => words(&["as-found", "other, standard", "written"]),
        (Key::ImportOwn, _) => words(&["", "tide"]),
        (Key::ImportWildcard, _) => words(&["keep", "expand", "3"]),
        (_, Values::Number(..)) => setting.choices(),
        (_, Values::Words(choices)) => words(choices),
        (_, Values::Pairs(..) | Values::Names(_)) => Vec::new(),
    }
}
