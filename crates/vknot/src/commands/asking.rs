//! Asking on a terminal from where names are to be imported that could come from several places.

use std::collections::BTreeMap;
use std::io::{BufRead, IsTerminal, Write};
use std::path::Path;

use rayon::prelude::*;
use vknot_reshape::{Act, Fate};

use crate::arguments::ReshapeArguments;
use crate::files::cache::Cache;
use crate::files::input::STDIN;
use crate::files::targets::Target;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT, NAME};
use super::job::Job;
use super::work::{meant, work, Worked};

/// A name with what it could be.
#[derive(Debug, Default)]
struct Question {
    /// From where it could come, the likeliest first.
    choices: Vec<String>,
    /// In how many files it is used.
    files: usize,
    /// Where it is used first.
    first: String,
}

/// What is chosen on a terminal for the names that a run would leave; nothing where nobody is there to be asked, or nothing is to be done.
///
/// # Errors
/// When the terminal cannot be read from or written to.
pub fn chosen(
    arguments: &ReshapeArguments,
    job: &Job,
    workspace: &Workspace,
) -> std::io::Result<Vec<(String, String)>> {
    let there = std::io::stdin().is_terminal() && std::io::stderr().is_terminal();
    let (targets, _) = meant(arguments);
    let from_stdin = targets.iter().any(|target| target.file == Path::new(STDIN));
    if !there || arguments.check || arguments.output.is_some() || from_stdin {
        return Ok(Vec::new());
    }
    let cache = Cache::open(false);
    let open = |target: &Target| match work(target, arguments, job, workspace, &cache) {
        Ok(worked) => open_names(&worked),
        Err(_) => Vec::new(),
    };
    let mut questions: BTreeMap<String, Question> = BTreeMap::new();
    for (fate, place) in targets.par_iter().flat_map_iter(open).collect::<Vec<_>>() {
        let question = questions.entry(fate.import).or_default();
        question.files += 1;
        for choice in fate.choices {
            if !question.choices.contains(&choice) {
                question.choices.push(choice);
            }
        }
        if question.first.is_empty() {
            question.first = place;
        }
    }
    // What could not be read is said by the run itself.
    workspace.take_problems();
    ask(&questions, &mut std::io::stdin().lock(), &mut output::stderr())
}

/// The names of a file that could come from several places, each with where it is used first.
fn open_names(worked: &Worked) -> Vec<(Fate, String)> {
    let fates = worked.proven().into_iter().flat_map(|proven| &proven.receipt().imports);
    let open = fates.filter(|fate| fate.act == Act::Missing && !fate.choices.is_empty());
    let placed = |fate: &Fate| {
        let at = worked.input.source().line_column(fate.span.start);
        (fate.clone(), format!("{}:{}:{}", worked.input.shown, at.line, at.column))
    };
    open.map(placed).collect()
}

/// Asks for each name by number. An empty line takes none, the end of the input leaves the rest.
fn ask(
    questions: &BTreeMap<String, Question>,
    answers: &mut impl BufRead,
    out: &mut impl Write,
) -> std::io::Result<Vec<(String, String)>> {
    let mut chosen = Vec::new();
    for (name, question) in questions {
        let files = if question.files > 1 { format!("in {} files, first ", question.files) } else { String::new() };
        writeln!(out, "{NAME}{name}{NAME:#}, {files}at {}, could be", question.first)?;
        for (at, choice) in question.choices.iter().enumerate() {
            writeln!(out, "{:4}  {choice}", at + 1)?;
        }
        let last = question.choices.len();
        loop {
            write!(out, "{FAINT}1 to {last}, or nothing to leave it:{FAINT:#} ")?;
            out.flush()?;
            let mut line = String::new();
            if answers.read_line(&mut line)? == 0 {
                writeln!(out)?;
                return Ok(chosen);
            }
            let answer = line.trim();
            let number = answer.parse::<usize>().ok().and_then(|number| number.checked_sub(1));
            match number.and_then(|at| question.choices.get(at)) {
                Some(choice) => chosen.push((name.clone(), choice.clone())),
                None if answer.is_empty() => {}
                None => continue,
            }
            break;
        }
    }
    Ok(chosen)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn answered(text: &str) -> (Vec<(String, String)>, String) {
        let question = |choices: &[&str], files| Question {
            choices: choices.iter().map(|choice| (*choice).to_owned()).collect(),
            files,
            first: "src/Page.java:3:7".to_owned(),
        };
        let questions = BTreeMap::from([
            ("List".to_owned(), question(&["java.util.List", "java.awt.List"], 3)),
            ("Tide".to_owned(), question(&["tide.Tide"], 1)),
        ]);
        let mut out = Vec::new();
        let chosen = ask(&questions, &mut text.as_bytes(), &mut out).unwrap_or_default();
        (chosen, String::from_utf8_lossy(&out).into_owned())
    }

    fn pair(name: &str, from: &str) -> (String, String) {
        (name.to_owned(), from.to_owned())
    }

    #[test]
    fn a_number_chooses_and_an_empty_line_leaves() {
        let (chosen, shown) = answered("2\n1\n");
        assert_eq!(chosen, [pair("List", "java.awt.List"), pair("Tide", "tide.Tide")]);
        assert!(shown.contains(", in 3 files, first at src/Page.java:3:7, could be\n   1  java.util.List\n"), "{shown}");
        assert_eq!(answered("\n1\n").0, [pair("Tide", "tide.Tide")]);
        assert_eq!(answered("1\n").0, [pair("List", "java.util.List")]);
        assert!(answered("").0.is_empty());
    }

    #[test]
    fn what_is_no_answer_is_asked_again() {
        let (chosen, shown) = answered("0\n3\nlist\n-1\n1\n\n");
        assert_eq!(chosen, [pair("List", "java.util.List")]);
        assert_eq!(shown.matches("1 to 2").count(), 5);
    }
}
