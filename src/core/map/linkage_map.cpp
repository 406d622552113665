#include "map/linkage_map.h"

#include "quantity/dense.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Values and slopes of the two cubic Hermite functions of a cell's lower end at t in [0, 1]; those of the
/// upper end are their mirror images.
struct Hermite {
    double value, slope;   ///< weights of the function and of its slope at the lower end
    double dvalue, dslope; ///< their derivatives over t
    double d2value, d2slope;
};
Hermite lower(double t) {
    return {(1 + 2 * t) * (1 - t) * (1 - t),
            t * (1 - t) * (1 - t),
            6 * t * (t - 1),
            (1 - t) * (1 - 3 * t),
            12 * t - 6,
            6 * t - 4};
}

/// Both ends, with the slopes' weights in the cell's own measure.
struct Pair {
    double value[2], slope[2], dvalue[2], dslope[2], d2value[2], d2slope[2];
};
Pair both(double t, double width) {
    const Hermite a = lower(t), b = lower(1 - t);
    return {{a.value, b.value},
            {a.slope * width, -b.slope * width},
            {a.dvalue / width, -b.dvalue / width},
            {a.dslope, b.dslope},
            {a.d2value / (width * width), b.d2value / (width * width)},
            {a.d2slope / width, -b.d2slope / width}};
}

Eigen::Index cell(const std::vector<double>& x, double at) {
    const auto above = std::upper_bound(x.begin() + 1, x.end() - 1, at);
    return above - x.begin() - 1;
}

} // namespace

std::vector<double> spline_slopes(const std::vector<double>& x, const std::vector<double>& y, SplineEnds ends) {
    const auto n = Eigen::Index(x.size());
    const auto h = [&](Eigen::Index k) { return x[std::size_t(k + 1)] - x[std::size_t(k)]; };
    const auto secant = [&](Eigen::Index k) { return (y[std::size_t(k + 1)] - y[std::size_t(k)]) / h(k); };
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n, n);
    Eigen::VectorXd b = Eigen::VectorXd::Zero(n);
    const auto smooth_at = [&](Eigen::Index row, Eigen::Index before, Eigen::Index at, Eigen::Index after,
                               Eigen::Index left, Eigen::Index right) {
        a(row, before) += 1 / h(left);
        a(row, at) += 2 / h(left) + 2 / h(right);
        a(row, after) += 1 / h(right);
        b[row] = 3 * (secant(left) / h(left) + secant(right) / h(right));
    };
    for (Eigen::Index k = 1; k + 1 < n; ++k) smooth_at(k, k - 1, k, k + 1, k - 1, k);
    if (ends == SplineEnds::Level) {
        a(0, 0) = a(n - 1, n - 1) = 1;
    } else {
        smooth_at(0, n - 2, 0, 1, n - 2, 0);
        a(n - 1, n - 1) = 1;
        a(n - 1, 0) = -1;
    }
    const Eigen::VectorXd slopes = solved(a, b);
    return {slopes.begin(), slopes.end()};
}

LinkageMap::LinkageMap(LinkageGrid grid)
    : m_grid(std::move(grid))
    , m_angle(m_grid.angle)
    , m_current(m_grid.current) {
    const auto currents = Eigen::Index(m_current.size());
    m_current.insert(m_current.begin(), 0.0);
    if (!m_grid.even) m_angle.push_back(m_angle.front() + m_grid.period);
    const auto angles = Eigen::Index(m_angle.size()), given = Eigen::Index(m_grid.angle.size());
    const auto table = [&](const Eigen::MatrixXd& from) {
        Eigen::MatrixXd to = Eigen::MatrixXd::Zero(angles, currents + 1);
        for (Eigen::Index j = 0; j < angles; ++j)
            for (Eigen::Index k = 0; k < currents; ++k) to(j, k + 1) = from(k, j % given);
        return to;
    };
    m_coenergy = table(m_grid.coenergy);
    m_linkage = table(m_grid.linkage);
    m_torque = table(m_grid.torque);
    m_mixed = Eigen::MatrixXd::Zero(angles, currents + 1);
    for (Eigen::Index k = 1; k <= currents; ++k) {
        const Eigen::VectorXd column = m_linkage.col(k);
        const auto slopes = spline_slopes(m_angle, {column.begin(), column.end()},
                                          m_grid.even ? SplineEnds::Level : SplineEnds::Periodic);
        for (Eigen::Index j = 0; j < angles; ++j) m_mixed(j, k) = slopes[std::size_t(j)];
    }
}

LinkageMap::Point LinkageMap::at(double angle, double current) const {
    // Into the period that begins where the grid does; an even map shows its other half mirrored.
    double place = angle - m_angle.front();
    place -= m_grid.period * std::floor(place / m_grid.period);
    const bool mirrored = m_grid.even && place > m_grid.period / 2;
    if (mirrored) place = m_grid.period - place;
    const double theta = m_angle.front() + place, amperes = std::abs(current),
                 inside = std::min(amperes, m_current.back());
    const Eigen::Index j = cell(m_angle, theta), k = cell(m_current, inside);
    const double width = m_angle[std::size_t(j + 1)] - m_angle[std::size_t(j)],
                 step = m_current[std::size_t(k + 1)] - m_current[std::size_t(k)];
    const Pair u = both((theta - m_angle[std::size_t(j)]) / width, width),
               v = both((inside - m_current[std::size_t(k)]) / step, step);
    Point p;
    for (int a = 0; a < 2; ++a)
        for (int b = 0; b < 2; ++b) {
            const double w = m_coenergy(j + a, k + b), t = m_torque(j + a, k + b), l = m_linkage(j + a, k + b),
                         m = m_mixed(j + a, k + b);
            const auto sum = [&](const double(&uv)[2], const double(&us)[2], const double(&vv)[2],
                                 const double(&vs)[2]) {
                return uv[a] * (vv[b] * w + vs[b] * l) + us[a] * (vv[b] * t + vs[b] * m);
            };
            p.coenergy += sum(u.value, u.slope, v.value, v.slope);
            p.torque += sum(u.dvalue, u.dslope, v.value, v.slope);
            p.linkage += sum(u.value, u.slope, v.dvalue, v.dslope);
            p.slope += sum(u.dvalue, u.dslope, v.dvalue, v.dslope);
            p.inductance += sum(u.value, u.slope, v.d2value, v.d2slope);
        }
    if (const double over = amperes - inside; over > 0) {
        // On with the last cell's secant over the current, which rises; and how that turns with the angle.
        double before = 0, before_slope = 0;
        for (int a = 0; a < 2; ++a) {
            before += u.value[a] * m_linkage(j + a, k) + u.slope[a] * m_mixed(j + a, k);
            before_slope += u.dvalue[a] * m_linkage(j + a, k) + u.dslope[a] * m_mixed(j + a, k);
        }
        const double rise = (p.linkage - before) / step, turn = (p.slope - before_slope) / step;
        p.coenergy += over * (p.linkage + over * rise / 2);
        p.torque += over * (p.slope + over * turn / 2);
        p.linkage += over * rise;
        p.slope += over * turn;
        p.inductance = rise;
    }
    if (mirrored) p.torque = -p.torque, p.slope = -p.slope;
    if (current < 0) p.linkage = -p.linkage, p.slope = -p.slope;
    return p;
}

double LinkageMap::current_of(double angle, double linkage) const {
    const double wanted = std::abs(linkage);
    double low = 0, high = m_current.back();
    while (at(angle, high).linkage < wanted && high < 1e3 * m_current.back()) low = high, high *= 2;
    double current = std::clamp(wanted / std::max(1e-12, at(angle, high).linkage) * high, low, high);
    for (int n = 0; n < 60; ++n) {
        const Point p = at(angle, current);
        const double off = p.linkage - wanted;
        (off > 0 ? high : low) = current;
        if (std::abs(off) < 1e-13 * wanted || high - low < 1e-14 * high) break;
        const double next = current - off / p.inductance;
        current = p.inductance > 0 && next > low && next < high ? next : (low + high) / 2;
    }
    return linkage < 0 ? -current : current;
}

} // namespace mavlo
