// The own factorisation on matrices of many shapes, against dense algebra and the library.

#include "field/dense_kernels.h"
#include "field/front_tree.h"
#include "field/loops/dense_loops.h"
#include "field/multifrontal.h"
#include "support.h"
#include "test_program.h"

#include <Eigen/Dense>
#include <map>
#include <random>

using namespace mavlo;

namespace {

/// A symmetric positive definite matrix from pairs of coupled unknowns: Laplacian plus a small diagonal.
struct Matrix {
    std::shared_ptr<SparsePattern> pattern = std::make_shared<SparsePattern>();
    std::vector<double> values;
    Eigen::MatrixXd dense;
};

Matrix matrix_of(int size, const std::vector<std::pair<int, int>>& pairs) {
    std::mt19937 random(11);
    std::map<std::pair<int, int>, double> entries; // (column, row)
    Matrix m;
    m.dense = Eigen::MatrixXd::Zero(size, size);
    for (int i = 0; i < size; ++i) entries[{i, i}] = 0.1;
    for (const auto& [a, b] : pairs) {
        if (a == b) continue;
        const double weight = 0.2 + double(random() % 1000) / 500;
        entries[{std::min(a, b), std::max(a, b)}] -= weight;
        entries[{a, a}] += weight;
        entries[{b, b}] += weight;
    }
    m.pattern->size = size;
    m.pattern->column.push_back(0);
    int column = 0;
    for (const auto& [at, value] : entries) {
        while (column < at.first) {
            m.pattern->column.push_back(int(m.pattern->row.size()));
            ++column;
        }
        m.pattern->row.push_back(at.second);
        m.values.push_back(value);
        m.dense(at.second, at.first) = m.dense(at.first, at.second) = value;
    }
    m.pattern->column.push_back(int(m.pattern->row.size()));
    return m;
}

std::vector<std::pair<int, int>> grid(int width, int height) {
    std::vector<std::pair<int, int>> pairs;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            if (x + 1 < width) pairs.emplace_back(y * width + x, y * width + x + 1);
            if (y + 1 < height) pairs.emplace_back(y * width + x, (y + 1) * width + x);
        }
    return pairs;
}

void compare(const Matrix& m, const std::vector<int>& root) {
    auto own = make_multifrontal(m.pattern, root);
    QVERIFY(own->factorise(m.values));
    std::vector<double> x(std::size_t(m.pattern->size));
    for (std::size_t i = 0; i < x.size(); ++i) x[i] = std::cos(double(i) * 1.3);
    const Eigen::VectorXd right = Eigen::Map<Eigen::VectorXd>(x.data(), Eigen::Index(x.size()));
    const Eigen::VectorXd wanted = m.dense.llt().solve(right);
    own->solve(x);
    const Eigen::VectorXd found = Eigen::Map<Eigen::VectorXd>(x.data(), Eigen::Index(x.size()));
    CLOSE((found - wanted).norm() / wanted.norm(), 0, 1e-11);
    // A second factorisation with other values in the same workspace leaves nothing of the first behind.
    std::vector<double> doubled = m.values;
    for (double& v : doubled) v *= 2;
    QVERIFY(own->factorise(doubled));
    own->solve(x);
    const Eigen::VectorXd again = Eigen::Map<Eigen::VectorXd>(x.data(), Eigen::Index(x.size()));
    CLOSE((again - (0.5 * m.dense).llt().solve(0.25 * wanted)).norm() / again.norm(), 0, 1e-11);
}

std::vector<int> last(int size, int count) {
    std::vector<int> root;
    for (int i = size - count; i < size; ++i) root.push_back(i);
    return root;
}

template <typename T>
using MatrixOf = Eigen::Matrix<T, Eigen::Dynamic, Eigen::Dynamic>;
template <typename T>
using VectorOf = Eigen::Matrix<T, Eigen::Dynamic, 1>;

template <typename T>
void check_kernels(bool two_cores) {
    const double coarse = sizeof(T) == 8 ? 1 : 1e8; // of the bounds, in single precision
    std::mt19937 random(5);
    for (const auto& [n, k] : {std::pair{1, 1}, {5, 3}, {9, 9}, {33, 17}, {64, 20}, {90, 70}, {400, 120}}) {
        Eigen::MatrixXd a = Eigen::MatrixXd::NullaryExpr(n, n, [&] { return double(random() % 1000) / 1000; });
        a = (a * a.transpose()).eval() + n * Eigen::MatrixXd::Identity(n, n);
        const Eigen::MatrixXd l = a.llt().matrixL();
        const int rows = n - k;
        MatrixOf<T> diagonal = MatrixOf<T>::Zero(padded(k), k), below = MatrixOf<T>::Zero(padded(rows), k),
                    update = MatrixOf<T>::Zero(padded(rows), padded(rows));
        diagonal.topRows(k) = a.topLeftCorner(k, k).template cast<T>();
        below.topRows(rows) = a.bottomLeftCorner(rows, k).template cast<T>();
        QVERIFY(factor_diagonal(diagonal.data(), k, two_cores));
        solve_rows(below.data(), rows, diagonal.data(), k, two_cores);
        outer_product(update.data(), below.data(), rows, k, two_cores);
        const Eigen::MatrixXd l21 = l.bottomLeftCorner(rows, k), wanted = -l21 * l21.transpose();
        for (int j = 0; j < k; ++j)
            for (int i = j; i < n; ++i)
                CLOSE(double(i < k ? diagonal(i, j) : below(i - k, j)), l(i, j), coarse * 1e-11 * n);
        for (int j = 0; j < rows; ++j)
            for (int i = j; i < rows; ++i) CLOSE(double(update(i, j)), wanted(i, j), coarse * 1e-10 * n);

        const Eigen::VectorXd x = Eigen::VectorXd::LinSpaced(k, 1, 2);
        VectorOf<T> xs = x.template cast<T>(), y = VectorOf<T>::Zero(padded(rows)), z = xs;
        times(y.data(), below.data(), rows, k, xs.data());
        CLOSE((y.head(rows).template cast<double>() - l21 * x).norm(), 0, coarse * 1e-11 * n);
        subtract_transposed_times(z.data(), below.data(), rows, k, y.data());
        CLOSE((z.template cast<double>() - (x - l21.transpose() * l21 * x)).norm(), 0, coarse * 1e-10 * n);
        z = (l.topLeftCorner(k, k) * x).template cast<T>();
        solve_lower(diagonal.data(), k, z.data());
        CLOSE((z.template cast<double>() - x).norm(), 0, coarse * 1e-11 * n);
        z = (l.topLeftCorner(k, k).transpose() * x).template cast<T>();
        solve_upper(diagonal.data(), k, z.data());
        CLOSE((z.template cast<double>() - x).norm(), 0, coarse * 1e-11 * n);
    }
}

template <typename T>
void check_loops(DenseLoops<T> DenseLoopSet::*of) {
    std::vector<const DenseLoops<T>*> loops{&(dense_loops_any.*of)};
#ifdef __x86_64__
    if (__builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma"))
        loops.push_back(&(dense_loops_avx2.*of));
    if (__builtin_cpu_supports("avx512f")) loops.push_back(&(dense_loops_avx512.*of));
#endif
    constexpr int k = 13, rows = 43;
    MatrixOf<T> d = MatrixOf<T>::Zero(padded(k), k), b = MatrixOf<T>::Zero(padded(rows), k);
    d.topRows(k) = 20 * MatrixOf<T>::Identity(k, k) + MatrixOf<T>::Ones(k, k);
    b.topRows(rows) = MatrixOf<T>::NullaryExpr(
        rows, k, [](Eigen::Index i, Eigen::Index j) { return T(std::cos(double(i * 3 + j))); });
    std::vector<MatrixOf<T>> results;
    for (const DenseLoops<T>* loop : loops) {
        MatrixOf<T> factor = d, solved = b, u = MatrixOf<T>::Zero(padded(rows), padded(rows));
        VectorOf<T> x = VectorOf<T>::LinSpaced(k, 1, 2), y(padded(rows));
        QVERIFY(loop->factor_diagonal(factor.data(), k));
        loop->solve_rows(solved.data(), rows, factor.data(), k);
        loop->outer_product(u.data(), solved.data(), rows, k);
        loop->times(y.data(), solved.data(), rows, k, x.data());
        loop->subtract_transposed_times(x.data(), solved.data(), rows, k, y.data());
        MatrixOf<T> all(padded(rows), k + rows + 2);
        all << solved, MatrixOf<T>(u.template triangularView<Eigen::Lower>()).leftCols(rows), y,
            VectorOf<T>::Zero(padded(rows));
        all.col(k + rows + 1).head(k) = x;
        results.push_back(all);
    }
    for (const MatrixOf<T>& r : results)
        CLOSE(double((r - results.front()).norm() / r.norm()), 0, sizeof(T) == 8 ? 1e-13 : 1e-6);
}

} // namespace

class TestMultifrontal : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void initTestCase() { use_one_blas_thread(); }
    void grids_with_dense_roots_data() {
        QTest::addColumn<int>("width");
        QTest::addColumn<int>("height");
        QTest::addColumn<int>("root");
        QTest::newRow("point") << 1 << 1 << 1;
        QTest::newRow("line") << 30 << 1 << 2;
        QTest::newRow("square") << 12 << 12 << 12;
        QTest::newRow("slab") << 40 << 7 << 40;
        QTest::newRow("all root") << 6 << 6 << 36;
        QTest::newRow("large") << 35 << 30 << 70;
    }
    void grids_with_dense_roots() {
        QFETCH(int, width);
        QFETCH(int, height);
        QFETCH(int, root);
        auto pairs = grid(width, height);
        const int size = width * height;
        const auto unknowns = last(size, root);
        for (int a : unknowns)
            for (int b : unknowns)
                if (a < b) pairs.emplace_back(a, b);
        compare(matrix_of(size, pairs), unknowns);
    }
    void random_graphs() {
        std::mt19937 random(3);
        for (int round = 0; round < 25; ++round) {
            const int size = 20 + int(random() % 120), root = 1 + int(random() % 10);
            std::vector<std::pair<int, int>> pairs;
            for (int i = 1; i < size; ++i) pairs.emplace_back(int(random() % unsigned(i)), i); // connected
            for (int i = 0; i < size; ++i)
                pairs.emplace_back(int(random() % unsigned(size)), int(random() % unsigned(size)));
            const auto unknowns = last(size, root);
            for (int a : unknowns)
                for (int b : unknowns)
                    if (a < b) pairs.emplace_back(a, b);
            compare(matrix_of(size, pairs), unknowns);
        }
    }
    void parts_that_do_not_touch() {
        // Two grids and lone unknowns: a forest under the root.
        auto pairs = grid(8, 8);
        for (auto [a, b] : grid(5, 9)) pairs.emplace_back(a + 64, b + 64);
        compare(matrix_of(64 + 45 + 6, pairs), last(115, 3));
    }
    void fronts_cover_every_column_and_entry_once() {
        auto pairs = grid(20, 20);
        const Matrix m = matrix_of(400, pairs);
        const FrontTree tree = make_front_tree(*m.pattern, last(400, 5));
        int columns = 0;
        for (const auto& front : tree.fronts) {
            QCOMPARE(front.first, columns);
            columns += front.columns;
            QCOMPARE(front.place.size(), front.rows.size());
            QVERIFY(front.update + long(padded(front.row_count())) * padded(front.row_count()) <=
                    tree.update_size);
            QVERIFY(std::is_sorted(front.rows.begin(), front.rows.end()));
        }
        QCOMPARE(columns, 400);
        QCOMPARE(tree.entries.size(), m.values.size());
        QCOMPARE(tree.fronts.back().columns, 5);
        std::vector<bool> seen(400, false);
        for (int unknown : tree.order) seen[std::size_t(unknown)] = true;
        QVERIFY(std::all_of(seen.begin(), seen.end(), [](bool b) { return b; }));
    }
    void kernels_agree_with_dense_algebra_data() {
        QTest::addColumn<bool>("single");
        QTest::addColumn<bool>("two_cores");
        for (bool single : {false, true})
            for (bool two : {false, true})
                QTest::newRow(
                    qPrintable(QStringLiteral("%1, %2").arg(single ? "float" : "double").arg(two + 1)))
                    << single << two;
    }
    void kernels_agree_with_dense_algebra() {
        QFETCH(bool, single);
        QFETCH(bool, two_cores);
        single ? check_kernels<float>(two_cores) : check_kernels<double>(two_cores);
    }
    void loops_of_every_vector_unit_agree() {
        check_loops<double>(&DenseLoopSet::doubles);
        check_loops<float>(&DenseLoopSet::singles);
    }
    void halves_know_nothing_of_each_other() {
        const auto root = last(900, 30);
        const Matrix m = matrix_of(900, grid(30, 30));
        const FrontTree tree = make_front_tree(*m.pattern, root);
        QVERIFY(tree.half_end[0] > 0 && tree.half_end[1] > tree.half_end[0] &&
                tree.half_end[1] < tree.fronts.size());
        const auto columns_end = [&](std::size_t end) {
            return end == 0 ? 0 : tree.fronts[end - 1].first + tree.fronts[end - 1].columns;
        };
        const int middle = columns_end(tree.half_end[0]);
        QCOMPARE(columns_end(tree.half_end[1]), tree.first_top_column);
        double cost[2] = {0, 0};
        for (std::size_t f = 0; f < tree.half_end[1]; ++f) {
            const auto& front = tree.fronts[f];
            const bool second = f >= tree.half_end[0];
            cost[second] += front.columns * (front.columns + 2.0 * front.row_count());
            for (int row : front.rows)
                QVERIFY(row >= tree.first_top_column || (second ? row >= middle : row < middle));
        }
        QVERIFY(cost[0] < 2 * cost[1] && cost[1] < 2 * cost[0]);
    }
    void two_cores_and_single_precision_solve_the_same() {
        const auto root = last(900, 30);
        const Matrix m = matrix_of(900, grid(30, 30));
        const auto whole = make_multifrontal(m.pattern, root);
        QVERIFY(whole->factorise(m.values));
        std::vector<double> wanted(900);
        for (std::size_t i = 0; i < wanted.size(); ++i) wanted[i] = std::sin(double(i));
        const std::vector<double> right = wanted;
        whole->solve(wanted);
        for (Precision precision : {Precision::Double, Precision::Single}) {
            const auto shared = whole->copy(precision);
            shared->use_two_cores(true);
            QVERIFY(shared->factorise(m.values));
            std::vector<double> x = right;
            shared->solve(x);
            QVERIFY(relative_difference(x, wanted) < (precision == Precision::Single ? 1e-4 : 1e-12));
        }
    }
    void a_root_taken_anew_is_the_whole_taken_anew() {
        auto pairs = grid(20, 12);
        const auto root = last(240, 20);
        for (int a : root)
            for (int b : root)
                if (a < b) pairs.emplace_back(a, b);
        const Matrix m = matrix_of(240, pairs);
        auto values = m.values;
        for (int j : root)
            for (int k = m.pattern->column[std::size_t(j)]; k < m.pattern->column[std::size_t(j) + 1]; ++k)
                values[std::size_t(k)] *= m.pattern->row[std::size_t(k)] == j ? 2 : 0.5;
        auto one = make_multifrontal(m.pattern, root), other = one->copy();
        QVERIFY(one->factorise(m.values) && one->refactorise_root(values) && other->factorise(values));
        std::vector<double> x(240, 1.0), y = x;
        one->solve(x);
        other->solve(y);
        for (std::size_t i = 0; i < x.size(); ++i) CLOSE(x[i], y[i], 1e-12);
    }
    void an_indefinite_matrix_is_refused() {
        Matrix m = matrix_of(36, grid(6, 6));
        m.values[0] = -5;
        QVERIFY(!make_multifrontal(m.pattern, last(36, 4))->factorise(m.values));
        QVERIFY(!make_cholmod(m.pattern)->factorise(m.values));
        m.values[0] = std::nan("");
        QVERIFY(!make_multifrontal(m.pattern, last(36, 4))->factorise(m.values));
    }
};
MAVLO_TEST(multifrontal, TestMultifrontal, Nothing)
#include "test_multifrontal.moc"
