#pragma once
// Loops over blocks of elements, one set for each generation of vector units.

#include "field/vector_lanes.h"

namespace mavlo {

/// One value for each element of a block.
using Lanes = double[vector_lanes];

/// One point of quadrature in each element of a block: gradients of the six shape functions, and the weight.
struct BlockPoint {
    Lanes gx[6], gy[6], weight;
};

/// `a`: potentials of the six nodes. Every loop goes over the block's `count` points.
struct ElementLoops {
    /// b[q] = |grad A|, T.
    void (*flux_density)(const BlockPoint* point, int count, const Lanes* a, Lanes* b);
    /// From the curve at b: nu = weight h/b, and extra = (weight dh/db - nu)/b^2 of the tangent; where b is
    /// none they are the curve's beginning.
    void (*reluctivity)(const BlockPoint* point, int count, const Lanes* b, const Lanes* h, const Lanes* dh_db,
                        Lanes* nu, Lanes* extra);
    /// force[i] = sum_q nu[q] grad N_i . grad A.
    void (*force)(const BlockPoint* point, int count, const Lanes* a, const Lanes* nu, Lanes* force);
    /// stiffness[ij], i >= j row by row, = sum_q nu grad N_i . grad N_j + extra (grad N_i . grad A)(grad N_j .
    /// grad A).
    void (*stiffness)(const BlockPoint* point, int count, const Lanes* a, const Lanes* nu, const Lanes* extra,
                      Lanes* stiffness);
};

const ElementLoops& element_loops();

extern const ElementLoops element_loops_any;                        ///< what every processor of the kind can do
extern const ElementLoops element_loops_avx2, element_loops_avx512; ///< on x86-64 only

} // namespace mavlo
