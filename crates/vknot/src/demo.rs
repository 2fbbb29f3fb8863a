//! The sample project that is built into the program: a made-up network of tide stations.

/// A file of the sample: its path and its text.
pub type SampleFile = (&'static str, &'static str);

/// All files of the sample.
pub const FILES: &[SampleFile] = &[
    (".editorconfig", include_str!("../../../demo/.editorconfig")),
    ("data/stations.json", include_str!("../../../demo/data/stations.json")),
    ("src/Gauge.java", include_str!("../../../demo/src/Gauge.java")),
    ("src/Reading.java", include_str!("../../../demo/src/Reading.java")),
    ("src/surge.rs", include_str!("../../../demo/src/surge.rs")),
];

/// One step of the tour.
pub struct Step {
    /// What a person wants at this point.
    pub wish: &'static str,
    /// The command that does it, without the program's name.
    pub command: &'static str,
    /// How many lines of its output are shown.
    pub lines: usize,
}

const fn step(wish: &'static str, command: &'static str, lines: usize) -> Step {
    Step { wish, command, lines }
}

/// The tour, in order.
pub const TOUR: &[Step] = &[
    step("How does this file hang together?", "outline src/Gauge.java", 24),
    step("Only the members, please, everything else closed.", "fold src/Gauge.java", 40),
    step("What does the brace on line 59 close?", "pairs src/Gauge.java:59", 8),
    step("Take hold of exactly one piece, from the word under the cursor outwards.", "select src/Gauge.java:47:48", 16),
    step("Just put the indentation right.", "indent src/Gauge.java@state", 24),
    step("What would a proper layout change?", "format src/Reading.java", 30),
    step("And in the whole project?", "format --check .", 8),
    step("Accept it.", "format --write .", 8),
    step("Sort the imports, drop the dead ones.", "imports --write src", 10),
    step("What was done so far?", "undo --list", 6),
    step("The last one was too much: take it back.", "undo", 4),
];
