//! Tokens that may be written in more than one way: what settings make of them, what must stay, and what the proof must refuse.

use proptest::prelude::*;
use vknot_reshape::{Receipt, Reshape, Respelled};
use vknot_reshape::steps::{Difference, Request, Wish};
use vknot_syntax::Span;

use crate::support::{done, formatted, prove_as, read, sample_files, step, styled};

/// Lays out each text with a setting and compares.
fn all(set: &[&str], cases: &[(&str, &str, &str)]) {
    for (language, text, wanted) in cases {
        assert_eq!(formatted(language, text, set), *wanted, "{language}: {text}");
    }
}

/// What a setting leaves as it is.
fn kept(set: &[&str], cases: &[(&str, &str)]) {
    for (language, text) in cases {
        assert_eq!(formatted(language, text, set), *text, "{language}");
    }
}

#[test]
fn strings_get_the_quotes_that_are_set() {
    all(
        &["vknot_token_quote=double"],
        &[
            ("javascript", "warn('high', \"low\", 'it\\'s');\n", "warn(\"high\", \"low\", \"it's\");\n"),
            ("typescript", "type Tide = 'ebb' | \"flood\";\n", "type Tide = \"ebb\" | \"flood\";\n"),
            ("css", "a[b='c'] {\n  d: 'e';\n}\n", "a[b=\"c\"] {\n  d: \"e\";\n}\n"),
            ("scss", "@use 'tide';\n", "@use \"tide\";\n"),
        ],
    );
    kept(
        &["vknot_token_quote=double"],
        &[
            ("javascript", "warn('say \"high\"', `low`);\n"),
            ("tsx", "const a = <b c='d\\e' />;\n"),
            ("less", "@a: '@{b}c';\n"),
            ("scss", "a {\n  b: 'c#{d}';\n}\n"),
            ("java", "class A {\n    char b = 'c';\n}\n"),
        ],
    );
    kept(
        &["vknot_token_quote=single"],
        &[
            ("css", "@charset \"utf-8\";\n"),
            ("javascript", "warn(\"it's\");\n"),
        ],
    );
}

#[test]
fn statements_get_the_semicolons_they_may_do_without() {
    all(
        &["vknot_token_semicolon=add"],
        &[
            ("javascript", "let a = 1\nb()\n", "let a = 1;\nb();\n"),
            ("javascript", "do {\n  a()\n} while (b)\n", "do {\n  a();\n} while (b);\n"),
            ("javascript", "if (a) b()\nelse c()\n", "if (a) b();\nelse c();\n"),
            ("javascript", "a() // low\n", "a(); // low\n"),
            ("javascript", "let a = 1\n;[2].map(b)\n", "let a = 1;\n[2].map(b);\n"),
            ("javascript", "class A {\n  b = 1\n  c() {}\n}\n", "class A {\n  b = 1;\n  c() {}\n}\n"),
            ("typescript", "interface A {\n  b: c\n  d(): e\n}\n", "interface A {\n  b: c;\n  d(): e;\n}\n"),
            ("typescript", "abstract class A {\n  abstract b(): c\n}\n", "abstract class A {\n  abstract b(): c;\n}\n"),
            (
                "javascript",
                "function f() {\n  return function () {}\n}\n",
                "function f() {\n  return function () {};\n}\n",
            ),
            ("javascript", "class A {\n  b = class {}\n}\n", "class A {\n  b = class {};\n}\n"),
            ("typescript", "import a from 'b'\nexport = a\n", "import a from 'b';\nexport = a;\n"),
            ("javascript", "for (const a of b) c(a)\n", "for (const a of b) c(a);\n"),
            ("javascript", "for (let i = 0; i < 2; i++) c(i)\n", "for (let i = 0; i < 2; i++) c(i);\n"),
        ],
    );
    kept(
        &["vknot_token_semicolon=add"],
        &[
            ("javascript", "export default function () {}\n"),
            ("javascript", "export default class {}\n"),
            ("javascript", "for (let i = 0; i < 2; i++) {}\n"),
            ("typescript", "namespace A {}\ndeclare module 'b' {}\n"),
            ("typescript", "interface A {\n  b: c,\n  d: e,\n}\n"),
        ],
    );
}

#[test]
fn semicolons_go_where_a_line_end_does_as_well() {
    all(
        &["vknot_token_semicolon=remove"],
        &[
            ("javascript", "let a = 1;\nb();\n", "let a = 1\nb()\n"),
            ("javascript", "function f() { return 1; }\n", "function f() { return 1 }\n"),
            ("javascript", "class A {\n  b = 1;\n  c;\n  d() {}\n}\n", "class A {\n  b = 1\n  c\n  d() {}\n}\n"),
            ("typescript", "interface A { b: c; d(): e; }\n", "interface A {\n  b: c\n  d(): e\n}\n"),
            ("typescript", "interface A { b: c; d(): e }\n", "interface A {\n  b: c\n  d(): e\n}\n"),
            ("typescript", "type A = b;\nexport { A };\n", "type A = b\nexport { A }\n"),
        ],
    );
    kept(
        &["vknot_token_semicolon=remove"],
        &[
            ("javascript", "let a = b;\n(c || d)()\n"),
            ("javascript", "let a = b;\n[c].map(d)\n"),
            ("javascript", "let a = b;\n`c`.d()\n"),
            ("javascript", "let a = b;\n/c/.test(d)\n"),
            ("javascript", "let a = b;\n// Low.\n+c\n"),
            ("javascript", "while (a);\nb()\n"),
            ("javascript", "for (;;) {}\n"),
            ("javascript", "class A {\n  static;\n  b() {}\n}\n"),
            ("javascript", "class A {\n  b;\n  *c() {}\n}\n"),
            ("javascript", "class A {\n  b;\n  [c] = 1\n}\n"),
            ("typescript", "let a = b as c;\n<d>e\n"),
            ("javascript", "let a = 1\n;[2].map(b)\n"),
        ],
    );
}

#[test]
fn commas_behind_the_last_item_go() {
    all(
        &["vknot_wrap_comma=remove"],
        &[
            ("javascript", "a(b, [c, d,], { e, },);\n", "a(b, [c, d], { e });\n"),
            ("javascript", "let a = [\n  1,\n  2,\n];\n", "let a = [\n  1,\n  2\n];\n"),
            ("rust", "fn a(b: c,) {\n    d(e,);\n}\n", "fn a(b: c) {\n    d(e);\n}\n"),
            ("rust", "struct A {\n    b: c,\n}\n", "struct A {\n    b: c\n}\n"),
            ("java", "class A {\n    int[] b = {1, 2,};\n}\n", "class A {\n    int[] b = {1, 2};\n}\n"),
            ("c", "int a[] = {1, 2,};\n", "int a[] = {1, 2};\n"),
            ("csharp", "enum A\n{\n    B,\n    C,\n}\n", "enum A\n{\n    B,\n    C\n}\n"),
        ],
    );
    kept(
        &["vknot_wrap_comma=remove"],
        &[
            ("javascript", "let a = [\n  1,,\n];\n"),
            ("rust", "fn a() {\n    let b = (c,);\n}\n"),
            ("rust", "type A = (b,);\n"),
            ("tsx", "const a = <T,>(b: T) => b;\n"),
        ],
    );
}

#[test]
fn comments_get_a_space_behind_their_marker() {
    all(
        &["vknot_comment_space=add"],
        &[
            ("java", "//low\nclass A {} //high\n", "// low\nclass A {} // high\n"),
            ("rust", "///Low.\nfn a() {}\n", "/// Low.\nfn a() {}\n"),
            ("c", "int a; //low\n", "int a; // low\n"),
            ("scss", "//low\n", "// low\n"),
        ],
    );
    kept(
        &["vknot_comment_space=add"],
        &[
            ("go", "//go:build linux\n\npackage a\n\n//export Level\nfunc Level() {}\n"),
            ("java", "class A {\n    //region low\n    int b;\n    //endregion\n}\n"),
            ("csharp", "//------\nclass A { }\n///<summary>\n"),
            ("c", "/*low*/\nint a; //OFF\n"),
        ],
    );
}

#[test]
fn comments_that_are_too_long_go_on_with_the_next_line() {
    let set = ["vknot_comment_wrap=fit", "max_line_length=40"];
    all(&set, &[
        (
            "java",
            "class A {\n    // The level in metres above the zero of\n    // the gauge.\n    int b;\n}\n",
            "class A {\n    // The level in metres above the\n    // zero of the gauge.\n    int b;\n}\n",
        ),
        (
            "java",
            "/**\n * The level in metres above the zero of the gauge.\n *\n * @param a which stays as long as it is\n */\nclass A {}\n",
            "/**\n * The level in metres above the zero of\n * the gauge.\n *\n * @param a which stays as long as it is\n */\nclass A {}\n",
        ),
        (
            "rust",
            "/// - The level in metres above the zero.\n/// - The surge.\nfn a() {}\n",
            "/// - The level in metres above the\n///   zero.\n/// - The surge.\nfn a() {}\n",
        ),
        (
            "css",
            "/* Colours.\n * The level in metres above the zero of it.\n */\na {\n  b: c;\n}\n",
            "/* Colours.\n * The level in metres above the zero of\n * it.\n */\na {\n  b: c;\n}\n",
        ),
        // What the layout moves in is broken where it stands then.
        (
            "javascript",
            "function f() {\n// The level in metres above the zero of.\nreturn 1;\n}\n",
            "function f() {\n  // The level in metres above the zero\n  // of.\n  return 1;\n}\n",
        ),
    ]);
    kept(&set, &[
        ("java", "class A {} // A comment behind code stays as long as it is.\n"),
        ("java", "/* A block on one line stays as long as it is. */\nclass A {}\n"),
        ("rust", "/// | level | surge | tide | ebb | flood |\nfn a() {}\n"),
        ("rust", "/// ```\n/// let level = surge(tide, ebb, flood);\n/// ```\nfn a() {}\n"),
        ("c", "// The level in metres above the zero \\\nint a;\n"),
        ("go", "// lint:allow the level in metres above zero\npackage a\n"),
    ]);
}

#[test]
fn what_its_author_keeps_stays_and_so_do_other_lines() {
    let set = ["vknot_token_quote=double", "vknot_token_semicolon=add"];
    kept(&set, &[("javascript", "// vknot: keep\na('b')\n")]);
    let document = styled("javascript", "a('b')\nc('d')\n", &set);
    let only = [Span::new(9, 9)];
    let request = Request { only: Some(&only), ..Request::default() };
    assert_eq!(step("format").run(&document, &request).unwrap().text(), "a('b')\nc(\"d\");\n");
}

#[test]
fn what_is_written_otherwise_is_on_the_receipt() {
    let text = "//low\na('b', [c,])\n";
    let set = [
        "vknot_token_quote=double",
        "vknot_token_semicolon=add",
        "vknot_wrap_comma=remove",
        "vknot_comment_space=add",
    ];
    let proven = done("format", &styled("javascript", text, &set), Wish::Nothing);
    let Receipt { added, removed, respelled, .. } = proven.receipt();
    let changes = |changes: &[vknot_reshape::TokenChange]| -> Vec<(String, u32)> {
        changes.iter().map(|change| (change.text.clone(), change.token)).collect()
    };
    assert_eq!((changes(added), changes(removed)), (vec![(";".into(), 10)], vec![(",".into(), 7)]));
    let written: Vec<(&str, &str, u32)> =
        respelled.iter().map(|change| (change.old.as_str(), change.new.as_str(), change.first)).collect();
    assert_eq!(written, [("//low", "// low", 0), ("'b'", "\"b\"", 3)]);
}

/// Tries to have a token, or a run of comments, written otherwise.
fn tried(language: &str, text: &str, old: &str, new: &str, tokens: (u32, u32, u32)) -> Result<String, Difference> {
    let offset = text.find(old).unwrap() as u32;
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(offset, offset + old.len() as u32), new);
    let (first, end, count) = tokens;
    reshape.receipt.respelled = vec![Respelled { first, end, offset, old: old.into(), new: new.into(), count }];
    let proven = prove_as("format", &read(language, text), reshape).map_err(|refusal| refusal.reason)?;
    Ok(proven.text().to_owned())
}

#[test]
fn a_spelling_that_says_something_else_is_caught() {
    let spelling = |old: &str, new: &str| Err(Difference::Spelling { old: old.into(), new: new.into() });
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (2, 3, 1)).is_ok());
    assert_eq!(tried("javascript", "a('b');", "'b'", "\"c\"", (2, 3, 1)), spelling("'b'", "\"c\""));
    assert_eq!(tried("javascript", "a('\\n');", "'\\n'", "\"n\"", (2, 3, 1)), spelling("'\\n'", "\"n\""));
    assert_eq!(tried("javascript", "a(b);", "b", "c", (2, 3, 1)), spelling("b", "c"));
    assert!(tried("javascript", "// a b\n", "// a b", "// a\n// b", (0, 1, 2)).is_ok());
    assert_eq!(tried("javascript", "// a b\n", "// a b", "// b a", (0, 1, 1)), spelling("// a b", "// b a"));
    assert_eq!(tried("javascript", "// a b\n", "// a b", "// a\n/* b */", (0, 1, 2)), spelling("// a b", "// a"));
    // A receipt that names other tokens than those.
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (1, 2, 1)).is_err());
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (2, 9, 1)).is_err());
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (2, 2, 1)).is_err());
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (3, 2, 1)).is_err());
    assert!(tried("javascript", "a('b');", "'b'", "\"b\"", (2, 3, 9)).is_err());
    assert!(tried("javascript", "a('b')", "'b'", "\"b\"", (2, 4, 2)).is_err());
    assert!(tried("javascript", "a('b')", "'b'", "\"b\"", (9, 10, 1)).is_err());
    // Several comments as one, and one as several, at the very end of a text.
    assert!(tried("javascript", "a;\n// b\n// c", "// b\n// c", "// b c", (2, 4, 1)).is_ok());
    assert!(tried("javascript", "a;\n// b c", "// b c", "// b\n// c", (2, 3, 2)).is_ok());
    assert!(tried("javascript", "a;\n// b c", "// b c", "// b\n// c", (2, 3, 3)).is_err());
}

/// Settings that write tokens otherwise.
const SETTINGS: &[&[&str]] = &[
    &["keep", "double", "single"],
    &["keep", "add", "remove"],
    &["keep", "add", "remove"],
    &["keep", "add"],
    &["keep", "fit"],
];

const KEYS: [&str; 5] = [
    "vknot_token_quote",
    "vknot_token_semicolon",
    "vknot_wrap_comma",
    "vknot_comment_space",
    "vknot_comment_wrap",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn the_samples_are_proven_and_stable_in_any_spelling(choices in prop::array::uniform5(0..3usize), file in any::<usize>(), width in 40..100u32) {
        let covered = ["javascript", "typescript", "tsx", "css", "scss", "less", "java", "rust", "c", "cpp", "csharp", "go"];
        let files: Vec<_> = sample_files().into_iter().filter(|(_, language, _)| covered.contains(language)).collect();
        let (_, language, text) = &files[file % files.len()];
        let mut set: Vec<String> =
            KEYS.iter().zip(SETTINGS).zip(choices).map(|((key, values), choice)| format!("{key}={}", values[choice % values.len()])).collect();
        set.push(format!("max_line_length={width}"));
        let set: Vec<&str> = set.iter().map(String::as_str).collect();
        done("format", &styled(language, text, &set), Wish::Nothing);
    }
}
