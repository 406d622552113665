#include "field/gap.h"

#include "field/transform.h"
#include "material/bh_curve.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace mavlo {
namespace {

using std::numbers::pi;
using Complex = std::complex<double>;

constexpr double crossing_limit = 18; ///< orders with n l beyond this do not reach across: 2 e^-18 = 3e-8
constexpr double trace_limit = 6;     ///< orders kept per reciprocal half width of the shortest edge

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

} // namespace

/// The gap nodes of one pitch of the ring: enough, since all pitches are alike.
struct GapElement::Nodes {
    struct Piece {
        std::array<int, 3> at; ///< positions in `unknowns`; -1 never occurs: the circles carry no A = 0
        std::array<double, 3> sign;
        double from, to;
    };
    std::vector<int> unknowns;
    std::vector<Piece> pieces;
    int per_pitch = 0;
    double shortest = 1;
};

GapElement::Nodes GapElement::make_nodes(const SectorMesh& mesh, int repeat) {
    Nodes ring;
    std::vector<SectorMesh::GapEdge> edges = mesh.gap;
    std::sort(edges.begin(), edges.end(), [](const auto& a, const auto& b) { return a.from < b.from; });
    std::map<int, int> position;
    auto place = [&](int node) {
        const int unknown = mesh.unknown[std::size_t(node)];
        const auto [found, added] = position.emplace(unknown, int(ring.unknowns.size()));
        if (added) ring.unknowns.push_back(unknown);
        return found->second;
    };
    for (const auto& edge : edges) {
        Nodes::Piece piece{{}, {}, edge.from, edge.to};
        for (std::size_t k = 0; k < 3; ++k) {
            piece.at[k] = place(edge.node[k]);
            piece.sign[k] = mesh.sign[std::size_t(edge.node[k])];
        }
        ring.pieces.push_back(piece);
        ring.shortest = std::min(ring.shortest, edge.to - edge.from);
    }
    ring.per_pitch = int(ring.unknowns.size()) / repeat;
    return ring;
}

GapElement::GapElement(const SectorMesh& stator, double stator_radius, int stator_repeat,
                       const SectorMesh& rotor, double rotor_radius, int rotor_repeat, const Sector& sector)
    : m_sector(sector)
    , m_stator_radius(stator_radius)
    , m_rotor_radius(rotor_radius)
    , m_log_ratio(std::log(stator_radius / rotor_radius)) {
    const Nodes stator_ring = make_nodes(stator, stator_repeat), rotor_ring = make_nodes(rotor, rotor_repeat);
    // In a gap far thinner than the elements on its circles the mesh is what limits the orders.
    const double resolved = 2 * trace_limit / std::min(stator_ring.shortest, rotor_ring.shortest);
    const int highest = int(std::ceil(std::min(crossing_limit / m_log_ratio, resolved)));
    for (int n = sector.first_order(); n <= highest; n += sector.order_step()) m_orders.push_back(n);
    fill(m_stator, stator_ring);
    fill(m_rotor, rotor_ring);
}

void GapElement::fill(Circle& circle, const Nodes& ring) const {
    circle.unknowns = ring.unknowns;
    const Eigen::Index count = Eigen::Index(ring.unknowns.size()), pitch = ring.per_pitch;
    const int highest = std::max(m_orders.back(), int(trace_limit * 2 / ring.shortest));
    std::vector<int> orders;
    for (int n = m_sector.first_order(); n <= highest; n += m_sector.order_step()) orders.push_back(n);
    Eigen::MatrixXcd trace = Eigen::MatrixXcd::Zero(count, Eigen::Index(orders.size()));
    for (const auto& piece : ring.pieces) {
        const double half = (piece.to - piece.from) / 2, centre = (piece.to + piece.from) / 2;
        for (std::size_t k = 0; k < orders.size(); ++k) {
            const auto integrals = shape_integrals(orders[k] * half);
            const Complex turn = std::polar(half, -orders[k] * centre);
            for (std::size_t a = 0; a < 3; ++a)
                trace(piece.at[a], Eigen::Index(k)) += piece.sign[a] * turn * integrals[a];
        }
    }
    // K_jk = (t nu0/pi) sum n coth(nl) Re(phi_j phi_k*), order 0: (t nu0/2 pi l) phi_j phi_k.
    Eigen::VectorXd weight{Eigen::Index(orders.size())};
    for (std::size_t k = 0; k < orders.size(); ++k) {
        const double n = orders[k];
        weight[Eigen::Index(k)] =
            m_sector.count * nu0 / pi * (n > 0 ? n / std::tanh(n * m_log_ratio) : 0.5 / m_log_ratio);
    }
    // All pitches are alike: compute the rows of the first and shift them.
    const Eigen::MatrixXcd first = trace.topRows(pitch) * weight.asDiagonal();
    const Eigen::MatrixXd rows =
        first.real() * trace.real().transpose() + first.imag() * trace.imag().transpose();
    circle.block.resize(count, count);
    for (Eigen::Index i = 0; i < count; ++i)
        for (Eigen::Index j = 0; j < count; ++j) {
            const Eigen::Index shift = i / pitch * pitch, from = j - shift;
            circle.block(i, j) =
                from >= 0 ? rows(i - shift, from) : m_sector.sign * rows(i - shift, from + count);
        }
    circle.block = (0.5 * (circle.block + circle.block.transpose())).eval();
    circle.trace = trace.leftCols(Eigen::Index(m_orders.size()));
}

Eigen::MatrixXd GapElement::coupling(double alpha) const {
    const Eigen::Index count = Eigen::Index(m_orders.size());
    Eigen::VectorXcd factor(count);
    for (Eigen::Index k = 0; k < count; ++k) {
        const double n = m_orders[std::size_t(k)];
        const double weight =
            m_sector.count * nu0 / pi * (n > 0 ? n / std::sinh(n * m_log_ratio) : 0.5 / m_log_ratio);
        factor[k] = -weight * std::polar(1.0, -n * alpha);
    }
    const Eigen::MatrixXcd turned = m_rotor.trace * factor.asDiagonal();
    Eigen::MatrixXd result = m_stator.trace.real() * turned.real().transpose();
    result += m_stator.trace.imag() * turned.imag().transpose();
    return result;
}

GapElement::Traces GapElement::traces(const Eigen::VectorXd& stator, const Eigen::VectorXd& rotor,
                                      double alpha) const {
    Traces out;
    const double share = m_sector.count / (2 * pi);
    const Eigen::VectorXcd s = share * (m_stator.trace.transpose() * stator),
                           r = share * (m_rotor.trace.transpose() * rotor);
    for (std::size_t k = 0; k < m_orders.size(); ++k) {
        out.stator.push_back(s[Eigen::Index(k)]);
        out.rotor.push_back(r[Eigen::Index(k)] * std::polar(1.0, -m_orders[k] * alpha));
    }
    return out;
}

double GapElement::torque(const Traces& t) const {
    double sum = 0;
    for (std::size_t k = 0; k < m_orders.size(); ++k) {
        const double n = m_orders[k];
        if (n > 0) sum += n * n / std::sinh(n * m_log_ratio) * (std::conj(t.stator[k]) * t.rotor[k]).imag();
    }
    return 4 * pi * nu0 * sum;
}

GapElement::Ring GapElement::ring(const Traces& t, double radius, int count) const {
    const double up = std::log(radius / m_rotor_radius), down = std::log(m_stator_radius / radius);
    std::vector<Complex> a(std::size_t(count / 2 + 1), 0.0), slope = a, radial = a;
    for (std::size_t k = 0; k < m_orders.size(); ++k) {
        const auto n = std::size_t(m_orders[k]);
        if (2 * n >= std::size_t(count)) break;
        const double order = m_orders[k], s = n ? std::sinh(order * m_log_ratio) : 1;
        a[n] = n ? (t.stator[k] * std::sinh(order * up) + t.rotor[k] * std::sinh(order * down)) / s
                 : (t.stator[k] * up + t.rotor[k] * down) / m_log_ratio;
        slope[n] = n ? -order / radius *
                           (t.stator[k] * std::cosh(order * up) - t.rotor[k] * std::cosh(order * down)) / s
                     : -(t.stator[k] - t.rotor[k]) / (m_log_ratio * radius);
        radial[n] = Complex(0, order / radius) * a[n];
    }
    return {inverse_transform(std::move(radial), count), inverse_transform(std::move(slope), count),
            inverse_transform(std::move(a), count)};
}

} // namespace mavlo
