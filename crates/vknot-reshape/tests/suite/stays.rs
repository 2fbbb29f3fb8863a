//! Code as people keep it, which the layout leaves as it is, and the same code out of shape, which comes to stand so.

use crate::support::{formatted, indented, read};

mod c;
mod c_family;
mod cpp;
mod csharp;
mod ends;
mod java;
mod led;
mod rows;
mod rust;
mod set;
mod typescript;

/// What is kept, in which language, under which settings, and the text.
type Case = (&'static str, &'static str, &'static [&'static str], &'static str);

const KEPT: &[Case] = &[
    ("functions that give others below their operator, generators with type parameters", "typescript", &[], "\
export const station =
  <K extends Gauge>(kind: K) =>
  <Level>(level: Level): Reading<K, Level> => {
    return read(kind, level)
  }

const levels = function*<L extends Level>(
  level: L
) {
  yield level
}

const read = function (level) {
  return level
}

const warn = function (level) {
  return level
}
"),
    ("comments that touch", "javascript", &[], "\
/* low water *//**
 * @internal
 */
export const level = 1; /* metres *//* above the pier */
"),
    ("annotations on the line of what they are on, where most stand so", "java", &[], "\
class Gauge {
    @Override public int level() {
        return read();
    }

    @Override public String name() {
        return name;
    }

    @Test void tide() {
        warn();
    }
}
"),
    (
        "brackets with spaces inside by what they are of, few empty and few filled braces, what follows a brace",
        "java",
        &[],
        "\
class Gauge {
    private static final Set<Level> LEVELS = new Set<Level>();
    static {
        LEVELS.add( HIGH );
    }

    @Low(values = { })
    void add(Level level) {
        levels.add( (long) level );
        super.add( level );
        String[] names = new String[] { name };
        try {
            warn( ( (Quay) station ).level( 1 ) );
        }
        catch (Problem problem) {
            tell( problem );
        }
        return new Board(
                first,
                level == Level.HIGH_AS_NEVER_BEFORE ? network.levelOf( the( \"oldest of all the stations\" ), low ) : low,
                third
        );
    }
}
",
    ),
    ("the end of a comment below its beginning", "java", &[], "\
/*
 * Low water.
*/
class Gauge {
    /**
     * High.
    */
    int level;
}
"),
    ("lines of up to 120 columns that could be shorter", "java", &[], "\
class Gauge {
    void warn() {
        assertTrue(station.exists(), \"the level of the quay has changed, tell all of the network\", Level.HIGH);
    }
}
"),
    ("bounds of a type", "java", &[], "\
class Gauge {
    static <T extends Station & HasLevel
            & HasZone> void read(T station) {
        station.read();
    }
}
"),
    ("members of one line among others", "java", &[], "\
class Gauge {
    int high() { return high; }
    int low() { return low; }

    void turn() {
        if (closed) { return; }
        open();
        each(station -> { station.open(); });
        new Board(
                \"the stations of the outer coast\",
                \"the stations of the inner coast\") {
            @Override
            int high() { return 1; }
        }.show();
    }
}
"),
    ("marks of types that are made of others, and comments that touch what they tell of", "typescript", &[], "\
export type Mutable<T> = { -readonly [K in keyof T]-?: T[K] };
export type Whole<T> = {
  +readonly [K in keyof T]+?: T[K];
};
export const Gauge: new<T>(level: T) => Reading<T> = made;
export const Board: new(level: number) => Reading<number> = made;
const boards = all(/*#__PURE__*/new Map(), /*#__PURE__*/pairs(1), /* of */ 2);
"),
    ("conditionals whose operands alone break, and brackets that go by the mark in front", "typescript", &[], "\
class Board {
    private level = 1;

    read(tags: Tag[]): Item[] {
        return tags.map(tag => typeof tag.text === \"string\" ? {
            ...tag,
            text: [part(tag.text)]
        } : (tag as Item));
    }

    turn(tags: Tag[]): Item[] {
        return tags.map(tag => typeof tag.text === \"string\"
            ? {
                ...tag,
                text: [part(tag.text)]
            }
            : (tag as Item));
    }
}

const act = isHigh
    ? () => {
        wait();
        turn();
    }
    : () => {
        go();
    };
"),
    ("tables of numbers in brackets", "javascript", &[], "\
const bends = [
   3.0,   2.25,
  -3.0,  10.5,
  11,   -20,
];
turn(
   3.0,  2.0,
  -3.0,  0.0,
);
"),
    ("rules that take over from others, calls of mixins, and conditions", "less", &[], "\
.station:extend(.board all) {
  &:extend(.gauge all);
  .level:extend(.gauge);
  .level(@color: red; @depth: 2) !important;
  #tide > .level(@color: red);
  @detached();
  @{name}-color: red;
  color: if((@mode = dark), white, black);
  each(@list, { .zone-@{value} { a: b; } });
}

.guard when (ispixel(@a)) and (@a > 0), (@b) { width: (@a + 5) * 2; }
.level(@a, @b: 2, ...) { box-shadow: @arguments; }
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
    ("what is waited for in brackets", "javascript", &[], "\
async function read() {
    await (0, gauge.read)(level);
    await (0, gauge.store)(level).then(warn);
    store(level);
    warn(level);
    calm(level);
}
"),
    ("a text and the block it names, and types in braces that are joined", "typescript", &[], "\
test(\"a rather long text that goes past the width that lines have in this file, as it is and will be\", () => {
    read();
    calm();
});
type Output<T extends Loose> = Prettify<{
    -readonly [k in keyof T as T[k] extends Optional ? never : k]: T[k][\"output\"];
} & {
    -readonly [k in keyof T as T[k] extends Optional ? k : never]?: T[k][\"output\"];
} & Extra>;
"),
    ("heads whose results or bases break, single names, items left out and what marks hand over", "typescript", &[], "\
import type { ReadingsOfAllStationsAroundTheBay } from '../stations/of/the/bay/with/all/of/their/readings/and/gauges';

export const read: {
  <Level, Missing, Station>(each: (level: Level) => Reading<Level, Missing, Station>): <
    Other,
    Done
  >(
    self: Board<Other, Done>
  ) => Board<Other, Level>
}

export interface Gauge<out Place extends Stations.AnyPlace = Stations.AnyPlace>
  extends Stations.Equal, Stations.Hashed, Stations.Inspected
{
  [name: string]:
    | Reading
    | Missing
  level: [number, , number]
}

class Board {
  board() {
    return function boardOf<Level extends Reading>(
      levels: ReadonlyArray<Pick<Level, 'level' | 'station'>>,
    ): Board<Level> {
      return levels.map(function (level) {
        return made(level)
      })
    }
  }

  track() {
    return this.tracks
      ? this.observer.track(this.result, (name) => {
          // Track each of them.
          if (!this.names.has(name)) {
            this.names.add(name)
          }
        })
      : this.result
  }
}
"),
    ("bodies that begin on the line of their head", "javascript", &[], "\
function read(level) {
  if (level < 0) return made({
    level,
    station: 1,
  });
  if (level > 9 && isHigh) station.set({
    level,
    station: 1,
  });
  else calm();
  for (const gauge of gauges) gauge.forEach((next) => {
    watch(next);
  });
  if (level > 2)
    return gauges.map((next) => {
      watch(next);
    });
  return level;
}
"),
    ("short functions on one line", "go", &[], "\
package tide

func low() { read(); send() }

func high() int { return 1 }

func watch() {
	for hour := 0; ; hour++ {
		read(hour)
	}
}
"),
];

#[test]
fn what_people_keep_stays() {
    for (what, language, set, text) in
        [
            KEPT,
            c::KEPT,
            c_family::KEPT,
            cpp::KEPT,
            csharp::KEPT,
            ends::KEPT,
            java::KEPT,
            led::KEPT,
            rows::KEPT,
            rust::KEPT,
            typescript::KEPT,
        ].concat()
    {
        assert_eq!(formatted(language, text, set), text, "{language}: {what}");
    }
}

#[test]
fn what_does_not_fit_rows_is_set_right() {
    for (language, text, wanted) in rows::SET_RIGHT {
        assert_eq!(formatted(language, text, &["max_line_length=80"]), *wanted, "{language}");
    }
}

#[test]
fn braces_around_a_comment_alone_stay_on_their_line() {
    let cases = [
        ("c", "void a(void) { /* nothing */ }\n"),
        ("c", "void a(void) {\n    while (b()) { /* idle */ }\n}\n"),
        ("csharp", "class A\n{\n    void B() { /* nothing */ }\n    int C { get { /* none */ } }\n}\n"),
        ("css", "a { /* nothing */ }\n"),
        ("go", "package a\n\nfunc b() { /* nothing */ }\n"),
        (
            "java",
            "class A {\n    A a = new A() { /**/ };\n    int[] b = new int[]{1, 2};\n}\n\nenum B { /* none */ }\n",
        ),
        ("java", "class A {\n    void a() {\n        try { b(); } catch (E e) { /* ignored */ }\n    }\n}\n"),
        ("javascript", "a(() => { /* idle */ });\nclass C { /* none */ }\n"),
        ("rust", "fn a() {\n    c(|| { /* idle */ });\n}\n"),
        ("typescript", "interface A { /* none */ }\nenum E {/* none */}\n"),
    ];
    for (language, text) in cases {
        assert_eq!(formatted(language, text, &[]), text, "{language}");
    }
    // What takes lines does so between its braces.
    assert_eq!(formatted("c", "void a(void) { /* one\n*/ }\n", &[]), "void a(void) { /* one\n                */\n}\n");
}

#[test]
fn settings_say_otherwise() {
    for (language, text, set, wanted) in set::SET {
        let set: Vec<&str> = set.split(", ").collect();
        assert_eq!(formatted(language, text, &set), *wanted, "{language}: {set:?}");
    }
}

/// Code with more types than the reader knows.
const TYPED: &str = "\
import type {Level} from './level';

type Board = $ReadOnly<{|
  level: ?Level,
  +low: boolean,
|}>;

const gauge = {
  warn: (level: ?Level, ...notices: Array<Level>): boolean => {
    // Nothing is known.
    if (level == null) {
      return false;
    }
    return level.isLow
      ? notices.every(
          notice => notice === level,
        )
      : false;
  },
};

export function told(board: Board, surge?: ?Level): ?Level {
  const {level} = board;
  return level;
}
";

#[test]
fn what_stands_right_by_its_brackets_stays_though_it_cannot_be_read() {
    assert!(read("javascript", TYPED).tree().has_error(), "the reader takes it by now: another text is wanted");
    for settings in [&[][..], &["indent_size=2"]] {
        assert_eq!(indented("javascript", TYPED, settings), TYPED);
        assert_eq!(formatted("javascript", TYPED, settings), TYPED);
    }
    // A line that stands for nothing is set, and so are all of a file in which most do, or whose levels are to have another size.
    let off = TYPED.replace("      return false;\n", "  return false;\n");
    assert_eq!(indented("javascript", &off, &[]), TYPED);
    let flat: String = TYPED.lines().map(|line| format!("{}\n", line.trim_start())).collect();
    assert!(indented("javascript", &flat, &["indent_size=2"]).contains("\n    if (level == null) {\n      return false;\n    }\n"));
    assert!(indented("javascript", TYPED, &["indent_size=4"]).contains("\n    const {level} = board;\n"));
}

#[test]
fn brackets_tell_where_tokens_reach_into_their_lines() {
    let text = "const Gauge: Host<mixed> =\n  registry.get<mixed>('gauge', () => ({\n    name: 'gauge',\n    ...level,\n  }));\n\nexport default ((Gauge: any): Host<mixed>);\n\nfunction warn() {\n  if (low) {\n    return 1;\n  }\n}\n";
    assert!(read("javascript", text).tree().has_error(), "the reader takes it by now: another text is wanted");
    assert_eq!(indented("javascript", text, &[]), text);
    assert_eq!(formatted("javascript", text, &[]), text);
}
