//! What the cases share: read, reshape, prove, run again.

use std::path::Path;

use vknot_reshape::{Act, default_style, Reshape, style_of};
use vknot_reshape::steps::{Document, Proven, prove, prove_by_tree, Refusal, Request, Step, Wish};
use vknot_style::{Override, Style};
use vknot_syntax::{Language, Source};

/// The files of the sample project by path, with their languages.
pub fn sample_files() -> Vec<(String, &'static str, String)> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let mut folders = vec![root.clone()];
    let mut files = Vec::new();
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(folder).unwrap() {
            let path = entry.unwrap().path();
            if path.is_dir() {
                folders.push(path);
            } else if let Ok(text) = std::fs::read_to_string(&path)
                && let Some(language) = Language::of_file(&path, &text)
            {
                let shown = path.strip_prefix(&root).unwrap().display().to_string();
                files.push((shown, language.name(), text));
            }
        }
    }
    files.sort();
    files
}

/// A text in a language, in its default style.
pub fn read(language: &str, text: &str) -> Document {
    styled(language, text, &[])
}

/// A text in a language with some settings.
pub fn styled(language: &str, text: &str, set: &[&str]) -> Document {
    let language = Language::named(language).unwrap();
    Document::new(Source::from_text("Gauge", text), language, style(language.name(), set))
}

pub fn style(language: &str, set: &[&str]) -> Style {
    let overrides: Vec<Override> = set.iter().map(|set| set.parse().unwrap()).collect();
    Style::with(style_of(Language::named(language).unwrap()), &overrides)
}

pub fn step(name: &str) -> &'static Step {
    Step::named(name).unwrap()
}

/// What a step would do to the whole of a document, not proven.
pub fn reshape(name: &str, document: &Document, wish: Wish) -> Reshape {
    step(name).reshape(document, &Request { only: None, wish, ..Request::default() }).unwrap()
}

/// Proves edits by the contract of a step.
pub fn prove_as(name: &str, document: &Document, reshape: Reshape) -> Result<Proven, Refusal> {
    prove(document, reshape, step(name).contract)
}

/// The proven result of a step, which must be the same after a second run; a result that is proven by its lexemes must also be proven by
/// its tree.
pub fn done(name: &str, document: &Document, wish: Wish) -> Proven {
    let reshape = reshape(name, document, wish.clone());
    let wanted = reshape.edits.apply(document.source().text());
    if let Err(refusal) = prove_by_tree(document, &reshape, step(name).contract) {
        panic!("{refusal}\n{wanted}");
    }
    let proven = prove_as(name, document, reshape).unwrap();
    assert_eq!(proven.text(), wanted);
    if step(name).settles {
        let again = self::reshape(name, proven.document(), wish);
        assert!(again.edits.is_empty(), "a second run changes the result\n{}", again.edits.apply(proven.text()));
    }
    proven
}

/// Lays out a text.
pub fn formatted(language: &str, text: &str, set: &[&str]) -> String {
    done("format", &styled(language, text, set), Wish::Nothing).text().to_owned()
}

pub fn indented(language: &str, text: &str, set: &[&str]) -> String {
    done("indent", &styled(language, text, set), Wish::Nothing).text().to_owned()
}

/// Puts imports in order; gives the new text and what was removed and remarked.
pub fn organized(language: &str, text: &str) -> (String, Vec<String>) {
    let proven = done("imports", &read(language, text), Wish::Nothing);
    let receipt = proven.receipt();
    let removed = receipt.removed.iter().map(|removed| format!("- {}", removed.text));
    let notes = receipt.notes.iter().map(|note| format!("* {}", note.text));
    let kept = receipt.imports.iter().filter(|fate| fate.act == Act::Kept);
    let kept = kept.map(|fate| format!("* {}: {}", fate.import, fate.why));
    (proven.text().to_owned(), removed.chain(notes).chain(kept).collect())
}

/// Shows cases one below the other, each before and after.
pub fn shown(cases: &[(&str, String)]) -> String {
    cases.iter().map(|(name, text)| format!("── {name}\n{}\n", text.trim_end())).collect()
}

/// Text of no language.
pub fn read_plain(text: &str) -> Document {
    Document::new(Source::from_text("notes", text), Language::plain(), default_style(Language::plain()))
}
