//! `style check`: what is wrong in `.editorconfig` files, and what has no effect.

use std::collections::BTreeSet;
use std::ffi::OsString;
use std::io::Write;
use std::path::{Path, PathBuf};

use clap::ValueEnum;
use serde_json::json;
use vknot_reshape::style_of;
use vknot_style::{EditorConfig, Section, Setting};
use vknot_syntax::{Language, Source, Span};

use crate::files::styles::FILE_NAME;
use crate::output::{self, FAINT, MARK, sarif};
use crate::problem::{Outcome, Problem};
use super::written::text_of;

/// Find what is wrong in .editorconfig files, and what has no effect
///
/// Keys that there are not, with the nearest that there is; values that a setting does not take; patterns that match no file; settings
/// without effect in any file that their pattern matches. Exits with 1 if there is anything.
#[derive(clap::Args)]
pub struct Arguments {
    /// Folders, and .editorconfig files
    #[arg(default_value = ".", value_name = "PATH")]
    paths: Vec<OsString>,
    /// How to print it
    #[arg(long, value_enum, default_value_t = Form::Text, value_name = "FORM")]
    output: Form,
}

#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum Form {
    Text,
    Json,
    /// SARIF 2.1.0, for code-scanning services
    Sarif,
}

/// A file with what is wrong in it, line by line.
struct Checked {
    shown: String,
    source: Source,
    remarks: Vec<(u32, String)>,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let (mut checked, mut problems) = (Vec::new(), Vec::new());
    for path in arguments.paths.iter().map(PathBuf::from) {
        for file in configs(&path) {
            match text_of(&file) {
                Ok(Some(text)) => checked.push(check(&file, text)),
                Ok(None) => problems.push(Problem::new(file.display().to_string(), "is not there")),
                Err(error) => problems.push(Problem::new(file.display().to_string(), format!("{error:#}"))),
            }
        }
    }
    print(&checked, &problems, arguments.output)?;
    output::problems(&problems);
    let any = checked.iter().any(|checked| !checked.remarks.is_empty());
    Ok(match (problems.is_empty(), any) {
        (false, _) => Outcome::Failed,
        (true, true) => Outcome::Found,
        (true, false) => Outcome::Done,
    })
}

/// The `.editorconfig` files below a folder; a file itself.
fn configs(path: &Path) -> Vec<PathBuf> {
    if !path.is_dir() {
        return vec![path.to_path_buf()];
    }
    files_below(path).into_iter().filter(|file| file.file_name().is_some_and(|name| name == FILE_NAME)).collect()
}

/// The files below a folder by the rules of ignore files, those with a dot in front among them.
pub fn files_below(folder: &Path) -> Vec<PathBuf> {
    let mut walk = ignore::WalkBuilder::new(folder);
    walk.hidden(false).require_git(false).sort_by_file_path(Path::cmp);
    walk.filter_entry(|entry| entry.file_name() != ".git");
    let files = walk.build().flatten().filter(|entry| entry.file_type().is_some_and(|kind| kind.is_file()));
    let path = |entry: ignore::DirEntry| entry.path().strip_prefix(".").unwrap_or(entry.path()).to_path_buf();
    files.map(path).collect()
}

fn check(file: &Path, text: String) -> Checked {
    let absolute = std::path::absolute(file).unwrap_or_else(|_| file.to_path_buf());
    let folder = absolute.parent().unwrap_or(Path::new("/"));
    let (config, problems) = EditorConfig::parse(folder, &text);
    let mut remarks: Vec<(u32, String)> = problems.into_iter().map(|problem| (problem.line, problem.message)).collect();
    let files = files_below(folder);
    for section in config.sections() {
        remarks.extend(section.foreign.iter().filter_map(|(key, line)| Some((*line, mistyped(key)?))));
        let matched: Vec<&PathBuf> = files.iter().filter(|file| holds(&config, section, file)).collect();
        if matched.is_empty() {
            remarks.push((section.line, format!("[{}] matches no file here", section.pattern)));
        } else {
            remarks.extend(idle(section, &matched));
        }
    }
    remarks.sort();
    Checked { shown: file.display().to_string(), source: Source::from_text(file, text), remarks }
}

fn holds(config: &EditorConfig, section: &Section, file: &Path) -> bool {
    config.sections_for(file).any(|own| std::ptr::eq(own, section))
}

/// What is said of a key of nobody that looks like one of the standard's or ours.
fn mistyped(key: &str) -> Option<String> {
    let near = Setting::nearest(key)?;
    let close = key.len().abs_diff(near.len()) <= 2 && key.chars().next() == near.chars().next();
    close.then(|| format!("there is no setting {key}; did you mean {near}?"))
}

/// Our settings in a section that do nothing in any of the files that it matches.
fn idle<'s>(section: &'s Section, files: &[&PathBuf]) -> impl Iterator<Item = (u32, String)> + 's {
    let languages: BTreeSet<&'static str> =
        files.iter().filter_map(|file| Language::for_path(file)).map(Language::name).collect();
    let covered = move |key| {
        languages.iter().filter_map(|name| Language::named(name)).any(|language| style_of(language).covers(key))
    };
    section.entries.iter().filter_map(move |entry| {
        let key = entry.key().setting().key;
        let none = key.starts_with("vknot_") && !covered(entry.key());
        none.then(|| (entry.line(), format!("{key} has no effect in any file that [{}] matches here", section.pattern)))
    })
}

fn print(checked: &[Checked], problems: &[Problem], form: Form) -> anyhow::Result<()> {
    match form {
        Form::Text => {
            let mut out = output::stdout();
            for file in checked {
                for (line, message) in &file.remarks {
                    writeln!(out, "{MARK}{}:{line}{MARK:#}: {message}", file.shown)?;
                }
            }
            let (count, files) = (checked.iter().map(|file| file.remarks.len()).sum(), checked.len());
            let (count, files) = (output::count(count, "remark"), output::count(files, "file"));
            writeln!(output::stderr(), "{FAINT}{count} on {files}{FAINT:#}")?;
        }
        Form::Json => {
            let remarks = |file: &Checked| -> Vec<serde_json::Value> {
                file.remarks.iter().map(|(line, message)| json!({ "line": line, "message": message })).collect()
            };
            let files: Vec<_> =
                checked.iter().map(|file| json!({ "file": file.shown, "remarks": remarks(file) })).collect();
            output::json::print("vknot.style.check/1", json!({ "files": files }))?;
        }
        Form::Sarif => {
            let line = |file: &Checked, line: u32| {
                let start = file.source.lines().start(line.saturating_sub(1));
                Span::new(start, file.source.lines().start(line).max(start))
            };
            let notes: Vec<sarif::Note<'_>> = checked
                .iter()
                .flat_map(|file| {
                    file.remarks.iter().map(|(at, message)| sarif::Note {
                        shown: &file.shown,
                        source: &file.source,
                        span: line(file, *at),
                        message: message.clone(),
                    })
                })
                .collect();
            sarif::print(&sarif::notes("style", "A setting that is wrong or has no effect", &notes, problems))?;
        }
    }
    Ok(())
}
