#include "material/bh_curve.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double saturation_scale = 0.1; // T, see the class comment

/// Fritsch-Butland: the weighted harmonic mean of the neighbouring secants.
double inner_slope(double left_step, double right_step, double left_secant, double right_secant) {
    const double w1 = 2 * right_step + left_step, w2 = right_step + 2 * left_step;
    return (w1 + w2) / (w1 / left_secant + w2 / right_secant);
}

} // namespace

BhCurve BhCurve::linear(double mu_r) {
    assert(mu_r > 0);
    BhCurve curve;
    curve.m_linear_mu_r = std::isinf(mu_r) ? ideal_mu_r : mu_r;
    return curve;
}

Result<BhCurve> BhCurve::through(std::vector<BhPoint> points) {
    if (points.empty() || points.front().b != 0 || points.front().h != 0)
        points.insert(points.begin(), BhPoint{});
    if (points.size() < 3) return Problem{"bh", "A BH curve needs at least two points beside the origin."};
    for (std::size_t i = 0; i < points.size(); ++i)
        if (!std::isfinite(points[i].h) || !std::isfinite(points[i].b))
            return Problem{"bh", fmt::format("Row {} of the BH curve is not a finite number.", i)};
    for (std::size_t i = 1; i < points.size(); ++i) {
        const auto &a = points[i - 1], &b = points[i];
        if (b.h > a.h && b.b > a.b) continue;
        return Problem{
            "bh", fmt::format("The BH curve must rise: after ({:g} A/m, {:g} T) comes ({:g} A/m, {:g} T) in "
                              "row {}; correct or remove that row.",
                              a.h, a.b, b.h, b.b, i)};
    }
    const std::size_t n = points.size();
    std::vector<double> step(n - 1), secant(n - 1);
    for (std::size_t i = 0; i + 1 < n; ++i) {
        step[i] = points[i + 1].b - points[i].b;
        secant[i] = (points[i + 1].h - points[i].h) / step[i];
    }
    BhCurve curve;
    curve.m_points = points;
    for (std::size_t i = 0; i < n; ++i) {
        double slope = secant[0];
        if (i + 1 == n)
            slope = std::min(nu0, secant[n - 2]);
        else if (i > 0)
            slope = inner_slope(step[i - 1], step[i], secant[i - 1], secant[i]);
        curve.m_knots.push_back({points[i].b, points[i].h, slope, 0, {}});
    }
    for (std::size_t i = 0; i + 1 < n; ++i) { // exact integral of the cubic
        const Knot &a = curve.m_knots[i], &b = curve.m_knots[i + 1];
        curve.m_knots[i + 1].energy =
            a.energy + step[i] * ((a.h + b.h) / 2 + step[i] * (a.slope - b.slope) / 12);
    }
    curve.index_knots();
    return curve;
}

BhCurve::Value BhCurve::beyond_knots(double b) const {
    if (is_linear()) {
        const double nu = nu0 / m_linear_mu_r;
        return {nu * b, nu, nu * b * b / 2};
    }
    const Knot& last = m_knots.back();
    const double x = b - last.b, gap = nu0 - last.slope, decay = std::exp(-x / saturation_scale);
    const double filled = saturation_scale * (1 - decay);
    return {last.h + nu0 * x - gap * filled, nu0 - gap * decay,
            last.energy + last.h * x + nu0 * x * x / 2 - gap * saturation_scale * (x - filled)};
}

void BhCurve::index_knots() {
    for (std::size_t i = 0; i + 1 < m_knots.size(); ++i) {
        Knot& k = m_knots[i];
        const double d = m_knots[i + 1].b - k.b, secant = (m_knots[i + 1].h - k.h) / d,
                     end = m_knots[i + 1].slope;
        k.cubic = {k.h, k.slope, (3 * secant - 2 * k.slope - end) / d, (k.slope + end - 2 * secant) / (d * d)};
    }
    constexpr int bins = 256;
    m_bins_per_tesla = bins / m_knots.back().b;
    int knot = 0;
    for (int i = 0; i <= bins; ++i) {
        while (std::size_t(knot) + 2 < m_knots.size() &&
               m_knots[std::size_t(knot) + 1].b <= i / m_bins_per_tesla)
            ++knot;
        m_bins.push_back(knot);
    }
}

double BhCurve::flux_density(double h) const {
    if (is_linear()) return h * m_linear_mu_r / nu0;
    const auto upper = std::upper_bound(m_knots.begin() + 1, m_knots.end(), h,
                                        [](double value, const Knot& knot) { return value < knot.h; });
    double low = (upper - 1)->b,
           high = upper == m_knots.end() ? low + (h - (upper - 1)->h) / (upper - 1)->slope : upper->b;
    double b =
        upper == m_knots.end() ? low : low + (high - low) * (h - (upper - 1)->h) / (upper->h - (upper - 1)->h);
    for (int i = 0; i < 60; ++i) { // Newton's method, kept within the bracket by bisection
        const Value value = at(b);
        (value.h > h ? high : low) = b;
        double next = b - (value.h - h) / value.dh_db;
        if (!(next >= low && next <= high)) next = (low + high) / 2;
        if (std::abs(next - b) <= 1e-13 * (1 + b)) return next;
        b = next;
    }
    return b;
}

BhCurve BhCurve::stacked(double factor) const {
    assert(factor > 0 && factor <= 1);
    if (is_linear()) return linear(factor * m_linear_mu_r + (1 - factor));
    std::vector<BhPoint> points = m_points;
    for (BhPoint& point : points) point.b = factor * point.b + (1 - factor) * mu0 * point.h;
    return through(points).value(); // rises where the steel's own curve rises
}

} // namespace mavlo
