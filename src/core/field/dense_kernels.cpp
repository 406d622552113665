#include "field/loops/best.h"
#include "field/loops/dense_loops.h"

extern "C" {
void openblas_set_num_threads(int);
void dpotrf_(const char*, const int*, double*, const int*, int*);
void dtrsm_(const char*, const char*, const char*, const char*, const int*, const int*, const double*,
            const double*, const int*, double*, const int*);
void dsyrk_(const char*, const char*, const int*, const int*, const double*, const double*, const int*,
            const double*, double*, const int*);
void dtrsv_(const char*, const char*, const char*, const int*, const double*, const int*, double*, const int*);
}

namespace mavlo {
namespace {

constexpr int large_diagonal = 64;      ///< columns from which LAPACK is faster
constexpr long large_product = 4000000; ///< multiplications from which BLAS is faster

const DenseLoops& loops() {
#ifdef __x86_64__
    static const DenseLoops& best =
        *best_for_processor(&dense_loops_any, &dense_loops_avx2, &dense_loops_avx512);
    return best;
#else
    return dense_loops_any;
#endif
}

} // namespace

void use_one_blas_thread() {
    static const bool done = [] {
        openblas_set_num_threads(1);
        return true;
    }();
    (void)done;
}

bool factor_diagonal(double* d, int k) {
    if (k < large_diagonal) return loops().factor_diagonal(d, k);
    int info = 0;
    const int stride = padded(k);
    dpotrf_("L", &k, d, &stride, &info);
    return info == 0;
}

void solve_rows(double* b, int rows, const double* d, int k) {
    if (k < large_diagonal) return loops().solve_rows(b, rows, d, k);
    const int stride = padded(rows), diagonal_stride = padded(k);
    const double one = 1;
    dtrsm_("R", "L", "T", "N", &rows, &k, &one, d, &diagonal_stride, b, &stride);
}

void outer_product(double* u, const double* b, int rows, int k) {
    if (long(rows) * rows * k < large_product) return loops().outer_product(u, b, rows, k);
    const int stride = padded(rows);
    const double minus = -1, zero = 0;
    dsyrk_("L", "N", &rows, &k, &minus, b, &stride, &zero, u, &stride);
}

void solve_lower(const double* d, int k, double* x) {
    const int stride = padded(k), one = 1;
    if (k >= large_diagonal) return dtrsv_("L", "N", "N", &k, d, &stride, x, &one);
    for (int j = 0; j < k; ++j, d += stride) {
        x[j] /= d[j];
        for (int i = j + 1; i < k; ++i) x[i] -= d[i] * x[j];
    }
}

void solve_upper(const double* d, int k, double* x) {
    const int stride = padded(k), one = 1;
    if (k >= large_diagonal) return dtrsv_("L", "T", "N", &k, d, &stride, x, &one);
    for (int j = k - 1; j >= 0; --j) {
        const double* column = d + long(j) * stride;
        double value = x[j];
        for (int i = j + 1; i < k; ++i) value -= column[i] * x[i];
        x[j] = value / column[j];
    }
}

void times(double* y, const double* b, int rows, int k, const double* x) {
    loops().times(y, b, rows, k, x);
}

void subtract_transposed_times(double* x, const double* b, int rows, int k, const double* y) {
    loops().subtract_transposed_times(x, b, rows, k, y);
}

} // namespace mavlo
