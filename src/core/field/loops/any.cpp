#define MAVLO_LOOPS loops_any
#include "field/loops/dense_loops.inc"
