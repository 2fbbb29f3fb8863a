//! `style learn`: the settings with which `format` changes the fewest lines of a code base.

use std::collections::BTreeMap;
use std::ffi::OsString;
use std::io::{IsTerminal, Write};
use std::path::{Path, PathBuf};

use indicatif::{ProgressBar, ProgressStyle};
use rayon::prelude::*;
use serde_json::{json, Value};
use vknot_reshape::style_of;
use vknot_reshape::steps::Document;
use vknot_reshape::styling::{Costs, Evidence, Folders, Learnt, Trial, is_generated, learn};
use vknot_style::{Key, Origin, Override};
use vknot_syntax::Language;

use crate::arguments::{InputArguments, LookOutput};
use crate::files::around::Around;
use crate::files::journal::Fingerprint;
use crate::files::styles::FILE_NAME;
use crate::files::targets::targets;
use crate::files::workspace::Workspace;
use crate::output::{self, FAINT, HEAD, KIND, NAME};
use crate::problem::Outcome;
use super::sources::Sources;
use super::written::{pattern, put, section, text_of};

/// Find the settings with which format changes the fewest lines of a code base
///
/// Each value of each setting is tried on the files, or on a sample of them where there are many. What enough lines agree on is shown as
/// lines of an .editorconfig file, and written with --write. What the project's own .editorconfig files set stands, unless --anew. Languages
/// without a layout are learnt by their indentation. The order of imports is learnt, too.
#[derive(clap::Args)]
pub struct Arguments {
    /// Files and folders
    #[arg(required = true, value_name = "PATH")]
    paths: Vec<OsString>,
    /// Add what was learnt to the .editorconfig file of the folder named first
    #[arg(short, long)]
    write: bool,
    /// Forget what .editorconfig files say, and learn all
    #[arg(long)]
    anew: bool,
    /// Also show what is not sure
    #[arg(long)]
    all: bool,
    /// Only this language
    #[arg(long, value_name = "NAME")]
    language: Option<String>,
    /// How many kilobytes of each language are tried
    #[arg(long, value_name = "KILOBYTES", default_value_t = 300)]
    sample: usize,
    /// How to print it
    #[arg(long, value_enum, default_value = "text", value_name = "FORM")]
    output: LookOutput,
}

/// The largest file that is tried, in bytes: one that is larger was hardly written by hand.
const LARGEST: usize = 100_000;

/// How much more than what is tried may confirm it.
const CONFIRMED_BY: usize = 3;

/// A language's files that are tried, and what they show.
struct Lesson {
    language: &'static Language,
    endings: Vec<String>,
    /// How many files there are in all.
    files: usize,
    documents: Vec<Document>,
    folders: Folders,
    /// What was learnt by the layout, and by the order of imports.
    learnt: Vec<(Trial, Learnt)>,
}

impl Lesson {
    fn lines(&self) -> usize {
        self.documents.iter().map(|document| document.source().text().lines().count()).sum()
    }

    /// The share of lines that stay, in per cent.
    fn unchanged(&self, costs: &Costs) -> f64 {
        100.0 - 100.0 * sum(costs) as f64 / self.lines().max(1) as f64
    }

    /// What the files say of each setting on which they say something.
    fn evidence(&self) -> impl Iterator<Item = &Evidence> {
        self.learnt.iter().flat_map(|(_, learnt)| &learnt.evidence)
    }

    /// The settings that are sure, in the order of their keys.
    fn settings(&self) -> Vec<Override> {
        let mut settings: Vec<Override> = self.learnt.iter().flat_map(|(_, learnt)| learnt.settings()).collect();
        settings.sort_by_key(Override::key);
        settings
    }

    /// The folders that differ from what is around them.
    fn apart(&self) -> BTreeMap<&Path, Vec<&Evidence>> {
        let mut folders: BTreeMap<&Path, Vec<&Evidence>> = BTreeMap::new();
        for (folder, own) in self.learnt.iter().flat_map(|(_, learnt)| &learnt.apart) {
            folders.entry(folder).or_default().extend(own);
        }
        folders
    }
}

fn sum(costs: &Costs) -> u64 {
    costs.iter().copied().map(u64::from).sum()
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, problems) = targets(&arguments.paths);
    let root = root_of(&arguments.paths);
    let wanted = |own: &Sources| {
        let named = arguments.language.as_deref().is_none_or(|name| name == own.language.name());
        named && Trial::ALL.iter().any(|trial| trial.covers(own.language))
    };
    let sources = Sources::of(targets).into_iter().filter(wanted);
    let lessons: Vec<Lesson> = sources.filter_map(|own| lesson(&own, &root, arguments, workspace)).collect();
    match arguments.output {
        LookOutput::Json => {
            let languages: Vec<Value> = lessons.iter().map(document).collect();
            output::json::print("vknot.style.learn/1", json!({ "languages": languages }))?;
        }
        LookOutput::Text => lessons.iter().try_for_each(|lesson| print(lesson, arguments.all))?,
    }
    output::problems(&problems);
    let text = text(&lessons);
    if text.is_empty() {
        writeln!(output::stderr(), "{FAINT}nothing is sure that is not usual, so nothing is to be set{FAINT:#}")?;
    } else if arguments.output == LookOutput::Text || arguments.write {
        let file = root.join(FILE_NAME);
        let old = text_of(&file)?;
        let new = match &old {
            Some(old) => format!("{}\n\n{text}", old.trim_end()),
            None => text,
        };
        put(&file, old.as_deref(), &new, arguments.write)?;
    }
    Ok(if problems.is_empty() { Outcome::Done } else { Outcome::Failed })
}

/// The folder named first, or that of the file.
fn root_of(paths: &[OsString]) -> PathBuf {
    let first = paths.first().map(PathBuf::from).unwrap_or_default();
    let folder = if first.is_dir() { first.as_path() } else { first.parent().unwrap_or(Path::new("")) };
    if folder.as_os_str().is_empty() { PathBuf::from(".") } else { folder.to_path_buf() }
}

fn lesson(
    sources: &Sources,
    root: &Path,
    arguments: &Arguments,
    workspace: &Workspace,
) -> Option<Lesson> {
    let language = sources.language;
    let (documents, others) = tried(sources, arguments, workspace);
    // What is not below the root is in no folder.
    let plain = |path: &Path| path.strip_prefix(".").unwrap_or(path).to_path_buf();
    let path = |document: &Document| {
        let path = plain(document.source().path());
        let name = || PathBuf::from(path.file_name().unwrap_or_default());
        path.strip_prefix(plain(root)).map_or_else(|_| name(), Path::to_path_buf)
    };
    let folders = Folders::of(documents.iter().map(path).collect());
    let trials = Trial::ALL.into_iter().filter(|trial| trial.covers(language) && !documents.is_empty());
    let learnt = trials.map(|trial| (trial, learnt(trial, (&documents, &others), &folders, workspace))).collect();
    (!documents.is_empty()).then(|| Lesson {
        language,
        endings: sources.endings(),
        files: sources.files.len(),
        documents,
        folders,
        learnt,
    })
}

/// The files of a language that are tried: those that people wrote and that can be read, as many as there is room for. Also others, to
/// confirm what those show.
fn tried(sources: &Sources, arguments: &Arguments, workspace: &Workspace) -> (Vec<Document>, Vec<Document>) {
    let read = |file: &PathBuf| {
        let document = workspace.read(file, &InputArguments::default()).ok()?.document;
        let style = workspace.style(file, document.language(), &[]);
        let fits = document.language() == sources.language && document.source().text().len() <= LARGEST;
        let document = if arguments.anew { document } else { document.with_style(style) };
        fits.then(|| (Fingerprint::of(document.source().text().as_bytes()).order(), file.clone(), document))
    };
    let mut all: Vec<_> = sources.files.par_iter().filter_map(read).collect();
    // By content, so that neither the order nor the names of files decide which are tried.
    all.sort_by(|(one, one_file, _), (other, other_file, _)| (one, one_file).cmp(&(other, other_file)));
    let room = arguments.sample.saturating_mul(1000);
    let mut parts = [(room, Vec::new()), (room.saturating_mul(CONFIRMED_BY), Vec::new())];
    for (_, _, document) in all {
        let size = document.source().text().len();
        let part = parts.iter_mut().find(|(room, _)| size <= *room);
        let Some((room, part)) = part.filter(|_| !is_generated(&document) && !document.tree().has_error()) else {
            continue
        };
        *room -= size;
        part.push(document);
    }
    let [(_, tried), (_, others)] = parts;
    (tried, others)
}

fn learnt(
    trial: Trial,
    (documents, others): (&[Document], &[Document]),
    folders: &Folders,
    workspace: &Workspace,
) -> Learnt {
    let Some(language) = documents.first().map(Document::language) else { return Learnt::default() };
    let costs = |documents: &[Document], set: &[Override]| -> Costs {
        let count = |document: &Document| {
            let around = Around::of(workspace, document.source().path(), language);
            trial.cost(document, &document.style().clone().overridden(set), &around)
        };
        documents.par_iter().map(count).collect()
    };
    let is_set = |key: Key| documents.iter().any(|document| matches!(document.style().origin(key), Origin::File(..)));
    let mut questions = trial.questions(language, documents);
    questions.retain(|(key, _)| !is_set(*key));
    let bar = match std::io::stderr().is_terminal() {
        true => ProgressBar::no_length().with_message(language.spec().title),
        false => ProgressBar::hidden(),
    };
    let style = ProgressStyle::with_template("{msg} {bar:30.blue} {pos}/{len} settings");
    bar.set_style(style.unwrap_or(ProgressStyle::default_bar()));
    let evaluate = |set: &[Override]| costs(documents, set);
    let confirm = |set: &[Override]| costs(others, set);
    let learnt = learn(style_of(language), questions, (&evaluate, &confirm), folders, &mut |at, of| {
        bar.set_length(of as u64);
        bar.set_position(at as u64);
    });
    bar.finish_and_clear();
    learnt
}

fn print(lesson: &Lesson, all: bool) -> std::io::Result<()> {
    let mut out = output::stdout();
    let tried = match (lesson.documents.len(), lesson.files) {
        (tried, files) if tried == files => output::count(files, "file"),
        (tried, files) => format!("{tried} of {}", output::count(files, "file")),
    };
    let lines = output::count(lesson.lines(), "line");
    writeln!(out, "{HEAD}{}{HEAD:#}  {FAINT}{tried}, {lines}{FAINT:#}", lesson.language.spec().title)?;
    for (trial, learnt) in &lesson.learnt {
        let (before, after) = (&learnt.before, &learnt.after);
        match trial {
            Trial::Layout => {
                let (before, after) = (lesson.unchanged(before), lesson.unchanged(after));
                let stay = "lines that format leaves as they are";
                writeln!(out, "  {stay}: {before:.1}% as set now, {NAME}{after:.1}%{NAME:#} as learnt")?;
            }
            Trial::Imports if sum(before) + sum(after) == 0 => {}
            Trial::Imports => {
                let (before, after) = (sum(before), sum(after));
                writeln!(out, "  lines that imports moves: {before} as set now, {NAME}{after}{NAME:#} as learnt")?;
            }
        }
    }
    let (sure, others): (Vec<&Evidence>, Vec<&Evidence>) = lesson.evidence().partition(|own| own.sure);
    sure.iter().try_for_each(|own| print_evidence(&mut out, own, ""))?;
    if all {
        others.iter().try_for_each(|own| print_evidence(&mut out, own, "  not sure"))?;
    }
    for (folder, apart) in lesson.apart() {
        writeln!(out, "  {FAINT}otherwise in{FAINT:#} {}", folder.display())?;
        apart.iter().try_for_each(|own| print_evidence(&mut out, own, ""))?;
    }
    Ok(())
}

fn print_evidence(out: &mut impl Write, own: &Evidence, remark: &str) -> std::io::Result<()> {
    let (key, value) = (own.set.key().setting().key, own.set.value());
    let setting = format!("{key} = {KIND}{value}{KIND:#}");
    let room = " ".repeat(42usize.saturating_sub(key.len() + value.len() + 3));
    let lines = output::count(own.for_it as usize, "line");
    writeln!(out, "  {setting}{room}  {lines} for it, {} against{FAINT}{remark}{FAINT:#}", own.against)
}

/// The sections of an `.editorconfig` file that say what was learnt. What all languages agree on stands in one for all files.
fn text(lessons: &[Lesson]) -> String {
    let all: Vec<Vec<Override>> = lessons.iter().map(Lesson::settings).collect();
    let shared: Vec<Override> = match all.as_slice() {
        [first, _, ..] => first.iter().filter(|set| all.iter().all(|own| own.contains(set))).cloned().collect(),
        _ => Vec::new(),
    };
    let mut sections = Vec::new();
    if !shared.is_empty() {
        sections.push(section("*", &shared));
    }
    for (lesson, own) in lessons.iter().zip(&all) {
        let own: Vec<Override> = own.iter().filter(|set| !shared.contains(set)).cloned().collect();
        if !own.is_empty() {
            sections.push(section(&pattern("", &lesson.endings), &own));
        }
        for (folder, apart) in lesson.apart() {
            let set: Vec<Override> = apart.iter().map(|own| own.set.clone()).collect();
            sections.push(section(&pattern(&folder.to_string_lossy(), &lesson.endings), &set));
        }
    }
    sections.join("\n")
}

fn document(lesson: &Lesson) -> Value {
    let evidence = |own: &Evidence| {
        json!({
            "key": own.set.key().setting().key,
            "value": own.set.value(),
            "linesFor": own.for_it,
            "linesAgainst": own.against,
            "sure": own.sure,
        })
    };
    let held = |folder: &Path| (0..lesson.documents.len()).filter(|file| lesson.folders.holds(folder, *file)).count();
    let apart: Vec<Value> = lesson
        .apart()
        .into_iter()
        .map(|(folder, own)| json!({
            "folder": folder.to_string_lossy(),
            "files": held(folder),
            "settings": own.into_iter().map(evidence).collect::<Vec<_>>(),
        }))
        .collect();
    let mut document = json!({
        "language": lesson.language.name(),
        "files": lesson.files,
        "filesTried": lesson.documents.len(),
        "lines": lesson.lines(),
        "settings": lesson.evidence().map(evidence).collect::<Vec<_>>(),
        "apart": apart,
    });
    for (trial, learnt) in &lesson.learnt {
        match trial {
            Trial::Layout => {
                document["unchangedBefore"] = json!(lesson.unchanged(&learnt.before) / 100.0);
                document["unchangedAfter"] = json!(lesson.unchanged(&learnt.after) / 100.0);
            }
            Trial::Imports => {
                document["importLinesBefore"] = json!(sum(&learnt.before));
                document["importLinesAfter"] = json!(sum(&learnt.after));
            }
        }
    }
    document
}
