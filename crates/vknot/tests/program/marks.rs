//! `todos`, `sections`, `region`, `pin`, and the project's `vknot.toml`.

use crate::harness::Desk;

#[test]
fn todos_lists_filters_and_counts() {
    let desk = Desk::with_sample();
    snapshot!("todos", desk.run(&["todos", "."]));
    snapshot!("todos_filtered", desk.run(&["todos", ".", "--tag", "fixme", "--output", "json"]));
    snapshot!("todos_author", desk.run(&["todos", "--author", "mira", "--check", "."]));
    snapshot!("todos_count", desk.run(&["todos", "--count", "--text", "the", "--path", "web", "."]));
    snapshot!("todos_sarif", desk.run(&["todos", "web/board.js", "--output", "sarif"]));
}

#[test]
fn sections_are_listed_printed_and_run() {
    let desk = Desk::with_sample();
    snapshot!("sections", desk.run(&["sections", "analysis", "docs"]));
    snapshot!("section_printed", desk.run(&["sections", "docs/guide.md@Withdrawing"]));
    snapshot!("sections_json", desk.run(&["sections", "analysis/harmonics.m", "--output", "json"]));
    snapshot!("section_unknown", desk.run(&["sections", "docs/guide.md@Withdraw"]));
    // What is fed is what comes back.
    snapshot!("section_run", desk.run(&["sections", "run", "analysis/surge.py@Printing", "--with", "cat"]));
    snapshot!("section_run_fence", desk.run(&["sections", "run", "docs/guide.md@Reading a gauge", "--with", "cat"]));
    snapshot!("section_run_cells", desk.run(&["sections", "run", "analysis/levels.ipynb@Surges", "--through", "--with", "cat"]));
    snapshot!("sections_run_in_order", desk.run(&[
        "sections",
        "run",
        "analysis/levels.ipynb@Surges",
        "analysis/surge.py@Printing",
        "--with",
        "cat",
    ]));
    desk.write("tides.txt", "0.4\n0.7\n");
    desk.write("sum.md", "# Read\n```sh\nread low\nread high\n```\n# Sum\n```sh\necho \"$low to $high\"\n```\n");
    let summed = ["sections", "run", "sum.md@Read", "sum.md@Sum", "--with", "sh"];
    let with_input = |file| [summed.as_slice(), &["--input", file]].concat();
    snapshot!("sections_read_input", desk.run(&with_input("tides.txt")));
    snapshot!("sections_without_input", desk.run(&with_input("nowhere.txt")));
    snapshot!("section_without_code", desk.run(&["sections", "run", "docs/guide.md@Notices", "--with", "cat"]));
    snapshot!("section_without_interpreter", desk.run(&["sections", "run", "analysis/harmonics.m@Helpers"]));
}

#[test]
fn code_stands_on_the_lines_it_has_in_its_file() {
    let desk = Desk::new();
    desk.write("gauge.md", "# Ebb\n\n```sh\nebb\n```\n\n# Flow\n\nText.\n\n> ```sh\n> flow\n> ```\n");
    let run = |places: &[&str]| desk.stdout(&[&["sections", "run", "--with", "grep -n ."], places].concat());
    assert_eq!(run(&["gauge.md@Ebb"]), "4:ebb\n");
    assert_eq!(run(&["gauge.md@Flow"]), "12:flow\n");
    assert_eq!(run(&["gauge.md@Ebb", "gauge.md@Flow"]), "4:ebb\n12:flow\n");
    // Behind a later section an earlier one cannot have its lines.
    assert_eq!(run(&["gauge.md@Flow", "gauge.md@Ebb"]), "12:flow\n16:ebb\n");
}

#[test]
fn a_section_ends_as_its_interpreter_does() {
    let desk = Desk::new();
    desk.write("tide.py", "# %% Ebb\nexit 7\n# %% Slack\nkill -TERM $$\n");
    desk.write("vknot.toml", "[interpreters]\npython = \"sh -s\"\n");
    let status = |name: &str| desk.command(&["sections", "run", &format!("tide.py@{name}")]).status().unwrap();
    assert_eq!(status("Ebb").code(), Some(7));
    #[cfg(unix)]
    assert_eq!(std::os::unix::process::ExitStatusExt::signal(&status("Slack")), Some(15));
}

#[test]
fn regions_are_added_where_no_item_is_cut() {
    let desk = Desk::with_sample();
    snapshot!("regions", desk.run(&["region", "list", "."]));
    snapshot!("region_added", desk.run(&["region", "add", "services/notices.go@SendAll", "--name", "Sending all"]));
    snapshot!("region_refused", desk.run(&["region", "add", "web/board.js:10-14", "--name", "Refresh"]));
    let before = desk.read("web/board.js");
    desk.stdout(&["region", "add", "web/board.js@Board.refresh", "--name", "Refresh", "--write"]);
    snapshot!("region_named", desk.run(&["fold", "web/board.js@Refresh", "--only", "region"]));
    desk.stdout(&["region", "remove", "web/board.js@Refresh", "--write"]);
    assert_eq!(desk.read("web/board.js"), before);
    desk.write("lone.py", "# region Ebb\na = 1\n# region Flood\nb = 2\n# endregion\n");
    snapshot!("region_unbalanced", desk.run(&["region", "list", "lone.py"]));
}

#[test]
fn pins_follow_and_are_places() {
    let desk = Desk::with_sample();
    desk.stdout(&["pin", "add", "firmware/gauge.c@gauge_sample", "--name", "sampler", "--note", "ask the harbour"]);
    desk.stdout(&["pin", "add", "rules/surge.rkt:15-22", "--name", "worst rule"]);
    snapshot!("pins_file", desk.read(".vknot/pins.json"));
    snapshot!("pin_taken", desk.run(&["pin", "add", "docs/guide.md:5", "--name", "sampler"]));
    let text = desk.read("firmware/gauge.c").replace("samples", "levels");
    desk.write("firmware/gauge.c", format!("// one\n// two\n{text}"));
    desk.write("rules/surge.rkt", "#lang racket\n");
    snapshot!("pin_list", desk.run(&["pin", "list"]));
    snapshot!("pin_list_json", desk.run(&["pin", "list", "firmware", "--output", "json"]));
    snapshot!("pin_place", desk.run(&["pairs", "firmware/gauge.c@sampler", "--around"]));
    snapshot!("pin_lost_place", desk.run(&["fold", "rules/surge.rkt@worst rule"]));
    snapshot!("pin_in_view", desk.run(&["fold", "firmware/gauge.c"]));
    snapshot!("pin_fold", desk.run(&["fold", "firmware/gauge.c", "--only", "pin"]));
    desk.stdout(&["pin", "move", "worst rule", "docs/guide.md:18-21"]);
    desk.stdout(&["pin", "remove", "sampler"]);
    snapshot!("pin_list_after", desk.run(&["pin", "list", "--refresh"]));
    desk.stdout(&["pin", "add", "docs/guide.md:5", "--name", "spot"]);
    snapshot!("pin_removed_by_place", desk.run(&["pin", "remove", "docs/guide.md:5"]));
    snapshot!("pin_nothing_there", desk.run(&["pin", "remove", "docs/guide.md:5"]));
    snapshot!("pin_unknown", desk.run(&["pin", "remove", "nothing"]));
}

#[test]
fn mistakes_in_the_projects_files_are_reported() {
    let desk = Desk::new();
    desk.write("a.py", "a = 1\n");
    desk.write("vknot.toml", "[todos]\ntgs = []\n");
    snapshot!("bad_project", desk.run(&["outline", "a.py"]));
    desk.write("vknot.toml", "");
    desk.write(".vknot/pins.json", "[]\n");
    snapshot!("bad_pins", desk.run(&["outline", "a.py"]));
}

#[test]
fn one_fold_can_be_looked_into() {
    let desk = Desk::with_sample();
    snapshot!("peek", desk.run(&["fold", "desktop/tides.pas@TTideTable.HeightAt", "--peek"]));
    snapshot!("peek_nowhere", desk.run(&["fold", "desktop/tides.pas", "--peek"]));
    snapshot!("fold_but_conditionals", desk.run(&["fold", "analysis/surge.py", "--except", "conditional,type,section,callable"]));
    snapshot!("fold_conditionals", desk.run(&["fold", "firmware/gauge.c", "--only", "conditional"]));
    snapshot!("fold_page", desk.run(&["fold", "web/index.html", "--only", "element", "--depth", "2"]));
    snapshot!("fold_cells", desk.run(&["fold", "analysis/levels.ipynb"]));
    snapshot!("fold_heading", desk.run(&["fold", "analysis/levels.ipynb@Surges"]));
    snapshot!("section_of_cells", desk.run(&["sections", "analysis/levels.ipynb@Surges"]));
    snapshot!("fold_types_in_view", desk.run(&["fold", "desktop/tides.pas"]));
    snapshot!("fold_notebook", desk.run(&["fold", "analysis/levels.ipynb", "--list", "--except", "literal"]));
}

#[test]
fn tags_and_words_pair_too() {
    let desk = Desk::with_sample();
    snapshot!("pairs_tag", desk.run(&["pairs", "web/index.html:20:6"]));
    snapshot!("pairs_word", desk.run(&["pairs", "analysis/spectrum.m:7:3"]));
    snapshot!("pairs_in_script", desk.run(&["pairs", "web/index.html:27"]));
    desk.write("odd.html", "<div>\n  <p>a\n</section>\n<b>c\n</div>\n");
    snapshot!("pairs_odd_tags", desk.run(&["pairs", "odd.html", "--unpaired"]));
    snapshot!("ladder_in_script", desk.run(&["select", "web/index.html:27:20"]));
    snapshot!("ladder_in_cell", desk.run(&["select", "analysis/levels.ipynb:21:20"]));
}

#[test]
fn what_cannot_be_laid_out_yet_is_said() {
    let desk = Desk::with_sample();
    snapshot!("no_layout", desk.run(&["format", "analysis/surge.py"]));
    snapshot!("language_by_line", desk.pipe(&["outline", "-"], "#!/bin/env python3\ndef ebb(): pass\n"));
}
