#include "field/exterior.h"

#include "field/order_sums.h"
#include "field/transform.h"
#include "material/bh_curve.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

/// Orders beyond this are gone a twentieth of the radius outside.
constexpr int highest_told = 40;
constexpr int ring_points = 720;

} // namespace

Exterior::Exterior(const BodyMesh& mesh, int pitches, const Sector& sector)
    : m_sector(sector)
    , m_circle(mesh.outside, mesh.unknown, pitches, sector)
    , m_orders(orders_up_to(sector, highest_order(m_circle)))
    , m_weights(Eigen::Index(m_orders.size()))
    , m_integrals(m_circle.integrals(m_orders)) {
    // As the gap's: (t nu0/pi) n, and of order 0 (t nu0/2 pi l) with l = 1.
    for (std::size_t k = 0; k < m_orders.size(); ++k)
        m_weights[Eigen::Index(k)] = sector.count * nu0 / pi * (m_orders[k] > 0 ? m_orders[k] : 0.5);
    m_block = circle_block(m_circle, sector, m_integrals, m_weights);
}

double Exterior::largest_flux_density(const Eigen::VectorXd& values, double radius) const {
    const Eigen::VectorXcd trace = m_sector.count / (2 * pi) * m_circle.sums(m_integrals, m_orders, values);
    // B_r = i n A_n/r and B_theta = n A_n/r: outside a circle each order has both alike.
    std::vector<std::complex<double>> radial(ring_points / 2 + 1, 0.0), tangential = radial;
    for (std::size_t k = 0; k < m_orders.size() && m_orders[k] <= highest_told; ++k) {
        const std::complex<double> b = double(m_orders[k]) / radius * trace[Eigen::Index(k)];
        radial[std::size_t(m_orders[k])] = std::complex<double>(0, 1) * b;
        tangential[std::size_t(m_orders[k])] = b;
    }
    const auto r = inverse_transform(std::move(radial), ring_points),
               t = inverse_transform(std::move(tangential), ring_points);
    double largest = 0;
    for (std::size_t i = 0; i < r.size(); ++i) largest = std::max(largest, std::hypot(r[i], t[i]));
    return largest;
}

} // namespace mavlo
