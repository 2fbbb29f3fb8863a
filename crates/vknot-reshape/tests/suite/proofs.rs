//! Contracts: for each promise a result that breaks it, which the proof must refuse.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use vknot_reshape::{Reshape, TokenChange};
use vknot_reshape::looks::{Marks, NamedSpan};
use vknot_reshape::steps::{Chain, Difference, prove_by_tree, Refusal, Request, StepError, STEPS, Wish};
use vknot_syntax::{Limits, Span};

use crate::support::{done, prove_as, read, reshape, step, styled};

/// Proves edits given as what to find, and what to put there instead.
fn prove(language: &str, text: &str, changes: &[(&str, &str)], added: &[(&str, u32)]) -> Result<String, Refusal> {
    let mut reshape = Reshape::default();
    for (old, new) in changes {
        let start = text.find(old).unwrap() as u32;
        reshape.edits.push(Span::new(start, start + old.len() as u32), new);
    }
    let change = |(text, token): &(&str, u32)| TokenChange { text: (*text).to_owned(), offset: 0, token: *token };
    reshape.receipt.added = added.iter().map(change).collect();
    prove_as("format", &read(language, text), reshape).map(|proven| proven.text().to_owned())
}

fn refused(language: &str, text: &str, changes: &[(&str, &str)]) -> String {
    let refusal = prove(language, text, changes, &[]).unwrap_err();
    format!("{}: {}", refusal.offset, refusal.reason)
}

#[test]
fn white_space_may_change() {
    assert_eq!(prove("json", "[1,2]", &[(",", ", ")], &[]).as_deref(), Ok("[1, 2]"));
}

#[test]
fn a_dropped_token_is_caught() {
    assert_eq!(refused("java", "class A { int a, b; }", &[(", b", "")]), "15: `,` became `;`");
}

#[test]
fn a_token_that_came_from_nowhere_is_caught() {
    assert_eq!(refused("json", "[1]", &[("1", "1, 2")]), "2: `]` became `,`");
}

#[test]
fn a_comment_that_swallows_code_is_caught() {
    let text = "int a; // low\nint b;";
    assert_eq!(refused("java", text, &[("low\n", "low ")]), "7: `// low` became `// low int b;`");
}

#[test]
fn a_changed_comment_is_caught_and_a_moved_one_is_not() {
    let text = "/* low\n   tide */\nint a;";
    assert!(refused("java", text, &[("tide", "ebb")]).starts_with("0: `/* low` became"));
    assert!(prove("java", text, &[("   tide", " tide")], &[]).is_ok());
}

#[test]
fn changed_white_space_in_a_string_is_caught() {
    assert_eq!(refused("json", "[\"a b\"]", &[("a b", "a  b")]), "1: `\"a b\"` became `\"a  b\"`");
}

#[test]
fn strings_of_broken_code_keep_their_white_space() {
    // The lines of code may begin elsewhere, those of the string may not, wherever the rest cannot be read.
    let text = "function low( {\n  a = `one\n  two`;\n}\n";
    let indented = |old: &str, new: &str| {
        let start = text.find(old).unwrap() as u32;
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(start, start + 2), new);
        let read = read("javascript", text);
        assert!(read.tree().has_error());
        prove_as("indent", &read, reshape).map(|proven| proven.text().to_owned()).map_err(|refusal| refusal.offset)
    };
    assert_eq!(indented("  a = ", "    "), Ok(text.replace("  a = ", "    a = ")));
    assert_eq!(indented("  two", "    "), Err(text.find("two").unwrap() as u32));
}

#[test]
fn broken_code_is_laid_out_by_its_lexemes() {
    // A string that nothing ends goes to the end of its line; what is behind that line is code.
    let text = "class A {\n void b() {\n  c(\"d e);\n  f(g ,h);\n }\n}\n";
    assert_eq!(prove("java", text, &[("g ,h", "g, h")], &[]).as_deref(), Ok(&*text.replace("g ,h", "g, h")));
    assert!(prove("java", text, &[("d e", "d  e")], &[]).is_err());
    assert!(prove("java", text, &[("void b", "voidb")], &[]).is_err());
}

#[test]
fn parted_operators_are_caught() {
    assert_eq!(refused("rust", "fn a() { for i in ..=3 {} }", &[("..=", ".. =")]), "20: `..=` was parted");
}

#[test]
fn directives_that_lose_their_line_are_caught() {
    let text = "class A\n{\n    void F()\n    {\n        if (a)\n#warning low water\n            G();\n#line 7\n        H();\n    }\n}\n";
    let result = refused("csharp", text, &[("(a)\n", "(a) ")]);
    assert!(result.contains("the white space between `)` and `#warning`"), "{result}");
    let result = refused("csharp", text, &[("#line 7\n", "#line\n7\n")]);
    assert!(result.contains("white space") || result.contains("syntax error"), "{result}");
    prove("csharp", text, &[("#warning", "        #warning")], &[]).unwrap();
}

#[test]
fn white_space_beside_text_is_caught() {
    let text = "<p>low <b>x</b> tide</p>\n<p>ebb</p>\n";
    for (old, new) in [
        ("low <b>", "low<b>"),
        ("</b> tide", "</b>tide"),
        ("low <b>", "low\n<b>"),
        ("</b> tide", "</b>\ntide"),
        ("<p>ebb", "<p> ebb"),
    ] {
        assert!(prove("html", text, &[(old, new)], &[]).is_err(), "{new}");
    }
    assert!(prove("html", text, &[("low <b>", "low  <b>")], &[]).is_ok());
    // Between forms there is white space where it was, but for a comment among them.
    for (old, new) in [("(a b)", "(ab)"), ("b) (c", "b)(c"), ("(c d", "(c  d")] {
        let sound = prove("racket", "(a b) (c d ; low\n  e)\n", &[(old, new)], &[]).is_ok();
        assert_eq!(sound, new != "(ab)", "{new}");
    }
}

#[test]
fn a_new_syntax_error_is_caught() {
    let reason = refused("java", "class A { void b() { c(); } }", &[("c();", "c(;")]);
    assert!(reason.ends_with("a syntax error would come up at line 1 of the result"), "{reason}");
}

#[test]
fn a_changed_structure_is_caught() {
    // The same tokens, with one of them on the receipt that binds an `else` to another `if`.
    let text = "class A { void b() { if (c) if (d) e(); else f(); } }";
    let changes = [("if (d)", "{ if (d)"), (" else", " } else")];
    let document = read("java", text);
    let token = |at: usize| document.tree().token_from(at as u32);
    let added = [("{", token(text.find("if (d)").unwrap())), ("}", token(text.find("else").unwrap()))];
    let refusal = prove("java", text, &changes, &added).unwrap_err();
    assert!(matches!(refusal.reason, Difference::Structure { .. }), "{refusal}");
}

#[test]
fn tokens_on_the_receipt_may_come_in() {
    let text = "class A { void b() { if (c) d(); } }";
    let document = read("java", text);
    let token = |needle: &str| document.tree().token_from(text.find(needle).unwrap() as u32);
    let added = [("{", token("d()")), ("}", token("d()") + 4)];
    assert!(prove("java", text, &[("d();", "{ d(); }")], &added).is_ok());
}

#[test]
fn overlapping_edits_are_caught() {
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(1, 2), "2");
    reshape.edits.push(Span::new(0, 1), "[");
    assert_eq!(prove_as("format", &read("json", "[1]"), reshape).unwrap_err().reason, Difference::UnsoundEdits);
}

/// Proves a whole new text by the contract of a step.
pub fn rewritten(name: &str, language: &str, text: &str, new: &str, removed: &[(&str, u32)]) -> Result<(), String> {
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(0, text.len() as u32), new);
    let document = read(language, text);
    let change = |(text, token): &(&str, u32)| {
        let offset = document.tree().tokens().get(*token as usize).map_or(0, |token| token.start);
        TokenChange { text: (*text).to_owned(), offset, token: *token }
    };
    reshape.receipt.removed = removed.iter().map(change).collect();
    prove_as(name, &document, reshape).map(drop).map_err(|refusal| refusal.reason.to_string())
}

#[test]
fn imports_may_move_among_themselves_and_nothing_else() {
    let text = "import b.B;\n// about a\nimport a.A; // here\n\nclass C { A a; B b; }\n";
    let imports = |new: &str| rewritten("imports", "java", text, new, &[]);
    let class = "\nclass C { A a; B b; }\n";
    assert_eq!(imports(&format!("// about a\nimport a.A; // here\nimport b.B;\n{class}")), Ok(()));
    let cases = [
        // A comment that stays behind, goes to another import, or is lost.
        ("import a.A; // here\n// about a\nimport b.B;\n", "the comment `// about a` left what it belongs to"),
        ("// about a\nimport a.A;\nimport b.B; // here\n", "the comment `// here` left what it belongs to"),
        ("// about a\nimport a.A;\nimport b.B;\n", "the comment `// here` left what it belongs to"),
        // An import that is lost, comes in, or is another.
        ("// about a\nimport a.A; // here\n", "the import `import b.B;` was lost, added or moved too far"),
        (
            "// about a\nimport a.A; // here\nimport b.B;\nimport b.B;\n",
            "the import `import b.B;` was lost, added or moved too far",
        ),
        (
            "// about a\nimport a.A; // here\nimport static b.B;\n",
            "the import `import b.B;` was lost, added or moved too far",
        ),
    ];
    for (new, reason) in cases {
        assert_eq!(imports(&format!("{new}{class}")), Err(reason.to_owned()), "{new}");
    }
    let swapped = imports("// about a\nimport a.A; // here\nimport b.B;\n\nclass C { B b; A a; }\n");
    assert_eq!(swapped, Err("`A` became `B`".to_owned()));
    let grown = imports(&format!("// about a\nimport a.A; // here\nimport b.B;\n{class}class D {{ }}\n"));
    assert_eq!(grown, Err("`` became `class`".to_owned()));
    let shrunk = imports("// about a\nimport a.A; // here\nimport b.B;\n\nclass C { A a; }\n");
    assert_eq!(shrunk, Err("`B` became `}`".to_owned()));
}

#[test]
fn imports_do_not_pass_what_is_none() {
    let text = "use b::B;\n\nmod c;\n\nuse a::A;\n";
    let passed = rewritten("imports", "rust", text, "use a::A;\nuse b::B;\n\nmod c;\n", &[]);
    assert_eq!(passed, Err("the import `use a::A;` was lost, added or moved too far".to_owned()));
    // What is about the file, not about an import, stays where it is.
    for comment in ["//! Tides.", "// Copyright of the harbour", "/* Tides\n   and more */"] {
        let text = format!("{comment}\nuse b::B;\nuse a::A;\n");
        let below = format!("use a::A;\n{comment}\nuse b::B;\n");
        assert!(rewritten("imports", "rust", &text, &below, &[]).is_err(), "{comment}");
        let sorted = done("imports", &read("rust", &text), Wish::Nothing);
        assert_eq!(sorted.text(), format!("{comment}\nuse a::A;\nuse b::B;\n"));
    }
    // A comment with nothing above it heads those that follow; one below an import is about the next.
    let text = "// of the tides\nuse c::C;\n// first of its kind\nuse b::B;\nuse a::A;\n";
    let sorted = "// of the tides\nuse a::A;\n// first of its kind\nuse b::B;\nuse c::C;\n";
    assert_eq!(done("imports", &read("rust", text), Wish::Nothing).text(), sorted);
}

#[test]
fn an_import_that_stays_loses_no_name() {
    let text = "import {level} from './level' with {type: 'json'};\nimport {gauge} from './gauge';\ngauge(level);\n";
    let imports = |new: &str| rewritten("imports", "javascript", text, new, &[]);
    assert_eq!(imports(&text.replace("{level}", "{ level }")), Ok(()));
    assert!(imports(&text.replace(" with {type: 'json'}", "")).is_err());
    // What is annotated is no import that could be written anew.
    let typed = "const b: {level(at: string): any} = require('b');\nconst a = require('a');\nb.level(a);\n";
    assert_eq!(done("imports", &read("typescript", typed), Wish::Nothing).text(), typed);
}

#[test]
fn only_imports_on_the_receipt_go_and_they_go_by_their_place() {
    let text = "import b.B;\nimport a.A;\nimport b.B;\n\nclass C { }\n";
    let new = "import a.A;\nimport b.B;\n\nclass C { }\n";
    assert_eq!(rewritten("imports", "java", text, new, &[("import b.B;", 0)]), Ok(()));
    assert!(rewritten("imports", "java", text, new, &[]).is_err());
    // The receipt must name what is there.
    assert!(rewritten("imports", "java", text, new, &[("import b.B;", 5)]).is_err());
    assert!(rewritten("imports", "java", text, new, &[("import c.C;", 0)]).is_err());
    // An import with a comment does not go.
    let dressed = "import b.B; // here\nimport a.A;\n\nclass C { }\n";
    let bare = "import a.A;\n\nclass C { }\n";
    assert!(rewritten("imports", "java", dressed, bare, &[("import b.B;", 0)]).is_err());
}

#[test]
fn tokens_that_go_are_told_by_their_place() {
    let text = "int a;\n// region T\nint b;\n// endregion\n// region T\n// endregion\n";
    let new = "int a;\nint b;\n// region T\n// endregion\n";
    assert_eq!(rewritten("region remove", "java", text, new, &[("// region T", 3), ("// endregion", 7)]), Ok(()));
    // The same texts, of which others are named.
    assert!(rewritten("region remove", "java", text, new, &[("// region T", 8), ("// endregion", 9)]).is_err());
    assert!(rewritten("region remove", "java", text, new, &[("// region T", 3)]).is_err());
    // A comment may not change on the way.
    let other = "int a;\nint b;\n//  region T\n// endregion\n";
    assert!(rewritten("region remove", "java", text, other, &[("// region T", 3), ("// endregion", 7)]).is_err());
}

/// Proves that the lines of Python code may begin elsewhere.
fn indented(text: &str, new: &str) -> Result<(), String> {
    let mut reshape = Reshape::default();
    let blank = |line: &str| line.len() - line.trim_start().len();
    let mut at = 0;
    for (line, new) in text.split_inclusive('\n').zip(new.split_inclusive('\n')) {
        if blank(line) != blank(new) {
            reshape.edits.push(Span::new(at, at + blank(line) as u32), &new[..blank(new)]);
        }
        at += line.len() as u32;
    }
    prove_as("indent", &read("python", text), reshape).map(drop).map_err(|refusal| refusal.reason.to_string())
}

#[test]
fn statements_stay_as_deep_as_they_are_whatever_the_step() {
    let text = "if a:\n    b()\n    c()\n";
    for name in ["format", "indent", "region add"] {
        assert!(rewritten(name, "python", text, "if a:\n    b()\nc()\n", &[]).is_err(), "{name}");
    }
    // Of broken code nothing but its lines tells that.
    let broken = "if a:\n    b() )\n    c()\n";
    let level = Err("`c()` would be in another block".to_owned());
    assert_eq!(indented(broken, "if a:\n    b() )\nc()\n"), level);
    assert_eq!(indented(broken, "if a:\n  b() )\n  c()\n"), Ok(()));
    assert!(indented(&broken.replace(" )", ""), "if a:\n    b()\nc()\n").is_err());
    // A string that begins further down keeps its lines, too.
    let text = "a = )\nif b:\n    c(\"\"\"d\n      e\"\"\")\n    f()\n";
    let with = |string: &str| format!("a = )\nif b:\n  c(\"\"\"d\n{string}e\"\"\")\n  f()\n");
    assert_eq!(indented(text, &with("      ")), Ok(()));
    assert_eq!(indented(text, &with("    ")), Err("`e\"\"\")` became `e\"\"\")`".to_owned()));
}

#[test]
fn pieces_of_other_languages_are_proven_too() {
    let text = "<script>\nlet a = b - -c;\n</script>\n";
    assert!(rewritten("format", "html", text, "<script>\nlet a = b --c;\n</script>\n", &[]).is_err());
    assert!(rewritten("format", "html", text, "<script></script>\n", &[]).is_err());
}

#[test]
fn who_is_at_fault_is_told() {
    let fault = |text: &str, old: &str| {
        let mut reshape = Reshape::default();
        let start = text.find(old).unwrap() as u32;
        reshape.edits.push(Span::new(start, start + old.len() as u32), "");
        prove_as("format", &read("java", text), reshape).unwrap_err().error
    };
    assert_eq!(fault("class A { int b; }", "b"), None);
    assert_eq!(fault("class A { int b; int = ; }", "b"), Some(17));
}

#[test]
fn steps_chain_and_are_proven_as_one() {
    let text = "import b.B;\nimport a.A;\nclass C{A a;B b;void d(){if(a.e())b.f();}}\n";
    let document = styled("java", text, &["vknot_brace_required=always"]);
    let mut chain = Chain::new(document);
    for name in ["imports", "format", "indent"] {
        chain.step(step(name), &Request::default()).unwrap();
    }
    let last = chain.document().source().text().to_owned();
    let proven = chain.finish().unwrap();
    assert_eq!(proven.text(), last);
    assert_eq!(proven.edits().apply(text), last);
    assert_eq!(proven.receipt().added.iter().map(|added| added.text.as_str()).collect::<Vec<_>>(), ["{", "}"]);
    for name in ["imports", "format", "indent"] {
        assert!(reshape(name, proven.document(), Wish::Nothing).edits.is_empty(), "{name} leaves nothing to do");
    }
}

#[test]
fn what_a_chain_puts_in_and_takes_out_is_in_neither_list() {
    let document = read("java", "class A {\n    int b;\n}\n");
    let mut chain = Chain::new(document.clone());
    let add = Request { only: Some(&[Span::new(14, 18)]), wish: Wish::Name("B".to_owned()), ..Request::default() };
    chain.step(step("region add"), &add).unwrap();
    let open = chain.document().source().text().find("region").unwrap() as u32;
    let remove = Request { only: Some(&[Span::new(open, open)]), wish: Wish::Nothing, ..Request::default() };
    chain.step(step("region remove"), &remove).unwrap();
    let proven = chain.finish().unwrap();
    assert!(proven.is_empty() && proven.receipt().added.is_empty() && proven.receipt().removed.is_empty());
}

#[test]
fn work_that_is_stopped_yields_nothing() {
    let flag = Arc::new(AtomicBool::new(false));
    let document = read("java", "class A{int b;}").within(Limits::stopped_by(Arc::clone(&flag)));
    flag.store(true, Ordering::Relaxed);
    for name in ["format", "imports", "indent"] {
        assert!(matches!(step(name).run(&document, &Request::default()), Err(StepError::Stopped)), "{name}");
    }
}

#[test]
fn steps_say_what_they_miss() {
    for (name, missing) in [
        ("convert", "say what white space is to become: tabs or spaces"),
        ("shift", "say by how many levels, and where to"),
        ("region add", "name the lines: FILE:LINE-LINE or FILE@NAME"),
        ("region remove", "name the region: FILE@NAME, or a line of it"),
    ] {
        let error = step(name).run(&read("java", "int a;\n"), &Request::default()).unwrap_err();
        assert_eq!(error.to_string(), missing);
    }
    assert!(STEPS.is_sorted_by_key(|step| step.name));
}

#[test]
fn pins_move_along_with_the_text() {
    let text = "class A{int b;\nint c;}\n";
    let at = text.find("int c;").unwrap() as u32;
    let pins = vec![NamedSpan { name: "c".to_owned(), span: Span::new(at, at + 6) }];
    let document = read("java", text).with_marks(Marks { pins, ..Marks::default() });
    let result = step("format").run(&document, &Request::default()).unwrap().into_document();
    assert_eq!(result.source().slice(result.marks().pins[0].span), "int c;");
}

#[test]
fn indentation_changes_no_blanks_inside_lines() {
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(3, 5), " ");
    let refusal = prove_as("indent", &read("java", "int  a;\n"), reshape).unwrap_err();
    assert_eq!(refusal.reason, Difference::Gap);
}

#[test]
fn a_receipt_that_names_what_is_not_there_is_refused() {
    let refusal = prove("json", "[1,2]", &[(",", ", ")], &[("]", 99)]).unwrap_err();
    assert_eq!(refusal.reason, Difference::Receipt { text: "]".to_owned() });
    // Part of a token is no token.
    assert!(prove("json", "[1]", &[("1", "11")], &[("1", 1)]).is_err());
}

#[test]
fn the_same_tokens_with_another_structure_are_refused() {
    let changed = |text: &str| {
        let start = text.find("return\n").unwrap() as u32 + 6;
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(start, start + 1), " ");
        reshape
    };
    for text in ["function a() { return\nb; }", "let c = ;\nfunction a() { return\nb; }"] {
        let document = read("javascript", text);
        let refusal = prove_as("format", &document, changed(text)).unwrap_err();
        assert!(matches!(refusal.reason, Difference::Structure { .. }), "{}", refusal.reason);
        assert!(prove_by_tree(&document, &changed(text), step("format").contract).is_err());
    }
    // Four blanks make code of what was a paragraph.
    let document = read("markdown", "Level.\n\n    tide\n");
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(8, 12), "");
    assert!(prove_as("indent", &document, reshape).is_err());
}

#[test]
fn a_receipt_must_name_what_came_and_went() {
    let cases = [
        // Put in: another text, or only the beginning of it.
        ("class A { int a; }", "class A { int a;; }", Some((",", 5)), None),
        ("class A {}", "final class A {}", Some(("fin", 0)), None),
        // Taken out, likewise.
        ("class A { int a;; }", "class A { int a; }", None, Some((",", 5))),
        ("final class A {}", "class A {}", None, Some(("fin", 0))),
    ];
    for (text, new, added, removed) in cases {
        let document = read("java", text);
        let change = |(text, token): (&str, u32)| TokenChange {
            text: text.to_owned(),
            offset: document.tree().tokens()[token as usize].start,
            token,
        };
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(0, text.len() as u32), new);
        reshape.receipt.added.extend(added.map(change));
        reshape.receipt.removed.extend(removed.map(change));
        assert!(prove_as("format", &document, reshape).is_err(), "{text} to {new}");
    }
}

#[test]
fn line_starts_get_no_line_breaks() {
    let document = read("java", "class A {\n  int b;\n}\n");
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(10, 12), "\n  ");
    assert_eq!(prove_as("indent", &document, reshape).unwrap_err().reason, Difference::Gap);
}

#[test]
fn refusals_say_where() {
    let place = |step: &str, language: &str, text: &str, old: &str, new: &str| {
        let start = text.find(old).unwrap() as u32;
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(start, start + old.len() as u32), new);
        prove_as(step, &read(language, text), reshape).unwrap_err().offset
    };
    assert_eq!(place("indent", "python", "if a:\n    b()\n    c()\n", "    c", "c"), 14);
    let page = "<p>Tide</p>\n<script>\nlet level = 1;\n</script>\n";
    assert_eq!(place("format", "html", page, "level = 1", "level = 2"), page.find("1;").unwrap() as u32);
}
