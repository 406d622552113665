#include "field/gap_circle.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

/// Integrals over -1..1 of the quadratic shape functions (first end, middle, second end) times e^{-i kappa t}.
std::array<Complex, 3> shape_integrals(double kappa) {
    double even0, even2, odd1; // int cos, int t^2 cos, int t sin
    if (std::abs(kappa) < 0.05) {
        const double k2 = kappa * kappa;
        even0 = 2 - k2 / 3 + k2 * k2 / 60;
        even2 = 2.0 / 3 - k2 / 5 + k2 * k2 / 84;
        odd1 = kappa * (2.0 / 3 - k2 / 15 + k2 * k2 / 420);
    } else {
        const double s = std::sin(kappa), c = std::cos(kappa);
        even0 = 2 * s / kappa;
        odd1 = 2 * (s - kappa * c) / (kappa * kappa);
        even2 = 2 * ((kappa * kappa - 2) * s + 2 * kappa * c) / (kappa * kappa * kappa);
    }
    const Complex first = Complex(even2, odd1) / 2.0, second = Complex(even2, -odd1) / 2.0;
    return {first, even0 - even2, second};
}

/// Integral over -1..1 of (t^3 - t)/4 sin(kappa t).
double cubic_integral(double kappa) {
    const double k2 = kappa * kappa;
    if (std::abs(kappa) < 0.3) // its power series
        return kappa / 4 *
               (2.0 / 5 - 2.0 / 3 - k2 / 6 * (2.0 / 7 - 2.0 / 5) + k2 * k2 / 120 * (2.0 / 9 - 2.0 / 7) -
                k2 * k2 * k2 / 5040 * (2.0 / 11 - 2.0 / 9));
    const double s = std::sin(kappa), c = std::cos(kappa);
    return (s + 3 * c / kappa - 3 * s / k2) / k2;
}

} // namespace

GapCircle::GapCircle(std::vector<BodyMesh::CircleEdge> edges, const std::vector<int>& unknown, int pitches,
                     const Sector& sector)
    : m_pitches(pitches)
    , m_pitch(sector.angle() / pitches) {
    std::sort(edges.begin(), edges.end(), [](const auto& a, const auto& b) { return a.from < b.from; });
    for (const auto& edge : edges) {
        // Each edge brings its first end and its middle; its second end begins the next edge.
        m_unknowns.push_back(unknown[std::size_t(edge.node[0])]);
        m_unknowns.push_back(unknown[std::size_t(edge.node[1])]);
    }
    const std::size_t per_pitch = edges.size() / std::size_t(pitches);
    for (std::size_t i = 0; i < per_pitch; ++i) {
        m_pieces.push_back({int(2 * i), edges[i].from, edges[i].to});
        m_shortest = std::min(m_shortest, edges[i].to - edges[i].from);
    }
}

Eigen::MatrixXcd GapCircle::integrals(std::span<const int> orders) const {
    const int nodes = int(2 * m_pieces.size());
    Eigen::MatrixXcd result = Eigen::MatrixXcd::Zero(nodes, Eigen::Index(orders.size()));
    for (std::size_t k = 0; k < orders.size(); ++k) {
        const auto column = Eigen::Index(k);
        for (const auto& piece : m_pieces) {
            const double half = (piece.to - piece.from) / 2, centre = (piece.to + piece.from) / 2;
            const auto values = shape_integrals(orders[k] * half);
            const Complex turn = std::polar(half, -orders[k] * centre);
            result(piece.first, column) += turn * values[0];
            result(piece.first + 1, column) += turn * values[1];
            if (piece.first + 2 < nodes)
                result(piece.first + 2, column) += turn * values[2];
            else // the first node of the next pitch, seen from its own
                result(0, column) += turn * values[2] * std::polar(1.0, orders[k] * m_pitch);
        }
    }
    return result;
}

Eigen::MatrixXcd GapCircle::cubic_integrals(std::span<const int> orders) const {
    Eigen::MatrixXcd result{Eigen::Index(m_pieces.size()), Eigen::Index(orders.size())};
    for (std::size_t i = 0; i < m_pieces.size(); ++i) {
        const double half = (m_pieces[i].to - m_pieces[i].from) / 2,
                     centre = (m_pieces[i].to + m_pieces[i].from) / 2;
        for (std::size_t k = 0; k < orders.size(); ++k)
            result(Eigen::Index(i), Eigen::Index(k)) =
                std::polar(half, -orders[k] * centre) * Complex(0, -cubic_integral(orders[k] * half));
    }
    return result;
}

Eigen::VectorXcd GapCircle::sums(const Eigen::MatrixXcd& integrals, std::span<const int> orders,
                                 const Eigen::VectorXd& values) const {
    const Eigen::Map<const Eigen::MatrixXd> by_pitch(values.data(), integrals.rows(), m_pitches);
    const Eigen::MatrixXcd each = integrals.transpose() * by_pitch;
    const Eigen::VectorXcd turn = turn_factors(orders, m_pitch).transpose();
    Eigen::VectorXcd sum = each.col(m_pitches - 1); // Horner's rule in the turn by one pitch
    for (Eigen::Index p = m_pitches - 1; p-- > 0;) sum = sum.cwiseProduct(turn) + each.col(p);
    return sum;
}

Eigen::RowVectorXcd turn_factors(std::span<const int> orders, double angle) {
    assert(std::isfinite(angle));
    Eigen::RowVectorXcd factors{Eigen::Index(orders.size())};
    if (orders.empty()) return factors;
    const Complex step = orders.size() > 1 ? std::polar(1.0, -(orders[1] - orders[0]) * angle) : 1.0;
    Complex factor = std::polar(1.0, -orders[0] * angle);
    for (Complex& f : factors) {
        f = factor;
        factor *= step;
    }
    return factors;
}

} // namespace mavlo
