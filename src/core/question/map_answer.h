#pragma once
// Flux maps in answers.

#include "map/flux_map.h"
#include "question/answer.h"

namespace mavlo {

/// Every column of the map as a map of the answer over i_d and i_q.
void add_flux_maps(Answer& answer, const FluxMap& map);
/// The flux map in an answer that add_flux_maps filled; says what is missing.
Result<FluxMap> flux_map_of(const Answer& answer);

} // namespace mavlo
