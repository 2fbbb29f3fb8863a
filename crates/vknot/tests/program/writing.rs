//! Writing and taking back.

use crate::harness::Desk;

#[test]
fn the_last_run_is_taken_back() {
    let desk = Desk::with_sample();
    let before = desk.read("src/Gauge.java");
    desk.stdout(&["format", "--write", "src"]);
    let formatted = desk.read("src/Gauge.java");
    desk.stdout(&["imports", "--write", "src"]);
    desk.stdout(&["undo"]);
    assert_eq!(desk.read("src/Gauge.java"), formatted);
    snapshot!("undo", desk.run(&["undo"]));
    assert_eq!(desk.read("src/Gauge.java"), before);
    snapshot!("undo_nothing", desk.run(&["undo"]));
    let listed = desk.stdout(&["undo", "--list"]);
    assert_eq!(listed.lines().count(), 2, "{listed}");
    assert!(listed.lines().all(|line| line.contains("taken back")), "{listed}");
}

#[test]
fn a_file_that_changed_since_is_left() {
    let desk = Desk::with_sample();
    desk.stdout(&["format", "--write", "src"]);
    desk.write("src/Gauge.java", "mine now\n");
    let shown = desk.run(&["undo"]);
    assert!(shown.contains("Gauge.java: has changed since; it is left as it is"), "{shown}");
    assert!(shown.ends_with("── exit 2\n"));
    assert_eq!(desk.read("src/Gauge.java"), "mine now\n");
    assert!(desk.read("src/Reading.java").contains("Reading(Instant time,double"), "the others are taken back");
}

#[test]
fn an_older_run_can_be_named() {
    let desk = Desk::new();
    desk.write("a.json", "[1 ]");
    desk.write("b.json", "[2 ]");
    desk.stdout(&["format", "-w", "a.json"]);
    desk.stdout(&["format", "-w", "b.json"]);
    desk.stdout(&["undo", "--run", "1"]);
    assert_eq!((desk.read("a.json").as_str(), desk.read("b.json").as_str()), ("[1 ]", "[2]\n"));
    assert!(desk.run(&["undo", "--run", "9"]).contains("there is no run 9"));
}

#[test]
fn the_journal_is_bounded() {
    let desk = Desk::new();
    for round in 0..54 {
        desk.write("a.json", format!("[{round} ]"));
        desk.stdout(&["format", "-w", "a.json"]);
    }
    let listed = desk.stdout(&["undo", "--list"]);
    assert_eq!(listed.lines().count(), 50, "{listed}");
    assert!(listed.starts_with("  54 "), "{listed}");
}
