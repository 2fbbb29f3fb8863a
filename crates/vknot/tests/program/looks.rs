//! `outline`, `fold`, `pairs`, `select`.

use crate::harness::Desk;

#[test]
fn outline_shows_the_tree() {
    let desk = Desk::with_sample();
    snapshot!(desk.run(&["outline", "src", "--depth", "2"]));
    snapshot!("outline_json", desk.run(&["outline", "src/Reading.java", "--output", "json"]));
}

#[test]
fn fold_closes_what_it_is_asked_to() {
    let desk = Desk::with_sample();
    snapshot!("fold_members", desk.run(&["fold", "src/Gauge.java"]));
    snapshot!("fold_only", desk.run(&["fold", "src/Gauge.java", "--only", "imports,comment"]));
    snapshot!("fold_depth", desk.run(&["fold", "data/stations.json", "--depth", "2"]));
    snapshot!("fold_at_a_line", desk.run(&["fold", "src/Gauge.java:56"]));
    snapshot!("fold_around", desk.run(&["fold", "src/Gauge.java@state", "--around"]));
    snapshot!("fold_list", desk.run(&["fold", "src/surge.rs", "--list", "--except", "literal"]));
    snapshot!("fold_json", desk.run(&["fold", "src/Reading.java", "--output", "json"]));
    snapshot!("fold_nothing", desk.run(&["fold", "src/Gauge.java:2", "--only", "block"]));
}

#[test]
fn pairs_finds_partners() {
    let desk = Desk::with_sample();
    snapshot!("pairs_closing", desk.run(&["pairs", "src/Gauge.java:60:3"]));
    snapshot!("pairs_opening", desk.run(&["pairs", "src/surge.rs:24"]));
    snapshot!("pairs_inside", desk.run(&["pairs", "src/Gauge.java:21:53", "--inside"]));
    snapshot!("pairs_around", desk.run(&["pairs", "src/Gauge.java:23:54", "--around"]));
    snapshot!("pairs_all", desk.run(&["pairs", "src/Reading.java"]));
    snapshot!("pairs_json", desk.run(&["pairs", "src/Reading.java:6:69", "--output", "json"]));
}

#[test]
fn pairs_finds_branches_and_code_in_strings() {
    let desk = Desk::new();
    desk.write("gauge.c", "#if LOW\nint level;\n#elif HIGH\n#else\nint mark;\n#endif\n");
    desk.write("gauge.js", "say(`level ${levels.map((level) => `${level} m`)}`);\n");
    snapshot!("pairs_branch", desk.run(&["pairs", "gauge.c:3"]));
    snapshot!("pairs_branches_json", desk.run(&["pairs", "gauge.c:1", "--output", "json"]));
    snapshot!("pairs_in_strings", desk.run(&["pairs", "gauge.js"]));
    snapshot!("ladder_in_strings", desk.run(&["select", "gauge.js:1:39"]));
}

#[test]
fn pairs_names_the_likely_culprit() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\n  void b() {\n    if (c) {\n      d();\n    e();\n  }\n}\n");
    snapshot!("unpaired", desk.run(&["pairs", "A.java", "--unpaired"]));
    snapshot!("unpaired_place", desk.run(&["pairs", "A.java:1"]));
    snapshot!("unpaired_json", desk.run(&["pairs", "A.java", "--unpaired", "--output", "json"]));
}

#[test]
fn select_climbs_the_ladder() {
    let desk = Desk::with_sample();
    snapshot!("ladder", desk.run(&["select", "src/Gauge.java:55:60"]));
    snapshot!("ladder_json", desk.run(&["select", "data/stations.json:1:5", "--output", "json"]));
    assert_eq!(desk.stdout(&["select", "src/Gauge.java:47:48", "--rung", "0"]), "maximumAge\n");
    snapshot!("rung_missing", desk.run(&["select", "src/Gauge.java:47:48", "--rung", "99"]));
}

#[test]
fn select_goes_straight_to_what_encloses_a_place() {
    let desk = Desk::with_sample();
    let span = |arguments: &[&str]| desk.stdout(&[&["select"], arguments, &["--span"]].concat());
    assert_eq!(span(&["src/Gauge.java:55:60", "--up-to", "type"]), "src/Gauge.java:18:1-70:2\n");
    assert_eq!(span(&["web/index.html:20:12", "--up-to", "element"]), "web/index.html:14:5-20:15\n");
    // From a range, to the next one out.
    assert_eq!(span(&["web/index.html:14:5-20:15", "--up-to", "element"]), "web/index.html:12:3-24:10\n");
    snapshot!("up_to_nothing", desk.run(&["select", "data/stations.json:1:5", "--up-to", "method"]));
}

#[test]
fn shrinking_comes_back_to_the_range_it_began_with() {
    let desk = Desk::with_sample();
    let grown = desk.stdout(&["select", "src/Gauge.java:47:48-47:52", "--grow", "--span"]);
    let back = ["select", grown.trim(), "--shrink", "--from", "47:48-47:52", "--span"];
    assert_eq!(desk.stdout(&back), "src/Gauge.java:47:48-47:52\n");
}

#[test]
fn ladders_name_what_languages_have() {
    let desk = Desk::with_sample();
    snapshot!("ladder_prose", desk.run(&["select", "docs/guide.md:9:5"]));
    snapshot!("ladder_element", desk.run(&["select", "web/index.html:20:12"]));
    snapshot!("ladder_sheet", desk.run(&["select", "web/board.css:4:30"]));
    snapshot!("ladder_c", desk.run(&["select", "firmware/gauge.c:40:45"]));
}

#[test]
fn what_is_printed_as_a_place_is_taken_as_one() {
    let desk = Desk::new();
    desk.write("a@b/Gauge.java", "class Gauge {\n    int level;\n}\n");
    desk.write("board.css", ".card {\n  color: red;\n}\n");
    let whole = desk.stdout(&["select", "a@b/Gauge.java:2:9", "--up-to", "file", "--span"]);
    assert_eq!(whole, "a@b/Gauge.java:1:1-4:1\n");
    assert_eq!(desk.stdout(&["select", whole.trim(), "--rung", "0", "--span"]), whole);
    assert_eq!(desk.stdout(&["select", "board.css@.card", "--rung", "0", "--span"]), "board.css:1:1-3:2\n");
    snapshot!("outline_at_a_line", desk.run(&["outline", "a@b/Gauge.java:2"]));
    snapshot!("outline_of_a_name", desk.run(&["outline", "a@b/Gauge.java@Gauge"]));
    snapshot!("outline_nowhere", desk.run(&["outline", "board.css:9"]));
}

#[test]
fn growing_and_shrinking_are_each_others_way_back() {
    let desk = Desk::with_sample();
    let mut place = "src/Gauge.java:47:48".to_owned();
    let mut grown = Vec::new();
    for _ in 0..5 {
        place = desk.stdout(&["select", &place, "--grow", "--span"]).trim().to_owned();
        grown.push(place.clone());
    }
    for expected in grown.iter().rev().skip(1) {
        place = desk.stdout(&["select", &place, "--shrink", "--from", "47:48", "--span"]).trim().to_owned();
        assert_eq!(place, *expected);
    }
}

#[test]
fn files_of_no_known_language_are_read_by_brackets() {
    let desk = Desk::new();
    desk.write("notes.txt", "tide (low\n  [ebb]\n) done\n");
    snapshot!("plain", desk.run(&["pairs", "notes.txt"]));
    snapshot!("plain_select", desk.run(&["select", "notes.txt:2:5"]));
}

#[test]
fn closed_comments_show_their_first_words() {
    let desk = Desk::new();
    for (name, text) in [
        ("a.c", "/*\n * Reads the float gauge.\n * Twice.\n */\nint a;\n"),
        ("a.css", "/* ---------\n   Boards\n   --------- */\n.a { color: red; }\n"),
        ("a.py", "#\n# Low water.\n#\na = 1\n"),
        ("a.rkt", "#lang racket\n;;;\n;;; Surges.\n(define a 1)\n"),
        ("a.m", "%\n% Levels.\na = 1;\n"),
        ("a.html", "<!--\n  Boards.\n-->\n<p>a</p>\n"),
        ("a.go", "// Low water.\n// Twice.\npackage a\n"),
    ] {
        desk.write(name, text);
    }
    let shown = ["a.c", "a.css", "a.py", "a.rkt", "a.m", "a.html", "a.go"].map(|name| desk.stdout(&["fold", name]));
    snapshot!("fold_comments", shown.join("\n"));
}

#[test]
fn the_bracket_without_a_partner_is_named_in_every_kind_of_language() {
    let desk = Desk::new();
    for (name, text) in [
        ("a.ts", "function low() {\n  send(1);\n\nfunction high() {\n  send(2);\n}\n"),
        ("a.go", "package a\n\nfunc low() {\n\tsend(1\n}\n\nfunc high() {\n}\n"),
        ("a.cpp", "class A {\n public:\n  void b() {\n    c();\n\n  void d() {\n  }\n};\n"),
        ("a.scss", ".a {\n  color: red;\n\n.b {\n  color: blue;\n}\n"),
        ("a.clj", "(defn low [a]\n  (send a)\n\n(defn high [b]\n  (send b))\n"),
        ("a.json", "{\n  \"a\": [\n    1\n  ,\n  \"b\": 2\n}\n"),
        ("a.py", "def low(a:\n    send(a)\n\ndef high(b):\n    send(b)\n"),
        ("a.cs", "class A\n{\n    void B()\n    {\n        C();\n    }\n    }\n}\n"),
    ] {
        desk.write(name, text);
    }
    let names = ["a.ts", "a.go", "a.cpp", "a.scss", "a.clj", "a.json", "a.py", "a.cs"];
    snapshot!("unpaired_everywhere", names.map(|name| desk.stdout(&["pairs", "--unpaired", name])).join("\n"));
}

#[test]
fn an_item_folds_from_what_is_said_about_it() {
    let desk = Desk::new();
    desk.write(
        "A.java",
        "class A {\n  @B\n  @C(d = 1,\n      e = 2)\n  int f() {\n    if (g) {\n      h();\n    }\n    return 1;\n  }\n}\n",
    );
    desk.write("a.py", "@low\n@high(1)\ndef read():\n    if a:\n        b()\n    return 1\n");
    desk.write("a.c", "static int\nread(void)\n{\n\treturn 1;\n}\n");
    snapshot!("fold_from_annotation", [
        desk.stdout(&["fold", "A.java:2"]),
        desk.stdout(&["fold", "--peek", "A.java:2"]),
        desk.stdout(&["fold", "A.java"]),
        desk.stdout(&["fold", "--except", "conditional", "A.java"]),
        desk.stdout(&["fold", "--peek", "a.py:2"]),
        desk.stdout(&["fold", "a.c"]),
        desk.stdout(&["outline", "a.py", "a.c"]),
    ]
        .join("\n"));
}

#[test]
fn blocks_that_calls_name_are_places() {
    let desk = Desk::new();
    desk.write(
        "tide.test.ts",
        "describe('tides', () => {\n  const gauge = make();\n  test('low water', () => {\n    check(gauge);\n  });\n  test('high water', () => {\n    check(1);\n  });\n});\n",
    );
    snapshot!("outline_of_tests", desk.run(&["outline", "tide.test.ts"]));
    snapshot!("outline_of_tests_json", desk.run(&["outline", "tide.test.ts@low water", "--output", "json"]));
    snapshot!("fold_of_a_test", desk.run(&["fold", "tide.test.ts@tides.high water"]));
    snapshot!("no_such_test", desk.run(&["fold", "tide.test.ts@neap tide"]));
}

/// A file of each kind of language.
const EVERY_KIND: [&str; 16] = [
    "firmware/gauge.c",
    "firmware/Station.cpp",
    "desktop/tides.pas",
    "analysis/surge.py",
    "analysis/levels.ipynb",
    "web/index.html",
    "rules/surge.rkt",
    "src/Gauge.java",
    "src/surge.rs",
    "data/stations.json",
    "docs/guide.md",
    "desktop/Notices.cs",
    "services/notices.go",
    "game/harbour.gd",
    "web/StationCard.tsx",
    "web/board.scss",
];

#[test]
fn the_plain_view_shows_what_a_file_holds() {
    let desk = Desk::with_sample();
    let shown = EVERY_KIND.map(|name| format!("{name}\n{}", desk.stdout(&["fold", name])));
    snapshot!("fold_every_kind", shown.join("\n"));
}
