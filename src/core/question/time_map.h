#pragma once
// The flux map that runs in time take their machine from.

#include "question/flux_grid.h"

namespace mavlo {

std::vector<QuestionInput> time_map_inputs(); ///< map_steps
int time_map_solves(const Machine& machine, const Inputs& inputs);
/// One brought along, one that is kept, or one solved now; currents on both sides of zero, since they swing.
Result<FluxMap> time_map(QuestionContext& context);

} // namespace mavlo
