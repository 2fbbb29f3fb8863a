//! `style preview`: what other values would make of code, against the style in force.

use std::ffi::OsString;
use std::io::Write;

use anyhow::bail;
use serde_json::json;
use vknot_reshape::Edits;
use vknot_reshape::steps::{Document, Request, Step, StepError};
use vknot_reshape::styling::sampled;
use vknot_style::{Override, Setting};
use vknot_syntax::Source;

use crate::arguments::{InputArguments, LookOutput};
use crate::commands::work::spans;
use crate::files::targets::{Target, targets};
use crate::files::workspace::Workspace;
use crate::output::{self, diff, FAINT};
use crate::problem::{Outcome, Problem};

/// Show what other values would make of code, against the style in force
///
/// The code is laid out in its style, then with these values, and the difference is shown. Without a place, the samples of the settings
/// are taken.
#[derive(clap::Args)]
pub struct Arguments {
    /// Settings as KEY=VALUE, then files, folders, and places in files
    #[arg(required = true, value_name = "KEY=VALUE|PLACE")]
    all: Vec<OsString>,
    /// How to print it
    #[arg(long, value_enum, default_value = "text", value_name = "FORM")]
    output: LookOutput,
    #[command(flatten)]
    input: InputArguments,
}

/// What some values make of a file.
struct Preview {
    shown: String,
    old: Source,
    edits: Edits,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (set, places) = parted(&arguments.all)?;
    if set.is_empty() {
        bail!("name a setting and a value, as in vknot_brace_control=next; `vknot style explain` lists them");
    }
    let (targets, mut problems) = targets(&places);
    let mut previews = Vec::new();
    if places.is_empty() {
        for own in &set {
            previews.extend(of_sample(own)?);
        }
    }
    for target in &targets {
        match of_target(target, &set, arguments, workspace) {
            Ok(preview) => previews.extend(preview),
            Err(problem) => problems.push(problem),
        }
    }
    print(&previews, arguments.output)?;
    output::problems(&problems);
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// Settings in front, places behind.
fn parted(all: &[OsString]) -> anyhow::Result<(Vec<Override>, Vec<OsString>)> {
    let is_setting = |text: &&OsString| {
        let key = text.to_str().and_then(|text| text.split_once('=')).map(|(key, _)| key.trim().to_ascii_lowercase());
        key.is_some_and(|key| key.starts_with("vknot_") || Setting::named(&key).is_some())
    };
    let count = all.iter().take_while(is_setting).count();
    let set: Result<Vec<Override>, String> =
        all[..count].iter().map(|text| text.to_string_lossy().parse::<Override>()).collect();
    Ok((set.map_err(anyhow::Error::msg)?, all[count..].to_vec()))
}

fn of_sample(set: &Override) -> anyhow::Result<Option<Preview>> {
    let Some(sample) = set.key().sample() else { return Ok(None) };
    let old = sampled(sample, &[])?;
    let new = sampled(sample, std::slice::from_ref(set))?;
    let edits = diff::between(old.source(), new.source().text());
    Ok(Some(Preview { shown: format!("sample.{}", sample.language), old: old.source().clone(), edits }))
}

fn of_target(
    target: &Target,
    set: &[Override],
    arguments: &Arguments,
    workspace: &Workspace,
) -> Result<Option<Preview>, Problem> {
    let input = workspace.read(&target.file, &arguments.input)?;
    let language = input.document.language();
    let Some(step) = ["format", "indent"].into_iter().filter_map(Step::named).find(|step| (step.covers)(language))
    else {
        return Ok(None);
    };
    let spans = spans(target, &input).map_err(|message| Problem::new(&input.shown, message))?;
    let only = (!spans.is_empty()).then_some(spans.as_slice());
    let style = workspace.style(input.source().path(), language, &[]);
    let request = Request { only, generated: true, ..Request::default() };
    let made = |style| -> Result<Document, StepError> {
        Ok(step.run(&input.document.clone().with_style(style), &request)?.into_document())
    };
    let refused = |error: StepError| Problem::new(&input.shown, error.to_string());
    let old = made(style.clone()).map_err(refused)?;
    let new = made(style.overridden(set)).map_err(refused)?;
    let edits = diff::between(old.source(), new.source().text());
    Ok(Some(Preview { shown: input.shown.clone(), old: old.source().clone(), edits }))
}

fn print(previews: &[Preview], form: LookOutput) -> anyhow::Result<()> {
    let mut out = output::stdout();
    if form == LookOutput::Json {
        let files: Vec<_> = previews
            .iter()
            .map(|preview| json!({
                "file": preview.shown,
                "text": preview.old.text(),
                "edits": output::json::text_edits(&preview.old, &preview.edits),
            }))
            .collect();
        return output::json::print("vknot.style.preview/1", json!({ "files": files }));
    }
    let (mut files, mut lines) = (0, 0);
    for preview in previews.iter().filter(|preview| !preview.edits.is_empty()) {
        let changes = diff::changes(&preview.old, &preview.edits);
        write!(out, "{}", diff::unified(&preview.shown, &preview.old, &changes, false))?;
        let (old, new) = diff::changed_lines(&changes);
        (files, lines) = (files + 1, lines + old.max(new));
    }
    let mut err = output::stderr();
    let (lines, files) = (output::count(lines, "line"), output::count(files, "file"));
    Ok(writeln!(err, "{FAINT}{lines} in {files} would be laid out otherwise{FAINT:#}")?)
}
