//! Regions, sections, todos and comments, in the comment forms of every language.

use vknot_reshape::looks::{self, Marks};
use vknot_reshape::steps::{Request, Wish};
use vknot_syntax::Span;

use crate::support::{prove_as, read, sample_files, step};

#[test]
fn todos_are_found_in_comments_only() {
    let marks = Marks::default();
    let mut lines = Vec::new();
    for (path, language, text) in sample_files() {
        let read = read(language, &text);
        for todo in looks::todos(read.code(), &marks) {
            assert_eq!(read.source().slice(todo.span).get(..todo.tag.len()), Some(todo.tag.as_str()));
            lines.push(
                format!("{path}:{} {} {:?} {}", read.source().line(todo.span.start), todo.tag, todo.author, todo.text),
            );
        }
    }
    snapshot!(lines.join("\n"));
    let quoted = read("python", "a = '# TODO: no'\nb = 1  # TODO: yes\n");
    assert_eq!(looks::todos(quoted.code(), &marks).len(), 1);
}

#[test]
fn regions_nest_and_the_unbalanced_are_reported_with_both_suspects() {
    let text = "// region A\nint a;\n// region B\nint b;\n// endregion\n// region C\nint c;\n// endregion A\n";
    let read = read("c", text);
    let found = looks::regions(read.code(), &Marks::default());
    let line = |span: Span| read.source().line(span.start);
    let regions: Vec<(&str, u32, u32, u32)> = found.regions
        .iter()
        .map(|region| (region.name.as_str(), line(region.open), line(region.close), region.depth))
        .collect();
    assert_eq!(regions, [("A", 1, 8, 0), ("B", 3, 5, 1)]);
    let lone: Vec<(u32, Option<u32>)> =
        found.lone.iter().map(|lone| (line(lone.span), lone.suspect.map(line))).collect();
    assert_eq!(lone, [(6, Some(8))]);
}

#[test]
fn a_project_adds_its_own_marks() {
    let marks = Marks {
        regions: vec![("basin".to_owned(), "basin end".to_owned())],
        tags: vec!["TIDE".to_owned()],
        sections: vec!["==".to_owned()],
        ..Marks::default()
    };
    let read = read("python", "# == One\n# basin North\na = 1  # TIDE: high\n# basin end\n# === Two\nb = 2\n");
    assert_eq!(looks::regions(read.code(), &marks).regions[0].name, "North");
    assert_eq!(looks::todos(read.code(), &marks)[0].text, "high");
    let sections = looks::sections(read.code(), &marks);
    assert_eq!(sections.iter().map(|s| (s.name.as_str(), s.level)).collect::<Vec<_>>(), [("One", 1), ("Two", 2)]);
}

#[test]
fn sections_end_where_the_next_of_their_level_begins() {
    for (language, text, expected) in [
        ("markdown", "# A\na\n## B\nb\n\n# C\nc\n", vec![("A", 1, 4), ("B", 3, 4), ("C", 6, 7)]),
        ("matlab", "%% A\na = 1;\n\n%%% B\nb;\n%% C\nc;\n", vec![("A", 1, 5), ("B", 4, 5), ("C", 6, 7)]),
        ("python", "# %% A\na\n#%% B\nb\n# %%%%%%%%\n", vec![("A", 1, 2), ("B", 3, 5)]),
        ("octave", "a;\n## %% A\nb;\n", vec![("A", 2, 3)]),
    ] {
        let read = read(language, text);
        let sections = looks::sections(read.code(), &Marks::default());
        let found: Vec<(&str, u32, u32)> = sections
            .iter()
            .map(|section| {
                let (first, last) = read.source().line_range(section.span);
                (section.name.as_str(), first, last)
            })
            .collect();
        assert_eq!(found, expected, "{language}");
    }
}

/// The text with a region around some lines, proven; or why not.
fn with_region(language: &str, text: &str, (first, last): (u32, u32)) -> String {
    let read = read(language, text);
    let lines = read.source().lines();
    let span = Span::new(lines.start(first - 1), lines.span(text, last - 1).end);
    let request = Request { only: Some(&[span]), wish: Wish::Name("Tides".to_owned()), ..Request::default() };
    let proven = match step("region add").run(&read, &request) {
        Err(error) => return error.to_string(),
        Ok(proven) => proven,
    };
    let found = looks::regions(proven.document().code(), &Marks::default()).regions;
    assert_eq!(found.iter().map(|region| region.name.as_str()).collect::<Vec<_>>(), ["Tides"], "{language}");
    let back = Request { only: Some(&[found[0].open]), wish: Wish::Nothing, ..Request::default() };
    let removed = step("region remove").run(proven.document(), &back).unwrap();
    assert_eq!(removed.text(), text, "{language}: taking it away gives the text back");
    proven.text().to_owned()
}

#[test]
fn regions_are_put_around_whole_items_in_each_languages_form() {
    let cases = [
        ("java", "class A {\n    // about b\n    int b;\n    void c() {\n    }\n}\n", (3, 5)),
        ("csharp", "class A\n{\n    int b;\n}\n", (3, 3)),
        ("cpp", "int a;\nint b;\n", (2, 2)),
        ("pascal", "unit A;\ninterface\nvar\n  B: integer;\nimplementation\nend.\n", (3, 4)),
        ("python", "def a():\n    b()\n    c()\n", (2, 3)),
        ("html", "<ul>\n  <li>a</li>\n  <li>b</li>\n</ul>\n", (2, 2)),
        ("css", "a { b: c }\nd { e: f }", (2, 2)),
        ("clojure", "(def a 1)\n(def b 2)\n", (1, 1)),
        ("matlab", "a = 1;\nb = 2;\n", (1, 2)),
        ("gdscript", "var a = 1\nvar b = 2\n", (2, 2)),
        ("java", "class A {\n    void c() {\n        d();\n    }\n}\n", (2, 3)),
        ("java", "class A {\n    int b;\n}\n", (1, 2)),
        ("java", "class A {\n\n}\n", (2, 2)),
        ("notebook", "{\n \"cells\": []\n}\n", (2, 2)),
    ];
    let shown = cases.map(|(language, text, lines)| (language, with_region(language, text, lines)));
    snapshot!(crate::support::shown(&shown));
}

#[test]
fn a_region_that_changes_code_is_refused() {
    let read = read("java", "class A {\n    int b;\n}\n");
    let request = Request { only: Some(&[Span::new(14, 18)]), wish: Wish::Name("B".to_owned()), ..Request::default() };
    let mut reshape = step("region add").reshape(&read, &request).unwrap();
    reshape.receipt.added.pop();
    let refusal = prove_as("region add", &read, reshape).unwrap_err();
    assert!(refusal.to_string().contains("endregion"), "{refusal}");
}
