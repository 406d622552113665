#include "question/map_answer.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

struct Column {
    const char *name, *unit;
};
/// Of FluxPoint::row(), after the two currents.
constexpr Column columns[] = {{"flux_linkage_d", "Wb"},
                              {"flux_linkage_q", "Wb"},
                              {"torque", "N.m"},
                              {"torque_peak_to_peak", "N.m"},
                              {"stator_hysteresis_per_hz", "J"},
                              {"stator_classical_per_hz2", "W.s2"},
                              {"stator_excess_per_hz1.5", "W.s1.5"},
                              {"rotor_hysteresis_per_hz", "J"},
                              {"rotor_classical_per_hz2", "W.s2"},
                              {"rotor_excess_per_hz1.5", "W.s1.5"},
                              {"magnet_loss_per_hz2", "W.s2"},
                              {"magnet_flux_density_least", "T"}};
static_assert(std::size(columns) + 2 == FluxPoint::columns);

} // namespace

void add_flux_maps(Answer& answer, const FluxMap& map) {
    const std::size_t nx = map.id().size();
    for (std::size_t k = 0; k < std::size(columns); ++k) {
        Map out{columns[k].name, columns[k].unit, "id", "A", "iq", "A", map.id(), map.iq(), {}};
        for (std::size_t j = 0; j < map.iq().size(); ++j) {
            out.z.emplace_back();
            for (std::size_t i = 0; i < nx; ++i) out.z.back().push_back(map.points()[j * nx + i].row()[k + 2]);
        }
        answer.maps.push_back(std::move(out));
    }
}

Result<FluxMap> flux_map_of(const Answer& answer) {
    const Map* first = answer.map(columns[0].name);
    if (!first) return Problem{"map", "This answer holds no flux map."};
    std::vector<FluxPoint> points;
    for (std::size_t j = 0; j < first->y.size(); ++j)
        for (std::size_t i = 0; i < first->x.size(); ++i) {
            std::vector<double> row{first->x[i], first->y[j]};
            for (const Column& column : columns) {
                const Map* map = answer.map(column.name);
                if (!map || map->z.size() != first->y.size() || map->z[j].size() != first->x.size())
                    return Problem{"map",
                                   fmt::format("The map {} is missing or of another size.", column.name)};
                row.push_back(map->z[j][i]);
            }
            points.push_back(FluxPoint::from_row(row));
        }
    return FluxMap(first->x, first->y, std::move(points));
}

} // namespace mavlo
