//! What people keep in C.

use super::Case;

const WRAPS: &str = "\
extern int read_levels(struct station *station);
extern int read_0(struct station *station,
\t\t\t    const char *name);
extern int read_1(struct station *station,
\t\t\t    const char *name);
extern int read_2(struct station *station,
\t\t\t    const char *name);
extern int read_3(struct station *station,
\t\t\t    const char *name);
extern int read_4(struct station *station,
\t\t\t    const char *name);
extern int read_5(struct station *station,
\t\t\t    const char *name);
extern int read_6(struct station *station,
\t\t\t    const char *name);
extern int read_7(struct station *station,
\t\t\t    const char *name);
extern int read_8(struct station *station,
\t\t\t    const char *name);
extern int read_9(struct station *station,
\t\t\t    const char *name);
extern int read_10(struct station *station,
\t\t\t    const char *name);
extern int read_11(struct station *station,
\t\t\t    const char *name);
";

const BLANKS: &str = "\
int zone;


/* Part 0. */
int part_0;

int zone_0;

int low_0;

int high_0;


/* Part 1. */
int part_1;

int zone_1;

int low_1;

int high_1;


/* Part 2. */
int part_2;

int zone_2;

int low_2;

int high_2;


/* Part 3. */
int part_3;

int zone_3;

int low_3;

int high_3;


/* Part 4. */
int part_4;

int zone_4;

int low_4;

int high_4;


/* Part 5. */
int part_5;

int zone_5;

int low_5;

int high_5;


/* Part 6. */
int part_6;

int zone_6;

int low_6;

int high_6;


/* Part 7. */
int part_7;

int zone_7;

int low_7;

int high_7;


/* Part 8. */
int part_8;

int zone_8;

int low_8;

int high_8;


/* Part 9. */
int part_9;

int zone_9;

int low_9;

int high_9;


/* Part 10. */
int part_10;

int zone_10;

int low_10;

int high_10;


/* Part 11. */
int part_11;

int zone_11;

int low_11;

int high_11;
";

pub(super) const KEPT: &[Case] = &[
    ("arms of one line, with a comment or a directive behind one, or several labels", "c", &[], "\
int zone(int tide) {
    switch (tide) {
    case LOW: level = 1; break;
    case HIGH: level = 2; break;
    /* no cases for the slack */
    case SPRING: case NEAP: level = 3; break;
#if STORMS
    case STORM: level = 4; break;
#endif
    default: return 0;
    }
    return level;
}
"),
    ("targets of jumps among arms", "c", &[], "\
int zone(int tide) {
\tswitch (tide) {
\tcase LOW:
\t\tlevel = 1;
 next:
\t\twarn(level);
\t\tbreak;
\tdefault:
\t\tgoto next;
\t}
\treturn 1;
 out:
\treturn 2;
}
"),
    ("a choice with nothing between its marks", "c", &[], "\
int zone(int tide) {
    return read(tide) ?: 1;
}
"),
    ("several statements on a line, here and there", "c", &[], "\
int zone(int tide) {
    low = 1; high = 2;
    if (tide) {
        read(tide);
        low++; high++;  /* both */
    }
    for (;;) {
        *mark = tide; tide = 0;
        warn(tide);
    }
    (void)low; (void)high;
    return tide;
}
"),
    ("wraps in a column of their own, two lines of each", "c", &["tab_width=8"], "\
extern int\t\tread_levels(struct station *station,
\t\t\t\tconst char *name, const char *version,
\t\t\t\tint zone);
extern int\t\tread_all_zones(struct station *station,
\t\t\t\tconst char *name, const char *version,
\t\t\t\tint zone);
"),
    ("single wraps in a column that many have", "c", &["tab_width=8"], WRAPS),
    ("comments that fill up to their column", "c", &["tab_width=8"], "\
struct station {
\tint level;\t\t/* The level. */
\tstruct station *next_on;/* The next of them. */
\tstruct station *last_of;/* The last one, which has no
\t\t\t\t * other behind it. */
\tint zone;\t\t/* The zone. */
};
"),
    ("comments above words of directives", "c", &[], "\
#ifdef TIDES
  /* Set up what is given. */
# if defined(BUILDING_TIDES)
    /* Building a library. */
#   define TIDES_EXTERN extern
# else
    /* Building a program. */
#   define TIDES_EXTERN /* nothing */
# endif
#endif
"),
    ("comments far in below what they are about", "c", &[], "\
static char *names = NULL;
        /* The names of the stations. */
static int count = 0;
        /* How many there are. */

int read(int zone) {
    int level = 0;
            /* The level. */
    return level;
}
"),
    ("heads of loops that break inside of a clause", "c", &[], "\
int read(int zone) {
    for (first = station->first; line > 1 &&
            first != station->last; line--)
        store(first);
    return zone;
}
"),
    ("semicolons alone in braces, and blocks that are handed over", "c", &[], "\
void idle(void) {;}
void calm(void) { ; }

int read(int zone) {
    ENSURE(zone > low(zone),
           { free(zone); goto out; });
    return zone;
}
"),
    ("double blank lines between many", "c", &[], BLANKS),
];
