//! Names that are used and not imported: what is added, what is asked, and what is left alone, per language.

use vknot_reshape::{Act, Alone, Reshape, Surroundings, TokenChange, Wanted};
use vknot_syntax::Span;

use crate::imports::{Project, run};
use crate::proofs::rewritten;
use crate::support::{prove_as, read};

/// The text with what is missing, and what is asked, each with the reason.
fn found(language: &str, text: &str, around: &dyn Surroundings) -> (String, Vec<String>) {
    let missing = Wanted { missing: true, ..Wanted::default() };
    let proven = run(language, text, &[], missing, around);
    let asked = proven.receipt().imports.iter().filter(|fate| fate.act == Act::Missing);
    let asked = asked.map(|fate| format!("{}: {}", fate.import, fate.why)).collect();
    (proven.text().to_owned(), asked)
}

#[test]
fn what_is_missing_is_imported_where_it_is_certain() {
    let missing = Wanted { missing: true, ..Wanted::default() };
    let files = [
        ("tide/Gauge.java", "package tide;\npublic class Gauge {}\n"),
        ("tide/Board.java", "package tide;\nimport harbour.Notice;\nclass Board { Notice n; }\n"),
    ];
    let project = Project::of("java", "web/Page.java", &files);
    let text = "package web;\n\nclass Page { Gauge g; List<String> l; ArrayList<Notice> m; }\n";
    let proven = run("java", text, &[], missing.clone(), &project);
    let head = "package web;\n\nimport java.util.ArrayList;\n\nimport harbour.Notice;\nimport tide.Gauge;\n\nclass";
    assert!(proven.text().starts_with(head), "{}", proven.text());
    let asked = proven.receipt().imports.iter().find(|fate| fate.act == Act::Missing).unwrap();
    assert_eq!(asked.import, "List");
    assert_eq!(asked.why, "could be java.awt.List, java.util.List; choose with --choose List=java.awt.List");
    let chosen = Wanted { chosen: vec![("List".to_owned(), "java.util.List".to_owned())], ..missing.clone() };
    assert!(run("java", text, &[], chosen, &project).text().contains("import java.util.List;"));
    let files = [
        ("tide/gauge.py", "def read_gauge():\n    pass\n"),
        ("tide/board.py", "import numpy as np\nprint(np)\n"),
    ];
    let project = Project::of("python", "tide/page.py", &files);
    let text = "\"\"\"A page.\"\"\"\n\nprint(read_gauge(), np, binascii)\n";
    let proven = run("python", text, &[], missing, &project);
    assert!(proven.text().starts_with("\"\"\"A page.\"\"\"\n\n"), "{}", proven.text());
    for import in ["from tide.gauge import read_gauge\n", "import numpy as np\n", "import binascii\n"] {
        assert!(proven.text().contains(import), "{}", proven.text());
    }
}

#[test]
fn what_a_module_misses_is_imported_as_the_project_writes_it() {
    let missing = Wanted { missing: true, ..Wanted::default() };
    let files = [
        ("src/gauge.ts", "export class Gauge {}\nexport const zero = 0, low = 1;\nexport type Level = number;\n"),
        ("src/tide/index.ts", "export default function surge() {}\nexport { ebb as flood };\nconst ebb = 1;\n"),
        (
            "src/a.ts",
            "import type { Notice } from 'harbour';\nimport React from 'react';\nimport { x } from './x.js';\nimport { warn } from '@/notices';\n",
        ),
        ("src/notices.ts", "export const warn = 1;\n"),
        ("src/b.ts", "export const twice = 1;\nexport const readFile = 2;\n"),
        ("src/c.ts", "export const twice = 2;\nexport { Level } from './gauge.js';\n"),
    ];
    let project = Project::of("typescript", "src/web/page.ts", &files);
    let added = |text: &str| {
        let proven = run("typescript", text, &[], missing.clone(), &project);
        let head: Vec<&str> = proven.text().lines().take_while(|line| line.starts_with("import")).collect();
        let asked = proven.receipt().imports.iter().filter(|fate| fate.act == Act::Missing);
        let asked: Vec<String> = asked.map(|fate| format!("{}: {}", fate.import, fate.why)).collect();
        (head.join("\n"), asked)
    };
    let cases = [
        // A class, a value, a type alone, as the project writes those; defaults by their names.
        (
            "export const a: Level = new Gauge(zero);",
            "import type { Level } from '../gauge.js';\nimport { Gauge, zero } from '../gauge.js';",
        ),
        ("export const a = surge(flood);", "import surge, { flood } from '../tide/index.js';"),
        (
            "export const a: Notice = <Notice> React.use();",
            "import type { Notice } from 'harbour';\nimport React from 'react';",
        ),
        ("export const a = warn;", "import { warn } from '@/notices';"),
        // What is bound here, or there without an import, is not asked for.
        (
            "export function a(Gauge, { zero, low: b }, [c]) { try { b(c, Promise); } catch (flood) { zero(flood, Gauge); } }",
            "",
        ),
        ("export type A<Level> = Level extends (infer Gauge)[] ? { [zero in Gauge]: zero } : Map<string, Level>;", ""),
        ("export const a = { Gauge: 1 }.Gauge;", ""),
        // A script stays one.
        ("const a = new Gauge();", ""),
    ];
    for (text, wanted) in cases {
        assert_eq!(added(&format!("{text}\n")), (wanted.to_owned(), Vec::new()), "{text}");
    }
    let (head, asked) = added("export const a = [twice, readFile, unheard, Gauge];\n");
    assert_eq!(head, "");
    assert_eq!(asked, [
        "twice: could be /src/b, /src/c; choose with --choose twice=/src/b",
        "readFile: could be /src/b, fs, fs/promises; choose with --choose readFile=/src/b",
        "unheard: nothing that is known here has this name",
        "Gauge: could be /src/gauge; choose with --choose Gauge=/src/gauge",
    ]);
    // As the file itself has its quotes and marks.
    let (head, _) = added("import { low } from \"@/levels\";\nexport const a = [low, warn];\n");
    assert_eq!(head, "import { low } from \"@/levels\";\nimport { warn } from \"@/notices\";");
}

/// A project in Go with packages that share names with those of the standard library.
fn network() -> Project {
    let files = [
        (
            "surge/surge.go",
            "package surge\n\nconst Most = 1\n\nfunc Next() {}\n\ntype Wave struct{}\n\nvar low, High = 1, 2\n",
        ),
        ("rand/rand.go", "package rand\n\nfunc Tide() {}\n"),
        ("log/log.go", "package log\n\nfunc Print() {}\n"),
        ("harbour/internal/quay/quay.go", "package quay\n\nfunc Open() {}\n"),
        (
            "board/level.go",
            "package board\n\nimport (\n\thb \"tide.example/harbour\"\n\t\"bell.example/go-bell\"\n)\n\nvar path = hb.Path(bell.Ring)\n",
        ),
        ("main.go", "package main\n\nfunc Run() {}\n"),
    ];
    Project::of("go", "board/page.go", &files)
}

#[test]
fn a_package_is_imported_whose_members_fit() {
    let project = network();
    let cases = [
        // One, and several as a list with its groups.
        ("func a() { fmt.Println() }", "import \"fmt\"\n"),
        (
            "func a(w surge.Wave) { os.Exit(surge.Most); surge.Next(); hb.Ring(); bell.Ring() }",
            "import (\n\t\"os\"\n\n\t\"bell.example/go-bell\"\n\thb \"tide.example/harbour\"\n\n\t\"tide.example/network/surge\"\n)\n",
        ),
        // By what is asked of it: of two of that name only one has it.
        ("func a() { rand.Intn(1) }", "import \"math/rand\"\n"),
        ("func a() { rand.Tide() }", "import \"tide.example/network/rand\"\n"),
        ("func a() { log.Fatal() }", "import \"log\"\n"),
        // What is asked of values, here or in another file of the package, is asked of no package.
        ("func a(fmt int, log ...int) { fmt.Println(log.Print); path.Join() }", ""),
        ("type a struct{ fmt int }\n\nfunc (os *a) b() { os.Exit(); x.fmt.Println() }", ""),
        ("var os = 1\n\nfunc a() { os.Exit(1); for log := range b { log.Print() }; if io := 1; io.EOF { } }", ""),
        ("func a() { switch fmt := b.(type) { case int: fmt.Println() }; select { case os := <-c: os.Exit() } }", ""),
        ("func a[os any](b os) { f := func(fmt int) { fmt.Println(os.Exit) } ; f(1) }", ""),
        ("func a() { fmt.unseen(); C.free(); quay.Open(); main.Run() }", ""),
        // But behind its own declaration, and outside of the block that has it.
        (
            "func a() { os := os.Getenv(b) ; { fmt := 1; fmt.Println() }; fmt.Println(os.X) }",
            "import (\n\t\"fmt\"\n\t\"os\"\n)\n",
        ),
    ];
    for (text, imports) in cases {
        let imports = if imports.is_empty() { String::new() } else { format!("{imports}\n") };
        let (text, asked) = found("go", &format!("package board\n\n{text}\n"), &project);
        assert!(text.starts_with(&format!("package board\n\n{imports}")), "{text}\n{asked:?}");
        assert_eq!(text.matches("import").count(), usize::from(!imports.is_empty()), "{text}\n{asked:?}");
    }
    let (_, asked) = found(
        "go",
        "package board\n\nfunc a() { log.Print(); template.New(); quay.Open(); log.Unheard() }\n",
        &project,
    );
    assert_eq!(asked, [
        "log: nothing that is known here has this name",
        "template: could be html/template, text/template; choose with --choose template=html/template",
        "quay: nothing that is known here has this name",
    ]);
}

#[test]
fn the_type_behind_a_name_is_not_declared_with_it() {
    let files = [("surge/surge.go", "package surge\n\nvar Low, High Wave = 1, 2\n")];
    let project = Project::of("go", "board/page.go", &files);
    for (name, count) in [("Low", 1), ("High", 1), ("Wave", 0)] {
        let (text, _) = found("go", &format!("package board\n\nvar a = surge.{name}\n"), &project);
        assert_eq!(text.matches("import").count(), count, "{text}");
    }
}

#[test]
fn a_list_of_packages_gets_what_is_missing_in_its_groups() {
    let project = network();
    let text = "package board\n\nimport (\n\t\"strings\"\n\n\t\"bell.example/go-bell\"\n)\n\nfunc a() { fmt.Println(strings.Split, bell.Ring, surge.Most) }\n";
    let list =
        "import (\n\t\"fmt\"\n\t\"strings\"\n\n\t\"bell.example/go-bell\"\n\n\t\"tide.example/network/surge\"\n)\n";
    let (new, asked) = found("go", text, &project);
    assert!(new.contains(list) && asked.is_empty(), "{new}\n{asked:?}");
    let text = "package board\n\nimport (\n\t\"bell.example/go-bell\"\n)\n\nfunc a() { fmt.Println(bell.Ring) }\n";
    let (new, _) = found("go", text, &project);
    assert!(new.contains("import (\n\t\"fmt\"\n\n\t\"bell.example/go-bell\"\n)\n"), "{new}");
    // A list of which nothing is left goes as a whole; one with a remark in it stays.
    let (new, _) = found("go", "package board\n\nimport (\n\t\"fmt\"\n)\n\nfunc a() {}\n", &Alone);
    assert_eq!(new, "package board\n\nfunc a() {}\n");
    let (new, _) = found("go", "package board\n\nimport (\n\t\"fmt\"\n\n\t// Ebb.\n)\n\nfunc a() {}\n", &Alone);
    assert_eq!(new, "package board\n\nimport (\n\t// Ebb.\n)\n\nfunc a() {}\n");
}

#[test]
fn a_namespace_is_brought_in_whose_type_is_certain() {
    let files = [
        (
            "Gauge.cs",
            "namespace Tide.Level { public class Gauge { public int Path; public class Inner { } } public class MarkAttribute { } }\n",
        ),
        ("Flood.cs", "namespace Tide.Flood { public class Surge { } public class Timer { } }\n"),
        ("All.cs", "global using Tide.Flood;\n"),
        ("Loose.cs", "public class Loose { }\n"),
    ];
    let project = Project::of("csharp", "Board.cs", &files);
    let cases = [
        ("class A { List<Gauge> b; }", "using System.Collections.Generic;\nusing Tide.Level;\n"),
        // An attribute, and a type that is called as it may be written.
        ("[ComVisible] class A { }", "using System.Runtime.InteropServices;\n"),
        ("class A { IEnumerable b; }", "using System.Collections;\n"),
        ("class A { IEnumerable<int> b; }", "using System.Collections.Generic;\n"),
        ("[Mark] class A { [Serializable] struct B { } }", "using System;\nusing Tide.Level;\n"),
        (
            "class A { void B() { Console.Write(typeof(Regex)); } }",
            "using System;\nusing System.Text.RegularExpressions;\n",
        ),
        (
            "class A { object B(object c) => c is StringBuilder ? c as Gauge : default(Thread); }",
            "using System.Text;\nusing System.Threading;\nusing Tide.Level;\n",
        ),
        // What is declared, or there without being brought in.
        ("class Gauge { class List<Thread> { Thread a; List<int> b; } }", ""),
        ("class A { Surge a; Loose b; Inner c; }", ""),
        ("class A { int Console; void B() { Console.Write(Path.Join); Tide.Level.C(); System.Console.Write(); } }", ""),
        ("using StringBuilder = A;\nclass A { StringBuilder a; }", "using StringBuilder = A;\n"),
        ("namespace Tide.Level.Board { class A { Gauge b; } }", ""),
        ("class A { var b; dynamic c; nint d; }", ""),
        // A type of the library whose members are brought in has no types for others.
        (
            "using static System.Math;\nclass A { Thread b; double c = Abs(1); }",
            "using System.Threading;\nusing static System.Math;\n",
        ),
    ];
    for (text, usings) in cases {
        let (text, asked) = found("csharp", &format!("{text}\n"), &project);
        let lines = text.lines().take_while(|line| line.starts_with("using")).map(|line| format!("{line}\n"));
        assert_eq!((lines.collect::<String>(), asked), (usings.to_owned(), Vec::new()), "{text}");
    }
}

#[test]
fn what_may_come_from_elsewhere_is_asked() {
    let asked = |text: &str| {
        let (new, asked) = found("csharp", text, &Alone);
        assert_eq!(new, text);
        asked
    };
    let java = |text: &str| found("java", text, &Alone).1;
    assert_eq!(
        java("import vendor.*;\n\nclass A { ArrayList b; }\n"),
        ["ArrayList: could be java.util.ArrayList; choose with --choose ArrayList=java.util.ArrayList"],
    );
    assert!(java("import java.io.*;\nimport static vendor.B.*;\n\nclass A { ArrayList b; File c; }\n").is_empty());
    // Two have it; something unknown may have it; the type taken over may have it; it may be a method of its own.
    assert_eq!(
        asked("class A { Timer b; }\n"),
        ["Timer: could be System.Threading, System.Timers, System.Web.UI, System.Windows.Forms; choose with --choose Timer=System.Threading"],
    );
    assert_eq!(
        asked("using Vendor;\n\nclass A { Thread b; }\n"),
        ["Thread: could be System.Threading; choose with --choose Thread=System.Threading"],
    );
    assert_eq!(
        asked("class A : Quay { void B() { Console.Write(); } }\n"),
        [
            "Quay: nothing that is known here has this name",
            "Console: could be System; choose with --choose Console=System",
        ],
    );
    assert_eq!(
        asked("class A { void B() { c.Where(d).Select(e); } }\n"),
        [".Where: could be System.Linq; choose with --choose .Where=System.Linq"],
    );
    // An attribute is no type of the same name.
    assert_eq!(
        asked("[XmlElement] class A { }\n"),
        ["XmlElement: could be System.Xml.Serialization; choose with --choose XmlElement=System.Xml.Serialization"],
    );
    assert_eq!(asked("class A { Unheard b; }\n"), ["Unheard: nothing that is known here has this name"]);
    // What cannot be read is not looked through, and that is said.
    let missing = Wanted { missing: true, ..Wanted::default() };
    let proven = run("csharp", "class A { Thread b; int c = = ; }\n", &[], missing, &Alone);
    assert!(proven.receipt().notes.iter().any(|note| note.text.contains("the file has syntax errors")));
}

#[test]
fn new_imports_stand_behind_what_opens_a_file() {
    let cases = [
        (
            "csharp",
            "// Tides.\n#define EBB\n\nclass A { Thread b; }\n",
            "// Tides.\n#define EBB\n\nusing System.Threading;\n\nclass A { Thread b; }\n",
        ),
        (
            "csharp",
            "// Tides.\n\n[assembly: Serializable]\n\nclass A { }\n",
            "// Tides.\n\nusing System;\n\n[assembly: Serializable]\n\nclass A { }\n",
        ),
        (
            "java",
            "// Tides.\npackage a;\nclass A { ArrayList b; }\n",
            "// Tides.\npackage a;\n\nimport java.util.ArrayList;\n\nclass A { ArrayList b; }\n",
        ),
        (
            "go",
            "// Tides.\npackage a\nvar b = fmt.Sprint()\n",
            "// Tides.\npackage a\n\nimport \"fmt\"\n\nvar b = fmt.Sprint()\n",
        ),
    ];
    for (language, text, wanted) in cases {
        assert_eq!(found(language, text, &Alone).0, wanted);
    }
}

/// Tries to have an import put in, which the receipt says stands in front of a token.
fn put_in(language: &str, text: &str, new: &str, leaf: &str, token: u32) -> Result<(), String> {
    let mut reshape = Reshape::default();
    reshape.edits.push(Span::new(0, text.len() as u32), new);
    reshape.receipt.imported = vec![TokenChange { text: leaf.to_owned(), offset: 0, token }];
    prove_as("imports", &read(language, text), reshape).map(drop).map_err(|refusal| refusal.reason.to_string())
}

#[test]
fn what_is_put_in_stands_where_the_receipt_says() {
    // Between two that nothing passes: token 5 is the second of those, token 7 what is behind them.
    let text = "import './ebb';\nimport './flood';\na();\n";
    let leaf = "import { a } from 'b'";
    let line = "import { a } from 'b';\n";
    let (front, between, behind) = (
        format!("{line}import './ebb';\nimport './flood';\na();\n"),
        format!("import './ebb';\n{line}import './flood';\na();\n"),
        format!("import './ebb';\nimport './flood';\n{line}a();\n"),
    );
    let cases = [(0, [true, false, false]), (3, [false, true, false]), (6, [false, false, true])];
    for (token, wanted) in cases {
        let told = [&front, &between, &behind].map(|new| put_in("javascript", text, new, leaf, token).is_ok());
        assert_eq!(told, wanted, "in front of token {token}");
    }
    let other = between.replace("{ a }", "{ c }");
    assert!(put_in("javascript", text, &other, leaf, 3).is_err());
    // Behind code that is no import it is past that.
    let late = "import './ebb';\nimport './flood';\na();\nimport { a } from 'b';\n";
    assert!(put_in("javascript", text, late, leaf, 6).is_err());
}

#[test]
fn a_list_of_imports_comes_and_goes_with_what_is_in_it_alone() {
    let text = "package a\n\nimport (\n\t\"b\"\n\t// Ebb.\n\n\t// Of c.\n\t\"c\"\n)\n\nvar d = b.E(c.F)\n";
    let tried = |new: &str| rewritten("imports", "go", text, new, &[]);
    assert_eq!(tried(text), Ok(()));
    for new in [
        // A remark of the list, or of an import, is lost; an import is; something else comes in.
        text.replace("\t// Ebb.\n", ""),
        text.replace("\t// Of c.\n", ""),
        text.replace("\t\"b\"\n", ""),
        text.replace("\t\"b\"\n", "\t\"b\"\n\t_ \"g\"\n"),
        text.replace("import (", "import (\n\t\"g\"\n)\n\nimport ("),
        text.replace("import (", "const ("),
        text.replace("\n)\n", "\n"),
    ] {
        assert!(tried(&new).is_err(), "{new}");
    }
    // One by one, or in two lists, they bring in the same.
    assert_eq!(tried(&text.replace("\t\"b\"\n", "\t\"b\"\n)\n\nimport (\n")), Ok(()));
}
