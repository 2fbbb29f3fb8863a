//! `style start`: an `.editorconfig` file to begin with.

use std::collections::BTreeMap;
use std::io::Write;
use std::path::PathBuf;

use rayon::prelude::*;
use vknot_reshape::style_of;
use vknot_reshape::styling::in_force;
use vknot_style::{Key, Origin, Setting, SETTINGS, Style};
use vknot_syntax::Language;

use crate::arguments::InputArguments;
use crate::files::styles::FILE_NAME;
use crate::files::targets::targets;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT};
use crate::problem::{Outcome, Problem};
use super::FAMILIES;
use super::sources::Sources;
use super::written::{pattern, put};

/// Make an .editorconfig file to begin with
///
/// It sets what most of the files here show, and names every other setting that has an effect in them, with what it says, commented
/// out. A file that is there is never written over.
#[derive(clap::Args)]
pub struct Arguments {
    /// The folder
    #[arg(default_value = ".", value_name = "FOLDER")]
    folder: PathBuf,
    /// Write it
    #[arg(short, long)]
    write: bool,
}

/// How many files of a language are looked at.
const FILES_AT_MOST: usize = 100;

/// A language with the endings and the styles of its files.
struct Found {
    endings: Vec<String>,
    styles: Vec<Style>,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let file = arguments.folder.join(FILE_NAME);
    if file.exists() {
        let message = "is there, and stays as it is; `vknot style learn` adds to it what your code shows";
        output::problems(&[Problem::new(file.display().to_string(), message)]);
        return Ok(Outcome::Failed);
    }
    let (targets, _) = targets(&[arguments.folder.clone().into_os_string()]);
    let found: Vec<(&'static Language, Found)> =
        Sources::of(targets).iter().map(|own| (own.language, look(own, workspace))).collect();
    put(&file, None, &text(&found), arguments.write)?;
    if !arguments.write {
        writeln!(output::stderr(), "{FAINT}--write makes it{FAINT:#}")?;
    }
    Ok(Outcome::Done)
}

fn look(sources: &Sources, workspace: &Workspace) -> Found {
    let files = &sources.files;
    // Spread over all of them, so that no folder speaks for the rest.
    let every = files.len().div_ceil(FILES_AT_MOST).max(1);
    let wanted: Vec<&PathBuf> = files.iter().step_by(every).collect();
    let style = |file: &&PathBuf| Some(in_force(&workspace.read(file, &InputArguments::default()).ok()?.document));
    Found { endings: sources.endings(), styles: wanted.par_iter().filter_map(style).collect() }
}

/// The value that four in five of the files that show one have, and otherwise the one that most have in force.
fn value(found: &Found, key: Key) -> Option<(String, bool)> {
    let mut shown: BTreeMap<&str, usize> = BTreeMap::new();
    let mut in_force: BTreeMap<&str, usize> = BTreeMap::new();
    for style in &found.styles {
        *in_force.entry(style.word(key)).or_default() += 1;
        if style.origin(key) == Origin::Found {
            *shown.entry(style.word(key)).or_default() += 1;
        }
    }
    let all: usize = shown.values().sum();
    let most = |counts: &BTreeMap<&str, usize>| counts
        .iter()
        .max_by_key(|(_, count)| **count)
        .map(|(word, count)| ((*word).to_owned(), *count));
    match most(&shown) {
        Some((word, count)) if 5 * count >= 4 * all => Some((word, true)),
        _ => most(&in_force).map(|(word, _)| (word, false)),
    }
}

const HEAD: &str = "# Settings of this project. `vknot style explain KEY` shows what a setting does,
# `vknot style preview KEY=VALUE PLACE` what a value would make of your code.
root = true
";

fn text(found: &[(&'static Language, Found)]) -> String {
    let mut text = format!("{HEAD}\n[*]\ninsert_final_newline = true\n");
    for key in [Key::Charset, Key::EndOfLine] {
        let values: Vec<String> = found.iter().filter_map(|(_, found)| Some(value(found, key)?.0)).collect();
        if let Some(first) =
            values.first().filter(|first| values.iter().all(|value| value == *first) && *first != "as-found")
        {
            text += &format!("{} = {first}\n", key.setting().key);
        }
    }
    for (language, found) in found {
        text += &format!("\n# {}\n[{}]\n", language.spec().title, pattern("", &found.endings));
        text.extend(
            SETTINGS.iter().filter(|setting| covers(language, setting)).filter_map(|setting| line(setting, found)),
        );
    }
    text + &others(found)
}

/// Whether a setting has an effect in a language, and may differ between languages.
fn covers(language: &'static Language, setting: &Setting) -> bool {
    let whole = matches!(setting.id, Key::Charset | Key::EndOfLine | Key::InsertFinalNewline);
    !whole && style_of(language).covers(setting.id)
}

/// A setting with its value, if it is one of the standard's or files show it.
fn line(setting: &Setting, found: &Found) -> Option<String> {
    let (word, shown) = value(found, setting.id)?;
    let standard = matches!(setting.id, Key::IndentSize | Key::IndentStyle | Key::MaxLineLength);
    ((shown || standard) && word != "as-found").then(|| format!("{} = {word}\n", setting.key))
}

/// The settings that no file shows, commented out, with what each says.
fn others(found: &[(&'static Language, Found)]) -> String {
    let mut text = "\n# What else can be set, with the values that hold where nothing is said.\n[*]\n".to_owned();
    for (family, about) in FAMILIES {
        let mut lines = String::new();
        for setting in SETTINGS
            .iter()
            .filter(|setting| setting.family() == family && setting.key.starts_with("vknot_"))
        {
            let covered = |(language, found): &&(&'static Language, Found)| {
                covers(language, setting) && line(setting, found).is_none()
            };
            if found.iter().any(|own| covered(&own)) {
                let (help, takes, key) = (setting.help, setting.takes(), setting.key);
                lines += &format!("#   {help} ({takes})\n# {key} = {}\n", setting.default);
            }
        }
        if !lines.is_empty() {
            text += &format!("\n# {}{}\n{lines}", about[..1].to_uppercase(), &about[1..]);
        }
    }
    text
}
