#define MAVLO_LOOPS loops_avx2
#include "field/loops/dense_loops.inc"
