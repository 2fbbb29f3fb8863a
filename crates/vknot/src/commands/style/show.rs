//! `style show`: the settings in force for files, each with where it comes from.

use std::ffi::OsString;
use std::io::Write;
use std::path::Path;

use serde_json::{json, Value};
use vknot_reshape::styling::in_force;
use vknot_style::{Origin, Override, SETTINGS, Setting, Style};
use vknot_syntax::Language;

use crate::arguments::{InputArguments, LookOutput};
use crate::files::targets::targets;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT, HEAD, KIND, NAME};
use crate::problem::{Outcome, Problem};
use super::{FAMILIES, shown_origin};

/// Show the settings in force for files, each with where it comes from
///
/// What nothing sets is as found in the file, or as usual in its language. A file that is not there yet has the settings it would have.
#[derive(clap::Args)]
pub struct Arguments {
    /// Files and folders; `-` is standard input
    #[arg(required = true, value_name = "PATH")]
    paths: Vec<OsString>,
    /// Only what a file or --set says
    #[arg(long)]
    set_only: bool,
    /// A setting that beats the files
    #[arg(long = "set", value_name = "KEY=VALUE")]
    set: Vec<Override>,
    /// How to print it
    #[arg(long, value_enum, default_value = "text", value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

/// A file's style.
struct Shown {
    file: String,
    language: &'static Language,
    style: Style,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.paths);
    let mut files = Vec::new();
    for target in &targets {
        match style_of(&target.file, arguments, workspace) {
            Ok(shown) => files.push(shown),
            Err(problem) => problems.push(problem),
        }
    }
    match arguments.output {
        LookOutput::Json => {
            let files: Vec<Value> = files.iter().map(|shown| document(shown, arguments.set_only)).collect();
            output::json::print("vknot.style.show/1", json!({ "files": files }))?;
        }
        LookOutput::Text => files.iter().try_for_each(|shown| print(shown, arguments.set_only))?,
    }
    output::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

fn style_of(file: &Path, arguments: &Arguments, workspace: &Workspace) -> Result<Shown, Problem> {
    let shown = file.display().to_string();
    // A file that is to be made has no more than its name.
    if let Some(language) = Language::for_path(file).filter(|_| !file.exists()) {
        let style = workspace.style(file, language, &arguments.set);
        let style = workspace.style_beside(&style, file, language).unwrap_or(style);
        return Ok(Shown { file: shown, language, style });
    }
    let input = workspace.read(file, &arguments.input)?;
    let language = input.document.language();
    let style = workspace.style(input.source().path(), language, &arguments.set);
    let style = workspace.style_beside(&style, input.source().path(), language).unwrap_or(style);
    let document = input.document.clone().with_style(style);
    Ok(Shown { file: input.shown.clone(), language, style: in_force(&document) })
}

/// The settings that have an effect on a file.
fn settings(shown: &Shown, set_only: bool) -> impl Iterator<Item = &'static Setting> {
    let set = move |setting: &&Setting| {
        let origin = shown.style.origin(setting.id);
        !set_only || matches!(origin, Origin::File(..) | Origin::CommandLine)
    };
    SETTINGS.iter().filter(|setting| shown.style.language().covers(setting.id)).filter(set)
}

fn print(shown: &Shown, set_only: bool) -> std::io::Result<()> {
    let mut out = output::stdout();
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}{FAINT:#}", shown.file, shown.language.spec().title)?;
    let all: Vec<&Setting> = settings(shown, set_only).collect();
    let width = all.iter().map(|setting| setting.key.len()).max().unwrap_or(0);
    let values = all.iter().map(|setting| shown.style.word(setting.id).len()).max().unwrap_or(0);
    for (family, about) in FAMILIES {
        let own: Vec<&&Setting> = all.iter().filter(|setting| setting.family() == family).collect();
        if own.is_empty() {
            continue;
        }
        writeln!(out, "  {FAINT}{about}{FAINT:#}")?;
        for setting in own {
            let origin = shown.style.origin(setting.id);
            let (key, value) = (setting.key, shown.style.word(setting.id));
            let paint = if matches!(origin, Origin::File(..) | Origin::CommandLine) { NAME } else { output::PLAIN };
            writeln!(
                out,
                "    {paint}{key:<width$}{paint:#}  {KIND}{value:<values$}{KIND:#}  {FAINT}{}{FAINT:#}",
                shown_origin(&origin),
            )?;
        }
    }
    if all.is_empty() {
        let none = if set_only { "nothing is set for it" } else { "no setting has an effect in it" };
        writeln!(out, "  {FAINT}{none}{FAINT:#}")?;
    }
    Ok(())
}

fn document(shown: &Shown, set_only: bool) -> Value {
    let settings: Vec<Value> = settings(shown, set_only)
        .map(|setting| {
            let origin = match shown.style.origin(setting.id) {
                Origin::Default => json!({ "kind": "usual" }),
                Origin::Found => json!({ "kind": "found" }),
                Origin::Beside => json!({ "kind": "beside" }),
                Origin::CommandLine => json!({ "kind": "commandLine" }),
                Origin::File(path, line) => json!({ "kind": "file", "file": path.display().to_string(), "line": line }),
            };
            json!({
                "key": setting.key,
                "family": setting.family(),
                "value": shown.style.word(setting.id),
                "origin": origin,
            })
        })
        .collect();
    json!({ "file": shown.file, "language": shown.language.name(), "settings": settings })
}
