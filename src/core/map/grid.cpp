#include "map/grid.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

/// The four cubic Hermite polynomials at t in [0, 1], the slopes' ones for an interval of length h.
std::array<double, 4> hermite(double t, double h) {
    const double s = 1 - t;
    return {(1 + 2 * t) * s * s, t * t * (3 - 2 * t), h * t * s * s, -h * t * t * s};
}

/// Their derivatives over the argument itself.
std::array<double, 4> hermite_slopes(double t, double h) {
    const double s = 1 - t;
    return {-6 * t * s / h, 6 * t * s / h, s * (1 - 3 * t), t * (3 * t - 2)};
}

std::size_t interval(const std::vector<double>& knots, double at) {
    const auto upper = std::upper_bound(knots.begin() + 1, knots.end() - 1, at);
    return std::size_t(upper - knots.begin()) - 1;
}

double limited(double slope, double left, double right) {
    if (left * right <= 0) return slope; // a top, a bottom, or flat on one side
    const double most = 3 * std::min(std::abs(left), std::abs(right));
    if (slope * left < 0) return 0;
    return std::copysign(std::min(std::abs(slope), most), left);
}

} // namespace

std::vector<double> smooth_slopes(const std::vector<double>& x, const std::vector<double>& y) {
    assert(x.size() == y.size() && std::is_sorted(x.begin(), x.end()));
    const std::size_t n = x.size();
    std::vector<double> secant(n - 1), slope(n);
    for (std::size_t i = 0; i + 1 < n; ++i) secant[i] = (y[i + 1] - y[i]) / (x[i + 1] - x[i]);
    if (n == 2) return {secant[0], secant[0]};
    for (std::size_t i = 1; i + 1 < n; ++i) {
        const double a = x[i] - x[i - 1], b = x[i + 1] - x[i];
        slope[i] = limited((b * secant[i - 1] + a * secant[i]) / (a + b), secant[i - 1], secant[i]);
    }
    // The parabola through the last three points, at its end.
    const auto end = [&](std::size_t edge, std::size_t next, std::size_t secant_edge, std::size_t secant_next) {
        const double a = std::abs(x[next] - x[edge]), b = std::abs(x[secant_next + 1] - x[secant_next]);
        return secant[secant_edge] + (secant[secant_edge] - secant[secant_next]) * a / (a + b);
    };
    slope[0] = end(0, 1, 0, 1);
    slope[n - 1] = end(n - 1, n - 2, n - 2, n - 3);
    return slope;
}

GridFunctions::GridFunctions(std::vector<double> x, std::vector<double> y, const Eigen::MatrixXd& values)
    : m_x(std::move(x))
    , m_y(std::move(y))
    , m_corners(values.cols(), 4 * values.rows()) {
    const auto nx = Eigen::Index(m_x.size()), ny = Eigen::Index(m_y.size());
    assert(values.rows() == nx * ny);
    std::vector<double> line(m_x.size()), column(m_y.size());
    for (Eigen::Index k = 0; k < values.cols(); ++k) {
        for (Eigen::Index j = 0; j < ny; ++j) {
            for (Eigen::Index i = 0; i < nx; ++i) line[std::size_t(i)] = values(j * nx + i, k);
            const auto slopes = smooth_slopes(m_x, line);
            for (Eigen::Index i = 0; i < nx; ++i) {
                m_corners(k, 4 * (j * nx + i)) = line[std::size_t(i)];
                m_corners(k, 4 * (j * nx + i) + 1) = slopes[std::size_t(i)];
            }
        }
        for (Eigen::Index i = 0; i < nx; ++i)
            for (Eigen::Index of : {0, 1}) { // of the value and of its slope over x
                for (Eigen::Index j = 0; j < ny; ++j)
                    column[std::size_t(j)] = m_corners(k, 4 * (j * nx + i) + of);
                const auto slopes = smooth_slopes(m_y, column);
                for (Eigen::Index j = 0; j < ny; ++j)
                    m_corners(k, 4 * (j * nx + i) + of + 2) = slopes[std::size_t(j)];
            }
    }
}

/// Where a point lies: its cell, where in it, and how far outside the grid.
struct GridFunctions::Place {
    std::size_t i, j;
    double tx, ty, hx, hy, beyond_x, beyond_y;

    /// Of the four points of the cell.
    static constexpr std::array<std::pair<std::size_t, std::size_t>, 4> points{
        {{0, 0}, {1, 0}, {0, 1}, {1, 1}}};
    using Along = std::array<double, 4>; ///< hermite(), or its slopes, along x or y
    /// What the four numbers of a point count.
    static Eigen::RowVector4d weights(const Along& x, const Along& y, std::pair<std::size_t, std::size_t> at) {
        const auto [p, q] = at;
        return {x[p] * y[q], x[p + 2] * y[q], x[p] * y[q + 2], x[p + 2] * y[q + 2]};
    }
};

GridFunctions::Place GridFunctions::place(double x, double y) const {
    const double px = std::clamp(x, m_x.front(), m_x.back()), py = std::clamp(y, m_y.front(), m_y.back());
    const std::size_t i = interval(m_x, px), j = interval(m_y, py);
    const double hx = m_x[i + 1] - m_x[i], hy = m_y[j + 1] - m_y[j];
    return {i, j, (px - m_x[i]) / hx, (py - m_y[j]) / hy, hx, hy, x - px, y - py};
}

Eigen::Index GridFunctions::corner(const Place& at, std::pair<std::size_t, std::size_t> point) const {
    return 4 * Eigen::Index((at.j + point.second) * m_x.size() + at.i + point.first);
}

double GridFunctions::value(Eigen::Index k, double x, double y) const {
    const Place at = place(x, y);
    const auto a = hermite(at.tx, at.hx), b = hermite(at.ty, at.hy);
    const auto sum = [&](const Place::Along& of_x, const Place::Along& of_y) {
        double total = 0;
        for (const auto& point : Place::points)
            total += m_corners.row(k).segment<4>(corner(at, point)).dot(Place::weights(of_x, of_y, point));
        return total;
    };
    double out = sum(a, b);
    if (at.beyond_x != 0) out += at.beyond_x * sum(hermite_slopes(at.tx, at.hx), b);
    if (at.beyond_y != 0) out += at.beyond_y * sum(a, hermite_slopes(at.ty, at.hy));
    return out;
}

Eigen::MatrixX3d GridFunctions::at(double x, double y) const {
    const Place at = place(x, y);
    const auto a = hermite(at.tx, at.hx), b = hermite(at.ty, at.hy), da = hermite_slopes(at.tx, at.hx),
               db = hermite_slopes(at.ty, at.hy);
    Eigen::MatrixX3d out = Eigen::MatrixX3d::Zero(count(), 3);
    for (const auto& point : Place::points) {
        Eigen::Matrix<double, 4, 3> weights;
        weights << Place::weights(a, b, point).transpose(), Place::weights(da, b, point).transpose(),
            Place::weights(a, db, point).transpose();
        out.noalias() += m_corners.middleCols<4>(corner(at, point)) * weights;
    }
    out.col(0) += at.beyond_x * out.col(1) + at.beyond_y * out.col(2);
    return out;
}

} // namespace mavlo
