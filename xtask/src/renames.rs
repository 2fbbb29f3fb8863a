//! `renames`: gives names whose uses are told by scope new names, in every file of some folders, for a compiler to look at.

use std::path::PathBuf;
use std::process::ExitCode;

use rayon::prelude::*;
use vknot_reshape::default_style;
use vknot_reshape::editing::{By, Sought, occurrences, renamed, replacement};
use vknot_reshape::steps::{Document, Request, Step, Wish};
use vknot_syntax::{Role, Source, Span};

use crate::random::Random;
use crate::walk::{Sample, samples};

#[derive(clap::Args)]
pub struct Arguments {
    /// Folders whose files get other names
    #[arg(required = true)]
    roots: Vec<PathBuf>,
    /// Only files of this language
    #[arg(long)]
    language: Option<String>,
    /// How many names of a file at most
    #[arg(long, default_value_t = 5)]
    names: usize,
    /// Where chance begins
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Write the files
    #[arg(long)]
    write: bool,
}

/// What came of a file: its new text, names done by scope, known by word alone, refused; and uses.
struct Renamed {
    text: String,
    names: Vec<String>,
    by_word: usize,
    refused: Vec<String>,
    uses: usize,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let files = samples(&arguments.roots, arguments.language.as_deref());
    let step = Step::named("edit").ok_or_else(|| anyhow::anyhow!("there is no such step"))?;
    let done: Vec<Renamed> = files
        .par_iter()
        .enumerate()
        .map(|(number, sample)| all(sample, step, arguments, number as u64))
        .collect();
    for (sample, renamed) in files.iter().zip(&done) {
        if arguments.write && !renamed.names.is_empty() {
            std::fs::write(sample.source.path(), &renamed.text)?;
        }
        for refused in &renamed.refused {
            println!("{}: {refused}", sample.source.path().display());
        }
    }
    let sum = |count: fn(&Renamed) -> usize| done.iter().map(count).sum::<usize>();
    println!(
        "{} names with {} uses by scope, {} by word, {} refused",
        sum(|done| done.names.len()),
        sum(|done| done.uses),
        sum(|done| done.by_word),
        sum(|done| done.refused.len()),
    );
    Ok(ExitCode::SUCCESS)
}

fn all(sample: &Sample, step: &Step, arguments: &Arguments, number: u64) -> Renamed {
    let mut random = Random(arguments.seed.wrapping_mul(7_919).wrapping_add(number));
    let mut done =
        Renamed { text: sample.source.text().to_owned(), names: Vec::new(), by_word: 0, refused: Vec::new(), uses: 0 };
    for attempt in 0..arguments.names * 4 {
        if done.names.len() >= arguments.names {
            break;
        }
        let source = Source::from_text(sample.source.path(), done.text.as_str());
        let document = Document::new(source, sample.language, default_style(sample.language));
        let (tree, code) = (document.tree(), document.code());
        let Some(token) = tree.tokens().get(random.below(tree.tokens().len())) else { break };
        let text = code.source.slice(token.span());
        let word = text.chars().all(|c| c.is_alphanumeric() || c == '_') && text.starts_with(char::is_alphabetic);
        if !word
            || text.contains("Tide")
            || matches!(tree.role(token.node), Role::Comment | Role::String | Role::Literal)
        {
            continue;
        }
        let at = Span::new(token.start, token.start);
        let Ok(found) = occurrences(code, at, Sought::default()) else { continue };
        if found.by == By::Word {
            done.by_word += 1;
            continue;
        }
        let new = format!("{}Tide{attempt}", found.name);
        if let Err(error) = renamed(code, &found, &new) {
            done.refused.push(error.to_string());
            continue;
        }
        let only = [at];
        let wish = Wish::Edit(replacement(code, &found, &new));
        match step.run(&document, &Request { only: Some(&only), wish, ..Request::default() }) {
            Ok(proven) => {
                done.uses += found.spans.len();
                done.names.push(found.name);
                done.text = proven.text().to_owned();
            }
            Err(error) => done.refused.push(format!("{}: {error}", found.name)),
        }
    }
    done
}
