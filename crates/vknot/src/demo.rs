//! The sample project that is built into the program: a made-up network of tide stations.

/// A file of the sample: its path and its text.
pub type SampleFile = (&'static str, &'static str);

/// All files of the sample.
pub const FILES: &[SampleFile] = &[
    (".editorconfig", include_str!("../../../demo/.editorconfig")),
    ("analysis/harmonics.m", include_str!("../../../demo/analysis/harmonics.m")),
    ("analysis/levels.ipynb", include_str!("../../../demo/analysis/levels.ipynb")),
    ("analysis/spectrum.m", include_str!("../../../demo/analysis/spectrum.m")),
    ("analysis/surge.py", include_str!("../../../demo/analysis/surge.py")),
    ("data/stations.json", include_str!("../../../demo/data/stations.json")),
    ("desktop/Notices.cs", include_str!("../../../demo/desktop/Notices.cs")),
    ("desktop/tides.pas", include_str!("../../../demo/desktop/tides.pas")),
    ("docs/guide.md", include_str!("../../../demo/docs/guide.md")),
    ("firmware/Station.cpp", include_str!("../../../demo/firmware/Station.cpp")),
    ("firmware/gauge.c", include_str!("../../../demo/firmware/gauge.c")),
    ("game/harbour.gd", include_str!("../../../demo/game/harbour.gd")),
    ("reports/levels.dax", include_str!("../../../demo/reports/levels.dax")),
    ("rules/notices.scm", include_str!("../../../demo/rules/notices.scm")),
    ("rules/stations.clj", include_str!("../../../demo/rules/stations.clj")),
    ("rules/surge.rkt", include_str!("../../../demo/rules/surge.rkt")),
    ("services/notices.go", include_str!("../../../demo/services/notices.go")),
    ("src/Gauge.java", include_str!("../../../demo/src/Gauge.java")),
    ("src/Reading.java", include_str!("../../../demo/src/Reading.java")),
    ("src/surge.rs", include_str!("../../../demo/src/surge.rs")),
    ("vknot.toml", include_str!("../../../demo/vknot.toml")),
    ("web/StationCard.tsx", include_str!("../../../demo/web/StationCard.tsx")),
    ("web/board.css", include_str!("../../../demo/web/board.css")),
    ("web/board.js", include_str!("../../../demo/web/board.js")),
    ("web/board.scss", include_str!("../../../demo/web/board.scss")),
    ("web/index.html", include_str!("../../../demo/web/index.html")),
    ("web/station.ts", include_str!("../../../demo/web/station.ts")),
    ("web/theme.less", include_str!("../../../demo/web/theme.less")),
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
    step(
        "The same in any language, also for code inside other code.",
        "outline web/index.html analysis/levels.ipynb",
        24,
    ),
    step("Look into one closed piece, leave the rest closed.", "fold desktop/tides.pas@HeightAt --peek", 14),
    step("What is still to be done?", "todos --count .", 8),
    step(
        "Remember these lines, whatever happens above them.",
        "pin add firmware/gauge.c@gauge_sample --name sampler",
        4,
    ),
    step("Give a piece a name in the code itself.", "region add services/notices.go@SendAll --name All", 14),
    step("Just put the indentation right.", "indent src/Gauge.java@state", 24),
    step("What would a proper layout change?", "format src/Reading.java", 30),
    step("And in the whole project?", "format --check .", 8),
    step("Accept it.", "format --write .", 8),
    step("Sort the imports, drop the dead ones.", "imports --write src", 10),
    step("What was done so far?", "undo --list", 6),
    step("The last one was too much: take it back.", "undo", 4),
];
