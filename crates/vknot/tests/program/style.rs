//! `style`: what holds, what it does, what suits.

use crate::harness::Desk;

#[test]
fn show_says_where_each_value_comes_from() {
    let desk = Desk::with_sample();
    snapshot!("style_show", desk.run(&["style", "show", "src/Gauge.java", "--set", "vknot_brace_control=next"]));
    snapshot!("style_set_only", desk.run(&["style", "show", "data", "src/New.java", "--set-only"]));
    let json = desk.stdout(&["style", "show", "src/Gauge.java", "--set-only", "--output", "json"]);
    assert!(json.contains("\"line\": 5") && json.contains("\"key\": \"max_line_length\""), "{json}");
}

#[test]
fn explain_shows_what_each_value_makes_of_a_sample() {
    let desk = Desk::new();
    snapshot!("style_explain", desk.run(&["style", "explain", "vknot_brace_follow"]));
    assert_eq!(
        desk.run(&["style", "explain", "vknot_brace_folow"]),
        "── standard error\nvknot_brace_folow: is no setting; did you mean vknot_brace_follow?\n── exit 2\n",
    );
}

#[test]
fn preview_is_against_the_style_in_force() {
    let desk = Desk::with_sample();
    let shown = desk.run(&["style", "preview", "vknot_brace_control=next", "src/Gauge.java:50-70"]);
    snapshot!("style_preview", shown);
    snapshot!("style_preview_sample", desk.run(&["style", "preview", "vknot_brace_type=next"]));
}

#[test]
fn relevant_settings_are_those_that_change_the_piece() {
    let desk = Desk::with_sample();
    snapshot!("style_relevant", desk.run(&["style", "relevant", "src/Gauge.java:50-58"]));
    snapshot!("style_relevant_key", desk.run(&["style", "relevant", "src/Gauge.java:50-54", "--key", "vknot_indent_case", "--beside"]));
}

#[test]
fn tokens_and_imports_are_tried_on_a_piece_too() {
    let desk = Desk::new();
    desk.write(
        "a.ts",
        "import { zone, level } from 'tide';\nimport { surge } from 'tide';\n\nlevel(zone, surge, \"north\");\n",
    );
    let imports = desk.stdout(&["style", "relevant", "a.ts:1-2"]);
    assert!(imports.contains("vknot_import_merge = as-found") && imports.contains("vknot_import_names"), "{imports}");
    snapshot!("style_relevant_tokens", desk.run(&["style", "relevant", "a.ts:4", "--key", "vknot_token_quote"]));
}

/// A class with braces on lines of their own, in levels of three.
fn class(name: &str) -> String {
    let method = |at: usize| {
        format!("   void m{at}()\n   {{\n      if (a)\n      {{\n         b({at});\n      }}\n      c();\n   }}\n")
    };
    format!("class {name}\n{{\n{}}}\n", (0..12).map(method).collect::<Vec<_>>().join("\n"))
}

#[test]
fn what_a_code_base_shows_is_learnt_and_written() {
    let desk = Desk::new();
    for name in ["A", "B", "C"] {
        desk.write(&format!("src/{name}.java"), class(name));
    }
    desk.write("src/data.json", "{}\n");
    snapshot!("style_learn", desk.run(&["style", "learn", "."]));
    desk.run(&["style", "learn", ".", "--write"]);
    assert!(desk.read(".editorconfig").contains("vknot_brace_control = next\n"));
    // What is set is not learnt again, and what was learnt is what the files are laid out by.
    assert!(desk.run(&["style", "learn", "."]).contains("nothing is to be set"));
    assert_eq!(desk.run(&["format", "--check", "."]).lines().last(), Some("── exit 0"));
    desk.write("src/A.java", "class A { void a() { if (b) { c(); } } }\n");
    assert!(desk.stdout(&["format", "src/A.java", "--output", "text"]).contains("   void a()\n   {\n      if (b)\n      {\n"));
}

#[test]
fn tokens_imports_and_heads_are_learnt_where_it_costs_nothing() {
    let desk = Desk::new();
    for name in ["a", "b", "c", "d", "e", "f"] {
        desk.write(
            &format!("web/{name}.ts"),
            "import { Zone } from 'tide'\nimport { level } from 'tide'\nimport { Alarm } from './alarm'\n\nlevel('north', Zone, Alarm)\n",
        );
        desk.write(&format!("game/{name}.scm"), format!("(define (low)\n{name})\n(gauging {name}\n  (read-level))\n"));
    }
    snapshot!("style_learn_tokens", desk.run(&["style", "learn", "."]));
    desk.run(&["style", "learn", ".", "--write"]);
    for command in ["format", "imports"] {
        let learnt = desk.run(&[command, "--check", "web"]);
        assert!(learnt.ends_with("── exit 0\n"), "{command}: {learnt}");
    }
    let shown = desk.stdout(&["indent", "game/a.scm", "--output", "text"]);
    assert_eq!(shown, "(define (low)\n  a)\n(gauging a\n  (read-level))\n");
    // What is written otherwise is written as it was learnt.
    desk.write("web/g.ts", "import { surge } from \"tide\";\nsurge();\n");
    let shown = desk.stdout(&["format", "web/g.ts", "--output", "text"]);
    assert_eq!(shown, "import { surge } from 'tide'\nsurge()\n");
}

#[test]
fn folders_with_habits_of_their_own_get_a_section() {
    let desk = Desk::new();
    for at in 0..12 {
        // Two methods are too few for a file to tell by itself.
        let (folder, methods, brace) = if at < 5 { ("src/main", 9, " {") } else { ("src/old/deep", 2, "\n    {") };
        let method = |at: usize| format!("    int m{at}(){brace}\n        tell();\n    }}\n");
        let methods = (0..methods).map(method).collect::<Vec<_>>().join("\n");
        desk.write(&format!("{folder}/Gauge{at}.java"), format!("class Gauge{at} {{\n{methods}}}\n"));
    }
    desk.write("notes/Gauge.java", "class Gauge {}\n");
    snapshot!("style_learn_folders", desk.run(&["style", "learn", ".", "--all"]));
    desk.run(&["style", "learn", ".", "--write"]);
    assert!(desk.run(&["format", "--check", "src"]).ends_with("── exit 0\n"));
}

#[test]
fn a_file_to_begin_with_is_made_once() {
    let desk = Desk::new();
    desk.write("src/A.java", class("A"));
    desk.run(&["style", "start", "--write"]);
    let text = desk.read(".editorconfig");
    assert!(text.contains("indent_size = 3\n") && text.contains("# vknot_wrap_chain = fit\n"), "{text}");
    assert_eq!(desk.run(&["style", "check"]).lines().last(), Some("── exit 0"));
    assert_eq!(desk.run(&["style", "start", "--write"]).lines().last(), Some("── exit 2"));
    assert_eq!(desk.read(".editorconfig"), text);
}

#[test]
fn what_a_nested_file_says_again_is_dropped() {
    let desk = Desk::new();
    desk.write("src/deep/A.java", class("A"));
    desk.write("src/deep/a.py", "a = 1\n");
    desk.write(".editorconfig", "root = true\n[*]\nindent_size = 3\n[*.java]\nindent_style = space\n");
    desk.write(
        "src/.editorconfig",
        "# Ours.\n[*.java]\nindent_style = space\n\n[*.py]\n# Of four.\nindent_size = 4\nend_of_line = lf\n[*.rs]\nindent_size = 3\n[*]\nindent_size = 4\n",
    );
    desk.write("src/deep/.editorconfig", "[*.py]\nindent_size = 4\n");
    snapshot!("style_trim", desk.run(&["style", "trim", "src"]));
    assert_eq!(desk.run(&["style", "trim", "src/deep", "--check"]).lines().last(), Some("── exit 1"));
    let before = desk.stdout(&["style", "show", "src", "--output", "json"]);
    desk.run(&["style", "trim", "src", "--write"]);
    let values = |text: &str| -> Vec<String> {
        text.lines().filter(|line| line.contains("\"value\"")).map(str::to_owned).collect()
    };
    assert_eq!(values(&before), values(&desk.stdout(&["style", "show", "src", "--output", "json"])));
    desk.run(&["undo"]);
    assert!(desk.read("src/.editorconfig").starts_with("# Ours.\n[*.java]\nindent_style"));
}

#[test]
fn mistakes_in_settings_are_found() {
    let desk = Desk::new();
    desk.write("A.java", class("A"));
    desk.write(
        ".editorconfig",
        "[*.java]\nvknot_brace_contrl = next\nindent_sytle = tab\nmax_line_length = wide\nother = 1\nvknot_space_comma = true\n[*.zig]\nindent_size = 2\n",
    );
    snapshot!("style_check", desk.run(&["style", "check"]));
    assert!(desk.run(&["style", "check", "--output", "sarif"]).contains("\"startLine\": 7"));
}
