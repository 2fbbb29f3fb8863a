//! Several edits in one run: each sees what the last one left, and all of them are proven, written and taken back together.

use std::collections::HashMap;
use std::ffi::OsString;
use std::path::{Path, PathBuf};

use clap::Parser;
use vknot_reshape::steps::{Chain, Step, Wish};
use vknot_syntax::Span;

use crate::commands::job::Job;
use crate::commands::reshape;
use crate::commands::work::{Worked, worked_on};
use crate::files::input::Input;
use crate::files::plain;
use crate::files::targets::Target;
use crate::files::workspace::Workspace;
use crate::output;
use crate::place::Place;
use crate::problem::{Outcome, Problem};
use super::arguments::ShownArguments;
use super::doing::{THERE, done, opened};
use super::operation::Operation;

/// One line of a script.
#[derive(Parser)]
#[command(name = "edit", no_binary_name = true, disable_help_flag = true)]
struct Line {
    #[command(subcommand)]
    operation: Operation,
}

/// A file that is edited, and how far.
struct Edited {
    input: Input,
    chain: Chain,
    there: Option<Span>,
}

pub fn run(script: &Path, shown: &ShownArguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    match all(script, shown, workspace) {
        Ok(worked) => {
            let arguments = shown.as_reshape(OsString::new());
            let job = Job::new("edit", "edit", Wish::Nothing)?;
            reshape::run_many(&arguments, &job, workspace, worked.into_iter().map(Ok).collect())
        }
        Err(problem) => {
            output::problems(&[problem]);
            Ok(Outcome::Failed)
        }
    }
}

/// Does all edits of a script, or none.
fn all(script: &Path, shown: &ShownArguments, workspace: &Workspace) -> Result<Vec<Worked>, Problem> {
    let name = script.display().to_string();
    let bytes = plain::read(script).map_err(|message| Problem::new(&name, message))?;
    let text = String::from_utf8_lossy(&bytes).into_owned();
    let step = Step::named("edit").ok_or_else(|| Problem::new("edit", "there is no such step"))?;
    let mut files: Vec<(PathBuf, Edited)> = Vec::new();
    let mut known: HashMap<PathBuf, usize> = HashMap::new();
    let mut last: Option<PathBuf> = None;
    for (number, line) in text.lines().enumerate() {
        let at = |problem: Problem| {
            let message = format!("{problem}; no edit of this script was done");
            Problem::new(&name, message).at(number as u32 + 1, 1)
        };
        let words = words(line).map_err(|message| at(Problem::new("script", message)))?;
        if words.is_empty() {
            continue;
        }
        let parsed = Line::try_parse_from(words);
        let operation = parsed.map_err(|error| at(Problem::new("script", first_line(&error.to_string()))))?.operation;
        let file = match operation.common().place.to_str() {
            Some(THERE) => last.clone().ok_or_else(|| at(Problem::new("script", "no edit came before")))?,
            _ => Place::parse(&operation.common().place).file,
        };
        let index = match known.get(&file) {
            Some(index) => *index,
            None => {
                let edited = open(&file, shown, workspace).map_err(at)?;
                files.push((file.clone(), edited));
                known.insert(file.clone(), files.len() - 1);
                files.len() - 1
            }
        };
        let Some((_, edited)) = files.get_mut(index) else { continue };
        edited.edit(&operation, step).map_err(at)?;
        last = Some(file);
    }
    files.into_iter().map(|(file, edited)| edited.finish(&Target::named(file))).collect()
}

fn open(file: &Path, shown: &ShownArguments, workspace: &Workspace) -> Result<Edited, Problem> {
    let input = opened(file, shown, workspace)?;
    Ok(Edited { chain: Chain::new(input.document.clone()), input, there: None })
}

impl Edited {
    fn edit(&mut self, operation: &Operation, step: &Step) -> Result<(), Problem> {
        let current = Input {
            shown: self.input.shown.clone(),
            path: self.input.path.clone(),
            document: self.chain.document().clone(),
        };
        let proven = done(operation, step, &current, self.there)?;
        self.there = proven.receipt().place().or(self.there);
        self.chain.accept(proven);
        Ok(())
    }

    fn finish(self, target: &Target) -> Result<Worked, Problem> {
        let proven = self.chain.finish_edits().map_err(|error| Problem::new(&self.input.shown, error.to_string()))?;
        Ok(worked_on(self.input, proven, target))
    }
}

fn first_line(text: &str) -> String {
    text.lines().next().unwrap_or("").trim_start_matches("error: ").to_owned()
}

/// The words of a line: parted by blanks, with quotes around those that hold some. `#` begins a comment.
fn words(line: &str) -> Result<Vec<String>, String> {
    let mut words = Vec::new();
    let mut word: Option<String> = None;
    let mut quote = None;
    let mut letters = line.chars();
    while let Some(c) = letters.next() {
        match (c, quote) {
            (c, Some(mark)) if c == mark => quote = None,
            ('\\', Some('"')) | ('\\', None) => word.get_or_insert_default().extend(letters.next()),
            (c, Some(_)) => word.get_or_insert_default().push(c),
            ('"' | '\'', None) => {
                quote = Some(c);
                word.get_or_insert_default();
            }
            ('#', None) if word.is_none() => break,
            (c, None) if c.is_whitespace() => words.extend(word.take()),
            (c, None) => word.get_or_insert_default().push(c),
        }
    }
    match quote {
        Some(mark) => Err(format!("the quote {mark} is not closed")),
        None => {
            words.extend(word);
            Ok(words)
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_parted_into_words() {
        for (line, expected) in [
            ("move a.js:3 --up", vec!["move", "a.js:3", "--up"]),
            ("wrap there --in 'if (ready) { _ }'  # guard", vec!["wrap", "there", "--in", "if (ready) { _ }"]),
            (r#"insert a.js:1 --text "a \"b\"" "#, vec!["insert", "a.js:1", "--text", "a \"b\""]),
            ("# nothing", vec![]),
            ("lines 'a b.txt:3' --blank-above", vec!["lines", "a b.txt:3", "--blank-above"]),
        ] {
            assert_eq!(words(line).unwrap(), expected, "{line}");
        }
        assert!(words("wrap 'x").is_err());
    }
}
