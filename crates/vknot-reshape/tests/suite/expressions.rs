//! Expressions in the languages with hand-made readers, and where a grammar would go wrong: everything a person would select has its rung.

use vknot_reshape::looks;
use vknot_syntax::Span;

use crate::support::{indented, read};

/// What is between `«` and `»` is an expression, and so a rung of the ladder where it begins.
const CASES: &[(&str, &[&str])] = &[
    (
        "rust",
        &[
            "fn f() { g(«..«*a»»); }",
            "fn f() { g(«*a..=«-b»», «..«&c»», «0.. «*d»»); }",
            "fn f() { for i in «0..«-1»» {} match x { 0..=-1 => 1, ..-3 | 2 => 1 } }",
            "fn f() { loop { break «(a, b)»; } }",
            "fn f() { loop { break «[a][0]»; break «-b»; } }",
            "fn f() { m! {}\n «(x).y()»; }",
            "fn f() { b::m! { c }\n «*x = 1»; let a = m! { d }\n * 2; }",
        ],
    ),
    (
        "c",
        &[
            "void f() { g(«a + b», 1); }",
            "void f() { x = «a + «b * c»»; }",
            "void f() { x = ««a + b» - c»; }",
            "void f() { «x = «y = z»»; }",
            "void f() { ««t->level»[i]».high++; }",
            "void f() { x = «(uint8_t)(y << 3)» | z; }",
            "void f() { x = «sizeof(struct tide)» + 1; }",
            "void f() { x = «a ? b : «c ? d : e»»; }",
            "void f() { return «!ok && «!(n > 0)»»; }",
            "void f() { puts(«\"low\" PRIu64 \"high\"»); }",
            "int a = «b | c», d = «-e»;",
            "enum { LOW = «1 << 3», HIGH };",
            "struct tide t = { .level = «3 + 4», [2] = «f(x)» };",
            "void f() { for (i = 0; «i < n»; «i++») g(); }",
            "void f() { if («(p = get(t)) == NULL») g(); }",
            "void f() { x = a /* one */ + «b /* two */ * c»; }",
            "void f() { x = «a +\n#ifdef B\n b\n#else\n c\n#endif\n + d»; }",
        ],
    ),
    (
        "cpp",
        &[
            "void f() { x = «list<tide<int>>(a)».size(); }",
            "void f() { auto x = «std::max(a, b)»; }",
            "void f() { run(«[&](int a) { return «a + 1»; }», 2); }",
            "void f() { if («a < b && c > d») g(); }",
            "void f() { std::cout << «(a >> b)»; }",
            "void f() { x = «a <=> b» == 0; }",
            "void f() { return «a[1] <=> «b[i]»»; }",
            "void f() { x = «new Gauge(«a + b»)»; }",
            "void f() { «object->*member = 1»; }",
            "class A { A() : low(«a * 2»), high{«b - 1»} {} };",
            "void f(int a = «b + c»);",
        ],
    ),
    // A call with type arguments begins with its own name, and a template may be what is handed over.
    (
        "typescript",
        &[
            "a = b + «f<C>(d)» * «g<C, D>(e)»;",
            "async function f() { a = await «g<B>(c)».d(«!«h<E>(i)[0]!.j»»); }",
            "a = «f<B>`c ${d} ${«e<F[]>`g`»}`»; h = `i>` + «j<{ k: (l) => M }>`n`.o»;",
            "a = /`b>`/.test(c) ? \"d>`\" : «e.f<G>`h`»; // i<j>`k`",
        ],
    ),
    ("tsx", &["a = «b.c<{ d: E }>`f`»; g = <p>h<code>`i`</code></p>; j = «k(l)<M>`n`» + «o<P>(q)»;"]),
    // Type arguments behind `new` are no comparisons, and what is handed over there is no cast.
    (
        "csharp",
        &[
            "class A { B c = new List«<D>»(«e») { F(g) }; }",
            "class A { void B() { C(«new E.Map<F, G<H>>(«i.J[0]») { K = 1 }», 2); } }",
            "class A { B c = new List<D>(«(E)f») { g }; bool h = «i < j» && «k > (l)»; }",
            "class A { void B() { if (!«c.Is<D>(e)») f = (G)«h<I>(j)» ?? k * «l<M>(n)» + -o; } }",
            // What a pointer points to is a value, or what a value is put in.
            "class A { unsafe void B() { «c = «*«(int*)(«d + e»)»»»; } }",
            "class A { unsafe void B() { «*(int*)(«c + 1») = «*«(F.G*)&h»»»; } }",
            "class A { unsafe void B() { if (a) «*(«b + c») += «*«d++» * *«e[1]»»»; } }",
            "class A { void B() { c = «a * («b + c»)»; d = «(e) * («f + g»)»; } }",
            "class A { void B() {\n#if C\nif (d) {\n#else\nif (*(e + 1) > 0) {\n#endif\n«*(int*)(«f + 1») = 2»; } } }",
        ],
    ),
    (
        "pascal",
        &[
            "begin x := «a + «b * c»»; end.",
            "begin «dm.Save(x)»; end.",
            "begin ««list[i]».Name» := 'low'; end.",
            "begin if «(a = 1) and not «b.Done»» then c; end.",
            "begin x := «p^.Next^»; end.",
            "begin for i := 0 to «n - 1» do f(«a div 2»); end.",
            "begin x := «TList<Integer>.Create(a)»; end.",
            "const a = «b or c»;",
        ],
    ),
    (
        "matlab",
        &[
            "x = «a + «b * c»»;",
            "y = «x(«end - 1», :)»;",
            "m = [«a + b» «-c» «d'»];",
            "f = «@(t) «sin(t) + 1»»;",
            "if «x.level > 0 && ok», y, end",
            "c{«i + 1»} = «s.(«name»).low»;",
        ],
    ),
    ("octave", &["x += «a * b»;", "printf (\"%d\", «a + b»);", "x = «a != b»;"]),
    ("dax", &["Surge = «[Level] - «MAX ( Tides[Metres] )»»", "Above = IF ( «[A] > 1 && NOT «[B] = 2»», 1 )"]),
    (
        "scss",
        &[
            "a { width: «$b * 2»; }",
            "a { width: calc(«100% - #{«$b + 1»}»); }",
            "@if «$a == 1 and $b» { a { b: c; } }",
            "«.card», «.board > a» { b: c; }",
            "a { b: «0 1px», «0 2px»; }",
        ],
    ),
];

/// A text without its marks, and the spans between them.
fn marked(text: &str) -> (String, Vec<Span>) {
    let (mut plain, mut open, mut spans) = (String::new(), Vec::new(), Vec::new());
    for c in text.chars() {
        match c {
            '«' => open.push(plain.len() as u32),
            '»' => spans.push(Span::new(open.pop().unwrap(), plain.len() as u32)),
            c => plain.push(c),
        }
    }
    (plain, spans)
}

#[test]
fn every_expression_has_its_rung() {
    let mut wrong = Vec::new();
    for (language, cases) in CASES {
        for case in *cases {
            let (text, spans) = marked(case);
            let read = read(language, &text);
            for span in spans {
                let rungs = looks::ladder(read.code(), Span::new(span.start, span.start));
                if !rungs.iter().any(|rung| rung.span == span) {
                    let found: Vec<&str> = rungs.iter().map(|rung| read.source().slice(rung.span)).collect();
                    wrong.push(format!("{language}: `{}` of `{text}`: {found:?}", read.source().slice(span)));
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// What the grammars lack or leave out.
const SOUND: &[(&str, &str)] = &[
    ("rust", "macro_rules! a {\n    ($($b:expr),* ; $($c:ident)=>+) => { [$($b),*]; $($c);+ };\n}\n"),
    ("javascript", "export {\n/* {} */ a_ as catch };\nexport { b as null, c as default, d as void } from \"e\";\n"),
    ("javascript", "import f, { catch as g, default as h } from \"i\";\nexport class J { if() { return null; } }\n"),
    ("typescript", "export { a_ as null };\nimport type { try as b } from \"c\";\ninterface D<out E> {}\n"),
    ("tsx", "a = <p>b<C>`d` e</C></p>;\nf = g<H>`i`;\n"),
    ("typescript", "export { a_ as in };\nconst b = <C>() =>\n<D>(e: D): F<D> => g;\n"),
];

/// What came to the languages later than to the grammars.
const LATER: &[(&str, &str)] = &[
    (
        "rust",
        "unsafe extern \"C\" {\n    safe fn a();\n    pub safe static B: u8;\n    pub unsafe static mut C: u8;\n}\n",
    ),
    (
        "java",
        "class A {\n    A() {\n        b(); // Before.\n        // Now.\n        super(c);\n    }\n\n    A(int d) {\n        if (d > 1) {\n            e();\n        }\n        this();\n    }\n}\n",
    ),
    (
        "javascript",
        "import defer * as a from \"b\";\nimport source c from \"d\";\nclass E {\n  accessor f = 1;\n  static accessor #g;\n}\n",
    ),
    ("typescript", "import defer * as a from \"b\";\nfor (using c of d) {\n  e();\n}\n"),
    ("csharp", "class A\n{\n    void B()\n    {\n        c?.D = 1;\n        c?.D?[2].E(3)?.F += 4;\n    }\n}\n"),
    (
        "csharp",
        "class A\n{\n    void B<C>() where C : allows ref struct\n    {\n        D e = (f, out g) => h;\n        D i = (scoped j) => k(out l);\n    }\n}\n",
    ),
    (
        "csharp",
        "class A\n{\n    void operator +=(int b)\n    {\n        c();\n    }\n    void operator >>>=(int b) => c();\n}\n",
    ),
    (
        "csharp",
        "static class A\n{\n    extension(B b)\n    {\n        int C => 1;\n    }\n    extension<D>(E<D>) where D : F\n    {\n        void G()\n        {\n        }\n    }\n}\n",
    ),
];

#[test]
fn what_grammars_lack_is_read() {
    for (language, text) in SOUND.iter().chain(LATER) {
        assert!(!read(language, text).tree().has_error(), "{language}\n{text}");
    }
    for (language, text) in LATER {
        let flat: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
        assert_eq!(indented(language, &flat, &[]), *text, "{language}");
    }
    assert!(read("javascript", "class A { catch as b }").tree().has_error());
}

#[test]
fn what_only_types_would_tell_is_uncertain() {
    for (text, uncertain) in [
        ("void f() { a * b; }", true),
        ("void f() { x = (a)(b); }", true),
        ("void f() { x = a * b; }", false),
        ("void f() { x = (int)(b); }", false),
    ] {
        let read = read("c", text);
        let found = (0..read.tree().nodes().len() as u32)
            .any(|id| read.tree().kind_name(vknot_syntax::NodeId(id)) == "uncertain");
        assert_eq!(found, uncertain, "{text}");
    }
}

#[test]
fn long_and_deep_expressions_are_read_in_bounds() {
    let many = 20_000;
    for text in [
        format!("int a = b{};", " + b".repeat(many)),
        format!("int a = {}b;", "!".repeat(many)),
        format!("int a = b{};", "->b".repeat(many)),
        format!("int a = {}b{};", "(".repeat(many), ")".repeat(many)),
        format!("int a = {}b;", "b ? b : ".repeat(many)),
        format!("int a = b{};", " = b".repeat(many)),
        format!("void f() {{ a{}; }}", " < b".repeat(many)),
    ] {
        let read = read("c", &text);
        looks::check(read.code()).unwrap();
    }
}

/// Marks that others stand for while a grammar reads, one in the other.
#[test]
fn a_mark_is_what_is_written() {
    let csharp = "class A { unsafe void B() { *(int*)(c + *(int*)(d + *(e + 1))) = *(F*)g++; h?.I = 1; } void operator <<=(int j) {} }";
    for (language, text) in [("csharp", csharp)].iter().chain(LATER) {
        let read = read(language, text);
        let tree = read.tree();
        assert!(!tree.has_error());
        for token in tree.tokens() {
            let text = read.source().slice(token.span());
            let kind = tree.language().token_kind(text);
            assert!(kind.is_none_or(|kind| kind == tree.node(token.node).kind), "{text} at {}", token.start);
        }
    }
}
