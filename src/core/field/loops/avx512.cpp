#define MAVLO_LOOPS loops_avx512
#include "field/loops/dense_loops.inc"
