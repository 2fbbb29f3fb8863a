//! Well-kept code stays as its author has it, in whatever way it stands; what is off in it comes right; a jumble goes by the rules, and
//! settings beat what a file shows.

use vknot_reshape::{Decided, indent};
use vknot_reshape::steps::Wish;

use crate::support::{formatted, prove_as, reshape, styled};

/// What `indent` makes of a text, proven, and the same of that.
fn set(language: &str, text: &str, keys: &[&str]) -> String {
    let once = set_once(language, text, keys);
    assert_eq!(set_once(language, &once, keys), once, "{language}: a second run changes nothing");
    once
}

fn set_once(language: &str, text: &str, keys: &[&str]) -> String {
    let read = styled(language, text, keys);
    let reshape = reshape("indent", &read, Wish::Nothing);
    prove_as("indent", &read, reshape).unwrap().text().to_owned()
}

mod blocks;

/// A way to keep code: what it is called, its language, and a text with `§` in front of a line that is moved off by some columns to see
/// it come back.
type Way = (&'static str, &'static str, &'static str);

const WAYS: &[Way] = &[
    ("initializers and bases that stand with what they are of, and commas below their colon", "cpp", "\
class Gauge
: public Station
, public Reading
{
public:
    Gauge()
    : level(0)
    , tide(1)
    {
§        read();
    }

    Gauge(int level)
      : level(level)
      , tide(1)
    {
    }

    Gauge(int level, int tide)
    : level(level),
      tide(tide)
    {
    }
};

class Harbour : public Station,
                public Reading
{
    Harbour() : level(0)
              , tide(1)
    {
§        read();
    }
};
"),
    ("items behind one that wraps, operations that go on one wrap behind where they begin", "cpp", "\
void Gauge::read(
    const Options& options,
    std::vector<std::pair<Reading, Zone>>&
        readings,
    int level) const {
  const int count = readings.size();
  const int tide = count != 0
                       ? count
                       // each of them
                       : zero();
  if (tide < size_of(level) +
                 size_of(count)) {
    send(level);
§    send(tide);
  }
  ratio.store(
      (ratio.load(level) *
           count +
       tide) /
          static_cast<double>(level),
      level);
  if (tide > level) {
    send(level);
    warn();
  }
  while (is_rising()) {
    wait();
    read(options);
  }
  stop();
  close(options);
}
"),
    ("exceptions of another language in a branch of a directive", "cpp", "\
void Gauge::read() {
    try {
#ifdef __OBJC__
        @try {
            measure();
        }
        @catch (NSException *error) {
§            report();
        }
#else
        measure();
#endif
    }
    catch (Tide&) {
§        report();
    }
}
"),
    ("operands below the first one, a bracket below another, doc comments below what they are about", "c", "\
struct tide {
    int high;
        /* metres above chart zero */
    int low;
        /* the same */
};

int surge(const struct tide *tide, int usual)
{
    int above = tide->high
              - tide->low
              - usual;
    if (above > usual
       && tide->low > 0)
§        return above;
    return 0;
}
"),
    ("what the first of several names holds stands against the name, not against the keyword", "javascript", "\
(function () {
    var plural = function (hours) {
§            return hours === 1 ? 0 : 1;
        },
        names = {
            tides: [
                \"high\",
            ],
        };

    var digits = {
            1: \"one\",
§            2: \"two\",
        },
        marks = {
            1: \"I\",
        };
    read();
})();
"),
    ("bodies that stand against the statement whose call they are handed to", "javascript", "\
class Gauge {
    read(levels) {
        const high = levels
            .map((level) => {
            this.note(level);
            return level;
        })
            .filter((level) => level);
        const low = levels
            .map((level) => {
            this.note(level);
        })
            .filter((level) => !level);
§        return [high, low];
    }
}
"),
    ("choices below each other", "javascript", "\
(function (global, factory) {
    typeof exports === \"object\" ? module.exports = factory() :
    typeof define === \"function\" && define.amd ? define(factory) :
    global.tide = factory();
§    read(global);
}(this, function () {
    return { high: 1 };
}));
"),
    ("texts at the margin, and a type on a line of its own", "c", "\
typedef int
(*visit_callback)(struct gauge *gauge, int level);

void help(void)
{
    fputs(
\"tide [OPTIONS] STATION\\n\"
\"  --high   the high waters alone\\n\"
\"  --low    the low waters alone\\n\",
        stdout);
§    exit(0);
}
"),
    ("cases and labels as each of them stands", "c", "\
int watch(int level)
{
    switch (level) {
        case 1:
            return 1;
        case 2:
§            level = 3;
            break;
    }
    switch (level) {
    case 3:
        goto end;
    }
  end:
    return level;
}
"),
    ("conditionals inside a case", "c", "\
int watch(int level)
{
    switch (level) {
    case 1:
#ifdef QUIET
        return 0;
#endif
        break;
§    case 2:
        level = 3;
    }
    return level;
}
"),
    ("stars below the slash, and comments that go on with those behind code", "c", "\
/****************
*  The gauge
****************/
int gauge(int a, int b)
{
    a = b;   /* what was measured
              * last */
§    b = a;   // metres
             // above zero
    return a;
}
"),
    ("steps of three columns where a level is four", "pascal", "\
procedure Measure;
begin
    if Level > 0 then
       begin
          Warn;
          Wait;
       end;
    if Level > 1 then
       begin
          Call;
          Stop;
       end;
§    Close;
    Leave;
    Report;
    Sleep;
end;
"),
    ("what follows a name in a section stands below it", "pascal", "\
procedure Measure;
var High,
        Low: Integer;
    Name: string;
begin
  High := 1;
§  Low := 2;
  Name := 'a';
end;
"),
    ("a function's body at the margin", "matlab", "\
function level = surge(heights)
% SURGE  the level above the usual one

level = max(heights);
if level > 1
§    level = 1;
    warn(level);
end
"),
    ("numbers that line up at their ends", "octave", "\
steps = [
     0.25   1
    10.50   2
   100.75   3
];
if steps
§  a = 1;
  b = 2;
end
"),
    ("a body around a whole file", "javascript", "\
define(function () {

var a = 1;
var b = 2;
var c = 3;
function high() {
§    return a;
}
function low() {
    return b;
}
function usual() {
    return c;
}
var d = 4;
var e = 5;
var f = 6;
var g = function () {
    return d;
};
var h = function () {
    return e;
};
var i = [
    1,
    2,
    3,
    4,
];
});
"),
    ("unions and conditions led by their sign", "typescript", "\
type Level =
    | 'quiet'
    | 'watch';
const level = high > 1
            ? 'watch'
            : 'quiet';
function surge() {
    wait();
§    return level;
}
"),
    ("arguments one column in from the head", "scheme", "\
(define (surge level usual)
  (let ((above
         (- level usual)))
    (list
      above
      usual)
    (when (> above 1)
§      (warn above)
      (wait usual))))
"),
    ("a module's body at the margin", "scheme", "\
(module tides
    (surge watch)

(import scheme)

(define (surge level)
§  (- level 1))

(define (watch level)
  (+ level 1))
)
"),
    ("elements at their parent's column, text as it flows", "html", "\
<html>
<head>
<title>Tides</title>
</head>
<body>
<p>High water at
Northhead <b>today</b>
and tomorrow.</p>
<ul>
  <li>one</li>
§  <li>two</li>
</ul>
</body>
</html>
"),
    ("what wraps in a selector with its rule", "css", "\
.gauge:not(.quiet,
.watch) {
  color: red;
§  margin: 0;
}
.board {
  color: blue;
}
"),
    ("what wraps in a tag with the text around it", "html", "\
<body>
  <p>High water at <a href=
  \"tides.html\">Northhead</a> and
  <b>Saltmouth</b>.</p>
§  <ul>
    <li>one</li>
    <li>two</li>
  </ul>
  <p>Low water</p>
</body>
"),
    ("a comment that begins behind code", "javascript", "\
exports.level = level; /**
 * The level.
 * In metres.
 */
function level() {
  const low = 1;
  const high = 3;
§  return low + high;
}

function zone() {
  return 3;
}
"),
    ("a page with a script in which a program puts a value", "html", "\
<html>
<head>
§  <title>Tide</title>
</head>
<body>
  <script>
    function level() {
      return 3;
    }
    show(level(), {{.Stations}});
  </script>
</body>
</html>
"),
    ("items that statements stacked on each other hold", "csharp", "\
class Gauge
{
    void Read()
    {
        using (var a = Open())
        using (var b = Log())
        {
§            a.Read();
            b.Write();
        }
    }
}
"),
];

#[test]
fn well_kept_code_stays_and_what_is_off_in_it_comes_right() {
    for (name, language, marked) in WAYS.iter().chain(blocks::WAYS) {
        let text = marked.replace('§', "");
        assert_eq!(set(language, &text, &[]), text, "{name}");
        // To set what the file shows anyway changes nothing.
        if let Some(shown) =
            indent::found_indentation(styled(language, &text, &[]).code()).filter(|shown| !shown.tabs)
        {
            let size = format!("indent_size={}", shown.size);
            assert_eq!(set(language, &text, &[&size, "indent_style=space"]), text, "{name}: {size}");
        }
        let off = marked.replace("§ ", "         ");
        assert_ne!(off.replace('§', ""), text, "{name}");
        assert_eq!(set(language, &off.replace('§', "   "), &[]), text, "{name}: one line is off");
    }
}

#[test]
fn what_nobody_indented_is_a_jumble() {
    for (name, language, marked) in WAYS.iter().chain(blocks::WAYS) {
        let text = marked.replace('§', "");
        let flat: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
        if flat.lines().count() < 10 || *language == "html" {
            continue;
        }
        assert_ne!(set(language, &flat, &[]), flat, "{name}");
    }
    // A page of a few lines, too; a longer one may be meant so.
    let page = "<div>\n<p>\na\n</p>\n</div>\n";
    assert_eq!(set("html", page, &[]), "<div>\n  <p>\n    a\n  </p>\n</div>\n");
}

#[test]
fn settings_beat_what_a_file_shows() {
    let switch = "int f(int a)\n{\n    switch (a) {\n        case 1:\n            return 1;\n    }\n    return 0;\n}\n";
    let out = switch.replace("        case", "    case").replace("            return", "        return");
    assert_eq!(set("c", switch, &["vknot_indent_case=0"]), out);
    let call = "int a = b(c,\n            d +\n            e);\nint f = 1;\n";
    assert_eq!(set("c", call, &[]), call);
    assert_eq!(set("c", call, &["vknot_align_list=none"]), "int a = b(c,\n    d +\n    e);\nint f = 1;\n");
    let small = "void f(void)\n{\n  a();\n  b(1,\n      2);\n}\n";
    assert!(set("c", small, &["indent_size=4"]).contains("\n    a();"));
    let page = format!("<body>\n{}</body>\n", "<p>a</p>\n".repeat(12));
    assert_eq!(set("html", &page, &[]), page);
    assert!(set("html", &page, &["vknot_indent_page=nested"]).contains("\n  <p>"));
}

#[test]
fn an_item_that_missed_those_beside_it_goes_where_they_are() {
    let cases = [
        ("racket", "(define (f a)\n  (cond [(< a 1) 'b]\n        [(< a 2) 'c]\n    [else 'd]))\n", "        [else 'd]"),
        (
            "c",
            "void f(void)\n{\n    g(first,\n      second,\n         third);\n    h();\n    i();\n    j();\n}\n",
            "\n      third",
        ),
    ];
    for (language, text, wanted) in cases {
        let result = set(language, text, &[]);
        assert!(result.contains(wanted), "{result}");
    }
}

#[test]
fn what_is_shown_or_said_elsewhere_stays() {
    let page = "<body>\n<div>\n<pre id=\"eq\" class=\"a\">\nx\n   y\n</pre>\n<textarea name=\"b\">\n z\n</textarea>\n</div>\n</body>\n";
    let nested = set("html", page, &["vknot_indent_page=nested", "indent_size=4"]);
    assert!(nested.contains("        <pre id=\"eq\" class=\"a\">\nx\n   y\n</pre>\n"), "{nested}");
    assert!(nested.contains("<textarea name=\"b\">\n z\n</textarea>\n"), "{nested}");
    let scheme = "(define a #<#END\nlow\n  high\nEND\n)\n#>\n  int tide;\n    int surge;\n<#\n(define b '#{a\n b}#)\n(define c '(|\\|| d))\n(e\n   f)\n";
    let result = set("scheme", scheme, &[]);
    for kept in ["#<#END\nlow\n  high\nEND\n", "#>\n  int tide;\n    int surge;\n<#", "'#{a\n b}#)", "(|\\|| d))"] {
        assert!(result.contains(kept), "{result}");
    }
}

#[test]
fn directives_in_front_of_an_item_say_nothing_of_where_it_stands() {
    let text = "class A : B\n#if X\n    , C\n#endif\n{\n    void D()\n    {\n        if (a)\n        {\n            b();\n        }\n#if Y\n        else if (c)\n        {\n            d();\n        }\n#endif\n        e();\n    }\n#if X\n    [F]\n#else\n    [G]\n#endif\n    struct H\n    {\n        int i;\n    }\n}\n";
    assert_eq!(set("csharp", text, &[]), text);
    let flat: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
    let result = set("csharp", &flat, &["indent_size=4"]);
    assert!(result.contains("\n        e();\n") && result.contains("\n    struct H\n    {\n        int i;"), "{result}");
}

#[test]
fn a_tab_among_spaces_goes_to_the_next_eighth_column() {
    let python = "def f(a):\n    if a:\n        b()\n\tc()\n    d()\n";
    assert_eq!(set("python", python, &[]), python.replace('\t', "        "));
    let c = "void f(void)\n{\n    if (a) {\n\tb();\n\tc();\n    }\n    d();\n    if (e) {\n\tg();\n    }\n}\n";
    let kept = set("c", c, &[]);
    let columns = |text: &str| text.replace('\t', "        ");
    assert_eq!(columns(&kept), columns(c));
}

#[test]
fn forms_that_hold_most_of_a_file_stand_at_the_margin_in_others() {
    let body: String = (0..30).map(|hour| format!("  (define (level-{hour} a)\n    (read a))\n")).collect();
    let text =
        format!("#lang racket\n(define levels\n(let ()\n{body}  (level-0 1)))\n\n(define (low a)\n  (read a))\n");
    assert_eq!(set("racket", &text, &[]), text);
    let off = text.replace("(low a)\n  (read", "(low a)\n     (read");
    assert_eq!(set("racket", &off, &[]), text);
}

#[test]
fn text_among_code_is_no_code() {
    let texts = "(f\n @g|{ low(\n |@|a|tide(\n|@h|{ (\n}|\n}|\n @`{now\n@b})\n";
    let comment = "@;{ It's \"low\n  (in here }\n";
    let code = "(define (a)\n@b[c]{It's \"high\n      and (low {now}\n  ; today}\n(d))\n";
    let text = format!("#lang at-exp racket\n{comment}{code}{texts}");
    let set_code = code.replace("\n@b", "\n  @b").replace("\n(d", "\n  (d");
    assert_eq!(set("racket", &text, &[]), format!("#lang at-exp racket\n{comment}{set_code}{texts}"));
    for lang in ["scribble/base", "2d racket"] {
        let page = format!("#lang {lang}\n@title{{Tides}}\n    It's (high\n  now.\n");
        assert_eq!(set("racket", &page, &[]), page);
    }
}

#[test]
fn what_lines_up_by_tabs_goes_on_to_where_tabs_are_set() {
    let one = "int read_level(struct gauge *gauge,\n\t       int tide) {\n\tif (tide)\n\t\treturn warn(gauge,\n\t\t\t    tide,\n\t\t\t    0);\n\treturn 0;\n}\n";
    let c = format!("{one}\n{}", one.replace("read", "send"));
    let set_tabs = ["indent_style=tab", "tab_width=8"];
    assert_eq!(set("c", &c, &set_tabs), c);
    assert_eq!(formatted("c", &c, &set_tabs), c);
    let spaces = c.replace("\t       int", "               int").replace("\t\t\t    ", "\t\t            ");
    assert_eq!(set("c", &spaces, &set_tabs), spaces);
    let filled = [&set_tabs[..], &["vknot_align_tabs=true"]].concat();
    assert_eq!(set("c", &spaces, &filled), c);
}

#[test]
fn labels_tell_no_width() {
    let text = "class Gauge {\n public:\n    int high;\n    int low;\n private:\n    int usual;\n};\n";
    let read = styled("cpp", text, &[]);
    let receipt = reshape("indent", &read, Wish::Nothing).receipt;
    let (indentation, decided) = receipt.indentation.unwrap();
    assert_eq!((indentation.size, decided), (4, Decided::ByFile));
    assert_eq!(set("cpp", text, &[]), text);
}

#[test]
fn what_a_label_leads_stands_with_the_statements_beside_it() {
    let c = "void f(void)\n{\n    a();\nagain: for (;;) {\n        b(c,\n          d);\n    }\n    e();\n}\n";
    assert_eq!(set("c", c, &[]), c);
    let go = "func f() {\n\ta()\nagain:\tfor {\n\t\tb()\n\t}\n\tc()\n}\n";
    assert_eq!(set("go", go, &[]), go);
}
