#include "map/flux_map.h"

#include <cassert>
#include <cmath>

namespace mavlo {
namespace {
/// Places in row() of what changes its sign with i_q, besides i_q itself.
constexpr std::size_t place_psi_d = 2, place_psi_q = 3, place_torque = 4;
} // namespace

std::vector<double> FluxPoint::row() const {
    return {current.d,
            current.q,
            flux_linkage.d,
            flux_linkage.q,
            torque,
            ripple,
            iron_stator.hysteresis,
            iron_stator.classical,
            iron_stator.excess,
            iron_stator.power,
            iron_stator.alpha,
            iron_rotor.hysteresis,
            iron_rotor.classical,
            iron_rotor.excess,
            iron_rotor.power,
            iron_rotor.alpha,
            magnets,
            magnet_field};
}

FluxPoint FluxPoint::from_row(const std::vector<double>& r) {
    assert(r.size() >= columns);
    return {{r[0], r[1]},
            {r[2], r[3]},
            r[4],
            r[5],
            {r[6], r[7], r[8], r[9], r[10]},
            {r[11], r[12], r[13], r[14], r[15]},
            r[16],
            r[17]};
}

FluxMap::FluxMap(std::vector<double> id, std::vector<double> iq, std::vector<FluxPoint> points)
    : m_id(std::move(id))
    , m_iq(std::move(iq))
    , m_points(std::move(points)) {
    // Over i_q of both signs, so that slopes at i_q = 0 know the mirror image.
    std::vector<double> both;
    for (std::size_t j = m_iq.size(); j-- > 1;) both.push_back(-m_iq[j]);
    both.insert(both.end(), m_iq.begin(), m_iq.end());
    const std::size_t nx = m_id.size(), positive = m_iq.size();
    for (std::size_t k = 2; k < FluxPoint::columns; ++k) {
        std::vector<double> values;
        for (std::size_t j = 0; j < both.size(); ++j) {
            const bool mirrored = j + 1 < positive;
            const std::size_t row = mirrored ? positive - 1 - j : j + 1 - positive;
            const double sign = mirrored && (k == place_psi_q || k == place_torque) ? -1 : 1;
            for (std::size_t i = 0; i < nx; ++i) values.push_back(sign * m_points[row * nx + i].row()[k]);
        }
        m_functions[k] = GridFunction(m_id, both, std::move(values));
    }
}

Dq FluxMap::flux_linkage(Dq i) const {
    return {m_functions[place_psi_d](i.d, i.q), m_functions[place_psi_q](i.d, i.q)};
}

double FluxMap::torque(Dq i) const {
    return m_functions[place_torque](i.d, i.q);
}

FluxPoint FluxMap::at(Dq i) const {
    std::vector<double> row{i.d, i.q};
    for (std::size_t k = 2; k < FluxPoint::columns; ++k) row.push_back(m_functions[k](i.d, i.q));
    return FluxPoint::from_row(row);
}

} // namespace mavlo
