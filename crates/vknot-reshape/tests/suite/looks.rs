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
    let pairs = looks::pairs(read.code());
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
    let pairs = looks::pairs(read.code());
    let [lone] = pairs.unpaired.as_slice() else { panic!("{:?}", pairs.unpaired) };
    let line = |mark: Span| read.source().line(mark.start);
    assert_eq!(line(lone.span), 3);
    assert_eq!(lone.culprit.map(|culprit| (line(culprit.span), culprit.line)), Some((3, 5)));
}

#[test]
fn one_closing_bracket_too_many_is_found() {
    let text = "class A {\n  void b() {\n    c();\n  }\n  }\n}\n";
    let read = read("java", text);
    let pairs = looks::pairs(read.code());
    let [lone] = pairs.unpaired.as_slice() else { panic!("{:?}", pairs.unpaired) };
    assert_eq!(lone.culprit.map_or(lone.span, |culprit| culprit.span), Span::new(38, 39));
    assert_eq!(read.source().line(38), 5);
}

#[test]
fn brackets_in_strings_and_comments_do_not_count() {
    let read = read("rust", "fn a() { b(\"(\"); /* { */ } // [\n");
    let pairs = looks::pairs(read.code());
    assert_eq!((pairs.pairs.len(), pairs.unpaired.len()), (3, 0));
}
