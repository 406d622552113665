#pragma once
// Whole-range questions of switched machines: envelope, efficiency and the angles chosen.

#include "question/linkage_grid.h"

namespace mavlo {

int switched_solves(const Machine& machine, const Inputs& inputs);
Problems switched_efficiency_map(QuestionContext& context);
Problems switched_speed_range(QuestionContext& context);

} // namespace mavlo
