#include "field/cholesky.h"

#include <algorithm>
#include <cholmod.h>

extern "C" void
omp_set_num_threads(int); // CHOLMOD is built with OpenMP; the setting belongs to the calling thread

namespace mavlo {
namespace {

class Cholmod final : public Cholesky {
  public:
    explicit Cholmod(std::shared_ptr<const SparsePattern> pattern)
        : m_pattern(std::move(pattern)) {
        start();
        cholmod_sparse matrix = view(nullptr);
        matrix.xtype = CHOLMOD_PATTERN;
        m_factor = cholmod_analyze(&matrix, &m_common);
    }
    Cholmod(const Cholmod& other)
        : Cholesky()
        , m_pattern(other.m_pattern) {
        start();
        m_factor = cholmod_copy_factor(other.m_factor, &m_common);
    }
    Cholmod& operator=(const Cholmod&) = delete;
    ~Cholmod() override {
        cholmod_free_factor(&m_factor, &m_common);
        cholmod_free_dense(&m_x, &m_common);
        cholmod_free_dense(&m_y, &m_common);
        cholmod_free_dense(&m_e, &m_common);
        cholmod_finish(&m_common);
    }

    bool factorise(const std::vector<double>& values) override {
        cholmod_sparse matrix = view(const_cast<double*>(values.data()));
        omp_set_num_threads(1);
        cholmod_factorize(&matrix, m_factor, &m_common);
        return m_common.status == CHOLMOD_OK;
    }

    void solve(std::vector<double>& x) override {
        cholmod_dense right{};
        right.nrow = x.size();
        right.ncol = 1;
        right.nzmax = right.d = x.size();
        right.x = x.data();
        right.xtype = CHOLMOD_REAL;
        right.dtype = CHOLMOD_DOUBLE;
        cholmod_solve2(CHOLMOD_A, m_factor, &right, nullptr, &m_x, nullptr, &m_y, &m_e, &m_common);
        std::copy_n(static_cast<const double*>(m_x->x), x.size(), x.begin());
    }

    std::unique_ptr<Cholesky> copy(Precision) const override { return std::make_unique<Cholmod>(*this); }
    double factor_entries() const override { return m_common.lnz; }

  private:
    void start() {
        cholmod_start(&m_common);
        m_common.print = 0;
        m_common.nmethods = 1;
        m_common.method[0].ordering = CHOLMOD_AMD;
        m_common.supernodal = CHOLMOD_SUPERNODAL;
        m_common.postorder = 1;
    }

    cholmod_sparse view(double* values) const {
        cholmod_sparse matrix{};
        matrix.nrow = matrix.ncol = std::size_t(m_pattern->size);
        matrix.nzmax = m_pattern->row.size();
        matrix.p = const_cast<int*>(m_pattern->column.data());
        matrix.i = const_cast<int*>(m_pattern->row.data());
        matrix.x = values;
        matrix.stype = -1;
        matrix.itype = CHOLMOD_INT;
        matrix.xtype = CHOLMOD_REAL;
        matrix.dtype = CHOLMOD_DOUBLE;
        matrix.sorted = 1;
        matrix.packed = 1;
        return matrix;
    }

    std::shared_ptr<const SparsePattern> m_pattern;
    mutable cholmod_common m_common{};
    cholmod_factor* m_factor = nullptr;
    cholmod_dense *m_x = nullptr, *m_y = nullptr, *m_e = nullptr;
};

} // namespace

int SparsePattern::position(int i, int j) const {
    const auto begin = row.begin() + column[std::size_t(j)], end = row.begin() + column[std::size_t(j) + 1];
    return int(std::lower_bound(begin, end, i) - row.begin());
}

std::unique_ptr<Cholesky> make_cholmod(std::shared_ptr<const SparsePattern> pattern) {
    return std::make_unique<Cholmod>(std::move(pattern));
}

void multiply(const SparsePattern& pattern, const std::vector<double>& values, const std::vector<double>& x,
              std::vector<double>& y) {
    std::fill(y.begin(), y.end(), 0.0);
    const double *from = x.data(), *value = values.data();
    double* to = y.data();
    const int* row = pattern.row.data();
    for (int j = 0; j < pattern.size; ++j) {
        const double xj = from[j];
        double sum = 0;
        int k = pattern.column[std::size_t(j)];
        const int end = pattern.column[std::size_t(j) + 1];
        to[j] += value[k] * xj; // the diagonal comes first
        for (++k; k < end; ++k) {
            to[row[k]] += value[k] * xj;
            sum += value[k] * from[row[k]];
        }
        to[j] += sum;
    }
}

void multiply(const SparsePattern& pattern, const std::vector<double>& values, const std::vector<double>& first,
              const std::vector<double>& second, std::vector<double>& first_product,
              std::vector<double>& second_product) {
    std::fill(first_product.begin(), first_product.end(), 0.0);
    std::fill(second_product.begin(), second_product.end(), 0.0);
    const double *a = first.data(), *b = second.data(), *value = values.data();
    double *to_a = first_product.data(), *to_b = second_product.data();
    const int* row = pattern.row.data();
    for (int j = 0; j < pattern.size; ++j) {
        const double aj = a[j], bj = b[j];
        double sum_a = 0, sum_b = 0;
        int k = pattern.column[std::size_t(j)];
        const int end = pattern.column[std::size_t(j) + 1];
        to_a[j] += value[k] * aj;
        to_b[j] += value[k] * bj;
        for (++k; k < end; ++k) {
            const int i = row[k];
            const double v = value[k];
            to_a[i] += v * aj;
            to_b[i] += v * bj;
            sum_a += v * a[i];
            sum_b += v * b[i];
        }
        to_a[j] += sum_a;
        to_b[j] += sum_b;
    }
}

} // namespace mavlo
