//! `todos`: tagged notes in comments.

use std::collections::BTreeMap;
use std::io::Write;

use clap::ValueEnum;
use rayon::prelude::*;
use serde_json::json;
use vknot_reshape::looks::{self, Todo};

use crate::files::workspace::Workspace;
use crate::arguments::InputArguments;
use crate::files::input::Input;
use crate::files::targets::targets;
use crate::output::{self, FAINT, HEAD, KIND, MARK, sarif};
use crate::output::json::SpanJson;
use crate::problem::{Outcome, Problem};

/// List tagged notes in comments
///
/// A tag leads its comment line, or has a colon or an author in parentheses behind it. Strings do not count. A project adds tags
/// in its vknot.toml.
#[derive(clap::Args)]
pub struct Arguments {
    /// Files and folders; `-` is standard input
    #[arg(required = true, value_name = "PATH")]
    paths: Vec<std::ffi::OsString>,
    /// Only these tags
    #[arg(long, value_name = "TAG", value_delimiter = ',')]
    tag: Vec<String>,
    /// Only notes of these authors
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    author: Vec<String>,
    /// Only notes that hold this text, whatever its case
    #[arg(long, value_name = "TEXT")]
    text: Option<String>,
    /// Only files whose path holds this text
    #[arg(long, value_name = "TEXT")]
    path: Option<String>,
    /// Print how many there are of each tag instead
    #[arg(long)]
    count: bool,
    /// Exit with 1 if there are any
    #[arg(long)]
    check: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = Form::Text, value_name = "FORM")]
    output: Form,
    #[command(flatten)]
    input: InputArguments,
}

#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum Form {
    Text,
    Json,
    /// SARIF 2.1.0, for code-scanning services
    Sarif,
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, mut problems) = targets(&arguments.paths);
    let wanted = targets
        .iter()
        .filter(
            |target| arguments.path.as_ref().is_none_or(|text| target.file.to_string_lossy().contains(text.as_str())),
        );
    let read: Vec<Result<(Input, Vec<Todo>), Problem>> = wanted
        .collect::<Vec<_>>()
        .par_iter()
        .map(|target| {
            let input = workspace.read(&target.file, &arguments.input)?;
            let mut todos = looks::todos(input.code(), input.marks());
            todos.retain(|todo| fits(arguments, todo));
            Ok((input, todos))
        })
        .collect();
    let mut found = Vec::new();
    for result in read {
        match result {
            Ok((_, todos)) if todos.is_empty() => {}
            Ok(file) => found.push(file),
            Err(problem) => problems.push(problem),
        }
    }
    match arguments.output {
        Form::Json => output::json::print("vknot.todos/1", document(&found))?,
        Form::Sarif => {
            let notes = found.iter().flat_map(|(input, todos)| todos.iter().map(|todo| note(input, todo)));
            sarif::print(&sarif::notes("todos", "A tagged note in a comment", &notes.collect::<Vec<_>>(), &problems))?;
        }
        Form::Text if arguments.count => show_counts(&found)?,
        Form::Text => show(&found)?,
    }
    output::problems(&problems);
    Ok(match (problems.is_empty(), arguments.check && !found.is_empty()) {
        (false, _) => Outcome::Failed,
        (true, true) => Outcome::Found,
        (true, false) => Outcome::Done,
    })
}

fn fits(arguments: &Arguments, todo: &Todo) -> bool {
    let any = |wanted: &[String], is: &str| wanted.is_empty()
        || wanted.iter().any(|wanted| wanted.eq_ignore_ascii_case(is));
    let text = arguments.text.as_ref().is_none_or(|text| todo.text.to_lowercase().contains(&text.to_lowercase()));
    any(&arguments.tag, &todo.tag) && any(&arguments.author, todo.author.as_deref().unwrap_or("")) && text
}

fn show(found: &[(Input, Vec<Todo>)]) -> std::io::Result<()> {
    let mut out = output::stdout();
    for (input, todos) in found {
        writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{}{FAINT:#}", input.shown, output::count(todos.len(), "note"))?;
        for todo in todos {
            let at = input.source().line_column(todo.span.start);
            let place = format!("{}:{}", at.line, at.column);
            let author = todo.author.as_ref().map_or(String::new(), |author| format!(" {KIND}{author}{KIND:#}"));
            writeln!(out, "{FAINT}{place:>9}{FAINT:#}  {MARK}{}{MARK:#}{author} {}", todo.tag, todo.text)?;
        }
    }
    let count = found.iter().map(|(_, todos)| todos.len()).sum();
    writeln!(out, "{FAINT}{} in {}{FAINT:#}", output::count(count, "note"), output::count(found.len(), "file"))
}

fn counts(found: &[(Input, Vec<Todo>)]) -> BTreeMap<&str, usize> {
    let mut counts = BTreeMap::new();
    for todo in found.iter().flat_map(|(_, todos)| todos) {
        *counts.entry(todo.tag.as_str()).or_default() += 1;
    }
    counts
}

fn show_counts(found: &[(Input, Vec<Todo>)]) -> std::io::Result<()> {
    let mut out = output::stdout();
    for (tag, count) in counts(found) {
        writeln!(out, "{count:>6}  {MARK}{tag}{MARK:#}")?;
    }
    Ok(())
}

fn document(found: &[(Input, Vec<Todo>)]) -> serde_json::Value {
    let todos: Vec<_> = found
        .iter()
        .flat_map(|(input, todos)| {
            todos.iter().map(|todo| json!({
                "file": input.shown,
                "tag": todo.tag,
                "author": todo.author,
                "text": todo.text,
                "span": SpanJson::of(input.source(), todo.span),
            }))
        })
        .collect();
    json!({ "todos": todos, "counts": counts(found) })
}

fn note<'f>(input: &'f Input, todo: &Todo) -> sarif::Note<'f> {
    let message = if todo.text.is_empty() { todo.tag.clone() } else { format!("{}: {}", todo.tag, todo.text) };
    sarif::Note { shown: &input.shown, source: input.source(), span: todo.span, message }
}
