//! Every language: its sample, what is hard to read in it, and what is left when it is broken.

use vknot_reshape::looks;
use vknot_syntax::{Language, NodeId, Role};

use vknot_reshape::steps::Document;

use crate::support::{read, sample_files};

/// Outline, folds and pairs of a text, in few lines.
fn summary(read: &Document) -> String {
    let mut out = String::new();
    for entry in looks::outline(read.code()) {
        let (first, last) = read.source().line_range(entry.span);
        out.push_str(&format!("{}{} {} {first}-{last}\n", "  ".repeat(entry.depth as usize), entry.kind, entry.label));
    }
    let folds = looks::folds(read.code());
    let folds: Vec<String> = folds
        .iter()
        .map(|fold| {
            let construct = fold.construct.map_or("", |construct| &construct.name()[..1]);
            format!("{}{construct} {}-{}", fold.kind.name(), fold.first_line, fold.last_line)
        })
        .collect();
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    out.push_str(&format!("folds: {}\n", folds.join(", ")));
    out.push_str(&format!("pairs: {}, {} without a partner", pairs.pairs.len(), pairs.unpaired.len()));
    out
}

#[test]
fn every_language_has_a_sample_that_reads_without_error() {
    let files = sample_files();
    for language in Language::all() {
        assert!(files.iter().any(|(_, name, _)| *name == language.name()), "no sample in {}", language.name());
    }
    for (path, language, text) in files {
        let read = read(language, &text);
        let errors: Vec<&str> = read.tree().errors().map(|id| read.tree().text_of(&text, id)).collect();
        assert!(errors.is_empty(), "{path}: {errors:?}");
        looks::check(read.code()).unwrap();
        if !matches!(language, "java" | "json" | "rust") {
            snapshot!(format!("sample_{language}"), format!("{path}\n{}", summary(&read)));
        }
    }
}

/// The nodes with a role that gives structure, one a line, each with its beginning.
fn shape(read: &Document) -> String {
    let plain = |role: Role| matches!(role, Role::Part | Role::Name | Role::Literal | Role::File | Role::Inert);
    let depth = |id: NodeId| read.tree().ancestors(id).skip(1).filter(|id| !plain(read.tree().role(*id))).count();
    let line = |id: NodeId| {
        let text: String =
            read.tree().text_of(read.source().text(), id).split_whitespace().collect::<Vec<_>>().join(" ");
        let shown: String = text.chars().take(44).collect();
        format!("{}{}: {shown}", "  ".repeat(depth(id)), read.tree().kind_name(id))
    };
    let nodes = (0..read.tree().nodes().len() as u32).map(NodeId);
    let shown = nodes.filter(|id| !plain(read.tree().role(*id)) && !read.tree().node(*id).is_empty());
    shown.map(line).collect::<Vec<_>>().join("\n")
}

#[test]
fn what_is_hard_is_read_as_it_is_meant() {
    let cases = [
        ("c", "old_style", "int add(a, b)\n int a;\n int b;\n{\n  return a + b;\n}\nint c;\n"),
        (
            "c",
            "branches_cut_braces",
            "#if A\nvoid f(int a) {\n#else\nvoid f(void) {\n#endif\n  g();\n}\nint h(void) { return 1; }\n",
        ),
        (
            "c",
            "macros",
            "API_EXPORT(int)\nrun(void)\n{\n  FOREACH(x, list) { use(x); }\n  LOCK()\n  if (a) b(); else if (c) d(); else { e(); }\n}\n",
        ),
        (
            "c",
            "loops",
            "void f() {\n do x(); while (y);\n for (;;) if (a) break;\n out: return;\n switch (k) { case 1: case 2: a(); break; default: b(); }\n}\n",
        ),
        (
            "cpp",
            "constructors",
            "A::A(int n) : b_(n), c_{n} { d(); }\nA::~A() = default;\nbool operator==(const A& a, const A& b) { return true; }\n",
        ),
        (
            "cpp",
            "templates",
            "template <typename A, int B = 3, typename = if_t<!c<A>::value && B != 4>>\nvoid d(std::map<A, list<int>> e, int (*f)(A)) { g<A>(e); h(*i)(j); x = a < b; }\ntemplate <> struct k<int> { L_M: int n : 3; auto o() noexcept -> decltype(p()); };\n",
        ),
        (
            "cpp",
            "lambdas",
            "auto f = [&](int a) -> int { return a; };\nstd::vector<std::vector<int>> v{{1}, {2}};\nauto t = R\"x(\" })x\";\n",
        ),
        (
            "pascal",
            "directives",
            "{$IFDEF X}\nprocedure A(n: integer);\n{$ELSE}\nprocedure A;\n{$ENDIF}\nbegin\n  try b; except on E: Error do c; end;\n  repeat d until e;\n  asm mov eax, [ebx] end;\nend;\nprocedure F; forward;\nprocedure F; begin end;\nbegin\nend.\n",
        ),
        (
            "pascal",
            "types",
            "type\n  R = packed record a: integer; case b: boolean of true: (c: byte) end;\n  C = class(TObject);\n  I = interface ['{0}'] procedure P; end;\n  F = reference to function(a: integer): boolean;\nvar x: record y: integer; end;\n",
        ),
        (
            "matlab",
            "quotes",
            "a = b';\nc = 'it''s';\nd = [a' 'x' b'];\ne = {a', 'y'};\nf = a.';\ng = x(1)';\nhold on; disp hello\n",
        ),
        ("matlab", "no_ends", "function a\nif b, c, end\nx(end) = 1;\n% of b\nfunction b\nd ...\n = 1;\n"),
        (
            "matlab",
            "class",
            "classdef G < handle\n  properties (Access = private)\n    level = 0;\n  end\n  methods\n    function r = read(o)\n      r = o.level;\n    end\n  end\nend\n",
        ),
        (
            "octave",
            "words",
            "if (a) # b\n  printf (\"%d\\n\", c');\nelseif d\n  do e++; until f\nendif\n%{\nx = 1\n%}\nunwind_protect\n g;\nunwind_protect_cleanup\n h;\nend_unwind_protect\n",
        ),
        (
            "racket",
            "readers",
            "#lang racket\n(define x '(a . b)) #;(skip me) #| a #| b |# |#\n(define (f #:k [k #\\)]) `(,@k #rx\"[)]\" #\"b\"))\n(define s #<<X\n(\nX\n)\n",
        ),
        (
            "scheme",
            "definitions",
            "(define a (lambda (b) b))\n(define ((c d) e) f)\n(define-record-type p (mk x) p? (x px))\n#!eof |a b| #u8(1 2)\n",
        ),
        (
            "clojure",
            "readers",
            "(ns a.b (:require [c]))\n(defn ^{:doc \"d\"} e [x] #?(:clj \\a :cljs #\"\\)\") @f #'g #_h %1)\n(def i #{1 2}) #inst \"2026\"\n",
        ),
        (
            "scss",
            "nesting",
            "@use 'a';\n.b { &:hover > c { d: e(f($g), #{h}) } @include i($j) { k: l; } // m {\n}\n@function n($o: 1) { @return $o; }\n",
        ),
        (
            "less",
            "mixins",
            ".m(@a; @b: 2) when (@a > 1) { .n(@a; ~\"x\"); }\n@r: { c: d };\n.g { .m(1; 2) !important; color: @@v; }\n",
        ),
        ("css", "values", "a{b:url(data:x;y)}@media (c){d,e{f:g}}@font-face{src:url('h')}\n.i::after{content:\"}\"}\n"),
        (
            "html",
            "optional_tags",
            "<ul><li>a<li>b</ul><p>c<p>d<table><tr><td>e<td>f<tr><td>g</table><br><img src=x>\n</b><div>{% if a %}<x/>{% endif %}\n",
        ),
        (
            "markdown",
            "blocks",
            "Title\n===\n\n- a\n  - b\n\n    c\n1. d\n> e\n> - f\nlazy\n\n~~~js\nx()\n~~~\n    code\n\n# H #\n***\n",
        ),
        (
            "dax",
            "queries",
            "DEFINE\n  MEASURE T[A] = SUM(T[x]) -- c\n  VAR v = {1, 2}\nEVALUATE\n  FILTER('T t', [A] > 1 && T[b] = \"it\"\"s\")\nORDER BY [A] DESC\n",
        ),
        ("plain", "indentation", "harbour\n  north\n    gauge (one\n  two)\n  south\nend\n# note\n"),
    ];
    for (language, name, text) in cases {
        let read = match Language::named(language) {
            Some(_) => read(language, text),
            None => crate::support::read_plain(text),
        };
        looks::check(read.code()).unwrap();
        snapshot!(format!("hard_{language}_{name}"), format!("{}\n{}", text.trim_end(), shape(&read)));
    }
}

#[test]
fn what_is_outside_of_a_mistake_is_still_found() {
    // A piece of the sample is taken out; the names are those that must still be in the outline.
    let cases: [(&str, &str, &[&str]); 14] = [
        ("firmware/gauge.c", "return -1; }", &["state", "gauge", "read_bus", "gauge_sample"]),
        ("firmware/Station.cpp", "highest_ = level; notify", &["Station", "median"]),
        ("desktop/tides.pas", "      end;\n  else", &["TTideTable", "Create", "HeightAt"]),
        ("analysis/harmonics.m", "    end\n    if rank", &["harmonics", "polar"]),
        ("rules/surge.rkt", "'evacuate]))", &["surge-level", "station", "worst"]),
        ("rules/notices.scm", "(caar left) (cdar left))", &["notice", "notices", "when-surge"]),
        ("rules/stations.clj", "{:metres (- high threshold)", &["threshold", "Station", "surge", "parse"]),
        ("web/board.scss", "{ background: lighten($colour, 30%); }", &["$levels", "warning", ".card"]),
        ("web/board.js", "this.#stations.set(station.id, station)\n    }", &["EVERY", "Board", "start"]),
        ("web/index.html", "</section>", &["cards", "form", "boards"]),
        ("analysis/surge.py", "def __init__(self, readings, foretold", &["Reading", "read", "Surges", "worst"]),
        ("services/notices.go", "fmt.Errorf(", &["Notice", "Sender", "SendAll", "String"]),
        ("reports/levels.dax", "BLANK ()\n    )", &["Highest Level", "Surge", "Stations Above"]),
        ("docs/guide.md", "return sum(kept) / len(kept)\n```", &["Tide stations", "Reading a gauge"]),
    ];
    let files = sample_files();
    for (path, taken, names) in cases {
        let (_, language, text) = files.iter().find(|(other, ..)| other == path).unwrap();
        assert!(text.contains(taken), "{path} has no {taken:?}");
        let read = read(language, &text.replacen(taken, "", 1));
        looks::check(read.code()).unwrap();
        let found: Vec<String> = looks::outline(read.code()).into_iter().map(|entry| entry.name).collect();
        for name in names {
            assert!(found.iter().any(|other| other == name), "{path}: no {name} in {found:?}");
        }
    }
}

#[test]
fn languages_are_told_apart_by_text() {
    for (path, text, name) in [
        ("a.h", "#ifdef __cplusplus\nextern \"C\" {\n#endif\nint f(void);\n", Some("c")),
        ("a.h", "namespace a { class B; }\n", Some("cpp")),
        ("a.c", "class x;\n", Some("c")),
        ("a.h", "@class Tide;\n@interface Gauge : NSObject\n- (int)level;\n@end\n", None),
        ("a.h", "namespace a {\n    /* @class Tide */\n}\n", Some("cpp")),
        ("a.m", "# define HIGH 3\n@implementation Gauge\n@end\n", None),
        ("a.m", "x = 1; % y\n", Some("matlab")),
        ("a.m", "# y\nx = 1;\n", Some("octave")),
        ("a.m", "#import <A.h>\n@implementation A\n", None),
        ("a.ts", "<?xml version=\"1.0\"?>\n<TS/>\n", None),
        ("run", "#!/usr/bin/env python3\n", Some("python")),
        ("notes.txt", "tides\n", None),
    ] {
        let found = Language::of_file(std::path::Path::new(path), text).map(Language::name);
        assert_eq!(found, name, "{path}: {text}");
    }
}
