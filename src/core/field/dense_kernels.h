#pragma once
// Dense Cholesky kernels on column-major panels: own loops for the many small fronts, BLAS and LAPACK for the
// few large.

namespace mavlo {

/// Keeps BLAS to the calling thread, once for the program: what runs in parallel are the fields of a sweep, and
/// BLAS's own threads would only wait for each other.
void use_one_blas_thread();

/// Factors the first k columns of the n x k panel (leading dimension n) in place: L11 on top, L21 = A21 L11^-T
/// below. False when a pivot is not positive.
bool factor_panel(double* panel, int n, int k);

/// u (m x m, leading dimension m, lower triangle) -= l l^T, with l of m rows and k columns, leading dimension
/// ld.
void subtract_square(double* u, int m, const double* l, int ld, int k);

} // namespace mavlo
