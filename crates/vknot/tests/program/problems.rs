//! Files that cannot be worked on; the others go on.

use crate::harness::Desk;

fn messy() -> Desk {
    let desk = Desk::new();
    desk.write("good.json", "{\"a\":1}");
    desk.write("latin.json", b"{\"h\xf6he\": 1}");
    desk.write("nul.json", b"{}\n\0");
    desk
}

#[test]
fn each_bad_file_is_named_and_the_others_are_done() {
    let desk = messy();
    snapshot!(desk.run(&["format", "--write", "."]));
    assert_eq!(desk.read("good.json"), "{ \"a\": 1 }\n");
}

#[test]
fn what_was_named_and_cannot_be_done_is_said() {
    let desk = messy();
    desk.write("notes.txt", "x");
    let runs = [
        desk.run(&["format", "nowhere.json", "good.json", "--check"]),
        desk.run(&["format", "notes.txt"]),
        desk.run(&["format", "notes.txt", "--language", "cobweb"]),
        desk.run(&["format", "good.json", "latin.json", "--output", "text"]),
        desk.run(&["format", "-", "--write"]),
        desk.run(&["format", "good.json", "--set", "vknot_brace_controll=next"]),
        desk.run(&["format", "good.json", "--set", "indent_size=wide"]),
        desk.run(&["outline", "nul.json", "good.json"]),
    ];
    snapshot!(runs.concat());
}

#[test]
fn in_a_tree_a_file_that_only_ends_like_a_language_is_no_problem() {
    let desk = Desk::new();
    desk.write("gauge.inc", "low = high\n");
    desk.write("board.json", "{}\n");
    let run = desk.run(&["format", ".", "--check"]);
    assert!(run.contains("1 as it should be, 1 in a language whose layout is not known") && !run.contains("problem"), "{run}");
    assert!(desk.run(&["format", "gauge.inc", "--check"]).contains("1 problem"));
}

#[test]
fn an_empty_folder_says_so() {
    let desk = Desk::new();
    snapshot!(desk.run(&["format", "."]));
}

#[test]
fn mistakes_in_settings_are_reported_and_the_rest_holds() {
    let desk = Desk::new();
    desk.write(".editorconfig", "root = true\n[*.json]\nindent_size = 3\nvknot_brake_keep = all\n");
    desk.write("a.json", "{\n\"a\": [1]\n}\n");
    snapshot!(desk.run(&["format", "a.json", "--output", "text"]));
}

#[cfg(unix)]
#[test]
fn a_read_only_file_is_left_alone() {
    use std::os::unix::fs::PermissionsExt;
    let desk = messy();
    let locked = std::fs::Permissions::from_mode(0o444);
    std::fs::set_permissions(desk.file("good.json"), locked).unwrap();
    snapshot!(desk.run(&["format", "--write", "good.json"]));
    assert_eq!(desk.read("good.json"), "{\"a\":1}");
}

#[test]
fn ignored_files_are_passed_over_unless_named() {
    let desk = Desk::new();
    desk.write(".gitignore", "built/\n");
    desk.write("built/a.json", "[1 ]");
    desk.write("b.json", "[1 ]");
    assert_eq!(desk.run(&["format", "--check", "."]), "b.json\n── standard error\n1 file would change\n── exit 1\n");
    assert!(desk.run(&["format", "--check", "built/a.json"]).starts_with("built/a.json\n"));
}

#[test]
fn help_is_given() {
    let desk = Desk::new();
    let commands = ["outline", "fold", "pairs", "select", "indent", "format", "imports", "undo", "demo"];
    let help: Vec<String> = commands.iter().map(|command| desk.stdout(&[command, "-h"])).collect();
    snapshot!("help", desk.stdout(&["-h"]) + &help.join("\n"));
}

#[test]
fn completions_and_manual_pages_come_from_the_command_line() {
    let desk = Desk::new();
    for shell in ["bash", "zsh", "fish", "elvish", "powershell"] {
        let script = desk.run(&["completions", shell]);
        assert!(script.contains("imports") && script.contains("check") && script.ends_with("exit 0\n"), "{shell}");
    }
    desk.run(&["man", "pages"]);
    for page in ["vknot.1", "vknot-format.1", "vknot-region-add.1"] {
        assert!(desk.read(&format!("pages/{page}")).starts_with(".ie"), "{page}");
    }
}

#[test]
fn of_many_places_that_cannot_be_read_some_are_named_and_the_rest_counted() {
    let desk = Desk::new();
    desk.write("wild.json", "([{)]}\n".repeat(100));
    let told = desk.run(&["indent", "--check", "wild.json"]);
    assert_eq!(told.matches("cannot be read").count(), 20, "{told}");
    assert!(told.contains("more are left as they are; --output json names all"), "{told}");
}

#[test]
fn what_is_written_otherwise_is_told() {
    let desk = Desk::new();
    desk.write("gauge.js", "//level in metres\nwarn('high', [low, mean,])\n");
    let set = [
        "vknot_token_quote=double",
        "vknot_token_semicolon=add",
        "vknot_wrap_comma=remove",
        "vknot_comment_space=add",
    ];
    let mut arguments = vec!["format", "gauge.js"];
    set.iter().for_each(|set| arguments.extend(["--set", set]));
    let shown = desk.run(&arguments);
    arguments.extend(["--output", "json"]);
    snapshot!(shown + &desk.run(&arguments));
}
