//! What the cases share: read, reshape, prove, run again.

use std::path::Path;

use vknot_reshape::{imports, indent, layout, proof, Reshape};
use vknot_style::{Override, Style};
use vknot_syntax::{Language, Source, Tree};

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

pub struct Read {
    pub source: Source,
    pub tree: Tree,
}

pub fn read(language: &str, text: &str) -> Read {
    let language = Language::named(language).unwrap();
    let source = Source::from_text("Gauge", text);
    let tree = Tree::read(&source, language);
    Read { source, tree }
}

pub fn style(language: &str, set: &[&str]) -> Style {
    let overrides: Vec<Override> = set.iter().map(|set| set.parse().unwrap()).collect();
    Style::with(language, &overrides)
}

/// Lays out a text; the result must be proven, and the same after a second run.
pub fn formatted(language: &str, text: &str, set: &[&str]) -> String {
    let style = style(language, set);
    let once = run(language, text, &|read| layout::format(&read.source, &read.tree, &style, None));
    let twice = run(language, &once, &|read| layout::format(&read.source, &read.tree, &style, None));
    assert_eq!(once, twice, "a second run changes the result");
    once
}

pub fn indented(language: &str, text: &str, set: &[&str]) -> String {
    let style = style(language, set);
    let set = |text: &str| {
        let read = read(language, text);
        let reshape = indent::set(&read.source, &read.tree, &style, None);
        match indent::prove(&read.source, &read.tree, &reshape) {
            Ok(proven) => proven.source.text().to_owned(),
            Err(refusal) => panic!("{refusal}\n{}", reshape.edits.apply(text)),
        }
    };
    let once = set(text);
    let twice = set(&once);
    assert_eq!(once, twice, "a second run changes the result");
    once
}

fn run(language: &str, text: &str, reshape: &dyn Fn(&Read) -> Reshape) -> String {
    let read = read(language, text);
    let reshape = reshape(&read);
    match proof::prove_layout(&read.source, &read.tree, &reshape) {
        Ok(proven) => proven.source.text().to_owned(),
        Err(refusal) => panic!("{refusal}\n{}", reshape.edits.apply(text)),
    }
}

/// Puts imports in order; gives the new text and what was removed and remarked.
pub fn organized(language: &str, text: &str) -> (String, Vec<String>) {
    let read = read(language, text);
    let reshape = imports::organize(&read.source, &read.tree, &style(language, &[]), None);
    let proven = imports::prove(&read.source, &read.tree, &reshape).unwrap();
    let removed = reshape.receipt.removed.iter().map(|removed| format!("- {}", removed.text));
    let notes = reshape.receipt.notes.iter().map(|note| format!("* {}", note.text));
    let remarks = removed.chain(notes).collect();
    let again = imports::organize(&proven.source, &proven.tree, &style(language, &[]), None);
    assert!(again.edits.is_empty(), "a second run changes the result");
    (proven.source.text().to_owned(), remarks)
}

/// Shows cases one below the other, each before and after.
pub fn shown(cases: &[(&str, String)]) -> String {
    cases.iter().map(|(name, text)| format!("── {name}\n{}\n", text.trim_end())).collect()
}

/// Reads text of no language.
pub fn read_plain(text: &str) -> Read {
    let source = Source::from_text("notes", text);
    let tree = Tree::read(&source, Language::plain());
    Read { source, tree }
}
