//! `edit`: each edit in several languages, as docs/edits.md shows it; scripts, places, refusals, and what is written.

use std::path::Path;

use crate::harness::Desk;

/// One edit, as it is asked for, and the text it is done to.
struct Case {
    language: &'static str,
    arguments: Vec<String>,
    text: String,
}

/// The cases by edit, each with what is said of it.
fn sections() -> Vec<(&'static str, &'static str, Vec<Case>)> {
    let mut sections: Vec<(&str, &str, Vec<Case>)> = Vec::new();
    for line in include_str!("edit_cases.txt").lines() {
        if let Some(name) = line.strip_prefix("# ").filter(|name| !name.contains(' ')) {
            sections.push((name, "", Vec::new()));
            continue;
        }
        let (_, said, cases) = sections.last_mut().unwrap();
        match (line.strip_prefix("> "), cases.last_mut()) {
            (Some(head), _) => {
                let (language, arguments) = head.split_once(' ').unwrap();
                cases.push(Case { language, arguments: words(arguments), text: String::new() });
            }
            (None, None) => *said = line,
            (None, Some(case)) => case.text += &format!("{line}\n"),
        }
    }
    sections
}

/// Words parted by blanks, with quotes around those that hold some.
fn words(text: &str) -> Vec<String> {
    let parts = text.split('\'').enumerate();
    parts
        .flat_map(|(at, part)| match at % 2 {
            0 => part.split_whitespace().map(str::to_owned).collect(),
            _ => vec![part.to_owned()],
        })
        .collect()
}

impl Case {
    /// The text without marks, and the place between them.
    fn place(&self) -> (String, String) {
        let at = |offset: usize| {
            let before: String = self.text[..offset].replace(['‹', '›'], "");
            let line = before.matches('\n').count() + 1;
            format!("{line}:{}", before.rsplit('\n').next().unwrap().chars().count() + 1)
        };
        let (open, close) = (self.text.find('‹').unwrap(), self.text.find('›').unwrap());
        let place = match self.text[open..close].len() {
            3 => at(open),
            _ => format!("{}-{}", at(open), at(close)),
        };
        (self.text.replace(['‹', '›'], ""), place)
    }

    /// What the program makes of it: the arguments as they are shown, and the new text or what it says.
    fn done(&self) -> (String, String) {
        let (text, place) = self.place();
        let desk = Desk::new();
        let place = format!("-:{place}");
        let arguments: Vec<&str> =
            self.arguments.iter().map(|word| if word == "PLACE" { &place } else { word.as_str() }).collect();
        let mut all = vec!["edit"];
        all.extend(&arguments);
        all.extend(["--language", self.language]);
        let output = assert_cmd::Command::from_std(desk.command(&all)).write_stdin(text.as_str()).output().unwrap();
        let out = String::from_utf8(output.stdout).unwrap();
        assert!(output.status.success(), "{arguments:?} on {text}: {}", String::from_utf8_lossy(&output.stderr));
        let shown = self.arguments.iter().map(|word| match word.contains(' ') || word.contains('<') {
            true => format!("'{word}'"),
            false => word.clone(),
        });
        (shown.collect::<Vec<_>>().join(" "), out)
    }
}

const HEAD: &str = "# Edits by structure

`vknot edit OP PLACE` takes hold of the smallest item at a place: an argument, a statement, a member, an element, a form. A range takes hold of the
items in it, `--rung N` of another rung of the ladder. What belongs to an item goes along, separators and indentation come right, and what would
leave the code less valid is refused. Each edit is shown here before and after; `‹›` is the place.
";

/// The page that shows every edit.
fn page() -> String {
    let mut page = HEAD.to_owned();
    for (name, said, cases) in sections() {
        page += &format!("\n## {name}\n");
        if !said.is_empty() {
            page += &format!("\n{said}\n");
        }
        for case in cases {
            let (arguments, after) = case.done();
            let language = case.language;
            page += &format!("\n`{arguments}`\n\n```{language}\n{}```\n\n```{language}\n{after}```\n", case.text);
        }
    }
    page
}

/// With `VKNOT_DOCS=write` in the environment the page is written anew.
#[test]
fn the_page_of_edits_is_fresh() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/edits.md");
    let page = page();
    if std::env::var_os("VKNOT_DOCS").is_some_and(|value| value == "write") {
        std::fs::write(&path, &page).unwrap();
    }
    assert!(page == std::fs::read_to_string(path).unwrap_or_default(), "docs/edits.md is stale; run `cargo xtask docs`");
}

/// Does an edit and writes it; gives what is said.
fn edited(desk: &Desk, edit: &str) -> String {
    let words = words(edit);
    let mut arguments: Vec<&str> = vec!["edit"];
    arguments.extend(words.iter().map(String::as_str));
    arguments.push("--write");
    desk.run(&arguments)
}

/// What each edit that has a reverse gives back, to the same bytes.
#[test]
fn reverses_give_the_same_bytes() {
    for (text, there, back) in [
        ("f(a, ‹›b, c); // d\n", "move PLACE --down", "move PLACE --up"),
        ("class A {\n    int ‹›a; // low\n\n    /** B. */\n    int b;\n}\n", "move PLACE --down", "move PLACE --up"),
        ("f(‹›a, b);\n", "swap PLACE", "swap PLACE --previous"),
        ("if (a) {\n    ‹›b();\n}\n\n// d\nd();\n", "pull PLACE --next", "push -:2:5 --last"),
        ("f(g(‹›a), b);\n", "pull PLACE --next", "push -:1:5 --last"),
        ("{\n    ‹a();\n    b();›\n}\n", "wrap PLACE --in 'if (c) { _ }'", "unwrap PLACE"),
        ("f(‹›a);\n", "wrap PLACE --in 'g(_)'", "unwrap PLACE"),
        ("if (a) {\n    ‹b();›\n}\n", "comment PLACE", "uncomment PLACE"),
        ("f(‹›a, b);\n", "comment PLACE --form block", "uncomment PLACE"),
        ("if (‹›a && b) {\n    c();\n} else {\n    d();\n}\n", "swap PLACE --branches", "swap -:1:5 --branches"),
        ("if (‹›a && b) {\n    c();\n}\n", "split PLACE", "join -:1:5"),
        ("int ‹›a = 1, b;\n", "split PLACE", "join -:1:5"),
        ("f(\"low ‹›water\");\n", "split PLACE", "join -:1:8"),
    ] {
        let case = Case { language: "java", arguments: words(there), text: text.to_owned() };
        let (original, place) = case.place();
        let desk = Desk::new();
        desk.write("Gauge.java", &original);
        let there = there.replace("PLACE", &format!("Gauge.java:{place}"));
        let said = edited(&desk, &there);
        assert!(desk.read("Gauge.java") != original, "{there}");
        let now = said.lines().find_map(|line| line.strip_prefix("now at ")).unwrap_or_default();
        let back = back.replace("PLACE", now).replace("-:", "Gauge.java:");
        let said = edited(&desk, &back);
        assert_eq!(desk.read("Gauge.java"), original, "{there}, then {back}: {said}");
    }
}

/// A helper is written out of a lambda, its head is changed, what follows is pulled in, arguments swap, and a form is lifted.
#[test]
fn forms_are_edited_as_forms() {
    let desk = Desk::new();
    desk.write("tide.rkt", "#lang racket\n(map (lambda (x) (* x 2)) levels)\n(displayln \"done\")\n");
    desk.write(
        "script",
        [
            "delete tide.rkt:2:6",
            "insert tide.rkt:2:6 --before --text double",
            "insert tide.rkt:2:1 --before --text '(define (double x) (* x 2))'",
            "swap tide.rkt:2:23",
            "wrap tide.rkt:3:1 --in '(for-each _)'",
            "pull tide.rkt:3:2 --next",
            "move tide.rkt:3:11 --down",
            "lift tide.rkt:3:12",
            "unwrap tide.rkt:3:2",
        ].join("\n"),
    );
    snapshot!(desk.run(&["edit", "--script", "script"]));
}

#[test]
fn the_same_story_in_other_languages() {
    let desk = Desk::new();
    desk.write(
        "Tide.java",
        "class Tide {\n    void run() {\n        record(twice(level), hour);\n        rest();\n    }\n}\n",
    );
    desk.write("tide.html", "<ul>\n  <li>ebb</li>\n</ul>\n<p>flood</p>\n");
    desk.write("tide.json", "{\n  \"ebb\": [1, [2, 3]],\n  \"flood\": 4\n}\n");
    desk.write(
        "script",
        [
            "insert Tide.java@Tide.run --text 'int twice(int x){return x*2;}'",
            "swap Tide.java:3:16",
            "wrap Tide.java:3:9 --in 'if (ready) { _ }'",
            "pull Tide.java:4:13 --next",
            "move Tide.java@Tide.twice --up",
            "pull tide.html:2:3 --next",
            "wrap there --in '<b>'",
            "lift tide.json:2:15",
            "move tide.json:2:3 --down",
        ].join("\n"),
    );
    snapshot!(desk.run(&["edit", "--script", "script", "-w"]));
    snapshot!(["Tide.java", "tide.html", "tide.json"].map(|file| desk.read(file)).join("\n"));
    desk.run(&["undo"]);
    assert!(desk.read("tide.json").starts_with("{\n  \"ebb\""));
}

#[test]
fn what_would_break_code_is_refused() {
    let desk = Desk::new();
    desk.write(
        "Gauge.java",
        "class Gauge {\n    int level() {\n        return level; // low\n    }\n\n    void a() { b(1); }\n}\n",
    );
    desk.write("gauge.py", "import os\n\ndef f(a, b=1):\n    return a + b\n");
    for arguments in [
        &["move", "Gauge.java@Gauge.level", "--down", "2"][..],
        &["move", "Gauge.java:3:9", "--into", "Gauge.java@Gauge"],
        &["lift", "Gauge.java:2:5"],
        &["unwrap", "Gauge.java:3:9"],
        &["insert", "Gauge.java:3:9", "--text", "int )"],
        &["delete", "gauge.py:4:5"],
        &["swap", "gauge.py:3:7"],
        &["wrap", "gauge.py:4:5", "--in", "log(_"],
        &["occurrences", "gauge.py:3:7", "--replace", "b"],
        &["occurrences", "gauge.py:3:7", "--replace", "if"],
        &["columns", "gauge.py:1:30-4:31", "--insert", "#"],
    ] {
        snapshot!(desk.run(&[&["edit"], arguments].concat()));
    }
}

#[test]
fn uses_are_listed_by_scope_and_by_word() {
    let desk = Desk::new();
    desk.write(
        "gauge.rs",
        "fn mean(levels: &[f64]) -> f64 {\n    let sum: f64 = levels.iter().sum();\n    let sum = sum / 2.0;\n    sum\n}\n",
    );
    desk.write("gauge.c", "int level; /* level */\nint f(void) { return level; }\n");
    snapshot!(desk.run(&["edit", "occurrences", "gauge.rs:3:9"]));
    // What a member of the class would be taken for is refused another name, what is used beside it is not.
    desk.write("tide.py", "import models\n\nclass Tide:\n    name = 1\n    level = models.Level()\n");
    let renamed = |name: &str| desk.run(&["edit", "occurrences", "tide.py:1:8", "--replace", name]);
    assert!(renamed("name").contains("`name` at 4:5 would be taken for it"), "{}", renamed("name"));
    assert!(renamed("tables").contains("+    level = tables.Level()"), "{}", renamed("tables"));
    snapshot!(desk.run(&["edit", "occurrences", "gauge.c:1:5", "--comments", "--first", "2", "--output", "json"]));
    // Of a long line only what is near is shown.
    desk.write("long.js", format!("let tide = 1; {}", "note(tide, 'é'); ".repeat(10_000)));
    let listed = desk.run(&["edit", "occurrences", "long.js:1:5"]);
    assert!(listed.lines().count() > 10_000 && listed.lines().all(|line| line.chars().count() < 280), "{}", listed.len());
    assert!(listed.contains("long.js:1:20  let tide = 1; note(tide, 'é'); note("), "{}", &listed[..400]);
    assert!(listed.lines().nth(2).is_some_and(|line| line.ends_with('…')), "{}", &listed[..400]);
}

#[test]
fn one_gets_about_among_items() {
    let desk = Desk::new();
    desk.write("gauge.js", "record(level, hour, place);\nrest();\n");
    for way in [
        &["--next"][..],
        &["--next", "2", "--extend"],
        &["--first"],
        &["--last"],
        &["--parent"],
        &["--child"],
        &["--previous", "3"],
    ] {
        let out = desk.run(&[&["select", "gauge.js:1:15"], way].concat());
        snapshot!(format!("{}: {out}", way.join(" ")));
    }
}

#[test]
fn scripts_are_done_whole_or_not_at_all() {
    let desk = Desk::new();
    desk.write("gauge.js", "record(level, hour);\n");
    desk.write("script", "move gauge.js:1:8 --down\n# then\nmove there --down 4\n");
    snapshot!(desk.run(&["edit", "--script", "script", "--write"]));
    assert_eq!(desk.read("gauge.js"), "record(level, hour);\n");
}

#[test]
fn code_in_other_files_is_edited_there() {
    let desk = Desk::new();
    desk.write("page.html", "<body>\n  <script>\n    record(level, hour);\n  </script>\n</body>\n");
    snapshot!(desk.run(&["edit", "move", "page.html:3:12", "--down"]));
}

#[test]
fn items_go_into_other_files_and_back() {
    let desk = Desk::new();
    let gauge = "class Gauge {\n    int level;\n\n    /** Says so. */\n    void tell() { log(level); } // aloud\n\n    String text() {\n        return \"\"\"\n            ebb\n            \"\"\";\n    }\n}\n";
    let board = "class Board {\n  void show() {\n    draw();\n  }\n}\n";
    desk.write("Gauge.java", gauge);
    desk.write("Board.java", board);
    desk.write("tide.py", "level = 3\n");
    snapshot!(desk.run(&["edit", "move", "Gauge.java@tell", "--before", "Board.java@show", "--write"]));
    snapshot!(desk.read("Board.java"));
    assert!(!desk.read("Gauge.java").contains("tell"));
    desk.run(&["undo"]);
    assert_eq!((desk.read("Gauge.java"), desk.read("Board.java")), (gauge.to_owned(), board.to_owned()));
    // The lines of a text would be indented otherwise, a list cannot hold it, another language does not know it.
    for target in ["Board.java@show", "./Gauge.java@tell", "tide.py:1"] {
        snapshot!(desk.run(&["edit", "move", "Gauge.java@text", "--after", target]));
    }
    snapshot!(desk.run(&["edit", "copy", "Gauge.java:2:5", "--times", "2", "--into", "Board.java@Board"]));
}
