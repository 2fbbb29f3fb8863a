//! Names: what is the same as what, told by scope and by word.

use vknot_reshape::editing::{By, Sought, occurrences};
use vknot_syntax::Span;

use crate::support::read;

#[test]
fn names_are_told_by_their_scope() {
    for (language, text, at, uses) in [
        ("java", "class A { private int x; void f(int x) { this.x = x; } int g() { return x; } }", 22, 3),
        ("java", "class A { void f(int x) { g(x); } int x; }", 21, 2),
        ("java", "class A { int x; void f(int x) { g(x); } int h() { return x; } }", 14, 0),
        ("java", "class A { private int x; int g(A other) { return other.x + x; } }", 22, 0),
        ("python", "def f(x, y=x):\n    return [x for x in y]\n", 6, 1),
        ("python", "import os\n\ndef f():\n    return f'{os.x}'\n", 7, 2),
        (
            "python",
            "import os\n\nclass A(os.B):\n    a = os.a\n\n    def b(self, c=os.c):\n        return os.d\n",
            7,
            5,
        ),
        ("python", "import os\n\nclass A:\n    os = os.a\n\n    def b(self):\n        return os\n", 7, 0),
        ("python", "b = 1\n\nclass A:\n    b = 2\n    c = [b for b in b]\n", 0, 0),
        ("python", "def f(x):\n    return [x for x in x]\n", 6, 2),
        ("javascript", "const a = 1; { const a = 2; b(a); } b(a, `${a}`);", 6, 3),
        ("typescript", "import * as A from 'a'; type B<A extends A.C> = A.D<A>;", 12, 3),
        ("typescript", "type A<T> = T; const T = 1; f(T);", 7, 2),
        ("rust", "fn f() { #[cfg(a)] /* b */ let x = 1; #[cfg(not(a))] let x = 2; g(x); }", 32, 0),
        ("rust", "fn f() { #[allow(a)] let x = 1; g(x); }", 25, 2),
        ("rust", "fn f(x: u8) -> u8 { let x = x + 1; println!(\"{x}\"); x }", 24, 3),
        ("rust", "fn f(x: usize, y: u8) { println!(\"{y:>x$} {{x}} {:>x$}\", 1); }", 5, 3),
        ("rust", "fn f(x: Option<u8>) { if let Some(x) = x { g(x) } else { h(x) } }", 5, 3),
        ("go", "package a\nfunc f(x int) (y int) {\n\tx, z := g(x)\n\treturn x + z\n}\n", 17, 4),
        (
            "go",
            "package a\nfunc f(x int) {\n\tif x := g(x); x > 0 {\n\t\th(x)\n\t} else {\n\t\tx := x\n\t\th(x)\n\t}\n\th(x)\n}\n",
            30,
            4,
        ),
        ("go", "package a\ntype P struct{ x int }\nfunc f(x int) P { return P{x: x} }\n", 40, 2),
        ("go", "package a\ntype P map[int]int\nfunc f(x int) []P { return []P{{x: x}} }\n", 36, 3),
        ("go", "package a\nfunc f(x int) Q { return Q{x: x} }\n", 17, 0),
        (
            "go",
            "package a\nfunc (g *G[T]) f(a any) (b T) {\n\tswitch a := a.(type) {\n\tcase T:\n\t\treturn a\n\t}\n\treturn\n}\n",
            21,
            3,
        ),
        (
            "go",
            "package a\nfunc f(a any) {\n\tswitch a := a.(type) {\n\tcase int:\n\t\tg(a)\n\tdefault:\n\t\ta = b.a\n\t}\n}\n",
            34,
            3,
        ),
        ("go", "package a\ntype B int\ntype C struct{ B }\n", 15, 0),
        ("csharp", "class A { int x; void F(int x) { this.x = x; G(y => x + y); } }", 28, 3),
        ("csharp", "class A { private int x; void F(int x) { this.x = x; } int G() => x; }", 22, 3),
        ("csharp", "class A { private int x; int G(A a) => a.x + x; }", 22, 0),
        ("csharp", "class A { void F(int x) { G(x); } void H() { F(x: 1); } }", 21, 0),
        ("csharp", "class A { void F(object a) { if (a is B b && b.C) G(b); else H(b); I(b); } }", 40, 5),
        ("csharp", "class A { void F(object a) { while (a is B b) G(b); I(b); } }", 43, 2),
        (
            "csharp",
            "class A { void F() { var x = 1; G(from x in x.Y where x > 1 select new { x, Z = $\"{x}\" }); } }",
            39,
            4,
        ),
        ("csharp", "partial class A { private int x; int G() => x; }", 30, 0),
        ("csharp", "class A<T> where T : B { T F<U>(T a, C.T b) => G<T>(a); }", 8, 5),
        (
            "csharp",
            "class A {\n    void F(int w) {\n#if B\n        G(w); if (C) {\n#else\n        if (w) {\n#endif\n        }\n    }\n}\n",
            25,
            0,
        ),
        ("c", "int f(g_t *x, int n) { x->x = n; { int x = n; h(x); } return x ? 1 : n; }\n", 11, 3),
        ("c", "static int x;\nint f(void) { int y = x, x = y; return x; }\nint h(void) { return x; }\n", 11, 3),
        ("c", "int x;\nint f(void) { return x; }\n", 4, 0),
        ("c", "void f(int x) { A(x + 1); }\nvoid g(int x) { A(x); }\n", 11, 2),
        ("c", "void g(int x) { A(x); }\n", 11, 0),
        ("c", "#define A(x, y) ((x) + (y))\nint g(int x) { return A(x, 1); }\n", 38, 2),
        ("c", "#define A(y) ((x) + (y))\nint g(int x) { return A(x); }\n", 35, 0),
        ("c", "void f(void) { const x_t *a; int (*x)(int b), y = 1; (*x)(y); a * b; }\n", 35, 2),
        ("c", "void f(void) {\n#ifdef A\n    int x = 1;\n#else\n    long x = 2;\n#endif\n    g(x);\n}\n", 32, 3),
        ("c", "void f(int x) {\n    goto x;\nx:\n    g(x);\n}\n", 25, 2),
        ("c", "int f(x) int x; { return x; }\n", 13, 0),
        ("c", "void f(void) { for (int x = 0; x < 3; x++) g((struct x){ .x = x }); x(); }\n", 24, 4),
        ("scheme", "(define (f a . b) (let loop ((a a) (c b)) (if c (loop (cdr c) a) a)))\n", 11, 2),
        ("scheme", "(define (f a) (let loop ((a a)) (g (cdr a) (loop a))))\n", 26, 3),
        ("scheme", "(define (f a b) (do ((a a (+ a 1))) ((= a b)) '(a) `(a ,a)) (case a ((a) a)))\n", 11, 4),
        ("scheme", "(define (f a) (each (a b) (h a)))\n", 11, 0),
        ("scheme", "(define (f a) (each (a b) (h c)))\n", 11, 2),
        ("scheme", "(define-syntax f (syntax-rules () ((_ a) (g a))))\n(define (h a) (f a))\n", 61, 2),
        ("scheme", "(define (f a)\n  (define (g a) (h a))\n  (receive (a . b) (g a) (list a b)))\n", 25, 2),
        ("scheme", "(define (f a)\n  (receive (a . b) (g a) (list a b)))\n", 26, 2),
        ("scheme", "(let*-values (((a b) (f)) ((c) (g a))) (guard (a (#t (h a))) a))\n", 34, 3),
        ("racket", "#lang racket/base\n(provide f)\n(define (f a #:b [b a]) (f b #:b 1))\n", 27, 3),
        ("racket", "(define (f a [b a]) (for ([a a] [b a]) (g a)))\n", 11, 4),
        ("racket", "(for* ([a b] #:when a [c a]) (for/fold ([a a]) ([d a]) a))\n", 8, 5),
        ("racket", "(define (f a) (match a [(list a b) (g a)]))\n", 11, 0),
        ("racket", "(define (f a) (match a [(list c b) (g a)]))\n", 11, 3),
        ("racket", "(define (f a) (cond [(g a) (define a 1) (h a)] [else a]))\n", 11, 3),
        ("racket", "(define (f a) (g #:args (a) a))\n", 11, 0),
        ("racket", "(define (f a) (case-lambda [(a) a] [(a . b) b]))\n", 29, 2),
        ("javascript", "const a = 1; b(`${c(`a ${d} a ${a}`)} ${a.a}`, { a: `a` });", 6, 3),
        ("javascript", "const a = 1; b(`${c.map((a) => a)}`);", 6, 0),
        ("python", "def f(a):\n    return f'{b(a=1)} {a!r} {c.a}'\n", 6, 2),
        ("c", "#include <time.h>\nint f(int time) { return time; }\n", 28, 2),
        ("c", "static int AB;\nint f(void) { return AB; }\n", 11, 0),
        ("python", "import os\n\nclass A:\n    os = 1\n    b = f'{os}'\n", 7, 0),
        ("python", "def f(a):\n    return f'{[b for b in a]} {[a + b for b in c]}'\n", 6, 3),
    ] {
        let document = read(language, text);
        let found = occurrences(document.code(), Span::new(at, at), Sought::default()).unwrap();
        let count = if matches!(found.by, By::Scope(_)) { found.spans.len() } else { 0 };
        assert_eq!(count, uses, "{text}");
    }
}

#[test]
fn names_are_found_in_the_code_of_strings_macros_and_directives() {
    for (language, text, uses) in [
        ("c", "#define A 1\n#define B(C) (C + A)\n#if A > 1\nint d = A; // A\n#endif\n", 4),
        ("cpp", "#define A 1\n#define B \"A\" BA A_\nint d = A;\n", 2),
        ("csharp", "class A { string B() => $\"A {A.C:A} {{A}} {D(\"A\", $\"{A}\")}\"; }", 3),
        ("scss", "A { b: \"A #{A}\"; }", 2),
    ] {
        let document = read(language, text);
        let at = text.find('A').unwrap() as u32;
        let found = occurrences(document.code(), Span::new(at, at), Sought::default()).unwrap();
        let names: Vec<&str> = found.spans.iter().map(|span| document.source().slice(*span)).collect();
        assert_eq!(names, vec!["A"; uses], "{text}");
    }
}
