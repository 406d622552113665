#pragma once
// Dense Cholesky kernels on small column-major blocks: own loops for the many small fronts, BLAS and LAPACK for
// the few large. Every block's leading dimension is its number of rows rounded up to whole vectors; the rows
// added are zero and stay so, so that no loop needs a tail.

#include "field/vector_lanes.h"

namespace mavlo {

/// Keeps BLAS to the calling thread, once for the program: what runs in parallel are the fields of a sweep, and
/// BLAS's own threads would only wait for each other.
void use_one_blas_thread();

// All for T double or float. Large blocks are taken in two parts each where two cores are to share them.

/// Leading dimension of a block with so many rows.
constexpr int padded(int rows) {
    return (rows + vector_lanes - 1) / vector_lanes * vector_lanes;
}

/// d = L L^T of the lower triangle of d (k x k), in place; what lies above the diagonal is lost. False when a
/// pivot is not positive.
template <typename T>
bool factor_diagonal(T* d, int k, bool two_cores = false);

/// b = b L^-T, with b of `rows` rows and k columns and L from factor_diagonal.
template <typename T>
void solve_rows(T* b, int rows, const T* d, int k, bool two_cores = false);

/// Lower triangle of u = -b b^T, with b of `rows` rows and k columns; u has padded(rows) columns, of which the
/// last may be written.
template <typename T>
void outer_product(T* u, const T* b, int rows, int k, bool two_cores = false);

/// x = L^-1 x and x = L^-T x, with L from factor_diagonal.
template <typename T>
void solve_lower(const T* d, int k, T* x);
template <typename T>
void solve_upper(const T* d, int k, T* x);

/// y = b x and x -= b^T y; y has padded(rows) entries.
template <typename T>
void times(T* y, const T* b, int rows, int k, const T* x);
template <typename T>
void subtract_transposed_times(T* x, const T* b, int rows, int k, const T* y);

} // namespace mavlo
