#pragma once
// Flux maps as files of their own, to be taken elsewhere or brought in.

#include "map/flux_map.h"

#include <filesystem>
#include <optional>

namespace mavlo {

/// Name and unit of each number of FluxPoint::row().
struct FluxColumn {
    const char *name, *unit;
};
const std::array<FluxColumn, FluxPoint::columns>& flux_columns();

/// .csv: a head "id [A],iq [A],…" and one row a point. .h5: data sets /id and /iq, and one of size (iq, id) for
/// every other column, each with its unit as the attribute "unit". Written to a temporary name and renamed.
std::optional<Problem> write_flux_map(const FluxMap& map, const std::filesystem::path& file);

/// Reads either. Columns of losses may be missing (they count as none); flux linkages and torque may not. Fails
/// with a sentence when the points are no whole grid, or i_q does not begin at 0.
Result<FluxMap> read_flux_map(const std::filesystem::path& file);

} // namespace mavlo
