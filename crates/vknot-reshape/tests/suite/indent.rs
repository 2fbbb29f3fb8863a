//! Indentation: well-kept samples come back after their indentation is taken away, cut-off files stand like whole ones, levels scale
//! there and back, shifts keep relations, conversions keep columns, and the proof catches what they must not do.

use std::path::Path;

use proptest::prelude::*;
use vknot_reshape::indent::{self, HeadVotes, Shift, ShiftError, Target};
use vknot_reshape::{Decided, Reason, Reshape};
use vknot_reshape::steps::{Document, Request, StepError, Wish};
use vknot_style::Style;
use vknot_syntax::{Language, Span};

use crate::support::{formatted, indented, prove_as, read, reshape, sample_files, step, style, styled};

/// Settings that the samples of some languages keep to, beside the size of their levels.
const STYLES: &[(&str, &[&str])] = &[
    ("board.js", &["indent_size=2"]),
    ("card.tsx", &["indent_size=2"]),
    ("station.ts", &["indent_size=2"]),
    ("notices.go", &["indent_style=tab", "tab_width=8"]),
    ("index.html", &["vknot_indent_page=nested"]),
    ("harmonics.m", &["indent_size=2"]),
];

struct Sample {
    name: String,
    language: &'static str,
    text: String,
    style: Style,
}

/// Well-kept files, one for each language that is set by structure.
fn samples() -> Vec<Sample> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/suite/indented");
    let mut samples: Vec<Sample> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| {
            let path = entry.unwrap().path();
            let text = std::fs::read_to_string(&path).unwrap();
            let name = path.file_stem().unwrap().to_string_lossy().into_owned();
            let language = Language::of_file(Path::new(&name), &text).unwrap().name();
            let set = STYLES.iter().find(|(sample, _)| *sample == name).map_or(&[][..], |(_, set)| set);
            Sample { name, language, style: style(language, set), text }
        })
        .collect();
    samples.sort_by(|a, b| a.name.cmp(&b.name));
    samples
}

/// The result of a reshape, proven.
fn proven(read: &Document, reshape: Reshape) -> String {
    let wanted = reshape.edits.apply(read.source().text());
    match prove_as("indent", read, reshape) {
        Ok(proven) => proven.text().to_owned(),
        Err(refusal) => panic!("{refusal}\n{wanted}"),
    }
}

fn set(language: &str, text: &str, style: &Style) -> String {
    let read = read(language, text).with_style(style.clone());
    let reshape = reshape("indent", &read, Wish::Nothing);
    proven(&read, reshape)
}

/// What is done to some lines only.
fn in_part(read: &Document, span: Span) -> Reshape {
    step("indent").reshape(read, &Request { only: Some(&[span]), wish: Wish::Nothing, ..Request::default() }).unwrap()
}

fn stripped(language: &str, text: &str) -> String {
    indent::stripped(read(language, text).code())
}

#[test]
fn what_is_taken_away_comes_back() {
    for Sample { name, language, text, style } in samples() {
        let bare = stripped(language, &text);
        assert!(bare.len() < text.len(), "{name}");
        assert_eq!(set(language, &bare, &style), text, "{name}");
        assert_eq!(set(language, &text, &style), text, "{name} is right as it is");
    }
}

#[test]
fn lines_in_front_of_a_cut_stand_as_in_the_whole_file() {
    for Sample { name, language, text, style } in samples() {
        let bare = stripped(language, &text);
        let (mut same, mut all) = (0, 0);
        for cut in (0..bare.len()).step_by(7).filter(|cut| bare.is_char_boundary(*cut)) {
            let result = set(language, &bare[..cut], &style);
            let whole = bare[..cut].matches('\n').count();
            same += text.lines().zip(result.lines()).take(whole).filter(|(a, b)| a == b).count();
            all += whole;
        }
        // A line or two of such a small file is a large share of it.
        assert!(same * 100 >= all * 90, "{name}: {same} of {all}");
    }
}

#[test]
fn lines_go_by_settings() {
    let cases: &[(&str, &str, &[&str])] = &[
        ("c", "switch (a) {\ncase 1:\n{\nb();\n}\n}", &["vknot_indent_case=1", "vknot_indent_case_brace=1"]),
        ("c", "void f(void)\n{\nif (a)\n{\nb(1,\n2);\n}\nout:\nc = d +\ne;\n}", &[
            "vknot_indent_brace=1",
            "vknot_indent_label=margin",
            "vknot_align_list=none",
            "vknot_align_operand=true",
        ]),
        ("cpp", "namespace a {\nclass B {\npublic:\nint c;\n};\n}", &[
            "vknot_indent_namespace=1",
            "vknot_indent_access=half",
        ]),
        ("c", "void f(void)\n{\n#ifdef A\nint a[] = {\n1 };\n#endif\n}", &[
            "vknot_indent_directive=code",
            "vknot_wrap_literal=wrap",
            "vknot_wrap_indent=2",
        ]),
        ("java", "class A {\nint b = c(d,\ne);\n}", &["vknot_wrap_indent=half", "indent_style=tab", "tab_width=8"]),
        ("c", "int a = b(c,\nd);", &["indent_style=tab", "tab_width=4", "vknot_align_tabs=true"]),
        ("javascript", "f(a,\nb +\nc);", &["vknot_indent_operand=2"]),
        ("octave", "function f ()\na;\nend", &["vknot_indent_function=0"]),
        ("html", "<html>\n<body>\n<p>a</p>\n</body>\n</html>", &["vknot_indent_page=flush"]),
        ("scheme", "(when a\nb)\n(my-let a\nb\nc)\n(cond\na)", &[
            "vknot_indent_heads=when=call, my-let=1, cond=clauses",
        ]),
        ("clojure", "(defn a\n([b]\nc))\n(scan d\ne\nf)", &["vknot_indent_heads=[=inner, scan=aligned-2"]),
        ("c", "void f(void)\n{\nif (a)\nb();\nelse\nif (c)\nd();\ne(\n1\n);\n}", &[
            "vknot_indent_else_if=0",
            "vknot_indent_bracket=1",
        ]),
        ("c", "switch (a) {\ncase 1:\nb();\n}", &["vknot_indent_case=half"]),
        ("pascal", "begin\nif a\nor b then\nc;\ncase d of\n1: e;\nelse\nf;\nend;\nend.", &[
            "vknot_indent_condition=0",
            "vknot_indent_case_else=1",
        ]),
        ("pascal", "begin\nif a and\nb then\nc := d +\ne;\nend.", &["vknot_align_operand=true"]),
        ("matlab", "classdef A\nmethods\nfunction f(a)\na;\nend\nend\nend", &["vknot_indent_function=0"]),
    ];
    let shown: Vec<String> = cases
        .iter()
        .map(|(language, text, keys)| format!("{}\n{}", keys.join(" "), set(language, text, &style(language, keys))))
        .collect();
    snapshot!(shown.join("\n---\n"));
}

#[test]
fn directives_and_their_branches_stand_with_the_code() {
    let code: &[&str] = &["vknot_indent_directive=code"];
    let cases: &[(&str, &str, &[&str])] = &[
        // Both branches open the brace that is closed behind them.
        ("c", "void f(void)\n{\n#ifdef A\nif (a) {\n#else\nif (b) {\nc();\n#endif\nd();\n}\n}", &[]),
        ("c", "void f(void)\n{\n/* One */\n#ifdef A\na();\n#endif\n}", code),
        (
            "pascal",
            "procedure A;\n{$ifdef X}\nvar b: c;\nbegin\nd;\n{$else}\nbegin\nif e then\nf;\n{$endif}\nend;",
            code,
        ),
        ("pascal", "procedure A;\nbegin\nB :=\n{$ifdef X}\n1\n{$else}\n2\n{$endif};\nend;", code),
    ];
    let shown = cases.iter().map(|(language, text, keys)| set(language, text, &style(language, keys)));
    snapshot!(shown.collect::<Vec<_>>().join("\n---\n"));
}

#[test]
fn headers_in_files_that_others_include_stand_side_by_side() {
    let text =
        "procedure A(b: c);\nfunction D: e;\nprocedure F;\nprocedure G;\nbegin\nh;\nend;\nvar i: j;\nbegin\nG;\nend;\n";
    let wanted = "procedure A(b: c);\nfunction D: e;\nprocedure F;\n  procedure G;\n  begin\n    h;\n  end;\nvar i: j;\nbegin\n  G;\nend;\n";
    assert_eq!(set("pascal", text, &style("pascal", &[])), wanted);
}

#[test]
fn a_file_goes_by_its_own_manner_where_nothing_is_set() {
    let arms = "        case 1:\n            a(b,\n              c);\n            break;\n".repeat(4);
    let text = format!("void f(int a)\n{{\n    switch (a) {{\n{arms}    }}\n}}\n");
    let jumbled = text.replacen("            break;", "  break;", 1);
    let by = |text: &str, keys: &[&str]| {
        let read = styled("c", text, keys);
        let reshape = reshape("indent", &read, Wish::Nothing);
        let manner = reshape.receipt.manner.clone();
        (proven(&read, reshape), manner)
    };
    let (result, manner) = by(&jumbled, &[]);
    assert_eq!(result, text);
    assert_eq!(manner, [("vknot_indent_case", "1".to_owned())]);
    let (result, manner) = by(&jumbled, &["vknot_indent_case=0"]);
    assert!(manner.is_empty() && result.contains("\n    case 1:"), "{result}");
    // A jumble tells nothing.
    let (result, manner) = by(&text.replace("            ", " "), &[]);
    assert!(manner.is_empty() && result.contains("\n    case 1:"), "{result}");
}

#[test]
fn blocks_of_comments_and_prose_move_as_a_whole() {
    let c = "void f(void)\n{\n/* One\n     two\n   three */\na();\n  /** Doc\n* more\n      */\nb(); /* behind\n      code */\n}\n";
    let html = "<div>\n<p>Low\n        tide\nand high</p>\n<pre>\n  as\n it is\n</pre>\n</div>\n";
    let js = "function f() {\nreturn `a\n  ${b(\nc)}\n   d`;\n}\n";
    let shown = [("c", c), ("html", html), ("javascript", js)].map(
        |(language, text)| set(language, text, &style(language, &[])),
    );
    snapshot!(shown.join("---\n"));
}

#[test]
fn comments_at_the_margin_of_indented_code_stay() {
    let text = "class A {\n  int b;\n//  int c;\n  // d\n  int e;\n}\n";
    let wanted = "class A {\n    int b;\n//  int c;\n    // d\n    int e;\n}\n";
    assert_eq!(set("java", text, &style("java", &["indent_size=4"])), wanted);
}

#[test]
fn code_inside_is_set_where_it_stands() {
    let html = "<body>\n<script>\nfunction f() {\nreturn 1;\n}\n</script>\n</body>\n";
    let markdown = "# Tides\n\n- One\n\n  ```js\n  function f() {\n  return 1;\n  }\n  ```\n";
    let notebook = r#"{"cells": [{"cell_type": "code", "source": ["if tide:\n", "  warn()\n", "  wait()"]}]}"#;
    let shown = [("html", html), ("markdown", markdown), ("notebook", notebook)].map(
        |(language, text)| set(language, text, &style(language, &["indent_size=4"])),
    );
    snapshot!(shown.join("---\n"));
}

#[test]
fn pieces_go_by_what_they_show_alone_or_together() {
    let fence = |code: &str| format!("```c\n{code}```\n\n");
    let told = fence("if (low) {\n  warn();\n}\n");
    // Nothing in brackets tells: the other pieces do, then a body without them, then what is usual.
    let short = fence("while (1) {\nwarn();\n}\n");
    let kept = fence("if (low)\n   return;\n");
    for (text, wanted) in [
        (format!("{told}{short}"), format!("{told}{}", short.replace("warn", "  warn"))),
        (short.clone(), short.replace("warn", "    warn")),
        (kept.clone(), kept.clone()),
        (format!("{told}{kept}"), format!("{told}{}", kept.replace("   ", "  "))),
    ] {
        assert_eq!(indented("markdown", &text, &[]), wanted);
    }
    // A script has levels of its own in a page, and elements alone tell, too.
    let body = |name: &str| format!("      function {name}() {{\n          return 1;\n      }}\n");
    let page =
        format!("<html>\n  <body>\n    <script>\n{}{}    </script>\n  </body>\n</html>\n", body("low"), body("high"));
    assert_eq!(indented("html", &page, &[]), page);
    assert_eq!(indented("html", &page, &["indent_size=2"]), page.replace("          return", "        return"));
    let tabs = page.replace("          return", "      \treturn");
    assert_eq!(indented("html", &tabs, &[]), page.replace("          return", "        return"));
    let board =
        "const Board = () => (\n\t<>\n\t\t<Gauge name=\"low\">\n\t\t\tTide\n\t\t</Gauge>\n\t\t<Gauge />\n\t</>\n);\n";
    assert_eq!(indented("javascript", board, &[]), board);
}

#[test]
fn broken_code_is_set_where_it_is_certain() {
    let text = "class A {\nvoid b() {\nif (c > {\nd(1,\n2);\n}\nint e = ;\n}\nvoid f() {\ng();\n}\n}\n}\nint h;\n";
    let read = styled("java", text, &["indent_size=2"]);
    let reshape = reshape("indent", &read, Wish::Nothing);
    let left: Vec<String> = reshape.receipt.left_alone
        .iter()
        .map(|left| format!("{:?} {:?}", left.reason, read.source().line_range(left.span)))
        .collect();
    assert!(reshape.receipt.left_alone.iter().any(|left| left.reason == Reason::Brackets));
    snapshot!(format!("{}{}", proven(&read, reshape), left.join("\n")));
}

#[test]
fn what_stands_in_front_of_an_open_string_is_set() {
    let text = "(define (a)\n(b #hash((c . 1))\n(d)))\n\n(define (e)\n\"Text (f\n(g))\n";
    let wanted = "(define (a)\n  (b #hash((c . 1))\n     (d)))\n\n(define (e)\n";
    assert!(set("racket", text, &style("racket", &[])).starts_with(wanted));
}

#[test]
fn only_the_lines_asked_for_are_set_against_those_around_them() {
    let text = "class A {\n      void b() {\nc();\n   d();\n  }\n}\n";
    let read = styled("java", text, &["indent_size=4"]);
    let third = read.source().lines().span(text, 2);
    assert_eq!(proven(&read, in_part(&read, third)), "class A {\n      void b() {\n          c();\n   d();\n  }\n}\n");
}

#[test]
fn what_decides_the_width_is_said() {
    let cases: [(&str, &[&str], (u32, Decided)); 4] = [
        ("class A {\n   int b;\n}\n", &[], (3, Decided::ByFile)),
        ("class A {\nint b;\n}\n", &[], (4, Decided::ByHabit)),
        ("class A {\n   int b;\n}\n", &["indent_size=2"], (2, Decided::BySetting)),
        ("class A {\n\tint b;\n}\n", &[], (4, Decided::ByFile)),
    ];
    for (text, keys, (size, decided)) in cases {
        let reshape = reshape("indent", &styled("java", text, keys), Wish::Nothing);
        let (indentation, by) = reshape.receipt.indentation.unwrap();
        assert_eq!((indentation.size, by), (size, decided), "{text:?} {keys:?}");
    }
}

const PYTHON: &str = "\"\"\"Levels.\"\"\"\n\n\ndef surge(levels,\n          floor=0):\n    \"\"\"Doc\n      string.\"\"\"\n    found = max(\n        levels,\n        key=abs,\n    )\n    # to be sent\n    if found > floor:\n        send(found,\n             \"\"\"as\n  it is\"\"\")\n\n    # behind\n    else_ = [1,\n             2]\n    return found \\\n        + floor\n";

const GDSCRIPT: &str = "extends Node\n\nfunc surge(levels):\n\tfor level in levels:\n\t\tif level > 1:\n\t\t\tsend(level,\n\t\t\t\t\"high\")\n\t# none\n\treturn null\n";

#[test]
fn levels_scale_there_and_back() {
    for (language, text, keys) in [
        ("python", PYTHON, [["indent_size=2", ""], ["indent_size=4", ""]]),
        ("python", PYTHON, [["indent_style=tab", "tab_width=8"], ["indent_style=space", "indent_size=4"]]),
        ("gdscript", GDSCRIPT, [["indent_style=space", "indent_size=4"], ["indent_style=tab", "tab_width=4"]]),
        ("gdscript", GDSCRIPT, [["indent_style=space", "indent_size=2"], ["indent_style=tab", "tab_width=4"]]),
    ] {
        let keys = keys.map(|keys| keys.into_iter().filter(|key| !key.is_empty()).collect::<Vec<_>>());
        let there = set(language, text, &style(language, &keys[0]));
        assert_ne!(there, text);
        assert_eq!(set(language, &there, &style(language, &keys[1])), text, "{language} {keys:?}\n{there}");
    }
}

#[test]
fn tabs_become_spaces_and_tabs_again() {
    let java = "class A {\n\tvoid b() {\n\t\tc(d,\n\t\t  e);\n\t}\n\t/* f\n\t * g */\n}\n";
    for (language, text) in [("java", java), ("gdscript", GDSCRIPT)] {
        let convert = |text: &str, target| {
            let read = read(language, text);
            proven(&read, reshape("convert", &read, Wish::Convert(target)))
        };
        let spaces = convert(text, Target::Spaces(Some(4)));
        assert!(!spaces.contains('\t'), "{spaces}");
        assert_eq!(convert(&spaces, Target::Tabs), text, "{language}");
    }
    let mixed = read("java", "class A {\n  \tint b;\n    int c = \"\"\"\n    \td\"\"\";\n}\n");
    let reshape = reshape("convert", &mixed, Wish::Convert(Target::Spaces(Some(4))));
    assert_eq!(proven(&mixed, reshape), "class A {\n    int b;\n    int c = \"\"\"\n    \td\"\"\";\n}\n");
}

fn shifted(language: &str, text: &str, lines: Option<(u32, u32)>, by: Shift) -> Result<String, ShiftError> {
    let read = styled(language, text, &["indent_size=4"]);
    let span = lines.map(|(first, last)| {
        let of = |line: u32| read.source().lines().span(text, line - 1);
        Span::new(of(first).start, of(last).end)
    });
    let only = span.as_ref().map(std::slice::from_ref);
    match step("shift").reshape(&read, &Request { only, wish: Wish::Shift(by), ..Request::default() }) {
        Ok(reshape) => Ok(proven(&read, reshape)),
        Err(StepError::Shift(error)) => Err(error),
        Err(error) => panic!("{error}"),
    }
}

#[test]
fn shifts_keep_how_lines_stand_to_each_other() {
    let java = "class A {\n    void b() {\n      c();\n\n        d(\"\"\"\n  e\"\"\");\n    }\n}\n";
    let further = "class A {\n        void b() {\n          c();\n\n            d(\"\"\"\n  e\"\"\");\n        }\n}\n";
    assert_eq!(shifted("java", java, Some((2, 7)), Shift::In(1)).as_deref(), Ok(further));
    assert_eq!(shifted("java", further, Some((2, 7)), Shift::Out(1, false)).as_deref(), Ok(java));
    let error = shifted("java", java, Some((2, 7)), Shift::Out(2, false)).unwrap_err();
    assert_eq!(error, ShiftError::Flattens { line: 2, columns: 4, wanted: 8 });
    let flat = "class A {\nvoid b() {\nc();\n\nd(\"\"\"\n  e\"\"\");\n}\n}\n";
    assert_eq!(shifted("java", java, Some((2, 7)), Shift::Out(2, true)).as_deref(), Ok(flat));
    assert_eq!(shifted("java", "\tint a;\n", None, Shift::Out(1, false)).as_deref(), Ok("int a;\n"));
}

#[test]
fn a_shift_that_would_move_lines_to_another_block_is_refused() {
    let text = "def a():\n    if b:\n        c()\n    d()\n";
    for (lines, by, broken) in [
        ((3, 3), Shift::Out(1, false), 3),
        ((4, 4), Shift::In(1), 4),
        ((1, 4), Shift::In(1), 1),
        ((2, 2), Shift::Out(1, false), 2),
    ] {
        assert_eq!(shifted("python", text, Some(lines), by), Err(ShiftError::Breaks { line: broken }), "{lines:?} {by:?}");
    }
    let deeper = shifted("python", text, Some((3, 3)), Shift::In(1));
    assert_eq!(deeper.as_deref(), Ok("def a():\n    if b:\n            c()\n    d()\n"));
}

#[test]
fn the_proof_catches_what_is_no_indentation() {
    let prove = |language: &str, text: &str, (old, new): (&str, &str)| {
        let read = read(language, text);
        let start = text.find(old).unwrap() as u32;
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(start, start + old.len() as u32), new);
        prove_as("indent", &read, reshape).map(|_| ()).map_err(|refusal| refusal.reason.to_string())
    };
    assert!(prove("java", "class A {\n  int b;\n}", ("  ", "    ")).is_ok());
    assert!(prove("java", "class A {\n  int b;\n}", ("b", "")).is_err());
    assert!(prove("java", "class A {\n  int b;\n}", ("\n  ", " ")).is_err());
    assert!(prove("java", "class A { String b = \"\"\"\n  c\"\"\"; }", ("  ", " ")).is_err());
    assert!(prove("python", "if a:\n    b()\n    c()\n", ("    c", "c")).is_err());
    assert!(prove("python", "if a:\n    b()\n    c()\n", ("    ", "  ")).is_err());
    assert!(prove("html", "<pre>b\n  a</pre>", ("  ", "")).is_err());
    assert!(prove("html", "<script>\nlet a = `\n  b`;\n</script>", ("  ", "")).is_err());
    assert!(prove("html", "<p>a\n  b</p>", ("  ", "")).is_ok());
}

#[test]
fn shown_lines_say_what_disagrees() {
    let read = read("java", "class A {\n    int a;\n  int b;\n\tint c;\n\n}\n");
    let lines = indent::show(read.code(), &style("java", &["indent_size=4"]), None);
    let facts: Vec<(u32, u32, Option<u32>, bool)> =
        lines.iter().map(|line| (line.line, line.columns, line.wanted, line.foreign)).collect();
    let wanted = [
        (1, 0, None, false),
        (2, 4, None, false),
        (3, 2, Some(4), false),
        (4, 4, None, true),
        (5, 0, None, false),
    ];
    assert_eq!(facts[..5], wanted);
    assert!(lines[2].disagrees() && lines[3].disagrees() && !lines[1].disagrees());
}

#[test]
fn laid_out_files_are_indented_already() {
    for (path, language, text) in sample_files() {
        if matches!(language, "java" | "json" | "rust") {
            let laid_out = formatted(language, &text, &["indent_size=4"]);
            assert_eq!(set(language, &laid_out, &style(language, &["indent_size=4"])), laid_out, "{path}");
        }
    }
}

#[test]
fn the_rules_of_heads_are_learned_from_files() {
    let text = "(my-when a\n  b\n  c)\n(my-when a\n  b)\n(my-list a\n         b)\n(let ((a 1))\n  b)\n";
    let read = read("scheme", text);
    let mut votes = HeadVotes::default();
    votes.count(read.code());
    assert_eq!(votes.setting(read.code()), "my-when=0");
}

#[test]
fn forms_go_by_the_way_the_file_has_unless_it_is_set() {
    let text = "(my-when a\n  b)\n(my-when a\n  b)\n(my-when a\nb)\n";
    let own = "(my-when a\n  b)\n(my-when a\n  b)\n(my-when a\n  b)\n";
    assert_eq!(set("scheme", text, &style("scheme", &[])), own);
    let called = "(my-when a\n         b)\n".repeat(3);
    assert_eq!(set("scheme", text, &style("scheme", &["vknot_indent_heads=my-when=call"])), called);
}

/// Any white space in place of that of lines.
fn jumbled(language: &str, text: &str, blanks: &[(u16, u8)]) -> String {
    let mut lines: Vec<String> = stripped(language, text).lines().map(str::to_owned).collect();
    for (line, blank) in blanks {
        let count = lines.len().max(1);
        if let Some(line) = lines.get_mut(usize::from(*line) % count).filter(|line| !line.is_empty()) {
            *line = format!("{}{line}", ["", " ", "\t", "     ", "\t  "][usize::from(*blank) % 5]);
        }
    }
    lines.join("\n")
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn setting_is_proven_and_stable(sample in 0..20usize, blanks in prop::collection::vec(any::<(u16, u8)>(), 0..80)) {
        let samples = samples();
        let Sample { language, text, style, .. } = &samples[sample % samples.len()];
        let once = set(language, &jumbled(language, text, &blanks), style);
        prop_assert_eq!(set(language, &once, style), once);
    }

    #[test]
    fn damaged_files_are_proven(sample in 0..40usize, cut in any::<u16>(), lost in any::<u16>()) {
        let files = sample_files();
        let (path, language, text) = &files[sample % files.len()];
        let mut text: Vec<char> = text.chars().collect();
        text.truncate(text.len() - usize::from(cut) % text.len());
        if !text.is_empty() {
            text.remove(usize::from(lost) % text.len());
        }
        let text: String = text.into_iter().collect();
        let read = read(language, &text);
        let set = reshape("indent", &read, Wish::Nothing);
        for (span, blank) in set.edits.iter() {
            prop_assert!(blank.trim_matches([' ', '\t']).is_empty(), "{}", path);
            prop_assert!(read.source().slice(span).trim_matches([' ', '\t']).is_empty(), "{}", path);
        }
        for target in [Target::Spaces(None), Target::Tabs] {
            let reshape = reshape("convert", &read, Wish::Convert(target));
            prop_assert!(reshape.edits.are_sound(text.len() as u32));
        }
    }
}

#[test]
fn one_odd_line_tells_no_width() {
    let jumble = "class A {\nint b;\nvoid d() {\n                e();\nf();\n}\n}\n";
    assert_eq!(indented("java", jumble, &[]), "class A {\n    int b;\n    void d() {\n        e();\n        f();\n    }\n}\n");
    let odd = format!("class A {{\n{}}}\n", "     void a() {\n          b();\n     }\n".repeat(6));
    assert_eq!(indented("java", &odd, &[]), odd, "many lines tell any width");
}

#[test]
fn tabs_in_place_of_spaces_are_a_way_of_their_own() {
    let scheme = "(define (read-gauge gauge)\n  (let ((level 1))\n    (if (> level 3)\n\t(begin\n\t  (warn level)\n\t  (store level))\n\t(f level))))\n";
    assert_eq!(indented("scheme", scheme, &[]), scheme);
    let java =
        "class A {\n    void a() {\n\tif (b) {\n\t    c();\n\t    while (d) {\n\t\te();\n\t    }\n\t}\n    }\n}\n";
    assert_eq!(indented("java", java, &[]), java);
    assert_eq!(formatted("java", java, &[]), java);
}

#[test]
fn tabs_in_place_of_eight_spaces_show_where_no_level_reaches_so_far() {
    let call = |name: &str| format!("  {name}(level,\n\t hour,\n\t low);\n");
    let calls: String = ["ebbing", "levels", "slacks"].map(call).concat();
    let text = format!("void tide(int level)\n{{\n{calls}}}\n");
    assert_eq!(indented("c", &text, &[]), text);
    // What is put further in is written like what is there.
    let moved = text.replace("  levels(", "levels(");
    assert_eq!(indented("c", &moved, &[]), text);
    // A few such lines may be of another hand.
    let few = format!("void tide(int level)\n{{\n{}ebb(level,\nhour);\n}}\n", call("ebbing"));
    assert!(!indented("c", &few, &[]).contains("\thour"));
}

#[test]
fn pieces_of_a_page_have_its_tabs() {
    let page = "\
<html>
\t<head>
\t\t<style>
\t\t\t.gauge {
\t\t\t\tmargin: 0;
\t\t\t\tcolor: blue;
\t\t\t}
\t\t\t.station {
\t\t\t\tmargin: 1px;
\t\t\t}
\t\t</style>
\t</head>
\t<body>
\t\t<p>Tides</p>
\t\t<script>
\t\t\tfunction level() {
\t\t\t\treturn 3;
\t\t\t}
\t\t</script>
\t</body>
</html>
";
    assert_eq!(indented("html", page, &[]), page);
    // What cannot come to rest is left as it is, so a line that is off tells.
    assert_eq!(indented("html", &page.replace("\t\t<p>", "\t\t\t\t<p>"), &[]), page);
}
