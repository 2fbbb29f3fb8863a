//! Code as people keep it, which the layout leaves as it is, and the same code out of shape, which comes to stand so.

use crate::support::{formatted, indented, read};

/// What is kept, in which language, under which settings, and the text.
const KEPT: &[(&str, &str, &[&str], &str)] = &[
    ("pointers to functions", "c", &[], "\
typedef void (*handler)(int level);
static int (*compare)(const void *, const void *);
int (*table[4])(int);

void each(struct gauge *gauge, int (*visit)(struct gauge *, void *), void *data) {
    visit(gauge, data);
}
"),
    ("a brace below a condition that wraps", "c", &[], "\
int warn(int level) {
    if (level > HIGH &&
        is_rising())
    {
        send();
    }
    while (level > LOW &&
           is_falling())
    {
        wait();
    }
    if (level == ZERO ||
        is_dry())
    {
        stop();
    } else {
        go();
    }
    if (level) {
        read();
    }
    for (;;) {
        sleep();
    }
    return 0;
}
"),
    ("rows of numbers that end below each other", "c", &[], "\
static const int levels[3][2] = {
    {1200, -15},
    {1980,   3},
    {1075, 240},
};
"),
    ("parameters of a template, and those in them", "cpp", &[], "\
template <typename Reading, typename Gauge,
          enable_if_t<
              is_level<Reading>::value &&
              !is_same<Reading, Gauge>::value,
              int> = 0>
inline void read(const Reading& reading, Gauge& gauge) {
    gauge.add(reading);
}
"),
    ("a result behind an arrow, and a macro for an access label", "cpp", &[], "\
class Gauge {
public:
    auto level() const noexcept -> decltype(read());
    int low : 3;

TIDE_PRIVATE:
    int zero = 0;
};
"),
    ("a callable in wrapped arguments that stands against its statement", "cpp", &[], "\
void warn() {
    std::transform(levels.begin(), levels.end(),
                   std::back_inserter(notes), [](const Level& level)
    {
        // Metres above chart zero.
        return level.text();
    });
    std::for_each(notes.begin(), notes.end(), [](const Note& note)
    {
        send(note);
    });
    std::for_each(notes.begin(), notes.end(), [](const Note& note)
    {
        note.close();
    });
}
"),
    ("members of an interface by its name, types without arguments", "csharp", &["vknot_break_keep=all"], "\
class Gauge : IGauge
{
    IEnumerator IEnumerable.GetEnumerator()
    {
        return Read(typeof(Dictionary<,>), typeof(Func<,,>));
    }

    int IGauge<Level>.Level { get; set; }
}
"),
    ("a space in front of all arguments", "csharp", &["vknot_space_arguments=true"], "\
class Gauge
{
    void Warn()
    {
        Send (typeof (Level), default (int), sizeof (long));
    }
}
"),
    ("braces of properties on their line, those of methods on the next", "csharp", &[], "\
class Gauge
{
    int Level {
        get {
            return Read();
        }
        set {
            Write(value);
        }
    }

    int Read()
    {
        return 0;
    }
}
"),
    ("single statements under what locks", "csharp", &[], "\
class Gauge
{
    unsafe void Warn()
    {
        lock (levels)
            levels[0] = Read();
        fixed (int* level = levels)
            Send();
    }
}
"),
    ("short blocks, and members without a body", "csharp", &["vknot_break_block=several"], "\
interface IGauge { int Read(); }

class Gauge
{
    void Warn()
    {
        if (low) { Send(); return; }
        else { Wait(); }
    }
}
"),
    ("arguments of a type", "java", &["max_line_length=60", "vknot_break_keep=all"], "\
class Gauge {
    void warn(final Supplier<Level> level,
            final Function<Level, List<Notice>> notice) {
        send(level);
    }
}
"),
    ("the code of a file in the function of its module", "javascript", &[], "\
define([
  \"./gauge\"
], function (gauge) {

\"use strict\";

var levels = [],
  notes = {};

// Metres above chart zero.
function read(level) {
  if (level > 0) {
    levels.push(level);
  }
  return level;
}

// Told to the harbours.
gauge.onLevel(function (level) {
  notes.last = read(level);
});

return read;

});
"),
    ("one-line cases whose statements stand below each other", "javascript", &[], "\
function text(kind) {
  switch (kind) {
    case LOW:   return \"low water\";
    case HIGH:  return \"high water\";
    case SURGE: return \"surge\";
    default:    return \"\";
  }
}
"),
    ("short functions on one line", "go", &[], "\
package tide

func low() { read(); send() }

func high() int { return 1 }
"),
];

#[test]
fn what_people_keep_stays() {
    for (what, language, set, text) in KEPT {
        assert_eq!(formatted(language, text, set), *text, "{language}: {what}");
    }
}

/// A text, what is set, and what comes of it.
const SET: &[(&str, &str, &str, &str)] = &[
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
];

#[test]
fn settings_say_otherwise() {
    for (language, text, set, wanted) in SET {
        let set: Vec<&str> = set.split(", ").collect();
        assert_eq!(formatted(language, text, &set), *wanted, "{language}: {set:?}");
    }
}

#[test]
fn rows_move_as_one() {
    let text = "int levels[2][2] = {\n    { 1200, -15 },\n    { 1980,   3 },\n};\n";
    let wanted = "int levels[2][2] = {\n    {1200, -15},\n    {1980,   3},\n};\n";
    assert_eq!(formatted("c", text, &["vknot_space_brace=false"]), wanted);
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
                    *(uint*)p = value;
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
