//! `style explain`: what a setting says, and what each of its values makes of a sample.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::style_of;
use vknot_reshape::styling::made_of_sample;
use vknot_style::{SETTINGS, Setting};
use vknot_syntax::Language;

use crate::arguments::LookOutput;
use crate::output::{self, FAINT, HEAD, KIND, NAME};
use crate::output::code::CodeView;
use crate::problem::Outcome;
use super::{FAMILIES, setting};

/// Say what a setting does, and what each of its values makes of a sample
///
/// Without a key, all settings by family.
#[derive(clap::Args)]
pub struct Arguments {
    /// A setting
    #[arg(value_name = "KEY")]
    key: Option<String>,
    /// How to print it
    #[arg(long, value_enum, default_value = "text", value_name = "FORM")]
    output: LookOutput,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<Outcome> {
    let Some(key) = &arguments.key else {
        match arguments.output {
            LookOutput::Text => print_all()?,
            LookOutput::Json => {
                let all: Vec<Value> = SETTINGS.iter().map(document).collect();
                output::json::print("vknot.style.explain/1", json!({ "settings": all }))?;
            }
        }
        return Ok(Outcome::Done);
    };
    let setting = match setting(key) {
        Ok(setting) => setting,
        Err(problem) => {
            output::problems(&[problem]);
            return Ok(Outcome::Failed);
        }
    };
    match arguments.output {
        LookOutput::Text => print(setting)?,
        LookOutput::Json => output::json::print("vknot.style.explain/1", json!({ "settings": [document(setting)] }))?,
    }
    Ok(Outcome::Done)
}

/// The languages in which a setting has an effect, and those in which another value than the usual one holds by default.
fn languages(setting: &Setting) -> (Vec<&'static Language>, Vec<(&'static Language, &'static str)>) {
    let covered: Vec<&'static Language> =
        Language::all().filter(|language| style_of(language).covers(setting.id)).collect();
    let own = |language: &&'static Language| {
        let value = style_of(language).default_of(setting.id);
        (value != setting.default).then_some((*language, value))
    };
    let others = covered.iter().filter_map(own).collect();
    (covered, others)
}

fn print(setting: &Setting) -> std::io::Result<()> {
    let mut out = output::stdout();
    let (covered, others) = languages(setting);
    writeln!(out, "{NAME}{}{NAME:#}  {KIND}{}{KIND:#}", setting.key, setting.takes())?;
    writeln!(out, "  {}", setting.help)?;
    let others = others.iter().map(|(language, value)| format!(", in {} {value}", language.spec().title));
    let usual = if setting.default.is_empty() { "nothing" } else { setting.default };
    writeln!(out, "  {FAINT}usual:{FAINT:#} {usual}{}", others.collect::<String>())?;
    let titles: Vec<&str> = covered.iter().map(|language| language.spec().title).collect();
    writeln!(out, "  {FAINT}has an effect in:{FAINT:#} {}", titles.join(", "))?;
    let made = made_of_sample(setting);
    if made.len() < 2 {
        return writeln!(out, "\n{FAINT}what it changes cannot be seen in a text{FAINT:#}");
    }
    if let Some(sample) = setting.id.sample().filter(|sample| !sample.along.is_empty()) {
        writeln!(out, "\n{FAINT}with {}{FAINT:#}", sample.along.join(", "))?;
    }
    for (values, document) in made {
        writeln!(out, "\n{HEAD}{}{HEAD:#}", values.join(", "))?;
        let view = CodeView::new(document.source(), document.tree());
        let lines = document.source().text().lines().count() as u32;
        (1..=lines).try_for_each(|line| writeln!(out, "{}", view.line(line, &[])))?;
    }
    Ok(())
}

fn print_all() -> std::io::Result<()> {
    let mut out = output::stdout();
    for (family, about) in FAMILIES {
        writeln!(out, "{HEAD}{about}{HEAD:#}")?;
        for setting in SETTINGS.iter().filter(|setting| setting.family() == family) {
            writeln!(out, "  {NAME}{}{NAME:#}  {KIND}{}{KIND:#}", setting.key, setting.takes())?;
            writeln!(out, "      {}", setting.help)?;
        }
    }
    Ok(())
}

fn document(setting: &Setting) -> Value {
    let (covered, others) = languages(setting);
    let samples: Vec<Value> = made_of_sample(setting)
        .into_iter()
        .map(|(values, document)| json!({ "values": values, "text": document.source().text() }))
        .collect();
    json!({
        "key": setting.key,
        "family": setting.family(),
        "takes": setting.takes(),
        "help": setting.help,
        "default": setting.default,
        "defaults": others.iter().map(|(language, value)| (language.name(), *value)).collect::<std::collections::BTreeMap<_, _>>(),
        "languages": covered.iter().map(|language| language.name()).collect::<Vec<_>>(),
        "sample": setting.id.sample().map(|sample| json!({ "language": sample.language, "along": sample.along, "made": samples })),
    })
}
