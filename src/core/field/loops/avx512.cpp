#define MAVLO_LOOPS(name) name##_avx512
#include "field/loops/vectors.inc"
// What they have in common comes first.
#include "field/loops/dense_loops.inc"
#include "field/loops/element_loops.inc"
