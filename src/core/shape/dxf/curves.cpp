#include "shape/dxf/curves.h"

#include "shape/budget.h"

#include <Eigen/Dense>
#include <Eigen/SparseLU>
#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr int least_arcs = 4, deepest = 12;

class Halving {
  public:
    Halving(std::vector<Piece>& to, const std::function<Point(double)>& at, double tolerance, int layer)
        : m_to(to)
        , m_at(at)
        , m_tolerance(tolerance)
        , m_layer(layer) {}

    void add(double from, Point a, double till, Point b, int depth) {
        spend(20);
        const double middle = (from + till) / 2;
        const Point m = m_at(middle);
        Piece piece{a, b, bulge_through(a, m, b), m_layer};
        if (std::abs(piece.bulge) < 1e-9) piece.bulge = 0;
        if (depth < deepest && off(piece, from, till) > m_tolerance) {
            add(from, a, middle, m, depth + 1);
            add(middle, m, till, b, depth + 1);
        } else if (distance(a, b) > 0) {
            spend(500);
            m_to.push_back(piece);
        }
    }

  private:
    double off(const Piece& piece, double from, double till) const {
        double most = 0;
        for (double share : {0.25, 0.75})
            most = std::max(most, distance_to(piece, m_at(from + share * (till - from))));
        return most;
    }

    std::vector<Piece>& m_to;
    const std::function<Point(double)>& m_at;
    double m_tolerance;
    int m_layer;
};

} // namespace

void add_curve(std::vector<Piece>& to, const std::function<Point(double)>& at, double from, double till,
               int layer) {
    Box box;
    std::vector<Point> ends;
    for (int i = 0; i <= least_arcs; ++i) {
        ends.push_back(at(from + (till - from) * i / least_arcs));
        box.add(ends.back());
    }
    const double size = std::max(box.right - box.left, box.top - box.bottom);
    if (!(size > 0)) return;
    Halving halving(to, at, 1e-6 * size, layer);
    for (std::size_t i = 0; i < std::size_t(least_arcs); ++i)
        halving.add(from + (till - from) * double(i) / least_arcs, ends[i],
                    from + (till - from) * double(i + 1) / least_arcs, ends[i + 1], 0);
}

bool Nurbs::is_sound() const {
    return degree >= 1 && degree <= 25 && control.size() > std::size_t(degree) &&
           knots.size() == control.size() + std::size_t(degree) + 1 &&
           std::is_sorted(knots.begin(), knots.end()) &&
           (weights.empty() || weights.size() == control.size()) &&
           std::all_of(weights.begin(), weights.end(), [](double w) { return w > 0; }) &&
           knots[std::size_t(degree)] < knots[control.size()];
}

Point Nurbs::at(double t) const {
    const auto p = std::size_t(degree), n = control.size();
    const auto first = knots.begin() + std::ptrdiff_t(p) + 1, last = knots.begin() + std::ptrdiff_t(n);
    const std::size_t span = p + std::size_t(std::upper_bound(first, last, t) - first);
    struct Homogeneous {
        double x, y, w;
    };
    std::vector<Homogeneous> d;
    for (std::size_t j = 0; j <= p; ++j) {
        const std::size_t i = span - p + j;
        const double w = weights.empty() ? 1 : weights[i];
        d.push_back({w * control[i].x, w * control[i].y, w});
    }
    for (std::size_t r = 1; r <= p; ++r)
        for (std::size_t j = p; j >= r; --j) {
            const double low = knots[span - p + j], high = knots[span + 1 + j - r];
            const double a = high > low ? (t - low) / (high - low) : 0;
            d[j] = {(1 - a) * d[j - 1].x + a * d[j].x, (1 - a) * d[j - 1].y + a * d[j].y,
                    (1 - a) * d[j - 1].w + a * d[j].w};
        }
    return {d[p].x / d[p].w, d[p].y / d[p].w};
}

void add_nurbs(std::vector<Piece>& to, const Nurbs& s, int layer) {
    // Between knots it is smooth; at them its curvature may jump.
    const auto at = [&](double t) { return s.at(t); };
    for (std::size_t i = std::size_t(s.degree); i < s.control.size(); ++i)
        if (s.knots[i + 1] > s.knots[i]) add_curve(to, at, s.knots[i], s.knots[i + 1], layer);
}

void add_fitted(std::vector<Piece>& to, const std::vector<Point>& given, bool closed, int layer) {
    std::vector<Point> points;
    for (const Point& p : given)
        if (points.empty() || distance(points.back(), p) > 0) points.push_back(p);
    if (closed && points.size() > 1 && distance(points.front(), points.back()) > 0)
        points.push_back(points.front());
    const auto n = Eigen::Index(points.size());
    if (n < 2) return;
    Eigen::VectorXd h(n - 1);
    for (Eigen::Index i = 0; i + 1 < n; ++i)
        h[i] = distance(points[std::size_t(i)], points[std::size_t(i + 1)]);
    // Second derivatives m from the continuity of the first.
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(n, 2);
    const auto slope = [&](Eigen::Index i) {
        return (1 / h[i]) * (points[std::size_t(i + 1)] - points[std::size_t(i)]);
    };
    const auto row = [&](Eigen::Index at, Eigen::Index before, Eigen::Index after, Eigen::Index left,
                         Eigen::Index next) {
        entries.emplace_back(at, left, h[before] / 6);
        entries.emplace_back(at, at, (h[before] + h[after]) / 3);
        entries.emplace_back(at, next, h[after] / 6);
        const Point d = slope(after) - slope(before);
        right.row(at) << d.x, d.y;
    };
    const bool round = closed && n > 3;
    for (Eigen::Index i = 1; i + 1 < n; ++i) row(i, i - 1, i, i - 1, i + 1);
    if (round)
        row(0, n - 2, 0, n - 2, 1);
    else
        entries.emplace_back(0, 0, 1);
    entries.emplace_back(n - 1, n - 1, 1);
    if (round) entries.emplace_back(n - 1, 0, -1); // the last is the first
    Eigen::SparseMatrix<double> matrix(n, n);
    matrix.setFromTriplets(entries.begin(), entries.end());
    Eigen::SparseLU<Eigen::SparseMatrix<double>> factors(matrix);
    if (factors.info() != Eigen::Success) return;
    const Eigen::MatrixXd m = factors.solve(right);
    for (Eigen::Index i = 0; i + 1 < n; ++i) {
        const Point p = points[std::size_t(i)], q = points[std::size_t(i + 1)], mp{m(i, 0), m(i, 1)},
                    mq{m(i + 1, 0), m(i + 1, 1)};
        const auto at = [&, i](double t) {
            const double u = 1 - t, square = h[i] * h[i] / 6;
            return u * p + t * q + square * ((u * u * u - u) * mp + (t * t * t - t) * mq);
        };
        add_curve(to, at, 0, 1, layer);
    }
}

} // namespace mavlo
