#include "map/flux_map.h"

#include "map/mirrored.h"

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
    const std::vector<MirroredRow> rows = with_mirror_image(m_iq);
    const std::size_t nx = m_id.size();
    Eigen::MatrixXd values(Eigen::Index(rows.size() * nx), Eigen::Index(FluxPoint::columns));
    for (std::size_t j = 0; j < rows.size(); ++j)
        for (std::size_t i = 0; i < nx; ++i) {
            std::vector<double> numbers = m_points[rows[j].from * nx + i].row();
            if (rows[j].mirrored)
                for (std::size_t k : {place_psi_q, place_torque}) numbers[k] *= -1;
            values.row(Eigen::Index(j * nx + i)) =
                Eigen::Map<const Eigen::RowVectorXd>(numbers.data(), Eigen::Index(numbers.size()));
        }
    m_functions = GridFunctions(m_id, currents_of(rows), values);
}

double FluxMap::value(std::size_t place, Dq i) const {
    return m_functions.value(Eigen::Index(place), i.d, i.q);
}

Dq FluxMap::flux_linkage(Dq i) const {
    return {value(place_psi_d, i), value(place_psi_q, i)};
}

double FluxMap::torque(Dq i) const {
    return value(place_torque, i);
}

FluxPoint FluxMap::at(Dq i) const {
    const Eigen::VectorXd values = m_functions.at(i.d, i.q).col(0);
    std::vector<double> row(values.begin(), values.end());
    row[0] = i.d;
    row[1] = i.q;
    return FluxPoint::from_row(row);
}

} // namespace mavlo
