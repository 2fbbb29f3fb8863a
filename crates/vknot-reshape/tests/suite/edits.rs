//! Edits by structure: the proof refuses what was not asked for, and what an edit makes holds whatever it is done to.

use proptest::prelude::*;
use vknot_reshape::editing::{Edit, End, Part, Reach, To, about, About};
use vknot_reshape::steps::{Request, Step, StepError, Wish};
use vknot_reshape::{Allowance, Moved, Receipt, Reshape, TokenChange};
use vknot_syntax::{Language, Span};

use crate::support::{prove_as, read, step};

mod names;

/// A replacement, and what its receipt says.
struct Made<'m> {
    edits: &'m [(&'m str, &'m str)],
    added: &'m [(&'m str, u32)],
    removed: &'m [(&'m str, u32)],
    moved: &'m [(u32, u32, u32)],
}

fn refused(language: &str, text: &str, made: &Made<'_>, allowance: Allowance) -> String {
    let mut reshape = Reshape::default();
    for (old, new) in made.edits {
        let start = text.find(old).unwrap() as u32;
        reshape.edits.push(Span::new(start, start + old.len() as u32), new);
    }
    let document = read(language, text);
    let offset = |token: u32| document.tree().tokens().get(token as usize).map_or(0, |token| token.start);
    let change = |(text, token): &(&str, u32)| TokenChange {
        text: (*text).to_owned(),
        offset: offset(*token),
        token: *token,
    };
    reshape.receipt = Receipt {
        added: made.added.iter().map(change).collect(),
        removed: made.removed.iter().map(change).collect(),
        moved: made.moved.iter().map(|(first, end, to)| Moved { first: *first, end: *end, to: *to, rank: 0 }).collect(),
        allowance: Some(allowance),
        ..Receipt::default()
    };
    prove_as("edit", &document, reshape).map_or_else(|refusal| refusal.reason.to_string(), |_| "passed".to_owned())
}

fn nothing() -> Allowance {
    Allowance { texts: Some(Vec::new()), ..Allowance::default() }
}

#[test]
fn a_token_that_was_to_stay_is_not_lost() {
    let made = Made { edits: &[(", hour", "")], added: &[], removed: &[(", hour", 3)], moved: &[] };
    let separators = Allowance { separators: true, ..nothing() };
    assert_eq!(refused("javascript", "f(level, hour);", &made, separators.clone()), "`hour` became ``");
    let gone = Allowance { gone: vec![Span::new(7, 13)], ..separators };
    assert_eq!(refused("javascript", "f(level, hour);", &made, gone), "passed");
}

#[test]
fn nothing_comes_in_that_was_not_asked_for() {
    let made = Made { edits: &[("level", "log(level)")], added: &[("log(", 2), (")", 3)], removed: &[], moved: &[] };
    let asked = |texts: &[&str]| Allowance {
        texts: Some(texts.iter().map(|text| (*text).to_owned()).collect()),
        ..nothing()
    };
    assert_eq!(refused("javascript", "f(level);", &made, asked(&["warn(", ")"])), "`warn()` became `log()`");
    assert_eq!(refused("javascript", "f(level);", &made, asked(&["log(", ")"])), "passed");
    // The same letters in another order are something else, and so is other text.
    let made = Made { edits: &[("()", "(ba)")], added: &[("ba", 2)], removed: &[], moved: &[] };
    assert_eq!(refused("javascript", "f();", &made, asked(&["ab"])), "`ab` became `ba`");
    let made = Made { edits: &[("ebb", "flow")], added: &[("flow", 3)], removed: &[("ebb", 3)], moved: &[] };
    assert_eq!(refused("html", "<p>ebb</p>\n", &made, nothing()), "`` became `flow`");
}

#[test]
fn what_comes_in_is_a_piece_of_its_own_where_it_stands() {
    let placed = |text: &str, (old, new): (&str, &str), came: &str, allowance: Allowance| {
        let start = text.find(old).unwrap() as u32;
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(start, start + old.len() as u32), new);
        let document = read("javascript", text);
        let token = document.tree().token_from(start + old.len() as u32);
        let offset = document.tree().tokens().get(token as usize).map_or(0, |token| token.start);
        reshape.receipt = Receipt {
            added: vec![TokenChange { text: came.to_owned(), offset, token }],
            placed: vec![Span::new(start, start + new.len() as u32)],
            allowance: Some(Allowance { texts: Some(vec![came.to_owned()]), ..allowance }),
            ..Receipt::default()
        };
        prove_as("edit", &document, reshape).map_or_else(|refusal| refusal.reason.to_string(), |_| "passed".to_owned())
    };
    let whole = Allowance { whole: true, ..Allowance::default() };
    let cut = |text: &str| format!("`{text}` would not be a piece of its own there");
    for (text, change, came, expected) in [
        ("x = a * c;", ("a", "a + b"), "+ b", cut("a + b")),
        ("x = (a) * c;", ("a", "a + b"), "+ b", "passed".to_owned()),
        ("f(a, c);", ("a", "a, b"), ", b", "passed".to_owned()),
        ("f(c * a, d);", ("a", "a, b"), ", b", cut("a, b")),
        ("f(a * c, d);", (", d", "+ b, d"), "+ b", cut("+ b, d")),
    ] {
        assert_eq!(placed(text, change, came, whole.clone()), expected, "{text}");
    }
    // Where nothing asks for that, it may be a part of something.
    assert_eq!(placed("f(c * a, d);", ("a", "a, b"), ", b", Allowance::default()), "passed");
    let comments = Allowance { comments: true, ..Allowance::default() };
    assert_eq!(placed("a();", ("a();", "a(); // b"), "// b", Allowance::default()), "passed");
    assert_eq!(placed("a();", ("a();", "a(); b();"), "b();", comments), cut("a(); b();"));
}

#[test]
fn text_that_goes_does_not_come_back_elsewhere() {
    let page = "<p>ebb</p><p></p>\n";
    let tokens = read("html", page).tree().tokens().to_vec();
    let at = |offset: u32| tokens.iter().position(|token| token.start >= offset).unwrap() as u32;
    let gone = Allowance { gone: vec![Span::new(3, 6)], ..nothing() };
    let removed = [("ebb", at(3))];
    let deleted = Made { edits: &[("ebb", "")], added: &[], removed: &removed, moved: &[] };
    assert_eq!(refused("html", page, &deleted, gone.clone()), "passed");
    let added = [("ebb", at(13))];
    let made = Made { edits: &[("ebb", ""), ("<p></p>", "<p>ebb</p>")], added: &added, removed: &removed, moved: &[] };
    assert_eq!(refused("html", page, &made, gone), "`` became `ebb`");
}

#[test]
fn code_in_other_languages_stays_as_it_is() {
    let page = "<p>a</p><script>b(1);</script><p>c</p>\n";
    let cells = "{\"cells\": [{\"cell_type\": \"code\", \"source\": [\"a = 1\\n\", \"b = 2\"]}]}\n";
    for (language, text, old, new) in [
        ("html", page, "1", "2"),
        ("html", page, "b(1);", "b(1); d();"),
        ("html", page, "b(1);", ""),
        ("markdown", "# Tide\n\n```python\na = 1\n```\n", "1", "2"),
        ("notebook", cells, "a = 1", "a = 2"),
    ] {
        let made = Made { edits: &[(old, new)], added: &[], removed: &[], moved: &[] };
        assert_ne!(refused(language, text, &made, nothing()), "passed", "{text}");
    }
    // White space may change.
    let made = Made { edits: &[("b(1)", "b( 1 )")], added: &[], removed: &[], moved: &[] };
    assert_eq!(refused("html", page, &made, nothing()), "passed");
}

#[test]
fn what_moves_stays_in_one_piece() {
    // `a + b` would be taken apart by the operator behind it.
    let text = "x = c * 2; y = a + b;";
    let made = Made {
        edits: &[("c", "a + b"), ("a + b", "c")],
        added: &[],
        removed: &[],
        moved: &[(8, 11, 2), (2, 3, 11)],
    };
    assert_eq!(
        refused("javascript", text, &made, nothing()),
        "`a` is part of `binary_expression` and would become part of `binary_expression`"
    );
}

#[test]
fn what_is_on_the_receipt_must_have_moved() {
    let made = Made { edits: &[("a, b", "b, a")], added: &[], removed: &[], moved: &[] };
    assert_eq!(refused("javascript", "f(a, b);", &made, nothing()), "`a` became `b`");
    let made = Made { moved: &[(4, 5, 2), (2, 3, 5)], ..made };
    assert_eq!(refused("javascript", "f(a, b);", &made, nothing()), "passed");
}

#[test]
fn laws_beyond_the_grammar_are_kept() {
    for (language, text, at, edit, expected) in [
        (
            "java",
            "import a.B;\nclass C { void d() { e(); } }\n",
            0,
            Edit::Move(To::Into(Span::new(34, 34))),
            "`class C { void d() { e(); import a.B; } }` cannot stand like that at line 1 of the result",
        ),
        (
            "java",
            "package a;\nimport b.C;\n",
            0,
            Edit::Move(To::Down(1)),
            "`package a;` cannot stand like that at line 2 of the result",
        ),
        ("python", "if a:\n    b()\n", 10, Edit::Delete, "`if a:` cannot stand like that at line 1 of the result"),
        (
            "python",
            "f(a, b=1)\n",
            2,
            Edit::Move(To::Down(1)),
            "`f(b=1, a)` cannot stand like that at line 1 of the result",
        ),
        (
            "rust",
            "fn a() { b(); }\n",
            9,
            Edit::Push(End::Last, Reach::Count(1)),
            "`fn a() {}` cannot stand like that at line 1 of the result",
        ),
        (
            "go",
            "package a\n\nimport \"b\"\n",
            0,
            Edit::Delete,
            "`import \"b\"` cannot stand like that at line 1 of the result",
        ),
        (
            "c",
            "void f(void)\n{\n  int a;\n  print(a);\n}\n",
            28,
            Edit::Push(End::Last, Reach::Count(1)),
            "`void f(void)` cannot stand like that at line 1 of the result",
        ),
    ] {
        let document = read(language, text);
        let only = [Span::new(at, at)];
        let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
        let error = Step::named("edit").unwrap().run(&document, &request).unwrap_err();
        let StepError::Refused(refusal) = error else { panic!("{text}: {error}") };
        assert_eq!(refusal.reason.to_string(), expected, "{text}");
    }
}

const SAMPLES: [(&str, &str); 5] = [
    (
        "java",
        "class Tide {\n    int level; // low\n\n    /** Says. */\n    void say(int a, String b) {\n        if (a > 0 && b != null) {\n            log(a, b);\n        }\n        rest();\n    }\n}\n",
    ),
    (
        "python",
        "import os\n\ndef say(a, b=2):\n    # first\n    if a:\n        log(a, [b, 1])\n    else:\n        rest()\n    return a + b\n",
    ),
    ("json", "{\n  \"a\": [1, 2, { \"b\": null }],\n  \"c\": \"d\"\n}\n"),
    ("html", "<ul class=\"a\" id=\"b\">\n  <li>one <b>two</b></li>\n  <!-- c -->\n  <li>three</li>\n</ul>\n"),
    ("racket", "(define (say a b)\n  (if a (log a b) [rest]) ; note\n  '(1 2))\n"),
];

fn edits() -> impl Strategy<Value = Edit> {
    let end = prop_oneof![Just(End::First), Just(End::Last)];
    prop_oneof![
        (1u32..3).prop_map(|by| Edit::Move(To::Up(by))),
        (1u32..3).prop_map(|by| Edit::Move(To::Down(by))),
        (1u32..3).prop_map(|by| Edit::Swap(To::Down(by))),
        (1u32..3).prop_map(|times| Edit::Copy(To::Down(1), times)),
        end.clone().prop_map(|end| Edit::Pull(end, Reach::Count(1))),
        end.prop_map(|end| Edit::Push(end, Reach::Count(1))),
        Just(Edit::Delete),
        Just(Edit::Unwrap),
        Just(Edit::Lift),
        Just(Edit::Wrap("(".to_owned())),
    ]
}

/// The letters of a text, sorted, without what parts items.
fn letters(text: &str) -> Vec<char> {
    let mut letters: Vec<char> = text.chars().filter(|c| !c.is_whitespace() && !matches!(c, ',' | ';')).collect();
    letters.sort_unstable();
    letters
}

proptest! {
    #[test]
    fn edits_hold_wherever_they_are_done(sample in 0usize..SAMPLES.len(), at in 0u32..300, edit in edits()) {
        let (language, text) = SAMPLES[sample];
        let at = at.min(text.len() as u32);
        let document = read(language, text);
        let only = [Span::new(at, at)];
        let request = Request { only: Some(&only), wish: Wish::Edit(edit.clone()), ..Request::default() };
        let Ok(proven) = Step::named("edit").unwrap().run(&document, &request) else { return Ok(()) };
        let again = read(language, proven.text());
        prop_assert!(again.tree().errors().count() <= document.tree().errors().count());
        let inside = proven.receipt().placed.iter().all(|span| span.end as usize <= proven.text().len());
        prop_assert!(inside);
        if matches!(edit, Edit::Move(_) | Edit::Swap(_) | Edit::Pull(..) | Edit::Push(..)) {
            prop_assert_eq!(letters(proven.text()), letters(text));
        }
    }

    #[test]
    fn places_reached_are_inside(sample in 0usize..SAMPLES.len(), at in 0u32..300, count in 1u32..3) {
        let (language, text) = SAMPLES[sample];
        let at = Span::new(at.min(text.len() as u32), at.min(text.len() as u32));
        let document = read(language, text);
        for way in [About::Next(count), About::Previous(count), About::First, About::Last, About::Parent(count), About::Child(count)] {
            if let Ok(span) = about(document.code(), at, way, true) {
                prop_assert!(span.end as usize <= text.len() && span.start < span.end);
            }
        }
    }

    /// Every language: nothing panics on what is no code at all.
    #[test]
    fn edits_of_anything_do_not_panic(language in 0usize..24, text in "[a-c(){}<>;,:\"/ \n]{0,40}", at in 0u32..40, edit in edits()) {
        let Some(language) = Language::all().nth(language) else { return Ok(()) };
        let document = read(language.name(), &text);
        let at = at.min(text.len() as u32);
        let only = [Span::new(at, at)];
        let _ = Step::named("edit").unwrap().run(&document, &Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() });
    }
}

#[test]
fn what_cannot_be_done_is_said_with_why() {
    let before = |at: u32| Edit::Move(To::Before(Span::new(at, at)));
    for (language, text, at, edit, expected) in [
        (
            "c",
            "int a;\n#ifdef B\nint c;\n#endif\n",
            16,
            Edit::Move(To::Up(1)),
            "`#ifdef B` would come to stand elsewhere",
        ),
        ("c", "void a(void) { b[c] = d; }", 17, Edit::Delete, "these brackets hold one thing"),
        ("c", "void a(void) { b[c] = d; }", 17, Edit::Copy(To::Down(1), 1), "these brackets hold one thing"),
        ("c", "int a[] = { 1, 2 };", 12, Edit::Unwrap, "these brackets hold 2 items"),
        ("javascript", "a(b, c);\nd();\n", 2, before(9), "an argument cannot stand among what stands at the top"),
        ("javascript", "a(b, c, /* d */ e);\n", 8, Edit::Wrap("f(_)".to_owned()), "a comment cannot be wrapped"),
        (
            "python",
            "from a import b, c\nd()\n",
            14,
            before(19),
            "this cannot stand among what stands at the top of a file",
        ),
        ("go", "package a\n\nfunc b() {}\n", 16, Edit::Wrap("c(_)".to_owned()), "this is"),
        ("matlab", "a(b, c)\n", 2, Edit::Split(Part::Closest), "a line end ends a statement of matlab"),
        ("html", "<a id=\"b\">c</a>", 7, Edit::Lift, "no item is around"),
        ("cpp", "struct A {\n  int b();\nprivate:\n  int c;\n};\n", 24, Edit::Move(To::Up(1)), "there"),
        (
            "cpp",
            "struct A {\n  int b;\nprivate:\n};\n",
            15,
            Edit::Push(End::Last, Reach::Count(1)),
            "`private:` would come to stand elsewhere",
        ),
        (
            "c",
            "void f(int a) {\n  switch (a) {\n  case 1: b();\n  }\n  c();\n}\n",
            33,
            Edit::Pull(End::Last, Reach::Count(1)),
            "a statement cannot stand among arms of a branch",
        ),
        (
            "c",
            "void f(int a) {\n  switch (a) {\n  case 1: b();\n  }\n  c();\n}\n",
            33,
            Edit::Push(End::Last, Reach::Count(1)),
            "an arm of a branch cannot stand among statements",
        ),
    ] {
        let document = read(language, text);
        // A comment, and a name, are meant by their whole spans.
        let end = at + if expected.starts_with("a comment") { 7 } else { u32::from(expected == "this is") };
        let only = [Span::new(at, end)];
        let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
        let said = match step("edit").run(&document, &request) {
            Err(error) => error.to_string(),
            Ok(proven) => format!("made {}", proven.text()),
        };
        assert!(said.starts_with(expected), "{language} {text}: {said}");
    }
}

#[test]
fn what_took_lines_has_lines_of_its_own_among_others_that_share_one() {
    let text = "namespace a { namespace b {\n\nint c() {\n  return 1;\n}\n\nint d() {\n  return 2;\n}\n\n} } // a::b\n";
    for (at, end, made) in [
        (
            42,
            End::First,
            "namespace a {\nint c() {\n  return 1;\n}\n\nnamespace b {\n\nint d() {\n  return 2;\n}\n\n} } // a::b\n",
        ),
        (
            42,
            End::Last,
            "namespace a { namespace b {\n\nint c() {\n  return 1;\n}\n\n}\n\nint d() {\n  return 2;\n}\n} // a::b\n",
        ),
    ] {
        let at = [Span::new(at - 12, at - 12)];
        let wish = Wish::Edit(Edit::Push(end, Reach::Count(1)));
        let request = Request { only: Some(&at), wish, ..Request::default() };
        let proven = step("edit").run(&read("cpp", text), &request).unwrap();
        assert_eq!(proven.text(), made);
    }
}

#[test]
fn no_comma_comes_behind_a_directive() {
    let text = "enum a {\n  B,\n#ifdef C\n  D\n#endif\n};\nenum e { F };\n";
    let at = [Span::new(text.find('F').unwrap() as u32, text.find('F').unwrap() as u32)];
    let into = text.find("B,").unwrap() as u32;
    let wish = Wish::Edit(Edit::Copy(To::Into(Span::new(into, into)), 1));
    let request = Request { only: Some(&at), wish, ..Request::default() };
    let proven = step("edit").run(&read("c", text), &request);
    assert!(proven.is_ok_and(|proven| !proven.text().contains("#endif,")));
}

/// Where the last item shares its line with what closes the list.
#[test]
fn a_copy_stands_behind_the_last_of_items_on_lines_of_their_own() {
    for (language, text, item, made) in [
        (
            "java",
            "class A {\n    int b = c(\n        d,\n        e);\n}\n",
            "e)",
            "        d,\n        e,\n        e);\n",
        ),
        ("css", ".a,\n.b {\n  c: d;\n}\n", "b {", ".a,\n.b,\n.b {\n"),
        ("scss", ".a,\n.b-#{$c} {\n  d: e;\n}\n", "b-", ".a,\n.b-#{$c},\n.b-#{$c} {\n"),
        ("css", ".a, .b {\n  c: d;\n}\n", "b {", ".a, .b, .b {\n"),
        ("python", "a = [\n    b,  # c\n    d]  # e\n", "d]", "    b,  # c\n    d,\n    d]  # e\n"),
    ] {
        let at = text.find(item).unwrap() as u32;
        let at = [Span::new(at, at)];
        let request = Request { only: Some(&at), wish: Wish::Edit(Edit::Copy(To::Down(1), 1)), ..Request::default() };
        let proven = step("edit").run(&read(language, text), &request).unwrap();
        assert!(proven.text().contains(made), "{language}: {}", proven.text());
    }
}

#[test]
fn a_form_that_comes_in_past_a_comment_has_a_line_of_its_own() {
    for (language, text, made) in [
        (
            "scheme",
            "(define (a b)\n  (c b))\n\n; d\n\n(define e 1)\n",
            "(define (a b)\n  (c b)\n\n  (define e 1))\n\n; d\n",
        ),
        ("racket", "(a (b)) ; c\n(d)\n", "(a (b) (d)) ; c\n"),
    ] {
        let at = [Span::new(1, 1)];
        let wish = Wish::Edit(Edit::Pull(End::Last, Reach::Count(1)));
        let request = Request { only: Some(&at), wish, ..Request::default() };
        assert_eq!(step("edit").run(&read(language, text), &request).unwrap().text(), made);
    }
}

#[test]
fn one_error_does_not_grow_to_hold_what_was_sound() {
    // One error before and after, but afterwards it holds the second list.
    let made = Made { edits: &[("3]", "3")], added: &[], removed: &[("]", 11)], moved: &[] };
    let free = Allowance { free: true, ..Allowance::default() };
    let said = refused("json", "[{\"a\" 1}, {\"c\": [3]}]", &made, free);
    assert!(said.starts_with("a syntax error would come up"), "{said}");
}

#[test]
fn what_passes_a_bracket_comes_back_to_the_same_bytes() {
    let mut tried = 0;
    for (language, text, at) in [
        ("racket", "(define (f x)\n  (when x\n    (g))\n  (h))\n", 26),
        ("racket", "(a (b ; c\n    d)\n   e)\n", 4),
        ("clojure", "(let [a 1\n      b 2]\n  (c a) (d b))\n", 24),
        ("scheme", "(a)\n(b c)\n\n(d)\n", 5),
        ("html", "<p><u>a</u> <b>c</b> <i>d</i></p>\n", 15),
        ("html", "<ul>\n  <li>a</li>\n  <li>b</li>\n</ul>\n", 11),
        // Text that comes to stand beside other text is one with it.
        ("html", "<p><b></b><i>d</i></p>\n", 6),
        ("json", "[1, [2, 3], 4]\n", 5),
        ("javascript", "f(a, [b], c);\n", 6),
        ("javascript", "if (a) {\n  b();\n}\n\nc();\n", 11),
        // Behind a label at the end, and a directive, and in the column of what stands there.
        ("cpp", "class A {\n  int b();\n\nprivate:\n  int c;\n};\n\n\nint d;\n", 14),
        ("c", "void a(void) {\n  b();\n#ifdef C\n  c();\n#endif\n}\n\nint d;\n", 18),
        ("python", "def f():\n    # b\n    c()\n\n\nd()\n", 19),
        ("python", "if a:\n    b()\nc()", 10),
        ("go", "package a\n\nfunc b() {\n\tif c {\n\t\td()\n\t}\n\te()\n}\n", 32),
    ] {
        for (end, way) in [(End::First, "first"), (End::Last, "last")] {
            for (there, back) in [
                (Edit::Pull(end, Reach::Count(1)), Edit::Push(end, Reach::Count(1))),
                (Edit::Push(end, Reach::Count(1)), Edit::Pull(end, Reach::Count(1))),
            ] {
                let done = |text: &str, at: u32, edit: &Edit| {
                    let document = read(language, text);
                    let only = [Span::new(at, at)];
                    let request = Request { only: Some(&only), wish: Wish::Edit(edit.clone()), ..Request::default() };
                    step("edit").run(&document, &request).ok()
                };
                let Some(proven) = done(text, at, &there) else { continue };
                let inside = proven.edits().moved(at);
                let gone = proven.edits().iter().any(|(span, _)| span.start <= at && at < span.end);
                if gone {
                    continue;
                }
                tried += 1;
                let again = done(proven.text(), inside, &back).map(|back| back.text().to_owned());
                assert_eq!(again.as_deref(), Some(text), "{language} {there:?} {way}\n{}", proven.text());
            }
        }
    }
    // What cannot be done there, as where nothing is in front, is not counted.
    assert!(tried >= 21, "{tried}");
}
