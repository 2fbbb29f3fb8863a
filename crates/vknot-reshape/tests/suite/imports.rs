//! Imports: order, groups, merging and pruning, per language; and wrong results, which the proof must catch.

use std::sync::Arc;

use vknot_reshape::{Act, Acts, Alone, Declared, declared, Index, Surroundings, Wanted};
use vknot_reshape::steps::{Proven, Request, Wish};

use crate::proofs::rewritten;
use crate::support::{done, organized, read, step, styled};

/// A project of some files in one language.
pub struct Project {
    index: Arc<Index>,
    place: String,
}

impl Project {
    pub fn of(language: &str, place: &str, files: &[(&str, &str)]) -> Project {
        let declared = |(place, text): &(&str, &str)| declared(read(language, text).code(), place).unwrap();
        let files: Vec<Declared> = files.iter().map(declared).collect();
        Project { index: Arc::new(Index::of(files)), place: place.to_owned() }
    }
}

impl Surroundings for Project {
    fn index(&self) -> Option<Arc<Index>> {
        Some(Arc::clone(&self.index))
    }

    fn place(&self) -> Option<String> {
        Some(self.place.clone())
    }

    fn name(&self) -> Option<String> {
        Some("tide.example/network".to_owned())
    }
}

pub fn run(language: &str, text: &str, set: &[&str], wanted: Wanted, around: &dyn Surroundings) -> Proven {
    let document = styled(language, text, set);
    let request = Request { wish: Wish::Imports(wanted), around: Some(around), ..Request::default() };
    step("imports").run(&document, &request).unwrap()
}

pub fn with(language: &str, text: &str, set: &[&str]) -> String {
    run(language, text, set, Wanted::default(), &Alone).text().to_owned()
}

#[test]
fn each_language_has_its_order() {
    let python = "\"\"\"Tides.\"\"\"\nfrom __future__ import annotations\nimport sys, os\nfrom tide import surge, level\nimport json\nfrom . import near\nfrom tide import gauge\nimport noise  # kept: it registers\n\nprint(sys, os, surge, level, gauge, near)\n";
    snapshot!(with("python", python, &[]));
    let script = "import z from './z';\nimport { level, surge } from 'tide';\nimport * as fs from 'fs';\nimport { gauge } from 'tide';\nimport unused from 'u';\nimport './board.css';\nimport b from 'b';\nimport a from 'a';\n\nexport const all = [z, level, surge, fs, gauge, a, b];\n";
    snapshot!(with("typescript", script, &[]));
    let csharp = "using Tide;\nusing System.Text;\nusing System;\nusing System.Linq;\nusing static System.Math;\nusing Reading = Tide.Level;\n\nclass Board { Reading r; int Most() => levels.Where(l => l > 0).Count(); Console c; }\n";
    snapshot!(with("csharp", csharp, &[]));
    let go = "package board\n\nimport (\n\t\"os\"\n\t\"fmt\"\n\t_ \"tide/driver\"\n\t\"strings\"\n\t\"bytes\"\n\n\t\"tide.example/network/surge\"\n)\n\nfunc show() { fmt.Println(bytes.Buffer{}, surge.Most()) }\n";
    snapshot!(with("go", go, &[]));
}

#[test]
fn what_is_in_some_order_stays() {
    let kept = [
        ("java", "import static a.B.c;\n\nimport b.D;\nimport java.util.List;\n\nclass E { D d = c(); List<D> l; }\n"),
        ("java", "import b.D;\nimport java.util.List;\n\nimport static a.B.c;\n\nclass E { D d = c(); List<D> l; }\n"),
        ("python", "from a import c\nimport b\nfrom d import e\nfrom f import B, a, C\nprint(a, b, c, e, B, C)\n"),
        ("python", "from a import c\nimport b\nfrom d import e\nprint(b, c, e)\n"),
        // What is far first, or last.
        ("python", "from ... import a\nfrom ..b import c\nfrom . import d\nfrom .e import f\nprint(a, c, d, f)\n"),
        ("python", "from . import d\nfrom .e import f\nfrom ..b import c\nprint(c, d, f)\n"),
        ("python", "from a import c\nfrom a import d as e\nprint(c, e)\n"),
        // Far first, behind what is named from the root.
        (
            "python",
            "import a\nimport b\nfrom c import d\nfrom tide.e import f\nfrom ...g import h\nfrom .i import j\nprint(a, b, d, f, h, j)\n",
        ),
        // Where another name has its place between two imports.
        ("python", "from a import b, c\nfrom a import d as e\nfrom a import f, g\nprint(b, c, e, f, g)\n"),
        ("python", "from a import _LOW, Gauge, _read, _Surge\nprint(_LOW, Gauge, _read, _Surge)\n"),
        ("rust", "use self::a::B;\nuse crate::c::{D, e};\nuse std::fmt;\n\nuse b::C;\n"),
        ("rust", "use std::env;\nuse std::fs;\nuse std::path;\n"),
        // Functions, types, constants; names that begin alike by capitals first.
        (
            "rust",
            "use a::{self, read, warn_at, CertReq, Certificate, Gauge, A, ZERO};\nuse b::tide::low;\nuse b::Tide;\n",
        ),
        ("rust", "use a::level::read;\nuse a::TimeZone;\nuse a::Timelike;\nuse a::{Gauge, Surge};\n"),
        // What comes from whole libraries stays apart though lists are made of the rest.
        ("rust", "use a::b::{C, D};\nuse a::e::{F, G};\nuse a::h::{I, J};\nuse std::fmt;\nuse std::io;\n"),
        // The project's own first, in each of the groups.
        ("rust", "use crate::a::B;\nuse std::fmt;\n\nuse super::c::D;\nuse crate::e::F;\n"),
        ("rust", "use a::{b::c::D, b::e::F, G};\n"),
        (
            "javascript",
            "import { b, A, c } from 'z';\nimport d from './d';\n\nimport './side';\nimport e from 'a';\nd(A, b, c, e);\n",
        ),
    ];
    for (language, text) in kept {
        assert_eq!(with(language, text, &[]), text, "{language}");
    }
}

#[test]
fn imports_of_one_place_are_merged_unless_that_is_how_they_are_meant() {
    let apart = "use a::b::C;\nuse a::b::{D, E};\n";
    let merged = "use a::b::{C, D, E};\n";
    assert_eq!(with("rust", apart, &[]), apart, "in order");
    assert_eq!(with("rust", "use a::b::{D, E};\nuse a::b::C;\nuse a::a;\n", &[]), format!("use a::a;\n{merged}"), "a jumble");
    let lists = "use a::f::{G, H};\nuse a::i::{J, K};\nuse a::l::{M, N};\n";
    assert_eq!(with("rust", &format!("{apart}{lists}"), &[]), format!("{merged}{lists}"), "most are");
    assert_eq!(with("rust", apart, &["vknot_import_merge=merge"]), merged, "as set");
    let nested = "use a::{b::C, b::D, E};\n";
    assert_eq!(with("rust", nested, &["vknot_import_merge=merge"]), "use a::{b::{C, D}, E};\n", "inside one");
    let other = "from a import b as c, d\nfrom a import e as f\nfrom z import y as x, w\nfrom v import u as t, s\nprint(c, d, f, x, w, t, s)\n";
    assert!(with("python", other, &[]).contains("from a import b as c, d, e as f\n"), "lists of other names are usual");
    let script = "import { b } from 'a';\nimport { c } from 'a';\nb(c);\n";
    assert_eq!(with("javascript", &script.replace("{ c }", "{ c, d }").replace("(c)", "(c, d)"), &[]), "import { b, c, d } from 'a';\nb(c, d);\n");
    assert_eq!(with("javascript", script, &[]), script, "none of them is a list");
}

#[test]
fn groups_may_stand_beside_each_other_without_a_blank_line() {
    let uses = "\nclass B {\n    Map<Gauge, Chart, List> level;\n}\n";
    let apart = format!("import tide.Gauge;\n\nimport javax.tide.Chart;\n\nimport java.util.List;\n{uses}");
    let beside = apart.replace("Chart;\n\n", "Chart;\n");
    assert_eq!(with("java", &beside, &[]), beside, "as its author has it");
    assert_eq!(with("java", &apart, &["vknot_import_groups=other, javax+java"]), beside);
    assert_eq!(with("java", &beside, &["vknot_import_groups=other, javax, java"]), apart);
    let turned = beside.replace(
        "import javax.tide.Chart;\nimport java.util.List;",
        "import java.util.List;\nimport javax.tide.Chart;",
    );
    assert_eq!(with("java", &beside, &["vknot_import_groups=other, java+javax"]), turned);
}

#[test]
fn groups_are_as_set() {
    let text = "import a.Zero;\nimport java.util.List;\nimport tide.Gauge;\n\nclass B { List<Gauge> l; Zero z; }\n";
    let set = ["vknot_import_groups=own, standard, other", "vknot_import_own=tide"];
    let sorted =
        "import tide.Gauge;\n\nimport java.util.List;\n\nimport a.Zero;\n\nclass B { List<Gauge> l; Zero z; }\n";
    assert_eq!(with("java", text, &set), sorted);
    let flat = sorted.replacen("\n\n", "\n", 2);
    assert_eq!(with("java", text, &[set[0], set[1], "vknot_import_blank=0"]), flat);
}

#[test]
fn only_what_is_asked_for_is_done() {
    let text = "import { b } from 'm';\nimport { u } from 'u';\nimport { a } from 'm';\na(b);\n";
    let only = |acts: Acts| {
        run("javascript", text, &["vknot_import_merge=merge"], Wanted { acts, ..Wanted::default() }, &Alone)
            .text()
            .to_owned()
    };
    let none = Acts { sort: false, group: false, merge: false, prune: false };
    assert_eq!(only(none), text);
    assert_eq!(only(Acts { prune: true, ..none }), "import { b } from 'm';\nimport { a } from 'm';\na(b);\n");
    assert_eq!(only(Acts { merge: true, ..none }), "import { b, a } from 'm';\nimport { u } from 'u';\na(b);\n");
    assert_eq!(only(Acts { sort: true, ..none }), "import { b } from 'm';\nimport { a } from 'm';\nimport { u } from 'u';\na(b);\n");
}

#[test]
fn what_is_merged_keeps_to_the_width_that_the_file_had() {
    let text = "\
use tide::gauges::{
    Gauge, GaugeKind, GaugeLevel, GaugeName, GaugePlace, GaugeReader, GaugeReading, GaugeZero,
};
use tide::gauges::{GaugeStation, GaugeStationName, GaugeStationPlace, GaugeTide, GaugeZone};

fn read() {}
";
    let merged = with("rust", text, &["vknot_import_merge=merge"]);
    assert!(merged.lines().any(|line| line.len() > 80) && merged.matches("use").count() == 1, "{merged}");
}

#[test]
fn modules_are_told_from_what_is_called_so() {
    let text = "import java.util.List;\nimport module tide.gauges;\nimport module.Gauge;\nimport module java.sql;\n\nclass A { List<Gauge> b; }\n";
    assert_eq!(with("java", text, &[]), "import module java.sql;\nimport java.util.List;\n\nimport module.Gauge;\nimport module tide.gauges;\n\nclass A { List<Gauge> b; }\n");
}

#[test]
fn nothing_goes_that_may_be_needed() {
    let kept = [
        ("typescript", "import { A } from 'a';\nexport type B = typeof A;\n"),
        ("typescript", "import { a } from 'a';\n"),
        ("tsx", "import React from 'react';\nexport const b = <i/>;\n"),
        ("javascript", "import a from 'a';\nexport const b = `${a}`;\n"),
        ("javascript", "import a from 'a';\nexport { a };\n"),
        ("python", "import a\nprint(f\"{a}\")\n"),
        ("python", "from a import B\nc: \"B\" = None\n"),
        ("python", "import a\n__all__ = [\"a\"]\n"),
        ("python", "import a\nprint(globals()[\"a\"])\n"),
        ("python", "import a as a\n"),
        ("csharp", "using System.Linq;\nclass A { object B() => from c in d select c; }\n"),
        ("csharp", "using System.Threading.Tasks;\nclass A { async Task B() { } }\n"),
        ("csharp", "using Unknown.Names;\nclass A { }\n"),
        ("go", "package a\n\nimport \"x.org/go-tide\"\n\nfunc b() { tide.C() }\n"),
        ("java", "import java.util.*;\nclass A { List<B> c; }\n"),
        ("java", "import java.util.*;\nclass A { NewerThanKnown c; }\n"),
        ("java", "import module tide.gauges;\n\nclass A { int b; }\n"),
        ("rust", "use a::Trait;\nfn b() {}\n"),
    ];
    for (language, text) in kept {
        assert_eq!(with(language, text, &[]), text, "{language}");
    }
    let gone = [
        ("typescript", "import { A } from 'a';\nexport const b = { A: 1 }.A;\n"),
        ("python", "import a\nb.a(a=1)\n"),
        ("go", "package a\n\nimport \"os\"\n\nfunc b() { c.os() }\n"),
        ("java", "import java.util.*;\nclass A { int b; }\n"),
        ("csharp", "using System.Linq;\nclass A { int b; }\n"),
    ];
    for (language, text) in gone {
        assert!(!with(language, text, &[]).contains("import") && !with(language, text, &[]).contains("using"), "{language}");
    }
}

#[test]
fn a_project_tells_what_is_needed() {
    let files = [
        ("tide/gauge.py", "from tide.level import json\n"),
        ("tide/level.py", "import json\nimport sys\nLOW = 1\n"),
    ];
    let project = Project::of("python", "tide/level.py", &files);
    let proven = run("python", files[1].1, &[], Wanted::default(), &project);
    assert_eq!(proven.text(), "import json\nLOW = 1\n");
    let fates: Vec<(Act, &str)> = proven.receipt().imports.iter().map(|fate| (fate.act, fate.why.as_str())).collect();
    assert_eq!(fates, [(Act::Kept, "is not used here, but another file takes it from here"), (Act::Removed, "is not used")]);
    // A project may add to a namespace of a library; its own are known.
    let files = [
        ("Tide.cs", "namespace Tide.Level { class Gauge { } }\nnamespace Vendor.Web { static class Added { } }\n"),
    ];
    let project = Project::of("csharp", "Board.cs", &files);
    let text = "using Tide.Level;\nusing Vendor.Web;\n\nnamespace Tide.Board\n{\n    class Page { }\n}\n";
    assert_eq!(run("csharp", text, &[], Wanted::default(), &project).text(), text.replace("using Tide.Level;\n", ""));
    // A type of the same package is nearer than one that is there without an import.
    let own = [("a/String.java", "package a;\nclass String {}\n")];
    let text = "package a;\n\nimport java.lang.String;\n\nclass B { String c; }\n";
    let near = Project::of("java", "a/B.java", &own);
    assert_eq!(run("java", text, &[], Wanted::default(), &near).text(), text);
    let far = Project::of("java", "a/B.java", &[]);
    assert!(!run("java", text, &[], Wanted::default(), &far).text().contains("import"));
}

#[test]
fn modules_that_load_each_other_keep_their_order() {
    let files = [
        // Each needs the other, so it matters at which of them one comes in.
        ("tide/surge.py", "from tide import level\n"),
        ("tide/level.py", "import os\nfrom .surge import warn\n"),
        // Needs what the package has by then.
        ("tide/board.py", "if os:\n    from tide import gauge_of\n"),
        // Not when they are loaded.
        ("tide/chart.py", "def show():\n    from tide import gauge_of\n"),
        ("tide/zone.py", "if TYPE_CHECKING:\n    from tide import gauge_of\n"),
        ("tide/gauge.py", "from .low.water import ebb\n"),
        ("tide/low/water.py", ""),
        // Loads a part of the package; that itself is there already.
        ("tide/neap.py", "from tide import low\n"),
    ];
    let ordered = |place: &str, text: &str| {
        let project = Project::of("python", place, &[&files[..], &[(place, text)]].concat());
        let proven = run("python", text, &[], Wanted::default(), &project);
        let held = proven.receipt().imports.iter().filter(|fate| fate.act == Act::Held).count();
        (proven.text().to_owned(), held)
    };
    // What comes back to the file is passed by nothing; what is in front of it is sorted.
    let jumble = "from .zone import zone\nfrom .gauge import gauge_of\nfrom .board import board\n";
    let init = "from .gauge import gauge_of\nfrom .zone import zone\nfrom .board import board\n";
    assert_eq!(ordered("tide/__init__.py", jumble), (init.to_owned(), 1));
    let kept = [
        ("from tide.surge import warn\nfrom tide.level import read\nwarn(read)\n", 2),
        ("import tide.surge, tide.board\nimport tide.level\nprint(tide)\n", 2),
        // What is not known may hide any other name.
        ("from tide.zone import *\nfrom tide.chart import *\nfrom tide.board import show\nshow()\n", 0),
    ];
    for (text, held) in kept {
        assert_eq!(ordered("app/run.py", text), (text.to_owned(), held));
    }
    let sorted = [
        ("tide/__init__.py", "from .zone import z\nfrom .neap import n\nfrom .gauge import g\nfrom .chart import c\n"),
        ("app/run.py", "from tide.zone import z\nfrom tide.neap import n\nfrom tide.board import b\nz(n, b)\n"),
        (
            "app/run.py",
            "from tide.surge import warn\nfrom tide.gauge import g\nfrom json import loads\nwarn(g, loads)\n",
        ),
    ];
    for (place, text) in sorted {
        let (sorted, held) = ordered(place, text);
        assert!(held == 0 && sorted != text && !sorted.starts_with("from tide.z"), "{sorted}");
    }
    // Names of one import may be modules, too.
    let named = |text: &str| {
        let project = Project::of("python", "app/run.py", &files);
        run("python", text, &["vknot_import_names=sort"], Wanted::default(), &project).text().to_owned()
    };
    let circle = "from tide import surge, zone, level\nprint(surge, zone, level)\n";
    assert_eq!(named(circle), circle);
    assert!(named("from tide import zone, surge, low\nprint(surge, zone, low)\n").starts_with("from tide import low, surge, zone\n"));
    // Others change places with those that are held.
    let text =
        "from tide.surge import warn\nimport json\nfrom tide.level import read\nimport abc\nwarn(read, json, abc)\n";
    let (sorted, held) = ordered("app/run.py", text);
    assert_eq!((sorted.as_str(), held), ("import abc\nimport json\n\nfrom tide.surge import warn\nfrom tide.level import read\nwarn(read, json, abc)\n", 2));
}

#[test]
fn scripts_that_load_each_other_keep_their_order() {
    let files = [
        // Two modules that load each other, and one that comes in by another way.
        ("src/surge.ts", "import { Level } from './level';\nexport class Surge extends Level {}\n"),
        ("src/level.ts", "export * from './base.level';\nexport { Surge } from './surge.js';\n"),
        ("src/base.level.ts", "import { Surge } from '@/surge';\nexport class Level { near = new Surge() }\n"),
        ("src/chart.ts", "import { Level } from './level';\nexport const chart = new Level();\n"),
        // Those load nothing: types, what is run later, what is declared.
        (
            "src/board.ts",
            "import type { Zone } from './zone';\nimport { Page } from './page';\nexport let zone: Zone | Page;\n",
        ),
        ("src/zone.ts", "export const zone = () => require('./board');\n"),
        ("src/page.d.ts", "import { Board } from './board';\nexport class Page extends Board {}\n"),
        ("src/run.js", "const level = require('./level');\n"),
        // What is called where it stands is run at once.
        ("src/neap.js", "(function () { exports.ebb = require('./ebb'); })();\n"),
        ("src/ebb.js", "(() => { exports.neap = require('./neap'); })();\n"),
    ];
    let ordered = |place: &str, text: &str| {
        let language = if place.ends_with(".js") { "javascript" } else { "typescript" };
        // What a file in one language declares is known in the others.
        let project = Project::of("typescript", place, &[&files[..], &[(place, text)]].concat());
        let proven = run(language, text, &["vknot_import_require=true"], Wanted::default(), &project);
        let held = proven.receipt().imports.iter().filter(|fate| fate.act == Act::Held).count();
        (proven.text().to_owned(), held)
    };
    let kept = [
        (
            "src/show.ts",
            "import { Surge } from './surge';\nimport { Level } from './level';\nnew Surge(new Level());\n",
        ),
        ("src/show.ts", "import { Surge } from './surge';\nimport { chart } from './chart';\nnew Surge(chart);\n"),
        ("src/show.js", "const surge = require('./surge');\nconst level = require('./level');\nlevel(surge);\n"),
        ("src/show.js", "const neap = require('./neap');\nconst ebb = require('./ebb');\nebb(neap);\n"),
        // Types of what is decorated are values.
        (
            "src/show.ts",
            "import { Surge } from './surge';\nimport { Level } from './level';\n@page\nclass Show { constructor(a: Surge, b: Level) {} }\n",
        ),
    ];
    for (place, text) in kept {
        assert_eq!(ordered(place, text), (text.to_owned(), 2));
    }
    let sorted = [
        "import { zone } from './zone';\nimport { board } from './board';\nzone(board);\n",
        "import { Surge } from './surge';\nimport { Level } from './level';\nlet show: Surge | Level;\n",
        "import type { Surge } from './surge';\nimport type { Level } from './level';\nnew Surge(new Level());\n",
        "import { Surge } from './surge';\nimport { board } from './board';\nnew Surge(board);\n",
    ];
    for text in sorted {
        let (sorted, held) = ordered("src/show.ts", text);
        assert!(held == 0 && sorted != text, "{sorted}");
    }
    // What comes back to the file stays where it is.
    let text = "import { Surge } from './surge';\nimport { zone } from './board';\nexport class Level { s = new Surge(zone) }\n";
    assert_eq!(ordered("src/base.level.ts", text), (text.to_owned(), 1));
}

#[test]
fn wrong_results_do_not_pass() {
    let cases = [
        // Past one that only runs something.
        ("javascript", "import a from 'a';\nimport './b';\na();\n", "import './b';\nimport a from 'a';\na();\n"),
        // A name less, and another one in its place.
        ("javascript", "import { a, b } from 'c';\na(b);\n", "import { a } from 'c';\na(b);\n"),
        ("python", "from a import b\nprint(b)\n", "from a import c as b\nprint(b)\n"),
        ("go", "package a\n\nimport (\n\t\"b\"\n\t. \"c\"\n)\n", "package a\n\nimport (\n\t. \"c\"\n\t\"b\"\n)\n"),
        ("csharp", "using A;\nusing B = C;\n", "using A;\nusing B = D;\n"),
        // Into a block.
        ("python", "import a\nif a:\n    b()\n", "if a:\n    import a\n    b()\n"),
        // A comment inside of an import lost, or with another name.
        (
            "javascript",
            "import { a, /* low */ b } from 'c';\nimport d from 'd';\na(b, d);\n",
            "import { a, b } from 'c';\nimport d from 'd';\na(b, d);\n",
        ),
        // A comment with another import, or lost.
        (
            "python",
            "import a\nimport b  # of the harbour\nprint(a, b)\n",
            "import a  # of the harbour\nimport b\nprint(a, b)\n",
        ),
        ("python", "import b\n# of the harbour\nimport a\nprint(a, b)\n", "import a\nimport b\nprint(a, b)\n"),
    ];
    for (language, text, wrong) in cases {
        assert!(rewritten("imports", language, text, wrong, &[]).is_err(), "{wrong}");
    }
}

#[test]
fn broken_names_keep_their_last_comma_or_go_without() {
    for comma in ["", ","] {
        let text = format!("import {{\n  surge,\n  level{comma}\n}} from './tide';\nwarn(surge, level);\n");
        let document = styled("javascript", &text, &["vknot_import_names=sort", "max_line_length=20"]);
        let wanted = format!("import {{\n  level,\n  surge{comma}\n}} from './tide';\nwarn(surge, level);\n");
        assert_eq!(done("imports", &document, Wish::Nothing).text(), wanted);
    }
}

#[test]
fn an_import_stays_in_front_of_the_comment_that_keeps_the_next() {
    let text = "namespace Tide\n{\n    // level\n    using Level = System.Double;\n    // surge\n    using Surge = System.Single;\n\n    class Gauge { }\n}\n";
    let (result, told) = organized("csharp", text);
    assert_eq!(result, text);
    assert!(told.iter().any(|told| told.ends_with("in front of the comment of the next one")), "{told:?}");
    // Where the next is needed, it goes.
    let text = text.replace("class Gauge { }", "class Gauge { Surge surge; }");
    assert_eq!(organized("csharp", &text).0, text.replace("    using Level = System.Double;\n", ""));
}

#[test]
fn comments_stay_with_what_they_are_about() {
    let text = "import os\n\n# of the harbour\nimport zero\n# notices\nimport low  # why\nimport ebb\n\nprint(os, zero, low, ebb)\n";
    let (sorted, _) = organized("python", text);
    assert_eq!(sorted, "import os\n\n# of the harbour\nimport ebb\n# notices\nimport low  # why\nimport zero\n\nprint(os, zero, low, ebb)\n");
}

#[test]
fn a_comment_that_would_head_a_group_stays_inside_it() {
    // As the first of the group, `alpha` would lose its comment to all of them, and be taken out by the next run.
    let cases = [
        (
            "import zero\n# notices\nimport alpha\nimport beta\n\nprint(zero, beta)\n",
            "import beta\n# notices\nimport alpha\nimport zero\n\nprint(zero, beta)\n",
        ),
        (
            "import os\n\nimport zero\n# notices\nimport alpha\n\nprint(os, zero)\n",
            "import os\n\nimport zero\n# notices\nimport alpha\n\nprint(os, zero)\n",
        ),
    ];
    for (text, wanted) in cases {
        let (sorted, told) = organized("python", text);
        assert_eq!(sorted, wanted);
        assert!(told.iter().any(|told| told.ends_with("because of its comment")), "{told:?}");
        assert_eq!(organized("python", &sorted).0, sorted);
    }
    // Attributes belong to what is below them wherever it stands.
    let (sorted, _) = organized("rust", "use tide::zero;\n#[cfg(test)]\nuse tide::alpha;\n");
    assert_eq!(sorted, "#[cfg(test)]\nuse tide::alpha;\nuse tide::zero;\n");
}

#[test]
fn imports_are_written_as_their_language_has_them() {
    let cases = [
        (
            "python",
            "a long line",
            "from tide.network.stations import first_gauge_of_the_harbour, second_gauge_of_the_harbour\nfrom tide.network.stations import third\nprint(first_gauge_of_the_harbour, second_gauge_of_the_harbour, third)\n",
        ),
        (
            "python",
            "filled lines",
            "from tide import (alpha, beta,\n                  gamma, unused)\nprint(alpha, beta, gamma)\n",
        ),
        (
            "python",
            "a line for each",
            "from tide import (\n    alpha,\n    unused,\n    beta,\n)\nprint(alpha, beta)\n",
        ),
        ("python", "several on one line", "import zero; import alpha\nprint(zero, alpha)\n"),
        (
            "typescript",
            "a line for each",
            "import {\n    alpha,\n    unused,\n    type Beta,\n} from 'tide';\nalpha() as Beta;\n",
        ),
        (
            "typescript",
            "default and named",
            "import tide from 'tide';\nimport { level } from 'tide';\nimport * as all from 'tide';\nimport type { Surge } from 'tide';\ntide(level, all) as Surge;\n",
        ),
        (
            "typescript",
            "attributes",
            "import b from './b.json' with { type: 'json' };\nimport a from \"./a.json\" with { type: 'json' };\na(b);\n",
        ),
        (
            "javascript",
            "scripts that run",
            "#!/usr/bin/env node\n'use strict';\nimport b from 'b';\nimport a from 'a';\na(b);\n",
        ),
        ("java", "several on one line", "import b.B; import a.A;\nclass C { A a; B b; }\n"),
        ("java", "beside code", "import a.A; class C { A a; }\n"),
        (
            "csharp",
            "inside a namespace",
            "using B;\nusing A;\n\nnamespace N\n{\n    using D;\n    using C;\n\n    class E { }\n}\n",
        ),
        ("csharp", "under a condition", "using B;\n#if DEBUG\nusing D;\nusing C;\n#endif\nusing A;\n\nclass E { }\n"),
        ("go", "alone", "package a\n\nimport \"os\"\nimport \"fmt\"\n\nfunc b() { fmt.Print(os.Args) }\n"),
        (
            "go",
            "a C preamble",
            "package a\n\n// #include <tide.h>\nimport \"C\"\n\nimport (\n\t\"os\"\n\t\"fmt\"\n)\n\nfunc b() { fmt.Print(os.Args, C.tide) }\n",
        ),
        (
            "rust",
            "attributes and macros",
            "#![allow(unused)]\n\n#[macro_use]\nextern crate b;\nuse c::C;\n#[cfg(test)]\nuse a::A;\npub use b::B;\n",
        ),
    ];
    let shown = cases.map(|(language, name, text)| (format!("{language}: {name}"), with(language, text, &[])));
    let shown: Vec<String> = shown.iter().map(|(name, text)| format!("── {name}\n{text}")).collect();
    snapshot!(shown.join("\n"));
}

#[test]
fn includes_are_sorted_where_that_is_switched_on() {
    let text = "#include <vector>\n#include <string>\n#include \"level.h\"\n#include \"Gauge.h\"\n// to be first\n#include <windows.h>\n#include \"table.def\"\n#include SURGE\n#include \"b.h\"\n#include \"a.h\"\n#include \"a.h\"\n";
    assert_eq!(with("cpp", text, &[]), text);
    let sorted = "#include \"Gauge.h\"\n#include <string>\n#include <vector>\n// to be first\n#include <windows.h>\n#include \"level.h\"\n#include \"table.def\"\n#include SURGE\n#include \"a.h\"\n#include \"a.h\"\n#include \"b.h\"\n";
    assert_eq!(with("cpp", text, &["vknot_import_include=sort"]), sorted);
    let apart = "#include \"level.h\"\n\n#include \"Gauge.h\"\n#include \"Ebb.h\"\n";
    assert_eq!(with("cpp", apart, &["vknot_import_include=sort"]), apart);
    let set = ["vknot_import_include=sort", "vknot_import_groups=written, near, standard"];
    assert!(with("cpp", text, &set).starts_with("#include \"Gauge.h\"\n#include \"level.h\"\n#include <string>\n"));
}

#[test]
fn imports_in_forms_change_places() {
    let racket = "#lang racket\n(require racket/string\n         \"gauge.rkt\" ; own\n         (only-in racket/list\n                  first)\n         racket/date\n         (for-syntax racket/base)\n         tide)\n(provide surge gauge)\n";
    snapshot!(with("racket", racket, &[]));
    let clojure = "(ns tide.gauge\n  (:require\n    [clojure.string :as str]\n    ;; sets\n    [clojure.set :refer [union]]\n    tide.level #?(:clj tide.zero) tide.surge\n    tide.board)\n  (:import (java.util Date UUID)\n           java.io.File))\n";
    snapshot!(with("clojure", clojure, &[]));
    // A comment would take what closes the form with it, or stand behind its first word.
    for text in [
        "(ns tide.gauge\n  (:require [b] ; of the harbour\n            [a]))\n",
        "(ns tide.gauge\n  (:require [b]\n            ; of the harbour\n            [a]))\n",
    ] {
        let (result, told) = organized("clojure", text);
        assert_eq!(result, text);
        assert!(told[0].starts_with("* imports stay as they are: a comment"), "{told:?}");
    }
    for (text, wrong) in [
        ("(require b (for-syntax c) a)", "(require a (for-syntax c) b)"),
        ("(require b a)", "(require a a)"),
        ("(require b a) (require c)", "(require b) (require c a)"),
    ] {
        assert!(rewritten("imports", "racket", text, wrong, &[]).is_err(), "{wrong}");
    }
}

#[test]
fn what_other_names_are_made_of_is_used() {
    let typescript = "import * as gauges from \"./gauges\";\nimport { zones } from \"./zones\";\nimport Near = gauges.Near;\nimport Zone = zones.Zone;\n\nexport function near(): Near {\n  return new Zone();\n}\n";
    assert_eq!(pruned("typescript", typescript), typescript);
    let csharp = "using System.Collections.Generic;\nusing Level = System.UInt32;\n\nnamespace Tide\n{\n    using Rows = List<Level>;\n\n    class Gauge\n    {\n        Rows rows;\n    }\n}\n";
    assert_eq!(pruned("csharp", csharp), csharp);
}

#[test]
fn blank_lines_stay_between_what_was_around_a_block() {
    for (language, text, wanted) in [
        // Behind it, where more are there.
        ("java", "package tide;\nimport java.util.List;\n\nclass A {}\n", "package tide;\n\nclass A {}\n"),
        ("java", "package tide;\n\nimport java.util.List;\n\nclass A {}\n", "package tide;\n\nclass A {}\n"),
        ("python", "\"\"\"Tides.\"\"\"\n\nimport os\n\n\ndef a(): pass\n", "\"\"\"Tides.\"\"\"\n\n\ndef a(): pass\n"),
        // Nothing in front of the first line.
        ("java", "import java.util.List;\n\nclass A {}\n", "class A {}\n"),
        (
            "csharp",
            "using System;\n#if LOW\nusing System.Text;\n#endif\nusing System.Linq;\n\nclass A : Attribute {}\n",
            "using System;\n#if LOW\nusing System.Text;\n#endif\n\nclass A : Attribute {}\n",
        ),
    ] {
        assert_eq!(pruned(language, text), wanted, "{text}");
    }
}

fn pruned(language: &str, text: &str) -> String {
    let acts = Acts { sort: false, group: false, merge: false, prune: true };
    let wanted = Wanted { acts, ..Wanted::default() };
    run(language, text, &[], wanted, &Alone).text().to_owned()
}
