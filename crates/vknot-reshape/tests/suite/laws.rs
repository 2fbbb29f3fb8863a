//! Each law that edits hold code to is broken by something, and kept by the files of the demo.

use vknot_reshape::laws_kept;
use vknot_syntax::Language;

use crate::support::{read, sample_files};

/// For each family of languages that have their laws together a text that breaks each law, in their order.
const BROKEN: &[(&str, &[&str])] = &[
    ("java", &[
        "class A {}\nb();\n",
        "import a.B;\npackage c;\n",
        "package a;\npackage b;\n",
        "class A { void b() { import c.D; } }",
        "class A { A() { import c.D; } }",
        "class A { void b() { c; } }",
        "class A { void b() { @C return d; } }",
        "class A { void b(int... c, int d) {} }",
        "import a;",
        "class A { B() {} }",
        "class A { void b() { public class C {} } }",
        "class A { List<> b; }",
        "class A { void b() { private int c; } }",
        "class A { void b() { if (c) int d = 1; } }",
        "interface A { int B; }",
        "class A { int b = switch (c) { default -> { return 1; } }; }",
        "class A { void b() { switch (c) { case 1: continue; } } }",
        "class A { void b() { for (;;) { Runnable c = () -> { break; }; } } }",
    ]),
    ("notebook", &[
        "{\"a\": 1, 2}",
        "{\"cells\": [{\"a\": 1,}]}",
        "[1 2]",
        "{\"a\": 1 2}",
        "{\"a\": low}",
        "{} {}",
    ]),
    ("racket", &["(a . b . c . d)", "#hash((a . b) c)", "(a ')", "(a #;)", "(a)\n#lang b\n"]),
    ("scheme", &["(a . b . c)", "#(a . b)", "(a ')", "(a #;)"]),
    ("clojure", &["{:a b :c}", "(^{:a b})", "(a #_)"]),
    ("json", &["", "1 // b\n"]),
    ("python", &[
        "def a():\n",
        "if a:\n",
        "assert a, b, c\n",
        "[a for b in c, d]\n",
        "try:\n    a\nexcept B:\n",
        "try:\n    a\nfinally:\n",
        "try:\n    a\n",
        "a(b=1, c)\n",
        "def a(b=1, c): pass\n",
        "lambda b=1, c: d\n",
        "a(b=1, b=2)\n",
        "def a(b, *, b=1): pass\n",
        "lambda b, *b: c\n",
        "@a\n    def b(): pass\n",
        "a = # b\n    c\n",
        "def a():\n    return *b\n",
        "*b\n",
        "def a():\n    (*b)\n",
        "a = b + \\\n# c\n    d\n",
        "def a():\n    b = 1\n    global b\n",
        "def a():\n    b(await c)\n",
        "def a():\n    class B:\n        return c\n",
        "for a in b:\n    def c():\n        break\n",
        "a\nfrom __future__ import b\n",
        "if a:\n    from __future__ import b\n",
        "a\n  \nif b:\n    c\n  # d\n e\n",
        "def a():\n  b\n   c\n",
    ]),
    ("rust", &[
        "fn a() {}\nb;\n",
        "impl A { let b = 1; }\n",
        "fn a() { b c(); }\n",
        "fn a() { B {} let c = 1; }\n",
        "fn a(b: u8, self) {}\n",
        "fn a<B: C(d: u8)>() {}\n",
        "fn a() { B { ..c, d: 1 } }\n",
        "fn a() {}\n//! b\n",
        "fn a() {\n    b();\n    /// c\n}\n",
        "fn a() {\n    b();\n    /** c */\n}\n",
        "fn a() {}\n#[test]\n",
        "fn a(b) {}\n",
        "const A: u8 = { return 1; };\n",
        "fn a() { loop { b(|| { break; }); } }\n",
        "fn a<'b>() -> C<'b: 'd, E> {}\n",
        "fn a() {}\n/* b /* c */\n",
        "use a::{b, _};\n",
        "fn a() { let B { .., c } = d; }\n",
        "fn a() { let B(.., c, ..) = d; }\n",
        "fn a() { let b = c < d > e; }\n",
        "fn a() { b.c(mut); }\n",
        "struct A<self, B> { b: B }\n",
    ]),
    ("go", &[
        "package a\nb()\n",
        "import \"b\"\npackage a\n",
        "import \"b\"\n",
        "package a\nimport (\n\tb\n\t\"c\"\n)\n",
        "package a\nfunc b() { for c, d, e := range f {} }\n",
        "package a\nfunc b() { defer c }\n",
        "package a\nfunc b() { go c }\n",
        "package a\nfunc b() (int, int) { return /* c\n*/ d, e }\n",
        "package a\nfunc b() { c(d..., e) }\n",
        "package a\nfunc b(c int, string) {}\n",
        "package a\nfunc b() { c(d), e := f() }\n",
        "package a\nconst (\n\tb\n\tc = 1\n)\n",
        "package a\nvar b = c{ return }\nreturn\n",
        "package a\nfunc b() { switch c { case 1: continue } }\n",
        "package a\nfunc b() { for { func() { break }() } }\n",
        "package a\nfunc b() { for _, (c) := range d {} }\n",
        "package a\nfunc b() { if c := d{1}; e {} }\n",
        "package a\nfunc b() { for c := (d{1}); c != d{2}; {} }\n",
        "package a\nfunc b() { switch c := d{1}; e {} }\n",
    ]),
    ("typescript", &[
        "function () {}\n",
        "function a() { import b from 'c'; }",
        "try { a() }",
        "function a(b.c) {}",
        "function a([b.c]) {}",
        "const { a: b.c } = d;",
        "(a: b);",
        "export (a);",
        "export: a();",
        "a({ if });",
        "interface A { export { b } }",
        "type A = { export { b } };",
        "type A = { [B in C]: D; e: F };",
        "if (a) let b = 1;",
        "return a;",
        "switch (a) { case b: continue; }",
        "for (;;) { a(() => { break; }); }",
        "a = () => {}.b(c);",
        "class A { b: c, d: e }",
        "a = () => { b(c) { d; } };",
        "a = () => {} ? b : c;",
    ]),
    ("csharp", &[
        "class A {}\nb();\n",
        "class A {}\nusing B;\n",
        "class A {}\n#endregion\n",
        "namespace A { void B() {} }",
        "namespace A { class B {} using C; }",
        "class A { void B() { public void C() {} } }",
        "class A { void B() { try { C(); } } }",
        "class A { [] void B() {} }",
        "class A { void B(params int[] c, int d) {} }",
        "static class A { static void B(int c, this int d) {} }",
        "class A { int B { get { return 1; } get { return 2; } } }",
        "class A { int[] b = new int[]; }",
        "class A { int[][] b = { ({ 1 }) }; }",
        "class A\n{\n    void B()\n    {\n#if C\n        using D;\n#endif\n    }\n}\n",
        "class A<> {}",
        "class A { void B() { C(if); } }",
        "class A { [B(C = 1, 2)] void D() {} }",
        "class A { void B(int c = 1, int d) {} }",
        "namespace A { private class B {} }",
        "class A { void B() { C({ 1 }); } }",
        "class A { B() {} }",
        "class A { void B() { C = (D<>)e; } }",
        "class A {\n#if B\n}\n",
        "class A { void B() { if (c) int d = 1; } }",
        "return a;",
        "class A { void B() { switch (c) { case 1: continue; } } }",
        "class A { void B() { for (;;) { C(() => { break; }); } } }",
        "class A { void B() { C((ref d)); } }",
        "class A { void B() { (C.D)(); } }",
        "class A { void B() { C((new D)); } }",
        "class A { void B() { private int c = 1; } }",
        "class A { b.C(d); }",
        "class A { void B() { c (d) = e; } }",
        "class A { void B() { -c; } }",
        "class A : B[] { }",
        "class A { void B() { switch (c) { default: } } }",
        "class A { void B() { c = new D { (E = { 1 }) }; } }",
    ]),
    ("c", &[
        "void a(void) { b(c, , d); }",
        "int a[] = { 1, , 2 };",
        "#endif\n",
        "({ 1 });\n",
        "struct a { if (b) c(); };",
        "void a(void) { b }",
        "struct a { int b };",
        "void a(void) { int b[2] = 1, 2; }",
        "void a(void) { int b(void) { c(); } }",
        "a::a() : b(1), {}",
        "void a(void) { 0 = b; }",
        "void a(void) { b(if (c) d); }",
        "void a(void) { b(.c = 1); }",
        "void a(int b, (int c)) {}",
        "void a(void) { b[] = 1; }",
        "void a(void) { if (b) }",
        "void a(void) { while (b) }",
        "void a(void) { if (b) c(); else }",
        "void a(void) { switch (b) { case 1: continue; } }",
        "void a(void) { case 1: b(); }",
        "void a(void) { b((.c = 1)); }",
        "void a(void) { { else if (b) c(); } }",
        "return a(1);",
        "int a(int b) int a(int b) { }",
        "int a[2 * int];",
        "struct a { b<c, > d; };",
    ]),
    ("css", &[
        "a { b: c(d, ); }",
        "a { b c: d; }",
        "a { b; }",
        "a { b: c },",
        "a: b;",
        "12px { a: b }",
        "calc(a) { b: c }",
        "a { b: (c; d); }",
        "a { b: c(d; e); }",
        "@media 40em { a { b: c } }",
        "a { b: c(); }",
        "@media () { a { b: c } }",
        "a { b: c d: e; }",
        "a { b(c); }",
    ]),
    ("scss", &[
        "a { b: c(, d); }",
        "a { b c: d; }",
        "a { b; }",
        "a { b: c },",
        "a: b;",
        "12px { a: b }",
        "a { b: (c; d); }",
        "@media 40em { a { b: c } }",
        "$a: \"b\": 1, \"c\": 2;",
        "a { b(@include c); }",
        "a { b: ((@include c)); }",
        "a { b: f(1), d: $e; }",
        "a { 0 1px $b; }",
        "a-@{b(c)} { d: e; }",
        "a { b: c(.d()); }",
        "a { b: (.d()); }",
        "@import;",
    ]),
    ("matlab", &[
        "a(b, , c)\n",
        "function a('b')\nend\n",
        "a(if b)\n",
        "(a = b)\n",
        "(a, b)\n",
        "[if a]\n",
        "3 = a\n",
        "[a{:}, 1] = b\n",
        "function a(b, b)\nend\n",
        "function b if c = end a(d)\nend\n",
        "if a\n  break\nend\n",
    ]),
    ("pascal", &[
        "unit a; interface implementation begin b(c, , d); end.",
        "program a; uses b, ; begin end.",
        "unit a; interface implementation end",
        "interface implementation end.",
        "program a; b; begin end.",
        "unit a; interface b; implementation end.",
        "unit a; interface var b: c; if d then e; implementation end.",
        "unit a; interface type b = class if e then f; end; implementation end.",
        "program a; begin procedure b; begin end; end.",
        "unit a; interface procedure b(c, const d: e); implementation end.",
        "program a; begin b(if c then d); end.",
        "program a; begin b := (if c then d); end.",
        "program a; uses b, (c); begin end.",
        "program a; begin b, c; end.",
        "unit a; implementation interface end.",
        "unit a; interface var b: c; uses d; implementation end.",
        "unit a; interface implementation procedure b; procedure c; begin end; end.",
        "unit a; interface b = ^c; implementation end.",
        "program a; b = ^c; begin end.",
        "unit a; interface type b(c = class end); implementation end.",
        "unit a; interface var b(c: d); implementation end.",
        "unit a; interface type b = class c(d: e); end; implementation end.",
        "unit a; interface type b = class procedure c; d: e; end; implementation end.",
        "program a; begin b((c:12)); end.",
        "program a; var b; begin end.",
    ]),
];

fn laws(language: &str, text: &str) -> Vec<(String, Vec<u32>)> {
    laws_kept(read(language, text).code())
}

fn names(language: &str) -> Vec<String> {
    laws(language, "").into_iter().map(|(law, _)| law).collect()
}

#[test]
fn each_law_is_broken_by_something() {
    let mut untold = Vec::new();
    for language in Language::all() {
        let own = names(language.name());
        let (family, texts) = BROKEN.iter().find(|(name, _)| names(name) == own).copied().unwrap_or(("", &[]));
        for (at, law) in own.iter().enumerate() {
            let broken = texts.get(at).is_some_and(|text| !laws(family, text)[at].1.is_empty());
            if !broken {
                untold.push(format!("{} {law}", language.name()));
            }
        }
    }
    assert_eq!(untold, Vec::<String>::new(), "laws that no sample breaks");
}

#[test]
fn the_demo_keeps_every_law() {
    for (path, language, text) in sample_files() {
        let broken: Vec<_> = laws(language, &text).into_iter().filter(|(_, offsets)| !offsets.is_empty()).collect();
        assert!(broken.is_empty() || path.contains("broken"), "{path}: {broken:?}");
    }
}

#[test]
fn what_a_namespace_of_a_whole_file_uses_comes_behind_it() {
    for (text, kept) in [("using A; namespace B; using C; class D { }", true), ("class D { } using C;", false)] {
        let broken = laws("csharp", text).iter().any(|(_, offsets)| !offsets.is_empty());
        assert_eq!(!broken, kept, "{text}");
    }
}

/// What else a law holds code to than its sample, and what it takes.
#[test]
fn laws_know_what_they_are_about() {
    for (language, text, kept) in [
        ("python", "def a(b, /, c): pass\n", true),
        ("python", "def a(/, b): pass\n", false),
        ("python", "async def a():\n    return *b, await c\n", true),
        ("python", "async def a():\n    def b():\n        await c\n", false),
        ("python", "def a():\n    async def b():\n        await c\n", true),
        ("python", "def a():\n    global b, c\n    b = 1\n", true),
        ("python", "def a():\n    def b():\n        c = 1\n    global c\n", true),
        ("python", "def a():\n    if b:\n        print(c)\n    nonlocal d, c\n", false),
        ("python", "a = (*b,)\nc(*d)\n*e, f = g\n", true),
        ("python", "a = *b\n", false),
        ("python", "*a, b\n*a,\n", true),
        ("python", "assert a == \\\n    b, \\\n    c\n", true),
        ("rust", "fn a() { async { b } }\n", true),
        ("rust", "fn a() { async { b } let c = 1; }\n", false),
        ("rust", "fn a(mut b: u8) { c!(mut d); let ref mut e = f; }\n", true),
        ("rust", "use a::{self, b as _};\nstruct C<D> { d: D }\n", true),
    ] {
        let broken: Vec<_> = laws(language, text).into_iter().filter(|(_, offsets)| !offsets.is_empty()).collect();
        assert_eq!(broken.is_empty(), kept, "{text}: {broken:?}");
    }
}
