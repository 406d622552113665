#pragma once
// The own loops behind dense_kernels.h, one set for each generation of vector units.

#include "field/dense_kernels.h"

namespace mavlo {

template <typename T>
struct DenseLoops {
    bool (*factor_diagonal)(T* d, int k);
    void (*solve_rows)(T* b, int rows, const T* d, int k);
    void (*outer_product)(T* u, const T* b, int rows, int k);
    void (*times)(T* y, const T* b, int rows, int k, const T* x);
    void (*subtract_transposed_times)(T* x, const T* b, int rows, int k, const T* y);
};

struct DenseLoopSet {
    DenseLoops<double> doubles;
    DenseLoops<float> singles;
};

extern const DenseLoopSet dense_loops_any;                      ///< what every processor of the kind can do
extern const DenseLoopSet dense_loops_avx2, dense_loops_avx512; ///< on x86-64 only

} // namespace mavlo
