//! `style learn`: the settings with which `format` changes the fewest lines of a code base.

use std::ffi::OsString;
use std::io::{IsTerminal, Write};
use std::path::{Path, PathBuf};

use indicatif::{ProgressBar, ProgressStyle};
use rayon::prelude::*;
use serde_json::{json, Value};
use vknot_reshape::{capabilities, style_of};
use vknot_reshape::steps::Document;
use vknot_reshape::styling::{Costs, Evidence, Learnt, is_generated, learn, reshaped, touched_lines};
use vknot_style::{Key, Origin, Override, SETTINGS};
use vknot_syntax::Language;

use crate::arguments::{InputArguments, LookOutput};
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
/// without a layout are learnt by their indentation.
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

/// A language's files that are tried, and what they show.
struct Lesson {
    language: &'static Language,
    endings: Vec<String>,
    /// How many files there are in all.
    files: usize,
    documents: Vec<Document>,
    /// The folders right below the root, each a group of files.
    folders: Vec<String>,
    groups: Vec<usize>,
    learnt: Learnt,
}

impl Lesson {
    fn lines(&self) -> usize {
        self.documents.iter().map(|document| document.source().text().lines().count()).sum()
    }

    /// The share of lines that stay, in per cent.
    fn unchanged(&self, costs: &Costs) -> f64 {
        let changed: u64 = costs.iter().copied().map(u64::from).sum();
        100.0 - 100.0 * changed as f64 / self.lines().max(1) as f64
    }
}

pub fn run(arguments: &Arguments, workspace: &Workspace) -> anyhow::Result<Outcome> {
    let (targets, problems) = targets(&arguments.paths);
    let root = root_of(&arguments.paths);
    let wanted = |own: &Sources| {
        let can = capabilities(own.language);
        let named = arguments.language.as_deref().is_none_or(|name| name == own.language.name());
        named && (can.layout || can.indentation)
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
    let read = |file: &PathBuf| {
        let document = workspace.read(file, &InputArguments::default()).ok()?.document;
        let style = workspace.style(file, document.language(), &[]);
        let fits = document.language() == language && document.source().text().len() <= LARGEST;
        let document = if arguments.anew { document } else { document.with_style(style) };
        fits.then(|| (Fingerprint::of(document.source().text().as_bytes()), file.clone(), document))
    };
    let mut all: Vec<_> = sources.files.par_iter().filter_map(read).collect();
    // By content, so that neither the order nor the names of files decide which are tried.
    all.sort_by_key(|(fingerprint, file, _)| (fingerprint.order(), file.clone()));
    let mut room = arguments.sample.saturating_mul(1000);
    let mut tried: Vec<(PathBuf, Document)> = Vec::new();
    for (_, file, document) in all {
        let size = document.source().text().len();
        if size <= room && !is_generated(&document) && !document.tree().has_error() {
            room -= size;
            tried.push((file, document));
        }
    }
    let folder = |file: &Path| {
        let parts = file.strip_prefix(root).unwrap_or(file).parent()?.components();
        parts.map(|part| part.as_os_str().to_string_lossy().into_owned()).find(|part| part != ".")
    };
    let of_file: Vec<String> = tried.iter().map(|(file, _)| folder(file).unwrap_or_default()).collect();
    let mut folders = of_file.clone();
    folders.sort();
    folders.dedup();
    let groups: Vec<usize> = of_file.iter().map(|own| folders.binary_search(own).unwrap_or(0)).collect();
    let documents: Vec<Document> = tried.into_iter().map(|(_, document)| document).collect();
    let learnt = learnt(language, &documents, &groups);
    (!documents.is_empty()).then_some(Lesson {
        language,
        endings: sources.endings(),
        files: sources.files.len(),
        documents,
        folders,
        groups,
        learnt,
    })
}

fn learnt(language: &'static Language, documents: &[Document], groups: &[usize]) -> Learnt {
    let evaluate = |set: &[Override]| -> Costs {
        let count = |document: &Document| {
            let style = document.style().clone().overridden(set);
            touched_lines(document.source(), &reshaped(document, &style))
        };
        documents.par_iter().map(count).collect()
    };
    let is_set = |key: &Key| documents.iter().any(|document| matches!(document.style().origin(*key), Origin::File(..)));
    let fixed: Vec<Key> = SETTINGS.iter().map(|setting| setting.id).filter(is_set).collect();
    let bar = match std::io::stderr().is_terminal() {
        true => ProgressBar::no_length().with_message(language.spec().title),
        false => ProgressBar::hidden(),
    };
    let style = ProgressStyle::with_template("{msg} {bar:30.blue} {pos}/{len} settings");
    bar.set_style(style.unwrap_or(ProgressStyle::default_bar()));
    let learnt = learn(style_of(language), &fixed, &evaluate, groups, &mut |at, of| {
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
    let (before, after) = (lesson.unchanged(&lesson.learnt.before), lesson.unchanged(&lesson.learnt.after));
    writeln!(out, "  lines that format leaves as they are: {before:.1}% as set now, {NAME}{after:.1}%{NAME:#} as learnt")?;
    let (sure, others): (Vec<&Evidence>, Vec<&Evidence>) = lesson.learnt.evidence.iter().partition(|own| own.sure);
    sure.iter().try_for_each(|own| print_evidence(&mut out, own, ""))?;
    if all {
        others.iter().try_for_each(|own| print_evidence(&mut out, own, "  not sure"))?;
    }
    for (group, apart) in &lesson.learnt.groups {
        let folder = lesson.folders.get(*group).map_or("", String::as_str);
        let shown = if folder.is_empty() { "here, not in folders below" } else { folder };
        writeln!(out, "  {FAINT}otherwise in{FAINT:#} {shown}")?;
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
    let all: Vec<Vec<Override>> = lessons.iter().map(|lesson| lesson.learnt.settings()).collect();
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
        for (group, apart) in &lesson.learnt.groups {
            let folder = lesson.folders.get(*group).map_or("", String::as_str);
            let set: Vec<Override> = apart.iter().map(|own| own.set.clone()).collect();
            if !folder.is_empty() {
                sections.push(section(&pattern(folder, &lesson.endings), &set));
            }
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
    let apart: Vec<Value> = lesson.learnt.groups
        .iter()
        .map(|(group, apart)| json!({
            "folder": lesson.folders.get(*group),
            "files": lesson.groups.iter().filter(|own| *own == group).count(),
            "settings": apart.iter().map(evidence).collect::<Vec<_>>(),
        }))
        .collect();
    json!({
        "language": lesson.language.name(),
        "files": lesson.files,
        "filesTried": lesson.documents.len(),
        "lines": lesson.lines(),
        "unchangedBefore": lesson.unchanged(&lesson.learnt.before) / 100.0,
        "unchangedAfter": lesson.unchanged(&lesson.learnt.after) / 100.0,
        "settings": lesson.learnt.evidence.iter().map(evidence).collect::<Vec<_>>(),
        "apart": apart,
    })
}
