//! The promises, held against generated damage: the same tokens, the same after a second run, looks inside the file.

use proptest::prelude::*;
use vknot_reshape::{imports, indent, layout, looks, proof};
use vknot_style::Style;
use vknot_syntax::{Language, Source, Span, Tree};

use crate::support;

const SAMPLES: [(&str, &str); 4] = [
    ("java", include_str!("../../../../demo/src/Gauge.java")),
    ("java", include_str!("../../../../demo/src/Reading.java")),
    ("rust", include_str!("../../../../demo/src/surge.rs")),
    ("json", include_str!("../../../../demo/data/stations.json")),
];

/// The sample project's file in every language.
fn all_samples() -> Vec<(&'static str, String)> {
    support::sample_files().into_iter().map(|(_, language, text)| (language, text)).collect()
}

fn read(language: &str, text: &str) -> (Source, Tree) {
    let source = Source::from_text("sample", text);
    let tree = Tree::read(&source, Language::named(language).unwrap());
    (source, tree)
}

/// Changes the white space of gaps: each number picks a gap and what it becomes.
fn reshuffled(language: &str, text: &str, changes: &[(u16, u8)]) -> String {
    let (source, tree) = read(language, text);
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
    let (source, tree) = read(language, text);
    let lines = |text: &str| text.lines().map(str::trim).collect::<Vec<_>>().join("\n");
    tree.tokens().iter().map(|token| lines(source.slice(token.span()))).filter(|text| text != ",").collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn layout_is_proven_and_stable(sample in 0..SAMPLES.len(), changes in prop::collection::vec(any::<(u16, u8)>(), 0..60)) {
        let (language, text) = SAMPLES[sample];
        let text = reshuffled(language, text, &changes);
        let (source, tree) = read(language, &text);
        let style = Style::defaults(language);
        let reshape = layout::format(&source, &tree, &style, None);
        let proven = proof::prove_layout(&source, &tree, &reshape).unwrap();
        prop_assert_eq!(tokens(language, &text), tokens(language, proven.source.text()));
        let again = layout::format(&proven.source, &proven.tree, &style, None);
        prop_assert!(again.edits.is_empty(), "{}", again.edits.apply(proven.source.text()));
    }

    #[test]
    fn indentation_touches_line_starts_only(sample in 0..SAMPLES.len(), changes in prop::collection::vec(any::<(u16, u8)>(), 0..60)) {
        let (language, text) = SAMPLES[sample];
        let text = reshuffled(language, text, &changes);
        let (source, tree) = read(language, &text);
        let reshape = indent::set(&source, &tree, &Style::defaults(language), None);
        let proven = proof::prove_layout(&source, &tree, &reshape).unwrap();
        let starts = |text: &str| text.split('\n').map(|line| line.trim_start().to_owned()).collect::<Vec<_>>();
        prop_assert_eq!(starts(&text), starts(proven.source.text()));
    }

    #[test]
    fn cut_off_files_are_handled(sample in 0..SAMPLES.len(), cut in any::<prop::sample::Index>(), at in any::<prop::sample::Index>()) {
        let (language, text) = SAMPLES[sample];
        let mut end = cut.index(text.len());
        while !text.is_char_boundary(end) { end -= 1; }
        let text = &text[..end];
        let (source, tree) = read(language, text);
        let at = (0..=at.index(text.len() + 1)).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0);
        looks::check(&source, &tree).unwrap();
        prop_assert!(text.is_empty() || !looks::ladder(&source, &tree, Span::new(at as u32, at as u32)).is_empty());
        let style = Style::defaults(language);
        for reshape in [layout::format(&source, &tree, &style, None), indent::set(&source, &tree, &style, None)] {
            // A refusal is an answer; a wrong result is not.
            if let Ok(proven) = proof::prove_layout(&source, &tree, &reshape) {
                prop_assert_eq!(tokens(language, text), tokens(language, proven.source.text()));
            }
        }
        let organized = imports::organize(&source, &tree, &style, None);
        let _ = imports::prove(&source, &tree, &organized);
    }

    #[test]
    fn any_text_is_handled(language in any::<prop::sample::Index>(), text in "[a-z0-9{}()\\[\\]<>\"'/*;,.:=|&#@!%$`\\\\ \\t\\r\\né漢-]{0,120}") {
        let language = language.get(&Language::all().map(Language::name).collect::<Vec<_>>()).to_owned();
        let (source, tree) = read(language, &text);
        looks::check(&source, &tree).unwrap();
        let style = Style::defaults(language);
        let reshape = layout::format(&source, &tree, &style, None);
        let _ = proof::prove_layout(&source, &tree, &reshape);
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
        let (source, tree) = read(language, &damaged);
        looks::check(&source, &tree).unwrap();
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
        let (source, tree) = read(language, &text);
        let style = Style::with(language, &["max_line_length=off".parse().unwrap()]);
        let reshape = layout::format(&source, &tree, &style, None);
        let _ = proof::prove_layout(&source, &tree, &reshape);
        let _ = indent::set(&source, &tree, &style, None);
        let middle = source.span().end / 2;
        assert!(!looks::ladder(&source, &tree, Span::new(middle, middle)).is_empty());
        let _ = (looks::folds(&source, &tree), looks::outline(&source, &tree), looks::pairs(&source, &tree));
    }
}
