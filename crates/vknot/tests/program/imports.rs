//! `imports` with what is around a file: the project, reasons, choices, what is left out of a run over many files.

use crate::harness::Desk;

const BOARD: &str = "package tide.board;\n\nimport tide.level.*;\nimport java.util.*;\nimport java.lang.String;\nimport tide.board.Frame;\nimport java.io.File; // of the drawings\nimport tide.Gauge;\nimport tide.Surge;\n\n/** Shows a {@link Surge}. */\nclass Board {\n    String name;\n    Gauge gauge;\n}\n";

/// A project of some files in Java and Python.
fn project() -> Desk {
    let desk = Desk::new();
    desk.write("vknot.toml", "");
    desk.write("tide/Gauge.java", "package tide;\n\npublic class Gauge {\n}\n");
    desk.write("tide/board/Board.java", BOARD);
    desk.write("tide/board/Frame.java", "package tide.board;\n\nclass Frame {\n}\n");
    desk.write("tide/level/Level.java", "package tide.level;\n\npublic class Level {\n}\n");
    desk.write("tide/page.py", "import sys\nfrom tide.gauge import read, json\n\nprint(read, json)\n");
    desk.write("tide/gauge.py", "import json\nimport os\n\n\ndef read():\n    return 1\n");
    desk
}

#[test]
fn every_import_has_its_reason() {
    let desk = project();
    snapshot!(desk.run(&["imports", "--explain", "tide/board/Board.java"]));
    snapshot!(desk.run(&["imports", "tide"]));
    let json = desk.stdout(&["imports", "--output", "json", "tide/board/Board.java"]);
    let json: serde_json::Value = serde_json::from_str(&json).unwrap();
    let fates = json["files"][0]["receipt"]["imports"].as_array().unwrap();
    let acts: Vec<&str> = fates.iter().map(|fate| fate["act"].as_str().unwrap()).collect();
    assert!(acts.contains(&"removed") && acts.contains(&"kept"), "{acts:?}");
    assert!(fates.iter().all(|fate| fate["why"].as_str().is_some_and(|why| !why.is_empty())));
}

#[test]
fn what_a_package_offers_stays_in_it_and_in_its_stub() {
    let imports = "from . import gauge, level\n";
    let offered = "\"\"\"All that there is.\"\"\"\nfrom . import gauge, level\n\n__all__ = ['gauge']\n";
    let code = "from . import gauge, level\n\nLOW = 1\n";
    let cases = [
        ("__init__.py", code, true),
        ("__init__.pyi", code, true),
        ("gauge.pyi", code, false),
        // What has nothing else is there for others.
        ("all.py", imports, true),
        ("all.py", offered, true),
    ];
    for (name, text, kept) in cases {
        let desk = Desk::new();
        desk.write("vknot.toml", "");
        desk.write(&format!("tide/{name}"), text);
        desk.stdout(&["imports", "--write", "tide"]);
        assert_eq!(desk.read(&format!("tide/{name}")) == text, kept, "{name}: {text}");
    }
}

#[test]
fn what_other_files_take_stays() {
    let desk = project();
    desk.stdout(&["imports", "--write", "tide"]);
    assert_eq!(desk.read("tide/gauge.py"), "import json\n\n\ndef read():\n    return 1\n");
    assert_eq!(desk.read("tide/page.py"), "from tide.gauge import read, json\n\nprint(read, json)\n");
    assert!(desk.run(&["imports", "--check", "tide"]).ends_with("── exit 0\n"));
    // What nobody takes any more goes with the next run: what is remembered goes by content.
    desk.write("tide/page.py", "print(1)\n");
    desk.stdout(&["imports", "--write", "tide"]);
    assert_eq!(desk.read("tide/gauge.py"), "def read():\n    return 1\n");
}

#[test]
fn what_is_missing_is_imported_or_asked() {
    let desk = project();
    desk.write(
        "web/Page.java",
        "package web;\n\nclass Page {\n    Gauge gauge;\n    List<Level> levels;\n    Unheard other;\n}\n",
    );
    snapshot!(desk.run(&["imports", "--missing", "web/Page.java"]));
    desk.write("web/Page.java", "package web;\n\nclass Page {\n    Gauge gauge;\n    List<Level> levels;\n}\n");
    let chosen = ["imports", "--write", "--missing", "--choose", "List=java.util.List", "web/Page.java"];
    desk.stdout(&chosen);
    snapshot!(desk.read("web/Page.java"));
    assert!(desk.run(&["imports", "--check", "--missing", "web/Page.java"]).ends_with("── exit 0\n"));
    snapshot!(desk.run(&["imports", "--missing", "--choose", "List", "web/Page.java"]));
}

#[test]
fn only_some_of_it_is_done() {
    let desk = project();
    snapshot!(desk.run(&["imports", "--only", "prune", "tide/board/Board.java"]));
    snapshot!(desk.run(&["imports", "--only", "sort", "tide/board/Board.java"]));
    desk.write("a.pas", "unit A;\ninterface\nuses C, B;\nimplementation\nend.\n");
    snapshot!(desk.run(&["imports", "a.pas"]));
}

/// A public class without a constant of its own.
const CLASS: &[u8] = &[0xca, 0xfe, 0xba, 0xbe, 0, 0, 0, 61, 0, 1, 0, 0x21];

#[test]
fn archives_that_are_named_tell_what_they_offer() {
    let desk = Desk::new();
    let mut archive = zip::ZipWriter::new(std::io::Cursor::new(Vec::new()));
    archive.start_file("harbour/Notice.class", zip::write::SimpleFileOptions::default()).unwrap();
    std::io::Write::write_all(&mut archive, CLASS).unwrap();
    let archive = archive.finish().unwrap().into_inner();
    desk.write("lib/harbour.jar", archive);
    desk.write("vknot.toml", "[libraries]\njava = [\"lib\"]\n");
    desk.write("web/Page.java", "package web;\n\nclass Page { Notice notice; }\n");
    desk.write("web/Board.java", "package web;\n\nimport harbour.*;\n\nclass Board {}\n");
    snapshot!(desk.run(&["imports", "--missing", "web"]));
    desk.write("vknot.toml", "[libraries]\njava = [\"lib\", \"jars\"]\n");
    snapshot!(desk.run(&["imports", "--missing", "web"]));
}
