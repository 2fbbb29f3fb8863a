//! Conflicts that version control left: they stay byte for byte, all around them is done, by steps that go line by line and by those that
//! rewrite whole stretches.

use vknot_reshape::steps::{Proven, Request};
use vknot_reshape::Reason;
use vknot_syntax::Span;

use crate::support::{read, step};

const CONFLICT: &str =
    "<<<<<<< ours\n     int  low=1 ;\n||||||| base\nint low;\n=======\n  int low = 2;\n>>>>>>> theirs\n";

/// The proven result of a step, which a second run must leave.
fn run(name: &str, language: &str, text: &str) -> Proven {
    let proven = step(name).run(&read(language, text), &Request::default()).unwrap();
    let again = step(name).run(proven.document(), &Request::default()).unwrap();
    assert!(again.is_empty(), "{name}\n{}\n{}", proven.text(), again.text());
    proven
}

/// A text with a conflict in its middle, after a step.
fn after(name: &str, front: &str, behind: &str) -> String {
    let text = format!("{front}{CONFLICT}{behind}");
    let proven = run(name, "java", &text);
    let left: Vec<(Reason, &str)> =
        proven.receipt().left_alone.iter().map(|left| (left.reason, left.span.of(&text))).collect();
    assert_eq!(left, [(Reason::Conflict, CONFLICT)], "{name}");
    proven.text().to_owned()
}

#[test]
fn what_is_around_a_conflict_is_done() {
    let cases = [
        ("format", "class A{\n", "int high=2;\n}\n", "class A {\n", "    int high = 2;\n}\n"),
        ("indent", "class A {\nint a;\n", "  int b;\n   }\n", "class A {\n    int a;\n", "    int b;\n}\n"),
        // Blank lines and items right in front of it and behind it.
        ("format", "class A{\n\n\n", "\n\n\nint b;}\n", "class A {\n\n\n", "\n\n\n    int b;\n}\n"),
    ];
    for (name, front, behind, new_front, new_behind) in cases {
        let text = after(name, front, behind);
        let (start, end) = text.split_once(CONFLICT).unwrap_or_else(|| panic!("{name}: {text}"));
        assert!(start.starts_with(new_front.trim_end()), "{name}\n{text}");
        assert!(end.trim_start_matches('\n') == new_behind.trim_start_matches('\n'), "{name}\n{text}");
    }
}

#[test]
fn a_conflict_that_begins_or_ends_a_file_stays() {
    let front = after("format", "", "class A{int b;}\n");
    assert_eq!(front, format!("{CONFLICT}class A {{\n    int b;\n}}\n"));
    let behind = after("format", "class A{int b;}\n", "");
    assert_eq!(behind, format!("class A {{\n    int b;\n}}\n{CONFLICT}"));
    let unended = CONFLICT.trim_end();
    let proven = run("format", "java", &format!("class A{{}}\n{unended}"));
    assert!(proven.text().ends_with(unended), "{}", proven.text());
}

#[test]
fn imports_on_both_sides_of_a_conflict_stay_on_theirs() {
    let conflict = "<<<<<<< ours\nimport c.C;\n=======\nimport d.D;\n>>>>>>> theirs\n";
    let text = format!("import b.B;\nimport a.A;\n{conflict}import f.F;\nimport e.E;\n\nclass Z {{ A a; B b; C c; E e; F f; }}\n");
    let proven = run("imports", "java", &text);
    assert!(proven.text().contains(conflict), "{}", proven.text());
    let at = |name: &str| proven.text().find(name).unwrap();
    let conflict = at("<<<<<<<")..at(">>>>>>>");
    assert!(at("import a.A;").max(at("import b.B;")) < conflict.start);
    assert!(at("import e.E;").min(at("import f.F;")) > conflict.end);
}

#[test]
fn lines_that_are_meant_are_done_outside_of_a_conflict_alone() {
    let text = format!("class A{{\nint    a;\n{CONFLICT}int   b;\nlong c=1;\n}}\n");
    let part = |from: &str, to: &str| Span::new(
        text.find(from).unwrap() as u32,
        (text.find(to).unwrap() + to.len()) as u32,
    );
    let cases = [
        // Over it, into it from the front, out of it, and inside of it.
        (part("int    a", "int   b;"), "    int a;", "    int b;", "long c=1;"),
        (part("int    a", "low=1"), "    int a;", "int   b;", "long c=1;"),
        (part("low = 2", "int   b;"), "int    a;", "    int b;", "long c=1;"),
        (part("low=1", "low = 2"), "int    a;", "int   b;", "long c=1;"),
    ];
    for (span, a, b, c) in cases {
        let only = [span];
        let request = Request { only: Some(&only), ..Request::default() };
        let proven = step("format").run(&read("java", &text), &request).unwrap();
        assert_eq!(proven.text(), format!("class A{{\n{a}\n{CONFLICT}{b}\n{c}\n}}\n"));
    }
}

#[test]
fn what_only_looks_like_a_conflict_is_none() {
    for text in [
        "class A{int b;}\n// =======\n",
        "<<<<<<< ours\nclass A{int b;}\n",
        "class A{int b;}\n>>>>>>> theirs\n",
        "<<<<<<<ours\nclass A{}\n=======\n>>>>>>> theirs\n",
        "=======\n<<<<<<< ours\nclass A{}\n>>>>>>> theirs\n",
    ] {
        let proven = step("format").run(&read("java", text), &Request::default());
        let left = proven.iter().flat_map(|proven| &proven.receipt().left_alone);
        assert!(left.into_iter().all(|left| left.reason != Reason::Conflict), "{text}");
    }
}
