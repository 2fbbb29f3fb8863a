//! What people put in rows and keep there: arms of one line, statements beside each other, tables; and what goes by the kind of its
//! brackets.

use crate::support::formatted;
use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("a jump behind the brace of an arm, and what a macro closes with", "c", &[], "\
int zone(int hour) {
    switch (hour) {
    case 1: {
        warn(hour);
        store(hour);
    } break;
    case 2: /* ebb */ {
        store(hour);
    } break;
    case 3: /* flood */
    case 4: /* slack */ {
        calm();
    } break;
    }
    GROUP(levels) {
        LEVEL(low);
    } END_GROUP;
    return 1;
}
"),
    ("a jump behind the brace of an arm", "javascript", &[], "\
function zone(hour) {
  switch (hour) {
    case 1: {
      warn(hour);
      store(hour);
    } break;
    default: {
      calm();
    } break;
  }
}
"),
    ("arms of one line behind other labels, and in rows of their like", "c", &[], "\
int zone(int hour) {
    switch (hour) {
    case 0:
    case 1: return hour;
    case 2:
    case 3: hour = 4; break;
    case 4: hour = 5; store(hour); break;
    case 5: hour = 6; store(hour); break;
    case 6: if (hour) return 7; break;
    default: if (low) return 8; break;
    }
    return 1;
}
"),
    ("what falls through by a macro", "c", &[], "\
int zone(int hour) {
    switch (hour) {
    case 0:
        warn(hour);
        /* goes on */ falls_through
    case 1:
    case 2: {
        store(hour);
        break;
    }
    default:
        calm();
    }
    return 1;
}
"),
    ("names of what is pointed to, and blank lines above `else`", "c", &["vknot_brace_control=next"], "\
struct Gauge {
   struct Gauge *next;
   void         (*read)(struct Gauge *, int);
   int          level;
};

int low(int level) {
   if (level)
   {
      warn();
   }

   else if (zone)
   {
      warn();
   }

   else
      calm();

   return 1;
}
"),
    ("semicolons apart that say that nothing is done", "c", &[], "\
int low(int level) {
    while (*level++) ;
    for (int i = 0; read(i); i++) ;
    if (level) goto end;
    return 1;
end: ;
    calm();
    return 2;
}
"),
    ("blocks of one line with several statements, of which there are some", "csharp", &[], "\
class Gauge
{
    int Read(int level)
    {
        if (level < 0) { Warn(); return 0; }
        if (level > 9) { Warn(); return 9; }
        try { Store(level); Wait(); }
        catch (IOException) { Warn(); throw; }
        return level;
    }
}
"),
    ("rows of statements", "c", &[], "\
void test(void) {
    check(LOW); cover(LOW);
    check(MID); cover(MID);
    check(TOP); cover(TOP);

    char *low; int lows; /* low water */
    char *top; int tops; /* high water */
}
"),
    ("comments between a brace and what follows", "javascript", &[], "\
function low(level) {
  if (level) {
    warn();
  } /* high */ else {
    calm();
  }
  do {
    warn();
  } /* always */ while (level);
  if (level) {
    warn();
  } // low
  else {
    calm();
  }
}
"),
    ("constants that commas lead, the first in line with them", "java", &[], "\
enum Zone {
      LOW(1)
    , MID(2)
    , TOP(3);

    final int level;

    Zone(int level) {
        this.level = level;
    }
}
"),
    ("several that get one value, each on a line", "javascript", &[], "\
low.level =
top.level = read();

low.level =
low.zone =
low.hour = 1;

if (low) {
  top.level =
    top.zone =
    top.hour = 1;
}
"),
    ("what stands behind a word in brackets", "typescript", &[], "\
import Level = require(\"level\");

export default class Gauge {
  static { read(); }
  accessor low = 1;
  static accessor high = 2;
  private accessor zone = 3
  accessor hour: number
}
"),
    ("rows of members", "java", &[], "\
class Gauge {
    int low; int top;
    int ebb; int fall;
    int tide; int rise;
}
"),
    ("numbers that fill their columns", "c", &[], "\
static const int levels[] = {
     0,249,  0,177,  1,163,  0, 84,
     1,  2,117,124,  0,  0,  0,  0,
    10, 20, 30,100,115, 12,  7,111,
};
"),
    ("rows that directives part, and another branch of them", "c", &[], "\
static struct Call calls[] = {
#if HAS_LEVEL
    { \"read_level\",         (CALL)read_level,       0 },
#else
    { \"read_level\",         (CALL)0,                0 },
#endif

#define LEVEL(a) calls[0].call(a, \\
            sizeof(a))

    { \"warn\",               (CALL)warn_all,         0 },

#define WARN(a) calls[1].call(a, \\
            sizeof(a))

    { \"store\",              (CALL)store_level,      0 },
};
"),
    ("a column that rows a few lines away share", "c", &[], "\
static const Step steps[] = {
    { STEP_READ,   0,          1,              LOWEST },
    { STEP_NEXT,   0,          1,              HIGH_TIDE },
    { STEP_IF,     1,          0,                   7 },
    { STEP_HALT,   STATION_OK, STATION_ABORT,       0 },
    { STEP_STORE,  0,          1,              LOWEST },
};
"),
    ("types apart from their braces, and nothing else", "c", &[], "\
struct Gauge {
    int level;
};
union Reading {
    int level;
};
int low(int level){
    if (level){
        warn();
    }
    while (level){
        calm();
    }
    return 1;
}
int top(int level){
    return level;
}
int mid(int level){
    return level;
}
"),
    ("brackets with spaces by their names, whatever they hold", "c", &[], "\
int low(int level){
  if( (level & 1)==0 && zone(level)!=(hour) ){
    warn();
  }
  if( level ){
    assert( (level & 2)==0 );
    assert( level );
    assert( zone(level) );
  }
  if( (level) ){
    calm();
  }
  return (level + 1);
}
"),
    ("operators of a file that goes no one way, and round values that are put together", "c", &[], "\
int low(int level) {
    if (level==0) return 1;
    if (level < MOST) return 2;
    if (level==1) return 3;
    if (level > MOST) return 4;
    return 5;
}
int top(int level) {
    while (level<9) read();
    while (level>2) read();
    while (level<5) read();
    while (level + 1 < zone(level)) read();
    while (level<3) read();
    while (level<4) read();
    return 6;
}
"),
    (
        "operators that lead lines and go by their operands or alike, comments that share a column behind such lines",
        "c",
        &[],
        "\
int low(int level){
  assert( level==OPEN
       || level==READER
       || level==WRITER_LOCKED
       || level==CACHEMOD
  );
  assert( zone>=0 && zone<9 );
  assert( has(level, zone, LOADED)
           || zone->failed
           || (CORRUPT && (level & 1)!=0) );
  if( level ){
    warn();
  }
  if( zone ){
    warn();
  }
  if( low ){
    warn();
  }
  nReq = varint_length(nPrefix) +    /* one */
    varint_length(nSuffix) +         /* two */
    nSuffix +                        /* three */
    nDoclist;                        /* four */
  return 1;
}
int top(int level){
  return 1;
}
int mid(int level){
  return 1;
}
",
    ),
    ("columns of Go that stay open, and where they end", "go", &[], "\
package a

type p struct {
	distributor // holds the key
	cancel      Cancel
	cc          *Conn // to the server
}

type r struct {
	a, b    int `json:\"b\"`
	*Common     // base
	*Longer `json:\"x\"`
	c       int
	Error   struct {
		Code int    `json:\"code\"`
		Type string `json:\"type\"`
	} `json:\"error\"`
	Account string `json:\"account\"`
}

type (
	byName         Context
	byNameDirFirst Context
)

const (
	active    state = iota
	writeDone       // end sent
	done            // finished
)

const (
	engineName           = \"Gauge\"
	nextCallKey ctx.Key  = \"next\"
	spanNames   []string = nil
)

var steps = []T{
	{
		name:  \"match\",
		key:   \"th\",
		start: 1, end: 10,
		md:   pairs(\"th\", \"5\"),
		want: true,
	},
	{
		name: \"mean\",
		zone: T{ID: 1,
			Zone:   2,
			Length: 3},
	},
}

var notes = replacer(
	\"can't\", \"cannot\", // reads badly
	\"gauge.zone.level\", \"zone.level\", // is public
	\"low\",
)

var places = []string{
	\"high.water\", // where
	\"mean.level.of.all.stations.of.the.network.at.the.coast/of/the/north\", // all
	\"low\",      // how
	\"lowest\",   // least
	\"datum/0\",  // zero
	\"offset/1\", // one
}

func zone(name string) bool {
	low := \"low\"    // comes first
	if name == \"\" { // nothing
		return false
	}
	return name == \"high\" || // above
		name == \"low\" || // below
		name == \"lowest\" // far below
}
"),
    ("blank lines behind what closes, and behind labels", "c", &[], "\
int zone(int hour) {
    if (hour > 1) {
        if (hour > 2) {
            hour = 3;
        }
    }

    switch (hour) {
    case 1:

        /* first */

        /* second */
        store(hour);
        break;
    default:

        calm();
    }

    return;
}
"),
    ("what is of a type, below its body", "c", &[], "\
typedef struct gauge {
    int level;
}
gauge_t;

static struct mean {
    int level;
}
one, two;
"),
    ("rows among lists that fill lines, and a row without the blanks of its first number", "c", &[], "\
static const unsigned char table[256] = {
    112, 130,  44, 236, 179,  39, 192, 229, 228, 133,  87,  53, 234,  12, 174,  65,
    35, 239, 107, 147,  69,  25, 165,  33, 237,  14,  79,  78,  29, 101, 146, 189,
    134, 184, 175, 143, 124, 235,  31, 206,  62,  48, 220,  95,  94, 197,  11,  26,
    166, 225,  57, 202, 213,  71,  93,  61, 217,   1,  90, 214,  81,  86, 108,  77,
};

int mean(struct gauge *gauge, unsigned char output[16],
         int first, int last) {
    PUT(gauge->x[0], output,  0);
    PUT(gauge->x[1], output,  4);
    PUT(gauge->x[2], output, 12);
    store(gauge, output, first, last, gauge->mean,
          gauge->low, gauge->high, gauge->datum);
    store(gauge, output, first, last, gauge->mean, gauge->low,
          gauge->high, gauge->datum);
    store(gauge, output, first, last, gauge->mean, gauge->low, gauge->high,
          gauge->datum);
    return 0;
}
"),
    ("braces of rules that touch what they are of", "css", &[], "\
.gauge{
  color: red;
}

.station{
  color: blue;
}

@media print{
  .gauge{
    color: black;
  }
}
"),
    ("loops without end among brackets with spaces", "c", &[], "\
void keep( void ) {
    while ( low ) {
        store( 1 );
    }
    if ( low ) {
        store( 2 );
    }
    if ( high ) {
        store( 3 );
    }
    for (;;) {
        store( 4 );
    }
    for ( int i = 0; i < 3; i++ ) {
        store( i );
    }
    for ( ;; ) {
        store( 5 );
    }
}
"),
];

/// Code, and what comes of it: of what stands in rows, what does not fit them alone changes.
pub(super) const SET_RIGHT: &[(&str, &str, &str)] = &[
    (
        "c",
        "void note(void) {\n    COMMENT((level, \"%s of %s\",\n        low(level), top(level),\n          (zone ? \"in\" : \"out\"),\n      hour\n    ));\n}\n",
        "void note(void) {\n    COMMENT((level, \"%s of %s\",\n        low(level), top(level),\n        (zone ? \"in\" : \"out\"),\n        hour\n    ));\n}\n",
    ),
    (
        "c",
        "struct Gauge {\n    const char *name;     /* its name */\n    int level, mean;      /* above the datum */\n    unsigned char *read;  /* from it */\n    int zones,hours,means;/* of all */\n    int zone;             /* of the station */\n};\n",
        "struct Gauge {\n    const char *name;     /* its name */\n    int level, mean;      /* above the datum */\n    unsigned char *read;  /* from it */\n    int zones, hours, means; /* of all */\n    int zone;             /* of the station */\n};\n",
    ),
    // A block of one line with several statements is none that others are like.
    (
        "c",
        "void test(int level) {\n    if (level) { warn(); return; }\n    if (zone) { calm(); return; }\n    store(level);\n}\n",
        "void test(int level) {\n    if (level) {\n        warn();\n        return;\n    }\n    if (zone) {\n        calm();\n        return;\n    }\n    store(level);\n}\n",
    ),
    // A single call goes as others do, whatever its name.
    (
        "c",
        "void test(int level) {\n    warn(level);\n    calm(level);\n    store(level);\n    type (level);\n}\n",
        "void test(int level) {\n    warn(level);\n    calm(level);\n    store(level);\n    type(level);\n}\n",
    ),
    // Statements keep their column.
    (
        "c",
        "void test(void) {\n    check(LOW, level, zone, hour);   level += 1;\n    check(TOP,level, 8);             level += 2;\n}\n",
        "void test(void) {\n    check(LOW, level, zone, hour);   level += 1;\n    check(TOP, level, 8);            level += 2;\n}\n",
    ),
    // What is not in a row, or not short enough for one, takes a line.
    (
        "c",
        "void test(void) {\n    check(LOW); cover(the_first_of_all_the_levels_at, of_all_the_stations, of_one);\n    check(MID); cover(MID);\n    check(TOP); cover(TOP);\n}\n",
        "void test(void) {\n    check(LOW);\n    cover(the_first_of_all_the_levels_at, of_all_the_stations, of_one);\n    check(MID); cover(MID);\n    check(TOP); cover(TOP);\n}\n",
    ),
    (
        "c",
        "void test(void) {\n    check(LOW); cover(LOW);\n    check(MID);\n    check(TOP); cover(TOP);\n}\n",
        "void test(void) {\n    check(LOW);\n    cover(LOW);\n    check(MID);\n    check(TOP);\n    cover(TOP);\n}\n",
    ),
    (
        "c",
        "int zone(int hour) {\n    switch (hour) {\n    case 4: hour = 5; store(hour); break;\n    case 5:\n        return 2;\n    }\n}\n",
        "int zone(int hour) {\n    switch (hour) {\n    case 4:\n        hour = 5;\n        store(hour);\n        break;\n    case 5:\n        return 2;\n    }\n}\n",
    ),
    // Both sides of an operator go alike.
    (
        "c",
        "void low(int level) {\n    while (level>9) read();\n    while (level>2) read();\n    while (level>5) read();\n    while (level-- > 0) read();\n    while (level>3) read();\n}\n",
        "void low(int level) {\n    while (level>9) read();\n    while (level>2) read();\n    while (level>5) read();\n    while (level-- > 0) read();\n    while (level>3) read();\n}\n",
    ),
];

#[test]
fn what_comes_to_be_too_long_is_filled_as_others_are() {
    let filled = "    store(low_level, high_level, level_at_ebb,\n          level_at_flood, level_at_slack);\n";
    let each = "    store(low_level,\n          high_level,\n          level_at_ebb);\n";
    let long = "    store(low_level,high_level,level_at_ebb,level_at_flood,level_at_slack,level);\n";
    let text = |others: &str| format!("void keep(void) {{\n{}{long}}}\n", others.repeat(10));
    let end = |others: &str| formatted("c", &text(others), &["max_line_length=80"])
        .split_off(text(others).len() - long.len() - 2);
    assert_eq!(end(filled), "    store(low_level, high_level, level_at_ebb, level_at_flood, level_at_slack,\n          level);\n}\n");
    assert!(end(each).starts_with("    store(low_level,\n          high_level,\n"), "{}", end(each));
}
