//! What people keep in C and C++.

use super::Case;

const ARMS: &str = "\
int zone(int hour) {
  switch (hour) {
    case 1: {
      warn(hour);
      break;
    }
    case 2: {
      store(hour);
      break;
    }
    case 3: ;
    case 4:
    case 5: {
      return 5;
    }
    default: {
      return 0;
    }
  }
  return 1;
}
";

pub(super) const KEPT: &[Case] = &[
    ("semicolons that say that nothing is done", "c", &[], "\
void watch(int level) {
    if (level > 9)
        ; /* too high */
    else if (level > 2)
        ;
    else {
        calm();
    }
    while (read(level));
    if (level);
    do
        level = read(level);
    while (level > 0);
}
"),
    ("semicolons that say that nothing is done", "javascript", &[], "\
function watch(level) {
  if (level > 9)
    ; // too high
  else calm();
  while (read(level));
  if (level);
}
"),
    ("a lambda that opens on the next line, as functions do", "cpp", &[], "\
void read()
{
    sort([](int low, int high)
    {
        return low < high;
    });
}

void warn()
{
    ring();
}

void turn()
{
    wait();
}
"),
    ("types made for functions and arrays, branches behind macros that stand for conditions", "cpp", &[], "\
template <typename Level, typename... Stations>
class Reader<Level(Stations...)> {
public:
  Reader& operator=(Reader&) = delete;
  template <typename T> Reader& operator=(const Gauge<T>&) = delete;
  inline Level operator()(Stations... stations) {
    return (*reader)(stations...);
  }

private:
  alignas(void*) char room[2 * sizeof(void*)];
};

struct Board<Level(&)[4]> {
  Level* levels;
  auto operator*(Level&& level) -> Row<decltype(read(*levels))> {
    return row.finish();
  }
  typedef decltype(*levels)& Item;
};

int read() {
  IF_LEVEL(level, at(station)) {
    return *level;
  } else if (dry) {
    warn();
  } else {
    return 0;
  }
}
"),
    ("heads of loops without spaces round their operators, beside other loops and conditions", "c", &[], "\
void read(void) {
    for (i=0; i<n; i++) {
        level = 3;
        while (level > 0) {
            level -= 1;
        }
        while (level < low && high > low) {
            if (a < b) {
                warn();
            }
        }
    }
}
"),
    ("spaces inside the brackets of some words alone, braces that touch, operators by kind", "c", &[], "\
int watch(int level, int *marks){
  int i, high=0;
  if( level<0 || level>=marks[0] ){
    return 1;
  }else{
    store(level, (level&mask)==0);
  }
  for(i=0; i<level; i++){
    assert( marks[i]>0 );
    high=level+marks[i];
  }
  do{
    high--;
  }while( high>0 );
  if( high==level ){
    assert( high!=0 );
  }else if( level ){
    high=warn(level);
    while( high ){ high--; }
  }
  return high;
}
"),
    ("what is declared with a type, and types that each open in their way", "c", &["vknot_brace_declaration=next"], "\
enum zone { NORTH, SOUTH };

struct tide
{
  int level;
} tides[] = {
  { 1 },
  { 2 },
};

extern \"C\" {
#if WIDE
# define TRY_TIDE \\
     do \\
       { \\
         if (1)
# define DONE_TIDE \\
       } \\
     while (0)
#endif

int high(int level)
{
  static const struct
  {
    int level;
  } marks[] = {
    { 1 },
    { 2 },
  };
  union { float metres; int steps; } height = { 0 };

  for (; marks[level].level && !height.steps; )
    level++;
  return level;
}
}
"),
    ("one-line cases with a comment behind one, and how a pointer to a function is called", "c", &[], "\
typedef LONG (HARBOUR *read_gauge)(struct gauge *, ULONG);

int zone(int hour) {
  int zone;
  switch (hour) {
    case 1: zone = 3; break;
    case 2: zone = 4; break;  /* no longer used */
    case 3: zone = 5; break;
    default: return 0;
  }
  return zone;
}
"),
    ("columns of items that take lines", "c", &[], "\
STATION int test_compress      OF((Byte *compr, Length comprLen,
                                   Byte *uncompr, Length uncomprLen));
STATION int test_gauge         OF((const char *fname,
                                   Byte *uncompr, Length uncomprLen));
STATION int test_sync          OF((Byte *compr, Length comprLen));
"),
    ("commas that nothing follows", "c", &["vknot_brace_declaration=next"], "\
static const int levels[] = {
    120,140,160,
    121,141,161,
};

int high(int level,int mark)
{
    return most(level,mark,1);
}
"),
    ("a type whose brace has a line of its own, and operators that stand off", "cpp", &[], "\
class Tide: public Reading
{
public:
    Tide& operator = (const Tide& other);
    bool operator == (const Tide& other) const;
    Tide operator [] (int hour) const;
    int high(int hour) const;
};
"),
    ("rows of a table that are longer than lines are otherwise", "c", &[], "\
static const int zones[] =
{
    0x0000, 0x0001, 0x0002, 0x0003, 0x0004, 0x0005, 0x0006, 0x0007, 0x0008, 0x0009, 0x000A, 0x000B, 0x000C, 0x000D, 0x000E, 0x000F,
    0x0010, 0x0011, 0x0012, 0x0013, 0x0014, 0x0015, 0x0016, 0x0017, 0x0018, 0x0019, 0x001A, 0x001B, 0x001C, 0x001D, 0x001E, 0x001F,
    0x0020, 0x0021, 0x0022, 0x0023, 0x0024, 0x0025, 0x0026, 0x0027, 0x0028, 0x0029, 0x002A, 0x002B, 0x002C, 0x002D, 0x002E, 0x002F,
        -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,     -2,
    0x0100, 0x0101
};

static const struct zone table[] = {
    { 0x0000, 0x0000 }, { 0x0001, 0x0001 }, { 0x0002, 0x0002 }, { 0x0003, 0x0003 }, { 0x0004, 0x0004 }, { 0x0005, 0x0005 }, { 0x0006, 0x0006 },
    { 0x0020, 0x0040 }, { 0x0021, 0x0041 }, { 0x0022, 0x0042 }, { 0x0023, 0x0043 }, { 0x0024, 0x0044 }, { 0x0025, 0x0045 }, { 0x0026, 0x0046 },
    { 0x0040, 0x0080 }, { 0x0041, 0x0081 }, { 0x0042, 0x0082 }, { 0x0043, 0x0083 }, { 0x0044, 0x0084 }, { 0x0045, 0x0085 }, { 0x0046, 0x0086 },
};
"),
    ("names of callables whose arguments always stand off", "cpp", &[], "\
void Test::read() {
    assertTrue (gauge.high() == 1);
    assertTrue (gauge.low() == 1);
    turn(gauge);
    close(gauge);
    assertTrue (read(gauge) == 1);
    open(gauge);
    assertTrue (gauge.rising());
}
"),
    ("two blank lines between what stands in a namespace, and one between members", "cpp", &[], "\
#include \"gauge.h\"


namespace tide {


class Gauge {
public:
    int high();

    int low();

    int rising();

    int falling();

    void turn();

    void open();
};


int Gauge::high() {
    int level = read();

    return level;
}


int Gauge::low() {
    return 1;
}


}
"),
    ("tables of numbers in lists", "c", &[], "\
double bends[] = {
     3.0,  2.0,  0.0,
    -3.0,  0.0, 10.5,
};
double rows[2][2] = {
    { 3.0,  2.0},
    {-3.0, 10.5},
};
"),
    ("pointers to functions", "c", &[], "\
typedef void (*handler)(int level);
static int (*compare)(const void *, const void *);
int (*table[4])(int);

void each(struct gauge *gauge, int (*visit)(struct gauge *, void *), void *data) {
    visit(gauge, data);
}
"),
    ("what is said about a declaration on a line of its own", "cpp", &[], "\
namespace tide {
[[noreturn]]
void fail(Level const &);

struct [[nodiscard]] Gauge {
    [[nodiscard]]
    bool low() const;

    [[nodiscard]] bool high() const {
        switch (zone) {
        case 1:
            [[fallthrough]];
        default:
            return levels[zones[0]] > 1;
        }
    }
    void read([[maybe_unused]] int hour);
};
}
"),
    ("blocks on the lines of their labels, one arm behind the other", "c", &[], ARMS),
    ("the same", "cpp", &[], ARMS),
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
    ("blank lines above `else`, a line that does nothing, clauses of a head beside each other", "c", &[], "\
static int zone(int level) {
    int at;

    if (level < LOW)
        return 0;

    /* what is in between */
    else if (level < HIGH)
        return 1;

    else
        at = 2;

    if (is_read(level) < 0) {
        at = 3;
    }

    /* what could not be read */
    else {
        while (read_on(level))
            ;
    }
    for (at = first_of_the_station; at < last;
         at++)
        send(at);
    return at;
}
"),
    ("braces on the next line where each head wraps", "c", &[], "\
void send_level(const unsigned char *level,
                long length)
{
    send(level);
}

void send_zone(const unsigned char *zone,
               long length)
{
    send(zone);
}

void send_tide(const unsigned char *tide,
               long length)
{
    send(tide);
}
"),
    ("braces behind heads that wrap, beside callables that open on the next line", "c", &[], "\
static int read_level(int station,
    int zone)
{
    if (station > 1 &&
        zone > 1) {
        send(station);
    }
    return 1;
}

static int read_zone(int station,
    int zone)
{
    while (station > 1 ||
        zone > 1) {
        send(station);
    }
    return 1;
}

static int read_tide(int station,
    int zone)
{
    if (station > 1 &&
        zone > 1) {
        send(station);
    }
    return 1;
}
"),
    ("commas and brackets in columns", "c", &[], "\
static const struct row rows[] = {
    {\"north pier \"   , START,      DIFF, read_start},

    {\"estuary \"      , DIFF,       MODE, read_mode},
    {\"skerry light \" , DIFF,       ZONE, read_zone},
    {\"northern light\", SIMILARITY, ZONE, NULL},
};

unsigned zone(unsigned level) {
    return (tides[(level >> 24)       ] & 0x000000ff) ^
           (tides[(level >> 16) & 0xff] & 0xff000000) ^
           (tides[(level >>  8) & 0xff] & 0x00ff0000) ^
           (tides[(level      ) & 0xff] & 0x0000ff00);
}
"),
    ("functions that give pointers, references to arrays", "cpp", &[], "\
int (*reader_of(const Station *station))(Reading *reading);

void (*callback_of(Station *station))(const Reading *reading, int zone) {
    return station->callback;
}

int sum(const int (&levels)[3]) {
    return levels[0] + levels[1] + levels[2];
}
"),
    ("bodies of one line below their heads, labels in rows", "cpp", &[], "\
struct Gauge : Station
{
  bool is_low (int level) const
  { return level < low; }

  bool is_high (int level) const
  { return level > high; }

  int zone (int level)
  {
    switch (level)
    {
      case 1: case 2: case 3:
      case 4: case 5:
        read(level);
        break;
      case 7:
        stop(level);
        break;
    }
    return 1;
  }
};
"),
    ("tabs that line up comments and names among spaces", "cpp", &[], "\
struct Gauge
{
  int highest;\t\t  /* What was read last,
\t\t\t   * or zero. */
  int zone;\t\t  /* Of the station. */
  int tide_of_station;\t  /* Rising or falling. */
  int the_names_of(unsigned                first_of_all,
\t\t   unsigned               *last_of_all,
\t\t   long                   *names) const;
};
"),
    ("bases of what is declared for some arguments of a template", "cpp", &[], "\
template <typename Level>
struct Reading<std::array<Level, 3>>
    : Fixed<Level, 3> {
    int zone;
};

template <typename Level>
struct Reading<std::vector<Level>>
    : Growing<Level> {
    int zone;
};
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
];
