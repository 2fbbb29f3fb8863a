//! `growth`: repeats constructs to twice and twice the length and tells what then takes more than about twice the time.

use std::process::ExitCode;
use std::time::Duration;

use anyhow::Context;
use vknot_reshape::steps::Request;
use vknot_reshape::looks::{self, Marks};
use vknot_syntax::{Language, Source, Span, Tree};

use crate::steps::{document, step};

#[derive(clap::Args)]
pub struct Arguments {
    /// Languages to repeat constructs in [default: all]
    #[arg(long, value_delimiter = ',')]
    language: Vec<String>,
    /// Kilobytes to go up to
    #[arg(long, default_value_t = 256)]
    kilobytes: usize,
    /// Only constructs that hold this text
    #[arg(long)]
    only: Option<String>,
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

/// How much longer twice the text may take.
const MOST: f64 = 2.6;
/// What takes less is not measured well enough to be told.
const AT_LEAST: Duration = Duration::from_millis(30);
/// Bytes to begin with.
const FIRST: usize = 16 * 1024;

type Work = (&'static str, fn(&'static Language, &Source));

const WORKS: &[Work] = &[
    ("read", |language, source| drop(Tree::read(source, language))),
    ("outline", |language, source| drop(looks::outline(document(source, language, &[]).code()))),
    ("folds", |language, source| drop(looks::folds(document(source, language, &[]).code()))),
    ("pairs", |language, source| drop(looks::pairs(document(source, language, &[]).code()))),
    ("sections", |language, source| {
        drop(looks::sections(document(source, language, &[]).code(), &Marks::default()));
    }),
    ("todos", |language, source| {
        drop(looks::todos(document(source, language, &[]).code(), &Marks::default()));
    }),
    ("regions", |language, source| {
        drop(looks::regions(document(source, language, &[]).code(), &Marks::default()));
    }),
    ("ladder", |language, source| {
        let middle = source.lines().start(source.lines().count() / 2);
        drop(looks::ladder(document(source, language, &[]).code(), Span::new(middle, middle)));
    }),
    ("indent", |language, source| run("indent", language, source)),
    ("format", |language, source| run("format", language, source)),
    ("imports", |language, source| run("imports", language, source)),
];

fn run(name: &str, language: &'static Language, source: &Source) {
    if let Ok(step) = step(name).map_err(drop) && (step.covers)(language) {
        drop(step.run(&document(source, language, &[]), &Request::default()));
    }
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
            for (name, work) in WORKS {
                if let Some((size, factor, time)) = grown(language, unit, *work, arguments.kilobytes * 1024) {
                    findings += 1;
                    println!("{} {unit:?} {name}: {factor:.1} times as long at {} KB, {time:.1?}", language.name(), size / 1024);
                    // Whatever else is done begins with reading.
                    if *name == "read" {
                        break;
                    }
                }
            }
        }
        println!("{}: {} constructs", language.name(), CONSTRUCTS.len());
    }
    println!("{findings} grow too fast");
    Ok(if findings == 0 { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}

/// What this thread has used of the processor.
fn processor_time() -> Duration {
    let time = rustix::time::clock_gettime(rustix::time::ClockId::ThreadCPUTime);
    Duration::new(time.tv_sec.unsigned_abs(), u32::try_from(time.tv_nsec).unwrap_or(0))
}

/// The size at which twice the text took too long, how many times as long, and how long.
fn grown(
    language: &'static Language,
    unit: &str,
    work: fn(&'static Language, &Source),
    most: usize,
) -> Option<(usize, f64, Duration)> {
    let time = |size: usize| {
        let source = Source::from_text("Gauge", unit.repeat(size / unit.len()));
        let once = || {
            let start = processor_time();
            work(language, &source);
            processor_time().saturating_sub(start)
        };
        // The fastest of a few runs, since other work takes room in the caches.
        let runs = if once() < AT_LEAST * 10 { 4 } else { 1 };
        (0..runs).map(|_| once()).min().unwrap_or_default()
    };
    let (mut size, mut before) = (FIRST, time(FIRST));
    while size < most {
        size *= 2;
        let now = time(size);
        let factor = now.as_secs_f64() / before.as_secs_f64().max(1e-6);
        if factor > MOST && now > AT_LEAST {
            return Some((size, factor, now));
        }
        before = now;
    }
    None
}
