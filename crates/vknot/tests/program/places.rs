//! Places, and what is said of those that do not exist.

use crate::harness::Desk;

#[test]
fn places_that_do_not_exist_say_what_there_is() {
    let desk = Desk::with_sample();
    let places = [
        "src/Gauge.java:900",
        "src/Gauge.java:2:9",
        "src/Gauge.java:20:200",
        "src/Gauge.java:0",
        "src/Gauge.java:9-3",
        "src/Gauge.java:9:2-8:1",
        "src/Gauge.java@recrod",
        "src/Gauge.java@Gauge.nothing",
        "src/Nowhere.java",
        "src",
    ];
    let said: Vec<String> = places.iter().map(|place| desk.run(&["select", place])).collect();
    snapshot!(said.concat());
}

#[test]
fn names_lead_to_items() {
    let desk = Desk::with_sample();
    assert!(desk.stdout(&["select", "src/Gauge.java@Gauge.highest", "--rung", "0"]).contains("orElse(datum)"));
    assert!(desk.stdout(&["select", "data/stations.json@stations.2.maintenance.due", "--rung", "0"]).contains("2031-05-01"));
    desk.write("two.rs", "mod a { fn x() {} }\nmod b { fn x() {} }\n");
    snapshot!(desk.run(&["select", "two.rs@x"]));
    assert_eq!(desk.stdout(&["select", "two.rs@b.x", "--rung", "0"]), "fn x() {}\n");
}

#[test]
fn columns_count_characters() {
    let desk = Desk::new();
    desk.write("a.json", "{\"höhe 𝄞\": \"x\"}\n");
    assert_eq!(desk.stdout(&["select", "a.json:1:13", "--rung", "0"]), "x\n");
}
