//! `docs`: what is generated from tables. A test fails when it is stale.

use std::path::{Path, PathBuf};
use std::process::{Command, ExitCode};

use anyhow::Context;
use vknot_reshape::{capabilities, style_of};
use vknot_reshape::styling::made_of_sample;
use vknot_style::{Setting, SETTINGS};
use vknot_syntax::{Language, Reader};

const HEAD: &str = "# Settings

Settings live in `.editorconfig` files: sections by glob, the nearest file wins, `root = true` ends the search. `--set KEY=VALUE`
beats the files. Keys of other programs are passed over; a mistake in one of ours is reported with its line.

| key | values | default | what it says |
| --- | --- | --- | --- |
";

/// Makes a page.
type Make = fn() -> String;

/// The pages that are generated: their names and what makes them.
const PAGES: [(&str, Make); 2] = [("settings.md", settings), ("languages.md", languages)];

pub fn run() -> anyhow::Result<ExitCode> {
    for (name, make) in PAGES {
        let path = page(name);
        std::fs::write(&path, make()).with_context(|| format!("cannot write {}", path.display()))?;
    }
    // What the program says of itself is printed by its own test.
    let status = Command::new(env!("CARGO"))
        .args([
            "test",
            "--quiet",
            "--package",
            "vknot",
            "--",
            "the_command_reference_is_fresh",
            "the_page_of_edits_is_fresh",
        ])
        .env("VKNOT_DOCS", "write")
        .status()
        .context("cannot run cargo")?;
    Ok(if status.success() { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

fn page(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../docs").join(name)
}

const LANGUAGES_HEAD: &str = "# Languages

`outline`, `fold`, `pairs`, `select`, `todos`, `region list` and `pin` work in every language, on whole and on half-typed files, and in code
that is embedded in another file. Files of no known language are read by their indentation and brackets. A language is known by
file name, by a first line (`#!`, `#lang`, a mode line), or by `--language`.

| language | `--language` | files | read by | sections | region markers | `indent` | `format` | `imports` |
| --- | --- | --- | --- | --- | --- | --- | --- | --- |
";

/// What works in which language.
fn languages() -> String {
    Language::all().fold(LANGUAGES_HEAD.to_owned(), |page, language| page + &language_row(language))
}

fn language_row(language: &'static Language) -> String {
    let spec = language.spec();
    let can = capabilities(language);
    let tick = |yes| if yes { "yes" } else { "" };
    let files: Vec<String> = spec.extensions
        .iter()
        .map(|ending| format!("`.{ending}`"))
        .chain(spec.file_names.iter().map(|name| format!("`{name}`")))
        .collect();
    let read_by = match language.reading().reader {
        Reader::Grammar(_) => "grammar",
        Reader::Own { .. } => "own reader",
    };
    let region = can.region.map_or(String::new(), |(open, close)| format!("`{open}`, `{close}`"));
    format!(
        "| {} | `{}` | {} | {read_by} | {} | {region} | {} | {} | {} |\n",
        spec.title, spec.name, files.join(" "), tick(can.sections), tick(can.indentation), tick(can.layout), tick(can.imports),
    )
}

const SAMPLES_HEAD: &str = "
# What each makes of a sample

As `vknot style explain KEY` shows it. `vknot style preview KEY=VALUE PLACE` does the same with your own code.
";

/// What the values of a setting make of its sample.
fn samples(setting: &Setting) -> String {
    let made = made_of_sample(setting);
    let Some(sample) = setting.id.sample().filter(|_| made.len() > 1) else { return String::new() };
    let along = match sample.along {
        [] => String::new(),
        along => format!(" (with `{}`)", along.join("`, `")),
    };
    made.iter().fold(format!("\n## {}{along}\n", setting.key), |page, (values, document)| {
        let text = document.source().text().trim_end();
        page + &format!("\n`{}`\n\n```{}\n{text}\n```\n", values.join("`, `"), sample.language)
    })
}

/// The settings reference.
fn settings() -> String {
    let table = SETTINGS.iter().fold(HEAD.to_owned(), |page, setting| page + &row(setting));
    SETTINGS.iter().fold(table + SAMPLES_HEAD, |page, setting| page + &samples(setting))
}

fn row(setting: &Setting) -> String {
    let own = |language: &&'static Language| style_of(language).default_of(setting.id) != setting.default;
    let others = Language::all().filter(own);
    let others =
        others.map(|language| format!(", {}: `{}`", language.name(), style_of(language).default_of(setting.id)));
    let covered: Vec<&str> =
        Language::all().filter(|language| style_of(language).covers(setting.id)).map(Language::name).collect();
    let only = match covered.len() {
        0 => String::new(),
        count if count == Language::all().count() => String::new(),
        _ => format!(" ({})", covered.join(", ")),
    };
    let values = setting.takes().replace('|', "\\|");
    let default = format!("`{}`{}", setting.default, others.collect::<String>());
    format!("| `{}` | {values} | {default} | {}{only} |\n", setting.key, setting.help)
}

#[cfg(test)]
mod tests {
    #[test]
    fn the_generated_pages_are_fresh() {
        for (name, make) in super::PAGES {
            let page = std::fs::read_to_string(super::page(name)).unwrap_or_default();
            assert!(page == make(), "docs/{name} is stale; run `cargo xtask docs`");
        }
    }
}
