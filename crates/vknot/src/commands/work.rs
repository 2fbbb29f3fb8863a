//! One file of a reshape: read, reshaped, proven.

use std::ffi::OsString;
use std::path::Path;
use std::sync::atomic::{AtomicBool, Ordering};

use vknot_reshape::steps::{Proven, Request, StepError, Wish};
use vknot_style::Style;
use vknot_syntax::{Source, Span};

use crate::arguments::{ReshapeArguments, ReshapeOutput};
use crate::files::around::Around;
use crate::files::cache::Cache;
use crate::files::changed::narrowed;
use crate::files::input::{Input, STDIN};
use crate::files::targets::{Content, Target, targets};
use crate::files::workspace::Workspace;
use crate::output::diff;
use crate::problem::Problem;
use super::job::Job;

/// What became of a file.
pub enum Made {
    /// The step does not cover its language.
    Uncovered,
    /// It was found as it should be before, and was not read.
    Remembered,
    Proven(Box<Proven>),
}

/// A file that was worked on.
pub struct Worked {
    pub input: Input,
    pub made: Made,
    /// Lines taken out, and lines put in.
    pub changed: (usize, usize),
    /// Whether it was named itself.
    pub named: bool,
    /// Where its content is.
    pub content: Content,
}

impl Worked {
    pub fn old_bytes(&self) -> Vec<u8> {
        bytes(self.input.source())
    }

    /// The bytes that a file gets; `None` when nothing changes.
    pub fn new_bytes(&self) -> Option<Vec<u8>> {
        let proven = self.proven().filter(|proven| !proven.is_empty())?;
        Some(with_mark(proven.text(), proven.bom().unwrap_or(self.input.source().facts().bom)))
    }

    pub fn proven(&self) -> Option<&Proven> {
        match &self.made {
            Made::Proven(proven) => Some(proven),
            Made::Uncovered | Made::Remembered => None,
        }
    }
}

/// The bytes of a file as it was read.
fn bytes(source: &Source) -> Vec<u8> {
    with_mark(source.text(), source.facts().bom)
}

fn with_mark(text: &str, bom: bool) -> Vec<u8> {
    let mut bytes = if bom { "\u{feff}".as_bytes().to_vec() } else { Vec::with_capacity(text.len()) };
    bytes.extend_from_slice(text.as_bytes());
    bytes
}

/// The targets, where only changed lines are meant those that have some.
pub fn meant(arguments: &ReshapeArguments) -> (Vec<Target>, Vec<Problem>) {
    let here = ["."].map(OsString::from);
    let places = if arguments.places.is_empty() { &here[..] } else { &arguments.places };
    let (targets, mut problems) = targets(places);
    let Some(against) = arguments.against() else { return (targets, problems) };
    let (narrowed, more) = narrowed(targets, &against);
    problems.extend(more);
    (narrowed, problems)
}

/// Reads, reshapes and proves one file.
pub fn work(
    target: &Target,
    arguments: &ReshapeArguments,
    job: &Job,
    workspace: &Workspace,
    cache: &Cache,
) -> Result<Worked, Problem> {
    let input = match &target.content {
        Content::Disk => workspace.read(&target.file, &arguments.input)?,
        Content::Index(repository, path) => {
            let staged = repository.staged(path);
            let bytes = staged.map_err(|message| Problem::new(target.file.display().to_string(), message))?;
            workspace.read_bytes(&target.file, bytes, &arguments.input)?
        }
    };
    if !input.has_language() {
        // An ending that several languages share is no promise that a file is in one of them.
        if !target.named {
            return Ok(worked(input, Made::Uncovered, target));
        }
        let message = "this file's language is not known; name one with --language, or a file name with --as";
        return Err(Problem::new(&input.shown, message));
    }
    let language = input.document.language();
    if !(job.step.covers)(language) {
        if !target.named || !(job.step.concerns)(language) {
            return Ok(worked(input, Made::Uncovered, target));
        }
        let title = language.spec().title;
        let message = format!("{title} cannot be {} yet; looks such as outline and fold work on it", job.step.done);
        return Err(Problem::new(&input.shown, message));
    }
    let spans = spans(target, &input);
    let spans = spans.map_err(|message| Problem::new(&input.shown, message))?;
    let only = (!spans.is_empty()).then_some(spans.as_slice());
    let style = workspace.style(input.source().path(), language, &arguments.set);
    if arguments.write && let Some((file, line)) = style.fault() {
        let message =
            format!("is not written: {}:{line} holds for it and cannot be read; mend that first", file.display());
        return Err(Problem::new(&input.shown, message));
    }
    // What was found as it should be before needs no tree.
    let whole = only.is_none()
        && !arguments.generated
        && job.wish == Wish::Nothing
        && !job.step.looks_around
        && says_nothing_of_clean_files(arguments, target);
    let record = whole
        .then(|| cache.record(&bytes(input.source()), job.step.name, language.name(), &style))
        .flatten();
    if record.as_ref().is_some_and(|record| cache.knows(record)) {
        return Ok(worked(input, Made::Remembered, target));
    }
    let document = input.document.clone().with_style(style.clone());
    let around = Around::of(workspace, input.source().path(), language);
    let asked = AtomicBool::new(false);
    let beside = |style: &Style| {
        asked.store(true, Ordering::Relaxed);
        workspace.style_beside(style, input.source().path(), language)
    };
    let (wish, generated) = (job.wish.clone(), arguments.generated);
    let request = Request { only, wish, generated, around: Some(&around), beside: Some(&beside) };
    let proven = job.step.run(&document, &request).map_err(|error| problem_of(&input, error))?;
    let receipt = proven.receipt();
    let quiet = proven.is_empty() && receipt.left_alone.is_empty() && receipt.notes.is_empty();
    // What others show may change, and what is remembered does not.
    let quiet = quiet && !asked.into_inner();
    record.filter(|_| quiet).into_iter().for_each(|record| cache.remember(record));
    Ok(worked(input, Made::Proven(Box::new(proven)), target))
}

/// What was done to one file otherwise than by a step over its parts.
pub fn worked_on(input: Input, proven: Proven, target: &Target) -> Worked {
    worked(input, Made::Proven(Box::new(proven)), target)
}

fn worked(input: Input, made: Made, target: &Target) -> Worked {
    let changed = match &made {
        Made::Proven(proven) if !proven.edits().is_empty() => {
            diff::changed_lines(&diff::changes(input.source(), proven.edits()))
        }
        _ => (0, 0),
    };
    Worked { input, made, changed, named: target.named, content: target.content.clone() }
}

/// Whether nothing is printed of a file that is as it should be.
fn says_nothing_of_clean_files(arguments: &ReshapeArguments, target: &Target) -> bool {
    let whole = matches!(arguments.output, Some(ReshapeOutput::Text | ReshapeOutput::Json));
    !whole && !arguments.no_cache && target.file != Path::new(STDIN)
}

/// The parts of a file that are meant; none for the whole.
pub fn spans(target: &Target, input: &Input) -> Result<Vec<Span>, String> {
    let lines = input.source().lines();
    let run = |(first, last): &(u32, u32)| {
        let end = if *last >= lines.count() { input.source().span().end } else { lines.start(*last) - 1 };
        Span::new(lines.start(first - 1), end.max(lines.start(first - 1)))
    };
    match &target.lines {
        Some(runs) if runs.iter().any(|(first, last)| *first == 1 && *last >= lines.count()) => Ok(Vec::new()),
        Some(runs) => Ok(runs.iter().map(run).collect()),
        None => target.spots.iter().map(|spot| spot.resolve(input.code(), input.marks())).collect(),
    }
}

/// Why a step did nothing, with what to do about it.
fn problem_of(input: &Input, error: StepError) -> Problem {
    let StepError::Refused(refusal) = error else { return Problem::new(&input.shown, error.to_string()) };
    let advice = match refusal.error {
        Some(error) => {
            let at = input.source().line_column(error);
            format!("mend the syntax error at {}:{} first", at.line, at.column)
        }
        None => "please report this".to_owned(),
    };
    input.problem_at(refusal.offset, format!("{refusal}; {advice}"))
}
