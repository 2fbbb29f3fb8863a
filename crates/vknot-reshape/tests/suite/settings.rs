//! Settings: every value of every setting changes something in every language that says it has an effect there.

use std::collections::BTreeMap;
use std::path::Path;

use vknot_reshape::{capabilities, style_of};
use vknot_reshape::steps::{Document, Request};
use vknot_reshape::styling::{in_force, made_of_sample, Piece, Shown, Trial};
use vknot_style::{Key, Origin, Override, SETTINGS, Style, Values};
use vknot_syntax::{Language, Source, Span};

use crate::support::{read, sample_files, step, styled};

/// What samples do not hold, for settings that need it: language and text.
const INCLUDES: &str =
    "#include <stdlib.h>\n#include <tide/zero.h>\n#include \"level.h\"\n#include \"Surge.h\"\n#include <ebb.h>\n";

const MORE: &[(&str, &str)] = &[
    ("c", INCLUDES),
    ("cpp", INCLUDES),
    ("clojure", "(ns a\n  (:require tide.b Clojure.x clojure.string Zero.c b.d))\n"),
    ("racket", "#lang racket\n(require tide/b Zero racket/list b \"gauge.rkt\")\n"),
    ("c", C_LIKE),
    ("cpp", C_LIKE),
    (
        "java",
        "import java.util.*;\nimport java.util.function.Function;\nimport java.util.function.Supplier;\nclass A { List<Function<Supplier, Integer>> b; }\n",
    ),
    ("java", "class A {\n    int b(Object c) {\n        return ((int[]) c)[0] + (int) d[1];\n    }\n}\n"),
    (
        "java",
        "class A {\n    int b(Object c) {\n        return ((int[])c)[ 0 ] + (int)d[ 1 ] + (int)e[ 2 ];\n    }\n}\n",
    ),
    ("csharp", IN_CLASS),
    ("java", IN_CLASS),
    ("javascript", SCRIPT),
    ("typescript", SCRIPT),
    ("tsx", SCRIPT),
    ("c", "int a[] = { 1,\n2 };\n#ifdef B\nint c;\n#endif\nvoid d(void)\n{\n#ifdef E\nf();\n#endif\n}\n"),
    ("csharp", "class A\n{\n#if B\nint[] c = { 1,\n2 };\n#endif\n}\n"),
    ("cpp", "int a[] = { 1,\n2 };\nvoid d()\n{\n#ifdef E\nf();\n#endif\n}\n"),
    (
        "java",
        "class A {\n\n\n\n\n\n\n\n\n\n\n\n\n    int[] b = { 1,\n        2 };\n    int c = d(e, f)\n        + g;\n}\n",
    ),
    (
        "java",
        "/* a  \n * b   \n */\nclass A {\n    void b() {\n        for (;;) c();\n        if (a) if (b)\n            c();\n        d(e)\n    .f(1)\n.g(2);\n    }\n}\n",
    ),
    (
        "rust",
        "/* a  \n * b   \n */\nfn a() {\n\n\n\n\n\n\n\n\n\n\n\n\n    let b = [\n1,\n2];\n    c(d,\n        e\n + f);\n    match b {\n        1 =>\n        {\n            g()\n        }\n    }\n    let h = i\n        + j;\n}\n",
    ),
    ("c", "int a[] = {\n    b(1),\n    c(2)\n};\n"),
    ("cpp", "int a[] = {\n    b(1),\n    c(2)\n};\n"),
    ("cpp", "class A {\n    int b;\n    void c();\n};\n"),
    ("csharp", "class A\n{\n    int[] b = {\n        c(1),\n        d(2)\n    };\n}\n"),
    ("java", "class A {\n    int[] b = {\n        c(1),\n        d(2)\n    };\n}\n"),
    ("json", "{\"a\": [1,\n2],\n\n\n\n\n\n\n\n\n\n\n\n\"b\": { \"c\": 1 } }\n"),
    ("json", "{\n  \"a\": [1,\n    2],\n  \"b\": 3\n}\n"),
    (
        "pascal",
        "begin\nif a\nor b then\nc;\ncase d of\n1: e;\nelse\nf;\nend;\ng := h +\ni;\nj(\n1\n);\nif k then\nl\nelse\nif m then\nn;\n{$ifdef o}\np;\n{$endif}\nend.\n",
    ),
    (
        "go",
        "package a\nfunc b() {\nswitch c {\ncase 1:\nd()\n}\nx := []int{\n1,\n}\ne(f,\ng)\nh := i +\nj\nout:\nk()\n}\n",
    ),
    ("c", "void f(void)\n{\n    {\nout:\n        a();\n    }\n}\n"),
    ("cpp", "void f()\n{\n    {\nout:\n        a();\n    }\n}\n"),
    ("rust", "fn a() {\n    b();\n\n\n\n\n\n\n\n\n\n\n\n\n    c();\n}\n"),
    ("python", "if a:\n    b(c,\n      d)\n"),
    ("css", "a { b: c(d,\ne) }\n"),
    (
        "java",
        "import tide.surge.Warning;\nimport tide.Surge;\nimport java.util.Map;\nimport static tide.Level.zero;\nimport a.Gauge;\n\nimport tide.Unused;\n\n/** {@link Unused} */\nclass A { Warning w; Surge s; Map<Gauge, Gauge> g; int z = zero(); }\n",
    ),
    (
        "csharp",
        "using tide.surge;\nusing tide.Surge;\nusing System;\nusing static a.B;\nusing zero.Gauge;\n\nusing L = a.L;\n\n/// <see cref=\"L\"/>\nclass A { Console c; }\n",
    ),
    (
        "go",
        "package a\n\nimport (\n\t\"tide/surge\"\n\t\"fmt\"\n\n\t\"x.org/a/Zeta\"\n\t\"x.org/a/gauge\"\n\t\"os\"\n)\n\nfunc b() { fmt.Print(surge.A, Zeta.B, gauge.C, os.Args) }\n",
    ),
    (
        "python",
        "from tide import surge, level\nfrom zero import Zulu, alpha\nimport sys\nfrom apex import e\nfrom Gauge import b\nfrom tide import gauge\n\nimport json\nfrom a import c\nprint(e, surge, level, Zulu, alpha, sys, b, json, c)\n",
    ),
    (
        "rust",
        "use zero::{b, A};\nuse crate::tide::C;\nuse tide::surge;\nuse std::fmt;\n\nuse tide::{level, Gauge};\nuse Zulu::d;\n",
    ),
    ("c", COMMENTED),
    ("cpp", COMMENTED),
    ("csharp", COMMENTED),
    ("java", COMMENTED),
    ("javascript", COMMENTED),
    ("typescript", COMMENTED),
    ("tsx", COMMENTED),
    ("scss", COMMENTED),
    ("less", COMMENTED),
    (
        "rust",
        "//low\n// The level of the tide in metres above the zero of the gauge, which is the lowest tide that there can be in a year.\nfn a() {}\n",
    ),
    (
        "go",
        "package a\n\n//low\n// The level of the tide in metres above the zero of the gauge, which is the lowest tide that there can be in a year.\nfunc b() {}\n",
    ),
    (
        "css",
        "/* a\n * The level of the tide in metres above the zero of the gauge, which is the lowest tide that there can be in a year.\n */\na {\n  b: \"c\" 'd';\n}\n",
    ),
    ("scss", "a {\n  b: \"c\" 'd';\n}\n"),
    ("less", "a {\n  b: \"c\" 'd';\n}\n"),
    ("tsx", "let a = 1\n"),
    ("tsx", "let a = b >= c;\n"),
    ("cpp", "bool a = b >= c;\nbool d = b>=c;\n"),
    ("java", "interface A {\n    int B = 1;\n    int c();\n}\n"),
    ("csharp", "abstract class A\n{\n    int b;\n    abstract int C();\n}\n"),
    ("javascript", "class A {\n  b = 1;\n  c = 2;\n\n  d = 3;\n  e() {}\n}\n"),
    ("tsx", "class A {\n  b = 1;\n  c = 2;\n\n  d = 3;\n  e() {}\n}\n"),
    ("rust", "trait A {\n    const B: u8;\n    fn c(&self);\n}\n"),
    ("javascript", IMPORTED),
    ("typescript", IMPORTED),
    ("tsx", IMPORTED),
    ("c", WRAPPED),
    ("cpp", WRAPPED),
    ("csharp", WRAPPED_IN_CLASS),
    ("java", WRAPPED_IN_CLASS),
    ("javascript", WRAPPED_SCRIPT),
    ("typescript", WRAPPED_SCRIPT),
    ("tsx", WRAPPED_SCRIPT),
    ("go", "package a\n\nfunc b() { c(); d() }\n\nfunc e() { f() }\n"),
    ("css", "a { b: c; d: e }\n"),
    ("scss", "a { b: c; d: e }\n"),
    ("less", "a { b: c; d: e }\n"),
    ("rust", "fn a() {\n    if b\n        && c {\n        d();\n    }\n}\n"),
    ("javascript", "define(function (require) {\nlet a = 1;\nlet b = 2;\n});\n"),
    ("typescript", "define(function (require) {\nlet a = 1;\nlet b = 2;\n});\n"),
    ("tsx", "define(function (require) {\nlet a = 1;\nlet b = 2;\n});\n"),
];

/// A header that wraps, and a block of several statements on one line.
const WRAPPED: &str = "void a(int b) {\n    if (b\n        && c) {\n        d();\n    }\n    if (b) { c(); d(); }\n}\n";

const WRAPPED_IN_CLASS: &str =
    "class E {\nvoid a(int b) {\n    if (b\n        && c) {\n        d();\n    }\n    if (b) { c(); d(); }\n}\n}\n";

const WRAPPED_SCRIPT: &str =
    "function a(b) {\n    if (b\n        && c) {\n        d();\n    }\n    if (b) { c(); d(); }\n}\n";

const IMPORTED: &str = "import { surge, level } from 'tide';\nimport z from './z';\nimport fs from 'fs';\nimport { gauge } from 'tide';\nimport Q from 'Q';\n\nimport { r } from 'b';\nimport s from './s';\nimport { unused } from 'u';\nconst { p, o } = require('p');\n/** {@link unused} */\nexport const all = [surge, level, z, fs, gauge, Q, r, s, p, o];\n";

const COMMENTED: &str = "//low\n// The level of the tide in metres above the zero of the gauge, which is the lowest tide that there can be in a year.\n";

/// Statements in the form that several languages share.
const C_LIKE: &str = "void f(int a)\n{\n    if (a)\n    {\n        b(1,\n          2);\n    }\n    else\n    if (c)\n        d();\n    e(\n        1\n    );\n    switch (a)\n    {\n    case 1:\n    {\n        b();\n    }\n    }\n    g(x,\n      y\n      + z);\n    int h = i\n        + j;\nout:\n    l();\n}\n";

const IN_CLASS: &str = "class A\n{\nvoid f(int a)\n{\n    if (a)\n    {\n        b(1,\n          2);\n    }\n    else\n    if (c)\n        d();\n    e(\n        1\n    );\n    switch (a)\n    {\n    case 1:\n    {\n        b();\n    }\n    }\n    g(x,\n      y\n      + z);\n    int h = i\n        + j;\nout:\n    l();\n}\n}\n";

const SCRIPT: &str = "function f(a)\n{\n    if (a)\n    {\n        b(1,\n          2);\n    }\n    else\n    if (c)\n        d();\n    e(\n        1\n    );\n    switch (a)\n    {\n    case 1:\n    {\n        b();\n    }\n    }\n    g(x,\n      y\n      + z);\n    let h = i\n        + j;\nout: for (;;) {}\n    l();\n}\n";

/// The samples of each language.
fn samples() -> BTreeMap<&'static str, Vec<String>> {
    let mut samples: BTreeMap<&'static str, Vec<String>> = BTreeMap::new();
    for (_, language, text) in sample_files() {
        samples.entry(language).or_default().push(text);
    }
    let suite = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/suite");
    let files = |folder: &str| std::fs::read_dir(suite.join(folder)).unwrap().map(|entry| entry.unwrap().path());
    for path in files("indented").chain(files("settings_samples")) {
        let text = std::fs::read_to_string(&path).unwrap();
        let name = path.file_stem().unwrap().to_string_lossy().into_owned();
        samples.entry(Language::of_file(Path::new(&name), &text).unwrap().name()).or_default().push(text);
    }
    for (language, text) in MORE {
        samples.entry(language).or_default().push((*text).to_owned());
    }
    samples
}

/// What the steps make of the samples with some settings.
fn results(language: &'static Language, samples: &[String], set: &[Override]) -> Vec<String> {
    let style = Style::with(style_of(language), set);
    let done = |(text, names): (&String, &[&str])| {
        let mut text = text.clone();
        for name in names.iter().copied() {
            let covered = match name {
                "format" => capabilities(language).layout,
                "imports" => capabilities(language).imports,
                _ => capabilities(language).indentation,
            };
            if covered {
                let document = Document::new(Source::from_text("Gauge", text.as_str()), language, style.clone());
                let request = Request { around: Some(&Shown), ..Request::default() };
                let reshape = step(name).reshape(&document, &request).unwrap();
                text = format!("{}{}", if reshape.bom == Some(true) { "\u{feff}" } else { "" }, reshape.edits.apply(&text));
            }
        }
        text
    };
    // What a layout leaves nothing to do may be seen of indentation alone.
    let runs: [&[&str]; 3] = [&["format", "indent"], &["indent"], &["imports"]];
    samples.iter().flat_map(|text| runs.map(|names| (text, names))).map(done).collect()
}

/// Languages whose imports count as such where a setting says so.
const INCLUDING: [&str; 2] = ["c", "cpp"];

/// The values that are tried: all words, and of numbers the ends and some between.
fn tried(key: Key) -> Vec<String> {
    let choices = key.setting().choices();
    match key.setting().values {
        Values::Number(least, most, _) if most - least > 9 => {
            choices
                .into_iter()
                .filter(
                    |value| value.parse().is_ok_and(|n: u32| [least, 2, 3, 8, 40].contains(&n))
                        || value.parse::<u32>().is_err(),
                )
                .collect()
        }
        Values::Pairs(..) => Vec::new(),
        Values::Names(_) if key == Key::ImportOwn => ["", "tide"].map(str::to_owned).to_vec(),
        Values::Names(words) =>
            words.iter().copied().chain(["other, standard", "near, own"]).map(str::to_owned).collect(),
        _ => choices,
    }
}

#[test]
fn every_value_of_every_setting_changes_something() {
    let samples = samples();
    let mut idle = Vec::new();
    for language in Language::all() {
        let Some(samples) = samples.get(language.name()) else { continue };
        for key in style_of(language).settings {
            // Some settings say something about what others bring.
            let along: &[&str] = match key {
                Key::AlignTabs => &["indent_style=tab", "vknot_align_list=all", "tab_width=3"],
                Key::TabWidth => &["indent_style=tab", "indent_size=4"],
                Key::IndentSize => &["indent_style=space"],
                Key::ImportBlank | Key::ImportOwn if INCLUDING.contains(&language.name()) => {
                    &["vknot_import_groups=standard, own, other", "vknot_import_include=sort"]
                }
                Key::ImportCase | Key::ImportGroups if INCLUDING.contains(&language.name()) => {
                    &["vknot_import_include=sort"]
                }
                Key::ImportBlank | Key::ImportOwn => &["vknot_import_groups=standard, own, other"],
                Key::WrapLiteral => &["vknot_wrap_indent=2"],
                Key::IndentBrace => &["vknot_brace_control=next"],
                Key::BraceWrapped => &["vknot_brace_control=same"],
                Key::AlignList | Key::AlignOperand | Key::IndentOperand => &["max_line_length=30"],
                _ => &[],
            };
            let along: Vec<Override> = along.iter().map(|set| set.parse().unwrap()).collect();
            let with = |value: &str| {
                let set: Override = format!("{}={value}", key.setting().key).parse().unwrap();
                results(language, samples, &along.iter().cloned().chain([set]).collect::<Vec<_>>())
            };
            let usual = results(language, samples, &along);
            let all: Vec<(String, Vec<String>)> =
                tried(*key).into_iter().map(|value| (value.clone(), with(&value))).collect();
            // Where the file itself decides, some value says what it shows.
            let found = *key == Key::ImportGroups
                || tried(*key).iter().any(|value| value == "as-found")
                || matches!(key, Key::TabWidth | Key::AlignColumn | Key::AlignComment | Key::ImportWildcard)
                || ["vknot_indent_", "vknot_wrap_"].iter().any(|own| key.setting().key.starts_with(own));
            for (value, result) in &all {
                let is_usual =
                    value == style_of(language).default_of(*key) || matches!(value.as_str(), "tab" | "indent" | "wrap");
                let differs = result != &usual || found && all.iter().any(|(_, other)| other != result);
                // What needs no saying to a layout, and lists that JSON has not.
                let same = matches!((key, value.as_str()), (Key::TrimTrailingWhitespace, "false"))
                    || (language.name(), key, value.as_str()) == ("json", &Key::AlignList, "arguments");
                // The one that has no elements in it shares the settings of its kin.
                let kin = language.name() == "typescript" && matches!(key, Key::SpaceEmbedded | Key::WrapTag);
                if !(is_usual || differs || same || kin) {
                    idle.push(format!("{} {key:?} = {value}", language.name()));
                }
            }
        }
    }
    assert!(idle.is_empty(), "{}", idle.join("\n"));
}

#[test]
fn every_value_shows_in_the_sample_of_its_setting() {
    // What these change cannot be seen; that they do change something is told by the samples of the languages.
    let unseen = [Key::Charset, Key::EndOfLine, Key::InsertFinalNewline];
    for setting in SETTINGS.iter().filter(|setting| !unseen.contains(&setting.id)) {
        // What is left to the file is some other value there, and a layout trims code by itself.
        let told = |value: &String| {
            !matches!(value.as_str(), "as-found" | "tab" | "indent" | "wrap")
                && (setting.id != Key::TrimTrailingWhitespace || value != "false")
        };
        for (values, document) in made_of_sample(setting) {
            let same: Vec<&String> = values.iter().filter(|value| told(value)).collect();
            assert!(same.len() <= 1, "{}: {same:?} make the same\n{}", setting.key, document.source().text());
        }
    }
}

#[test]
fn what_a_file_shows_is_in_force() {
    let text = "class A\n{\n   void b()\n   {\n      if (c)\n      {\n         d();\n      }\n   }\n   void e()\n   {\n      d();\n   }\n   void f()\n   {\n      d();\n   }\n}\n";
    let style = in_force(&styled("java", text, &["max_line_length=90"]));
    let shown = |key: Key| (style.word(key).to_owned(), style.origin(key));
    assert_eq!(shown(Key::IndentSize), ("3".to_owned(), Origin::Found));
    assert_eq!(shown(Key::BraceDeclaration), ("next".to_owned(), Origin::Found));
    // One conditional that opens as the callables do is no chance.
    assert_eq!(shown(Key::BraceControl), ("next".to_owned(), Origin::Default));
    assert_eq!(shown(Key::MaxLineLength), ("90".to_owned(), Origin::CommandLine));
    let style = in_force(&read("csharp", "class A\r\n{\r\n\tint b;\r\n\tint c;\r\n\tint d;\r\n}\r\n"));
    let shown = |key: Key| (style.word(key).to_owned(), style.origin(key));
    assert_eq!(shown(Key::IndentStyle), ("tab".to_owned(), Origin::Found));
    assert_eq!(shown(Key::EndOfLine), ("crlf".to_owned(), Origin::Found));
}

#[test]
fn a_piece_is_laid_out_as_it_is_in_its_file() {
    for (path, name, text) in sample_files() {
        let language = Language::named(name).unwrap();
        if !capabilities(language).layout {
            continue;
        }
        let document = Document::new(
            Source::from_text(path.as_str(), text.as_str()),
            language,
            Style::defaults(style_of(language)),
        );
        let whole = Piece::of(&document, document.source().span());
        let lines: Vec<&str> = text.lines().collect();
        for first in (1..lines.len()).step_by(12) {
            let start = document.source().lines().start(first as u32);
            let span = Span::new(start, document.source().lines().start(first as u32 + 5));
            let piece = Piece::of(&document, span).made(Trial::Layout, whole.style());
            let all = whole.made(Trial::Layout, whole.style());
            assert!(all.contains(piece.trim()), "{path}:{first}\n{piece}\n--- is not in\n{all}");
        }
    }
}
