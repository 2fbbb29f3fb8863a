//! Steps over samples, as the program runs them.

use anyhow::Context;
use vknot_reshape::{Edits, style_of};
use vknot_reshape::steps::{Document, Request, Step, Wish};
use vknot_style::{Override, Style};
use vknot_syntax::{Language, Source};

/// The step of that name.
pub fn step(name: &str) -> anyhow::Result<&'static Step> {
    Step::named(name).with_context(|| format!("there is no step `{name}`"))
}

/// A text as a document with some settings.
pub fn document(source: &Source, language: &'static Language, set: &[Override]) -> Document {
    Document::new(source.clone(), language, Style::with(style_of(language), set))
}

/// What a step would do to a whole document, not proven.
pub fn edits(step: &Step, document: &Document) -> Edits {
    step.reshape(document, &Request::default()).map(|reshape| reshape.edits).unwrap_or_default()
}

/// The proven result of a step; `None` when it is refused.
pub fn proven(step: &Step, document: &Document, wish: Wish) -> Option<String> {
    let proven = step.run(document, &Request { wish, generated: true, ..Request::default() }).ok()?;
    Some(proven.text().to_owned())
}
