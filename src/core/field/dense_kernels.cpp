#include "field/dense_kernels.h"

#include <cmath>

#if defined(__x86_64__) && !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
// One copy for each generation of vector units, chosen when the program starts.
#define MAVLO_VECTOR_CLONES __attribute__((target_clones("arch=skylake-avx512", "arch=haswell", "default")))
#else
#define MAVLO_VECTOR_CLONES
#endif

extern "C" {
void openblas_set_num_threads(int);
void dpotrf_(const char*, const int*, double*, const int*, int*);
void dtrsm_(const char*, const char*, const char*, const char*, const int*, const int*, const double*,
            const double*, const int*, double*, const int*);
void dsyrk_(const char*, const char*, const int*, const int*, const double*, const double*, const int*,
            const double*, double*, const int*);
}

namespace mavlo {
namespace {

constexpr long blas_work = 60000; ///< multiplications from which a call of BLAS pays

/// target[0 … count) -= sum of four columns times their factors, for two targets at once.
MAVLO_VECTOR_CLONES
void subtract_four(double* __restrict__ t0, double* __restrict__ t1, const double* __restrict__ a,
                   const double* __restrict__ b, const double* __restrict__ c, const double* __restrict__ d,
                   const double* __restrict__ f, const double* __restrict__ g, int count) {
    const double f0 = f[0], f1 = f[1], f2 = f[2], f3 = f[3], g0 = g[0], g1 = g[1], g2 = g[2], g3 = g[3];
    for (int i = 0; i < count; ++i) {
        const double x = a[i], y = b[i], z = c[i], w = d[i];
        t0[i] -= f0 * x + f1 * y + f2 * z + f3 * w;
        t1[i] -= g0 * x + g1 * y + g2 * z + g3 * w;
    }
}

MAVLO_VECTOR_CLONES
void subtract_one(double* __restrict__ t, const double* __restrict__ a, double f, int count) {
    for (int i = 0; i < count; ++i) t[i] -= f * a[i];
}

MAVLO_VECTOR_CLONES
void scale(double* t, double f, int count) {
    for (int i = 0; i < count; ++i) t[i] *= f;
}

/// Columns c … c+1 (rows from c on) of a lower triangle minus l l^T, k columns of l.
void subtract_pair(double* t0, double* t1, const double* l, int ld, int k, int row, int rows) {
    // t0 and t1 both start at `row`; the entry of t1 above its diagonal is written too and never read.
    int j = 0;
    for (; j + 4 <= k; j += 4) {
        const double* p = l + long(j) * ld;
        const double f[4] = {p[row], p[ld + row], p[2L * ld + row], p[3L * ld + row]};
        const double g[4] = {p[row + 1], p[ld + row + 1], p[2L * ld + row + 1], p[3L * ld + row + 1]};
        subtract_four(t0, t1, p + row, p + ld + row, p + 2L * ld + row, p + 3L * ld + row, f, g, rows);
    }
    for (; j < k; ++j) {
        const double* p = l + long(j) * ld;
        subtract_one(t0, p + row, p[row], rows);
        subtract_one(t1, p + row, p[row + 1], rows);
    }
}

/// Right-looking by blocks of eight columns.
bool factor_small(double* panel, int n, int k) {
    constexpr int block = 8;
    for (int first = 0; first < k; first += block) {
        const int end = first + block < k ? first + block : k;
        for (int j = first; j < end; ++j) {
            double* column = panel + long(j) * n;
            for (int i = first; i < j; ++i) {
                const double* done = panel + long(i) * n;
                subtract_one(column + j, done + j, done[j], n - j);
            }
            if (!(column[j] > 0)) return false;
            const double root = std::sqrt(column[j]);
            column[j] = root;
            scale(column + j + 1, 1 / root, n - j - 1);
        }
        const double* l = panel + long(first) * n;
        int c = end;
        for (; c + 2 <= k; c += 2)
            subtract_pair(panel + long(c) * n + c, panel + long(c + 1) * n + c, l, n, end - first, c, n - c);
        if (c < k)
            for (int j = first; j < end; ++j)
                subtract_one(panel + long(c) * n + c, panel + long(j) * n + c, panel[long(j) * n + c], n - c);
    }
    return true;
}

} // namespace

void use_one_blas_thread() {
    static const bool done = [] {
        openblas_set_num_threads(1);
        return true;
    }();
    (void)done;
}

bool factor_panel(double* panel, int n, int k) {
    if (long(k) * k * n < 4 * blas_work) return factor_small(panel, n, k);
    int info = 0;
    dpotrf_("L", &k, panel, &n, &info);
    const int rows = n - k;
    const double one = 1;
    if (info == 0 && rows > 0) dtrsm_("R", "L", "T", "N", &rows, &k, &one, panel, &n, panel + k, &n);
    return info == 0;
}

void subtract_square(double* u, int m, const double* l, int ld, int k) {
    if (long(m) * m * k >= blas_work) {
        const double minus = -1, one = 1;
        dsyrk_("L", "N", &m, &k, &minus, l, &ld, &one, u, &m);
        return;
    }
    int c = 0;
    for (; c + 2 <= m; c += 2) subtract_pair(u + long(c) * m + c, u + long(c + 1) * m + c, l, ld, k, c, m - c);
    if (c < m)
        for (int j = 0; j < k; ++j)
            subtract_one(u + long(c) * m + c, l + long(j) * ld + c, l[long(j) * ld + c], m - c);
}

} // namespace mavlo
