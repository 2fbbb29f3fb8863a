//! `--changed` and `--staged`: no more lines than a repository says changed.

use std::process::Command;

use crate::harness::Desk;

/// Runs git in the desk's folder.
fn git(desk: &Desk, arguments: &[&str]) -> String {
    let out = Command::new("git")
        .args([
            "-c",
            "user.name=Mira",
            "-c",
            "user.email=mira@tide.example",
            "-c",
            "init.defaultBranch=main",
            "-c",
            "protocol.file.allow=always",
        ])
        .args(arguments)
        .current_dir(desk.file(""))
        .env("HOME", desk.file("../home"))
        .env("GIT_CONFIG_NOSYSTEM", "1")
        .output()
        .unwrap();
    assert!(out.status.success(), "git {arguments:?}: {}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8_lossy(&out.stdout).into_owned()
}

/// Whether there is a git to ask. Where there is none, nothing can be said of changes, and that is all there is to test.
fn has_git() -> bool {
    Command::new("git").arg("--version").output().is_ok_and(|out| out.status.success())
}

/// Lines that all would be laid out otherwise.
fn lines(numbers: impl Iterator<Item = usize>) -> String {
    let body: String = numbers.map(|number| format!("    int  a{number};\n\n\n")).collect();
    format!("class A {{\n{body}}}\n")
}

fn committed(name: &str) -> Desk {
    let desk = Desk::new();
    git(&desk, &["init", "-q"]);
    desk.write(name, lines(0..12));
    git(&desk, &["add", "-A"]);
    git(&desk, &["commit", "-q", "-m", "Gauges"]);
    desk
}

/// The lines that are not what they were, with what they are.
fn different(old: &str, new: &str) -> Vec<String> {
    assert_eq!(old.lines().count(), new.lines().count());
    old.lines().zip(new.lines()).filter(|(old, new)| old != new).map(|(_, new)| new.to_owned()).collect()
}

#[test]
fn only_changed_lines_change() {
    if !has_git() {
        return;
    }
    let desk = committed("A.java");
    let text = desk.read("A.java").replace("a3;", "b3 ;").replace("a7;", "b7 ;");
    desk.write("A.java", &text);
    assert_eq!(desk.run(&["format", "--changed", "--check"]).lines().last(), Some("── exit 1"));
    desk.run(&["format", "--changed", "--write"]);
    assert_eq!(different(&text, &desk.read("A.java")), ["    int b3;", "    int b7;"]);
    assert_eq!(desk.run(&["format", "--changed", "--check"]).lines().last(), Some("── exit 0"));
    git(&desk, &["commit", "-qam", "Two"]);
    assert!(desk.run(&["format", "--changed", "."]).contains("no line changed"));
    let since =
        desk.run(&["indent", "--changed", "--since", "HEAD~1", "--set", "indent_size=2", "--output", "text", "A.java"]);
    assert_eq!(since.lines().filter(|line| line.starts_with("  int")).count(), 2, "{since}");
    assert!(desk.run(&["format", "--changed", "--since", "nowhere"]).contains("`nowhere` is no revision"));
}

#[test]
fn braces_come_in_only_where_both_lines_changed() {
    if !has_git() {
        return;
    }
    let desk = Desk::new();
    git(&desk, &["init", "-q"]);
    let text =
        "class A {\n    void a() {\n        if (b)\n            c();\n        if (d)\n            e();\n    }\n}\n";
    desk.write("A.java", text);
    git(&desk, &["add", "-A"]);
    git(&desk, &["commit", "-q", "-m", "Braces"]);
    let text = text.replace("if (b)", "if (bb)").replace("c();", "cc();").replace("if (d)", "if (dd)");
    desk.write("A.java", &text);
    let set = ["--set", "vknot_brace_required=always"];
    desk.run(&["format", "--changed", "--write", set[0], set[1]]);
    let wanted = text.replace("if (bb)", "if (bb) {").replace("cc();\n", "cc();\n        }\n");
    assert_eq!(desk.read("A.java"), wanted);
}

#[test]
fn imports_move_only_where_their_lines_changed() {
    if !has_git() {
        return;
    }
    let desk = Desk::new();
    git(&desk, &["init", "-q"]);
    let old = "use b;\nuse a;\nuse d;\n\nfn e() {}\n";
    desk.write("a.rs", old);
    desk.write("b.rs", "use a;\nuse c;\n\nfn e() {}\n");
    git(&desk, &["add", "-A"]);
    git(&desk, &["commit", "-q", "-m", "Imports"]);
    // One that was out of place before, and one that comes in at the end.
    desk.write("a.rs", "use b;\nuse a;\nuse d;\nuse c;\n\nfn e() {}\n");
    desk.write("b.rs", "use a;\nuse c;\nuse b;\n\nfn e() {}\n");
    desk.run(&["imports", "--changed", "--write"]);
    assert_eq!(desk.read("a.rs"), "use b;\nuse a;\nuse d;\nuse c;\n\nfn e() {}\n");
    assert_eq!(desk.read("b.rs"), "use a;\nuse b;\nuse c;\n\nfn e() {}\n");
}

#[test]
fn files_of_all_kinds_are_told_apart() {
    if !has_git() {
        return;
    }
    let desk = committed("old name.java");
    git(&desk, &["mv", "old name.java", "ne\"w\tn\u{e4}me.java"]);
    let text = desk.read("ne\"w\tn\u{e4}me.java").replace("a5;", "b5 ;");
    desk.write("ne\"w\tn\u{e4}me.java", &text);
    desk.write("new/B.java", "class  B {}\n");
    desk.write("gone.java", "class  C {}\n");
    git(&desk, &["add", "gone.java"]);
    std::fs::remove_file(desk.file("gone.java")).unwrap();
    desk.write("bytes.java", b"class A { \0 }");
    desk.write("ignored/D.java", "class  D {}\n");
    desk.write(".gitignore", "ignored\n");
    desk.run(&["format", "--changed", "--write", "."]);
    assert_eq!(different(&text, &desk.read("ne\"w\tn\u{e4}me.java")), ["    int b5;"]);
    assert_eq!(desk.read("new/B.java"), "class B {}\n");
    assert_eq!(desk.read("ignored/D.java"), "class  D {}\n");
}

#[test]
fn repositories_without_commits_inside_others_and_beside_each_other() {
    if !has_git() {
        return;
    }
    let desk = Desk::new();
    desk.write("A.java", "class  A {}\n");
    assert!(desk.run(&["format", "--changed", "."]).ends_with("── exit 2\n"), "there is no repository");
    git(&desk, &["init", "-q"]);
    desk.run(&["format", "--changed", "--write"]);
    assert_eq!(desk.read("A.java"), "class A {}\n");
    git(&desk, &["add", "-A"]);
    git(&desk, &["commit", "-q", "-m", "One"]);
    git(&desk, &["checkout", "-q", "--detach"]);
    git(&desk, &["init", "-q", "inner"]);
    desk.write("inner/B.java", lines(0..3));
    git(&desk, &["-C", "inner", "add", "-A"]);
    git(&desk, &["-C", "inner", "commit", "-q", "-m", "Two"]);
    git(&desk, &["submodule", "add", "-q", "./inner", "inner"]);
    git(&desk, &["worktree", "add", "-q", "beside"]);
    let text = desk.read("inner/B.java").replace("a1;", "b1 ;");
    desk.write("inner/B.java", &text);
    desk.write("beside/A.java", "class A {}\nclass  B {}\n");
    desk.run(&["format", "--changed", "--write"]);
    assert_eq!(different(&text, &desk.read("inner/B.java")), ["    int b1;"]);
    assert_eq!(desk.read("beside/A.java"), "class A {}\n\nclass B {}\n");
}

#[test]
fn what_is_staged_is_reshaped_without_the_file() {
    if !has_git() {
        return;
    }
    let desk = committed("A.java");
    let staged = desk.read("A.java").replace("a3;", "b3 ;");
    desk.write("A.java", &staged);
    git(&desk, &["add", "-A"]);
    let further = staged.replace("a8;", "b8 ;");
    desk.write("A.java", &further);
    assert_eq!(desk.run(&["format", "--staged", "--check"]).lines().last(), Some("── exit 1"));
    snapshot!("staged", desk.run(&["format", "--staged", "--write"]));
    assert_eq!(desk.read("A.java"), further, "the file stays as it is");
    assert_eq!(different(&staged, &git(&desk, &["show", ":A.java"])), ["    int b3;"]);
    assert_eq!(desk.run(&["format", "--staged", "--check"]).lines().last(), Some("── exit 0"));
}

#[test]
fn conflicts_of_a_merge_stay() {
    if !has_git() {
        return;
    }
    let desk = committed("A.java");
    git(&desk, &["checkout", "-q", "-b", "other"]);
    desk.write("A.java", lines(0..12).replace("a3;", "c3 ;"));
    git(&desk, &["commit", "-qam", "Theirs"]);
    git(&desk, &["checkout", "-q", "-"]);
    git(&desk, &["checkout", "-q", "main"]);
    desk.write("A.java", lines(0..12).replace("a3;", "b3 ;").replace("a9;", "b9 ;"));
    git(&desk, &["commit", "-qam", "Ours"]);
    let merged = Command::new("git")
        .args(["-c", "user.name=M", "-c", "user.email=m@x", "merge", "-q", "other"])
        .current_dir(desk.file(""))
        .output();
    assert!(!merged.unwrap().status.success());
    let text = desk.read("A.java");
    let shown = desk.run(&["format", "--changed", "--write"]);
    assert!(text.contains("<<<<<<<") && desk.read("A.java").contains("<<<<<<<"), "{shown}");
    assert!(desk.read("A.java").contains("int  a1;"), "{shown}");
}
