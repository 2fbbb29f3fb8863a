//! Damaged code: one missing bracket takes no other item along.

use vknot_reshape::looks::{self, OutlineEntry};
use vknot_syntax::Role;

use crate::support::{indented, read};

/// Well-indented code whose every closing bracket is taken away in turn.
const SOUND: &[(&str, &str)] = &[
    (
        "java",
        "class Gauge {\n    void read(int a) {\n        if (a > 1) {\n            send(b(a), c[2]);\n        }\n    }\n\n    void send(int a) {\n        run(a);\n    }\n}\n\nclass Tide {\n    int level() {\n        return 1;\n    }\n}\n",
    ),
    (
        "typescript",
        "function read(a: number) {\n  if (a > 1) {\n    send(b(a), [2]);\n  }\n}\n\nclass Tide {\n  level() {\n    return { low: 1 };\n  }\n\n  high() {\n    return [2];\n  }\n}\n",
    ),
    (
        "go",
        "package tide\n\nfunc read(a int) {\n\tif a > 1 {\n\t\tsend(b(a), c[2])\n\t}\n}\n\nfunc level() int {\n\treturn 1\n}\n",
    ),
    (
        "rust",
        "fn read(a: u32) {\n    if a > 1 {\n        send(b(a), c[2]);\n    }\n}\n\nmod tide {\n    fn level() -> u32 {\n        1\n    }\n}\n",
    ),
    (
        "csharp",
        "namespace Tides\n{\n    class Gauge\n    {\n        void Read(int a)\n        {\n            Send(b(a), c[2]);\n        }\n\n        int Level()\n        {\n            return 1;\n        }\n    }\n}\n",
    ),
    (
        "json",
        "{\n  \"low\": {\n    \"levels\": [\n      1\n    ]\n  },\n  \"high\": {\n    \"station\": \"quay\"\n  }\n}\n",
    ),
    (
        "python",
        "class Gauge:\n    def read(self, a):\n        send(b(a), c[2])\n\n    def level(self):\n        return 1\n",
    ),
    ("c", "void read(int a) {\n  if (a > 1) {\n    send(b(a), c[2]);\n  }\n}\n\nint level(void)\n{\n  return 1;\n}\n"),
    (
        "cpp",
        "namespace tides {\n\nclass Gauge : public Base,\n              public Other {\n public:\n  void read(int a) {\n    send(b(a), c[2]);\n  }\n};\n\nint level() {\n  return 1;\n}\n\n}\n",
    ),
    // Heads that wrap, with a comment behind their bracket, and bodies on one line.
    (
        "cpp",
        "class Gauge {\n public:\n  Gauge(int a) :\n      low_(a), high_(a) {\n    send(a);\n  }\n\n  template <typename T>\n  void read(T a,\n      int b) {  // both\n    for (int c = 0; c < 10;\n         c = 2 * c) {\n      send(c);\n    }\n  }\n\n  bool is_low() const { return level() < 1; }\n};\n\nint level() {\n  return 1;\n}\n",
    ),
    // A branch that does not count, beside one that does.
    (
        "c",
        "#ifdef TIDE\nint low(int a);\n#else\nint low(int a) {\n  return b[a];\n}\n#endif\n\nint high(void) {\n  return 2;\n}\n",
    ),
    (
        "scss",
        "@mixin card {\n  .#{$prefix}--low,\n  .#{$prefix}--high {\n    color: red;\n  }\n\n  .quay {\n    --#{$tip}--x: var(--#{$tip}--y);\n  }\n}\n\n* + .board {\n  width: 2px;\n}\n",
    ),
    (
        "scss",
        ".card {\n  .low:has(\n      .quay\n    ) {\n    color: rgba(\n        red,\n        20%\n      );\n  }\n\n  .high {\n    width: 1px;\n  }\n}\n\n.board {\n  width: 2px;\n}\n",
    ),
    // A bracket that stands elsewhere than its line says nothing of the others.
    (
        "less",
        " .pier {\n    width: 1px;\n}\n\n.@{card} {\n  .low {\n    width: 1px;\n  }\n}\n\n.quay { color: red; }\n",
    ),
    ("scss", ".card {\n  color: darken($a, 2%);\n\n  .low {\n    width: 1px;\n  }\n}\n\n.board {\n  width: 2px;\n}\n"),
    ("scheme", "(define (read a)\n  (if (> a 1)\n      (send (b a))))\n\n(define (level)\n  1)\n"),
    (
        "racket",
        "(module tide racket/base\n  (define (read a)\n    (send a\n (b a)))\n\n  (define (level)\n    (let ([a (b 1)])\n      (send a)))\n\n  (define (low)\n    2))\n",
    ),
    // Nor does a form whose lines stand elsewhere.
    (
        "scheme",
        "(define (read a)\n  (send a\n (b a)))\n\n(define (level)\n  (let ((a (b 1)))\n    (send a)))\n\n(define (low)\n  2)\n",
    ),
];

/// Where entries begin and end, their names, and where what holds them begins.
fn keys(entries: &[OutlineEntry]) -> Vec<(u32, u32, String, Option<u32>)> {
    let holder = |entry: &OutlineEntry| entry.parent.map(|parent| entries[parent].span.start);
    entries.iter().map(|entry| (entry.span.start, entry.span.end, entry.name.clone(), holder(entry))).collect()
}

#[test]
fn a_missing_closing_bracket_takes_no_other_item_along() {
    let mut lost = Vec::new();
    for (language, text) in SOUND {
        let sound = read(language, text);
        assert!(!sound.tree().has_error(), "{language}");
        let entries = keys(&looks::outline(sound.code()));
        assert!(entries.len() > 1, "{language}");
        for token in sound.tree().tokens() {
            let at = token.start;
            let string = matches!(sound.tree().role(token.node), Role::String | Role::Comment);
            if string || !matches!(sound.source().slice(token.span()), ")" | "]" | "}") {
                continue;
            }
            let damaged = read(language, &format!("{}{}", &text[..at as usize], &text[at as usize + 1..]));
            let there = keys(&looks::outline(damaged.code()));
            for (start, end, name, holder) in &entries {
                let moved = |start: u32| start - u32::from(start > at);
                let outside = *end <= at || *start > at;
                let kept =
                    there.iter().any(|key| key.0 == moved(*start) && key.2 == *name && key.3 == holder.map(moved));
                if outside && !kept {
                    lost.push(format!("{language}: {name} without the bracket in line {}", sound.source().line(at)));
                }
            }
        }
    }
    assert!(lost.is_empty(), "{}", lost.join("\n"));
}

#[test]
fn a_file_that_is_cut_off_keeps_what_is_in_front() {
    for (language, text) in SOUND {
        let entries = keys(&looks::outline(read(language, text).code()));
        for end in (0..text.len()).filter(|end| text.is_char_boundary(*end)) {
            let there = keys(&looks::outline(read(language, &text[..end]).code()));
            for (start, stop, name, _) in entries.iter().filter(|entry| entry.1 as usize + 1 < end) {
                let kept = there.iter().any(|key| key.0 == *start && key.1 == *stop && key.2 == *name);
                assert!(kept, "{language}: {name} of {:?}", &text[..end]);
            }
        }
    }
}

#[test]
fn the_missing_bracket_is_a_node_without_text() {
    let read = read("java", "class A {\n    void b() {\n        c();\n\n    void d() {\n    }\n}\n");
    let missing: Vec<(u32, &str)> = (0..read.tree().nodes().len() as u32)
        .map(vknot_syntax::NodeId)
        .filter(|id| read.tree().node(*id).is_missing())
        .map(|id| (read.source().line(read.tree().node(id).start), read.tree().kind_name(id)))
        .collect();
    assert_eq!(missing, [(3, "}")]);
}

/// A text with the brackets written that the reader puts in.
fn completed(language: &str, text: &str) -> String {
    let read = read(language, text);
    let tree = read.tree();
    let mut done = String::new();
    let mut from = 0;
    for node in tree.nodes().iter().filter(|node| node.is_missing()) {
        let name = tree.language().kind_name(node.kind);
        if matches!(name, ")" | "]" | "}") {
            done.push_str(&text[from as usize..node.start as usize]);
            done.push_str(name);
            from = node.start;
        }
    }
    done + &text[from as usize..]
}

/// Code with `¡` where the closing bracket stands that it lacks.
const LACKING: &[(&str, &str)] = &[
    // In front of the line that stands no further in than the bracket's own.
    ("java", "class A {\n  void b() {\n    c();\n  ¡}\n\n  void d() {\n  }\n}\n"),
    ("java", "class A {\n  int b() {\n    if (c) {\n      d();\n    ¡}\n    return 1;\n  }\n}\n"),
    // In front of the block that a head is for.
    ("java", "class A {\n  void b() {\n    try (C c = d(e)¡) {\n      f();\n    }\n  }\n}\n"),
    ("javascript", "function a() {\n  if (b(c)¡) {\n    d();\n  }\n}\n"),
    // At the end of a statement.
    ("rust", "fn a() {\n    b(c, d[1]¡);\n    e();\n}\n"),
    ("csharp", "class A\n{\n    void B()\n    {\n        C(d, e[1¡]);\n    }\n}\n"),
    // In front of a comma where it is an element of a list.
    ("json", "{\n  \"a\": [\n    {\n      \"b\": 1\n    ¡},\n    {\n      \"c\": 2\n    }\n  ]\n}\n"),
    ("go", "package a\n\nvar b = []T{\n\t{1, []int{2}¡},\n\t{3, []int{4}},\n}\n"),
    // In front of an attribute, which belongs to what follows.
    ("rust", "impl A {\n    fn b() {\n        c();\n    ¡}\n\n    #[inline]\n    fn d() {\n        e();\n    }\n}\n"),
    // In front of a comment, which does so, too.
    ("java", "class A {\n  void b() {\n    c();\n  ¡}\n\n  // low water\n  void d() {\n  }\n}\n"),
    // Behind what only goes on on the next line.
    (
        "csharp",
        "class A\n{\n    void B()\n    {\n        C(\"d\" +\n\"e\");\n        F();\n    ¡}\n\n    void G()\n    {\n    }\n}\n",
    ),
    // In front of what closes something around it.
    ("typescript", "class A {\n  b() {\n    return [c, d(e)¡];\n  }\n}\n"),
    // A label and an access word stand with the head, a namespace's inside may stand flush.
    ("cpp", "class A {\n public:\n  void b() {\n    c();\n  ¡}\n\n private:\n  int d;\n};\n"),
    ("cpp", "namespace a {\n\nnamespace {\n\nvoid b() {\n  c();\n¡}\n\nvoid d() {\n}\n\n}\n\n}\n"),
    ("c", "struct a {\n  int b;\n¡};\n\nint c(void)\n{\n  return 1;\n}\n"),
    // At once where what follows goes on behind a value.
    ("cpp", "void a() {\n  b(c.first(¡).next());\n}\n"),
    ("java", "class A {\n  void b() {\n    c(d.size(¡), 2);\n  }\n}\n"),
    // In front of a body, if that ends on its line, too.
    ("cpp", "class A {\n  int b(int c¡) { return c; }\n\n  int d();\n};\n"),
    ("scss", "@mixin a($b¡) {}\n\n@mixin c($d) {\n  e: $d;\n}\n"),
    // Where the grammar lacks something else in the file, too.
    (
        "typescript",
        "interface A<in out B> {\n  b: B\n¡}\n\ninterface C {\n  <D>(d: D): void\n  <E>(e: E, f: number): void\n}\n",
    ),
    // A value in a name ends with the name.
    ("scss", "@mixin a {\n  .#{$b--low¡} {\n    c: d;\n  }\n\n  .#{$b}--high {\n    c: d;\n  }\n}\n"),
    ("scss", ".a {\n  --#{$b--low¡}: 1px;\n  --#{$b}--high: 2px;\n}\n"),
    ("less", ".a {\n  .@{b-low¡}, .@{b}-high {\n    c: d;\n  }\n}\n"),
];

#[test]
fn missing_brackets_are_put_where_they_belong() {
    for (language, marked) in LACKING {
        let at = marked.find('¡').unwrap();
        let whole = marked.replace('¡', "");
        let broken = format!("{}{}", &marked[..at], &marked[at + '¡'.len_utf8() + 1..]);
        assert!(!read(language, &whole).tree().has_error(), "{language}\n{whole}");
        let bare = |text: &str| text.split_whitespace().collect::<String>();
        assert_eq!(bare(&completed(language, &broken)), bare(&whole), "{language}\n{broken}");
    }
}

#[test]
fn sound_and_flat_code_is_left_as_it_is() {
    for (language, text) in SOUND {
        assert_eq!(completed(language, text), *text, "{language}");
        // Lines that all begin at the margin say nothing of where a bracket belongs.
        let flat: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
        let levels = matches!(*language, "python" | "gdscript");
        assert!(levels || !read(language, &flat).tree().has_error(), "{language}");
    }
}

#[test]
fn comments_of_what_is_not_read_are_comments() {
    let read = read("typescript", "import type { De from \"./gauge\"\n/**\n * low\n */\nexport * ");
    let tree = read.tree();
    let comment = tree.tokens().iter().find(|token| read.source().slice(token.span()).starts_with("/**"));
    assert_eq!(comment.map(|token| tree.role(token.node)), Some(Role::Comment));
}

#[test]
fn what_reaches_into_the_last_line_of_a_half_written_text_stays() {
    for (language, text) in [("typescript", "[`\nlow\n`n"), ("racket", "[|\n   low\n|\"")] {
        assert!(read(language, text).tree().has_error(), "{text}");
        assert_eq!(indented(language, text, &[]), text);
    }
}

/// What begins nothing: in front of each, a reader could stay where it is for ever.
#[test]
fn what_begins_nothing_is_read_past() {
    for language in ["c", "cpp"] {
        let text = "do { { } } while ({ ;) =";
        assert!(read(language, text).tree().has_error(), "{language}");
    }
}

#[test]
fn lines_that_cannot_be_read_stay_where_they_stand_for_something() {
    let text = "\
namespace Tide
{
    unsafe class Gauge
    {
        public uint Level
        {
            set {
                fixed (int* p = &level) {
                    *(uint*)read(p) = value;
                }
            }
        }

        IEnumerable<Notice> Warn()
        {
            if (low)
                yield break;
            yield return notice;
        }
    }
}
";
    assert!(read("csharp", text).tree().has_error(), "the reader takes it by now: another text is wanted");
    assert_eq!(indented("csharp", text, &[]), text);
}

#[test]
fn a_type_is_imported_from_one_module() {
    for (from, broken) in [("\"b\"", false), ("\"b\", { with: { c: \"d\" } }", false), ("\"b\", \"c\"", true)] {
        let text = format!("let a: import({from}).D<E>;\n");
        assert_eq!(read("typescript", &text).tree().has_error(), broken, "{text}");
    }
}
