//! Looks on whole and on broken code.

use vknot_reshape::looks::{self, FoldKind};
use vknot_syntax::Span;

use crate::support::read;

const GAUGE: &str = include_str!("../../../../demo/src/Gauge.java");
const SURGE: &str = include_str!("../../../../demo/src/surge.rs");
const STATIONS: &str = include_str!("../../../../demo/data/stations.json");

fn at(text: &str, needle: &str) -> Span {
    let start = text.find(needle).unwrap() as u32;
    Span::new(start, start)
}

#[test]
fn outlines_name_what_there_is() {
    for (language, text) in [("java", GAUGE), ("rust", SURGE), ("json", STATIONS)] {
        let read = read(language, text);
        let entries = looks::outline(read.code());
        let lines = entries.iter().map(|entry| {
            format!("{}{} {}", "  ".repeat(entry.depth as usize), entry.kind, entry.label)
        });
        snapshot!(format!("outline_{language}"), lines.collect::<Vec<_>>().join("\n"));
    }
}

#[test]
fn names_are_found_by_path() {
    let read = read("rust", "impl A { fn x() {} }\nimpl B { fn x() {} }\nfn y() {}\n");
    let entries = looks::outline(read.code());
    let found = |path: &str| looks::find_by_name(&entries, path).len();
    assert_eq!((found("x"), found("A.x"), found("B.x"), found("y"), found("z")), (2, 1, 1, 1, 0));
}

#[test]
fn folds_are_of_their_kinds() {
    for (language, text) in [("java", GAUGE), ("rust", SURGE), ("json", STATIONS)] {
        let read = read(language, text);
        let folds = looks::folds(read.code());
        let lines = folds.iter().map(|fold| {
            let first = read.source().lines().text(text, fold.first_line - 1).trim();
            let (indent, kind) = ("  ".repeat(fold.depth as usize), fold.kind.name());
            format!("{indent}{kind} {}-{} {first}", fold.first_line, fold.last_line)
        });
        snapshot!(format!("folds_{language}"), lines.collect::<Vec<_>>().join("\n"));
    }
}

#[test]
fn branches_fold_one_by_one() {
    let text = "class A {\n void b() {\n  if (c) {\n   d();\n  } else {\n   e();\n  }\n }\n}\n";
    let read = read("java", text);
    let blocks: Vec<(u32, u32)> = looks::folds(read.code())
        .into_iter()
        .filter(|fold| fold.kind == FoldKind::Block)
        .map(|fold| (fold.first_line, fold.last_line))
        .collect();
    assert_eq!(blocks, [(3, 4), (5, 7)]);
}

#[test]
fn ladders_stop_where_a_person_would() {
    let cases = [
        ("java", GAUGE, "isBefore"),
        ("java", GAUGE, "of \" + surge"),
        ("java", GAUGE, "what the float"),
        ("rust", SURGE, "doubtful)"),
        ("json", STATIONS, "battery"),
    ];
    for (number, (language, text, needle)) in cases.into_iter().enumerate() {
        let read = read(language, text);
        let ladder = looks::ladder(read.code(), at(text, needle));
        let lines = ladder.iter().map(|rung| {
            let text = read.source().slice(rung.span);
            let first: String = text.lines().next().unwrap_or("").chars().take(70).collect();
            format!("{:<22} {first}", rung.kind)
        });
        snapshot!(format!("ladder_{number}"), lines.collect::<Vec<_>>().join("\n"));
    }
}

#[test]
fn strings_are_taken_without_and_with_quotes() {
    let text = "{\"harbour\": \"North Harbour\"}";
    let read = read("json", text);
    let ladder = looks::ladder(read.code(), at(text, "North"));
    let first: Vec<&str> = ladder.iter().take(4).map(|rung| read.source().slice(rung.span)).collect();
    assert_eq!(first, ["North", "North Harbour", "\"North Harbour\"", "\"harbour\": \"North Harbour\""]);
}

#[test]
fn pairs_know_what_they_are_for() {
    let text = "class A {\n  void b(int c) {\n    if (c > 0) {\n      d(e[1]);\n    }\n  }\n}\n";
    let read = read("java", text);
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    let lines = pairs.pairs.iter().map(|pair| {
        let header = read.source().lines().text(text, read.source().line(pair.header) - 1).trim();
        format!("{} {} {}: {header}", pair.depth, read.source().line(pair.open.start), pair.construct)
    });
    snapshot!(lines.collect::<Vec<_>>().join("\n"));
    assert!(pairs.unpaired.is_empty());
}

#[test]
fn the_likeliest_culprit_is_named() {
    // The brace of the conditional is missing; matched in order alone, the one of the class would be left over.
    let text = "class A {\n  void b() {\n    if (c) {\n      d();\n    e();\n  }\n}\n";
    let read = read("java", text);
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    let [lone] = pairs.unpaired.as_slice() else { panic!("{:?}", pairs.unpaired) };
    let line = |mark: Span| read.source().line(mark.start);
    assert_eq!(line(lone.span), 3);
    assert_eq!(lone.culprit.map(|culprit| (line(culprit.span), culprit.line)), Some((3, 5)));
}

#[test]
fn one_closing_bracket_too_many_is_found() {
    let text = "class A {\n  void b() {\n    c();\n  }\n  }\n}\n";
    let read = read("java", text);
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    let [lone] = pairs.unpaired.as_slice() else { panic!("{:?}", pairs.unpaired) };
    assert_eq!(lone.culprit.map_or(lone.span, |culprit| culprit.span), Span::new(38, 39));
    assert_eq!(read.source().line(38), 5);
}

#[test]
fn comments_that_begin_like_directives_are_none() {
    let text = "unit gauge;\n\n{ if the tide is low }\n(*if a then b*)\n{$IFDEF TIDE}\n{ $endif }\n{$ENDIF}\n";
    let read = read("pascal", text);
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    let marks: Vec<&str> = pairs.marks().map(|mark| read.source().slice(mark)).collect();
    assert_eq!((marks, pairs.unpaired.len()), (vec!["{$IFDEF TIDE}", "{$ENDIF}"], 0));
}

#[test]
fn a_directive_is_no_bracket() {
    let read = read("cpp", "#if TIDE\n#endif(\n");
    assert_eq!(looks::check(read.code()), Ok(()));
    assert_eq!(looks::pairs(read.code(), &looks::Marks::default()).unpaired, []);
}

#[test]
fn brackets_in_strings_and_comments_do_not_count() {
    let read = read("rust", "fn a() { b(\"(\"); /* { */ } // [\n");
    let pairs = looks::pairs(read.code(), &looks::Marks::default());
    assert_eq!((pairs.pairs.len(), pairs.unpaired.len()), (3, 0));
}

/// A language, a text, a place in it, and the ladder up to the token that holds the code.
const INSIDE_TOKENS: &[(&str, &str, &str, &[&str])] = &[
    ("javascript", "a = `b ${c(d[1])} ${e}`;", "1", &["1", "d[1]", "(d[1])", "c(d[1])", "${c(d[1])}"]),
    ("typescript", "a = `b \\${c} ${{ d }.d}`;", "d }", &["d", "{ d }", "{ d }.d", "${{ d }.d}"]),
    ("javascript", "a = `b ${c(`d ${e} f`)} g`;", "e}", &["e", "${e}", "d ${e} f", "`d ${e} f`", "(`d ${e} f`)"]),
    ("python", "a = f\"b {c(1)!r:>{d}} {{e}}\"", "1", &["1", "(1)", "c(1)", "{c(1)!r:>{d}}"]),
    ("python", "a = f'b {c:>{d}}'", "d}", &["d", "{d}", "b {c:>{d}}"]),
    ("python", "a = f'b {c=} {d == e}'", "d ==", &["d", "d == e", "{d == e}"]),
    ("csharp", "class A { string B => $\"c {d[1],5:F2}\"; }", "1", &["1", "[1]", "d[1]", "{d[1],5:F2}"]),
    ("csharp", "class A { string B => $$\"\"\"c {d} {{e.F}}\"\"\"; }", "F}", &["F", "e.F", "{{e.F}}"]),
    ("rust", "fn a() { b!(\"c {d:?} {{e}}\"); }", "d:", &["d", "{d:?}", "c {d:?} {{e}}"]),
    ("scss", "a { b: \"c #{f(1)}\"; }", "1", &["1", "(1)", "f(1)", "#{f(1)}", "c #{f(1)}"]),
    ("less", "a { b: \"c @{d}\"; }", "d}", &["d", "@{d}", "c @{d}"]),
    ("c", "#define A(b) ((b) * 2)\n", "2", &["2", "(b) * 2", "((b) * 2)", "(b) ((b) * 2)", "#define A(b) ((b) * 2)"]),
    ("cpp", "#if defined(A) && B\n#endif\n", "B", &["B", "defined(A) && B", "#if defined(A) && B"]),
];

#[test]
fn code_inside_tokens_has_rungs() {
    for (language, text, needle, expected) in INSIDE_TOKENS {
        let read = read(language, text);
        let ladder = looks::ladder(read.code(), at(text, needle));
        let shown: Vec<&str> = ladder.iter().map(|rung| read.source().slice(rung.span)).collect();
        // What is nothing but the contents of a bracket is not looked at here.
        let mut rest = shown.iter();
        let held = expected.iter().all(|text| rest.any(|shown| shown == text));
        assert!(held, "{language}: {text} has {shown:?}, not {expected:?}");
    }
}

/// A language, a text, and its pairs: what opens, what parts and what closes.
const PAIRS: &[(&str, &str, &[&str])] = &[
    ("javascript", "a = `b ${c(1)}`;", &["${ }", "( )"]),
    ("python", "a = f'{b(1'", &[]),
    ("python", "a = f'{b[1]:{c}}'", &["{ }", "[ ]", "{ }"]),
    ("c", "#define A(b) f((b)[0])\n#define B {\n", &["( )", "( )", "( )", "[ ]"]),
    ("c", "#ifdef A\nint a;\n#elif B\n#else\nint b;\n#endif\n", &["#ifdef A #elif B #else #endif"]),
    ("c", "#pragma region A\nint a;\n#pragma endregion\n", &["#pragma region A #pragma endregion"]),
    ("csharp", "class A {\n#if B\n#region C\n int d;\n#endregion\n#else\n#endif\n}\n", &[
        "{ }", "#if #else #endif", "#region C #endregion",
    ]),
    ("pascal", "unit A;\ninterface\n{$IFDEF B}\n{$ELSE}\n{$ENDIF}\nimplementation\nend.\n", &[
        "{$IFDEF B} {$ELSE} {$ENDIF}",
    ]),
    ("java", "class A {\n // region B\n int c;\n // endregion\n}\n", &["{ }", "// region B // endregion"]),
];

#[test]
fn directives_regions_and_code_inside_tokens_have_pairs() {
    for (language, text, expected) in PAIRS {
        let read = read(language, text);
        let found = looks::pairs(read.code(), &looks::Marks::default());
        let marks = |pair: &looks::Pair| {
            pair.marks().map(|mark| read.source().slice(mark)).collect::<Vec<_>>().join(" ")
        };
        let found: Vec<String> = found.pairs.iter().map(marks).collect();
        assert_eq!(found, *expected, "{language}: {text}");
    }
}

#[test]
fn a_directive_without_a_partner_is_told() {
    let text = "#if A\n#if B\n#endif\nint a;\n#else\n";
    let read = read("c", text);
    let found = looks::pairs(read.code(), &looks::Marks::default());
    let lone: Vec<&str> = found.unpaired.iter().map(|lone| read.source().slice(lone.span)).collect();
    assert_eq!(lone, ["#if A"]);
}

#[test]
fn brackets_of_a_macro_belong_to_it() {
    let read = read("c", "#define LOW(level) (level)\n");
    let found = looks::pairs(read.code(), &looks::Marks::default());
    assert_eq!(found.pairs.first().map(|pair| pair.construct), Some("macro parameters"));
}
