//! The promises, held against generated damage: the same tokens, the same after a second run, looks inside the file.

use proptest::prelude::*;
use vknot_reshape::{looks, Reason};
use vknot_reshape::steps::{Request, Wish};
use vknot_style::{Key, SETTINGS};
use vknot_syntax::{Language, Span};

use crate::support::{self, done, prove_as, read, reshape, sample_files, step, styled};

const SAMPLES: [(&str, &str); 6] = [
    ("java", include_str!("../../../../demo/src/Gauge.java")),
    ("java", include_str!("../../../../demo/src/Reading.java")),
    ("rust", include_str!("../../../../demo/src/surge.rs")),
    ("json", include_str!("../../../../demo/data/stations.json")),
    ("css", include_str!("../../../../demo/web/board.css")),
    ("go", include_str!("../../../../demo/services/notices.go")),
];

/// The sample project's file in every language.
fn all_samples() -> Vec<(&'static str, String)> {
    support::sample_files().into_iter().map(|(_, language, text)| (language, text)).collect()
}

/// Changes the white space of gaps: each number picks a gap and what it becomes.
fn reshuffled(language: &str, text: &str, changes: &[(u16, u8)]) -> String {
    let document = read(language, text);
    let (source, tree) = (document.source(), document.tree());
    let count = tree.tokens().len() as u32;
    let mut gaps: Vec<String> = (0..=count).map(|gap| source.slice(tree.gap_span(gap)).to_owned()).collect();
    for (gap, change) in changes {
        let gap = u32::from(*gap) % count;
        let kept = &mut gaps[gap as usize];
        // What ends a comment line must go on ending it.
        let ends_comment = gap > 0 && tree.is_comment(gap - 1);
        if kept.is_empty() || ends_comment {
            kept.push_str(["", " ", "\n", "\t"][usize::from(change % 4)]);
        } else {
            *kept = [" ", "\n", "\n\n\n", "   \n\t "][usize::from(change % 4)].to_owned();
        }
    }
    let tokens = tree.tokens().iter().map(|token| source.slice(token.span()));
    let mut out = String::new();
    for (gap, token) in gaps.iter().zip(tokens.chain([""])) {
        out.push_str(gap);
        out.push_str(token);
    }
    out
}

fn tokens(language: &str, text: &str) -> Vec<String> {
    let document = read(language, text);
    let (source, tree) = (document.source(), document.tree());
    let lines = |text: &str| text.lines().map(str::trim).collect::<Vec<_>>().join("\n");
    tree.tokens().iter().map(|token| lines(source.slice(token.span()))).filter(|text| text != ",").collect()
}

/// The lines of a text without the white space they begin with.
fn starts(text: &str) -> Vec<&str> {
    text.split('\n').map(str::trim_start).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn layout_is_proven_and_stable(sample in 0..SAMPLES.len(), changes in prop::collection::vec(any::<(u16, u8)>(), 0..60)) {
        let (language, text) = SAMPLES[sample];
        let text = reshuffled(language, text, &changes);
        let document = read(language, &text);
        // Where lines that came together make an error, a refusal is an answer, too.
        let refused = step("format").run(&document, &Request::default()).is_err();
        if !(refused && document.tree().has_error()) {
            let proven = done("format", &document, Wish::Nothing);
            prop_assert_eq!(tokens(language, &text), tokens(language, proven.text()));
        }
    }

    #[test]
    fn indentation_touches_line_starts_only(sample in 0..4usize, changes in prop::collection::vec(any::<(u16, u8)>(), 0..60)) {
        let (language, text) = SAMPLES[sample];
        let text = reshuffled(language, text, &changes);
        let document = read(language, &text);
        let proven = prove_as("format", &document, reshape("indent", &document, Wish::Nothing)).unwrap();
        prop_assert_eq!(starts(&text), starts(proven.text()));
    }

    #[test]
    fn cut_off_files_are_handled(sample in 0..SAMPLES.len(), cut in any::<prop::sample::Index>(), at in any::<prop::sample::Index>()) {
        let (language, text) = SAMPLES[sample];
        let mut end = cut.index(text.len());
        while !text.is_char_boundary(end) { end -= 1; }
        let text = &text[..end];
        let document = read(language, text);
        let at = (0..=at.index(text.len() + 1)).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0);
        looks::check(document.code()).unwrap();
        let ladder = looks::ladder(document.code(), Span::new(at as u32, at as u32));
        prop_assert!(text.is_empty() || !ladder.is_empty());
        // A refusal is an answer; a wrong result is not.
        if let Ok(proven) = step("format").run(&document, &Request::default()) {
            prop_assert_eq!(tokens(language, text), tokens(language, proven.text()));
        }
        if let Ok(proven) = step("indent").run(&document, &Request::default()) {
            prop_assert_eq!(starts(text), starts(proven.text()));
        }
        let _ = step("imports").run(&document, &Request::default());
    }

    #[test]
    fn any_text_is_handled(language in any::<prop::sample::Index>(), text in "[a-z0-9{}()\\[\\]<>\"'/*;,.:=|&#@!%$`\\\\ \\t\\r\\né漢-]{0,120}") {
        let language = language.get(&Language::all().map(Language::name).collect::<Vec<_>>()).to_owned();
        let document = read(language, &text);
        looks::check(document.code()).unwrap();
        for name in ["format", "imports", "indent"] {
            let _ = step(name).run(&document, &Request::default());
        }
    }

    #[test]
    fn looks_hold_on_damaged_samples(
        sample in any::<prop::sample::Index>(),
        cut in any::<prop::sample::Index>(),
        put in prop::sample::select(&["(", ")", "{", "}", "\"", "'", "/*", "begin ", " end ", "\n", "<", "#|", "%{\n", "```\n", "]]", "\\"][..]),
        at in any::<prop::sample::Index>(),
    ) {
        let samples = all_samples();
        let (language, text) = sample.get(&samples);
        let boundary = |index: usize| (index..=text.len()).find(|at| text.is_char_boundary(*at)).unwrap();
        let (end, at) = (boundary(cut.index(text.len() + 1)), boundary(at.index(text.len() + 1)));
        let mut damaged = text[..end.max(at)].to_owned();
        damaged.insert_str(at, put);
        looks::check(read(language, &damaged).code()).unwrap();
    }
}

/// Settings by chance, the same each time: about half of them, each with one of its values.
fn by_chance(seed: u64) -> Vec<String> {
    let mut state = seed;
    let mut below = |count: usize| {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) as usize % count
    };
    let mut set = Vec::new();
    for setting in SETTINGS {
        let choices = setting.choices();
        // Levels narrower than anyone sets them say nothing of the rest.
        if below(2) == 0 && !choices.is_empty() && !matches!(setting.id, Key::TabWidth | Key::IndentSize) {
            set.push(format!("{}={}", setting.key, choices[below(choices.len())]));
        }
    }
    set
}

#[test]
fn files_come_to_rest_whatever_is_set() {
    for seed in 1..=12 {
        let set = by_chance(seed);
        let set: Vec<&str> = set.iter().map(String::as_str).collect();
        for (language, text) in all_samples() {
            let document = styled(language, &text, &set);
            for name in ["format", "indent"] {
                if !(step(name).covers)(document.language()) {
                    continue;
                }
                let reshape = reshape(name, &document, Wish::Nothing);
                let unsettled = reshape.receipt.left_alone.iter().any(|left| left.reason == Reason::Unsettled);
                assert!(!unsettled, "{name} of {language} does not end under {set:?}:\n{text}");
                // Told where what is done cannot be proven, or changes again.
                eprintln!("{name} of {language} under {set:?}");
                done(name, &document, Wish::Nothing);
            }
        }
    }
}

#[test]
fn nesting_a_hundred_thousand_deep_is_an_input() {
    let deep = 100_000;
    for (language, text) in [
        ("json", "[".repeat(deep) + &"]".repeat(deep)),
        ("json", "[".repeat(deep)),
        ("java", format!("class A {{ int b = {}1{}; }}", "(".repeat(deep), ")".repeat(deep))),
        ("rust", format!("fn a() {{ b{} }}", ".c()".repeat(deep))),
        ("c", format!("int a = {}1{};", "(".repeat(deep), ")".repeat(deep))),
        ("c", format!("void a() {{ {} b(); }}", "if (c) ".repeat(deep))),
        ("cpp", format!("enum a {{ b = {}", "[]{ enum { c = ".repeat(deep))),
        ("cpp", format!("{} int x; {}", "namespace a {".repeat(deep), "}".repeat(deep))),
        ("pascal", format!("begin {} end.", "begin ".repeat(deep))),
        ("pascal", format!("begin {} a; end.", "if b then ".repeat(deep))),
        ("matlab", "if a\n".repeat(deep)),
        ("octave", format!("x = {}", "{[(".repeat(deep))),
        ("racket", "('".repeat(deep)),
        ("scheme", "'".repeat(deep)),
        ("clojure", format!("{}{}", "#{[(".repeat(deep), "]".repeat(deep))),
        ("scss", "a {".repeat(deep)),
        ("less", format!("@a: {}", "(".repeat(deep))),
        ("html", "<div>".repeat(deep)),
        ("html", "<b><i></b>".repeat(deep)),
        ("markdown", "> ".repeat(deep)),
        ("markdown", "- a\n".repeat(deep)),
        ("dax", format!("A = {}1{}", "IF(".repeat(deep), ")".repeat(deep))),
        ("notebook", format!("{{\"cells\": {}", "[".repeat(deep))),
    ] {
        let document = styled(language, &text, &["max_line_length=off"]);
        let _ = step("format").run(&document, &Request::default());
        let _ = step("indent").reshape(&document, &Request::default());
        let (code, middle) = (document.code(), document.source().span().end / 2);
        assert!(!looks::ladder(code, Span::new(middle, middle)).is_empty());
        let _ = (looks::folds(code), looks::outline(code), looks::pairs(code, &looks::Marks::default()));
    }
}

#[test]
fn conflicts_stay_and_the_rest_is_set_by_their_first_side() {
    let text = "class A {\n  void a() {\nb( );\n<<<<<<< ours\n  if (c) {\n=======\n    if (d) {\n>>>>>>> theirs\ne( );\n}\n  }\n}\n";
    let wanted = "class A {\n    void a() {\n        b();\n<<<<<<< ours\n  if (c) {\n=======\n    if (d) {\n>>>>>>> theirs\n            e();\n        }\n    }\n}\n";
    let proven = step("format").run(&styled("java", text, &["indent_size=4"]), &Request::default()).unwrap();
    assert_eq!(proven.text(), wanted);
    assert_eq!(proven.receipt().left_alone.iter().map(|left| left.reason).collect::<Vec<_>>(), [Reason::Conflict]);
    let again = step("format").run(&styled("java", wanted, &["indent_size=4"]), &Request::default()).unwrap();
    assert!(again.edits().is_empty(), "{}", again.text());
    for (_, language, sample) in sample_files() {
        let lines: Vec<&str> = sample.split_inclusive('\n').collect();
        let (before, behind) = lines.split_at(lines.len() / 2);
        let conflict = "<<<<<<< ours\n   \n=======\n  two\n>>>>>>> theirs\n";
        let text = format!("{}{conflict}{}", before.concat(), behind.concat());
        for name in ["format", "indent", "imports"]
            .iter()
            .filter(|name| (step(name).covers)(Language::named(language).unwrap()))
        {
            if let Ok(proven) = step(name).run(&read(language, &text), &Request::default()) {
                assert!(proven.text().contains(&format!("\n{conflict}")), "{name} {language}\n{}", proven.text());
            }
        }
    }
}
