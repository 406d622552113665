#pragma once
// Dense Cholesky kernels on small column-major blocks: own loops for the many small fronts, BLAS and LAPACK for
// the few large. Every block's leading dimension is its number of rows rounded up to whole vectors; the rows
// added are zero and stay so, so that no loop needs a tail.

#include "field/vector_lanes.h"

namespace mavlo {

/// Keeps BLAS to the calling thread, once for the program: what runs in parallel are the fields of a sweep, and
/// BLAS's own threads would only wait for each other.
void use_one_blas_thread();

/// Leading dimension of a block with so many rows.
constexpr int padded(int rows) {
    return (rows + vector_lanes - 1) / vector_lanes * vector_lanes;
}

/// d = L L^T of the lower triangle of d (k x k), in place; what lies above the diagonal is lost. False when a
/// pivot is not positive.
bool factor_diagonal(double* d, int k);

/// b = b L^-T, with b of `rows` rows and k columns and L from factor_diagonal.
void solve_rows(double* b, int rows, const double* d, int k);

/// Lower triangle of u = -b b^T, with b of `rows` rows and k columns; u has padded(rows) columns, of which the
/// last may be written.
void outer_product(double* u, const double* b, int rows, int k);

/// x = L^-1 x and x = L^-T x, with L from factor_diagonal.
void solve_lower(const double* d, int k, double* x);
void solve_upper(const double* d, int k, double* x);

/// y = b x and x -= b^T y; y has padded(rows) entries.
void times(double* y, const double* b, int rows, int k, const double* x);
void subtract_transposed_times(double* x, const double* b, int rows, int k, const double* y);

} // namespace mavlo
