//! JSON: objects and arrays, comments, indentation.

use crate::support::{formatted, indented, shown};

#[test]
fn values_are_laid_out() {
    let case = |text: &str, set: &[&str]| formatted("json", text, set);
    snapshot!(shown(&[
        ("small", case("{\"a\":1,\"b\":[ ],\"c\":{ }}", &[])),
        ("broken by its author", case("{\n\"a\":1,\"b\":{\"c\":[1,2]}}", &[])),
        ("too long", case("{\"station\":\"North Harbour\",\"levels\":[1.25,1.5],\"open\":true}", &["max_line_length=40"])),
        ("numbers fill lines", case("[1.25,2.5,3.75,4.25,5.5,6.75,7.25,8.5,9.75,10.25]", &["max_line_length=30"])),
        ("rows stay", case("[\n1,2,\n3,4]", &[])),
        ("one a line stays", case("[\n\"a\",\n\"b\"\n]", &[])),
        ("comments", case("// head\n{\n\"a\":1, // one\n/* two */\"b\":2\n}", &[])),
        ("blank lines", case("{\n\"a\":1,\n\n\n\"b\":2}", &[])),
        ("several documents", case("{\"a\":1}\n[2]", &[])),
    ]));
}

#[test]
fn scalars_and_odd_files() {
    for (text, expected) in [
        ("3", "3\n"),
        ("", ""),
        (" \n ", " \n "),
        ("\"a\\u00e9\"", "\"a\\u00e9\"\n"),
        ("[]", "[]\n"),
        ("{\"a\":1}\r\n", "{ \"a\": 1 }\r\n"),
        ("{\u{a0}\"a\": 1}", "{\u{a0}\"a\": 1 }\n"),
    ] {
        assert_eq!(formatted("json", text, &[]), expected, "{text:?}");
    }
    let unended = formatted("json", "[1 ]", &["insert_final_newline=false"]);
    assert_eq!(unended, "[1]");
}

#[test]
fn lines_are_indented() {
    let text = "{\n\"a\": [\n1,\n{\n\"b\": 2\n}\n]\n}\n";
    assert_eq!(indented("json", text, &[]), "{\n  \"a\": [\n    1,\n    {\n      \"b\": 2\n    }\n  ]\n}\n");
}

#[test]
fn wide_characters_count_by_their_width() {
    let text = "[\"潮位潮位潮位潮位\", \"潮位潮位潮位潮位\"]";
    assert_eq!(formatted("json", text, &["max_line_length=39"]).lines().count(), 4);
    assert_eq!(formatted("json", text, &["max_line_length=40"]).lines().count(), 1);
}
