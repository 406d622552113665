#include "question/map_answer.h"

#include "map/flux_map_file.h"

#include <algorithm>
#include <fmt/format.h>
#include <string_view>

namespace mavlo {
namespace {
/// Columns that only a steel with a power law fills.
bool of_power_law(std::size_t column) {
    return std::string_view(flux_columns()[column].name).find("power_law") != std::string_view::npos;
}
bool may_be_missing(std::size_t column) {
    return of_power_law(column) || std::string_view(flux_columns()[column].name).starts_with("common_linkage");
}
} // namespace

void add_flux_maps(Answer& answer, const FluxMap& map) {
    const std::size_t nx = map.id().size();
    const bool power = std::any_of(map.points().begin(), map.points().end(), [](const FluxPoint& p) {
        return !p.iron_stator.has_parts() || !p.iron_rotor.has_parts();
    });
    for (std::size_t k = 2; k < FluxPoint::columns; ++k) {
        if (of_power_law(k) && !power) continue;
        Map out{flux_columns()[k].name, flux_columns()[k].unit, "id", "A", "iq", "A", map.id(), map.iq(), {}};
        for (std::size_t j = 0; j < map.iq().size(); ++j) {
            out.z.emplace_back();
            for (std::size_t i = 0; i < nx; ++i) out.z.back().push_back(map.points()[j * nx + i].row()[k]);
        }
        answer.maps.push_back(std::move(out));
    }
}

Result<FluxMap> flux_map_of(const Answer& answer) {
    const Map* first = answer.map(flux_columns()[2].name);
    if (!first) return Problem{"map", "This answer holds no flux map."};
    std::vector<FluxPoint> points;
    for (std::size_t j = 0; j < first->y.size(); ++j)
        for (std::size_t i = 0; i < first->x.size(); ++i) {
            std::vector<double> row{first->x[i], first->y[j]};
            for (std::size_t k = 2; k < FluxPoint::columns; ++k) {
                const Map* map = answer.map(flux_columns()[k].name);
                if (!map && may_be_missing(k)) {
                    row.push_back(0);
                    continue;
                }
                if (!map || map->z.size() != first->y.size() || map->z[j].size() != first->x.size())
                    return Problem{"map", fmt::format("The map {} is missing or of another size.",
                                                      flux_columns()[k].name)};
                row.push_back(map->z[j][i]);
            }
            points.push_back(FluxPoint::from_row(row));
        }
    return FluxMap(first->x, first->y, std::move(points));
}

} // namespace mavlo
