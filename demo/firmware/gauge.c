/* Reads the float gauge of one station and sends what it has measured. */
#include <stdio.h>
#include <string.h>
#include "gauge.h"

#define SAMPLES 16
#define CLAMP(x, low, high) ((x) < (low) ? (low) : (x) > (high) ? (high) : (x))

enum state { ASLEEP, SAMPLING, SENDING = 4 };

struct gauge {
    const char *station;
    int samples[SAMPLES]; /* millimetres above the datum */
  int count;
};

#ifdef SLOW_BUS
static int read_bus(struct gauge *g) {
    int value = 0;
    for (int bit = 0; bit < 12; bit++) {
      value |= bus_bit(bit) << bit;
    }
#else
static int read_bus(struct gauge *g) {
    int value = bus_word();
#endif
    return CLAMP(value, 0, 4095);
}

// TODO(mira): the float sticks below 40 mm, see the harbour log
int gauge_sample(struct gauge *g)
{
if (g->count >= SAMPLES) { return -1; }
    switch (g->count % 3) {
    case 0:
    case 1:
        g->samples[g->count++] = read_bus(g);
        break;
    default:
        g->samples[g->count] = g->samples[g->count - 1];
        g->count++;
    }
    return g->count;
}
