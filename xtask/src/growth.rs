//! `growth`: repeats constructs to four times and four times the length and tells what then takes more time than lengths explain, or more
//! memory than a file may take. What has grown with the length up to a quarter of the longest text is not tried on that one: a part that
//! grows with the square is seen there already.

use std::process::ExitCode;
use std::time::Duration;

use anyhow::Context;
use vknot_reshape::default_style;
use vknot_reshape::editing::{Edit, End, Form, LineEdit, Part, Reach, Sought, To, Toggle, occurrences};
use vknot_reshape::looks::{self, Marks};
use vknot_reshape::steps::{Document, Request, Wish};
use vknot_reshape::styling::Piece;
use vknot_syntax::{Language, Source, Span, Tree};

use crate::steps::step;

#[derive(clap::Args)]
pub struct Arguments {
    /// Languages to repeat constructs in [default: all]
    #[arg(long, value_delimiter = ',')]
    language: Vec<String>,
    /// Kilobytes to go up to
    #[arg(long, default_value_t = 1024)]
    kilobytes: usize,
    /// Only constructs that hold this text
    #[arg(long)]
    only: Option<String>,
    /// Try the longest text even with what has shown that it grows with the length
    #[arg(long)]
    whole: bool,
    /// Print every time that was taken
    #[arg(long)]
    times: bool,
}

/// What is repeated, in whatever language: openers, closers, operators, comments, strings, directives, lines.
const CONSTRUCTS: &[&str] = &[
    "(", "[", "{", "<", "()", "[]", "{}", "<>", "([{", "([{)]}\n", "([{)]\n", ")", "]", "}", ">", "a(", "a[", "a{",
    "a<", "a.b(", "a.b()",
    ".a()", "a => ", "a -> ", "a ? b : ", "a + ", "a + b * ", "a = ", "a, ", "a;\n", "a\n", "    a\n", " a\n  b\n",
    "\"", "'", "`", "\"a\" ",
    "\"\\\" ", "/*", "/* a */ ", "// a\n", "    // a\n", "# a\n", "    # a\n", "-- a\n", "; a\n", "#if a\n",
    "#if a\n#endif\n", "#if a\n#else\n",
    "#region a\n", "#endregion\n", "// region a\n", "r#\"", "R\"(", "\"\"\"", "'''", "#<<a\n", "#|", "^a ", "'a ", "`(",
    "a \\\n", "if a ", "if (a) ",
    "if (a) b; else ", "else ", "begin\n", "end\n", "case a:\n", "case a -> ", "for (;;) ", "while a do ",
    "function a() {", "class A {",
    "def a():\n    b\n", "def a():\n", "lambda: ", "@a ", "@a\n", "#[a]\n", "<a>", "<a><b></a></b>", "</a>",
    "<a b=\"c\"/>", "<a b c ",
    "<style>a{}</style>", "<script>a()</script>", "```\n", "```java\na\n```\n", "> ", "- a\n", "# a\n\na\n\n",
    "a { b: c }\n", "a { b: c; ", "&",
    "${", "`${a}`", "f\"{a}\"", "$\"{a}\"", "import a;\n", "use a;\n", "use a::{", "a := 1\n", "{\"a\": ", "[1, ",
    "TODO: a\n", "// TODO: a\n",
    "// %% a\n", "<<<<<<< a\n=======\n>>>>>>> b\n", "\u{feff}", "é", "\t", " ", "\r\n", "\r",
];

/// How much longer each doubling of the text may take.
const MOST: f64 = 2.6;
/// What takes less is not measured well enough to be told.
const AT_LEAST: Duration = Duration::from_millis(100);
/// How much longer four times the text may have taken so far for it to be told that the next four times pass, too. Of time that has a part
/// with the length and one with its square, the next step takes more than `MOST` allows only if this one took 4.8 times as long.
const EVEN: f64 = 4.6;
/// What takes less at a quarter of the length takes less than `AT_LEAST` at the whole, though it grew with the square.
const SHORT: Duration = Duration::from_millis(6);
/// Bytes to begin with.
const FIRST: usize = 16 * 1024;
/// How many times as long the next text is, and how many doublings that are.
const STEP: (usize, i32) = (4, 2);
/// How many constructs a text has a multiple of.
const SAME_MIDDLE: usize = 64;
/// The most memory that a file may take, in kilobytes.
const MEMORY: u64 = 1024 * 1024;

type Work = (&'static str, fn(&Document));

/// What is done with a text; whatever else begins with reading.
const WORKS: &[Work] = &[
    ("read", |document| drop(Tree::read(document.source(), document.language()))),
    ("outline", |document| drop(looks::outline(document.code()))),
    ("folds", |document| drop(looks::folds(document.code()))),
    ("pairs", |document| drop(looks::pairs(document.code(), &looks::Marks::default()))),
    ("sections", |document| drop(looks::sections(document.code(), &Marks::default()))),
    ("todos", |document| drop(looks::todos(document.code(), &Marks::default()))),
    ("regions", |document| drop(looks::regions(document.code(), &Marks::default()))),
    ("ladder", |document| drop(looks::ladder(document.code(), middle(document)))),
    ("occurrences", |document| drop(occurrences(document.code(), middle(document), Sought::default()))),
    ("style relevant", |document| drop(Piece::of(document, middle(document)))),
    ("indent", |document| run("indent", document, Wish::Nothing)),
    ("format", |document| run("format", document, Wish::Nothing)),
    ("imports", |document| run("imports", document, Wish::Nothing)),
    ("region add", |document| run("region add", document, Wish::Name("gauge".to_owned()))),
    ("edit move", |document| edit(document, Edit::Move(To::Down(1)))),
    ("edit delete", |document| edit(document, Edit::Delete)),
    ("edit wrap", |document| edit(document, Edit::Wrap("(".to_owned()))),
    ("edit unwrap", |document| edit(document, Edit::Unwrap)),
    ("edit pull", |document| edit(document, Edit::Pull(End::Last, Reach::Count(1)))),
    ("edit split", |document| edit(document, Edit::Split(Part::Closest))),
    ("edit turn", |document| edit(document, Edit::Turn)),
    ("edit comment", |document| edit(document, Edit::Comment(Toggle::On, Form::Usual))),
    ("edit lines", |document| edit(document, Edit::Lines(LineEdit::Down(1)))),
];

/// The token in the middle of a text, or its middle line where it has none.
fn middle(document: &Document) -> Span {
    let tokens = document.tree().tokens();
    let lines = document.source().lines();
    let start = tokens.get(tokens.len() / 2).map_or_else(|| lines.start(lines.count() / 2), |token| token.start);
    Span::new(start, start)
}

fn run(name: &str, document: &Document, wish: Wish) {
    let only = [middle(document)];
    let whole = matches!(wish, Wish::Nothing);
    if let Ok(step) = step(name) && (step.covers)(document.language()) {
        let only = (!whole).then_some(only.as_slice());
        drop(step.run(document, &Request { only, wish, ..Request::default() }));
    }
}

fn edit(document: &Document, edit: Edit) {
    run("edit", document, Wish::Edit(edit));
}

pub fn measure(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let languages: Vec<&'static Language> = match arguments.language.as_slice() {
        [] => Language::all().collect(),
        names => {
            let named = |name: &String| Language::named(name).with_context(|| format!("there is no language `{name}`"));
            names.iter().map(named).collect::<Result<_, _>>()?
        }
    };
    let mut findings = 0;
    for language in languages {
        let wanted = |unit: &&&str| arguments.only.as_ref().is_none_or(|only| unit.contains(only.as_str()));
        for unit in CONSTRUCTS.iter().filter(wanted) {
            findings += grown(language, unit, arguments);
        }
        println!("{}: {} constructs", language.name(), CONSTRUCTS.len());
    }
    println!("{findings} grow too fast");
    Ok(if findings == 0 { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

/// Reads ever longer texts of a construct and does everything with them; prints what takes too long or too much, and gives how many that are.
fn grown(language: &'static Language, unit: &str, arguments: &Arguments) -> usize {
    let most = arguments.kilobytes * 1024;
    let mut before: Vec<Option<Duration>> = vec![Some(Duration::MAX); WORKS.len()];
    let mut even = vec![false; WORKS.len()];
    let (mut size, mut findings) = (FIRST, 0);
    while size <= most && before.first().is_some_and(Option::is_some) {
        let longest = size * STEP.0 > most && !arguments.whole;
        if longest && even.iter().all(|even| *even) {
            break;
        }
        // The middle is at the same place of a construct at each length.
        let source = Source::from_text("Gauge", unit.repeat((size / unit.len()).next_multiple_of(SAME_MIDDLE)));
        let document = Document::new(source, language, default_style(language));
        let read = before.first().copied().flatten().unwrap_or_default();
        // Read once beforehand, so that what comes first does not pay for the others.
        let _ = document.tree();
        for (((name, work), before), even) in WORKS.iter().zip(&mut before).zip(&mut even) {
            let Some(last) = *before else { continue };
            if longest && *even {
                continue;
            }
            // An edit that was refused before anything was read again says nothing of how it grows.
            let refusable = name.starts_with("edit") || *name == "region add";
            let last = if refusable && last < read / 4 { Duration::MAX } else { last };
            let (time, memory) = measured(&|| work(&document), last);
            if arguments.times {
                println!("{} {unit:?} {name}: {} KB, {time:.1?}, {} MB", language.name(), size / 1024, memory / 1024);
            }
            let slow = time > AT_LEAST && time.as_secs_f64() > last.as_secs_f64() * MOST.powi(STEP.1);
            let kept_pace = time < SHORT || time.as_secs_f64() < last.as_secs_f64() * EVEN;
            *even = kept_pace && size > FIRST && memory * 4 < MEMORY;
            *before = (!slow).then_some(time);
            if slow || memory > MEMORY {
                findings += 1;
                let factor = (time.as_secs_f64() / last.as_secs_f64().max(1e-6)).powf(1.0 / f64::from(STEP.1));
                let (name_of, kilobytes, memory) = (language.name(), size / 1024, memory / 1024);
                println!(
                    "{name_of} {unit:?} {name}: {factor:.1} times as long for twice the text at {kilobytes} KB, {time:.1?}, {memory} MB",
                );
            }
        }
        size *= STEP.0;
    }
    findings
}

/// How long something takes and how many kilobytes this program had at most meanwhile. What took longer than lengths explain is done
/// again, since other work takes room in the caches.
fn measured(work: &dyn Fn(), last: Duration) -> (Duration, u64) {
    let once = || {
        let start = processor_time();
        work();
        processor_time().saturating_sub(start)
    };
    forget_peak();
    let first = once();
    let memory = peak();
    let slow = first.as_secs_f64() > last.as_secs_f64() * MOST.powi(STEP.1);
    let runs = if slow && first > AT_LEAST && first < AT_LEAST * 25 { 3 } else { 0 };
    ((0..runs).map(|_| once()).min().map_or(first, |time| time.min(first)), memory)
}

/// What this program has used of the processor.
fn processor_time() -> Duration {
    let time = rustix::time::clock_gettime(rustix::time::ClockId::ProcessCPUTime);
    Duration::new(time.tv_sec.unsigned_abs(), u32::try_from(time.tv_nsec).unwrap_or(0))
}

/// Where the system tells memory, the peak begins anew.
fn forget_peak() {
    let _ = std::fs::write("/proc/self/clear_refs", "5");
}

/// The most memory at once since then, in kilobytes; 0 where the system does not tell.
fn peak() -> u64 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find_map(|line| line.strip_prefix("VmHWM:"));
    line.and_then(|line| line.trim().trim_end_matches(" kB").parse().ok()).unwrap_or(0)
}
