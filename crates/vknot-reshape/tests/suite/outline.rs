//! What an outline names, language by language, and the pairs that go with it.

use vknot_reshape::looks::{self, Marks};
use vknot_syntax::{Role, Span};

use crate::support::read;

/// Code whose names are not where one would look first.
const NAMED: &[(&str, &str)] = &[
    (
        "typescript",
        "const LIMIT = 3;\ndescribe('tides', () => {\n  const gauge = make();\n  beforeEach(() => {\n    const inner = 1;\n  });\n  test('reads low water', async () => {\n    const value = 1;\n  });\n  it.each([1, 2])('reads %i', (n) => {\n    check(n);\n  });\n});\n",
    ),
    (
        "typescript",
        "export const Chart = memo(function Chart(props) {\n  const a = 1;\n  return a;\n});\nconst Panel = forwardRef((props, ref) => {\n  return null;\n});\nconst total = reduce((a, b) => a + b, 0);\nconst text = line.replace('a', (m) => { return m; });\nenum Warning { Quiet, Watch = 2, 'Evacuate' }\n",
    ),
    (
        "python",
        "LIMIT = 3\nnames: list = []\nlevel = 1\nlevel = 2\nlevel.metres = 3\nclass Gauge:\n    unit = \"m\"\n    def read(self):\n        value = 1\n    @property\n    def level(self):\n        def inner():\n            pass\ndef main():\n    x = 1\n",
    ),
    (
        "go",
        "package tide\n\nfunc TestGauge(t *testing.T) {\n\tt.Run(\"low water\", func(t *testing.T) {\n\t\tlevel := 1\n\t})\n}\n",
    ),
    (
        "cpp",
        "template <typename T = void> class Gauge {\n public:\n  int level() const { return 1; }\n  int unit;\n};\ntemplate <typename T, typename U = List<List<int>>>\nT pick(T a, U b = 3) { return a; }\ntemplate <class T> void run(T t = T{}, int n = 2) {}\nvoid later(int a) { a = 1; }\n",
    ),
    ("cpp", "namespace tides {\nclass Gauge {\n public:\n  int read();\n};\nint level() {\n  return 1;\n}\n"),
    (
        "cpp",
        "static int (*compare)(const void *, const void *);\ntypedef int (*handler)(int);\nint (*table[4])(int) = {0};\nint (Gauge::*of)(int);\nvoid each(void (*visit)(int), int n);\nint (*pick(int a))(int) { return compare; }\nstruct A {\n  TIDE_PRIVATE:\n  int a;\n  int (*b)(int);\n  auto c() noexcept -> decltype(d());\n};\n",
    ),
    ("clojure", "(defn ^:private low [x] (inc x))\n(defn ^String name-of \"doc\" [x] x)\n(def ^:dynamic *depth* 3)\n"),
    ("racket", "#lang racket\n(define/match (warn x)\n  [(1) 2])\n"),
    ("scheme", "(define (##tide#low x) x)\n(define-integrable (high x)\n  x)\n"),
];

#[test]
fn what_has_a_name_is_named() {
    let shown = NAMED.iter().map(|(language, text)| {
        let read = read(language, text);
        let entries = looks::outline(read.code());
        let line = |entry: &looks::OutlineEntry| {
            format!("{}{} {} {}", "  ".repeat(entry.depth as usize), read.source().line(entry.span.start), entry.kind, entry.label)
        };
        format!("{language}\n{}", entries.iter().map(line).collect::<Vec<_>>().join("\n"))
    });
    snapshot!(shown.collect::<Vec<_>>().join("\n\n"));
}

/// Code that lacks one closing bracket, or has one too many, and where the bracket is to which that happened.
const LONE: &[(&str, &str, (u32, u32))] = &[
    ("java", "class A {\n  void b() {\n    if (c) {\n      d();\n  }\n}\n", (3, 12)),
    ("java", "class A {\n  void b() {\n    try (C c = d(e) {\n      f();\n    }\n  }\n}\n", (3, 9)),
    ("rust", "fn low() {\n    send(1;\n}\n\nfn high() {\n    send(2);\n}\n", (2, 9)),
    (
        "rust",
        "impl A {\n    #[inline]\n    fn low() {\n        send(1);\n\n    #[inline]\n    fn high() {\n        send(2);\n    }\n}\n",
        (3, 14),
    ),
    (
        "csharp",
        "class A\n{\n    void B()\n    {\n        C(\n            d,\n            e);\n\n    void F()\n    {\n    }\n}\n",
        (4, 5),
    ),
    (
        "go",
        "package a\n\nvar low = []T{\n\t{1, []int{2}},\n\t{2, []int{3},\n\t{4, []int{5}},\n}\n\nfunc high() {\n}\n",
        (5, 2),
    ),
    (
        "typescript",
        "describe('low', () => {\n  test('a', () => {\n    b();\n\n  test('c', () => {\n    d();\n  });\n});\n",
        (2, 7),
    ),
    (
        "cpp",
        "namespace a {\n\nnamespace {\n\nclass R {\n public:\n  R(int a)\n      : b(a),\n        c(1) {\n    d();\n\n  ~R() {\n  }\n};\n\n}\n\n}\n",
        (9, 14),
    ),
    ("go", "package a\n\nfunc low() {\n\tsend(1)\n}\n}\n", (6, 1)),
    ("java", "class A {\n  void b() {\n    c();\n  }\n  }\n}\n", (5, 3)),
    ("c", "enum level {\n  LOW,\n  HIGH\n  ;\nint read(void)\n{\n  return 1;\n}\n", (1, 12)),
    ("scheme", "(define (low a\n  (send a))\n\n(define (high b)\n  (send b))\n", (1, 9)),
    ("scheme", "(define (low a)\n\t(if a\n\t    (send a\n\t    (keep a)))\n\n(define (high b)\n  (send b))\n", (3, 6)),
];

#[test]
fn the_bracket_that_lacks_its_partner_is_the_suspect() {
    for (language, text, expected) in LONE {
        let read = read(language, text);
        assert!(read.tree().has_error(), "{language}\n{text}");
        let unpaired = looks::pairs(read.code(), &looks::Marks::default()).unpaired;
        let first = unpaired.first().unwrap_or_else(|| panic!("{language}: nothing is unpaired in\n{text}"));
        let span = first.culprit.map_or(first.span, |culprit| culprit.span);
        let at = read.source().line_column(span.start);
        assert_eq!((at.line, at.column), *expected, "{language}\n{text}");
    }
}

#[test]
fn brackets_with_a_mark_in_front_have_partners() {
    for (language, text, pairs) in [
        ("clojure", "(f #{1 2} #(inc %) {:a [1]})", 5),
        ("racket", "(f #(1 2) #hash((a . 1)) #s(p 1))", 5),
        ("scheme", "(f #(1 2) #vu8(1 2) #u8(3))", 4),
        ("less", ".a { .b-@{name} { width: ~\"calc(@{w})\"; } }", 4),
        ("scss", ".a { &-#{$name} { width: calc(#{$w} - 1px); } }", 5),
    ] {
        let read = read(language, text);
        let found = looks::pairs(read.code(), &looks::Marks::default());
        assert_eq!((found.pairs.len(), found.unpaired.len()), (pairs, 0), "{language}");
    }
}

#[test]
fn folds_and_pairs_show_the_line_of_the_name() {
    let read = read("c", "static struct gauge *\ngauge_new(int a)\n{\n  return 0;\n}\n");
    let folds: Vec<(u32, u32)> =
        looks::folds(read.code()).iter().map(|fold| (fold.first_line, fold.last_line)).collect();
    assert_eq!(folds, [(2, 5)]);
    let pairs = looks::pairs(read.code(), &looks::Marks::default()).pairs;
    assert!(pairs.iter().all(|pair| read.source().line(pair.header) == 2));
}

#[test]
fn an_annotation_stands_for_its_item() {
    let java = read("java", "class A {\n  @B\n  @C(d = 1)\n  int e() {\n    return 1;\n  }\n}\n");
    let found: Vec<Option<u32>> = (1..=6).map(|line| looks::item_line(java.code(), line)).collect();
    assert_eq!(found, [None, Some(4), Some(4), None, None, None]);
    let python = read("python", "@low\n@high(1)\ndef read():\n    pass\n");
    assert_eq!(looks::item_line(python.code(), 2), Some(3));
}

#[test]
fn long_runs_of_comments_are_read_as_short_ones() {
    let text = |count: usize| {
        let comments: String = (0..count).map(|at| format!("    # low water {at}\n")).collect();
        format!("def read():\n    \"\"\"# no comment\n    # nor this\"\"\"\n{comments}    return 1\n\ndef level(): pass\n")
    };
    for count in [10, 49, 50, 51, 300] {
        let read = read("python", &text(count));
        assert!(!read.tree().has_error());
        let comments = looks::comments(read.code());
        assert_eq!(comments.len(), count);
        assert!(comments.iter().all(|comment| read.source().slice(comment.span).starts_with("# low water")));
        let entries = looks::outline(read.code());
        let names: Vec<&str> = entries.iter().map(|entry| entry.name.as_str()).collect();
        assert_eq!(names, ["read", "level"]);
        assert_eq!(read.source().line(entries[0].span.end), count as u32 + 4);
        let run = looks::folds(read.code()).into_iter().find(|fold| fold.kind == looks::FoldKind::Comment);
        assert_eq!(run.map(|run| (run.first_line, run.last_line)), Some((4, count as u32 + 3)));
    }
}

#[test]
fn what_breaks_off_keeps_what_is_in_front() {
    for (language, text) in [
        (
            "json",
            "{\n  \"low\": {\n    \"levels\": [\n      1,\n      2\n    ]\n  },\n  \"high\": {\n    \"station\": \"nor",
        ),
        (
            "csharp",
            "namespace A\n{\n    class B\n    {\n        void C()\n        {\n            D(@\"one\n\"\"two\"\"\" + E +\n@\",\");\n            F.G",
        ),
        ("javascript", "function low() {\n  send(1);\n}\n\nfunction high() {\n  send(`a ${b"),
    ] {
        let read = read(language, text);
        let entries = looks::outline(read.code());
        let holders: Vec<usize> = entries.iter().filter_map(|entry| entry.parent).collect();
        let expected = match language {
            "json" => (4, 2),
            "csharp" => (3, 2),
            _ => (2, 0),
        };
        assert_eq!((entries.len(), holders.len()), expected, "{language}: {entries:?}");
        assert!(entries.iter().all(|entry| entry.role != Role::Part), "{language}");
    }
}

#[test]
fn rulers_are_no_names_and_sections_end_with_their_function() {
    let names = |language: &str, text: &str| {
        let read = read(language, text);
        let sections = looks::sections(read.code(), &Marks::default());
        let shown = |section: &looks::Section| {
            let (first, last) = read.source().line_range(section.span);
            (section.name.clone(), first, last)
        };
        sections.iter().map(shown).collect::<Vec<_>>()
    };
    let named = |name: &str, first, last| (name.to_owned(), first, last);
    assert_eq!(
        names("python", "# %% ===== Tides =====\na = 1\n# %% -----\nb = 2\n# %% a-b --- c\n"),
        [named("Tides", 1, 2), named("", 3, 4), named("a-b --- c", 5, 5)]
    );
    assert_eq!(
        names("matlab", "function a()\n%% Low\nx = 1;\n%% High\ny = 2;\nend\nfunction b()\nz = 3;\nend\n"),
        [named("Low", 2, 3), named("High", 4, 5)]
    );
}

#[test]
fn a_pin_counts_beside_what_it_pins() {
    let read = read("c", "int low(void)\n{\n  return 1;\n}\n");
    let pin = looks::NamedSpan { name: "low".to_owned(), span: Span::new(0, read.source().span().end - 1) };
    let marks = Marks { pins: vec![pin], ..Marks::default() };
    let kinds: Vec<&str> = looks::folds_with(read.code(), &marks).iter().map(|fold| fold.kind.name()).collect();
    assert_eq!(kinds, ["callable", "pin"]);
}
