//! `format`, `indent`, `imports`: what is shown, in which form, with which exit code.

use crate::harness::Desk;

#[test]
fn format_shows_a_diff_and_a_receipt() {
    let desk = Desk::with_sample();
    let before = desk.read("src/surge.rs");
    snapshot!("format_diff", desk.run(&["format", "src/surge.rs"]));
    assert_eq!(desk.read("src/surge.rs"), before, "nothing is written unless asked");
}

#[test]
fn format_lays_out_the_sample() {
    let desk = Desk::with_sample();
    for file in ["src/Gauge.java", "src/Reading.java", "src/surge.rs", "data/stations.json"] {
        let name = format!("formatted_{}", file.rsplit('/').next().unwrap().replace('.', "_"));
        snapshot!(name, desk.stdout(&["format", file, "--output", "text"]));
    }
}

#[test]
fn check_names_what_would_change() {
    let desk = Desk::with_sample();
    snapshot!("check", desk.run(&["format", "--check", "."]));
    desk.stdout(&["format", "--write", "."]);
    snapshot!("check_clean", desk.run(&["format", "--check", "."]));
}

#[test]
fn only_the_lines_of_a_place_change() {
    let desk = Desk::with_sample();
    snapshot!("format_lines", desk.run(&["format", "src/Gauge.java:39-46"]));
    snapshot!("indent_name", desk.run(&["indent", "src/Gauge.java@state"]));
}

#[test]
fn forms_for_machines() {
    let desk = Desk::new();
    desk.write("A.java", "class A { int é ; void b() { if (c) d(); } }\n");
    let set = ["--set", "vknot_brace_required=always"];
    snapshot!("json", desk.run(&["format", "A.java", "--output", "json", set[0], set[1]]));
    snapshot!("sarif", desk.run(&["format", "A.java", "--output", "sarif"]));
    snapshot!("receipt", desk.run(&["format", "A.java", set[0], set[1]]));
}

#[test]
fn standard_input_gives_text() {
    let desk = Desk::new();
    desk.write("sub/.editorconfig", "[*.json]\nindent_size = 6\n");
    let text = "{\n\"a\":1}";
    let shown = desk.pipe(&["format", "-", "--as", "sub/x.json"], text);
    assert_eq!(shown, "{\n      \"a\": 1\n}\n── exit 0\n");
    assert_eq!(desk.pipe(&["format", "-", "--language", "json", "--check"], text).lines().last(), Some("── exit 1"));
    assert!(desk.pipe(&["format", "-"], text).ends_with("── exit 2\n"));
    let place = desk.pipe(&["select", "-:2:2", "--language", "json", "--rung", "0"], text);
    assert_eq!(place, "a\n── exit 0\n");
}

#[test]
fn indent_works_on_broken_code() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\nvoid b() {\nint c = ;\nif (d) {\ne();\n}\n}\n}\n");
    snapshot!(desk.run(&["indent", "A.java"]));
}

#[test]
fn format_leaves_what_it_cannot_read() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\n  int  a;\n  int b = = 3  ;\n  int  c;\n}\n");
    snapshot!(desk.run(&["format", "A.java"]));
}

#[test]
fn imports_are_put_in_order() {
    let desk = Desk::with_sample();
    snapshot!("imports", desk.run(&["imports", "src", "data/stations.json"]));
    desk.stdout(&["imports", "--write", "src"]);
    assert!(desk.run(&["imports", "--check", "src"]).ends_with("── exit 0\n"));
}

#[test]
fn byte_order_marks_and_line_ends_are_kept_or_set() {
    let desk = Desk::new();
    desk.write("a.json", "\u{feff}[1 ]\r\n");
    desk.stdout(&["format", "--write", "a.json"]);
    assert_eq!(desk.read("a.json"), "\u{feff}[1]\r\n");
    desk.stdout(&["format", "--write", "a.json", "--set", "charset=utf-8", "--set", "end_of_line=lf"]);
    assert_eq!(desk.read("a.json"), "[1]\n");
    desk.stdout(&["format", "--write", "a.json", "--set", "charset=utf-8-bom"]);
    assert_eq!(desk.read("a.json"), "\u{feff}[1]\n");
}

#[test]
fn mixed_line_ends_become_one() {
    let desk = Desk::new();
    desk.write("a.json", "[\r\n1,\n2,\r\n3\r\n]\n");
    desk.stdout(&["format", "--write", "a.json"]);
    assert_eq!(desk.read("a.json"), "[\r\n  1,\r\n  2,\r\n  3\r\n]\r\n");
}

#[test]
fn colour_is_for_those_who_ask() {
    let desk = Desk::with_sample();
    assert!(!desk.stdout(&["outline", "src"]).contains('\u{1b}'));
    assert!(desk.stdout(&["outline", "src", "--color", "always"]).contains('\u{1b}'));
}

#[test]
fn the_demo_runs_and_leaves_its_folder() {
    let desk = Desk::new();
    let tour = desk.stdout(&["demo", "--keep", "tide"]);
    assert!(!tour.contains("error:"), "{tour}");
    assert!(tour.contains("What changed, all in all"), "{tour}");
    assert!(desk.read("tide/src/Reading.java").contains("double level, boolean"));
    assert!(desk.run(&["demo", "--keep", "tide"]).ends_with("── exit 2\n"), "a folder that is not empty");
}

#[test]
fn indent_sets_the_sample() {
    let desk = Desk::with_sample();
    snapshot!("indent_check", desk.run(&["indent", "--check", "."]));
    desk.stdout(&["indent", "--write", "."]);
    let again = desk.run(&["indent", "--check", "."]);
    assert!(again.contains("0 files would change"), "{again}");
    for file in ["firmware/gauge.c", "desktop/tides.pas", "web/index.html", "rules/stations.clj"] {
        let name = format!("indented_{}", file.rsplit('/').next().unwrap().replace('.', "_"));
        snapshot!(name, desk.read(file));
    }
}

#[test]
fn lines_are_shifted_and_converted() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\n    void b() {\n      c();\n\n        d();\n    }\n}\n");
    desk.write("a.py", "def a():\n    if b:\n        c()\n    d()\n");
    snapshot!("shift_in", desk.run(&["indent", "--in", "1", "A.java:2-6"]));
    snapshot!("shift_out_flattens", desk.run(&["indent", "--out", "3", "A.java:2-6"]));
    snapshot!("shift_out_forced", desk.run(&["indent", "--out", "3", "--force", "A.java:2-6", "--output", "text"]));
    snapshot!("shift_breaks", desk.run(&["indent", "--out", "1", "a.py:3"]));
    snapshot!("to_tabs", desk.run(&["indent", "--tabs", "A.java", "a.py"]));
    desk.stdout(&["indent", "--tabs", "--write", "a.py"]);
    snapshot!("to_spaces", desk.run(&["indent", "--spaces", "2", "a.py"]));
    snapshot!("one_way_only", desk.run(&["indent", "--tabs", "--in", "1", "A.java"]));
}

#[test]
fn indentation_is_shown() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\n    int a;\n\n  int b;\n\tint c() {\n\t\treturn 1; }\n}\n");
    snapshot!("shown", desk.run(&["indent", "--show", "A.java"]));
    snapshot!("shown_lines_json", desk.run(&["indent", "--show", "A.java:4", "--output", "json"]));
}

#[test]
fn what_decides_the_width_is_on_the_receipt() {
    let desk = Desk::new();
    desk.write("a.c", "int a(void)\n{\n   b();\nc();\n}\n");
    desk.write("b.go", "package b\n\nfunc b() {\nc()\n}\n");
    desk.write("sub/.editorconfig", "[*.c]\nindent_size = 2\n");
    desk.write("sub/c.c", "int a(void)\n{\nc();\n}\n");
    let arms = "        case 1:\n            b();\n            break;\n".repeat(5);
    desk.write("own.c", format!("void a(int c)\n{{\n    switch (c) {{\n{arms}   }}\n}}\n"));
    snapshot!("deciding", desk.run(&["indent", "a.c", "b.go", "sub/c.c", "own.c"]));
    snapshot!("deciding_json", desk.run(&["indent", "b.go", "--output", "json"]));
}

#[test]
fn clean_files_are_remembered_until_anything_changes() {
    let desk = Desk::new();
    let clean = "class A {\n    int a;\n}\n";
    desk.write("A.java", clean);
    let last = |arguments: &[&str]| desk.run(arguments).lines().last().unwrap_or_default().to_owned();
    assert_eq!(last(&["format", "--check", "."]), "── exit 0");
    let records = || -> usize {
        let folder = std::fs::read_dir(desk.cache("vknot/clean-1")).unwrap();
        folder.map(|file| file.unwrap().metadata().unwrap().len() as usize / 16).sum()
    };
    assert_eq!(records(), 1);
    // What is remembered is counted like what is read, and is the same in every form.
    assert_eq!(desk.run(&["format", "A.java"]), desk.run(&["format", "A.java", "--no-cache"]));
    assert_eq!(desk.stdout(&["format", "A.java", "--output", "text"]), clean);
    assert_eq!(records(), 1);
    // Other settings, another step and another text are looked at anew.
    assert_eq!(last(&["format", "--check", ".", "--set", "indent_size=2"]), "── exit 1");
    desk.write(".editorconfig", "[*]\nindent_size = 3\n");
    assert_eq!(last(&["format", "--check", "."]), "── exit 1");
    std::fs::remove_file(desk.file(".editorconfig")).unwrap();
    assert_eq!(last(&["indent", "--check", "."]), "── exit 0");
    assert_eq!(records(), 2);
    desk.write("A.java", clean.replace("int a", "int  a"));
    assert_eq!(last(&["format", "--check", "."]), "── exit 1");
    // What was kept by a comment is said each time, so it is not remembered.
    desk.write("A.java", "class A {\n    // vknot: keep\n    int  a;\n}\n");
    assert!(desk.run(&["format", "."]).contains("1 part kept"));
    assert!(desk.run(&["format", "."]).contains("1 part kept"));
    desk.write("A.java", clean);
    std::fs::remove_dir_all(desk.cache("vknot")).unwrap();
    desk.run(&["format", "--check", "--no-cache", "."]);
    assert!(!desk.cache("vknot").exists());
}

/// What the published schema of SARIF 2.1.0 (OASIS) says against a log.
fn against_schema(log: &str) -> String {
    let schema = serde_json::from_str(include_str!("sarif-2.1.0.json")).unwrap();
    let (mut schemas, mut compiler) = (boon::Schemas::new(), boon::Compiler::new());
    compiler.enable_format_assertions();
    compiler.add_resource("sarif", schema).unwrap();
    let index = compiler.compile("sarif", &mut schemas).unwrap();
    let log: serde_json::Value = serde_json::from_str(log).unwrap_or_else(|error| panic!("{error}: {log}"));
    schemas.validate(&log, index).err().map_or_else(String::new, |error| format!("{error:#}"))
}

#[test]
fn every_sarif_log_is_as_the_standard_says() {
    let desk = Desk::with_sample();
    desk.write("a b [é]\\.java", "\u{feff}class A {\nint b;\n}\n");
    desk.write("mark.java", "class B {\n    int c;\n}\n");
    desk.write(".editorconfig", "[mark.java]\ncharset = utf-8-bom\n[broken]\nindent_size = many\nvknot_no_such = 1\n");
    desk.write("unread.json", "{\"a\": [}");
    let asked: &[&[&str]] = &[
        &["format", "."],
        &["indent", ".", "nowhere"],
        &["imports", "."],
        &["todos", "."],
        &["style", "check", "."],
    ];
    for arguments in asked {
        let output = desk.command(&[*arguments, &["--output", "sarif"]].concat()).output().unwrap();
        let log = String::from_utf8(output.stdout).unwrap();
        assert_eq!(against_schema(&log), "", "{arguments:?}: {log}");
        assert!(log.contains("\"results\": [\n"), "{arguments:?} finds nothing: {log}");
    }
    assert_ne!(against_schema("{\"version\": \"2.1.0\"}"), "", "a log without runs is none");
}
