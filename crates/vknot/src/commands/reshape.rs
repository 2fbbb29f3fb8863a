//! What all reshapes have in common: files in parallel, the proof, showing, writing, receipts, exit codes.

use std::io::{IsTerminal, Write};
use std::collections::{BTreeSet, HashMap};
use std::path::{Path, PathBuf};

use indicatif::{ProgressBar, ProgressStyle};
use rayon::prelude::*;
use serde_json::json;
use vknot_reshape::Reason;

use crate::arguments::{ReshapeArguments, ReshapeOutput};
use crate::files::cache::Cache;
use crate::files::input::STDIN;
use crate::files::journal::{Change, Journal, Recording};
use crate::files::targets::{Content, Target};
use crate::files::workspace::Workspace;
use crate::files::write;
use crate::output::{self, diff, FAINT, NAME, receipt, sarif};
use crate::output::json::{ProblemJson, ReceiptJson, SpanJson, text_edits};
use crate::problem::{Outcome, Problem};
use super::job::Job;
use super::work::{Made, meant, work, Worked};

/// Files are worked on and written in batches, so that a large tree needs little memory.
const BATCH: usize = 128;

/// How many of the files written before something went wrong are named.
const NAMED_AT_MOST: usize = 8;

/// Runs a reshape over everything named.
pub fn run(arguments: &ReshapeArguments, job: &Job, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, problems) = meant(arguments);
    let mut run = Run { form: form(arguments, &targets), problems, ..Run::new(arguments, job) };
    if let Some(problem) = run.unfit(&targets) {
        output::problems(&[problem]);
        return Ok(Outcome::Failed);
    }
    let cache = Cache::open(!arguments.no_cache);
    let progress = progress(targets.len());
    for batch in targets.chunks(BATCH) {
        let worked: Vec<Result<Worked, Problem>> = batch
            .par_iter()
            .map(|target| {
                let worked = work(target, arguments, job, workspace, &cache);
                progress.inc(1);
                worked
            })
            .collect();
        run.take(worked)?;
    }
    progress.finish_and_clear();
    cache.keep();
    run.problems.extend(workspace.take_problems());
    run.finish(targets.len())
}

/// Shows or writes what came of some files.
pub fn run_many(
    arguments: &ReshapeArguments,
    job: &Job,
    workspace: &Workspace,
    worked: Vec<Result<Worked, Problem>>,
) -> anyhow::Result<Outcome> {
    let targets: Vec<Target> = worked
        .iter()
        .filter_map(|worked| worked.as_ref().ok())
        .map(|worked| Target::named(worked.input.path.clone().unwrap_or_else(|| STDIN.into())))
        .collect();
    let mut run = Run { form: form(arguments, &targets), ..Run::new(arguments, job) };
    if let Some(problem) = run.unfit(&targets) {
        output::problems(&[problem]);
        return Ok(Outcome::Failed);
    }
    let count = worked.len();
    run.take(worked)?;
    run.problems.extend(workspace.take_problems());
    run.finish(count)
}

/// The form asked for; standard input gives text, a check gives names.
fn form(arguments: &ReshapeArguments, targets: &[Target]) -> Option<ReshapeOutput> {
    let stdin = matches!(targets, [only] if only.file == Path::new(STDIN));
    match arguments.output {
        None if arguments.check || arguments.write => None,
        None if stdin => Some(ReshapeOutput::Text),
        None => Some(ReshapeOutput::Diff),
        form => form,
    }
}

fn progress(count: usize) -> ProgressBar {
    if count < BATCH || !std::io::stderr().is_terminal() {
        return ProgressBar::hidden();
    }
    let style = ProgressStyle::with_template("{bar:30.blue} {pos}/{len} files").unwrap_or(ProgressStyle::default_bar());
    ProgressBar::new(count as u64).with_style(style)
}

/// The state of a run over many files.
struct Run<'r> {
    arguments: &'r ReshapeArguments,
    job: &'r Job,
    form: Option<ReshapeOutput>,
    problems: Vec<Problem>,
    recording: Option<Recording>,
    documents: Vec<serde_json::Value>,
    findings: Vec<Worked>,
    receipts: Vec<String>,
    /// The files written so far, by name.
    written: Vec<String>,
    /// Whether nothing more may be written.
    stopped: bool,
    /// Folders in which runs that were killed may have left something.
    left_over: BTreeSet<PathBuf>,
    changed: usize,
    clean: usize,
    /// Files whose language the step does not cover.
    uncovered: usize,
    /// Files that say that a program wrote them.
    generated: usize,
    /// Imports that nothing is known to need, and of which nothing was said.
    kept_imports: usize,
}

impl<'r> Run<'r> {
    fn new(arguments: &'r ReshapeArguments, job: &'r Job) -> Self {
        Self {
            arguments,
            job,
            form: None,
            problems: Vec::new(),
            recording: None,
            documents: Vec::new(),
            findings: Vec::new(),
            receipts: Vec::new(),
            written: Vec::new(),
            stopped: false,
            left_over: BTreeSet::new(),
            changed: 0,
            clean: 0,
            uncovered: 0,
            generated: 0,
            kept_imports: 0,
        }
    }

    /// What cannot be asked for together.
    fn unfit(&self, targets: &[Target]) -> Option<Problem> {
        let stdin = targets.iter().any(|target| target.file == Path::new(STDIN));
        if stdin && self.arguments.write {
            return Some(Problem::new("-", "standard input cannot be written to; leave --write out"));
        }
        let message = "several files cannot be printed as one text; name one file, or use --write";
        let texts = self.form == Some(ReshapeOutput::Text) && targets.len() > 1;
        texts.then(|| Problem::new("--output text", message))
    }

    /// Takes a batch of results: writes, prints, counts.
    fn take(&mut self, worked: Vec<Result<Worked, Problem>>) -> anyhow::Result<()> {
        let mut done = Vec::with_capacity(worked.len());
        for result in worked {
            match result {
                Ok(worked) => done.push(worked),
                Err(problem) => self.problems.push(problem),
            }
        }
        if self.arguments.write {
            self.write(&mut done)?;
        }
        for worked in done {
            self.show(worked)?;
        }
        Ok(())
    }

    fn write(&mut self, done: &mut Vec<Worked>) -> anyhow::Result<()> {
        self.stage(done);
        let changes: Vec<(PathBuf, Vec<u8>, Vec<u8>)> = done.iter()
            .filter(|worked| matches!(worked.content, Content::Disk))
            .filter_map(|worked| {
                let (path, new) = (worked.input.path.clone()?, worked.new_bytes()?);
                Some((path, worked.old_bytes(), new))
            })
            .collect();
        if changes.is_empty() {
            return Ok(());
        }
        if self.stopped {
            done.retain(|worked| worked.new_bytes().is_none());
            return Ok(());
        }
        let recording = match &mut self.recording {
            Some(recording) => recording,
            none => none.insert(Journal::open()?.begin()?),
        };
        let entries: Vec<Change<'_>> = changes.iter().map(|(path, old, new)| Change { path, old, new }).collect();
        if let Err(error) = recording.record(&entries) {
            self.give_up_writing(done, &error);
            return Ok(());
        }
        self.left_over.extend(changes.iter().filter_map(|(path, ..)| Some(path.parent()?.to_path_buf())));
        let failures: Vec<(PathBuf, String)> = changes
            .par_iter()
            .filter_map(|(path, old, new)| Some((path.clone(), write::replace(path, old, new).err()?.to_string())))
            .collect();
        for (path, _) in &failures {
            recording.skip(path)?;
        }
        let failed: HashMap<&Path, &String> =
            failures.iter().map(|(path, message)| (path.as_path(), message)).collect();
        let is_written = |path: Option<&Path>| path.is_some_and(|path| !failed.contains_key(path));
        for worked in done.iter()
            .filter(|worked| worked.new_bytes().is_some() && is_written(worked.input.path.as_deref()))
        {
            self.written.push(worked.input.shown.clone());
        }
        done.retain(|worked| worked.input.path.as_deref().is_none_or(|path| !failed.contains_key(path)));
        self.problems.extend(
            failures.iter().map(|(path, message)| Problem::new(path.display().to_string(), message.clone())),
        );
        Ok(())
    }

    /// Puts what came of staged contents in their place.
    fn stage(&mut self, done: &mut Vec<Worked>) {
        done.retain(|worked| {
            let (Content::Index(repository, path), Some(new)) = (&worked.content, worked.new_bytes()) else {
                return true
            };
            let staged = repository.stage(path, &worked.old_bytes(), &new);
            self.problems.extend(
                staged.as_ref().err().map(|message| Problem::new(&worked.input.shown, message.clone())),
            );
            staged.is_ok()
        });
    }

    /// Nothing more is written once the journal cannot be: files that were written before stay so, and that is said.
    fn give_up_writing(&mut self, done: &mut Vec<Worked>, error: &anyhow::Error) {
        let written = self.recording.as_ref().map_or(0, Recording::files);
        let number = self.recording.as_ref().map_or(0, |recording| recording.number);
        let before = match written {
            0 => "no file was written".to_owned(),
            _ => {
                let files = output::count(written, "file");
                let mut names = self.written.iter().take(NAMED_AT_MOST).cloned().collect::<Vec<_>>().join(", ");
                if self.written.len() > NAMED_AT_MOST {
                    names.push_str(&format!(" and {} more", self.written.len() - NAMED_AT_MOST));
                }
                format!("{files} written before: {names}; `vknot undo --run {number}` takes them back")
            }
        };
        done.retain(|worked| worked.new_bytes().is_none());
        self.problems.push(Problem::new("journal", format!("cannot be written: {error:#}; {before}")));
        self.stopped = true;
    }

    fn show(&mut self, worked: Worked) -> anyhow::Result<()> {
        let source = worked.input.source();
        let Some(proven) = worked.proven() else {
            match worked.made {
                Made::Remembered => self.clean += 1,
                _ => self.uncovered += 1,
            }
            if self.form == Some(ReshapeOutput::Text) {
                output::stdout().write_all(&worked.old_bytes())?;
            }
            return Ok(());
        };
        let changes = !proven.is_empty();
        let receipt = proven.receipt();
        let generated = receipt.left_alone.iter().any(|left| left.reason == Reason::Generated);
        match (changes, generated) {
            (true, _) => self.changed += 1,
            (_, true) => self.generated += 1,
            _ => self.clean += 1,
        }
        let gave_up = receipt.left_alone.iter().find(|left| left.reason == Reason::GaveUp);
        if let Some(left) = gave_up {
            let message = "is too far from its language to be read in reasonable time; it was left as it is";
            self.problems.push(worked.input.problem_at(left.span.start, message));
        }
        // A check names the files on standard output, and a text says all there is to say.
        let brief = self.form.is_none() && self.arguments.check || self.form == Some(ReshapeOutput::Text);
        if !brief {
            self.receipts.extend(receipt::summary(&worked.input.shown, receipt, worked.changed));
        }
        if !brief && changes {
            self.receipts.extend(receipt::placed(&worked.input.shown, proven));
        }
        if !generated || worked.named {
            self.receipts.extend(receipt::remarks(&worked.input.shown, source, receipt));
            let told = match (self.job.explains, worked.named) {
                (true, _) => receipt::Told::All,
                (false, true) => receipt::Told::Notable,
                (false, false) => receipt::Told::Changed,
            };
            let imports = receipt::imports(&worked.input.shown, source, receipt, told);
            self.receipts.extend(imports.lines);
            self.kept_imports += imports.untold;
        }
        let mut out = output::stdout();
        match self.form {
            Some(ReshapeOutput::Diff) if changes => {
                let changes = diff::changes(source, proven.edits());
                let line_ends = !output::is_terminal() || diff::changes_line_ends(source, &changes);
                write!(out, "{}", diff::unified(&worked.input.shown, source, &changes, line_ends))?;
            }
            Some(ReshapeOutput::Text) => {
                let text = worked.new_bytes().unwrap_or_else(|| worked.old_bytes());
                output::stdout().write_all(&text)?;
            }
            Some(ReshapeOutput::Json) => {
                let mut document = json!({
                    "file": worked.input.shown,
                    "language": worked.input.document.language().name(),
                    "changed": changes,
                    "edits": text_edits(source, proven.edits()),
                    "byteOrderMark": proven.bom().map(|put| if put { "added" } else { "removed" }),
                    "receipt": ReceiptJson::of(source, receipt, worked.changed),
                });
                if let Some(span) = proven.receipt().place() {
                    document["now"] = json!(SpanJson::of(proven.document().source(), span));
                }
                self.documents.push(document);
            }
            Some(ReshapeOutput::Sarif) if changes => self.findings.push(worked),
            None if changes && self.arguments.check => writeln!(out, "{}", worked.input.shown)?,
            _ => {}
        }
        Ok(())
    }

    fn finish(mut self, targets: usize) -> anyhow::Result<Outcome> {
        if let Some(recording) = self.recording.take() {
            recording.finish();
        }
        let swept: usize = self.left_over.iter().map(|folder| write::sweep(folder)).sum();
        if swept > 0 {
            let files = output::count(swept, "temporary file");
            self.receipts.push(format!("removed {files} that a run which was killed had left"));
        }
        match self.form {
            Some(ReshapeOutput::Json) => {
                let problems: Vec<ProblemJson> = self.problems.iter().map(ProblemJson::from).collect();
                let schema = format!("vknot.{}/1", self.job.name);
                output::json::print(&schema, json!({ "files": self.documents, "problems": problems }))?;
            }
            Some(ReshapeOutput::Sarif) => {
                let findings: Vec<sarif::Finding<'_>> = self.findings.iter().filter_map(finding).collect();
                let log = sarif::log(self.job.name, self.job.step.finding, &findings, &self.problems);
                sarif::print(&log)?;
            }
            _ => {}
        }
        let mut err = output::stderr();
        for line in &self.receipts {
            writeln!(err, "{line}")?;
        }
        drop(err);
        output::problems(&self.problems);
        if self.kept_imports > 0 {
            let kept = output::count(self.kept_imports, "import");
            writeln!(output::stderr(), "{kept} kept though nothing is known to need them; --explain names them")?;
        }
        self.summary(targets)?;
        Ok(match (self.problems.is_empty(), self.arguments.check && self.changed > 0) {
            (false, _) => Outcome::Failed,
            (true, true) => Outcome::Found,
            (true, false) => Outcome::Done,
        })
    }

    /// One closing line, unless a single text went to standard output.
    fn summary(&self, targets: usize) -> std::io::Result<()> {
        if self.form == Some(ReshapeOutput::Text) {
            return Ok(());
        }
        let mut err = output::stderr();
        if targets == 0 {
            let none = if self.arguments.against().is_some() {
                "no line changed"
            } else {
                "no file of a known language is here"
            };
            return writeln!(err, "{none}");
        }
        let verb = if self.arguments.write { "changed" } else { "would change" };
        let undo = match self.arguments.staged {
            _ if !self.arguments.write || self.changed == 0 => "",
            true => "; staged, the files stay as they are",
            false => "; `vknot undo` takes it back",
        };
        let mut parts = vec![format!("{NAME}{} {verb}{NAME:#}", output::count(self.changed, "file"))];
        if self.clean > 0 {
            parts.push(format!("{} as {} should be", self.clean, if self.clean == 1 { "it" } else { "they" }));
        }
        if self.uncovered > 0 {
            let language = if self.uncovered == 1 { "a language" } else { "languages" };
            parts.push(format!("{} in {language} whose {} not known", self.uncovered, self.job.step.unknown));
        }
        if self.generated > 0 {
            parts.push(format!("{} written by a program and left", self.generated));
        }
        if !self.problems.is_empty() {
            parts.push(output::count(self.problems.len(), "problem"));
        }
        writeln!(err, "{}{FAINT}{undo}{FAINT:#}", parts.join(", "))
    }
}

fn finding(worked: &Worked) -> Option<sarif::Finding<'_>> {
    let proven = worked.proven()?;
    let (shown, source) = (&worked.input.shown, worked.input.source());
    Some(sarif::Finding { shown, source, edits: proven.edits(), bom: proven.bom() })
}
