//! What people keep in C, C++ and C#.

use super::Case;

pub(super) const KEPT: &[Case] = &[
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
];
