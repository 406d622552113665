#pragma once
// The own loops behind dense_kernels.h, one set for each generation of vector units.

#include "field/dense_kernels.h"

namespace mavlo {

struct DenseLoops {
    bool (*factor_diagonal)(double* d, int k);
    void (*solve_rows)(double* b, int rows, const double* d, int k);
    void (*outer_product)(double* u, const double* b, int rows, int k);
    void (*times)(double* y, const double* b, int rows, int k, const double* x);
    void (*subtract_transposed_times)(double* x, const double* b, int rows, int k, const double* y);
};

extern const DenseLoops dense_loops_any;                      ///< what every processor of the kind can do
extern const DenseLoops dense_loops_avx2, dense_loops_avx512; ///< on x86-64 only

} // namespace mavlo
