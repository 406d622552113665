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

GridFunction::GridFunction(std::vector<double> x, std::vector<double> y, std::vector<double> values)
    : m_x(std::move(x))
    , m_y(std::move(y))
    , m_corners(values.size()) {
    const std::size_t nx = m_x.size(), ny = m_y.size();
    std::vector<double> line(nx), column(ny);
    for (std::size_t j = 0; j < ny; ++j) {
        for (std::size_t i = 0; i < nx; ++i) line[i] = values[j * nx + i];
        const auto slopes = smooth_slopes(m_x, line);
        for (std::size_t i = 0; i < nx; ++i) m_corners[j * nx + i] = {line[i], slopes[i], 0, 0};
    }
    for (std::size_t i = 0; i < nx; ++i) {
        const auto along = [&](double Corner::*what, double Corner::*slope) {
            for (std::size_t j = 0; j < ny; ++j) column[j] = m_corners[j * nx + i].*what;
            const auto slopes = smooth_slopes(m_y, column);
            for (std::size_t j = 0; j < ny; ++j) m_corners[j * nx + i].*slope = slopes[j];
        };
        along(&Corner::f, &Corner::fy);
        along(&Corner::fx, &Corner::fxy);
    }
}

double GridFunction::operator()(double x, double y) const {
    const double px = std::clamp(x, m_x.front(), m_x.back()), py = std::clamp(y, m_y.front(), m_y.back());
    const std::size_t i = interval(m_x, px), j = interval(m_y, py), nx = m_x.size();
    const double hx = m_x[i + 1] - m_x[i], hy = m_y[j + 1] - m_y[j];
    const auto a = hermite((px - m_x[i]) / hx, hx), b = hermite((py - m_y[j]) / hy, hy);
    double sum = 0;
    for (std::size_t q = 0; q < 2; ++q)
        for (std::size_t p = 0; p < 2; ++p) {
            const Corner& c = m_corners[(j + q) * nx + i + p];
            sum += b[q] * (a[p] * c.f + a[p + 2] * c.fx) + b[q + 2] * (a[p] * c.fy + a[p + 2] * c.fxy);
        }
    if (px != x) { // outside: along the edge's slope, taken from within
        const double step = 1e-4 * hx, inside = px + (x > px ? -step : step);
        sum += (sum - (*this)(inside, py)) / (px - inside) * (x - px);
    }
    if (py != y) {
        const double step = 1e-4 * hy, inside = py + (y > py ? -step : step);
        sum += ((*this)(px, py) - (*this)(px, inside)) / (py - inside) * (y - py);
    }
    return sum;
}

} // namespace mavlo
