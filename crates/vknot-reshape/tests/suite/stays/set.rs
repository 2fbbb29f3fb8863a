//! Code that settings lay out otherwise than a file shows.

/// A text, what is set, and what comes of it.
pub(super) const SET: &[(&str, &str, &str, &str)] = &[
    (
        "cpp",
        "int f(int a)\n{ return a; }\nvoid g(int a) {\n  switch (a) {\n    case 1: case 2:\n      h(a);\n  }\n}\n",
        "vknot_break_block=all",
        "int f(int a) {\n  return a;\n}\nvoid g(int a) {\n  switch (a) {\n    case 1:\n    case 2:\n      h(a);\n  }\n}\n",
    ),
    (
        "c",
        "int f() {\n    if(level > 1 &&\n       zone > 2)\n        read();\n    if (level > 1 &&\n        zone > 2)\n        read();\n    read();\n    read();\n}\n",
        "vknot_space_control=true",
        "int f() {\n    if (level > 1 &&\n        zone > 2)\n        read();\n    if (level > 1 &&\n        zone > 2)\n        read();\n    read();\n    read();\n}\n",
    ),
    (
        "c",
        "int f() {\n    if ((level = read_the_level(station, zone)) < 0)\n        return 1;\n}\n",
        "max_line_length=40",
        "int f() {\n    if ((level = read_the_level(\n        station,\n        zone)) < 0)\n        return 1;\n}\n",
    ),
    (
        "c",
        "int f() {\n    warn(LEVEL,\n        \"the station has levels of the tide\");\n}\n",
        "max_line_length=45",
        "int f() {\n    warn(LEVEL,\n        \"the station has levels of the tide\");\n}\n",
    ),
    (
        "c",
        "int f() {\n    if ( a )\n        g( a , b );\n    if (b)\n        g(b, c);\n    if (c)\n        g(c, d);\n    if (d)\n        g(d, a);\n}\n",
        "max_line_length=45",
        "int f() {\n    if (a)\n        g(a, b);\n    if (b)\n        g(b, c);\n    if (c)\n        g(c, d);\n    if (d)\n        g(d, a);\n}\n",
    ),
    (
        "cpp",
        "void f() {\n    check (a);\n    check (b);\n    check (c);\n}\n",
        "vknot_space_arguments=false",
        "void f() {\n    check(a);\n    check(b);\n    check(c);\n}\n",
    ),
    (
        "cpp",
        "int a();\n\n\nint b();\n\n\nint c();\n\n\nint d();\n",
        "vknot_blank_most=1",
        "int a();\n\nint b();\n\nint c();\n\nint d();\n",
    ),
    (
        "c",
        "int a(void) {\n    if (b &&\n        c) {\n        d();\n    }\n}\n",
        "vknot_brace_wrapped=next",
        "int a(void) {\n    if (b &&\n        c)\n    {\n        d();\n    }\n}\n",
    ),
    (
        "c",
        "int a(void) {\n    if (b &&\n        c)\n    {\n        d();\n    }\n}\n",
        "vknot_brace_wrapped=same",
        "int a(void) {\n    if (b &&\n        c) {\n        d();\n    }\n}\n",
    ),
    // A column that comments come to stand in by chance is none.
    (
        "java",
        "class A {\n    int bc = d; // e\n\n    int f;\n\n    int  b = d; // g\n}\n",
        "vknot_align_comment=keep",
        "class A {\n    int bc = d; // e\n\n    int f;\n\n    int b = d; // g\n}\n",
    ),
    ("java", "class A {\n}\n", "vknot_brace_empty=same", "class A {}\n"),
    ("java", "class A {}\n", "vknot_brace_empty=next", "class A {\n}\n"),
    ("java", "class A\n{}\n", "vknot_brace_empty=next", "class A\n{}\n"),
    // A head of one line has its brace where the others have it.
    (
        "java",
        "class A {\n    void a() {\n        if (b) {\n            c();\n        }\n    }\n}\n",
        "vknot_brace_wrapped=next",
        "class A {\n    void a() {\n        if (b) {\n            c();\n        }\n    }\n}\n",
    ),
    (
        "rust",
        "fn a() {\n    if b\n        && c {\n        d();\n    }\n}\n",
        "vknot_brace_wrapped=same",
        "fn a() {\n    if b\n        && c {\n        d();\n    }\n}\n",
    ),
    (
        "csharp",
        "class A\n{\n    int B\n    {\n        get\n        {\n            return c();\n        }\n    }\n}\n",
        "vknot_brace_accessor=same",
        "class A\n{\n    int B {\n        get {\n            return c();\n        }\n    }\n}\n",
    ),
    // Empty braces of values stand as they are found, those of blocks as most do.
    (
        "csharp",
        "class A\n{\n    int[] b = { };\n    int[] c = {};\n    bool d = e is { } f;\n\n    void G() { }\n}\n",
        "vknot_space_empty=as-found",
        "class A\n{\n    int[] b = { };\n    int[] c = {};\n    bool d = e is { } f;\n\n    void G() { }\n}\n",
    ),
    (
        "csharp",
        "class A\n{\n    int[] b = { };\n    bool d = e is {} f;\n}\n",
        "vknot_space_empty=true",
        "class A\n{\n    int[] b = { };\n    bool d = e is { } f;\n}\n",
    ),
    (
        "javascript",
        "define(function (a) {\n\nb(a);\n\nreturn c;\n\n});\n",
        "vknot_indent_wrapper=1",
        "define(function (a) {\n\n  b(a);\n\n  return c;\n\n});\n",
    ),
    // What holds no more than a part of the file is no wrapper.
    (
        "javascript",
        "a(function () {\nb();\n});\nc(d, e, f, g);\nh(i, j, k, l);\nm(n, o, p, q);\n",
        "vknot_indent_wrapper=0",
        "a(function () {\n  b();\n});\nc(d, e, f, g);\nh(i, j, k, l);\nm(n, o, p, q);\n",
    ),
    // What imports is a module without what holds the rest of it.
    (
        "javascript",
        "import { a, b } from 'c';\n\n(function () {\nd(a, b);\ne(a, b);\nf(a, b);\n})();\n",
        "vknot_indent_wrapper=0",
        "import { a, b } from 'c';\n\n(function () {\n  d(a, b);\n  e(a, b);\n  f(a, b);\n})();\n",
    ),
    (
        "javascript",
        "function a() { b(); c(); }\n",
        "vknot_break_block=several",
        "function a() { b(); c(); }\n",
    ),
    // What does not fit on its line has one for each statement.
    (
        "csharp",
        "class A\n{\n    void B()\n    {\n        if (cccccccccccccccc) { Ddddddddddddddd(); Eeeeeeeeeeeee(); }\n    }\n}\n",
        "vknot_break_block=several, max_line_length=50",
        "class A\n{\n    void B()\n    {\n        if (cccccccccccccccc)\n        {\n            Ddddddddddddddd();\n            Eeeeeeeeeeeee();\n        }\n    }\n}\n",
    ),
    (
        "java",
        "class A {\n    int b() { return c; }\n}\n",
        "vknot_break_block=all",
        "class A {\n    int b() {\n        return c;\n    }\n}\n",
    ),
    (
        "rust",
        "impl<T, DB, const N: usize> Inserted<DB> for [T; N]\nwhere\n    DB: Board + Dialect<InsertWithDefaultKeyword = dialect::keyword_for_insert::StandardKeyword>,\n{\n    fn rows(&self) -> usize {\n        N\n    }\n}\n",
        "max_line_length=97",
        "impl<T, DB, const N: usize> Inserted<DB> for [T; N]\nwhere\n    DB: Board + Dialect<InsertWithDefaultKeyword = dialect::keyword_for_insert::StandardKeyword>,\n{\n    fn rows(&self) -> usize {\n        N\n    }\n}\n",
    ),
    (
        "cpp",
        "namespace tide {\nclass Writer {\n  void finish();\n#ifndef LITE\n  void direct(int level);\n#endif  // !LITE\n  // Normal write.\n  void buffered(int level);\n};\n}\n",
        "indent_size=4, vknot_indent_namespace=1",
        "namespace tide {\n    class Writer {\n        void finish();\n#ifndef LITE\n        void direct(int level);\n#endif  // !LITE\n        // Normal write.\n        void buffered(int level);\n    };\n}\n",
    ),
    (
        "rust",
        "impl<T> Watch for Extract<T> where T: Fn() {}\nimpl Tide for Gauge {\n}\n",
        "vknot_brace_empty=next",
        "impl<T> Watch for Extract<T>\nwhere\n    T: Fn(),\n{\n}\nimpl Tide for Gauge {\n}\n",
    ),
    (
        "java",
        "class A {\n    void b() {\n        while (gauge.level() > threshold) gauge.lower();\n        if (low) return;\n    }\n}\n",
        "max_line_length=50, vknot_brace_required=multiline",
        "class A {\n    void b() {\n        while (gauge.level() > threshold) {\n            gauge.lower();\n        }\n        if (low) return;\n    }\n}\n",
    ),
    (
        "typescript",
        "export interface Config {\n  sse?: {\n    /**\n     * On or off.\n     */\n    on: boolean;\n  } & Pick<\n    ProducerOptionsOfTheStation,\n    'ping' | 'emitAndEndImmediately' | 'longestDuration' | 'client'\n  >;\n}\n",
        "vknot_break_keep=none",
        "export interface Config {\n  sse?: {\n    /**\n     * On or off.\n     */\n    on: boolean;\n  }\n    & Pick<\n      ProducerOptionsOfTheStation,\n      'ping' | 'emitAndEndImmediately' | 'longestDuration' | 'client'\n    >;\n}\n",
    ),
    ("c", "int a;\n\u{c}\nint b;\n", "end_of_line=crlf", "int a;\r\n\u{c}\r\nint b;\r\n"),
    // A comment moves with its tabs.
    (
        "c",
        "int f(int a) {\n\tif (a) {\n\t\tg(a);\n\t} else\n\twhile (a) {\n\t\tif (b) {\n\t\t\t/* All\n\t\t\t * of it. */\n\t\t\tg(b);\n\t\t}\n\t}\n}\n",
        "tab_width=4",
        "int f(int a) {\n\tif (a) {\n\t\tg(a);\n\t} else\n\t\twhile (a) {\n\t\t\tif (b) {\n\t\t\t\t/* All\n\t\t\t\t * of it. */\n\t\t\t\tg(b);\n\t\t\t}\n\t\t}\n}\n",
    ),
    // No comma behind a directive.
    (
        "csharp",
        "class A\n{\n    int[] b = {\n        1,\n#if C\n        2\n#else\n        3\n#endif\n    };\n}\n",
        "vknot_wrap_comma=add",
        "class A\n{\n    int[] b = {\n        1,\n#if C\n        2\n#else\n        3\n#endif\n    };\n}\n",
    ),
    // A head's last line that stands further in is no measure for what is in its braces.
    (
        "typescript",
        "function race<T>(\n  a: B\n): C {\n  return !a.length\n    ? identity\n    : operate((b, c) => {\n        init(b)(c);\n      });\n}\n",
        "vknot_indent_bracket=1, vknot_indent_condition=2",
        "function race<T>(\n  a: B\n  ): C {\n  return !a.length\n    ? identity\n    : operate((b, c) => {\n        init(b)(c);\n      });\n}\n",
    ),
    (
        "java",
        "package tide;\n\nimport java.util.List;\n\nimport tide.Gauge;\n\nclass A {\n\n    List<Gauge> gauges;\n}\n",
        "vknot_blank_most=0, vknot_import_blank=1",
        "package tide;\nimport java.util.List;\n\nimport tide.Gauge;\nclass A {\n    List<Gauge> gauges;\n}\n",
    ),
];
