//! `outline`, `fold`, `pairs`, `select`.

use crate::harness::Desk;

#[test]
fn outline_shows_the_tree() {
    let desk = Desk::with_sample();
    snapshot!(desk.run(&["outline", "src", "--depth", "2"]));
    snapshot!("outline_json", desk.run(&["outline", "src/Reading.java", "--output", "json"]));
}

#[test]
fn fold_closes_what_it_is_asked_to() {
    let desk = Desk::with_sample();
    snapshot!("fold_members", desk.run(&["fold", "src/Gauge.java"]));
    snapshot!("fold_only", desk.run(&["fold", "src/Gauge.java", "--only", "imports,comment"]));
    snapshot!("fold_depth", desk.run(&["fold", "data/stations.json", "--depth", "2"]));
    snapshot!("fold_at_a_line", desk.run(&["fold", "src/Gauge.java:56"]));
    snapshot!("fold_around", desk.run(&["fold", "src/Gauge.java@state", "--around"]));
    snapshot!("fold_list", desk.run(&["fold", "src/surge.rs", "--list", "--except", "literal"]));
    snapshot!("fold_json", desk.run(&["fold", "src/Reading.java", "--output", "json"]));
    snapshot!("fold_nothing", desk.run(&["fold", "src/Gauge.java:2", "--only", "block"]));
}

#[test]
fn pairs_finds_partners() {
    let desk = Desk::with_sample();
    snapshot!("pairs_closing", desk.run(&["pairs", "src/Gauge.java:60:3"]));
    snapshot!("pairs_opening", desk.run(&["pairs", "src/surge.rs:24"]));
    snapshot!("pairs_inside", desk.run(&["pairs", "src/Gauge.java:21:53", "--inside"]));
    snapshot!("pairs_around", desk.run(&["pairs", "src/Gauge.java:23:54", "--around"]));
    snapshot!("pairs_all", desk.run(&["pairs", "src/Reading.java"]));
    snapshot!("pairs_json", desk.run(&["pairs", "src/Reading.java:6:69", "--output", "json"]));
}

#[test]
fn pairs_names_the_likely_culprit() {
    let desk = Desk::new();
    desk.write("A.java", "class A {\n  void b() {\n    if (c) {\n      d();\n    e();\n  }\n}\n");
    snapshot!("unpaired", desk.run(&["pairs", "A.java", "--unpaired"]));
    snapshot!("unpaired_place", desk.run(&["pairs", "A.java:1"]));
    snapshot!("unpaired_json", desk.run(&["pairs", "A.java", "--unpaired", "--output", "json"]));
}

#[test]
fn select_climbs_the_ladder() {
    let desk = Desk::with_sample();
    snapshot!("ladder", desk.run(&["select", "src/Gauge.java:55:60"]));
    snapshot!("ladder_json", desk.run(&["select", "data/stations.json:1:5", "--output", "json"]));
    assert_eq!(desk.stdout(&["select", "src/Gauge.java:47:48", "--rung", "0"]), "maximumAge\n");
    snapshot!("rung_missing", desk.run(&["select", "src/Gauge.java:47:48", "--rung", "99"]));
}

#[test]
fn select_goes_straight_to_what_encloses_a_place() {
    let desk = Desk::with_sample();
    let span = |arguments: &[&str]| desk.stdout(&[&["select"], arguments, &["--span"]].concat());
    assert_eq!(span(&["src/Gauge.java:55:60", "--up-to", "type"]), "src/Gauge.java:18:1-70:2\n");
    assert_eq!(span(&["web/index.html:20:12", "--up-to", "element"]), "web/index.html:14:5-20:15\n");
    // From a range, to the next one out.
    assert_eq!(span(&["web/index.html:14:5-20:15", "--up-to", "element"]), "web/index.html:12:3-24:10\n");
    snapshot!("up_to_nothing", desk.run(&["select", "data/stations.json:1:5", "--up-to", "method"]));
}

#[test]
fn shrinking_comes_back_to_the_range_it_began_with() {
    let desk = Desk::with_sample();
    let grown = desk.stdout(&["select", "src/Gauge.java:47:48-47:52", "--grow", "--span"]);
    let back = ["select", grown.trim(), "--shrink", "--from", "47:48-47:52", "--span"];
    assert_eq!(desk.stdout(&back), "src/Gauge.java:47:48-47:52\n");
}

#[test]
fn ladders_name_what_languages_have() {
    let desk = Desk::with_sample();
    snapshot!("ladder_prose", desk.run(&["select", "docs/guide.md:9:5"]));
    snapshot!("ladder_element", desk.run(&["select", "web/index.html:20:12"]));
    snapshot!("ladder_sheet", desk.run(&["select", "web/board.css:4:30"]));
    snapshot!("ladder_c", desk.run(&["select", "firmware/gauge.c:40:45"]));
}

#[test]
fn what_is_printed_as_a_place_is_taken_as_one() {
    let desk = Desk::new();
    desk.write("a@b/Gauge.java", "class Gauge {\n    int level;\n}\n");
    desk.write("board.css", ".card {\n  color: red;\n}\n");
    let whole = desk.stdout(&["select", "a@b/Gauge.java:2:9", "--up-to", "file", "--span"]);
    assert_eq!(whole, "a@b/Gauge.java:1:1-4:1\n");
    assert_eq!(desk.stdout(&["select", whole.trim(), "--rung", "0", "--span"]), whole);
    assert_eq!(desk.stdout(&["select", "board.css@.card", "--rung", "0", "--span"]), "board.css:1:1-3:2\n");
    snapshot!("outline_at_a_line", desk.run(&["outline", "a@b/Gauge.java:2"]));
    snapshot!("outline_of_a_name", desk.run(&["outline", "a@b/Gauge.java@Gauge"]));
    snapshot!("outline_nowhere", desk.run(&["outline", "board.css:9"]));
}

#[test]
fn growing_and_shrinking_are_each_others_way_back() {
    let desk = Desk::with_sample();
    let mut place = "src/Gauge.java:47:48".to_owned();
    let mut grown = Vec::new();
    for _ in 0..5 {
        place = desk.stdout(&["select", &place, "--grow", "--span"]).trim().to_owned();
        grown.push(place.clone());
    }
    for expected in grown.iter().rev().skip(1) {
        place = desk.stdout(&["select", &place, "--shrink", "--from", "47:48", "--span"]).trim().to_owned();
        assert_eq!(place, *expected);
    }
}

#[test]
fn files_of_no_known_language_are_read_by_brackets() {
    let desk = Desk::new();
    desk.write("notes.txt", "tide (low\n  [ebb]\n) done\n");
    snapshot!("plain", desk.run(&["pairs", "notes.txt"]));
    snapshot!("plain_select", desk.run(&["select", "notes.txt:2:5"]));
}
