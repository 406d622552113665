#include "map/flux_map.h"

#include "map/mirrored.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace mavlo {
namespace {
/// Places in row() of what changes its sign with i_q, besides i_q itself.
constexpr std::size_t place_psi_d = 2, place_psi_q = 3, place_torque = 4;
constexpr std::size_t first_loss = 6, end_of_losses = 21, place_strands = 24, place_extrapolated = 25,
                      first_skin = 26;
} // namespace

std::vector<double> FluxPoint::row() const {
    std::vector<double> out{current.d, current.q, flux_linkage.d, flux_linkage.q, torque, ripple};
    for (const IronLoss& iron : {iron_stator, iron_rotor}) {
        out.insert(out.end(), {iron.hysteresis, iron.classical, iron.excess});
        for (const IronLoss::Power& power : iron.power) out.insert(out.end(), {power.loss, power.alpha});
    }
    out.insert(out.end(),
               {magnets, magnet_field, third, ninth, strands, extrapolated, iron_stator.skin, iron_rotor.skin});
    return out;
}

FluxPoint FluxPoint::from_row(const std::vector<double>& r) {
    assert(r.size() >= columns);
    const auto iron = [&r](std::size_t k, double skin) {
        return IronLoss{r[k], r[k + 1], r[k + 2], {{{r[k + 3], r[k + 4]}, {r[k + 5], r[k + 6]}}}, skin};
    };
    return {{r[0], r[1]}, {r[2], r[3]}, r[4],  r[5],  iron(6, r[26]), iron(13, r[27]),
            r[20],        r[21],        r[22], r[23], r[24],          r[25]};
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

FluxMap FluxMap::with_series_inductance(double inductance) const {
    if (inductance == 0) return *this;
    std::vector<FluxPoint> points = m_points;
    for (FluxPoint& p : points) {
        p.flux_linkage.d += inductance * p.current.d;
        p.flux_linkage.q += inductance * p.current.q;
    }
    FluxMap out(m_id, m_iq, std::move(points));
    out.leave_open(m_unknown);
    out.m_knows_strands = m_knows_strands;
    return out;
}

FluxPoint FluxMap::at(Dq i) const {
    const Eigen::VectorXd values = m_functions.at(i.d, i.q).col(0);
    std::vector<double> row(values.begin(), values.end());
    row[0] = i.d;
    row[1] = i.q;
    // Beyond the map lines go on as they leave it; no loss falls below zero.
    for (std::size_t k = first_loss; k < end_of_losses; ++k) row[k] = std::max(row[k], 0.0);
    row[place_strands] = std::max(row[place_strands], 0.0);
    for (std::size_t k = first_skin; k < row.size(); ++k) row[k] = std::max(row[k], 0.0);
    row[place_extrapolated] = std::clamp(row[place_extrapolated], 0.0, 1.0);
    return FluxPoint::from_row(row);
}

} // namespace mavlo
