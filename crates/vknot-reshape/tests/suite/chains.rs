//! Steps one after the other, proven as one: receipts in terms of the first text, contracts that add up.

use vknot_reshape::editing::{Edit, To};
use vknot_reshape::TokenChange;
use vknot_reshape::steps::{Chain, Proven, Request, Wish};
use vknot_syntax::Span;

use crate::support::{done, read, step, style, styled};

/// Steps over a text, proven as one; what comes out is what the last one gave.
fn chained(language: &str, text: &str, set: &[&str], steps: &[&str]) -> Proven {
    let mut chain = Chain::new(styled(language, text, set));
    for name in steps {
        chain.step(step(name), &Request::default()).unwrap();
    }
    let last = chain.document().source().text().to_owned();
    let proven = chain.finish().unwrap_or_else(|refusal| panic!("{steps:?}: {refusal}\n{last}"));
    assert_eq!(proven.text(), last, "{steps:?}");
    proven
}

#[test]
fn what_each_step_did_is_told_by_the_first_text() {
    let text = "import { z, a } from \"tide\";\nimport unused from \"u\";\nexport const low = [z, \"ebb\"]\nexport const high = [\n  a,\n  'flood'\n]\n";
    let set = ["vknot_token_quote=single", "vknot_token_semicolon=add"];
    for steps in [["imports", "format", "indent"], ["format", "imports", "indent"], ["indent", "format", "imports"]] {
        let proven = chained("typescript", text, &set, &steps);
        let receipt = proven.receipt();
        let added: Vec<(&str, &str)> =
            receipt.added.iter().map(|added| (added.text.as_str(), &text[..added.offset as usize])).collect();
        let before: Vec<&str> =
            added.iter().map(|(_, before)| before.rsplit('\n').find(|line| !line.is_empty()).unwrap_or("")).collect();
        assert_eq!(added.iter().filter(|(mark, _)| *mark == ";").count(), 2, "{steps:?} {added:?}");
        assert!(before.contains(&"export const low = [z, \"ebb\"]") && before.contains(&"]"), "{steps:?} {before:?}");
        // Each token that is written otherwise is told as it stood, where it stood.
        for respelled in &receipt.respelled {
            assert_eq!(&text[respelled.offset as usize..][..respelled.old.len()], respelled.old, "{steps:?}");
        }
        assert!(receipt.respelled.iter().any(|respelled| respelled.old == "\"ebb\""), "{steps:?}");
        let removed: Vec<&str> = receipt.removed.iter().map(|removed| removed.text.as_str()).collect();
        assert!(removed.iter().any(|text| text.contains("unused")), "{steps:?} {removed:?}");
    }
}

#[test]
fn what_comes_in_front_of_one_token_in_turn_is_told_in_its_order() {
    // The semicolon comes in behind the braces, and goes between them.
    let text = "function level() { if (low) return\nread(low) }\n";
    let mut chain = Chain::new(read("javascript", text));
    for set in ["vknot_brace_required=always", "vknot_token_semicolon=add"] {
        let document = chain.document().clone().with_style(style("javascript", &[set]));
        let proven = step("format").run(&document, &Request::default());
        chain.accept(proven.unwrap_or_else(|error| panic!("{error}")));
    }
    let proven = chain.finish().unwrap_or_else(|refusal| panic!("{refusal}"));
    let added: Vec<&str> = proven.receipt().added.iter().map(|added| added.text.as_str()).collect();
    assert_eq!(added, ["{", ";", "}", ";"]);
}

#[test]
fn tokens_that_come_and_go_in_turn_are_counted_against_the_first_text() {
    // Commas go in front of, and braces come behind, what is written otherwise.
    let text = "const a = [\n  \"one\",\n  \"two\",\n]\nif (b) c(\"three\")\nconst d = [\n  \"four\",\n]\n";
    let set = ["vknot_token_quote=single", "vknot_wrap_comma=remove", "vknot_brace_required=always"];
    let proven = chained("javascript", text, &set, &["format", "indent", "format"]);
    let receipt = proven.receipt();
    let told = |changes: &[TokenChange]| -> Vec<String> {
        changes
            .iter()
            .map(|change| format!("{}@{}", change.text, text[..change.offset as usize].matches('\n').count()))
            .collect()
    };
    assert_eq!(told(&receipt.added), ["{@4", "}@4"]);
    assert_eq!(told(&receipt.removed), [",@2", ",@6"]);
    let olds: Vec<&str> = receipt.respelled.iter().map(|respelled| respelled.old.as_str()).collect();
    assert_eq!(olds, ["\"one\"", "\"two\"", "\"three\"", "\"four\""]);
    assert!(receipt.respelled.iter().all(|respelled| text[respelled.offset as usize..].starts_with(&respelled.old)));
}

#[test]
fn what_is_written_otherwise_twice_is_so_once() {
    let text = "const a = \"one\";\n//b\nconst c = \"two\";\n";
    let mut chain = Chain::new(styled("javascript", text, &["vknot_token_quote=single"]));
    chain.step(step("format"), &Request::default()).unwrap();
    // Back to what they were, and with comments spaced: by a document with another style.
    let spaced = styled("javascript", chain.document().source().text(), &[
        "vknot_token_quote=double",
        "vknot_comment_space=add",
    ]);
    chain.accept(done("format", &spaced, Wish::Nothing));
    let proven = chain.finish().unwrap();
    assert_eq!(proven.text(), "const a = \"one\";\n// b\nconst c = \"two\";\n");
    let comments: Vec<&str> = proven.receipt().respelled.iter().map(|respelled| respelled.old.as_str()).collect();
    assert_eq!(comments, ["\"one\"", "//b", "\"two\""]);
}

#[test]
fn items_that_moved_are_found_by_the_steps_behind() {
    let mut chain = Chain::new(read("java", "class A {\n    void b() { c(1, 2); }\n    int d;\n}\n"));
    let swapped = {
        let document = chain.document().clone();
        let at = document.source().text().find("1, 2").unwrap() as u32;
        let only = [Span::new(at, at)];
        let edit = Edit::Move(To::Down(1));
        let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
        step("edit").run(&document, &request).unwrap()
    };
    chain.accept(swapped);
    chain.step(step("indent"), &Request::default()).unwrap();
    assert_eq!(chain.finish_edits().unwrap().text(), "class A {\n    void b() { c(2, 1); }\n    int d;\n}\n");
}
