//! Wildcards of Java: written name by name, and put in the place of single imports, where all names are known.

use std::sync::Arc;

use vknot_reshape::{Act, Alone, Declared, declared, Index, Surroundings, Wanted};
use vknot_reshape::steps::{Proven, Request, Wish};

use crate::proofs::rewritten;
use crate::support::{read, step, styled};

/// A project in which one package has a `List` and a `Gauge`, and another a `Map`.
struct Project(Arc<Index>);

impl Project {
    fn new() -> Project {
        let files = [
            ("tide/List.java", "package tide;\npublic class List {}\n"),
            ("tide/Gauge.java", "package tide;\npublic class Gauge {}\n"),
            ("web/Map.java", "package web;\npublic class Map {}\n"),
        ];
        let declared = |(place, text): (&str, &str)| declared(read("java", text).code(), place).unwrap();
        Project(Arc::new(Index::of(files.map(declared).into_iter().collect::<Vec<Declared>>())))
    }
}

impl Surroundings for Project {
    fn index(&self) -> Option<Arc<Index>> {
        Some(Arc::clone(&self.0))
    }

    fn place(&self) -> Option<String> {
        Some("web/Page.java".to_owned())
    }

    fn name(&self) -> Option<String> {
        None
    }
}

/// What becomes of imports in a file of the package `harbour` that uses some types.
fn run(imports: &str, uses: &str, value: &str, around: &dyn Surroundings) -> Proven {
    let text = format!("package harbour;\n\n{imports}\nclass Page {{ {uses} }}\n");
    let document = styled("java", &text, &[&format!("vknot_import_wildcard={value}")]);
    let wish = Wish::Imports(Wanted::default());
    let request = Request { wish, around: Some(around), ..Request::default() };
    let proven = step("imports").run(&document, &request).unwrap();
    let again = step("imports").run(proven.document(), &request).unwrap();
    assert_eq!(again.text(), proven.text());
    proven
}

fn imports(proven: &Proven) -> String {
    let lines = proven.text().lines().filter(|line| line.starts_with("import"));
    lines.map(|line| line.trim_start_matches("import ").trim_end_matches(';')).collect::<Vec<_>>().join(" ")
}

fn becomes(before: &str, uses: &str, value: &str, after: &str) {
    let before: String = before.split(' ').map(|name| format!("import {name};\n")).collect();
    let proven = run(&before.replace("static_", "static "), uses, value, &Project::new());
    assert_eq!(imports(&proven), after.replace("static_", "static "), "{value}: {uses}");
}

#[test]
fn a_wildcard_is_written_name_by_name() {
    becomes("java.util.*", "List<Map<A, Set>> a;", "expand", "java.util.*");
    becomes("java.util.*", "List<Map<Integer, Set>> a;", "expand", "java.util.List java.util.Map java.util.Set");
    becomes("java.util.*", "List<Map<Integer, Set>> a;", "keep", "java.util.*");
    becomes("java.util.* tide.*", "Set<Gauge> a;", "expand", "java.util.Set tide.Gauge");
    // What is imported by name, declared here, or a member of something else is not meant.
    becomes(
        "java.util.* tide.List",
        "List a; Set b; class Map {} Map c = d.Date;",
        "expand",
        "java.util.Set tide.List",
    );
    // Where two have it, or what it brings in is not known, it stays.
    becomes("java.util.* tide.*", "List<Gauge> a;", "expand", "java.util.* tide.*");
    becomes("java.util.* unheard.*", "Set a;", "expand", "java.util.* unheard.*");
    becomes("java.util.* static_tide.Gauge.*", "Set a;", "expand", "java.util.* static_tide.Gauge.*");
}

#[test]
fn single_imports_become_a_wildcard() {
    let used = "List<Map<Integer, Set>> a;";
    becomes("java.util.List java.util.Map java.util.Set", used, "3", "java.util.*");
    becomes("java.util.List java.util.Map java.util.Set", used, "4", "java.util.List java.util.Map java.util.Set");
    becomes("java.util.* java.util.Map java.util.Set", "Map<Integer, Set> a;", "3", "java.util.*");
    // A name that another package of the same kind has would be told no more.
    becomes("java.util.List java.util.Set tide.*", "List<Set> a; Gauge b;", "2", "java.util.List java.util.Set tide.*");
    becomes(
        "java.lang.reflect.Method java.lang.reflect.Parameter java.lang.foreign.Linker",
        "Method a; Parameter b; Linker c; Module d;",
        "2",
        "java.lang.foreign.Linker java.lang.reflect.*",
    );
    becomes(
        "tide.Gauge tide.List java.util.Map java.util.Set",
        "Gauge a; List b; Map c; Set d;",
        "2",
        "tide.Gauge tide.List java.util.*",
    );
    // Nor would one that comes with a wildcard of another run of imports.
    let parted =
        "import tide.Gauge;\nimport tide.List;\n\n// of notices\n\nimport java.util.Map;\nimport java.util.Set;\n";
    let proven = run(parted, "Gauge a; List b; Map c; Set d;", "2", &Project::new());
    assert_eq!(imports(&proven), "tide.* java.util.Map java.util.Set");
    // A type of the own package would be nearer than that of a wildcard.
    let text = "import java.util.Map;\nimport java.util.Set;\n";
    let own = format!("package web;\n\n{text}\nclass Page {{ Map<Integer, Set> a; }}\n");
    let document = styled("java", &own, &["vknot_import_wildcard=2"]);
    let wish = Wish::Imports(Wanted::default());
    let project = Project::new();
    let request = Request { wish, around: Some(&project), ..Request::default() };
    let proven = step("imports").run(&document, &request).unwrap();
    assert_eq!(proven.text(), own);
    let kept = proven.receipt().imports.iter().find(|fate| fate.act == Act::Kept).unwrap();
    assert_eq!(kept.why, "no wildcard takes its place: its own package has a Map, too");
}

#[test]
fn where_the_package_is_not_known_all_stays() {
    for value in ["expand", "2"] {
        let text = "import java.util.*;\nimport java.util.function.Function;\nimport java.util.function.Supplier;\n";
        let proven = run(text, "Set<Function<Supplier, Integer>> a;", value, &Alone);
        assert!(proven.text().contains(text), "{}", proven.text());
    }
    // A comment of its own stays with its import.
    let text = "import java.util.Map; // of notices\nimport java.util.Set;\n";
    let proven = run(text, "Map<Set, Set> a;", "2", &Project::new());
    assert!(proven.text().contains(text), "{}", proven.text());
}

#[test]
fn a_wildcard_that_is_not_on_the_receipt_does_not_pass() {
    let single = "import java.util.Map;\nclass A { Map b; }\n";
    let wildcard = "import java.util.*;\nclass A { Map b; }\n";
    assert!(rewritten("imports", "java", single, wildcard, &[]).is_err());
    assert!(rewritten("imports", "java", wildcard, single, &[]).is_err());
}
