#include "field/gap.h"

#include "field/order_sums.h"
#include "field/transform.h"
#include "material/bh_curve.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numeric>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

constexpr double crossing_limit = 18; ///< orders with n l beyond this do not reach across: 2 e^-18 = 3e-8

} // namespace

GapElement::GapElement(const Body& outer, const Body& inner, const Sector& sector, const Chart& chart,
                       double share)
    : m_sector(sector)
    , m_chart(chart)
    , m_share(share)
    , m_outer_radius(outer.radius)
    , m_inner_radius(inner.radius)
    , m_log_ratio(chart.ratio(outer.radius, inner.radius))
    , m_outer(outer.mesh, outer.repeat, sector)
    , m_inner(inner.mesh, inner.repeat, sector)
    , m_lattice(std::make_unique<OrderSums>(std::lcm(outer.repeat, inner.repeat), sector)) {
    // In a gap far thinner than the elements on its circles the mesh is what limits the orders.
    const double resolved = std::max(highest_order(m_outer.circle), highest_order(m_inner.circle));
    m_orders = orders_up_to(m_sector, std::min(crossing_limit / m_log_ratio, resolved));
    m_crossing = -weights(m_orders, std::sinh);
    fill(m_outer);
    fill(m_inner);
}

GapElement::~GapElement() = default;

std::vector<int> GapElement::orders_on(const GapCircle& circle) const {
    return orders_up_to(m_sector, std::max(double(m_orders.back()), highest_order(circle)));
}

/// (t nu0/pi) n f(nl) with f = coth or 1/sinh; (t nu0/2 pi l) for order 0.
Eigen::RowVectorXd GapElement::weights(const std::vector<int>& orders, double (*f)(double)) const {
    Eigen::RowVectorXd weights{Eigen::Index(orders.size())};
    for (std::size_t k = 0; k < orders.size(); ++k) {
        const double n = orders[k];
        weights[Eigen::Index(k)] =
            m_share * m_sector.count * nu0 / pi * (n > 0 ? n / f(n * m_log_ratio) : 0.5 / m_log_ratio);
    }
    return weights;
}

void GapElement::fill(Side& side) const {
    const auto orders = orders_on(side.circle);
    const Eigen::MatrixXcd integrals = side.circle.integrals(orders);
    side.block = circle_block(side.circle, m_sector, integrals, weights(orders, std::tanh));
    side.trace = integrals.leftCols(Eigen::Index(m_orders.size()));
}

Eigen::MatrixXd GapElement::coupling(double alpha, bool two_cores) const {
    return joined(m_crossing.cast<Complex>().cwiseProduct(turn_factors(m_orders, alpha)), two_cores);
}

Eigen::MatrixXd GapElement::coupling_slope(double alpha) const {
    Eigen::RowVectorXcd weights = m_crossing.cast<Complex>().cwiseProduct(turn_factors(m_orders, alpha));
    for (std::size_t k = 0; k < m_orders.size(); ++k) weights[Eigen::Index(k)] *= Complex(0, -m_orders[k]);
    return joined(weights);
}

/// Between every outer and inner node, with these weights of the orders.
Eigen::MatrixXd GapElement::joined(const Eigen::RowVectorXcd& weights, bool two_cores) const {
    const Eigen::MatrixXd sums =
        m_lattice->sums(m_outer.trace, m_inner.trace * weights.asDiagonal(), two_cores);
    const Eigen::Index rows = m_outer.trace.rows(), columns = m_inner.trace.rows();
    const int slots = m_outer.circle.pitches(), poles = m_inner.circle.pitches();
    const int points = int(m_lattice->points()), common = std::gcd(slots, poles);
    Eigen::MatrixXd result(slots * rows, poles * columns);
    for (int r = 0; r < poles; ++r)
        for (int s = 0; s < slots; ++s) {
            const int ahead = (r * slots - s * poles) / common; // of the inner's pitch, in lattice points
            const double sign = ahead < 0 ? m_sector.sign : 1;
            result.block(s * rows, r * columns, rows, columns) =
                sign *
                Eigen::Map<const Eigen::MatrixXd>(sums.col((ahead + points) % points).data(), rows, columns);
        }
    return result;
}

/// Fourier coefficients int A e^{-in theta} / 2 pi of the potentials on one circle.
Eigen::VectorXcd GapElement::coefficients(const Side& side, const Eigen::VectorXd& values) const {
    return m_sector.count / (2 * pi) * side.circle.sums(side.trace, m_orders, values);
}

GapElement::Traces GapElement::traces(const Eigen::VectorXd& outer, const Eigen::VectorXd& inner,
                                      Turns turns) const {
    const auto turned = [this](Eigen::VectorXcd values, double turn) -> Eigen::VectorXcd {
        if (turn == 0) return values;
        return values.cwiseProduct(turn_factors(m_orders, turn).transpose());
    };
    const Eigen::VectorXcd s = turned(coefficients(m_outer, outer), turns.outer),
                           r = turned(coefficients(m_inner, inner), turns.inner);
    return {{s.begin(), s.end()}, {r.begin(), r.end()}};
}

double GapElement::middle_radius() const {
    return m_chart.is_flat() ? (m_inner_radius + m_outer_radius) / 2
                             : std::sqrt(m_inner_radius * m_outer_radius);
}

double GapElement::torque(const Traces& t) const {
    const auto each = torque_by_order(t);
    return std::accumulate(each.begin(), each.end(), 0.0);
}

std::vector<double> GapElement::torque_by_order(const Traces& t) const {
    std::vector<double> torque(m_orders.size(), 0.0);
    for (std::size_t k = 0; k < m_orders.size(); ++k) {
        const double n = m_orders[k];
        if (n > 0)
            torque[k] = m_share * 4 * pi * nu0 * n * n / std::sinh(n * m_log_ratio) *
                        (std::conj(t.outer[k]) * t.inner[k]).imag();
    }
    return torque;
}

namespace {

/// sinh(x)/sinh(l) and cosh(x)/sinh(l) for 0 <= x <= l, also where both are beyond all numbers.
double sinh_share(double x, double l) {
    return (std::exp(x - l) - std::exp(-x - l)) / (1 - std::exp(-2 * l));
}
double cosh_share(double x, double l) {
    return (std::exp(x - l) + std::exp(-x - l)) / (1 - std::exp(-2 * l));
}

} // namespace

GapElement::Ring GapElement::ring(const Traces& t, double radius, int count) const {
    assert(radius > 0 && count > 0);
    const double up = m_chart.ratio(radius, m_inner_radius), down = m_chart.ratio(m_outer_radius, radius),
                 arm = m_chart.arm(radius);
    std::vector<Complex> a(std::size_t(count / 2 + 1), 0.0), slope = a, radial = a;
    for (std::size_t k = 0; k < m_orders.size(); ++k) {
        const auto n = std::size_t(m_orders[k]);
        if (2 * n >= std::size_t(count)) break;
        const double order = m_orders[k], l = order * m_log_ratio;
        a[n] = n ? t.outer[k] * sinh_share(order * up, l) + t.inner[k] * sinh_share(order * down, l)
                 : (t.outer[k] * up + t.inner[k] * down) / m_log_ratio;
        slope[n] = n ? -order / arm *
                           (t.outer[k] * cosh_share(order * up, l) - t.inner[k] * cosh_share(order * down, l))
                     : -(t.outer[k] - t.inner[k]) / (m_log_ratio * arm);
        radial[n] = Complex(0, order / arm) * a[n];
    }
    return {inverse_transform(std::move(radial), count), inverse_transform(std::move(slope), count),
            inverse_transform(std::move(a), count)};
}

} // namespace mavlo
