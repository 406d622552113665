#include "field/loops/best.h"
#include "field/loops/dense_loops.h"
#include "field/side_by_side.h"

#include <algorithm>
#include <type_traits>

extern "C" {
void openblas_set_num_threads(int);
// clang-format off
#define MAVLO_BLAS(letter, T) \
    void letter##potrf_(const char*, const int*, T*, const int*, int*); \
    void letter##trsm_(const char*, const char*, const char*, const char*, const int*, const int*, const T*, \
                       const T*, const int*, T*, const int*); \
    void letter##syrk_(const char*, const char*, const int*, const int*, const T*, const T*, const int*, \
                       const T*, T*, const int*); \
    void letter##gemm_(const char*, const char*, const int*, const int*, const int*, const T*, const T*, \
                       const int*, const T*, const int*, const T*, T*, const int*); \
    void letter##trsv_(const char*, const char*, const char*, const int*, const T*, const int*, T*, const int*);
MAVLO_BLAS(d, double)
MAVLO_BLAS(s, float)
// clang-format on
#undef MAVLO_BLAS
}

namespace mavlo {
namespace {

constexpr int large_diagonal = 64;      ///< columns from which LAPACK is faster
constexpr int halved_diagonal = 192;    ///< columns from which two cores share a diagonal
constexpr int block_columns = 96;       ///< of such a diagonal
constexpr long large_product = 4000000; ///< multiplications from which BLAS is faster

/// The library's routines for one type of number.
template <typename T>
struct Blas;
template <>
struct Blas<double> {
    static constexpr auto potrf = dpotrf_;
    static constexpr auto trsm = dtrsm_;
    static constexpr auto syrk = dsyrk_;
    static constexpr auto gemm = dgemm_;
    static constexpr auto trsv = dtrsv_;
};
template <>
struct Blas<float> {
    static constexpr auto potrf = spotrf_;
    static constexpr auto trsm = strsm_;
    static constexpr auto syrk = ssyrk_;
    static constexpr auto gemm = sgemm_;
    static constexpr auto trsv = strsv_;
};

const DenseLoopSet& loop_set() {
#ifdef __x86_64__
    static const DenseLoopSet& best =
        *best_for_processor(&dense_loops_any, &dense_loops_avx2, &dense_loops_avx512);
    return best;
#else
    return dense_loops_any;
#endif
}

template <typename T>
const DenseLoops<T>& loops() {
    if constexpr (std::is_same_v<T, double>)
        return loop_set().doubles;
    else
        return loop_set().singles;
}

} // namespace

void use_one_blas_thread() {
    static const bool done = [] {
        openblas_set_num_threads(1);
        return true;
    }();
    (void)done;
}

namespace {

/// Whole vectors of some of the rows.
int first_part(int rows, double share) {
    return std::min(rows, padded(int(rows * share)));
}

/// b = b L^-T of a large block, with L in d.
template <typename T>
void solve_large(T* b, int rows, int stride, const T* d, int diagonal_stride, int k, bool two_cores) {
    const auto part = [=](int from, int to) {
        const int count = to - from;
        const T one = 1;
        if (count > 0)
            Blas<T>::trsm("R", "L", "T", "N", &count, &k, &one, d, &diagonal_stride, b + from, &stride);
    };
    const int half = two_cores ? first_part(rows, 0.5) : rows;
    side_by_side(
        two_cores, [&] { part(0, half); }, [&] { part(half, rows); });
}

/// Lower triangle of u = beta u - b b^T of a large block. Its halves: the triangle of the first rows, and what
/// lies below.
template <typename T>
void outer_large(T* u, int u_stride, T beta, const T* b, int rows, int stride, int k, bool two_cores) {
    const T minus = -1;
    const int first = two_cores ? first_part(rows, 0.7071) : rows, others = rows - first;
    side_by_side(
        two_cores, [&] { Blas<T>::syrk("L", "N", &first, &k, &minus, b, &stride, &beta, u, &u_stride); },
        [&] {
            if (others == 0) return;
            Blas<T>::gemm("N", "T", &others, &first, &k, &minus, b + first, &stride, b, &stride, &beta,
                          u + first, &u_stride);
            Blas<T>::syrk("L", "N", &others, &k, &minus, b + first, &stride, &beta,
                          u + first + long(first) * u_stride, &u_stride);
        });
}

template <typename T>
bool factor_whole(T* d, int k, int stride) {
    int info = 0;
    Blas<T>::potrf("L", &k, d, &stride, &info);
    return info == 0;
}

/// By blocks of columns, since only what is right of each and below can be done side by side.
template <typename T>
bool factor_large(T* d, int k, bool two_cores) {
    const int stride = padded(k);
    if (!two_cores || k < halved_diagonal) return factor_whole(d, k, stride);
    for (int begin = 0; begin < k; begin += block_columns) {
        const int columns = std::min(block_columns, k - begin), others = k - begin - columns;
        T *diagonal = d + begin + long(begin) * stride, *below = diagonal + columns,
          *rest = below + long(columns) * stride;
        if (!factor_whole(diagonal, columns, stride)) return false;
        if (others == 0) break;
        solve_large(below, others, stride, diagonal, stride, columns, two_cores);
        outer_large<T>(rest, stride, 1, below, others, stride, columns, two_cores);
    }
    return true;
}

} // namespace

template <typename T>
bool factor_diagonal(T* d, int k, bool two_cores) {
    return k < large_diagonal ? loops<T>().factor_diagonal(d, k) : factor_large(d, k, two_cores);
}

template <typename T>
void solve_rows(T* b, int rows, const T* d, int k, bool two_cores) {
    if (k < large_diagonal)
        loops<T>().solve_rows(b, rows, d, k);
    else
        solve_large(b, rows, padded(rows), d, padded(k), k, two_cores);
}

template <typename T>
void outer_product(T* u, const T* b, int rows, int k, bool two_cores) {
    if (long(rows) * rows * k < large_product)
        loops<T>().outer_product(u, b, rows, k);
    else
        outer_large<T>(u, padded(rows), 0, b, rows, padded(rows), k, two_cores);
}

template <typename T>
void solve_lower(const T* d, int k, T* x) {
    const int stride = padded(k), one = 1;
    if (k >= large_diagonal) return Blas<T>::trsv("L", "N", "N", &k, d, &stride, x, &one);
    for (int j = 0; j < k; ++j, d += stride) {
        x[j] /= d[j];
        for (int i = j + 1; i < k; ++i) x[i] -= d[i] * x[j];
    }
}

template <typename T>
void solve_upper(const T* d, int k, T* x) {
    const int stride = padded(k), one = 1;
    if (k >= large_diagonal) return Blas<T>::trsv("L", "T", "N", &k, d, &stride, x, &one);
    for (int j = k - 1; j >= 0; --j) {
        const T* column = d + long(j) * stride;
        T value = x[j];
        for (int i = j + 1; i < k; ++i) value -= column[i] * x[i];
        x[j] = value / column[j];
    }
}

template <typename T>
void times(T* y, const T* b, int rows, int k, const T* x) {
    loops<T>().times(y, b, rows, k, x);
}

template <typename T>
void subtract_transposed_times(T* x, const T* b, int rows, int k, const T* y) {
    loops<T>().subtract_transposed_times(x, b, rows, k, y);
}

// clang-format off
#define MAVLO_KERNELS(T) \
    template bool factor_diagonal(T*, int, bool); \
    template void solve_rows(T*, int, const T*, int, bool); \
    template void outer_product(T*, const T*, int, int, bool); \
    template void solve_lower(const T*, int, T*); \
    template void solve_upper(const T*, int, T*); \
    template void times(T*, const T*, int, int, const T*); \
    template void subtract_transposed_times(T*, const T*, int, int, const T*);
MAVLO_KERNELS(double)
MAVLO_KERNELS(float)
// clang-format on
#undef MAVLO_KERNELS

} // namespace mavlo
